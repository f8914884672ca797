"""What is told of sheets: what is left of them, what lies on them, how many go on, and what is found wrong."""

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from tests.approved.drawings import ARROW
from tests.scenes import item
from vamper.core.art.outline import outline_at, trace
from vamper.core.edge.edge import derive_edge
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.inspect import (
    accepted_finding,
    largest_that_fits,
    pair_findings,
    sparse_finding,
    too_big,
    unplaced_finding,
)
from vamper.core.sheet.laid import lay
from vamper.core.sheet.lay.arranging import (
    AlignedBy,
    SpacedAlong,
    aligned,
    box_of,
    exchanged,
    spaced,
    turn_step,
    turned,
)
from vamper.core.sheet.lay.clearance import Clearance, as_moved
from vamper.core.sheet.lay.free_space import FreeSpace, cell_for, filled_up, turns_tried
from vamper.core.sheet.lay.turns import best_turn, boxes_at, turned_box, turns_of
from vamper.core.sheet.layout import Layout, Piece, Unplaced, WhyNot, gap_between
from vamper.core.sheet.live_area import LiveArea, accepted_bound, cutter_bounds, live_area, printer_bound, spent_bound
from vamper.core.sheet.offcut import largest_offcut, largest_run, place_for, places_near
from vamper.core.sheet.pack.area_bound import area_bound, grown_areas
from vamper.core.sheet.pack.filling import filled
from vamper.core.sheet.pack.groups import bound_of, groups_of, packed_apart, plain_rows
from vamper.core.sheet.pack.how_many import CountRequest, HowMany
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.lattice import best_lattice
from vamper.core.sheet.pack.mode import MODES
from vamper.core.sheet.pack.modes.kits import kits_of
from vamper.core.sheet.pack.nesting import Lane, nest_points
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem, fits_alone, strip_left
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.sheet.pack.sheet_region import region_of
from vamper.core.values.accepted_size import AcceptedSize, SizeBounds
from vamper.core.values.art import SizeSpec
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.item import ItemSpec, Turn
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper, Spent
from vamper.core.values.placement import Pin, Placement
from vamper.core.values.printer import Printer

LETTER = Paper(215.9, 279.4)
LIVE = shapely.box(10.8, 10.8, 205.1, 268.6)
NOTCHED = LIVE.difference(shapely.box(150, 10.8, 205.1, 60)).difference(shapely.box(10.8, 230, 70, 268.6))
Told = Iterator[tuple[str, Any]]


def _multi(shape: Any) -> MultiPolygon:
    return MultiPolygon([shape]) if isinstance(shape, Polygon) else shape


WEDGE = _multi(Polygon([(0, 0), (52, 0), (38, 26), (0, 34)]))
RING = _multi(shapely.Point(0, 0).buffer(17).difference(shapely.Point(3, 0).buffer(8)))
PAIR = MultiPolygon([shapely.box(0, 0, 18, 44), shapely.box(21, 6, 30, 30)])
PIECES = (
    Piece(1, WEDGE, 5, fill_priority=1),
    Piece(2, RING, 9, Cut.THROUGH, turn=Turn.QUARTER, fill_priority=1),
    Piece(3, PAIR, 4, bleed_mm=1.4, fill_priority=2),
)


class _NoEngine:
    """Answers nothing: what packing makes of a sheet by itself hangs on no clock."""

    cores = 1

    def race(self, lanes: Sequence[Lane], given_up: Callable[[], bool], _meanwhile: object = None) -> None:
        for lane in lanes:
            for _ in lane:
                if given_up():
                    return


class _Patient:
    """Waits until it was asked so often, and notes what it was shown."""

    def __init__(self, asked: int = 60) -> None:
        self.left = asked
        self.shown: list[Layout] = []

    def seconds_left(self) -> float:
        self.left -= 1
        return max(0.0, float(self.left))

    def more(self, _seconds: float) -> bool:
        return False

    def lost(self, _seconds: float) -> float:
        return 0.0

    def better(self, layout: Layout) -> None:
        self.shown.append(layout)


