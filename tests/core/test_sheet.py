"""Live area, rows, bounds, and packing that never breaks a rule."""

import math
import time
from dataclasses import dataclass, field

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon, box

from tests.scenes import item, lying, scene
from tests.tried import tried
from vamper.core.marks.sheet_marks import marks_bound
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.laid import lay, nearest_mm
from vamper.core.sheet.layout import Layout, Piece, WhyNot
from vamper.core.sheet.live_area import LiveArea, cutter_bounds, live_area, printer_bound
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem, fits_alone
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, ForceRange, Reach
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import Turn
from vamper.core.values.marks import MarksSpec
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement
from vamper.core.values.printer import Margins, Printer, PrinterKind
from vamper.services.packing.nesting_process import ProcessNester

LETTER = Paper(215.9, 279.4)
PRINTER = Printer(PrinterKind.INKJET, Margins(3, 3, 5, 3))
CUTTER = Cutter(feed=Feed.MAT, reach_mm=Reach(310, 420), force_gf=ForceRange(20, 380, 4))
LIVE = box(10.8, 10.8, 205.1, 268.6)


@dataclass
class Watching:
    seconds: float
    seen: list[Layout] = field(default_factory=list)
    started: float = field(default_factory=time.monotonic)

    def seconds_left(self) -> float:
        return self.seconds - (time.monotonic() - self.started)

    def more(self, _seconds: float) -> bool:
        return False

    def lost(self, _seconds: float) -> float:
        return 0.0

    def better(self, layout: Layout) -> None:
        self.seen.append(layout)


def ell(side: float, thick: float) -> Polygon:
    return Polygon([(0, 0), (thick, 0), (thick, side - thick), (side, side - thick), (side, side), (0, side)]).buffer(2)


NARROW = (box(30, 30, 80, 120), box(30, 30, 120, 60))


def piece(item: int, shape: Polygon, quantity: int, cut: Cut = Cut.KISS) -> Piece:
    return Piece(item, as_multi([shape]), quantity, cut)


def test_live_area_is_what_all_bounds_leave() -> None:
    marks = marks_bound(LETTER, MarksSpec())
    assert marks is not None
    live = live_area(LETTER, [printer_bound(LETTER, PRINTER), *cutter_bounds(LETTER, CUTTER), marks])
    assert live.shape.bounds == pytest.approx((10.8, 10.8, 205.1, 268.6))
    assert len(live.bounds) == 3


def test_without_marks_margins_and_reach_decide() -> None:
    short = Cutter(feed=Feed.MAT, reach_mm=Reach(150, 420), force_gf=ForceRange(20, 380, 4))
    live = live_area(LETTER, [printer_bound(LETTER, PRINTER), *cutter_bounds(LETTER, short)])
    assert live.shape.bounds == pytest.approx((3, 3, 150, 274.4))
    assert marks_bound(LETTER, MarksSpec("none")) is None


def test_no_live_area_says_what_took_it() -> None:
    marks = marks_bound(Paper(30, 200), MarksSpec(inset_mm=14))
    assert marks is not None
    with pytest.raises(BadInput, match=r"30 × 200 mm=.* sheet.*marks take ⟨16.8 mm"):
        live_area(Paper(30, 200), [marks])


@given(
    st.lists(st.tuples(st.floats(8, 120), st.floats(8, 120), st.integers(1, 9)), min_size=1, max_size=5),
    st.floats(0, 6),
    st.sampled_from(Turn),
    st.sampled_from(Cut),
)
@tried(40)
def test_rows_of_boxes_break_no_rule(sizes: list[tuple[float, float, int]], gap: float, turn: Turn, cut: Cut) -> None:
    # Where a drawing has its origin is nobody's business.
    pieces = [piece(n, box(-9 * n, 7 * n, w - 9 * n, h + 7 * n), q, cut) for n, (w, h, q) in enumerate(sizes)]
    sheets = rows_of_boxes(pieces, LIVE, gap, turn, None)
    assert sum(map(len, sheets)) == sum(p.quantity for p in pieces)
    by_item = {p.item: p for p in pieces}
    for sheet in sheets:
        assert not breaches(sheet, by_item, LIVE, gap)
        assert turn is not Turn.UPRIGHT or all(p.turn_deg == 0 for p in sheet)


