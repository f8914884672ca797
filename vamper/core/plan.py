"""The whole plan of a job: what every station made of it, and everything that was found on the way.

Data goes one way. `set_up_sheet` and `DesignedItem`s come first, the layout is packed from them, and `complete`
draws the settings, the bound and the findings together. Pages and cut plans of single sheets follow from a plan.
"""

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from vamper.core.art.colours import colour_findings
from vamper.core.art.inspect import ArtFacts, art_findings, place_of, size_fix
from vamper.core.art.outline import Outline, scaled
from vamper.core.art.picture import Picture
from vamper.core.cutting.plan import CutItem, CutPlan, plan_cut, smallest_radius
from vamper.core.cutting.setting import (
    CutSetting,
    cut_findings,
    effective_cut,
    kiss_without_backing,
    propose,
)
from vamper.core.edge.by_hand import hand_findings
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.inspect import EdgeFacts, edge_findings
from vamper.core.findings import BadInput, Finding, Fix, FixTarget, Severity, most_serious_first
from vamper.core.geometry import as_multi, grow, parts
from vamper.core.job import (
    MOST_PIECES,
    Cut,
    ItemSpec,
    Job,
    MarkFamily,
    MarksSpec,
    PackingMode,
    PackingSpec,
    Purpose,
    SizeSpec,
)
from vamper.core.marks.families import Mark, marks_bound, marks_findings, marks_for, turned_over
from vamper.core.printing.bleed import Bleed, bleed_findings, carried_outward
from vamper.core.printing.page import PrintItem, PrintPage, compose_page
from vamper.core.sheet.bound import AreaBound
from vamper.core.sheet.layout import Breach, Layout, Piece, Placement, WhyNot, breaches
from vamper.core.sheet.live_area import LiveArea, cutter_bounds, live_area, printer_bound, spent_bound
from vamper.core.sheet.offcut import Rectangle, largest_offcut
from vamper.core.sheet.packing import PackProblem, bound_of
from vamper.core.sheet.turns import best_turn
from vamper.core.stocks import Stock

SPARSE_SHARE = 0.4
# What packing makes of a sheet without much searching; says how many more would go on a sparse one.
SPARSE_FILL = 0.6
# A largest size is looked for on an outline of few points, to a tenth of a millimetre.
_ROUGH_MM = 0.1
_FITTING_STEPS = 16
# How far a back's art may reach beyond the blank before anybody sees it.
BACK_TOLERANCE_MM = 0.3


@dataclass(frozen=True, slots=True)
class DesignedItem:
    """An item with its outline and edge, what was seen on it, and its bleed. `size` is that of its inked area, from
    which its picture can be had again: pixels take too much room to be kept with every design.
    """

    index: int
    spec: ItemSpec
    size: SizeSpec
    outline: Outline
    edge: Edge
    facts: ArtFacts
    edge_facts: EdgeFacts
    bleed: Bleed


@dataclass(frozen=True, slots=True)
class SheetSetup:
    """What every sheet of the job has in common; `first` is the live area of a first sheet that was used before.

    Live areas are as the finished piece reads, as a layout is. Where the files are mirrored, they are the mirror images
    of what the printer, the cutter and the marks leave of the sheet as it is loaded; `marks` are as they are printed.
    """

    live: LiveArea
    marks: tuple[Mark, ...]
    findings: tuple[Finding, ...]
    first: LiveArea | None = None

    def marks_seen(self, job: Job) -> tuple[Mark, ...]:
        """The marks in the frame of the live areas."""
        return tuple(turned_over(mark, job.paper) for mark in self.marks) if job.stock.mirrored else self.marks

    def live_of(self, sheet: int) -> LiveArea:
        return self.first if sheet == 0 and self.first is not None else self.live


