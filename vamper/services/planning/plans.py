"""Jobs as they are planned: designed by value, laid out as well as was found so far, and told apart from last time."""

import threading
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, replace

from vamper.core.inspect import findings_of
from vamper.core.plan import Plan
from vamper.core.sheet.layout import Layout
from vamper.core.values.findings import BadInput, Finding
from vamper.core.values.job import Job
from vamper.services.design.arts import Arts
from vamper.services.design.designer import Designer
from vamper.services.design.job_design import Design, design_job
from vamper.services.design.kept_designs import KeptDesigns
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.packing.keyed_problem import KeyedProblem
from vamper.services.packing.packing_service import PackingService, PackingStatus
from vamper.services.packing.tables import Table, Tables
from vamper.services.work.cache import Cache
from vamper.services.work.not_found import NotFound

# Jobs as they were planned last; one that nobody changed is not planned again.
_KEPT_JOBS = 24


@dataclass(frozen=True, slots=True)
class Planned:
    """A plan with everything that was found on it, and the packing that it came from."""

    plan: Plan
    findings: tuple[Finding, ...]
    packing: PackingStatus


class Plans:
    """The plans of one workshop's jobs."""

    def __init__(
        self, jobs: Jobs, arts: Arts, designer: Designer, kept: KeptDesigns, packing: PackingService, tables: Tables
    ) -> None:
        self._jobs = jobs
        self._arts = arts
        self._designer = designer
        self._kept = kept
        self._packing = packing
        self._tables = tables
        self._closing = threading.Event()
        self._designs: Cache[tuple[Design, KeyedProblem]] = Cache(_KEPT_JOBS)
        self._plans: Cache[tuple[Plan, tuple[Finding, ...]]] = Cache(_KEPT_JOBS)
        # The plan that was made last of each job, for what lies as it did.
        self._last: dict[int, Plan] = {}

    def close(self) -> None:
        self._closing.set()

    def of(self, state: JobState) -> Planned:
        """The job's plan with its best layout so far; nothing is begun or changed."""
        design, keyed = self.problem(state)
        packing = self._packing.status(state.id, keyed)
        self._tables.put(state.id, packing.layout_id, state.revision, keyed.problem, packing.layout)

        def make() -> tuple[Plan, tuple[Finding, ...]]:
            plan = design.planned(packing.layout, self._last.get(state.id))
            return plan, findings_of(plan)

        plan, findings = self._plans.get((design.asked, packing.layout_id), make)
        self._last[state.id] = plan
        for old in list(self._last)[:-_KEPT_JOBS]:
            self._last.pop(old, None)
        return Planned(plan, findings, packing)

    def latest(self, job_id: int) -> Planned:
        """The plan of a job as it stands."""
        return self.of(self._jobs.get(job_id))

    def as_it_stands(self, job_id: int) -> tuple[JobDocument, Plan]:
        """A job's document with its plan."""
        state = self._jobs.get(job_id)
        return state.document, self.of(state).plan

    def design(self, state: JobState) -> Design:
        """The job with outlines and edges, before packing."""
        return self.problem(state)[0]

    def problem(self, state: JobState) -> tuple[Design, KeyedProblem]:
        """The job's design and what packing is asked, both by the value of the job."""
        job = self._jobs.core_job(state)

        def make() -> tuple[Design, KeyedProblem]:
            design = self.designed(job)
            return design, KeyedProblem.of(design.problem())

        return self._designs.get(job, make)

    def designed(self, job: Job) -> Design:
        """Any job with outlines and edges."""
        return design_job(job, [self._arts.file(item.art) for item in job.items], self._designer)

    def sheet_design(self, state: JobState) -> Design:
        """The job's sheet alone, whatever its art."""
        return design_job(replace(self._jobs.core_job(state), items=(), held=()), [], self._designer)

    def glance(self, state: JobState) -> tuple[Design, Layout]:
        """A job as a list of jobs shows it: its designs and its layout so far."""
        design, keyed = self.problem(state)
        return design, self._packing.status(state.id, keyed).layout

    def table(self, job_id: int, layout_id: str) -> Table:
        """The layout that a maker has in hand; see `Tables`."""
        return self._tables.get(job_id, layout_id, lambda: self.latest(job_id))

    def warm_up(self, first: Callable[[], object]) -> None:
        """After `first`, work out the designs of the jobs that were changed last, so that they open at once."""
        first()
        for summary in self._jobs.all()[:_KEPT_JOBS]:
            if self._closing.is_set():
                return
            # What cannot be planned says so when it is opened.
            with suppress(BadInput, NotFound):
                self.problem(self._jobs.get(summary.id))
        self._kept.write()
