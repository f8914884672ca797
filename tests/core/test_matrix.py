"""Every function of a station over every kind of geometry: nothing breaks off, and what comes out is sound."""

import math
from collections.abc import Callable
from itertools import product

import numpy as np
import pytest
import shapely
from shapely.geometry import MultiPolygon, Point, Polygon, box
from shapely.geometry.base import BaseGeometry

from tests.core.test_edge import outline_of, star
from tests.scenes import item
from vamper.core.art.groups import are_several, groups_of, start_apart_mm
from vamper.core.art.outline import scaled
from vamper.core.cutting.plan import plan_cut
from vamper.core.edge.edge import derive_edge, least_border
from vamper.core.edge.handling import candidates, handling_of
from vamper.core.edge.inspect import edge_findings, look_along
from vamper.core.edge.kind import KINDS
from vamper.core.edge.thin import thin_places
from vamper.core.edge.two_sided import back_edge, is_symmetric
from vamper.core.printing.guides import guides_for
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.laid import lay
from vamper.core.sheet.lay.turns import best_turn, turned_box
from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.live_area import LiveArea
from vamper.core.sheet.offcut import largest_offcut
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import as_multi, closing, grow, grow_far, hole_polygons, opening, parts, simplified
from vamper.core.values.item import Turn
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement

LIVE = box(10, 10, 200, 270)


def _comb() -> Polygon:
    return shapely.union_all([box(0, 0, 40, 3), *(box(x, 0, x + 0.4, 30) for x in range(0, 40, 2))])


SHAPES: dict[str, list[Polygon]] = {
    "one point": [Point(0, 0).buffer(0.002, quad_segs=2)],
    "hair": [box(0, 0, 60, 0.01)],
    "small": [Point(0, 0).buffer(0.5)],
    "huge": [star(outer=4000, inner=1500)],
    "star": [star()],
    "hole": [box(0, 0, 30, 30).difference(Point(15, 15).buffer(8))],
    "hole to the rim": [box(0, 0, 30, 30).difference(box(10, 0.001, 20, 20))],
    "many parts": [Point(x * 7, y * 7).buffer(2) for x in range(8) for y in range(5)],
    "touching parts": [box(0, 0, 10, 10), box(10, 10, 20, 20)],
    "nested parts": [box(0, 0, 30, 30).difference(box(5, 5, 25, 25)), box(10, 10, 20, 20)],
    "comb": [_comb()],
}
NOTHING = MultiPolygon()


@pytest.fixture(params=SHAPES, ids=str)
def shape(request: pytest.FixtureRequest) -> MultiPolygon:
    return as_multi(SHAPES[request.param])


MORPHOLOGY: dict[str, Callable[[BaseGeometry, float], BaseGeometry]] = {
    "grow": grow,
    "grow far": grow_far,
    "shrink": lambda one, by: grow(one, -by),
    "close": closing,
    "open": opening,
    "simplify": simplified,
}


@pytest.mark.parametrize("name", MORPHOLOGY)
@pytest.mark.parametrize("by", [0.0, 0.05, 3.0])
def test_morphology_makes_sound_shapes(shape: MultiPolygon, name: str, by: float) -> None:
    made = MORPHOLOGY[name](shape, by) if name != "simplify" or by else shape
    assert made.is_valid
    if name == "open":
        assert made.area <= shape.area * 1.001 + 0.01
    if name in ("grow", "grow far", "close"):
        assert made.area >= shape.area * 0.999 - 0.01
    assert MORPHOLOGY[name](NOTHING, by).is_empty


@pytest.mark.parametrize("kind", [kind.key for kind in KINDS])
def test_every_kind_of_edge_goes_round_everything(shape: MultiPolygon, kind: str) -> None:
    outline = outline_of(*shape.geoms)
    for distance, blunt in product((0.0, 2.0), (0.0, 1.0)):
        if distance and kind == "bare":
            continue
        spec = EdgeSpec(kind, distance, fillet_mm=blunt)
        edge = derive_edge(outline, spec, 1.0)
        assert edge.shape.is_valid
        assert not edge.shape.is_empty
        if kind != "bare":
            assert edge.least_border_mm >= distance - 0.02 - 2e-5 * max(edge.size_mm)
        facts = look_along(outline, edge, spec, 1.0)
        assert all(finding.text for finding in edge_findings(outline, edge, item(edge=spec), 1, facts))