@dataclass(frozen=True, slots=True)
class Plan:
    job: Job
    setup: SheetSetup
    items: tuple[DesignedItem, ...]
    layout: Layout
    bound: AreaBound
    settings: dict[Cut, CutSetting]
    findings: tuple[Finding, ...]

    @property
    def mirror(self) -> bool:
        """Whether the files are mirrored: decided by the stock's process, never asked."""
        return self.job.stock.mirrored

    @property
    def has_stop(self) -> bool:
        return any(finding.severity is Severity.STOP for finding in self.findings)

    def used_share(self, sheet: int) -> float:
        """Share of the live area that the edges on a sheet cover."""
        areas = {item.index: item.edge.shape.area for item in self.items}
        return float(sum(areas[p.item] for p in self.layout.sheets[sheet]) / self.setup.live_of(sheet).area_mm2)

    def offcut(self, sheet: int) -> Rectangle:
        """The largest rectangle of a sheet that no piece reaches into."""
        shapes = {item.index: item.edge.shape for item in self.items}
        placed = [one.of(shapes[one.item]) for one in self.layout.sheets[sheet]]
        return largest_offcut(self.setup.live_of(sheet).shape, placed, self.job.packing.gap_mm)


def set_up_sheet(job: Job) -> SheetSetup:
    """Marks and live area of the job's sheet.

    Raises
    ------
    BadInput
        If the sheet is smaller than its marks, or nothing of it is left to work on.
    """
    spec = effective_marks(job)
    marks = marks_for(job.paper, spec)
    paper = job.paper
    printable = printer_bound(job.paper, job.printer)
    bounds = [*cutter_bounds(job.paper, job.cutter)]
    if job.stock.printable:
        bounds.insert(0, printable)
    from_marks = marks_bound(job.paper, spec)
    if from_marks is not None:
        bounds.append(from_marks)
    gone = spent_bound(paper)
    live = live_area(paper, bounds)
    first = live_area(paper, [*bounds, gone]) if gone is not None else None
    if job.stock.mirrored:
        live, first = live.turned_over(paper), first.turned_over(paper) if first is not None else None
    return SheetSetup(live, marks, tuple(marks_findings(paper, spec, printable)), first)


def effective_marks(job: Job) -> MarksSpec:
    """No marks where nothing is printed, or nothing looks for them."""
    if job.stock.printable and job.cutter.is_machine:
        return job.marks
    return replace(job.marks, family=MarkFamily.NONE)


def effective_packing(job: Job) -> PackingSpec:
    """Straight rows where the sheet is cut by hand."""
    return job.packing if job.cutter.is_machine else replace(job.packing, mode=PackingMode.TIDY)


def check_quantity(job: Job) -> None:
    """Raise `BadInput` if the job asks for more pieces than can be planned."""
    total = sum(item.quantity for item in job.items)
    if total > MOST_PIECES:
        raise BadInput(f"{total} pieces are more than the {MOST_PIECES} that one job can hold; split it", "items")


def pack_problem(job: Job, setup: SheetSetup, items: Sequence[DesignedItem], seed: int = 1) -> PackProblem:
    """What packing is asked. A stock without backing is cut through, whatever was asked for."""
    pieces = tuple(
        Piece(
            item.index,
            item.edge.shape,
            item.spec.quantity,
            effective_cut(job.stock, item.spec.cut),
            item.bleed.width_mm if job.stock.printable else 0.0,
            item.spec.turn,
            item.spec.wish,
            item.spec.sheet_colour,
        )
        for item in items
    )
    first = setup.first.shape if setup.first is not None else None
    return PackProblem(pieces, setup.live.shape, effective_packing(job), seed, first, job.held)


def proposed_settings(job: Job, items: Sequence[DesignedItem]) -> dict[Cut, CutSetting]:
    """Settings for every cut that the stock allows, for the tightest bend among the edges."""
    return settings_for(job, tightest_mm(items))


def tightest_mm(items: Sequence[DesignedItem]) -> float:
    """The smallest radius of all edges, mm."""
    return min((smallest_radius(item.edge) for item in items), default=float("inf"))


