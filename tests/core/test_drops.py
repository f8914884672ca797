"""Test cuts in the waste: clear of pieces, marks and one another; the tell-tale where no mark is near."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point, Polygon, box

from tests.tried import tried
from vamper.core.cutting.drops import (
    DROP_MM,
    Drop,
    TestCut,
    drop_outline,
    drop_slit,
    farthest_corner,
    ladder_places,
    offcut_places,
    tell_tale_place,
)
from vamper.core.sheet.offcut import places_near
from vamper.core.values.calibration import Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.paper import Paper

LIVE = box(10, 10, 200, 270)
MARKS = [box(5, 5, 16, 16), box(194, 5, 205, 16), box(5, 264, 16, 275)]
DISCS = st.lists(st.tuples(st.floats(20, 190), st.floats(20, 260), st.floats(3, 40)), max_size=14)


def shapes(places: list[tuple[float, float]]) -> list[Polygon]:
    return [Polygon(Drop(x, y, 100, 1).loop) for x, y in places]


def test_a_drop_is_six_millimetres_tall_with_a_slit_across_its_belly() -> None:
    drop = Polygon(drop_outline())
    assert drop.is_valid
    left, top, right, bottom = drop.bounds
    assert (top, bottom) == pytest.approx((0, DROP_MM), abs=1e-6)
    assert 0 <= left < right <= DROP_MM
    assert drop.contains(shapely.LineString(drop_slit()))
    # The tip is the one sharp corner.
    points = drop_outline()
    before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turns = np.degrees(
        np.arctan2(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1))
    )
    assert (np.abs(turns) > 30).sum() == 1
    assert turns.argmax() == 0


@tried(25)
@given(DISCS)
def test_drops_lie_in_the_waste_clear_of_everything(discs: list[tuple[float, float, float]]) -> None:
    taken = [Point(x, y).buffer(r) for x, y, r in discs] + MARKS
    first, second = (ladder_places(LIVE, taken, MARKS, before) for before in (0, 1))
    tale = tell_tale_place(LIVE, taken, MARKS)
    drops = shapes([*([tale] if tale else []), *(first or []), *(second or [])])
    for number, drop in enumerate(drops):
        assert LIVE.buffer(1e-6).contains(drop)
        assert all(drop.distance(one) >= 2 - 0.05 for one in taken)
        assert all(drop.distance(other) >= 1 for other in drops[:number])
    assert first is None or len(first) == 6
    assert second is None or first is not None


def test_the_tell_tale_lies_in_the_corner_without_a_mark() -> None:
    assert farthest_corner(LIVE, MARKS) == (200, 270)
    x, y = tell_tale_place(LIVE, MARKS, MARKS) or (0, 0)
    assert (x, y) == pytest.approx((200 - 7, 270 - 7), abs=0.5)
    assert farthest_corner(LIVE, []) == (200, 270)


@pytest.mark.parametrize(("strip_mm", "fits"), [(9.3, True), (8.7, False)])
def test_a_strip_as_wide_as_a_drop_with_its_clearances_is_enough(strip_mm: float, fits: bool) -> None:
    """Six of drop, two to the piece, one to the rim."""
    taken = [box(strip_mm, 0, 60, 80)]
    assert (tell_tale_place(box(0, 0, 60, 80), taken, []) is not None) == fits


def test_a_full_sheet_has_no_room_and_says_so() -> None:
    assert ladder_places(LIVE, [box(0, 0, 220, 280)], MARKS) is None
    assert tell_tale_place(LIVE, [box(0, 0, 220, 280)], MARKS) is None


def test_six_drops_go_on_a_narrow_strip_or_two_rows_of_an_offcut() -> None:
    assert len(offcut_places(Paper(48, 8))) == 6
    assert len({y for _, y in offcut_places(Paper(24, 16))}) == 2
    with pytest.raises(BadInput, match="must be at least"):
        offcut_places(Paper(30, 10))


def test_the_nearest_place_comes_first() -> None:
    found = list(places_near(LIVE, [], 20, 10, (10, 10)))
    assert (found[0].left_mm, found[0].top_mm) == (10, 10)
    away = [np.hypot(one.left_mm + 10 - 10, one.top_mm + 5 - 10) for one in found]
    assert away == sorted(away)


def test_a_test_cut_is_corrected_like_the_pieces() -> None:
    off = Calibration(((1.0, 0.0, 0.5), (0.0, 1.0, -0.25)), 0.05)
    drop = Drop(20, 30, 100, 1)
    plain = TestCut(Paper(100, 100), Cut.KISS, 50, (drop,), "t")
    moved = TestCut(Paper(100, 100), Cut.KISS, 50, (drop,), "t", off)
    for one, other in zip(plain.lines(drop), moved.lines(drop), strict=True):
        assert other - one == pytest.approx(np.tile([-0.5, 0.25], (len(one), 1)))
    slit, loop = plain.lines(drop)
    assert loop[0] == pytest.approx(loop[-1])
    assert len(slit) == 2


@pytest.mark.parametrize("mark_x", [-60.0, 180.0])
def test_two_ladders_and_the_tell_tale_go_on_a_strip_as_long_as_they_are(mark_x: float) -> None:
    """Each drop has a cell of its own, two millimetres wider than it is; the corner without a mark comes first."""
    cell = DROP_MM + 2
    strip = box(0, 0, 13 * cell + 1, cell + 0.5)
    ladders = [ladder_places(strip, [], [Point(mark_x, 4)], before) or [] for before in range(3)]
    assert [len(places) for places in ladders] == [6, 6, 0]
    cells = [box(x - 1, y - 1, x + cell - 1, y + cell - 1) for places in ladders for x, y in places]
    assert shapely.union_all(cells).area == pytest.approx(12 * cell**2)