def _counts(layout: Layout) -> Any:
    """How many of each design are on each sheet: free places are found by sums that end otherwise elsewhere."""
    sheets = [sorted(Counter(one.item for one in sheet).items()) for sheet in layout.sheets]
    return [sheets, layout.unplaced, layout.time_limited]


def _live_areas() -> Told:
    rollers = Cutter(feed=Feed.ROLLER, head_mm=12.0, tail_mm=25.0)
    seen = Cutter(granted=(AcceptedSize(215.9, 279.4, SizeBounds(170.0, 190.0), SizeBounds(None, 240.0)),))
    taken = Cutter(granted=(AcceptedSize(215.9, 279.4, SizeBounds(214.0), SizeBounds(None, None)),))
    cut_into = ((20.0, 30.0, 90.0, 40.0, 60.0, 110.0), (150.0, 200.0, 200.0, 210.0, 180.0, 260.0))
    papers = {
        "whole": LETTER,
        "spent": Paper(215.9, 279.4, Spent(80.0, 120.0)),
        "spent inside": Paper(215.9, 279.4, Spent(60.0, 90.0, 40.0, 70.0)),
        "parted": Paper(215.9, 279.4, Spent(215.9, 20.0, 0.0, 120.0)),
        "cut into": Paper(215.9, 279.4, gone=cut_into),
    }
    for name, paper in papers.items():
        for number, cutter in enumerate((Cutter(), rollers, seen, taken)):
            bounds = [printer_bound(paper, Printer()), *cutter_bounds(paper, cutter)]
            granted, spent = accepted_bound(paper, cutter, bounds), spent_bound(paper)
            bounds += [one for one in (granted, spent) if one is not None]
            live = live_area(paper, bounds)
            told = [live, live.area_mm2, live.size_mm, live.room_mm, live.turned_over(paper)]
            yield f"{name} {number}", [told, accepted_finding(paper, cutter, live)]


def _offcuts() -> Told:
    lying = [shapely.box(20, 20, 120, 90), shapely.Point(150, 200).buffer(30)]
    for name, region in (("whole", LIVE), ("notched", NOTCHED)):
        for gap in (0.0, 3.0, 7.5):
            yield f"offcut {name} {gap:g}", largest_offcut(region, lying, gap)
        for width, height in ((60, 40), (20, 150), (90, 90), (10.25, 10.25), (300, 10)):
            near = list(places_near(region, lying, width, height, (180.0, 60.0), 2.0))
            yield f"place {name} {width:g} {height:g}", [place_for(region, lying, width, height), len(near), near[:3]]
    cells = np.random.default_rng(7).random((3, 14, 19)) > 0.25
    yield "runs", [largest_run(one) for one in cells]


def _lying() -> Told:
    by_item = {piece.item: piece for piece in PIECES}
    sheet = (
        Placement(1, 30.0, 30.0, 0.0),
        Placement(2, 110.0, 60.0, 35.0, Pin.HAND),
        Placement(3, 60.0, 120.0, 200.0),
        Placement(1, 83.0, 31.0, 0.0),
        Placement(2, 118.0, 84.0, 0.0, Pin.LOCKED),
        Placement(3, 200.0, 200.0, 10.0),
    )
    edges = {item: piece.edge for item, piece in by_item.items()}
    live = LiveArea(LIVE, ())
    (laid, last) = lay(Layout((sheet, sheet[2:3]), (), False), edges, lambda _: live)
    yield "laid", [laid.edges, laid.counts, laid.used_share, laid.nearest_mm, laid.offcut(2.0), last.nearest_mm]
    for gap in (0.5, 2.0, 12.0):
        yield f"breaches {gap:g}", breaches(sheet, by_item, LIVE, gap)
    yield "sparse", [sparse_finding((laid, one), by_item, 2.0, [item(n) for n in by_item]) for one in (laid, last)]
    staying = Clearance(NOTCHED, 2.0, sheet[:3], by_item)
    for one in (*sheet[3:], Placement(1, 120.0, 20.0, 45.0), Placement(2, 30.0, 250.0), Placement(3, 100.0, 150.0)):
        hand = as_moved(by_item[one.item], one)
        slid = staying.slide([hand], 25.0)
        told = [staying.allows(hand.piece, hand.shape), staying.distances(hand.piece, hand.shape, 40.0), slid]
        yield f"moved {one.item} {one.x_mm:g}", told
    yield "boxes", [box_of(one, by_item) for one in sheet]
    yield "turned", [turned(one, 25.0, by_item) for one in sheet]
    yield "exchanged", exchanged(sheet[0], sheet[2], by_item)
    yield "aligned", [aligned(sheet, side, by_item) for side in AlignedBy]
    yield "spaced", [spaced(sheet, way, by_item) for way in SpacedAlong]


