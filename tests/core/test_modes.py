"""Packing modes, held pieces, notched and part-used sheets, filling: whatever is asked for, every rule holds."""

from collections import Counter
from dataclasses import replace

import pytest
import shapely
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon, Point, Polygon, box

from tests.core.test_sheet import LIVE, Watching, ell, piece
from tests.tried import tried
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.layout import Layout, Piece, WhyNot
from vamper.core.sheet.offcut import largest_offcut
from vamper.core.sheet.pack.groups import groups_of
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.mode import MODES
from vamper.core.sheet.pack.modes.kits import kits_of
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem, strip_left
from vamper.core.sheet.pack.sheet_region import region_of
from vamper.core.values.cut import Cut
from vamper.core.values.item import Turn
from vamper.core.values.packing import PackingSpec
from vamper.core.values.placement import Pin, Placement, Sheet
from vamper.services.packing.nesting_process import ProcessNester

NOTCH = 14.0
NOTCHED = LIVE.difference(
    MultiPolygon(
        [
            box(x, y, x + NOTCH, y + NOTCH)
            for x in (LIVE.bounds[0], LIVE.bounds[2] - NOTCH)
            for y in (LIVE.bounds[1], LIVE.bounds[3] - NOTCH)
        ]
    )
)


def at(item: int, sheet: int, x: float, y: float, turn: float, pin: Pin = Pin.HAND) -> tuple[int, Placement]:
    """A piece that is held, with its sheet."""
    return sheet, Placement(item, x, y, turn, pin)


def by_sheet(*held: tuple[int, Placement]) -> tuple[Sheet, ...]:
    sheets = range(max((sheet for sheet, _ in held), default=-1) + 1)
    return tuple(tuple(one for sheet, one in held if sheet == number) for number in sheets)


def assert_keeps_rules(problem: PackProblem, layout: Layout) -> None:
    """Gap, live area, turn rules and held pieces."""
    for number, sheet in enumerate(layout.sheets):
        assert not breaches(sheet, problem.by_item, problem.live_of(number), problem.spec.gap_mm)
        for placement in sheet:
            turn = problem.by_item[placement.item].turn or problem.spec.turn
            if placement.pin is Pin.FREE and turn is Turn.UPRIGHT:
                assert placement.turn_deg == 0
            if placement.pin is Pin.FREE and turn is Turn.QUARTER:
                assert placement.turn_deg % 90 == pytest.approx(0, abs=1e-6)
    lying = {
        (n, p.item, p.x_mm, p.y_mm, p.turn_deg, p.pin)
        for n, sheet in enumerate(layout.sheets)
        for p in sheet
        if p.pin is not Pin.FREE
    }
    assert lying == {
        (n, h.item, h.x_mm, h.y_mm, h.turn_deg, h.pin) for n, sheet in enumerate(problem.held) for h in sheet
    }
    counts = Counter(p.item for sheet in layout.sheets for p in sheet)
    missing = Counter({u.item: u.quantity for u in layout.unplaced})
    for one in problem.pieces:
        assert counts[one.item] + missing[one.item] >= one.quantity


@given(
    st.lists(st.tuples(st.floats(15, 70), st.floats(15, 70), st.integers(1, 5)), min_size=1, max_size=4),
    st.sampled_from([mode.key for mode in MODES]),
    st.sampled_from(Turn),
    st.sampled_from([LIVE, NOTCHED]),
    st.booleans(),
    st.floats(0, 4),
    st.booleans(),
)
@tried(25, suppress_health_check=list(HealthCheck))
def test_no_layout_ever_breaks_a_rule(
    nester: ProcessNester,
    sizes: list[tuple[float, float, int]],
    mode: str,
    turn: Turn,
    live: Polygon,
    held: bool,
    gap: float,
    fill: bool,
) -> None:
    pieces = tuple(
        Piece(n, piece(n, box(0, 0, w, h).buffer(1), q).edge, q, Cut.KISS, 0.0, (None, Turn.UPRIGHT)[n % 2], n + 1)
        for n, (w, h, q) in enumerate(sizes)
    )
    spec = PackingSpec(gap, turn, None, mode, fill)
    holding = by_sheet(at(0, 0, 90, 100, 17.0, Pin.LOCKED)) if held else ()
    problem = PackProblem(pieces, live, spec, held=holding)
    watch = Watching(0.6)
    layout = pack(problem, nester, watch)
    for seen in (*watch.seen, layout):
        assert_keeps_rules(problem, seen)


