"""The whole plan of a job: what every station made of it, and everything that was found on the way.

Data goes one way. `set_up_sheet` and `DesignedItem`s come first, the layout is packed from them, and `complete`
draws the settings, the bound and the findings together. Pages and cut plans of single sheets follow from a plan.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from vamper.core.art.inspect import ArtFacts, art_findings, place_of, size_fix
from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture
from vamper.core.cutting.plan import CutItem, CutPlan, plan_cut, smallest_radius
from vamper.core.cutting.setting import (
    CutSetting,
    cut_findings,
    effective_cut,
    kiss_without_backing,
    propose,
)
from vamper.core.edge.edge import Edge
from vamper.core.edge.inspect import EdgeFacts, edge_findings
from vamper.core.findings import BadInput, Finding, Fix, FixTarget, Severity, most_serious_first
from vamper.core.job import MOST_PIECES, Cut, ItemSpec, Job, Purpose
from vamper.core.marks.families import Mark, marks_bound, marks_findings, marks_for
from vamper.core.printing.bleed import Bleed, bleed_findings, carried_outward
from vamper.core.printing.page import PrintItem, PrintPage, compose_page
from vamper.core.sheet.bound import AreaBound, area_bound
from vamper.core.sheet.layout import Layout, Piece, WhyNot, breaches
from vamper.core.sheet.live_area import LiveArea, cutter_bound, live_area, printer_bound
from vamper.core.sheet.packing import PackProblem, largest_fitting_scale
from vamper.core.stocks import Stock

SPARSE_SHARE = 0.4


@dataclass(frozen=True, slots=True)
class DesignedItem:
    """An item with its picture (prepared), outline and edge, what was seen on it, and its bleed."""

    index: int
    spec: ItemSpec
    picture: Picture
    outline: Outline
    edge: Edge
    facts: ArtFacts
    edge_facts: EdgeFacts
    bleed: Bleed


@dataclass(frozen=True, slots=True)
class SheetSetup:
    """What every sheet of the job has in common."""

    live: LiveArea
    marks: tuple[Mark, ...]
    findings: tuple[Finding, ...]


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
        return float(sum(areas[p.item] for p in self.layout.sheets[sheet]) / self.setup.live.area_mm2)


def set_up_sheet(job: Job) -> SheetSetup:
    """Marks and live area of the job's sheet.

    Raises
    ------
    BadInput
        If the sheet is smaller than its marks, or nothing of it is left to work on.
    """
    marks = marks_for(job.paper, job.marks)
    printable = printer_bound(job.paper, job.printer)
    bounds = [cutter_bound(job.paper, job.cutter), marks_bound(job.paper, job.marks)]
    if job.stock.printable:
        bounds.insert(0, printable)
    live = live_area(job.paper, [bound for bound in bounds if bound is not None])
    return SheetSetup(live, marks, tuple(marks_findings(job.paper, job.marks, printable)))


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
        )
        for item in items
    )
    return PackProblem(pieces, setup.live.shape, job.packing, seed)


def proposed_settings(job: Job, items: Sequence[DesignedItem]) -> dict[Cut, CutSetting]:
    """Settings for every cut that the stock allows, for the tightest bend among the edges."""
    radius = min((smallest_radius(item.edge) for item in items), default=float("inf"))
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
        area_bound(setup.live.shape, problem.pieces, job.packing.gap_mm),
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
        for breach in breaches(sheet, problem.by_item, problem.live, job.packing.gap_mm):
            code = "sheet.outside" if breach.second is None else "sheet.gap"
            found.append(
                Finding(
                    code,
                    Severity.STOP,
                    "Outside the live area" if breach.second is None else "Too near each other",
                    "A piece sticks out of what can be printed and cut."
                    if breach.second is None
                    else f"Two pieces are {breach.distance_mm:.2f} mm apart; {breach.needed_mm:g} are needed.",
                    {"distance_mm": round(breach.distance_mm, 3), "needed_mm": breach.needed_mm},
                    item=sheet[breach.first].item,
                    sheet=number,
                )
            )
    found += _sparse(plan)
    used = {effective_cut(job.stock, item.spec.cut) for item in plan.items}
    for cut in sorted(used):
        found += cut_findings(plan.settings[cut], job.stock, job.cutter)
    found += kiss_without_backing(job.stock, tuple(i.index for i in plan.items if i.spec.cut is Cut.KISS))
    if not job.stock.printable:
        found.append(
            Finding(
                "print.stock",
                Severity.LOOK,
                "This stock is not printed",
                f"{job.stock.name[0].upper()}{job.stock.name[1:]} is cut only; the print file is of no use with it.",
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
    art = art_findings(item.outline, item.spec, item.index, purpose, item.picture, item.facts, stock)
    edge = edge_findings(item.outline, item.edge, item.spec, item.index, item.edge_facts)
    return art + edge + bleed_findings(item.bleed, item.index, stock)


def _unplaced(plan: Plan, problem: PackProblem) -> list[Finding]:
    found = []
    for unplaced in plan.layout.unplaced:
        item = next(item for item in plan.items if item.index == unplaced.item)
        if unplaced.reason is WhyNot.TOO_BIG:
            found.append(_too_big(plan, problem, item))
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


def _too_big(plan: Plan, problem: PackProblem, item: DesignedItem) -> Finding:
    """The edge is larger than the live area in every allowed turn; offers the largest art that fits."""
    scale = largest_fitting_scale(problem.by_item[item.index], problem.live, plan.job.packing.turn)
    border = max(0.0, (item.edge.size_mm[0] - item.outline.size_mm[0]) / 2)
    size = item.spec.size.side_of(*item.outline.size_mm)
    # The border does not shrink with the art, so a little more than the scale comes off.
    largest = int((item.spec.size.side_of(*item.edge.size_mm) * scale - 2 * border) * 10) / 10
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
        {"pieces": item.spec.quantity, "scale": round(scale, 3), "largest_mm": largest},
        item=item.index,
        places=(place_of(item.edge.shape.bounds),),
        fixes=fixes,
    )


def _sparse(plan: Plan) -> list[Finding]:
    """The last of several sheets mostly empty."""
    last = len(plan.layout.sheets) - 1
    if last < 1 or plan.used_share(last) >= SPARSE_SHARE:
        return []
    counts = Counter(placement.item for placement in plan.layout.sheets[last])
    return [
        Finding(
            "sheet.sparse",
            Severity.NOTE,
            f"Sheet {last + 1} is mostly empty",
            f"It holds {counts.total()} piece{'s' if counts.total() > 1 else ''} and uses "
            f"{plan.used_share(last) * 100:.0f} % of its live area; there is room for more copies.",
            {"used": round(plan.used_share(last), 3), "pieces": counts.total()},
            sheet=last,
        )
    ]


def page_of(plan: Plan, sheet: int) -> PrintPage:
    """The print page of one sheet."""
    items = {
        item.index: PrintItem(item.outline, item.edge, item.spec.edge.stack, item.bleed.width_mm) for item in plan.items
    }
    return compose_page(
        plan.job.paper,
        plan.layout.sheets[sheet],
        items,
        plan.setup.marks,
        plan.setup.live.shape,
        plan.job.stock.colour,
        plan.mirror,
    )


def printed_pictures(plan: Plan) -> dict[int, Picture]:
    """The pictures of the page, each carried past its edge where it bleeds; see `page_of`."""
    return {
        item.index: carried_outward(item.picture, item.outline, item.edge, item.bleed.width_mm)
        if item.bleed.width_mm
        else item.picture
        for item in plan.items
    }


def cut_of(plan: Plan, sheet: int) -> CutPlan:
    """The cut plan of one sheet."""
    items = {item.index: CutItem(item.edge, effective_cut(plan.job.stock, item.spec.cut)) for item in plan.items}
    return plan_cut(plan.job.paper, plan.layout.sheets[sheet], items, plan.mirror)