def _turns() -> Told:
    for turn in Turn:
        yield f"turns {turn.value}", [turns_of(turn), [turn_step(piece, turn) for piece in PIECES]]
        for piece in PIECES:
            tight = [best_turn(piece.edge, room, turn) for room in ((60.0, 30.0), (28.0, 70.0), (20.0, 20.0))]
            tried = turns_tried(piece, turn, (100.0, 60.0))
            boxes = [boxes_at(piece.edge, np.array([0.0, 33.0])), turned_box(piece.edge.convex_hull, 33.0)]
            alone = [fits_alone(piece, shapely.box(0, 0, *sides), turn) for sides in ((58, 30), (30, 54), (34, 34))]
            yield f"tried {turn.value} {piece.item}", [tight, tried, boxes, alone]
    pairs = [(one, other) for one in PIECES for other in PIECES]
    yield "gaps", [gap_between(one, other, gap) for gap in (0.0, 2.0, 4.0) for one, other in pairs]
    yield "cells", [cell_for(PIECES[:count]) for count in range(4)]
    yield "points", [nest_points(piece.edge, more) for piece in PIECES for more in (0.0, 1.5)]


def _packed() -> Told:
    two_colours = tuple(replace(piece, sheet_colour=("#AA0000", "#0000AA")[piece.item % 2]) for piece in PIECES)
    held = ((Placement(1, 40.0, 100.0, 17.0, Pin.HAND),), (Placement(2, 150.0, 150.0, 0.0, Pin.LOCKED),))
    problems = {
        "plain": PackProblem(PIECES, LIVE, PackingSpec()),
        "upright, one sheet": PackProblem(PIECES, LIVE, PackingSpec(turn=Turn.UPRIGHT, max_sheets=1)),
        "two colours": PackProblem(two_colours, LIVE, PackingSpec(max_sheets=1)),
        "held, notched": PackProblem(PIECES, NOTCHED, PackingSpec(), held=held),
        "part-used": PackProblem(PIECES, LIVE, PackingSpec(), first_live=LIVE.difference(shapely.box(0, 0, 300, 120))),
        "too many": PackProblem(tuple(replace(one, quantity=9) for one in PIECES[:2]), LIVE, PackingSpec(max_sheets=1)),
        "too large": PackProblem(
            (*PIECES, Piece(4, _multi(shapely.box(0, 0, 300, 20)), 2)), LIVE, PackingSpec(turn=Turn.QUARTER)
        ),
        "alike": PackProblem((replace(PIECES[0], quantity=40),), LIVE, PackingSpec()),
    }
    for name, problem in problems.items():
        rows = in_rows(problem)
        yield f"rows {name}", [rows, problem.rank(rows), in_rows(problem, as_they_are=True), plain_rows(problem)]
        yield f"bounds {name}", [bound_of(problem), [[one.item for one in group] for group in groups_of(problem)]]
        yield f"ground {name}", [region_of(problem, number) for number in range(2)]
        for mode in MODES:
            asked = replace(problem, spec=replace(problem.spec, mode=mode.key))
            watch = _Patient()
            found = pack(asked, _NoEngine(), watch)
            yield f"packed {name} {mode.key}", [_counts(found), asked.rank(found)[:4], len(watch.shown)]
    yield "kits", [list(kits_of(quantities)) for quantities in ((4, 6), (9, 5, 0), (12, 18), ())]
    for name in ("upright, one sheet", "two colours"):
        yield f"full {name}", _counts(filled(problems[name], in_rows(problems[name]), lambda: False))
    watch = _Patient()
    apart = replace(problems["two colours"], spec=PackingSpec(max_sheets=3))
    yield "apart", [_counts(packed_apart(apart, groups_of(apart), _NoEngine(), watch)), len(watch.shown)]
    space = FreeSpace(shapely.box(0, 0, 120, 90), 2.0, Turn.ANY)
    placed, rest = filled_up(space, [piece for piece in PIECES for _ in range(4)])
    yield "filled up", [Counter(one.item for one in placed), Counter(one.item for one in rest)]