def test_held_pieces_stay_and_the_rest_is_packed_round_them(nester: ProcessNester) -> None:
    pieces = (piece(0, ell(50, 12), 8), piece(1, Point(0, 0).buffer(12), 8))
    held = by_sheet(at(0, 0, 80, 100, 30.0, Pin.HAND), at(1, 0, 40, 40, 0.0, Pin.LOCKED))
    problem = PackProblem(pieces, LIVE, PackingSpec(), held=held)
    layout = pack(problem, nester, Watching(6))
    assert_keeps_rules(problem, layout)
    assert layout.pieces == 16
    assert len(layout.sheets) == 1


def test_the_notched_part_of_a_sheet_is_used(nester: ProcessNester) -> None:
    """Strips that fit only between the notches, along the sheet's sides."""
    strips = (piece(0, box(0, 0, 200, 9), 2), piece(1, box(0, 0, 60, 50), 12))
    problem = PackProblem(strips, NOTCHED, PackingSpec(max_sheets=1))
    layout = pack(problem, nester, Watching(8))
    assert_keeps_rules(problem, layout)
    left, top, right, bottom = region_of(problem, 0).room.bounds
    assert (right - left, bottom - top) != (194.3, 257.8)
    outside = [p for p in layout.sheets[0] if not box(left, top, right, bottom).covers(p.of(strips[p.item].edge))]
    assert outside, "nothing lies beside the largest rectangle"


def test_equal_pieces_on_a_notched_sheet_lie_in_a_lattice(nester: ProcessNester) -> None:
    """Pairs of triangles, where rows of boxes hold 8 × 5. It ends as soon as all lie there."""
    triangles = piece(0, Polygon([(0, 0), (40, 0), (20, 24)]), 66)
    problem = PackProblem((triangles,), NOTCHED, PackingSpec(max_sheets=1))
    layout = pack(problem, nester, Watching(60))
    assert_keeps_rules(problem, layout)
    assert layout.pieces == 66


def test_a_part_used_first_sheet_is_filled_where_it_is_not_used(nester: ProcessNester) -> None:
    spent = box(10.8, 10.8, 205.1, 150)
    problem = PackProblem((piece(0, box(0, 0, 40, 40), 20),), LIVE, PackingSpec(), first_live=LIVE.difference(spent))
    layout = pack(problem, nester, Watching(5))
    assert_keeps_rules(problem, layout)
    assert layout.pieces == 20
    # Two straight rows of four; askew there may be room for one more.
    assert len(layout.sheets[0]) >= 8
    assert all(p.of(problem.pieces[0].edge).bounds[1] >= 150 for p in layout.sheets[0])


def test_one_design_a_sheet(nester: ProcessNester) -> None:
    pieces = tuple(piece(n, box(0, 0, 40 + n, 40), 3) for n in range(3))
    problem = PackProblem(pieces, LIVE, PackingSpec(mode="one-per-sheet"))
    layout = pack(problem, nester, Watching(3))
    assert_keeps_rules(problem, layout)
    assert [{p.item for p in sheet} for sheet in layout.sheets] == [{0}, {1}, {2}]
    short = replace(problem, spec=replace(problem.spec, max_sheets=2))
    assert [(u.item, u.reason) for u in pack(short, nester, Watching(3)).unplaced] == [(2, WhyNot.NO_ROOM)]


