"""Sheets that were really made of a job: a cut logged with what followed from it, and the same job made once more."""

from collections.abc import Mapping
from dataclasses import replace

from vamper.core.plan import metres_of
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.run_seen import MarksSeen
from vamper.core.values.tried import Outcome, SetThen
from vamper.services.jobs.job_state import JobState, check_real
from vamper.services.jobs.jobs import Jobs
from vamper.services.jobs.jobs import again as titled_again
from vamper.services.ledger.logging import AS_PROPOSED, WasSetAs
from vamper.services.ledger.made_sheets import MadeSheets
from vamper.services.ledger.runs import Runs
from vamper.services.packing.packing_service import PackingService
from vamper.services.planning.plans import Plans


class Making:
    """The making of one workshop's jobs."""

    def __init__(self, jobs: Jobs, plans: Plans, packing: PackingService, runs: Runs, made: MadeSheets) -> None:
        self._jobs = jobs
        self._plans = plans
        self._packing = packing
        self._runs = runs
        self._made = made

    def log_run(
        self,
        state: JobState,
        sheets: int,
        outcomes: Mapping[Cut, Outcome],
        was_set: WasSetAs = AS_PROPOSED,
        read: MarksSeen | None = None,
    ) -> None:
        """So many sheets of a job were cut, and this is what they look like: the belief, the blade and the mat follow.

        Raises
        ------
        BadInput
            If nothing lies on a sheet, or an outcome is none that this cut can have.
        """
        check_real(state)
        plan = self._plans.of(state).plan
        if not plan.sheets:
            raise BadInput("nothing lies on a sheet yet, so nothing was cut; add art first", "items")
        each = [metres_of(plan, sheet) for sheet in range(len(plan.sheets))]
        self._made.keep_cut(plan, state.document, sheets, outcomes, sum(each) / len(each) * sheets, was_set, read)

    def again(self, run_id: int, sheets: int) -> int:
        """A new job, exactly as that of a run was handed over: its layout, its counts and what was set, on so many
        sheets. Settings that did not cut as they should are not kept; those follow what was learnt.

        Raises
        ------
        BadInput
            If the run came without its plan, or a machine or its stock is no longer in the workshop.
        """
        kept = self._runs.get(run_id)
        handed = self._made.handed_of(kept)
        if handed is None:
            raise BadInput("the plan of this run is not kept; open its job and copy it, or begin a new one", "run")
        # What a machine was set to by name follows from what was clean, and is not a force.
        by_force = handed.plan.job.cutter.is_machine and not handed.plan.job.cutter.has_own_program
        then = tuple(SetThen(cut, one.force_gf, one.passes) for cut, one in handed.plan.settings.items())
        document = replace(
            handed.document,
            title=titled_again(handed.document.title),
            copies=sheets,
            set_then=then if by_force and kept.run.cut_is_good else (),
        )
        job_id = self._jobs.add(document)
        self._packing.adopt(job_id, self._plans.problem(self._jobs.get(job_id))[1], handed.plan.layout)
        return job_id
