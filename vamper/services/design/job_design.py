"""A whole job designed from its art files: sheet set up, outlines and edges derived, backs cut to their fronts."""

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

from vamper.core.design import DesignedItem
from vamper.core.effective_job import effective_job
from vamper.core.plan import Plan, SheetSetup, complete, pack_problem, set_up_sheet, worst_miss_mm
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.findings import BadInput
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import Job
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.work.reading_room import SEATS


@dataclass(frozen=True, slots=True)
class Design:
    """A job with everything that comes before packing; `job` is `asked` as it is really made."""

    asked: Job
    job: Job
    setup: SheetSetup
    items: tuple[DesignedItem, ...]

    def problem(self, seed: int = 1) -> PackProblem:
        return pack_problem(self.job, self.setup, self.items, seed)

    def planned(self, layout: Layout, before: Plan | None = None) -> Plan:
        """The plan with a layout; what lies as it did in the plan `before` is not worked out again."""
        return complete(self.asked, self.job, self.setup, self.items, layout, before)


def design_job(asked: Job, arts: Sequence[ArtFile], designer: Designer) -> Design:
    """Sheet and items of a job; `arts` goes with its items one by one.

    Raises
    ------
    BadInput
        For a sheet without live area, too many pieces, or art that cannot be used.
    """
    asked.check_quantity()
    job = effective_job(asked)
    setup = set_up_sheet(job)
    miss_mm = worst_miss_mm(job, setup)

    def design(place: int, spec: ItemSpec, art: ArtFile) -> DesignedItem:
        try:
            return designer.design(spec, art, job.stock)
        except BadInput as bad:
            raise BadInput(bad.sentence, bad.where or f"items.{place}") from None

    # As many at once as can be read at once.
    with ThreadPoolExecutor(SEATS) as at_once:
        items = list(at_once.map(design, range(len(job.items)), job.items, arts))
    fronts = {item.number: item for item in items}
    backs = (
        item if item.spec.back_of is None else designer.as_back(item, fronts[item.spec.back_of], art, job.stock)
        for item, art in zip(items, arts, strict=True)
    )
    return Design(asked, job, setup, tuple(item.missing_by(miss_mm) for item in backs))