def test_what_is_seen_along_an_edge_is_finite(shape: MultiPolygon) -> None:
    outline = outline_of(*shape.geoms)
    edge = derive_edge(outline, EdgeSpec(distance_mm=1), 1.0)
    assert edge.smallest_radius_mm > 0
    handling = handling_of(edge.shape)
    assert handling.roughness >= 0.99
    assert all(length > 4 for length in handling.fingers_mm)
    necks, slots = thin_places(edge.shape, 1.0)
    assert all(part.area > 0 for part in (*necks, *slots))
    assert least_border(edge.shape, shape) == pytest.approx(edge.least_border_mm)
    areas = [one.edge.shape.area for one in candidates(outline, EdgeSpec(), 1.0)]
    assert areas[2:] == sorted(areas[2:])
    turned = back_edge(edge, outline, outline)
    assert turned.shape.area == pytest.approx(edge.shape.area)
    assert isinstance(is_symmetric(edge), bool)


def test_groups_and_scales(shape: MultiPolygon) -> None:
    outline = outline_of(*shape.geoms)
    groups = groups_of(outline, start_apart_mm(outline))
    assert sum(len(group.shape.geoms) for group in groups) == len(shape.geoms)
    assert isinstance(are_several(groups), bool)
    half = scaled(outline, 0.5)
    assert half.shape.area == pytest.approx(shape.area / 4)
    assert half.size_mm == pytest.approx(tuple(side / 2 for side in outline.size_mm))


@pytest.mark.parametrize("turn", Turn)
def test_sheets_take_what_fits_and_say_what_does_not(shape: MultiPolygon, turn: Turn) -> None:
    piece = Piece(1, shape, 3)
    problem = PackProblem((piece,), LIVE, PackingSpec(turn=turn))
    layout = in_rows(problem)
    left = sum(one.quantity for one in layout.unplaced)
    assert layout.pieces + left == 3
    assert area_bound(LIVE, [piece], 2.0).sheets_at_least >= 1
    degrees, overhang = best_turn(shape, (190.0, 260.0), turn)
    assert 0 <= degrees < 180
    assert (overhang <= 1e-6) == (layout.pieces > 0)
    x0, y0, x1, y1 = turned_box(shape.convex_hull, 30.0)
    assert x1 > x0
    assert y1 > y0
    laid = lay(layout, {1: shape}, lambda _sheet: LiveArea(LIVE, ()))
    for sheet in laid:
        assert breaches(sheet.placements, problem.by_item, LIVE, 2.0) == []
        assert sheet.used_share == pytest.approx(sum(edge.area for edge in sheet.edges) / LIVE.area)
        for edge, placement in zip(sheet.edges, sheet.placements, strict=True):
            assert edge.symmetric_difference(placement.of(shape)).area < 1e-6
        loops = plan_cut(Paper(215.9, 279.4), sheet, {1: Cut.KISS}).loops
        rings = sum(1 + len(part.interiors) for edge in sheet.edges for part in edge.geoms)
        assert len(loops) == rings
        guides = guides_for(sheet.edges, LIVE)
        assert len(guides.lines) >= 1
        free = largest_offcut(LIVE, sheet.edges, 2.0)
        assert 0 <= free.area_mm2 <= LIVE.area


def test_an_empty_sheet_is_all_free() -> None:
    assert parts(NOTHING) == []
    assert hole_polygons(NOTHING) == []
    assert in_rows(PackProblem((), LIVE, PackingSpec())) == Layout((), (), False)
    assert lay(Layout((), (), False), {}, lambda _sheet: LiveArea(LIVE, ())) == ()
    (bare,) = lay(Layout(((),), (), False), {}, lambda _sheet: LiveArea(LIVE, ()))
    assert (bare.used_share, bare.nearest_mm) == (0.0, None)
    assert bare.offcut(2.0).area_mm2 == pytest.approx(LIVE.area, rel=0.02)
    assert plan_cut(Paper(100, 100), bare, {}).length_mm == 0
    assert guides_for([], LIVE).ticks == ()
    assert breaches([], {}, LIVE, 2.0) == []
    assert math.isclose(area_bound(LIVE, [], 2.0).pieces_at_most, 0)
    assert np.isfinite(Placement(1, 0, 0).turn_deg)
