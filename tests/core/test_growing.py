"""One piece grown into its gap: it keeps every rule, stays in its place, and uses a room that lies to one side."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.affinity import scale, translate

from tests.core.test_clearance import DISC, LIVE, PIECES, SQUARE, hand
from tests.tried import tried
from vamper.core.sheet.lay.clearance import Clearance
from vamper.core.sheet.lay.growing import MOST_GROWTH, growth_of
from vamper.core.values.placement import Placement

GAP = 2.0


def test_it_grows_into_room_on_one_side_only() -> None:
    """A square of 20 mm at the left rim, with neighbours 42 mm to its right, above and below: it may be 40 mm."""
    fence = [Placement(0, x, y, 0) for x in (10, 32, 54) for y in (28, 92)] + [Placement(0, 72, y, 0) for y in (50, 70)]
    held = hand(SQUARE, 10, 50)
    growth = growth_of(Clearance(LIVE, GAP, fence, PIECES), held, 3.0)
    assert growth.by == pytest.approx(2.0, abs=0.03)
    assert growth.shift_mm[0] == pytest.approx(10, abs=0.5)


def test_where_there_is_no_room_it_stays_as_it_is() -> None:
    round_it = [Placement(0, 50 + dx, 50 + dy, 0) for dx in (-22, 0, 22) for dy in (-22, 0, 22) if dx or dy]
    growth = growth_of(Clearance(LIVE, GAP, round_it, PIECES), hand(SQUARE, 50, 50), 3.0)
    assert growth.by == pytest.approx(1, abs=0.01)
    assert growth_of(Clearance(LIVE, GAP), hand(SQUARE, 90, 120), 3.0).by == MOST_GROWTH


@tried(40)
@given(
    st.lists(st.tuples(st.floats(20, 180), st.floats(20, 240)), min_size=1, max_size=14),
    st.floats(40, 160),
    st.floats(40, 200),
)
def test_what_has_grown_keeps_every_rule_and_its_place(others: list[tuple[float, float]], x: float, y: float) -> None:
    clearance = Clearance(LIVE, GAP, [Placement(1, *place, 0) for place in others], PIECES)
    held = hand(DISC, x, y)
    if not clearance.allows(DISC, held.shape):
        return
    growth = growth_of(clearance, held, 3.0)
    assert growth.by >= 1
    middle = held.shape.centroid
    grown = translate(scale(held.shape, growth.by, growth.by, origin=middle), *growth.shift_mm)
    assert clearance.allows(DISC, grown)
    assert grown.convex_hull.covers(middle)
    # About its middle alone it could not be larger than so.
    assert not clearance.allows(DISC, scale(held.shape, growth.by * 1.02, growth.by * 1.02, origin=middle)) or (
        growth.by == MOST_GROWTH
    )
