"""From a plan's sheets to what goes over the wire: shapes once, places as numbers."""

from collections import Counter
from dataclasses import asdict

from vamper.api.places import size_out
from vamper.api.sheet.schemas import (
    BoundOut,
    FiguresPart,
    FileOut,
    GrantedSideOut,
    LayoutPart,
    MarkOut,
    SheetOut,
    SheetPart,
    StockOut,
    UnplacedOut,
)
from vamper.core.edge.inspect import even_border_mm
from vamper.core.marks.mark import Mark, turned_over
from vamper.core.marks.program_marks import looked_for
from vamper.core.plan import Plan, pack_problem, worst_miss_mm
from vamper.core.printing.guides import guides_for
from vamper.core.sheet.laid import LaidSheet
from vamper.core.sheet.live_area import common_part
from vamper.core.sheet.offcut import NOTHING
from vamper.core.sheet.pack.groups import plain_rows
from vamper.core.values.accepted_size import AcceptedSize, PaperSide
from vamper.core.values.findings import Place
from vamper.core.values.placement import Pin, Placement
from vamper.core.values.stock import Stock, clear_once
from vamper.formats.out.sheet_file import SHEET_FILES
from vamper.formats.svg_path import DECIMALS, closed_path, shape_path
from vamper.services.brief.words import face_words

PINS = list(Pin)


def sheet_part(plan: Plan, revision: str) -> SheetPart:
    """The setup that all sheets have in common."""
    setup = plan.setup
    return SheetPart(
        revision=revision,
        width_mm=plan.job.paper.width_mm,
        height_mm=plan.job.paper.height_mm,
        live_path=shape_path(setup.live.shape, DECIMALS),
        live_size=size_out(setup.live.size_mm),
        bounds=[
            BoundOut(
                name=b.name,
                reason=b.reason,
                left_mm=x0,
                top_mm=y0,
                right_mm=x1,
                bottom_mm=y1,
                path=shape_path(b.region, DECIMALS),
            )
            for b in setup.live_of(0).bounds
            for x0, y0, x1, y1 in [b.region.bounds]
        ],
        marks=[
            MarkOut(
                family=mark.family,
                x_mm=mark.x_mm,
                y_mm=mark.y_mm,
                path=" ".join(closed_path(ring, DECIMALS) for ring in mark.rings),
            )
            for mark in setup.marks_seen or _program_marks(plan)
        ],
        stock=stock_out(plan.job.stock),
        mirror=plan.mirror,
        files=[FileOut(ending=one.ending, words=one.words) for one in SHEET_FILES if one.is_for(plan.job)],
        granted=_granted(plan) if plan.job.for_own_program and plan.job.stock.printable else [],
        miss_mm=worst_miss_mm(plan.job, plan.setup),
        even_border_mm=even_border_mm(worst_miss_mm(plan.job, plan.setup)),
        corrected=plan.job.calibration is not None,
        by_program=plan.job.cutter.has_own_program,
        by_hand=not plan.job.cutter.is_machine,
        practice=plan.job.cutter.practice is not None or plan.job.printer.practice is not None,
    )


def _program_marks(plan: Plan) -> list[Mark]:
    """The marks of the machine's own program, where somebody measured them, as the finished sheet reads."""
    if not plan.job.cutter.has_own_program:
        return []
    marks = looked_for(plan.job)
    return [turned_over(mark, plan.job.paper) if plan.mirror else mark for mark in marks]


def _granted(plan: Plan) -> list[GrantedSideOut]:
    job = plan.job
    known = job.cutter.granted_of(job.paper) or AcceptedSize(job.paper.width_mm, job.paper.height_mm)
    others = [bound for bound in plan.setup.live.bounds if bound.name != "granted"]
    left, top, right, bottom = common_part(job.paper, others).bounds
    most = {PaperSide.WIDTH: right - left, PaperSide.HEIGHT: bottom - top}
    return [
        GrantedSideOut(
            side=side,
            taken_mm=known.of(side).taken,
            refused_mm=known.of(side).refused,
            try_mm=known.of(side).next_try(most[side]),
        )
        for side in PaperSide
    ]


def stock_out(stock: Stock) -> StockOut:
    said = {name: value for name, value in asdict(stock).items() if name in StockOut.model_fields}
    return StockOut(**said, face_words=face_words(stock), shows_white=stock.shows_white, clear_once=clear_once(stock))


def layout_part(plan: Plan, revision: str) -> LayoutPart:
    """The places of all pieces, sheet by sheet."""
    placed = Counter(placement.item for sheet in plan.layout.sheets for placement in sheet)
    return LayoutPart(
        revision=revision,
        pins=PINS,
        sheets=_sheets(plan),
        placed=dict(placed),
        unplaced=[UnplacedOut(item_number=u.item, quantity=u.quantity, reason=u.reason) for u in plan.layout.unplaced],
        extra_pieces=sum(max(0, placed[item.number] - item.spec.quantity) for item in plan.items),
    )


def figures_part(plan: Plan, revision: str) -> FiguresPart:
    """How good the layout is."""
    rows = plain_rows(pack_problem(plan.job, plan.setup, plan.items))
    offcut = plan.sheets[-1].offcut(plan.job.packing.gap_mm) if plan.sheets else NOTHING
    return FiguresPart(
        revision=revision,
        pieces_at_most=plan.bound.pieces_at_most,
        sheets_at_least=plan.bound.sheets_at_least,
        row_sheets=len(rows),
        row_pieces=sum(len(sheet) for sheet in rows[: len(plan.sheets)]),
        nearest_mm=[sheet.nearest_mm for sheet in plan.sheets],
        offcut=Place(x_mm=offcut.left_mm, y_mm=offcut.top_mm, width_mm=offcut.width_mm, height_mm=offcut.height_mm),
    )


def pieces_out(placements: tuple[Placement, ...]) -> list[float]:
    """Five numbers a piece."""
    return [value for p in placements for value in (p.item, p.x_mm, p.y_mm, p.turn_deg, PINS.index(p.pin))]


def _sheets(plan: Plan) -> list[SheetOut]:
    length = {item.number: item.edge.length_mm for item in plan.items}
    return [
        SheetOut(
            pieces=pieces_out(sheet.placements),
            used=sheet.used_share,
            cut_length_mm=sum(length[one.item] for one in sheet.placements),
            live_path=shape_path(sheet.live.shape, DECIMALS),
            colour=plan.sheet_colour(sheet.number),
            guides="" if plan.job.cutter.is_machine else _guides(sheet),
        )
        for sheet in plan.sheets
    ]


def _guides(sheet: LaidSheet) -> str:
    guides = guides_for(sheet.edges, sheet.live.shape)
    ticks = [f"M{x0:.2f} {y0:.2f}L{x1:.2f} {y1:.2f}" for (x0, y0), (x1, y1) in guides.ticks]
    return " ".join([*(closed_path(ring, DECIMALS) for ring in guides.lines), *ticks])
