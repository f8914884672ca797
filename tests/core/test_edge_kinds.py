"""The other kinds of edge, rings, kept holes, corners; and what must hold for any art."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.affinity import translate
from shapely.geometry import MultiPolygon, Point, Polygon, box

from tests.core.test_edge import drawings, found, outline_of, star
from tests.tried import tried
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import derive_edge, least_border
from vamper.core.edge.handling import SMOOTH_MM, Handling, Manner, advise, candidates, ease, handling_of
from vamper.core.edge.holes import hole_turned
from vamper.core.edge.kind import enlarged
from vamper.core.edge.thin import thin_places
from vamper.core.values.art import Purpose
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi, closing, opening, parts
from vamper.core.values.stock import STOCK_BY_KEY

RING = Point(0, 0).buffer(20, quad_segs=64).difference(Point(0, 0).buffer(10, quad_segs=64))


def test_an_ellipse_of_a_disc_is_a_disc_with_the_border() -> None:
    edge = derive_edge(outline_of(Point(0, 0).buffer(10, quad_segs=200)), EdgeSpec("ellipse", 2), 1.0)
    assert edge.least_border_mm == pytest.approx(2, abs=0.01)
    assert edge.size_mm == pytest.approx((24, 24), abs=0.03)


def test_an_ellipse_keeps_the_proportions_of_the_drawing() -> None:
    edge = derive_edge(outline_of(box(0, 0, 40, 20)), EdgeSpec("ellipse", 3), 1.0)
    assert edge.size_mm[0] / edge.size_mm[1] == pytest.approx(2, rel=1e-3)
    assert edge.least_border_mm == pytest.approx(3, abs=0.01)


def test_a_hull_is_the_grown_convex_hull() -> None:
    edge = derive_edge(outline_of(star()), EdgeSpec("hull", 2), 1.0)
    assert edge.shape.hausdorff_distance(star().convex_hull.buffer(2, quad_segs=400)) < 0.02


def test_bare_is_the_outline_and_inside_it_the_shrunk_and_opened_one() -> None:
    on = derive_edge(outline_of(star()), EdgeSpec("bare", 0), 1.0)
    assert on.shape.symmetric_difference(star()).area < 1e-9
    inside = derive_edge(outline_of(star()), EdgeSpec("bare", -1, smooth_mm=0.5), 1.0)
    exact = star().buffer(-1.5, quad_segs=400).buffer(0.5, quad_segs=400)
    assert inside.shape.hausdorff_distance(exact) < 0.02
    assert star().covers(inside.shape)
    assert inside.least_border_mm < -1


def test_an_inset_that_leaves_nothing_says_the_deepest_one() -> None:
    outline, spec = outline_of(box(0, 0, 30, 8)), EdgeSpec("bare", -6)
    edge = derive_edge(outline, spec, 1.0)
    assert edge.deepest_mm == pytest.approx(4, abs=0.02)
    (stop,) = (f for f in found(outline, edge, spec) if f.code == "edge.inset")
    distance = stop.fixes[0].changes["edge.distance_mm"]
    assert isinstance(distance, float)
    fixed = derive_edge(outline, EdgeSpec("bare", distance, smooth_mm=0), 1.0)
    assert fixed.deepest_mm is None
    assert fixed.shape.area > 0


@given(
    drawings(),
    st.sampled_from(["ellipse", "hull", "circle", "rectangle"]),
    st.floats(0, 6),
    st.floats(0, 5),
)
@tried(50)
def test_blunt_corners_keep_the_least_border(outline: Outline, kind: str, distance: float, blunt: float) -> None:
    edge = derive_edge(outline, EdgeSpec(kind, distance, fillet_mm=blunt), 1.0)
    assert len(edge.shape.geoms) == 1
    assert edge.shape.is_valid
    assert edge.least_border_mm >= distance - 0.02


def test_a_blunt_rectangle_has_corners_of_that_radius() -> None:
    edge = derive_edge(outline_of(box(0, 0, 40, 30)), EdgeSpec("rectangle", 1, fillet_mm=5), 1.0)
    width, height = edge.size_mm
    assert edge.shape.area == pytest.approx(width * height - (4 - math.pi) * 25, rel=1e-3)


@given(drawings(), st.floats(0.3, 5), st.floats(0.2, 4))
@tried(40)
def test_concave_corners_are_as_round_as_the_smoothing(outline: Outline, distance: float, smooth: float) -> None:
    """Closing the edge by a little less than the smoothing changes nothing but what rounding leaves."""
    edge = derive_edge(outline, EdgeSpec(distance_mm=distance, smooth_mm=smooth), 1.0).shape
    added = parts(shapely.difference(closing(edge, 0.95 * smooth), edge.buffer(0.02)))
    assert sum(part.area for part in added) < 0.02


@given(drawings(), st.floats(0.3, 5), st.booleans(), st.booleans())
@tried(50)
def test_any_edge_is_sound(outline: Outline, distance: float, fill: bool, join: bool) -> None:
    spec = EdgeSpec(distance_mm=distance, fill_holes=fill, join=join)
    edge = derive_edge(outline, spec, 1.0)
    assert edge.shape.is_valid
    assert edge.least_border_mm >= distance - 0.02
    for part in edge.shape.geoms:
        assert part.exterior.is_ccw
        assert part.intersects(outline.shape)


@given(drawings(), st.lists(st.floats(0.3, 2), min_size=2, max_size=4))
@tried(30)
def test_rings_lie_in_each_other_and_reach_as_far_as_all_together(outline: Outline, widths: list[float]) -> None:
    spec = EdgeSpec(rings=tuple(RingSpec(width) for width in widths))
    edge = derive_edge(outline, spec, 1.0)
    assert len(edge.rings) == len(widths)
    assert edge.rings[-1].equals(edge.shape)
    reach = 0.0
    for inner, outer, width in zip(edge.rings, edge.rings[1:], widths, strict=False):
        reach += width
        assert outer.buffer(1e-6).covers(inner)
        assert least_border(inner, outline.shape) >= reach - 0.02
    assert edge.least_border_mm >= sum(widths) - 0.02


def test_one_hole_is_kept_and_comes_out_narrower() -> None:
    outline = outline_of(RING)
    kept = derive_edge(outline, EdgeSpec(distance_mm=3, keep_holes=((0.5, 0.5),)), 1.0)
    hole = Polygon(kept.shape.geoms[0].interiors[0])
    assert hole.area == pytest.approx(math.pi * 49, rel=0.01)
    assert not kept.filled
    filled = derive_edge(outline, EdgeSpec(distance_mm=3, keep_holes=((0.02, 0.5),)), 1.0)
    assert not filled.shape.geoms[0].interiors


def test_a_kept_hole_narrower_than_the_border_says_so() -> None:
    spec = EdgeSpec(distance_mm=12, keep_holes=((0.5, 0.5),))
    outline = outline_of(RING)
    edge = derive_edge(outline, spec, 1.0)
    assert len(edge.closed) == 1
    assert "edge.hole-closed" in [finding.code for finding in found(outline, edge, spec)]


def test_thin_strips_and_slots_are_found_and_corners_are_not() -> None:
    assert thin_places(as_multi([box(0, 0, 20, 20)]), 2.0) == ([], [])
    strip = shapely.union_all([box(0, 0, 10, 10), box(10, 4.6, 30, 5.4), box(30, 0, 40, 10)])
    necks, slots = thin_places(as_multi([strip]), 2.0)
    assert (len(necks), len(slots)) == (1, 0)
    slotted = box(0, 0, 20, 20).difference(box(9.6, 8, 10.4, 20))
    necks, slots = thin_places(as_multi([slotted]), 2.0)
    assert (len(necks), len(slots)) == (0, 1)


def test_the_fix_for_thin_places_leaves_none() -> None:
    whisker = shapely.union_all([Point(0, 0).buffer(8), box(6, -0.2, 26, 0.2)])
    outline, spec = outline_of(whisker), EdgeSpec(distance_mm=0.1, smooth_mm=0)
    (thin,) = (f for f in found(outline, derive_edge(outline, spec, 2.0), spec, 2.0) if f.code == "art.thin")
    changes = thin.fixes[0].changes
    fixed = EdgeSpec(distance_mm=changes["edge.distance_mm"], smooth_mm=changes["edge.smooth_mm"])  # type: ignore[arg-type]
    assert thin_places(derive_edge(outline, fixed, 2.0).shape, 2.0) == ([], [])


def test_handling_of_a_disc_is_one_and_fingers_are_counted() -> None:
    disc = as_multi([Point(0, 0).buffer(10, quad_segs=200)])
    assert handling_of(disc).roughness == pytest.approx(1, abs=1e-3)
    assert handling_of(disc).fingers_mm == ()
    hand = as_multi([shapely.union_all([box(0, 0, 30, 20), box(2, 20, 6, 40), box(12, 20, 16, 35)])])
    fingers = handling_of(hand).fingers_mm
    assert len(fingers) == 2
    assert fingers[0] == pytest.approx(20, abs=1.5)


@pytest.mark.parametrize(
    ("stock", "purpose", "manner"),
    [
        ("clear-vinyl", Purpose.LAPTOP, Manner.CLOSE),
        ("water-slide-clear", Purpose.DRINKWARE, Manner.SMOOTH),
        ("water-slide-clear", Purpose.GLASS, Manner.CLOSE),
        ("colour-flex", Purpose.CLOTH, Manner.CLOSE),
        ("light-transfer", Purpose.CLOTH, Manner.SMOOTH),
        ("satin-vinyl", Purpose.VEHICLE, Manner.SMOOTH),
    ],
)
def test_close_or_smooth(stock: str, purpose: Purpose, manner: Manner) -> None:
    assert advise(STOCK_BY_KEY[stock], purpose, coated=True).manner is Manner.SMOOTH
    advice = advise(STOCK_BY_KEY[stock], purpose)
    assert advice.manner is manner
    assert advice.why


def test_candidates_keep_the_border_and_close_takes_least() -> None:
    outline = outline_of(star(7, 25, 10))
    shapes = candidates(outline, EdgeSpec(distance_mm=2), 1.0)
    areas = {one.name: one.edge.shape.area for one in shapes}
    assert areas["Outline itself"] < areas["Close"] < areas["Smooth"] < areas["Hull"]
    assert list(areas)[:3] == ["Close", "Smooth", "Outline itself"]
    assert list(areas)[3:] == sorted(list(areas)[3:], key=areas.__getitem__)
    assert all(one.edge.least_border_mm >= 2 - 0.02 for one in shapes if one.spec.has_border)
    assert [one.name for one in shapes if one.chosen] == ["Close"]
    assert np.isfinite([one.handling.roughness for one in shapes]).all()


def test_parts_whose_borders_barely_meet_are_joined_by_more_than_a_thread() -> None:
    discs = [Point(0, 0).buffer(10), Point(23.95, 0).buffer(10)]
    for smooth in (0.0, 0.05, 1.0):
        edge = derive_edge(outline_of(*discs), EdgeSpec(distance_mm=2, smooth_mm=smooth), 1.0)
        assert len(parts(opening(edge.shape, 0.47))) == 1


def test_parts_far_apart_are_bridged_without_trying_every_closing() -> None:
    far = [Point(40 * n, 0).buffer(5) for n in range(5)]
    edge = derive_edge(outline_of(*far), EdgeSpec(distance_mm=1), 1.0)
    assert len(edge.shape.geoms) == 1
    assert len(edge.bridges) == 4


def test_a_larger_drawing_has_every_length_of_its_edge_larger() -> None:
    spec = EdgeSpec(distance_mm=2, smooth_mm=1.5, corner_mm=3, fillet_mm=0.5, rings=(RingSpec(1), RingSpec(2)))
    large = enlarged(spec, 2.5)
    assert (large.distance_mm, large.smooth_mm, large.corner_mm, large.fillet_mm) == (5, 3.75, 7.5, 1.25)
    assert [ring.width_mm for ring in large.rings] == [2.5, 5]


@pytest.mark.parametrize(("smooth_mm", "name"), [(0.3, "Close"), (SMOOTH_MM, "Smooth"), (4.0, "Smooth")])
def test_the_candidate_that_is_there_now_is_the_nearest_to_it(smooth_mm: float, name: str) -> None:
    shapes = candidates(outline_of(box(0, 0, 20, 12)), EdgeSpec(distance_mm=2, smooth_mm=smooth_mm), 1.0)
    assert [one.name for one in shapes if one.chosen] == [name]


@pytest.mark.parametrize(("roughness", "words"), [(1.0, "even"), (1.7, "some"), (2.9, "some"), (3.1, "many")])
def test_how_hard_a_piece_is_to_handle_is_said(roughness: float, words: str) -> None:
    assert ease(Handling(roughness, ())).startswith(words)


@pytest.mark.parametrize("corner", [(0.0, 0.0), (40.0, -25.0), (-70.0, 12.0)])
def test_a_hole_is_opened_by_a_point_in_it_wherever_the_drawing_lies(corner: tuple[float, float]) -> None:
    plate = box(0, 0, 40, 20) - box(4, 4, 14, 14) - box(24, 4, 34, 14)
    outline = MultiPolygon([translate(plate, *corner)])
    filled = MultiPolygon([box(*outline.bounds)])
    spec = EdgeSpec("follow", 2.0, fill_holes=True)
    opened = hole_turned(outline, filled, spec, (29 / 40, 9 / 20))
    ((across, down),) = opened.keep_holes
    assert 24 < across * 40 < 34
    assert 4 < down * 20 < 14
    with pytest.raises(BadInput, match="no hole here"):
        hole_turned(outline, filled, spec, (19 / 40, 9 / 20))
