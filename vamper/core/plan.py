"""The whole plan of a job: what every station made of it.

Data goes one way. `set_up_sheet` and `DesignedItem`s come first, the layout is packed from them, and `complete` lays
the pieces and settles the cutter. Pages and cut plans of single sheets follow from a plan, findings from all of it.
"""

from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import shapely

from vamper.core.art.picture import Picture
from vamper.core.cutting.cut_history import CutHistory
from vamper.core.cutting.plan import CutLoop, CutPlan, Timed, Timing, plan_cut
from vamper.core.cutting.setting import CutSetting, EdgeDetail, loop_speed_mm_s, most_passes, settings_for
from vamper.core.design import DesignedItem
from vamper.core.marks.budget import ErrorBudget, Floats, budget_of, farthest_mm
from vamper.core.marks.mark import Mark, turned_over
from vamper.core.marks.reading import MarkReading, reading_of
from vamper.core.marks.sheet_marks import marks_bound, marks_for
from vamper.core.printing.bleed import carried_outward
from vamper.core.printing.page import PrintItem, PrintPage, compose_page
from vamper.core.printing.page_box import page_for
from vamper.core.printing.pair_numbers import pair_numbers
from vamper.core.printing.proof import job_line
from vamper.core.sheet.laid import LaidSheet, lay
from vamper.core.sheet.layout import Layout, WhyNot
from vamper.core.sheet.live_area import LiveArea, accepted_bound, cutter_bounds, live_area, printer_bound, spent_bound
from vamper.core.sheet.pack.area_bound import AreaBound
from vamper.core.sheet.pack.groups import bound_of
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.cut import Cut
from vamper.core.values.drawing import Drawing
from vamper.core.values.geometry import mirrored
from vamper.core.values.job import Job


@dataclass(frozen=True, slots=True)
class SheetSetup:
    """The setup that all sheets of a job have in common; `first` is the live area of a first sheet that was used
    before.

    Live areas are as the finished piece reads, as a layout is. Where the files are mirrored, they are the mirror images
    of what the printer, the cutter and the marks leave of the sheet as it is loaded; `marks` are as they are printed,
    `marks_seen` and the `budget` of misses in the frame of the live areas.
    """

    live: LiveArea
    marks: tuple[Mark, ...]
    marks_seen: tuple[Mark, ...]
    budget: ErrorBudget
    first: LiveArea | None = None

    def live_of(self, sheet: int) -> LiveArea:
        return self.first if sheet == 0 and self.first is not None else self.live


@dataclass(frozen=True)
class Plan:
    """A job worked out: what is printed and cut, and where everything lies.

    Parameters
    ----------
    asked : Job
        The job as its maker wants it.
    job : Job
        The job as it is really made: with its laminate part of the face, its shrink allowed for, and so on.
    setup : SheetSetup
        The sheet's areas and marks.
    items : tuple of DesignedItem
        The designs with their edges.
    layout : Layout
        Which piece lies where.
    sheets : tuple of LaidSheet
        The layout's sheets, laid.
    settings : dict of Cut to CutSetting
        Force and passes of each cut that occurs.
    """

    asked: Job
    job: Job
    setup: SheetSetup
    items: tuple[DesignedItem, ...]
    layout: Layout
    sheets: tuple[LaidSheet, ...]
    settings: dict[Cut, CutSetting]

    @property
    def mirror(self) -> bool:
        """Whether the files are mirrored: decided by the process, never asked."""
        return self.job.mirrored

    @cached_property
    def reading(self) -> MarkReading | None:
        """Whether its marks will be read; None where nothing looks for any."""
        return reading_of(self.job)

    @property
    def budget(self) -> ErrorBudget:
        """The error budget of its cuts."""
        return self.setup.budget

    def misses_mm(self, sheet: int) -> Floats:
        """The miss that 95 of 100 stay under of each piece of a sheet (from 0), at its farthest edge point."""
        return _misses(
            self.sheets[sheet], self.setup.budget, {item.number: item.spec.cut for item in self.items}, self.settings
        )

    @cached_property
    def by_number(self) -> dict[int, DesignedItem]:
        return {item.number: item for item in self.items}

    def item(self, number: int) -> DesignedItem:
        return self.by_number[number]

    @cached_property
    def bound(self) -> AreaBound:
        """The bound that areas set on pieces that go on a sheet at all, with the extra copies that were laid."""
        problem = pack_problem(self.job, self.setup, self.items)
        too_big = {one.item for one in self.layout.unplaced if one.reason is WhyNot.TOO_BIG}
        laid = Counter(one.item for sheet in self.layout.sheets for one in sheet)
        pieces = tuple(
            replace(piece, quantity=max(piece.quantity, laid[piece.item]))
            for piece in problem.pieces
            if piece.item not in too_big
        )
        return bound_of(replace(problem, pieces=pieces))

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
    granted = accepted_bound(paper, job.cutter, bounds) if job.for_own_program and job.stock.printable else None
    if granted is not None:
        bounds.append(granted)
    gone = spent_bound(paper)
    live = live_area(paper, bounds)
    first = live_area(paper, [*bounds, gone]) if gone is not None else None
    if not job.mirrored:
        return SheetSetup(live, marks, marks, budget_of(job, marks), first)
    seen = tuple(turned_over(mark, paper) for mark in marks)
    turned = first.turned_over(paper) if first is not None else None
    return SheetSetup(live.turned_over(paper), marks, seen, budget_of(job, seen), turned)


