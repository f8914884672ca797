"""Edges: analytic offsets, and what must hold for any art."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon, Point, Polygon, box

from tests.tried import tried
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.inspect import edge_findings, look_along
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding
from vamper.core.values.geometry import as_multi, opening, parts
from vamper.core.values.item import ItemSpec


def outline_of(*polygons: Polygon) -> Outline:
    return Outline(as_multi(polygons), 25.4 / 600, (0, 0), (1000, 1000), (), (), False)


def found(outline: Outline, edge: Edge, spec: EdgeSpec, neck: float = 1.0) -> list[Finding]:
    item = ItemSpec(number=1, art="a.png", width_mm=10, edge=spec)
    return edge_findings(outline, edge, item, 0, look_along(outline, edge, spec, neck))


def star(points: int = 5, outer: float = 20, inner: float = 9) -> Polygon:
    turns = np.arange(2 * points) * math.pi / points
    radii = np.where(np.arange(2 * points) % 2, inner, outer)
    return Polygon(np.column_stack([radii * np.cos(turns), radii * np.sin(turns)]))


@pytest.mark.parametrize("distance", [0.5, 1, 3, 6, 10])
@pytest.mark.parametrize("shape", [Point(0, 0).buffer(10, quad_segs=400), box(0, 0, 20, 15)], ids=["disc", "square"])
def test_follow_is_the_exact_offset_of_convex_art(shape: Polygon, distance: float) -> None:
    edge = derive_edge(outline_of(shape), EdgeSpec(distance_mm=distance), 1.0)
    exact = shape.buffer(distance, quad_segs=400)
    assert edge.shape.geoms[0].hausdorff_distance(exact) < 0.02


@pytest.mark.parametrize("distance", [1.0, 3.0])
def test_follow_of_a_star_is_offset_then_closed(distance: float) -> None:
    smooth = 2.0
    edge = derive_edge(outline_of(star()), EdgeSpec(distance_mm=distance, smooth_mm=smooth), 1.0)
    exact = star().buffer(distance + smooth, quad_segs=400).buffer(-smooth, quad_segs=400)
    assert edge.shape.geoms[0].hausdorff_distance(exact) < 0.02


@st.composite
def drawings(draw: st.DrawFn) -> Outline:
    """Discs, bars and rings, near and far, some touching."""
    shapes = []
    for _ in range(draw(st.integers(1, 6))):
        x, y = draw(st.floats(0, 50)), draw(st.floats(0, 50))
        kind = draw(st.sampled_from(["disc", "bar", "ring"]))
        if kind == "bar":
            shapes.append(box(x, y, x + draw(st.floats(0.3, 25)), y + draw(st.floats(0.3, 25))))
        else:
            radius = draw(st.floats(0.5, 12))
            disc = Point(x, y).buffer(radius)
            shapes.append(disc.difference(Point(x, y).buffer(radius * 0.6)) if kind == "ring" else disc)
    return outline_of(*parts(shapely.union_all(shapes)))


@given(drawings(), st.floats(0.3, 6), st.floats(0, 4))
@tried(60)
def test_follow_joined_is_one_valid_ring_with_its_border(outline: Outline, distance: float, smooth: float) -> None:
    neck = 1.0
    edge = derive_edge(outline, EdgeSpec(distance_mm=distance, smooth_mm=smooth), neck)
    assert len(edge.shape.geoms) == 1
    (whole,) = edge.shape.geoms
    assert whole.is_valid
    assert not whole.interiors
    assert whole.covers(outline.shape)
    assert edge.least_border_mm >= distance - 0.02
    # With a border as wide as the neck nothing may hang by a thread.
    if distance > neck / 2 + 0.05:
        assert len(parts(opening(whole, neck / 2 * 0.95))) == 1


@given(drawings(), st.floats(0.5, 4))
@tried(25)
def test_the_same_input_gives_the_same_edge(outline: Outline, distance: float) -> None:
    spec = EdgeSpec(distance_mm=distance)
    assert derive_edge(outline, spec, 1.0).shape.equals_exact(derive_edge(outline, spec, 1.0).shape)


@given(
    drawings(),
    st.sampled_from(["circle", "rectangle", "rounded"]),
    st.floats(0, 8),
    st.floats(0, 12),
)
@tried(60)
def test_plain_kinds_keep_the_least_border(outline: Outline, kind: str, distance: float, corner: float) -> None:
    edge = derive_edge(outline, EdgeSpec(kind=kind, distance_mm=distance, corner_mm=corner), 1.0)
    assert edge.least_border_mm >= distance - 0.02
    assert len(edge.shape.geoms) == 1


def test_rounded_grows_no_more_than_a_right_angle_loses() -> None:
    edge = derive_edge(outline_of(box(0, 0, 30, 20)), EdgeSpec("rounded", 2.0, corner_mm=8.0), 1.0)
    assert edge.size_mm[0] <= 30 + 2 * (2 + (math.sqrt(2) - 1) * 8) + 0.01


LETTERS = (box(0, 0, 5, 10), box(8, 0, 13, 10), box(16, 0, 21, 10))


def test_near_parts_are_tied_without_bridges_and_far_ones_with() -> None:
    near = derive_edge(outline_of(*LETTERS), EdgeSpec(distance_mm=1), 1.0)
    assert (len(near.shape.geoms), near.tied, len(near.bridges)) == (1, 3, 0)
    far = derive_edge(outline_of(LETTERS[0], box(60, 0, 65, 10)), EdgeSpec(distance_mm=1), 1.0)
    assert (len(far.shape.geoms), far.tied, len(far.bridges)) == (1, 2, 1)
    # As wide as twice the smoothing, which is more than the stock's neck and than 3 mm.
    assert far.bridges[0].bounds[3] - far.bridges[0].bounds[1] == pytest.approx(4, abs=0.1)
    titles = [
        one.title
        for letters, edge in ((LETTERS, near), ((LETTERS[0], box(60, 0, 65, 10)), far))
        for one in found(outline_of(*letters), edge, EdgeSpec(distance_mm=1))
        if one.code == "art.pieces"
    ]
    assert titles == ["3 parts tied into one", "2 parts tied into one"]


def test_left_apart_every_part_is_an_edge_and_a_stop() -> None:
    spec = EdgeSpec(distance_mm=0.5, smooth_mm=0, join=False)
    outline = outline_of(*LETTERS)
    edge = derive_edge(outline, spec, 1.0)
    assert len(edge.shape.geoms) == 3
    stop = next(finding for finding in found(outline, edge, spec) if finding.code == "art.pieces")
    assert stop.severity == "stop"
    assert stop.figures["pieces"] == 3
    assert stop.fixes[0].changes == {"edge.join": True}


def test_holes_filled_or_kept_narrower_by_twice_the_border() -> None:
    ring = Point(0, 0).buffer(20, quad_segs=64).difference(Point(0, 0).buffer(10, quad_segs=64))
    filled = derive_edge(outline_of(ring), EdgeSpec(distance_mm=3), 1.0)
    assert not filled.shape.geoms[0].interiors
    assert len(filled.filled) == 1
    kept = derive_edge(outline_of(ring), EdgeSpec(distance_mm=3, fill_holes=False), 1.0)
    hole = Polygon(kept.shape.geoms[0].interiors[0])
    assert hole.area == pytest.approx(math.pi * 49, rel=0.01)


def test_edges_run_clockwise_on_screen() -> None:
    edge = derive_edge(outline_of(star()), EdgeSpec(), 1.0)
    # With y down, a positive shoelace area is clockwise to the eye.
    assert edge.shape.geoms[0].exterior.is_ccw


@pytest.mark.parametrize(("distance", "code"), [(0.3, "edge.border-thin"), (1.0, "edge.border-uneven"), (3.0, None)])
def test_thin_borders_are_found(distance: float, code: str | None) -> None:
    outline, spec = outline_of(star()), EdgeSpec(distance_mm=distance)
    codes = [finding.code for finding in found(outline, derive_edge(outline, spec, 1.0), spec)]
    assert [c for c in codes if c.startswith("edge.border")] == ([code] if code else [])


def test_art_beside_others_holes_is_not_lost() -> None:
    """A part lying in another's hole is swallowed by filling, not cut on its own."""
    ring = Point(0, 0).buffer(20).difference(Point(0, 0).buffer(15))
    edge = derive_edge(outline_of(ring, Point(0, 0).buffer(3)), EdgeSpec(distance_mm=1), 1.0)
    assert isinstance(edge.shape, MultiPolygon)
    assert len(edge.shape.geoms) == 1


@pytest.mark.parametrize(("kind", "distance"), [("circle", 2.0), ("ellipse", 2.0), ("rounded", 2.0)])
def test_only_kinds_that_can_are_blunted(kind: str, distance: float) -> None:
    plain, asked = (EdgeSpec(kind=kind, distance_mm=distance, fillet_mm=blunt) for blunt in (0.0, 4.0))
    assert derive_edge(outline_of(star()), asked, 1.0).shape.equals(derive_edge(outline_of(star()), plain, 1.0).shape)


@pytest.mark.parametrize("distance", [-1.0, 0.0])
def test_a_blunted_edge_without_a_border_is_rounded_and_never_grown(distance: float) -> None:
    plain, blunted = (
        derive_edge(outline_of(star()), EdgeSpec("bare", distance, smooth_mm=0.0, fillet_mm=blunt), 1.0).shape
        for blunt in (0.0, 2.0)
    )
    assert plain.buffer(0.05).covers(blunted)
    assert blunted.area < 0.98 * plain.area