def test_colours_never_share_a_sheet(nester: ProcessNester) -> None:
    pieces = tuple(
        replace(piece(n, box(0, 0, 30, 30), 2), sheet_colour=colour) for n, colour in enumerate(("#AA0000", "#0000AA"))
    )
    layout = pack(PackProblem(pieces, LIVE, PackingSpec()), nester, Watching(3))
    assert [{p.item for p in sheet} for sheet in layout.sheets] == [{0}, {1}]
    # A sheet that something is held on keeps its place before those of colours named earlier.
    held = by_sheet(at(1, 0, 60, 60, 0.0, Pin.HAND))
    layout = pack(PackProblem(pieces, LIVE, PackingSpec(), held=held), nester, Watching(3))
    assert [{p.item for p in sheet} for sheet in layout.sheets] == [{1}, {0}]


def test_kits_are_equal_and_what_is_over_is_told(nester: ProcessNester) -> None:
    pieces = (piece(0, box(0, 0, 60, 60), 18), piece(1, box(0, 0, 30, 30), 9))
    layout = pack(PackProblem(pieces, LIVE, PackingSpec(mode="kits")), nester, Watching(6))
    kits = [Counter(p.item for p in sheet) for sheet in layout.sheets]
    assert len(kits) == 3
    assert kits[0] == kits[1] == kits[2] == Counter({0: 6, 1: 3})
    assert not layout.unplaced
    odd = (piece(0, box(0, 0, 60, 60), 19), piece(1, box(0, 0, 30, 30), 9))
    layout = pack(PackProblem(odd, LIVE, PackingSpec(mode="kits")), nester, Watching(6))
    assert [(u.item, u.quantity, u.reason) for u in layout.unplaced] == [(0, 1, WhyNot.NOT_IN_KIT)]


def test_kits_are_packed_round_what_is_held(nester: ProcessNester) -> None:
    """Something on the first sheet, nothing on the second, a lock on the third, and a part-used first sheet."""
    pieces = (piece(0, box(0, 0, 60, 60), 20), piece(1, box(0, 0, 30, 30), 15))
    held = by_sheet(
        at(0, 0, 20, 100, 0.0, Pin.HAND),
        at(1, 0, 150, 40, 0.0, Pin.LOCKED),
        at(1, 2, 60, 70, 45.0, Pin.LOCKED),
    )
    first = LIVE.difference(box(10.8, 10.8, 50, 50))
    problem = PackProblem(pieces, LIVE, PackingSpec(mode="kits"), first_live=first, held=held)
    layout = pack(problem, nester, Watching(10))
    assert_keeps_rules(problem, layout)
    assert [Counter(p.item for p in sheet) for sheet in layout.sheets] == [Counter({0: 4, 1: 3})] * 5
    assert layout.sheets[3] == layout.sheets[4]
    assert not layout.unplaced


def test_sheets_that_no_kit_can_be_like_are_packed_mixed(nester: ProcessNester) -> None:
    """Three of the four large ones are held on the second sheet: no two sheets can be alike."""
    pieces = (piece(0, box(0, 0, 80, 80), 4), piece(1, box(0, 0, 70, 70), 4))
    held = by_sheet(*(at(0, 1, x, y, 0.0, Pin.HAND) for x, y in ((12, 12), (100, 12), (12, 100))))
    problem = PackProblem(pieces, LIVE, PackingSpec(mode="kits"), held=held)
    layout = pack(problem, nester, Watching(4))
    assert_keeps_rules(problem, layout)
    assert layout.pieces == 8


def test_kit_numbers_come_evenly_shared_first() -> None:
    assert list(kits_of([12, 6]))[:4] == [1, 2, 3, 6]
    assert list(kits_of([5, 3])) == [1, 2, 3]


def test_tidy_rows_are_straight(nester: ProcessNester) -> None:
    pieces = tuple(piece(n, box(0, 0, 20 + 3 * n, 25), 6) for n in range(4))
    layout = pack(PackProblem(pieces, LIVE, PackingSpec(mode="tidy")), nester, Watching(1))
    assert not layout.time_limited
    tops = Counter(round(p.of(pieces[p.item].edge).bounds[1], 3) for p in layout.sheets[0])
    assert len(tops) <= 6
    assert sum(tops.values()) == 24


