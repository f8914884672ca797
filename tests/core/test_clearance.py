"""What a piece in hand keeps or breaks, and where it slides to."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon, box

from tests.tried import tried
from vamper.core.sheet.breaches import breaches
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
from vamper.core.sheet.lay.clearance import SLIDE_MM, Clearance, Distance, Moved
from vamper.core.sheet.layout import Piece
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement

LIVE = box(10, 10, 200, 260)
SQUARE = Piece(0, as_multi([box(0, 0, 20, 20)]), 9)
DISC = Piece(1, as_multi([Point(0, 0).buffer(12, quad_segs=32)]), 9)
PIECES = {0: SQUARE, 1: DISC}


def hand(piece: Piece, x: float, y: float, turn: float = 0.0) -> Moved:
    return Moved(piece, Placement(piece.item, x, y, turn).of(piece.edge))


def test_distances_name_the_neighbour_and_the_rim() -> None:
    clearance = Clearance(LIVE, 2, [Placement(0, 50, 50, 0)], PIECES)
    moved = hand(SQUARE, 75, 50)
    (neighbour,) = clearance.distances(SQUARE, moved.shape, 10)
    assert (neighbour.other, neighbour.mm, neighbour.is_broken) == (0, pytest.approx(5), False)
    assert neighbour.ends[0][0] == pytest.approx(70)
    assert neighbour.ends[1][0] == pytest.approx(75)
    near = clearance.distances(SQUARE, hand(SQUARE, 71, 50).shape, 10)
    assert near[0].is_broken
    (rim,) = clearance.distances(SQUARE, hand(SQUARE, 5, 150).shape, 10)
    assert (rim.other, rim.mm, rim.is_broken) == (None, pytest.approx(-5), True)


def test_through_cuts_keep_three_millimetres() -> None:
    through = Piece(2, SQUARE.edge, 1, Cut.THROUGH)
    clearance = Clearance(LIVE, 2, [Placement(0, 50, 50, 0)], PIECES)
    assert clearance.allows(SQUARE, hand(SQUARE, 72, 50).shape)
    assert not clearance.allows(through, hand(through, 72, 50).shape)
    assert clearance.allows(through, hand(through, 73, 50).shape)


def test_a_free_piece_does_not_slide_and_a_stuck_one_says_so() -> None:
    clearance = Clearance(LIVE, 2, [Placement(0, 50, 50, 0)], PIECES)
    assert clearance.slide([hand(SQUARE, 100, 100)]) == (0.0, 0.0)
    # In the middle of a field of squares there is no free place within reach.
    field = [Placement(0, 20 + 22 * n, 20 + 22 * m, 0) for n in range(6) for m in range(6)]
    assert Clearance(LIVE, 2, field, PIECES).slide([hand(SQUARE, 75, 75)]) is None


def test_a_slide_is_about_the_shortest() -> None:
    """A square over another by 5 mm goes back by 7: the overlap and the gap."""
    clearance = Clearance(LIVE, 2, [Placement(0, 50, 50, 0)], PIECES)
    by = clearance.slide([hand(SQUARE, 65, 50)])
    assert by is not None
    assert np.hypot(*by) == pytest.approx(7, abs=0.3)


@given(
    st.lists(st.tuples(st.floats(20, 170), st.floats(20, 230), st.sampled_from([0, 1])), min_size=1, max_size=12),
    st.floats(0, 210),
    st.floats(0, 270),
    st.floats(0, 360),
    st.floats(0, 6),
)
@tried(60)
def test_where_a_piece_slides_to_it_breaks_no_rule(
    others: list[tuple[float, float, int]], x: float, y: float, turn: float, gap: float
) -> None:
    staying = []
    for px, py, item in others:
        placement = Placement(item, px, py, 0)
        if not breaches([*staying, placement], PIECES, LIVE, gap):
            staying.append(placement)
    clearance = Clearance(LIVE, gap, staying, PIECES)
    by = clearance.slide([hand(SQUARE, x, y, turn)])
    if by is None:
        return
    assert np.hypot(*by) <= SLIDE_MM + 0.01
    assert not breaches([*staying, Placement(0, x + by[0], y + by[1], turn)], PIECES, LIVE, gap)


def test_two_pieces_slide_together() -> None:
    clearance = Clearance(LIVE, 2, [Placement(0, 50, 50, 0)], PIECES)
    by = clearance.slide([hand(SQUARE, 66, 50), hand(SQUARE, 66, 75)])
    assert by is not None
    assert clearance.allows(SQUARE, hand(SQUARE, 66 + by[0], 50 + by[1]).shape)
    assert clearance.allows(SQUARE, hand(SQUARE, 66 + by[0], 75 + by[1]).shape)


ELL = Piece(3, as_multi([Polygon([(0, 0), (10, 0), (10, 30), (40, 30), (40, 40), (0, 40)])]), 4)


@given(st.floats(0, 360), st.floats(-90, 90))
@tried(30)
def test_a_turn_keeps_the_middle_of_the_piece(start: float, by: float) -> None:
    pieces = {3: ELL}
    before = Placement(3, 80, 90, start)
    after = turned(before, by, pieces)
    hull = ELL.edge.convex_hull
    assert before.of(hull).centroid.distance(after.of(hull).centroid) < 1e-9
    assert turned(after, -by, pieces).x_mm == pytest.approx(80)


def test_turn_steps_follow_the_rule() -> None:
    assert turn_step(ELL, Turn.ANY) == 15
    assert turn_step(ELL, Turn.QUARTER) == 90
    own = Piece(3, ELL.edge, 1, turn=Turn.UPRIGHT)
    assert turn_step(own, Turn.ANY) == 0


def test_aligning_and_spacing() -> None:
    placements = [Placement(0, 20, 30, 0), Placement(0, 60, 34, 0), Placement(0, 150, 90, 0)]
    tops = {box_of(p, PIECES).top for p in aligned(placements, AlignedBy.TOP, PIECES)}
    assert tops == {30}
    assert {box_of(p, PIECES).right for p in aligned(placements, AlignedBy.RIGHT, PIECES)} == {170}
    middles = {box_of(p, PIECES).middle[0] for p in aligned(placements, AlignedBy.MIDDLE, PIECES)}
    assert len(middles) == 1
    first, second, third = (box_of(p, PIECES) for p in spaced(placements, SpacedAlong.ACROSS, PIECES))
    assert second.left - first.right == pytest.approx(third.left - second.right)
    assert (first.left, third.right) == (20, 170)
    down = [box_of(p, PIECES) for p in spaced(placements, SpacedAlong.DOWN, PIECES)]
    assert down[1].top - down[0].bottom == pytest.approx(down[2].top - down[1].bottom)


def test_exchanged_pieces_have_each_others_middles() -> None:
    first, second = Placement(0, 20, 30, 0), Placement(1, 100, 120, 30)
    one, other = exchanged(first, second, PIECES)
    assert box_of(one, PIECES).middle == pytest.approx(box_of(second, PIECES).middle)
    assert box_of(other, PIECES).middle == pytest.approx(box_of(first, PIECES).middle)
    assert shapely.area(one.of(SQUARE.edge)) == pytest.approx(400)


def test_without_a_gap_pieces_touch_but_do_not_overlap() -> None:
    clearance = Clearance(LIVE, 0, [Placement(0, 50, 50, 0)], PIECES)
    assert clearance.allows(SQUARE, hand(SQUARE, 70, 50).shape)
    assert not clearance.allows(SQUARE, hand(SQUARE, 69.5, 50).shape)


def test_neighbours_far_away_are_not_told_of() -> None:
    clearance = Clearance(LIVE, 2, [Placement(0, 50, 50, 0)], PIECES)
    assert [one.other for one in clearance.distances(SQUARE, hand(SQUARE, 84, 50).shape)] == [0]
    assert clearance.distances(SQUARE, hand(SQUARE, 87, 50).shape) == []


@pytest.mark.parametrize(("mm", "broken"), [(2.0, False), (2.0 - 5e-7, False), (1.999, True), (2.1, False)])
def test_a_distance_is_broken_where_more_than_rounding_is_missing(mm: float, broken: bool) -> None:
    assert Distance(None, mm, 2.0, ((0.0, 0.0), (0.0, mm))).is_broken is broken