def settings_for(job: Job, radius: float) -> dict[Cut, CutSetting]:
    """Settings for every cut that the stock allows, for edges with that smallest radius (mm)."""
    cuts = [cut for cut in Cut if effective_cut(job.stock, cut) is cut]
    return {cut: propose(job.stock, cut, job.cutter, radius) for cut in cuts}


def complete(job: Job, setup: SheetSetup, items: Sequence[DesignedItem], layout: Layout) -> Plan:
    """Everything that follows from a layout."""
    problem = pack_problem(job, setup, items)
    settings = proposed_settings(job, items)
    plan = Plan(
        job,
        setup,
        tuple(items),
        layout,
        bound_of(problem),
        settings,
        (),
    )
    return replace(plan, findings=tuple(most_serious_first(_all_findings(plan, problem))))


def _all_findings(plan: Plan, problem: PackProblem) -> list[Finding]:
    job, found = plan.job, list(plan.setup.findings)
    for item in plan.items:
        found += item_findings(item, job.purpose, job.stock)
    found += _unplaced(plan, problem)
    for number, sheet in enumerate(plan.layout.sheets):
        live = problem.live_of(number)
        found += [
            _breach(breach, sheet, number) for breach in breaches(sheet, problem.by_item, live, job.packing.gap_mm)
        ]
    found += _sparse(plan)
    found += _pairs(plan)
    if not job.cutter.is_machine:
        for item in plan.items:
            found += hand_findings(smallest_radius(item.edge), item.index)
        return found + _print_findings(plan)
    used = {effective_cut(job.stock, item.spec.cut) for item in plan.items}
    for cut in sorted(used):
        found += cut_findings(plan.settings[cut], job.stock, job.cutter)
    found += kiss_without_backing(job.stock, tuple(i.index for i in plan.items if i.spec.cut is Cut.KISS))
    return found + _print_findings(plan)


def _breach(breach: Breach, sheet: Sequence[Placement], number: int) -> Finding:
    """A broken rule of a layout; only hands break one."""
    code, title, text = "sheet.outside", "Outside the live area", "A piece sticks out of what can be printed and cut."
    if breach.second is not None and breach.distance_mm == 0:
        code, title, text = "sheet.overlap", "Two pieces overlap", "The blade would cut into both of them."
    elif breach.second is not None:
        code, title = "sheet.gap", "Too near each other"
        text = f"Two pieces are {breach.distance_mm:.2f} mm apart; {breach.needed_mm:g} are needed."
    return Finding(
        code,
        Severity.STOP,
        title,
        text,
        {"distance_mm": round(breach.distance_mm, 3), "needed_mm": breach.needed_mm},
        item=sheet[breach.first].item,
        sheet=number,
    )


def _pairs(plan: Plan) -> list[Finding]:
    """Fronts and backs that do not come in pairs, or whose art does not fit the blank's other side."""
    found: list[Finding] = []
    counts = Counter(placement.item for sheet in plan.layout.sheets for placement in sheet)
    for item in plan.items:
        if item.spec.back_of is None:
            continue
        front = plan.items[item.spec.back_of]
        wanted = front.spec.quantity
        if item.spec.quantity != wanted or counts[item.index] != counts[front.index]:
            fixes: tuple[Fix, ...] = ()
            if item.spec.quantity != wanted:
                fixes = (Fix(f"{wanted} backs", "as many as fronts", FixTarget.ITEM, {"quantity": wanted}),)
            found.append(
                Finding(
                    "sheet.front-back",
                    Severity.STOP,
                    "Fronts and backs do not pair up",
                    f"{counts[front.index]} fronts and {counts[item.index]} backs are on the sheets; each blank needs "
                    "one of both.",
                    {"fronts": counts[front.index], "backs": counts[item.index]},
                    item=item.index,
                    fixes=fixes,
                )
            )
        if item.edge.least_border_mm < -BACK_TOLERANCE_MM:
            found.append(
                Finding(
                    "sheet.front-back",
                    Severity.LOOK,
                    "The back's art sticks out of the blank",
                    f"Turned over, the blank's edge runs {-item.edge.least_border_mm:.1f} mm inside this "
                    "art; what sticks out is cut away. A smaller art, or a symmetric front edge, keeps it whole.",
                    {"outside_mm": round(-item.edge.least_border_mm, 2)},
                    item=item.index,
                )
            )
    return found