def test_filling_takes_the_most_wanted_first(nester: ProcessNester) -> None:
    pieces = (
        piece(0, box(0, 0, 80, 80), 2),
        replace(piece(1, box(0, 0, 30, 30), 1), fill_priority=2),
        replace(piece(2, box(0, 0, 25, 25), 0), fill_priority=1),
    )
    layout = pack(PackProblem(pieces, LIVE, PackingSpec(fill=True)), nester, Watching(20))
    counts = Counter(p.item for p in layout.sheets[0])
    assert (counts[0], counts[1]) == (2, 1)
    # Nothing more goes in: the sheet is full of the smaller, more wanted one.
    assert counts[2] > 20
    full = [p.of(pieces[p.item].edge) for p in layout.sheets[0]]
    rest = largest_offcut(LIVE, full, 2)
    assert min(rest.width_mm, rest.height_mm) < 30


def test_the_last_sheet_is_made_compact(nester: ProcessNester) -> None:
    """A few pieces leave a strip of the sheet, reported as a rectangle."""
    pieces = (piece(0, ell(50, 12), 3), piece(1, Point(0, 0).buffer(15), 3))
    problem = PackProblem(pieces, LIVE, PackingSpec())
    layout = pack(problem, nester, Watching(8))
    edges = [p.of(problem.by_item[p.item].edge) for p in layout.sheets[0]]
    rest = largest_offcut(LIVE, edges, 2)
    assert rest.area_mm2 > 0.6 * LIVE.area
    left = shapely.box(rest.left_mm, rest.top_mm, rest.left_mm + rest.width_mm, rest.top_mm + rest.height_mm)
    assert all(edge.distance(left) >= 2 - 1e-6 for edge in edges)


@given(st.lists(st.tuples(st.floats(15, 170), st.floats(15, 220), st.floats(5, 25)), max_size=6))
@tried(40)
def test_an_offcut_keeps_clear_of_every_piece_and_the_rim(discs: list[tuple[float, float, float]]) -> None:
    edges = [Point(x, y).buffer(r) for x, y, r in discs]
    found = largest_offcut(NOTCHED, edges, 2)
    shape = box(found.left_mm, found.top_mm, found.left_mm + found.width_mm, found.top_mm + found.height_mm)
    assert NOTCHED.buffer(1e-6, join_style="mitre").covers(shape)
    assert all(edge.distance(shape) >= 2 - 1e-3 for edge in edges)


@pytest.mark.parametrize(
    ("taken", "left"),
    [
        (box(10, 10, 110, 60), (10, 62, 100, 48)),
        (box(10, 60, 110, 110), (10, 10, 100, 48)),
        (box(10, 10, 60, 110), (62, 10, 48, 100)),
        (box(60, 10, 110, 110), (10, 10, 48, 100)),
    ],
)
def test_an_offcut_is_what_a_piece_over_one_side_leaves(taken: Polygon, left: tuple[float, ...]) -> None:
    found = largest_offcut(box(10, 10, 110, 110), [taken], 2)
    assert (found.left_mm, found.top_mm, found.width_mm, found.height_mm) == pytest.approx(left, abs=1.0)
    assert taken.distance(box(found.left_mm, found.top_mm, found.left_mm + found.width_mm,
                              found.top_mm + found.height_mm)) >= 2 - 1e-3  # fmt: skip


def test_rows_go_over_as_many_sheets_as_are_needed_and_round_what_is_held() -> None:
    pieces = (piece(0, box(0, 0, 60, 60), 40),)
    layout = in_rows(PackProblem(pieces, LIVE, PackingSpec()))
    assert layout.pieces == 40
    assert len(layout.sheets) >= 3
    held = PackProblem(pieces, LIVE, PackingSpec(), held=by_sheet(at(0, 0, 80, 120, 0.0)))
    round_it = in_rows(held)
    assert round_it.pieces == 40
    assert_keeps_rules(held, round_it)