def _how_many() -> Told:
    for piece in PIECES:
        rows = rows_of_boxes([replace(piece, quantity=30)], NOTCHED, 2.0, Turn.ANY, 2)
        strips = [strip_left(sheet, {piece.item: piece}, LIVE) for sheet in ((), *rows)]
        bounds = [area_bound(LIVE, [replace(piece, quantity=many)], 2.0) for many in (1, 40, 90)]
        yield f"rows of {piece.item}", [rows, strips, bounds, grown_areas([piece], 3.0)]
        lattice = best_lattice(piece, (120.0, 90.0), 2.0, Turn.QUARTER)
        yield f"lattice {piece.item}", lattice and [lattice.count, lattice.words]
        x, y, right, bottom = piece.edge.bounds
        longest = max(right - x, bottom - y)

        def at(size: float, edge: MultiPolygon = piece.edge, longest: float = longest) -> MultiPolygon:
            return _multi(shapely.affinity.scale(edge, size / longest, size / longest, origin=(0, 0)))

        asked = HowMany(CountRequest(piece, at, shapely.box(0, 0, 90, 70), 2.0, Turn.QUARTER), longest, piece.item != 1)
        yield f"how many {piece.item}", list(asked.table(24.0, 60.0))


def _found() -> Told:
    live, outline = LiveArea(LIVE, ()), outline_at(trace(ARROW), SizeSpec(width_mm=320.0))
    for kind in ("follow", "hull"):
        edge_spec = EdgeSpec(kind=kind)
        edge = derive_edge(outline, edge_spec, 1.0)
        for turn in Turn:
            spec = ItemSpec(number=1, art="1.png", width_mm=320.0, edge=edge_spec, quantity=3)
            found = too_big(spec, outline, edge, live, turn, 1.0)
            yield f"too big {kind} {turn.value}", [found, largest_that_fits(spec, outline, live, turn, 1.0)]
    spec = ItemSpec(number=1, art="1.png", width_mm=40.0, quantity=11)
    for reason in (WhyNot.NO_ROOM, WhyNot.NOT_IN_KIT):
        for packing in (PackingSpec(), PackingSpec(max_sheets=3)):
            missing = [unplaced_finding(Unplaced(1, count, reason), spec, packing, 3) for count in (1, 4)]
            yield f"unplaced {reason.value} {packing.max_sheets}", missing
    sheets = ((Placement(1, 50, 50), Placement(1, 110, 50)), (Placement(2, 50, 50),))
    small = derive_edge(outline_at(trace(ARROW), SizeSpec(width_mm=40.0)), EdgeSpec(), 1.0)
    laid = lay(Layout(sheets, (), False), {1: small.shape, 2: small.shape}, lambda _: live)
    for backs in (11, 2):
        back = ItemSpec(number=2, art="2.png", width_mm=40.0, quantity=backs, back_of=1)
        sticks_out = replace(small, least_border_mm=-0.8)
        yield f"backs {backs}", [pair_findings(back, one, spec, laid) for one in (small, sticks_out)]


def sheets() -> Told:
    """What is left of a sheet, what lies on it and how it was packed without the engine, and what is found wrong."""
    for part in (_live_areas, _offcuts, _lying, _turns, _packed, _how_many, _found):
        yield from part()
