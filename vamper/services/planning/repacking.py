"""Packing as a maker asks for it: begun, begun again, and scaled to fill so many sheets."""

from vamper.core.sheet.layout import Layout
from vamper.core.values.findings import BadInput
from vamper.services.design.kept_designs import KeptDesigns
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.packing.by_hand import ByHand
from vamper.services.packing.packing_service import PackingService, PackingState, PackingStatus
from vamper.services.packing.scaling import Scaling, ScalingService, scaled_document
from vamper.services.planning.plans import Plans

_UNFINISHED = (PackingState.STOPPED, PackingState.INTERRUPTED, PackingState.BROKEN)


class Repacking:
    """Searches for layouts of one workshop's jobs."""

    def __init__(
        self,
        jobs: Jobs,
        plans: Plans,
        packing: PackingService,
        by_hand: ByHand,
        scalings: ScalingService,
        kept: KeptDesigns,
    ) -> None:
        self._jobs = jobs
        self._plans = plans
        self._packing = packing
        self._by_hand = by_hand
        self._scalings = scalings
        self._kept = kept

    def begin(self, state: JobState) -> PackingStatus:
        """Search for a layout of the job as it is, in the background, unless that was done or is being done."""
        keyed = self._plans.problem(state)[1]
        self._kept.write()
        return self._packing.begin(state.id, keyed)

    def again(self, state: JobState, everything: bool = False) -> None:
        """Pack what is not placed by hand, or everything that is not locked.

        Where that brings a layout back that was searched to its end, it is there at once; a layout whose search was
        stopped is searched on from another seed, and so is a layout from which nothing had to be released.
        """
        released = self._by_hand.release(state.id, everything)
        design, keyed = self._plans.problem(released)
        if not design.items:
            raise BadInput("there is nothing to pack yet; add art first", "items")
        if released.document == state.document or self._packing.status(state.id, keyed).state in _UNFINISHED:
            self._packing.restart(state.id, keyed)
        else:
            self._packing.begin(state.id, keyed)

    def scale_to_fill(self, state: JobState, sheets: int) -> Scaling:
        """Look for the largest common scale at which everything fits on so many sheets; then it is the job's."""

        def keep(factor: float, layout: Layout) -> None:
            after = self._jobs.edit(
                state.id,
                f"scale to {factor * 100:.0f} %",
                lambda document: scaled_document(document, factor, sheets),
                on=state.revision,
            )
            self._packing.adopt(state.id, self._plans.problem(after)[1], layout)

        return self._scalings.start(state.id, self._jobs.core_job(state), sheets, self._plans.designed, keep)