def test_what_is_held_alone_on_its_sheet_stays_there() -> None:
    held = by_sheet(at(0, 0, 80, 120, 0.0), at(0, 1, 60, 60, 0.0))
    assert in_rows(PackProblem((piece(0, box(0, 0, 60, 60), 2),), LIVE, PackingSpec(), held=held)).sheets == held


@given(st.floats(20, 70), st.floats(8, 40), st.floats(0, 40))
@tried(30)
def test_tidy_rows_are_the_better_of_turned_and_as_they_are(width: float, height: float, lean: float) -> None:
    slanted = Polygon([(0, 0), (width, 0), (width + lean, height), (lean, height)])
    problem = PackProblem((piece(0, slanted, 60),), LIVE, PackingSpec(mode="tidy", max_sheets=1))  # type: ignore[arg-type]
    found = MODES["tidy"].pack(problem, None, Watching(5))  # type: ignore[arg-type]
    assert found.pieces == max(in_rows(problem, as_they_are).pieces for as_they_are in (False, True))


def test_an_empty_sheet_is_its_own_offcut() -> None:
    found = largest_offcut(box(10, 10, 110, 60), [], 2)
    assert (found.left_mm, found.top_mm, found.width_mm, found.height_mm) == (10, 10, 100, 50)


def test_a_turn_rule_of_its_own_beats_the_jobs(nester: ProcessNester) -> None:
    pieces = (replace(piece(0, ell(60, 10), 9), turn=Turn.UPRIGHT), piece(1, ell(40, 10), 6))
    layout = pack(PackProblem(pieces, LIVE, PackingSpec(max_sheets=1)), nester, Watching(3))
    assert {p.turn_deg for p in layout.sheets[0] if p.item == 0} == {0.0}


def test_everything_held_needs_no_engine() -> None:
    class Never:
        def nest(self, *_: object) -> None:
            raise AssertionError("the engine was asked")

    held = by_sheet(at(0, 0, 20, 20, 0.0), at(0, 1, 20, 20, 0.0))
    layout = pack(PackProblem((piece(0, box(0, 0, 30, 30), 2),), LIVE, PackingSpec(), held=held), Never(), Watching(1))
    assert [sheet[0] for sheet in layout.sheets] == [Placement(0, 20, 20, 0.0, Pin.HAND)] * 2


@pytest.mark.parametrize("wishes", [(1, 1, 1, 1), (1, 1, 2, 2)])
def test_equal_wishes_share_the_space_evenly(nester: ProcessNester, wishes: tuple[int, ...]) -> None:
    """Each gets as many as the others, give or take one, as long as all of them go in."""
    pieces = tuple(
        replace(piece(n, box(0, 0, side, side), 1), fill_priority=priority)
        for n, (side, priority) in enumerate(zip((30, 32, 34, 36), wishes, strict=True))
    )
    layout = pack(PackProblem(pieces, LIVE, PackingSpec(fill=True)), nester, Watching(8))
    counts = Counter(p.item for p in layout.sheets[0])
    # Squares this alike go in as long as any does, so that nothing but the sharing decides.
    wanted = [counts[n] for n, priority in enumerate(wishes) if priority == 1]
    assert max(wanted) - min(wanted) <= 1
    assert min(wanted) > 3
    assert sum(counts.values()) > 20


def test_what_still_goes_in_after_the_sharing_goes_in(nester: ProcessNester) -> None:
    """Large ones run out of room first; then the small ones take the rest."""
    pieces = (
        replace(piece(0, box(0, 0, 80, 80), 1), fill_priority=1),
        replace(piece(1, box(0, 0, 20, 20), 1), fill_priority=1),
    )
    layout = pack(PackProblem(pieces, LIVE, PackingSpec(fill=True)), nester, Watching(8))
    counts = Counter(p.item for p in layout.sheets[0])
    assert counts[0] >= 2
    assert counts[1] > counts[0] + 1