def _print_findings(plan: Plan) -> list[Finding]:
    job, found = plan.job, list[Finding]()
    if not job.stock.printable:
        found.append(
            Finding(
                "print.stock",
                Severity.NOTE,
                "This stock is not printed",
                f"{job.stock.name[0].upper()}{job.stock.name[1:]} is cut only: no print file, no marks, and the live "
                "area is the cutter's alone.",
            )
        )
    if plan.mirror:
        found.append(
            Finding(
                "print.mirror",
                Severity.NOTE,
                "Reads backwards on purpose",
                f"{job.stock.name[0].upper()}{job.stock.name[1:]} goes on face down, so the files are mirrored. "
                "Leave the printer's own mirror off.",
            )
        )
    return found


def item_findings(item: DesignedItem, purpose: Purpose, stock: Stock) -> list[Finding]:
    """What the stations Art and Edge find on one item."""
    art = art_findings(item.outline, item.spec, item.index, purpose, item.facts, stock)
    edge = edge_findings(item.outline, item.edge, item.spec, item.index, item.edge_facts)
    if not stock.printable:
        return art + edge + colour_findings(item.facts.flat_colours, item.index)
    return art + edge + bleed_findings(item.bleed, item.index, stock)


def _unplaced(plan: Plan, problem: PackProblem) -> list[Finding]:
    found = []
    for unplaced in plan.layout.unplaced:
        item = next(item for item in plan.items if item.index == unplaced.item)
        if unplaced.reason is WhyNot.TOO_BIG:
            found.append(_too_big(plan, problem, item))
            continue
        if unplaced.reason is WhyNot.NOT_IN_KIT:
            found.append(_not_in_kit(item, unplaced.quantity, len(plan.layout.sheets)))
            continue
        more = Fix("Allow more sheets", "all pieces find a place", FixTarget.JOB, {"packing.max_sheets": None})
        count = unplaced.quantity
        found.append(
            Finding(
                "sheet.unplaced",
                Severity.STOP,
                f"No room for {count} piece{'s' if count > 1 else ''}",
                f"{count} of {item.spec.quantity} found no place on the sheets allowed.",
                {"pieces": count, "wanted": item.spec.quantity},
                item=item.index,
                fixes=(more,) if plan.job.packing.max_sheets is not None else (),
            )
        )
    return found


def _not_in_kit(item: DesignedItem, over: int, kits: int) -> Finding:
    whole = item.spec.quantity - over
    return Finding(
        "sheet.unplaced",
        Severity.STOP,
        f"{over} left over from the sets",
        f"{item.spec.quantity} cannot be shared out evenly over {kits} equal sheets; {over} found no place.",
        {"pieces": over, "wanted": item.spec.quantity},
        item=item.index,
        fixes=(
            Fix(f"Make {whole}", "nothing is left over", FixTarget.ITEM, {"quantity": whole}),
            Fix(f"Make {whole + kits}", "one more in each set", FixTarget.ITEM, {"quantity": whole + kits}),
        ),
    )


def _too_big(plan: Plan, problem: PackProblem, item: DesignedItem) -> Finding:
    """The edge is larger than the live area in every allowed turn; offers the largest art that fits."""
    size = item.spec.size.side_of(*item.outline.size_mm)
    largest = 0.0 if item.spec.back_of is not None else _largest_that_fits(plan, problem, item)
    width, height = plan.setup.live.size_mm
    fixes: tuple[Fix, ...] = ()
    if 1 <= largest < size:
        fixes = (size_fix(item.spec, largest, "the largest that fits"),)
    return Finding(
        "art.too-big",
        Severity.STOP,
        "Larger than the sheet",
        f"With its border it is {item.edge.size_mm[0]:.0f} × {item.edge.size_mm[1]:.0f} mm; the live area is "
        f"{width:.0f} × {height:.0f} mm.",
        {"pieces": item.spec.quantity, "scale": round(largest / size, 3), "largest_mm": largest},
        item=item.index,
        places=(place_of(item.edge.shape.bounds),),
        fixes=fixes,
    )


