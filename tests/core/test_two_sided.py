"""Backs, scissors, layers of colour: edges that follow from other things than the art alone."""

from dataclasses import fields

import numpy as np
import pytest
import shapely
from shapely.geometry import Polygon, box

from vamper.core.art.colours import KEY_MM, flat_colours, layers_of
from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture
from vamper.core.cutting.plan import smallest_radius
from vamper.core.devices import HAND_RADIUS_MM
from vamper.core.edge.by_hand import for_hand, hand_findings
from vamper.core.edge.edge import derive_edge
from vamper.core.edge.two_sided import back_edge, is_symmetric, turned_over
from vamper.core.findings import BadInput
from vamper.core.geometry import as_multi
from vamper.core.job import EdgeKind, EdgeSpec, SizeSpec
from vamper.core.printing.guides import free_lines, guides_for


def _outline(shape: Polygon) -> Outline:
    values: dict[str, object] = {f.name: () for f in fields(Outline)}
    values |= {"shape": as_multi([shape]), "mm_per_px": 0.1, "origin_px": (0.0, 0.0), "picture_px": (10, 10)}
    values |= {"opaque": False} if "opaque" in values else {}
    return Outline(**values)  # type: ignore[arg-type]


LEANING = Polygon([(0, 0), (30, 0), (50, 40), (0, 40)])


def test_a_back_is_the_fronts_mirror_image_and_both_areas_are_equal() -> None:
    drawn = _outline(LEANING)
    front = derive_edge(drawn, EdgeSpec(), 1)
    back = back_edge(front, drawn, _outline(box(0, 0, 20, 20)))
    assert back.shape.area == pytest.approx(front.shape.area)
    assert back.size_mm == pytest.approx(front.size_mm)
    moved = shapely.affinity.translate(
        turned_over(front.shape),
        back.shape.bounds[0] - front.shape.bounds[0],
        back.shape.bounds[1] - front.shape.bounds[1],
    )
    assert moved.symmetric_difference(back.shape).area < 1e-6
    assert not is_symmetric(front)
    assert back.least_border_mm > 2.99


def test_a_symmetric_blank_takes_two_equal_prints() -> None:
    drawn = _outline(box(0, 0, 40, 25))
    front = derive_edge(drawn, EdgeSpec(), 1)
    assert is_symmetric(front)
    assert back_edge(front, drawn, drawn).shape.symmetric_difference(front.shape).area < 0.01 * front.shape.area


def test_art_that_sticks_out_of_the_turned_blank_is_measured() -> None:
    drawn = _outline(LEANING)
    front = derive_edge(drawn, EdgeSpec(), 1)
    assert back_edge(front, drawn, drawn).least_border_mm < -1


@pytest.mark.parametrize("kind", [EdgeKind.FOLLOW, EdgeKind.RECTANGLE, EdgeKind.ROUNDED, EdgeKind.HULL])
def test_scissors_get_no_bend_under_their_radius(kind: EdgeKind) -> None:
    star = Polygon([(0, 20), (18, 18), (20, 0), (22, 18), (40, 20), (22, 22), (20, 40), (18, 22)])
    edge = derive_edge(_outline(star), for_hand(EdgeSpec(kind)), 1)
    assert smallest_radius(edge) > HAND_RADIUS_MM * 0.75
    assert not hand_findings(smallest_radius(edge), 0)
    assert hand_findings(1.0, 0)[0].code == "edge.scissors"


def test_guides_lie_outside_and_ticks_in_the_gaps() -> None:
    rows = [box(20 + 40 * n, 20 + 50 * m, 50 + 40 * n, 60 + 50 * m) for n in range(3) for m in range(2)]
    guides = guides_for(rows, box(10, 10, 200, 200))
    assert len(guides.lines) == 6
    for line in guides.lines:
        assert not any(edge.intersects(shapely.LinearRing(line)) for edge in rows)
    across = {y for (_, y), (_, y1) in guides.ticks if y == y1}
    assert across == {65.0}
    assert {x for (x, _), (x1, _) in guides.ticks if x == x1} == {55.0, 95.0}
    assert free_lines([0, 5, 20], [10, 12, 30]) == [16.0]


def flat(width: int = 600, height: int = 400) -> Picture:
    rgba = np.zeros((height, width, 4), np.uint8)
    rgba[40:300, 40:300] = (180, 40, 40, 255)
    rgba[120:340, 200:560] = (30, 80, 170, 255)
    return Picture(rgba, is_vector=True)


def test_flat_colours_are_told_from_shades() -> None:
    assert flat_colours(flat()) == ["#1E50AA", "#B42828"]
    shades = np.zeros((256, 256, 4), np.uint8)
    shades[..., 0] = np.arange(256)[:, None]
    shades[..., 1] = np.arange(256)[None, :]
    shades[..., 3] = 255
    assert flat_colours(Picture(shades)) == []
    with pytest.raises(BadInput, match="no two flat colours"):
        layers_of(Picture(shades), SizeSpec(width_mm=40))


def test_layers_cover_the_drawing_once_and_share_their_keys() -> None:
    layers = layers_of(flat(), SizeSpec(width_mm=52))
    scale = 52 / 520
    blue, red = (layer.shape.area for layer in layers)
    star = layers[0].shape.intersection(layers[1].shape).area
    assert blue - star == pytest.approx(360 * 220 * scale**2, rel=0.02)
    assert red - star == pytest.approx((260 * 260 - 100 * 180) * scale**2, rel=0.02)
    # What both have in common is the two stars, nothing else.
    keys = [part for part in layers[0].shape.intersection(layers[1].shape).geoms if part.area > 1]
    assert len(keys) == 2
    assert keys[0].bounds[3] - keys[0].bounds[1] == pytest.approx(KEY_MM * 0.78, rel=0.1)