def worst_miss_mm(job: Job, setup: SheetSetup) -> float:
    """The greatest likely miss of a piece of a job as it is made, wherever it comes to lie and however it is cut."""
    passes = most_passes(job.stock, job.cutter, CutHistory.of(job))
    corners = shapely.get_coordinates(setup.live.shape.convex_hull)
    return round(float(setup.budget.miss_mm(corners, passes).max()), 3)


def _misses(
    sheet: LaidSheet, budget: ErrorBudget, cuts: Mapping[int, Cut], settings: Mapping[Cut, CutSetting]
) -> Floats:
    passes = [settings[cuts[one.item]].passes for one in sheet.placements]
    return farthest_mm(budget, sheet.edges, np.array(passes))


def pack_problem(job: Job, setup: SheetSetup, items: Sequence[DesignedItem], seed: int = 1) -> PackProblem:
    """The problem that packing is given for a job as it is made."""
    pieces = tuple(item.piece(job.stock.printable) for item in items)
    first = setup.first.shape if setup.first is not None else None
    return PackProblem(pieces, setup.live.shape, job.packing, seed, first, job.held)


def detail_of(items: Sequence[DesignedItem]) -> EdgeDetail:
    """How fine the edges of designs are, by the median design."""
    if not items:
        return EdgeDetail()
    radii = sorted(item.edge.smallest_radius_mm for item in items)
    easiest = max(radius for item in items for part in item.edge.radii_mm for radius in part)
    return EdgeDetail(radii[len(radii) // 2], easiest, any(item.edge_facts.necks for item in items))


def complete(
    asked: Job,
    job: Job,
    setup: SheetSetup,
    items: Sequence[DesignedItem],
    layout: Layout,
    before: Plan | None = None,
) -> Plan:
    """Everything that follows from a layout; `job` is `asked` as it is made, `before` a plan of the same job, of which
    what lies as it did is kept.
    """
    edges = {item.number: item.edge.shape for item in items}
    thin = {item.number: item.edge.thin for item in items}
    sheets = lay(layout, edges, setup.live_of, thin, before.sheets if before is not None else ())
    settings = settings_for(job.stock, job.cutter, detail_of(items), CutHistory.of(job))
    most = _most_missed(sheets, setup.budget, items, settings)
    missed = tuple(item.missing_by(most.get(item.number, item.miss_mm)) for item in items)
    return Plan(asked, job, setup, missed, layout, sheets, settings)


def _most_missed(
    sheets: Sequence[LaidSheet],
    budget: ErrorBudget,
    items: Sequence[DesignedItem],
    settings: Mapping[Cut, CutSetting],
) -> dict[int, float]:
    """The largest miss of the pieces of each design that lies somewhere: as far as its bleed must reach."""
    cuts = {item.number: item.spec.cut for item in items}
    most: dict[int, float] = {}
    for sheet in {id(sheet.lying): sheet for sheet in sheets}.values():
        for one, miss in zip(sheet.placements, _misses(sheet, budget, cuts, settings).tolist(), strict=True):
            most[one.item] = max(most.get(one.item, 0.0), round(miss, 3))
    return most


def page_of(plan: Plan, sheet: int, line: str = "") -> PrintPage:
    """The print page of one sheet, as it is printed; `line` is the text of its job line, where it has a job line."""
    items = {
        item.number: PrintItem(item.outline, item.edge, item.spec.edge.stack, item.bleed.width_mm)
        for item in plan.items
    }
    page = compose_page(
        plan.job.paper,
        plan.sheets[sheet],
        items,
        plan.setup.marks,
        plan.job.stock.colour,
        plan.mirror,
        not plan.job.cutter.is_machine,
    )
    page = replace(page, box=page_for(plan.job.paper, plan.job.printer), scale=plan.job.printer.scale)
    numbered = _numbered_pairs(plan, sheet)
    if numbered is not None:
        page = replace(page, over=(numbered,))
    if not line:
        return page
    live = plan.sheets[sheet].live.shape
    drawn = job_line(page, mirrored(live, plan.job.paper.width_mm) if plan.mirror else live, line)
    return page if drawn is None else replace(page, over=(*page.over, drawn))


def _numbered_pairs(plan: Plan, sheet: int) -> Drawing | None:
    """The numbers of what goes onto one blank, both sides or all prints of a product; None where there are none, or no
    rim to print them in.
    """
    blank = plan.asked.finish.blank
    backs = {item.spec.back_of for item in plan.items} - {None}
    together = {number for one in plan.asked.products if len(one.items) > 1 for number in one.items}
    if blank is None or not blank.past_mm or not (backs or together):
        return None
    paired = [item for item in plan.items if item.number in backs | together or item.spec.back_of is not None]
    boxes = {item.number: item.edge.shape.bounds for item in paired}
    before = Counter(one.item for earlier in plan.sheets[:sheet] for one in earlier.placements)
    return pair_numbers(plan.job.paper, plan.sheets[sheet].placements, before, boxes, blank.past_mm, plan.mirror)


def proof_of(plan: Plan, sheet: int) -> PrintPage:
    """The page of one sheet as a proof: its cut lines are printed."""
    return replace(page_of(plan, sheet), lines=tuple(loop.points for loop in cut_of(plan, sheet).loops))


def printed_picture(item: DesignedItem, picture: Picture) -> Picture:
    """The picture of an item on the page, carried past its edge where it bleeds; see `page_of`."""
    if not item.bleed.width_mm:
        return picture
    return carried_outward(picture, item.outline, item.edge, item.bleed.width_mm)


def cut_of(plan: Plan, sheet: int) -> CutPlan:
    """The cut plan of one sheet."""
    cuts = {item.number: item.spec.cut for item in plan.items}
    tabs = {item.number: item.spec.tabs for item in plan.items}
    radii = {item.number: item.edge.radii_mm for item in plan.items}
    return plan_cut(plan.job.paper, plan.sheets[sheet], cuts, plan.mirror, tabs, radii)


def speed_of(plan: Plan) -> Callable[[CutLoop], float]:
    """The speed of each loop, by its own tightest bend."""
    return lambda loop: loop_speed_mm_s(plan.job.stock, plan.job.cutter, loop.radius_mm)


def timing_of(plan: Plan, cut: CutPlan) -> Timing:
    """How long a cut plan of this job takes at the machine."""
    return cut.timing(_passes(plan), speed_of(plan), plan.job.overcut_mm, len(plan.setup.marks))


def timed_runs(plan: Plan, cut: CutPlan) -> Iterator[Timed]:
    """Every run of a cut plan of this job, with when it begins and ends."""
    return cut.timed(_passes(plan), speed_of(plan), plan.job.overcut_mm, len(plan.setup.marks))


def metres_of(plan: Plan, sheet: int) -> float:
    """The blade metres of one sheet, times abrasion; see `values.blade`."""
    items = (plan.item(one.item) for one in plan.sheets[sheet].placements)
    length = sum(item.edge.length_mm * plan.settings[item.spec.cut].passes for item in items)
    return length / 1000 * plan.job.stock.abrasion


def _passes(plan: Plan) -> dict[Cut, int]:
    return {kind: setting.passes for kind, setting in plan.settings.items()}


def cut_as_sent(plan: Plan, sheet: int) -> CutPlan:
    """The cut plan of one sheet as it is sent to the cutter, by the inverse of the distortion that its calibration
    found.
    """
    nominal = cut_of(plan, sheet)
    return nominal if plan.job.calibration is None else nominal.moved(plan.job.calibration.corrected)
