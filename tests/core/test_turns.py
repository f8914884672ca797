"""Boxes at every turn, and pieces that fit only askew."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Point, Polygon, box

from tests.core.test_sheet import LIVE, piece
from tests.tried import tried
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.lay.turns import best_turn, boxes_at, distinct, turns_of
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.values.geometry import as_multi, placed
from vamper.core.values.item import Turn


@given(
    st.lists(st.tuples(st.floats(0, 80), st.floats(0, 80)), min_size=3, max_size=7),
    st.lists(st.floats(0, 360), min_size=1, max_size=5),
)
@tried(40)
def test_boxes_are_those_of_the_turned_shape(points: list[tuple[float, float]], degrees: list[float]) -> None:
    shape = Polygon(points).convex_hull
    if not isinstance(shape, Polygon):
        return
    for (width, height), turn in zip(boxes_at(as_multi([shape]), np.array(degrees)), degrees, strict=True):
        left, top, right, bottom = placed(shape, 3, 4, turn).bounds
        assert (width, height) == pytest.approx((right - left, bottom - top), abs=1e-6)


def test_only_free_turns_are_tried_where_only_they_are_allowed() -> None:
    assert turns_of(Turn.UPRIGHT).tolist() == [0]
    assert turns_of(Turn.QUARTER).tolist() == [0, 90]
    assert len(turns_of(Turn.ANY)) > 300


def test_a_bar_lies_along_the_diagonal_it_fits() -> None:
    bar = as_multi([box(0, 0, 300, 8)])
    turn, overhang = best_turn(bar, (194.3, 257.8), Turn.ANY)
    assert overhang < 0
    assert abs(math.tan(math.radians(turn))) == pytest.approx(257.8 / 194.3, rel=0.25)
    assert best_turn(bar, (194.3, 257.8), Turn.QUARTER)[1] > 40


@pytest.mark.parametrize(
    ("shape", "quarters", "of_sixteen"),
    [
        (Point(5, 3).buffer(20, 64), [0], 1),
        (box(3, 3, 33, 33), [0], 4),
        (box(3, 3, 50, 33), [0, 90], 8),
        (Polygon([(0, 0), (40, 0), (0, 20)]), [0, 90, 180, 270], 16),
        # As wide as it is high, its middle in the middle, and yet not the same on its head.
        (box(0, 0, 40, 40).difference(box(5, 5, 12, 8)).difference(box(28, 34, 35, 38)), [0, 90, 180, 270], 16),
    ],
    ids=["disc", "square", "oblong", "wedge", "notches"],
)
def test_turns_in_which_a_piece_is_the_same_count_once(shape: Polygon, quarters: list[int], of_sixteen: int) -> None:
    assert distinct(as_multi([shape]), [0, 90, 180, 270]) == quarters
    assert len(distinct(as_multi([shape]), [22.5 * n for n in range(16)])) == of_sixteen


@given(st.lists(st.tuples(st.floats(0, 60), st.floats(0, 60)), min_size=3, max_size=6))
@tried(40)
def test_a_turn_is_left_out_only_where_another_is_the_same(points: list[tuple[float, float]]) -> None:
    shape = Polygon(points).convex_hull.buffer(2)
    all_turns = [0.0, 90.0, 180.0, 270.0]
    kept = distinct(as_multi([shape]), all_turns)
    middle = shape.centroid
    for turn in set(all_turns) - set(kept):
        lying = affinity.rotate(shape, turn, middle)
        apart = min(lying.symmetric_difference(affinity.rotate(shape, other, middle)).area for other in kept)
        assert apart < 0.03 * shape.length


def test_rows_lay_askew_what_fits_no_other_way() -> None:
    pieces = [piece(0, box(0, 0, 300, 8), 1), piece(1, box(0, 0, 30, 30), 4)]
    sheets = rows_of_boxes(pieces, LIVE, 2, Turn.ANY, None)
    assert sum(map(len, sheets)) == 5
    for sheet in sheets:
        assert not breaches(sheet, {p.item: p for p in pieces}, LIVE, 2)
    assert sum(map(len, rows_of_boxes(pieces, LIVE, 2, Turn.QUARTER, None))) == 4
