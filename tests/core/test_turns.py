"""Boxes at every turn, and pieces that fit only askew."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon, box

from tests.core.test_sheet import LIVE, piece
from tests.tried import tried
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.lay.turns import best_turn, boxes_at, turns_of
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


def test_rows_lay_askew_what_fits_no_other_way() -> None:
    pieces = [piece(0, box(0, 0, 300, 8), 1), piece(1, box(0, 0, 30, 30), 4)]
    sheets = rows_of_boxes(pieces, LIVE, 2, Turn.ANY, None)
    assert sum(map(len, sheets)) == 5
    for sheet in sheets:
        assert not breaches(sheet, {p.item: p for p in pieces}, LIVE, 2)
    assert sum(map(len, rows_of_boxes(pieces, LIVE, 2, Turn.QUARTER, None))) == 4
