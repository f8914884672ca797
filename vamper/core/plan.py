"""The whole plan of a job: what every station made of it.

Data goes one way. `set_up_sheet` and `DesignedItem`s come first, the layout is packed from them, and `complete` lays
the pieces and settles the cutter. Pages and cut plans of single sheets follow from a plan, findings from all of it.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from vamper.core.art.picture import Picture
from vamper.core.cutting.plan import CutPlan, plan_cut, smallest_radius
from vamper.core.cutting.setting import CutSetting, settings_for
from vamper.core.design import DesignedItem
from vamper.core.marks.mark import Mark, turned_over
from vamper.core.marks.sheet_marks import marks_bound, marks_for
from vamper.core.printing.bleed import carried_outward
from vamper.core.printing.page import PrintItem, PrintPage, compose_page
from vamper.core.sheet.laid import LaidSheet, lay
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.live_area import LiveArea, cutter_bounds, granted_bound, live_area, printer_bound, spent_bound
from vamper.core.sheet.pack.area_bound import AreaBound
from vamper.core.sheet.pack.groups import bound_of
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.item import Cut
from vamper.core.values.job import Job


@dataclass(frozen=True, slots=True)
class SheetSetup:
    """What every sheet of the job has in common; `first` is the live area of a first sheet that was used before.

    Live areas are as the finished piece reads, as a layout is. Where the files are mirrored, they are the mirror images
    of what the printer, the cutter and the marks leave of the sheet as it is loaded; `marks` are as they are printed,
    `marks_seen` in the frame of the live areas.
    """

    live: LiveArea
    marks: tuple[Mark, ...]
    marks_seen: tuple[Mark, ...]
    first: LiveArea | None = None

    def live_of(self, sheet: int) -> LiveArea:
        return self.first if sheet == 0 and self.first is not None else self.live


@dataclass(frozen=True)
class Plan:
    """`asked` is the job as its maker wants it, `job` as it is really made; `sheets` are the layout's, laid."""

    asked: Job
    job: Job
    setup: SheetSetup
    items: tuple[DesignedItem, ...]
    layout: Layout
    sheets: tuple[LaidSheet, ...]
    settings: dict[Cut, CutSetting]

    @property
    def mirror(self) -> bool:
        """Whether the files are mirrored: decided by the stock's process, never asked."""
        return self.job.stock.mirrored

    @cached_property
    def by_number(self) -> dict[int, DesignedItem]:
        return {item.number: item for item in self.items}

    def item(self, number: int) -> DesignedItem:
        return self.by_number[number]

    @cached_property
    def bound(self) -> AreaBound:
        """What areas allow at best."""
        return bound_of(pack_problem(self.job, self.setup, self.items))

    def sheet_colour(self, sheet: int) -> str | None:
        """The colour of the stock that a sheet is cut from, where drawings are cut one colour a sheet."""
        colours = (self.item(one.item).spec.sheet_colour for one in self.sheets[sheet].placements)
        return next((colour for colour in colours if colour), None)


def set_up_sheet(job: Job) -> SheetSetup:
    """Marks and live area of the sheet of a job as it is made.

    Raises
    ------
    BadInput
        If the sheet is smaller than its marks, or nothing of it is left to work on.
    """
    paper, marks = job.paper, marks_for(job.paper, job.marks)
    bounds = cutter_bounds(paper, job.cutter)
    if job.stock.printable:
        bounds.insert(0, printer_bound(paper, job.printer))
    from_marks = marks_bound(paper, job.marks)
    if from_marks is not None:
        bounds.append(from_marks)
    granted = granted_bound(paper, job.cutter, bounds) if job.for_own_program else None
    if granted is not None:
        bounds.append(granted)
    gone = spent_bound(paper)
    live = live_area(paper, bounds)
    first = live_area(paper, [*bounds, gone]) if gone is not None else None
    if not job.stock.mirrored:
        return SheetSetup(live, marks, marks, first)
    seen = tuple(turned_over(mark, paper) for mark in marks)
    return SheetSetup(live.turned_over(paper), marks, seen, first.turned_over(paper) if first is not None else None)


def pack_problem(job: Job, setup: SheetSetup, items: Sequence[DesignedItem], seed: int = 1) -> PackProblem:
    """What packing is asked for a job as it is made."""
    pieces = tuple(item.piece(job.stock.printable) for item in items)
    first = setup.first.shape if setup.first is not None else None
    return PackProblem(pieces, setup.live.shape, job.packing, seed, first, job.held)


def tightest_mm(items: Sequence[DesignedItem]) -> float:
    """The smallest radius of all edges, mm."""
    return min((smallest_radius(item.edge) for item in items), default=float("inf"))


def complete(asked: Job, job: Job, setup: SheetSetup, items: Sequence[DesignedItem], layout: Layout) -> Plan:
    """Everything that follows from a layout; `job` is `asked` as it is made."""
    sheets = lay(layout, {item.number: item.edge.shape for item in items}, setup.live_of)
    settings = settings_for(job.stock, job.cutter, tightest_mm(items))
    return Plan(asked, job, setup, tuple(items), layout, sheets, settings)


def page_of(plan: Plan, sheet: int) -> PrintPage:
    """The print page of one sheet, as it is printed."""
    items = {
        item.number: PrintItem(item.outline, item.edge, item.spec.edge.stack, item.bleed.width_mm)
        for item in plan.items
    }
    return compose_page(
        plan.job.paper,
        plan.sheets[sheet],
        items,
        plan.setup.marks,
        plan.job.stock.colour,
        plan.mirror,
        not plan.job.cutter.is_machine,
    )


def printed_picture(item: DesignedItem, picture: Picture) -> Picture:
    """What the page shows of an item: its picture, carried past its edge where it bleeds; see `page_of`."""
    if not item.bleed.width_mm:
        return picture
    return carried_outward(picture, item.outline, item.edge, item.bleed.width_mm)


def cut_of(plan: Plan, sheet: int) -> CutPlan:
    """The cut plan of one sheet."""
    cuts = {item.number: item.spec.cut for item in plan.items}
    return plan_cut(plan.job.paper, plan.sheets[sheet], cuts, plan.mirror)
