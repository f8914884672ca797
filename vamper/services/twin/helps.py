"""What would help: remedies tried on the sheet of a dry run that suffers most, and what to take after the best of them.

A trial repeats the runs of the sheet with other devices. Most of it is known from trials before: what comes out of the
printer and what the sensor finds on it hang on the printer, where the strokes land on the cutter.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import partial

from vamper.core.twin.devices import Devices, TwinCutter, TwinPrinter
from vamper.core.twin.dry_run import summed_up
from vamper.core.twin.printer import PrintedRaster
from vamper.core.twin.remedies import RemedyTrial, TwinRemedy, remedies_for
from vamper.core.twin.sensor import SightedMark
from vamper.core.twin.simulate import SimulationResult, Wider, simulate_sheet
from vamper.services.twin.dry_runs import DryRunFiles, facts_on, inked, sheet_page

# A remedy that gains less than this is not worth a word.
_WORTH = 0.01
# After the best remedy so many more are looked for, until the sheet is as good as this.
_MOST_THEN, _GOOD_ENOUGH = 3, 0.95

# Called now and then while a trial runs; it may raise to end it.
GoingOn = Callable[[], None]
# A remedy, the runs with it, and where the next one is tried from.
_Helped = tuple[TwinRemedy, SimulationResult, RemedyTrial]


@dataclass(frozen=True, slots=True)
class Chances:
    """The shares of good sheets and good pieces."""

    sheet_good: float
    pieces_good: float


@dataclass(frozen=True, slots=True)
class Helps:
    """Remedies with their trials, best first; and the remedies to take after the best, one
    after the other, with the chances once all before it were taken too.
    """

    each: tuple[tuple[TwinRemedy, Chances], ...] = ()
    then: tuple[tuple[TwinRemedy, Chances], ...] = ()


NOTHING_HELPS = Helps()


def what_helps(found: DryRunFiles, on_tried: Callable[[int, int], None] = lambda _done, _all: None) -> Helps:
    """The remedies that make a dry run better, best first, cheapest first among equals. One trouble may hide another,
    so after the best one it is looked once more.

    Parameters
    ----------
    on_tried : callable
        Told now and then how many of how many trials are done; it may raise `Stopped`.
    """
    trials, taken = _Trials(found), set[str]()
    start = RemedyTrial(found.devices)
    remedies = trials.remedies(start, trials.before, taken)
    of = len(remedies) + _MOST_THEN
    helped = _best_first(
        trials.helped(one, start, trials.before, partial(on_tried, done, of)) for done, one in enumerate(remedies)
    )
    each = tuple((remedy, _chances(runs)) for remedy, runs, _ in helped)
    then = list[tuple[TwinRemedy, Chances]]()
    while helped and len(then) < _MOST_THEN and float(helped[0][1].sheet_good.mean()) < _GOOD_ENOUGH:
        best, runs, trial = helped[0]
        taken.add(best.key)
        going_on = partial(on_tried, len(each) + len(then), len(each) + _MOST_THEN)
        helped = _best_first(trials.helped(one, trial, runs, going_on) for one in trials.remedies(trial, runs, taken))
        then += [(remedy, _chances(after)) for remedy, after, _ in helped[:1]]
    return Helps(each, tuple(then))


class _Trials:
    """Remedies tried on the sheet that suffers most."""

    def __init__(self, found: DryRunFiles) -> None:
        self.before = min(found.sheets, key=lambda sheet: float(sheet.good.mean()))
        self._found = found
        self._sheet = next(place for place, sheet in enumerate(found.sheets) if sheet is self.before)
        self._seen: dict[tuple[TwinPrinter, float], tuple[PrintedRaster | None, SightedMark | None]] = {
            _seen_by(found.devices): (found.pages[self._sheet], self.before.sighted)
        }

    def remedies(self, trial: RemedyTrial, runs: SimulationResult, taken: set[str]) -> list[TwinRemedy]:
        """Remedies that may help against the spoilings of these runs, and were not taken yet."""
        outcome = summed_up(tuple(item.number for item in self._found.plan.items), [runs])
        return [one for one in remedies_for(self._found.plan, trial.devices, outcome) if one.key not in taken]

    def helped(
        self, remedy: TwinRemedy, after: RemedyTrial, before: SimulationResult, going_on: GoingOn
    ) -> _Helped | None:
        """A remedy taken after others, None where it gains nothing."""
        wider = Wider(
            after.wider.border_mm + remedy.trial.wider.border_mm, after.wider.bleed_mm + remedy.trial.wider.bleed_mm
        )
        trial = RemedyTrial(remedy.trial.devices, wider)
        runs = self._run(trial, going_on)
        return (remedy, runs, trial) if _gain(runs, before) > _WORTH else None

    def _run(self, trial: RemedyTrial, going_on: GoingOn) -> SimulationResult:
        found, sheet, devices, facts = self._found, self._sheet, trial.devices, self.before.facts
        going_on()
        page, sighted = self._seen.get(_seen_by(devices), (None, None))
        if page is None:
            page = inked(found.plan, sheet, sheet_page(found.plan, sheet, found.pictures), devices, found.seed)
        if devices.printer != found.devices.printer or _is_led_otherwise(devices.cutter, found.devices.cutter):
            facts = facts_on(found.plan, sheet, found.pictures, page, devices)
        runs = simulate_sheet(
            found.plan, sheet, page, facts, devices, self.before.runs, found.seed, trial.wider, sighted, going_on
        )
        self._seen[_seen_by(devices)] = page, runs.sighted
        return runs


def _seen_by(devices: Devices) -> tuple[TwinPrinter, float]:
    """All that what a sensor finds hangs on; what it makes of it is another matter."""
    return devices.printer, devices.sensor.search_mm


def _best_first(tried: Iterable[_Helped | None]) -> list[_Helped]:
    helped = [one for one in tried if one is not None]
    return sorted(
        helped, key=lambda one: (-round(float(one[1].sheet_good.mean()), 2), -round(float(one[1].good.mean()), 2))
    )


def _gain(after: SimulationResult, before: SimulationResult) -> float:
    sheets = float(after.sheet_good.mean()) - float(before.sheet_good.mean())
    return max(sheets, float(after.good.mean()) - float(before.good.mean()))


def _chances(runs: SimulationResult) -> Chances:
    return Chances(float(runs.sheet_good.mean()), float(runs.good.mean()))


def _is_led_otherwise(one: TwinCutter, other: TwinCutter) -> bool:
    """Whether strokes land elsewhere before anything that differs from run to run."""
    return (one.map, one.drag_mm, one.blocked_share) != (other.map, other.drag_mm, other.blocked_share)