def _largest_that_fits(plan: Plan, problem: PackProblem, item: DesignedItem) -> float:
    """The largest art (the side that it is sized by, mm, down to a tenth) whose edge fits the live area; 0 for none.

    The border keeps its width whatever the art's size, so the edge is derived at the sizes tried. How far it sticks out
    grows nearly evenly with the size: a straight line through two sizes (secant) finds the next one to try.
    """
    size = item.spec.size.side_of(*item.outline.size_mm)
    thin = replace(item.outline, shape=as_multi(parts(item.outline.shape.simplify(_ROUGH_MM))))
    left, top, right, bottom = problem.live.bounds
    room, turn = (right - left, bottom - top), item.spec.turn or plan.job.packing.turn

    def overhang(side: float) -> float:
        edge = derive_edge(scaled(thin, side / size), item.spec.edge, plan.job.stock.least_neck_mm)
        # What thinning may have taken off counts as there.
        return best_turn(edge.shape, room, turn)[1] + 2 * _ROUGH_MM

    high, over = size, overhang(size)
    low, under = size / 20, overhang(size / 20)
    if under > 0:
        return 0.0
    for step in range(_FITTING_STEPS):
        # Every other time the middle: a line alone may creep towards the answer from one side.
        side = (low + high) / 2 if step % 2 else low + (high - low) * under / (under - over)
        sticks_out = overhang(side)
        if sticks_out > 0:
            high, over = side, sticks_out
        else:
            low, under = side, sticks_out
        if high - low < _ROUGH_MM:
            break
    return math.floor(low * 10) / 10


def _sparse(plan: Plan) -> list[Finding]:
    """The last of several sheets mostly empty."""
    last = len(plan.layout.sheets) - 1
    if last < 1 or plan.used_share(last) >= SPARSE_SHARE:
        return []
    counts = Counter(placement.item for placement in plan.layout.sheets[last])
    free = plan.setup.live_of(last).area_mm2 * (SPARSE_FILL - plan.used_share(last))
    item = max((plan.items[index] for index in counts), key=lambda one: (counts[one.index], -one.index))
    more = int(free / grow(item.edge.shape, plan.job.packing.gap_mm / 2).area)
    fixes: tuple[Fix, ...] = ()
    if more:
        quantity = item.spec.quantity + more
        fixes = (Fix(f"{more} more of it", "the sheet is used up", FixTarget.ITEM, {"quantity": quantity}),)
    return [
        Finding(
            "sheet.sparse",
            Severity.NOTE,
            f"Sheet {last + 1} is mostly empty",
            f"It holds {counts.total()} piece{'s' if counts.total() > 1 else ''} and uses "
            f"{plan.used_share(last) * 100:.0f} % of its live area; about {more} more of this one would fill it.",
            {"used": round(plan.used_share(last), 3), "pieces": counts.total(), "more": more},
            item=item.index,
            sheet=last,
            fixes=fixes,
        )
    ]


def page_of(plan: Plan, sheet: int) -> PrintPage:
    """The print page of one sheet, as it is printed."""
    items = {
        item.index: PrintItem(item.outline, item.edge, item.spec.edge.stack, item.bleed.width_mm) for item in plan.items
    }
    return compose_page(
        plan.job.paper,
        plan.layout.sheets[sheet],
        items,
        plan.setup.marks,
        plan.setup.live_of(sheet).shape,
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
    items = {item.index: CutItem(item.edge, effective_cut(plan.job.stock, item.spec.cut)) for item in plan.items}
    return plan_cut(plan.job.paper, plan.layout.sheets[sheet], items, plan.mirror)
