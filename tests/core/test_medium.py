"""What is too fine for paper and card: told by which stock or size holds it; points of stars are no strips."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.affinity import scale
from shapely.geometry import LineString, MultiPolygon, Point, Polygon, box

from tests.scenes import Scene, item, masked, scene
from tests.tried import tried
from vamper.core.edge.medium import wanted_of
from vamper.core.edge.thin import holding_neck, thin_places
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import FixTarget
from vamper.core.values.geometry import as_multi, parts
from vamper.core.values.stock import STOCK_BY_KEY

BARE = EdgeSpec("bare", 0.0, fill_holes=False, join=False)


def star(points: int, outer: float, inner: float) -> MultiPolygon:
    turn = np.arange(2 * points) * math.pi / points
    far = np.where(np.arange(2 * points) % 2 == 0, outer, inner)
    return MultiPolygon([Polygon(np.column_stack([far * np.sin(turn), -far * np.cos(turn)]))])


@pytest.mark.parametrize(("points", "inner"), [(5, 0.42), (6, 0.55), (8, 0.6)])
def test_pointed_tips_and_the_notches_between_them_are_neither_strips_nor_slots(points: int, inner: float) -> None:
    assert thin_places(star(points, 30, 30 * inner), 2.0) == ([], [])


def test_a_long_spike_and_a_slot_still_are() -> None:
    disc = Point(0, 0).buffer(15)
    spike = Polygon([(14, -0.9), (40, 0), (14, 0.9)])
    necks, _ = thin_places(as_multi(parts(shapely.union_all([disc, spike]))), 2.0)
    assert len(necks) == 1
    slotted = disc.difference(box(-1, -20, 0.2, 0))
    _, slots = thin_places(as_multi(parts(slotted)), 2.0)
    assert len(slots) == 1
    strip = shapely.union_all([disc, Point(50, 0).buffer(15), LineString([(0, 0), (50, 0)]).buffer(0.6)])
    necks, _ = thin_places(as_multi(parts(strip)), 2.0)
    assert len(necks) == 1


@given(width=st.floats(0.6, 4.0), by=st.floats(0.5, 3.0))
@tried(20)
def test_a_neck_grows_with_its_drawing(width: float, by: float) -> None:
    shape = as_multi(parts(shapely.union_all([box(0, 0, 20, 20), box(40, 0, 60, 20), box(19, 9, 41, 9 + width)])))
    found = holding_neck(shape, 3.0)
    assert found == pytest.approx(min(width, 3.0), rel=0.06)
    larger = scale(shape, by, by, origin=(0, 0))
    assert holding_neck(larger, 3.0 * by) == pytest.approx(found * by, rel=0.08)


def test_what_a_drawing_wants_of_each_stock_holds_at_the_size_that_is_told() -> None:
    shape = as_multi(parts(shapely.union_all([box(0, 0, 20, 20), box(40, 0, 60, 20), box(19, 9, 41, 9.9)])))
    stocks = tuple(STOCK_BY_KEY[key] for key in ("card", "satin-vinyl", "plain-vinyl"))
    wanted = wanted_of(60.0, holding_neck(shape, 2.0), stocks)
    assert [one.holds for one in wanted] == [False, False, True]
    for one in wanted:
        assert one.from_mm is not None
        grown = scale(shape, one.from_mm / 60, one.from_mm / 60, origin=(0, 0))
        assert thin_places(grown, one.stock.least_neck_mm) == ([], [])
    assert [one.from_mm for one in wanted_of(60.0, 0.0, stocks)] == [None] * 3


def fine(longest_mm: float, stock: str = "card") -> Scene:
    """A frame with a cross of strips in it, cut out of card on its own outline."""
    alpha = np.zeros((400, 400), bool)
    alpha[20:380, 20:380] = True
    for left in (50, 203):
        for top in (50, 203):
            alpha[top : top + 147, left : left + 147] = False
    return scene(item(width_mm=longest_mm, edge=BARE), stock=stock, plain=True, pictures={1: masked(alpha)})


def test_card_that_is_too_fine_names_a_stock_and_a_size_that_hold_it() -> None:
    small = fine(60)
    finding = small.one("art.medium")
    assert "art.thin" not in small.codes()
    assert "Plain coloured vinyl" in finding.text
    assert {fix.target for fix in finding.fixes} == {FixTarget.ITEM, FixTarget.JOB}
    for fix in finding.fixes:
        other = fix.changes.get("stock")
        after = small.with_fix(finding, fix) if other is None else fine(60, str(other))
        assert not {"art.medium", "art.thin"} & set(after.codes())
    assert "art.medium" not in fine(160).codes()


def test_no_size_is_offered_that_no_sheet_holds() -> None:
    alpha = np.zeros((400, 400), bool)
    alpha[20:380, 20:380] = True
    alpha[22:378, 22:378] = False
    finding = scene(item(width_mm=60, edge=BARE), stock="card", plain=True, pictures={1: masked(alpha)}).one(
        "art.medium"
    )
    assert all(fix.target is FixTarget.JOB for fix in finding.fixes)