@pytest.mark.parametrize("left", [0.0, -6.0])
def test_what_is_a_little_too_wide_lies_in_rows_turned(left: float) -> None:
    width = LIVE.bounds[2] - LIVE.bounds[0] + 2
    long = piece(1, box(left, left, left + width, left + 40), 3)
    (sheet,) = rows_of_boxes([long], LIVE, 2.0, Turn.ANY, None)
    assert [one.turn_deg % 180 for one in sheet] == [90, 90, 90]
    assert not breaches(sheet, {1: long}, LIVE, 2.0)


def test_breaches_see_overlap_gap_and_outside() -> None:
    square = piece(0, box(0, 0, 20, 20), 3)
    where = [Placement(0, 20, 20, 0), Placement(0, 41, 20, 0), Placement(0, 5, 100, 0)]
    found = breaches(where, {0: square}, LIVE, 2)
    assert [(b.first, b.second) for b in found] == [(2, None), (0, 1)]
    assert found[0].distance_mm == pytest.approx(5.8)
    assert found[1].distance_mm == pytest.approx(1)


def test_a_piece_inside_another_is_a_breach() -> None:
    pieces = {0: piece(0, box(0, 0, 40, 40), 1), 1: piece(1, box(0, 0, 5, 5), 1)}
    assert breaches([Placement(0, 20, 20, 0), Placement(1, 35, 35, 0)], pieces, LIVE, 0)


def test_the_bound_is_the_formula_for_equal_pieces() -> None:
    disc = piece(0, Point(0, 0).buffer(15, quad_segs=64), 50)
    bound = area_bound(LIVE, [disc], 2)
    expected = math.floor(LIVE.buffer(1).area / (math.pi * 16**2))
    assert bound.pieces_at_most in (expected, expected + 1)
    assert bound.sheets_at_least == math.ceil(50 / (LIVE.buffer(1).area / (math.pi * 16**2)))


@given(st.lists(st.tuples(st.floats(3, 60), st.integers(1, 30)), min_size=2, max_size=4), st.floats(0, 4))
@tried(60)
def test_no_sheet_of_a_mix_holds_more_than_its_bound(squares: list[tuple[float, int]], gap: float) -> None:
    """The proportions of everything wanted once said at most 16, and 18 lay there."""
    pieces = [piece(number, box(0, 0, side, side), count) for number, (side, count) in enumerate(squares)]
    bound = area_bound(LIVE, pieces, gap)
    sheets = rows_of_boxes(pieces, LIVE, gap, Turn.UPRIGHT, None)
    assert max(len(sheet) for sheet in sheets) <= bound.pieces_at_most
    assert len(sheets) >= bound.sheets_at_least


def test_what_is_too_big_for_any_sheet_is_left_out_of_the_bound() -> None:
    plan = scene(item(1, quantity=8), item(2, quantity=1, width_mm=900.0)).plan()
    assert plan.layout.pieces == 8
    assert plan.bound.sheets_at_least == 1
    assert plan.bound.pieces_at_most >= 8


def test_a_long_piece_fits_only_askew() -> None:
    bar = piece(0, box(0, 0, 300, 8), 1)
    # Where the live area lies makes no difference.
    assert not any(fits_alone(piece(0, box(9, 9, 69, 49), 1), live, Turn.UPRIGHT) for live in NARROW)
    assert not fits_alone(bar, LIVE, Turn.QUARTER)
    assert fits_alone(bar, LIVE, Turn.ANY)


def assert_sound(problem: PackProblem, layout: Layout) -> None:
    for sheet in layout.sheets:
        assert not breaches(sheet, problem.by_item, problem.live, problem.spec.gap_mm)
    counts = dict.fromkeys(problem.by_item, 0)
    for placement in (p for sheet in layout.sheets for p in sheet):
        counts[placement.item] += 1
    missing = {u.item: u.quantity for u in layout.unplaced}
    for p in problem.pieces:
        assert counts[p.item] + missing.get(p.item, 0) == p.quantity


def test_nesting_saves_a_sheet_and_every_layout_on_the_way_is_sound(nester: ProcessNester) -> None:
    pieces = (piece(0, ell(60, 12), 12), piece(1, Point(0, 0).buffer(14), 6))
    problem = PackProblem(pieces, LIVE, PackingSpec())
    rows = rows_of_boxes(pieces, LIVE, 2, Turn.ANY, None)
    watch = Watching(60)
    layout = pack(problem, nester, watch)
    for seen in watch.seen:
        assert_sound(problem, seen)
    assert layout.pieces == 18
    assert len(layout.sheets) < len(rows)


