"""Jobs on the simulated devices: run dry in the background, made on the practice bench, and drawn as samples."""

from collections.abc import Callable

from vamper.core.plan import Plan
from vamper.core.twin.scan import Pixels
from vamper.core.values.cutter import Route
from vamper.services.design.item_pictures import ItemPictures
from vamper.services.handoff.drafts import Pictures
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.planning.plans import Plans
from vamper.services.planning.repacking import Repacking
from vamper.services.shop.shop import Shop
from vamper.services.twin.dry_run_service import DryRunRequest, DryRunService, DryRunStatus
from vamper.services.twin.practice import practice_drop, practice_machines, practice_vernier
from vamper.services.work.cache import Cache
from vamper.services.work.not_found import NotFound


class Simulations:
    """The simulated devices of one workshop at work on its jobs."""

    def __init__(
        self,
        jobs: Jobs,
        plans: Plans,
        repacking: Repacking,
        dry_runs: DryRunService,
        pictures: ItemPictures,
        shop: Shop,
    ) -> None:
        self._jobs = jobs
        self._plans = plans
        self._repacking = repacking
        self._dry_runs = dry_runs
        self._pictures = pictures
        self._shop = shop
        self._verniers: Cache[Pixels] = Cache(1)

    def begin_dry_run(self, job_id: int, asked: DryRunRequest) -> DryRunStatus:
        """Run a job dry, in the background, once its packing has ended; where nobody has packed it yet, that begins."""
        self._repacking.begin(self._jobs.get(job_id))

        def latest() -> tuple[Plan, bool]:
            now = self._plans.latest(job_id)
            return now.plan, now.packing.is_under_way

        return self._dry_runs.begin(job_id, latest()[0], self._pictures.shown, asked, latest)

    def sample(self, state: JobState, sheet: int, draw: Callable[[Plan, int, Pictures], Pixels]) -> Pixels:
        """A sample picture of a sheet of the plan (from 0)."""
        return draw(self._plans.of(state).plan, sheet, self._pictures.shown)

    def practise(self, job_id: int) -> None:
        """Make a job on the workshop's simulated machines."""
        now = self._shop.cutters.all().get(self._jobs.get(job_id).document.cutter_id)
        route = Route.FILES if now is None else now.value.route
        printer, cutter = practice_machines(self._shop, route=route)
        self._jobs.change(job_id, "practice bench", {"printer_id": printer, "cutter_id": cutter})

    def vernier(self, state: JobState) -> Pixels:
        """The vernier sheet of a job as its practice machines made it."""
        plan = self._plans.of(state).plan
        key = (plan.job.paper, plan.job.marks, plan.job.printer, plan.job.cutter, plan.job.stock)
        return self._verniers.get(key, lambda: practice_vernier(plan))

    def drop(self, state: JobState, record_id: int, drop: int) -> Pixels:
        """One drop of a ladder as the practice cutter cut it."""
        plan = self._plans.of(state).plan
        record = self._shop.tried.get(record_id)
        if not 0 <= drop < len(record.drops):
            raise NotFound("this ladder has no such drop")
        return practice_drop(plan, record.cut, record.drops[drop], drop)