def test_extra_copies_count_after_everything_wanted() -> None:
    small, large = (Piece(n, MultiPolygon([box(0, 0, s, s)]), 2 - n) for n, s in enumerate((10, 20)))
    problem = PackProblem((small, large), box(0, 0, 200, 200), PackingSpec())

    def ranked(*items: int) -> tuple[object, ...]:
        sheet = tuple(Placement(one, 25.0 * n, 10.0, 0.0) for n, one in enumerate(items))
        return problem.rank(Layout((sheet,), (), False))

    # Two small ones and one large are wanted; what is there besides is extra, by its area.
    assert ranked(0, 0, 1)[4] == 0
    assert ranked(0, 0, 1, 0)[4] == pytest.approx(100)
    assert ranked(0, 0, 1, 1)[4] == pytest.approx(400)
    assert ranked(0, 0, 0, 0)[:2] < ranked(0, 0, 1)[:2]
    assert ranked(0, 0, 1) < ranked(0, 0, 1, 0) < ranked(0, 0, 1, 1)


@pytest.mark.parametrize(("sides", "most"), [((20, 41), 48), ((20, 90), 22)])
def test_tidy_rows_hold_more_one_way_or_the_other(sides: tuple[int, int], most: int) -> None:
    """The first lie better as they are, the others turned."""
    problem = PackProblem((piece(0, box(0, 0, *sides), 60),), LIVE, PackingSpec(mode="tidy", max_sheets=1))
    assert MODES["tidy"].pack(problem, None, Watching(5)).pieces == most  # type: ignore[arg-type]


@pytest.mark.parametrize(("x", "y", "left"), [(0, 0, 13_000), (80, 0, 13_000), (0, 130, 13_000), (40, 65, 6_500)])
def test_the_strip_that_is_left_is_the_largest_beside_or_below_all_pieces(x: float, y: float, left: float) -> None:
    live, square = box(10, 10, 110, 160), piece(0, box(0, 0, 20, 20), 1)
    assert strip_left([Placement(0, 10 + x, 10 + y)], {0: square}, live) == pytest.approx(left)


def test_the_strip_beside_a_column_is_told_too() -> None:
    live, bar = box(10, 10, 110, 160), piece(0, box(0, 0, 20, 140), 1)
    assert strip_left([Placement(0, 10, 15)], {0: bar}, live) == pytest.approx(80 * 150)
    assert strip_left([], {0: bar}, live) == 100 * 150


def test_what_is_not_asked_for_is_in_no_group() -> None:
    asked, filler, none = piece(1, box(0, 0, 9, 9), 2), piece(2, box(0, 0, 9, 9), 0), piece(3, box(0, 0, 9, 9), 0)
    pieces = (asked, replace(filler, fill_priority=1), none)

    def grouped(fill: bool) -> set[int]:
        problem = PackProblem(pieces, LIVE, PackingSpec(fill=fill))
        return {one.item for group in groups_of(problem) for one in group}

    assert grouped(fill=False) == {1}
    assert grouped(fill=True) == {1, 2}


def test_modes_say_what_they_keep_apart_and_even() -> None:
    assert {mode.key for mode in MODES if mode.apart} == {"one-per-sheet"}
    assert {mode.key for mode in MODES if mode.even} == {"kits"}


def test_equal_sheets_come_first_only_where_kits_are_wanted() -> None:
    pieces = (piece(1, box(0, 0, 10, 10), 2), piece(2, box(0, 0, 10, 10), 2))

    def laid(*sheets: tuple[int, ...]) -> Layout:
        placed = tuple(tuple(Placement(item, 20.0 * n, 20.0) for n, item in enumerate(sheet)) for sheet in sheets)
        return Layout(placed, (), False)

    even, uneven = laid((1, 2), (1, 2)), laid((1, 1, 2), (2,))
    kits = PackProblem(pieces, LIVE, PackingSpec(mode="kits"))
    assert (kits.rank(even)[0], kits.rank(uneven)[0]) == (True, False)
    mixed = PackProblem(pieces, LIVE, PackingSpec(mode="mixed"))
    assert not mixed.rank(even)[0]
