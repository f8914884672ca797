"""Backs, scissors, layers of colour: edges that follow from other things than the art alone."""

from dataclasses import fields

import numpy as np
import pytest
import shapely
from shapely.affinity import affine_transform, rotate, translate
from shapely.affinity import scale as scale_by
from shapely.geometry import Polygon, box

from vamper.core.art.colours import KEY_MM, flat_colours, layers_of
from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture
from vamper.core.edge.by_hand import for_hand
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.inspect import hand_findings
from vamper.core.edge.two_sided import back_edge, is_symmetric, turned_over
from vamper.core.printing.guides import free_lines, guides_for
from vamper.core.printing.pair_numbers import pair_numbers
from vamper.core.values.art import SizeSpec
from vamper.core.values.cutter import HAND_RADIUS_MM
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement


def _outline(shape: Polygon) -> Outline:
    values: dict[str, object] = {f.name: () for f in fields(Outline)}
    values |= {"shape": as_multi([shape]), "mm_per_px": 0.1, "origin_px": (0.0, 0.0), "picture_px": (10, 10)}
    values |= {"opaque": False} if "opaque" in values else {}
    return Outline(**values)  # type: ignore[arg-type]


LEANING = Polygon([(0, 0), (30, 0), (50, 40), (0, 40)])


@pytest.mark.parametrize(("off_share", "alike"), [(0.008, True), (0.012, False)])
def test_a_blank_is_symmetric_when_it_is_a_hundredth_off_at_most(off_share: float, alike: bool) -> None:
    # What is missing at one corner counts on both sides.
    notch = box(0, 0, 20, 100 * 50 * off_share / 2 / 20)
    shape = as_multi([box(0, 0, 100, 50).difference(notch)])
    assert is_symmetric(Edge(shape, 0.0, (shape,))) is alike


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


@pytest.mark.parametrize("kind", ["follow", "rectangle", "rounded", "hull"])
def test_scissors_get_no_bend_under_their_radius(kind: str) -> None:
    star = Polygon([(0, 20), (18, 18), (20, 0), (22, 18), (40, 20), (22, 22), (20, 40), (18, 22)])
    edge = derive_edge(_outline(star), for_hand(EdgeSpec(kind)), 1)
    assert edge.smallest_radius_mm > HAND_RADIUS_MM * 0.75
    assert not hand_findings(edge.smallest_radius_mm, 0)
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


def three() -> Picture:
    """Two overlapping rectangles, and a small third of which half lies beside them: it comes last."""
    rgba = flat().rgba.copy()
    rgba[20:60, 30:90] = (20, 150, 60, 255)
    return Picture(rgba, is_vector=True)


def test_layers_cover_the_drawing_once_and_share_their_keys() -> None:
    layers = layers_of(three(), SizeSpec(width_mm=53))
    scale = 53 / 530
    blue, red, green = (layer.shape.area for layer in layers)
    # The last layer bears no key.
    assert [layer.keyed for layer in layers] == [True, True, False]
    assert green == pytest.approx(60 * 40 * scale**2, rel=0.03)
    hooks = layers[0].shape.intersection(layers[1].shape).area
    assert blue - hooks == pytest.approx(360 * 220 * scale**2, rel=0.02)
    assert red - hooks == pytest.approx((260 * 260 - 100 * 180 - 50 * 20) * scale**2, rel=0.02)
    # What both have in common is the two hooks, nothing else.
    keys = [part for part in layers[0].shape.intersection(layers[1].shape).geoms if part.area > 1]
    assert len(keys) == 2
    drawing = layers[0].shape.union(layers[1].shape).difference(keys[0].union(keys[1]).buffer(0.5))
    assert all(key.distance(drawing) > 1.5 for key in keys)
    assert keys[0].bounds[3] - keys[0].bounds[1] == pytest.approx(KEY_MM * 0.8, rel=0.1)
    # No mirror and no turn but a whole one brings a key over itself.
    key = translate(keys[0], -keys[0].centroid.x, -keys[0].centroid.y)
    others = [scale_by(key, -1, 1, origin=(0, 0)), scale_by(key, 1, -1, origin=(0, 0))]
    others += [rotate(one, turn, origin=(0, 0)) for one in (key, *others) for turn in range(10, 360, 10)]
    assert min(key.symmetric_difference(one).area for one in others) > 0.1 * key.area