def test_what_fits_in_rows_on_the_fewest_sheets_needs_no_search() -> None:
    class Never:
        def nest(self, *_: object) -> None:
            raise AssertionError("the engine was asked")

    problem = PackProblem((piece(0, box(0, 0, 30, 30), 6),), LIVE, PackingSpec())
    layout = pack(problem, Never(), Watching(1))
    assert (layout.pieces, len(layout.sheets), layout.time_limited) == (6, 1, False)


def test_too_big_and_no_room_are_told_apart(nester: ProcessNester) -> None:
    pieces = (piece(0, box(0, 0, 300, 300), 2), piece(1, box(0, 0, 90, 90), 20))
    problem = PackProblem(pieces, LIVE, PackingSpec(max_sheets=1))
    layout = pack(problem, nester, Watching(1))
    assert_sound(problem, layout)
    assert [(u.item, u.reason) for u in layout.unplaced] == [(0, WhyNot.TOO_BIG), (1, WhyNot.NO_ROOM)]
    assert len(layout.sheets) == 1


@pytest.mark.parametrize("turn", list(Turn))
@pytest.mark.parametrize("live", [LIVE, box(10, 10, 260, 150)], ids=["upright", "lying"])
def test_turn_rules_hold_on_upright_and_lying_sheets(nester: ProcessNester, turn: Turn, live: Polygon) -> None:
    pieces = (piece(0, ell(50, 10), 14), piece(1, Point(0, 0).buffer(12), 4, Cut.THROUGH))
    problem = PackProblem(pieces, live, PackingSpec(turn=turn, max_sheets=1))
    layout = pack(problem, nester, Watching(2))
    assert_sound(problem, layout)
    for placement in layout.sheets[0]:
        if turn is Turn.UPRIGHT:
            assert placement.turn_deg == 0
        elif turn is Turn.QUARTER:
            assert placement.turn_deg % 90 == pytest.approx(0, abs=1e-6)


def test_the_same_seed_gives_the_same_plan_when_the_search_ends_by_itself(nester: ProcessNester) -> None:
    pieces = (piece(0, ell(60, 12), 11), piece(1, Point(0, 0).buffer(13), 12))
    problem = PackProblem(pieces, LIVE, PackingSpec(max_sheets=1), seed=5)
    layouts = [pack(problem, nester, Watching(20)) for _ in range(2)]
    assert not layouts[0].time_limited
    assert layouts[0].sheets == layouts[1].sheets


def test_rounding_of_the_engine_is_caught_by_the_exact_check() -> None:
    """A placement a hundredth of a millimetre outside is not accepted, a millionth is."""
    square = {0: piece(0, box(0, 0, 20, 20), 1)}
    left, top = LIVE.bounds[:2]
    assert breaches([Placement(0, left - 0.01, top, 0)], square, LIVE, 2)
    assert not breaches([Placement(0, left - 5e-7, top, 0)], square, LIVE, 2)
    assert shapely.box(*LIVE.bounds).equals(LIVE)


@given(st.lists(st.tuples(st.floats(0, 300), st.floats(0, 300)), min_size=2, max_size=8, unique=True))
@tried(30)
def test_the_nearest_neighbour_is_the_least_of_all_distances(centres: list[tuple[float, float]]) -> None:
    shapes = [Point(x, y).buffer(1) for x, y in centres]
    pairs = [a.distance(b) for n, a in enumerate(shapes) for b in shapes[n + 1 :]]
    assert nearest_mm(shapes, shapes) == pytest.approx(min(pairs))
    assert nearest_mm(shapes[:1], shapes[:1]) is None


def test_what_lies_as_before_is_not_worked_out_again_unless_its_edges_are_others() -> None:
    edges = {1: as_multi([box(0, 0, 20, 20)])}
    layout = Layout(((Placement(1, 10, 10, 0), Placement(1, 40, 10, 0)),), (), time_limited=False)
    (first,) = lay(layout, edges, lambda _: LiveArea(LIVE, ()))
    (again,) = lay(layout, edges, lambda _: LiveArea(LIVE, ()), before=[first])
    assert again.lying is first.lying
    wider = {1: as_multi([box(0, 0, 25, 20)])}
    (other,) = lay(layout, wider, lambda _: LiveArea(LIVE, ()), before=[first])
    assert other.lying.area_mm2 == pytest.approx(2 * 25 * 20)


@pytest.mark.parametrize("held", [(), lying((1, 60, 60))])
def test_rows_take_no_sheet_more_than_they_may(held: tuple) -> None:
    plan = scene(item(1, quantity=90), packing=PackingSpec(max_sheets=2), held=held).plan()
    assert len(plan.layout.sheets) == 2
    assert plan.layout.unplaced
