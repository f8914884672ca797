"""What trials and runs have taught of a stock on a machine, and what the maker decided of its cut."""

from dataclasses import dataclass

from vamper.core.cutting.known_outcomes import KnownOutcome, holds_now, newest_of_each
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter
from vamper.core.values.job import Job
from vamper.core.values.tried import Outcome, SetThen, Try


@dataclass(frozen=True, slots=True)
class CutHistory:
    """The outcomes known of a stock on a machine.

    Parameters
    ----------
    tries, runs : tuple of Try
        Trial cuts, and runs with a known force.
    blade : BladeIn or None
        The blade in the machine.
    passes : int or None
        Passes that the maker wants; None leaves them to the proposal.
    then : tuple of SetThen
        The settings of the run that is made again exactly.
    steep_at_hand : bool
        Whether a steep blade lies in the drawer.
    """

    tries: tuple[Try, ...] = ()
    runs: tuple[Try, ...] = ()
    blade: BladeIn | None = None
    passes: int | None = None
    then: tuple[SetThen, ...] = ()
    steep_at_hand: bool = False

    @classmethod
    def of(cls, job: Job) -> "CutHistory":
        runs = tuple(one for run in job.runs if (one := run.as_try(job.stock)) is not None)
        return cls(job.tries, runs, job.blade, job.passes, job.set_then, job.steep_at_hand)

    def set_then(self, cut: Cut, cutter: Cutter) -> SetThen | None:
        """The settings of a cut in the run that is made again, as far as this machine can be set so."""
        found = next((one for one in self.then if one.cut is cut), None)
        return found if found is not None and cutter.force_gf.min <= found.force_gf <= cutter.force_gf.max else None

    @property
    def takes_steep(self) -> bool:
        """Whether a steep blade is worth a word: there is such a blade, or the usual blade tore."""
        tore = any(
            one.outcome is Outcome.TORN and one.blade in (None, Blade.GENERAL) for one in (*self.tries, *self.runs)
        )
        return self.steep_at_hand or tore

    @property
    def has_seen(self) -> bool:
        return any(one.outcome is not Outcome.TORN for one in (*self.tries, *self.runs))

    def outright(self, cut: Cut, blade: Blade, sharpness: float) -> tuple[KnownOutcome, ...]:
        """The outcomes told of this cut with this blade that still bind."""
        return newest_of_each(
            KnownOutcome(one.force_gf, one.passes, one.outcome)
            for one in (*self.tries, *self.runs)
            if one.cut in (None, cut)
            and one.blade in (None, blade)
            and (one.metres is None or holds_now(one.outcome, one.metres, sharpness))
        )


NOTHING_KNOWN = CutHistory()