@pytest.mark.parametrize("mirror", [False, True])
def test_a_pairs_number_stands_in_the_rim_of_its_piece_however_that_is_turned(mirror: bool) -> None:
    paper, print_box = Paper(200.0, 200.0), (-20.0, -10.0, 20.0, 12.0)
    laid = [Placement(1, 50, 60, 0), Placement(1, 120, 60, 30), Placement(2, 60, 140, 250)]
    drawn = pair_numbers(paper, laid, {1: 3}, {1: print_box, 2: print_box}, 3.0, mirror)
    assert [words.text for words in drawn.words] == ["4", "5", "1"]
    rim = box(-20, 9, 20, 12)
    for place, label in zip(laid, drawn.fills, strict=True):
        there = translate(rotate(rim, place.turn_deg, origin=(0, 0)), place.x_mm, place.y_mm)
        if mirror:
            there = affine_transform(there, [-1, 0, 0, 1, paper.width_mm, 0])
        (ring,) = label.rings
        assert there.buffer(1e-6).covers(Polygon(ring))


def test_a_colour_of_less_than_a_hundredth_is_none() -> None:
    rgba = np.zeros((100, 100, 4), np.uint8)
    rgba[...] = (30, 80, 170, 255)
    rgba[:30] = (180, 40, 40, 255)
    rgba[:9, :10, :3] = (20, 150, 60)
    assert flat_colours(Picture(rgba)) == ["#1E50AA", "#B42828"]
    rgba[:11, :10, :3] = (20, 150, 60)
    assert flat_colours(Picture(rgba)) == ["#1E50AA", "#B42828", "#14963C"]


@pytest.mark.parametrize(("count", "flat"), [(10, True), (12, False)])
def test_more_than_ten_colours_are_no_layers(count: int, flat: bool) -> None:
    rgba = np.full((100, 120, 4), 255, np.uint8)
    for number in range(count):
        hue = np.array([number * 63 % 256, number * 107 % 256, number * 151 % 256])
        rgba[:, 10 * number : 10 * number + 10, :3] = hue
    assert len(flat_colours(Picture(rgba[:, : 10 * count].copy()))) == (count if flat else 0)


def test_keys_of_a_tiny_drawing_stand_far_enough_apart() -> None:
    layers = layers_of(three(), SizeSpec(width_mm=3))
    keys = sorted(layers[0].shape.geoms, key=lambda part: part.area)[-2:]
    assert shapely.distance(keys[0].centroid, keys[1].centroid) > 2.5 * KEY_MM


def test_no_keys_where_nothing_is_laid_on_them() -> None:
    # Of two layers the last needs none, and so the first has nothing to be laid on.
    assert [layer.keyed for layer in layers_of(flat(), SizeSpec(width_mm=52))] == [False, False]
    assert [layer.keyed for layer in layers_of(three(), SizeSpec(width_mm=53), False)] == [False] * 3


def test_a_layer_that_fits_between_the_others_bears_no_key() -> None:
    rgba = np.zeros((400, 600, 4), np.uint8)
    rgba[20:380, 20:580] = (30, 80, 170, 255)
    # Inlaid on all sides; only the far small one lies beside what is there already.
    rgba[120:280, 100:400] = (180, 40, 40, 255)
    rgba[5:60, 540:595] = (20, 150, 60, 255)
    blue, red, green = layers_of(Picture(rgba, is_vector=True), SizeSpec(width_mm=60))
    assert {layer.keyed for layer in (blue, red, green)} == {False}
    assert shapely.intersection(blue.shape, red.shape).area < 1
