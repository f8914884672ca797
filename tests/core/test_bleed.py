"""Bleed by its rule, carried outward pixel by pixel, and where it may not go."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from shapely.geometry import box

from tests.conftest import disc_alpha, picture_of
from tests.core.test_cutting import laid
from tests.tried import tried
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.edge.edge import derive_edge
from vamper.core.printing.bleed import _toggle, bleed_box_mm, bleed_for, carried_outward, is_printed
from vamper.core.printing.inspect import bleed_findings
from vamper.core.printing.page import PrintItem, compose_page
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.values.art import SizeSpec
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.miss import STARTER_MISS_MM
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement
from vamper.core.values.stock import STOCK_BY_KEY

WHITE = "#FFFFFF"
PICTURE = picture_of(disc_alpha(400, 180, (200, 200)))
OUTLINE = outline_at(trace(PICTURE), SizeSpec(width_mm=36))


def bleed(spec: EdgeSpec, override: float | None = None):  # type: ignore[no-untyped-def]
    edge = derive_edge(OUTLINE, spec, 1.0)
    return edge, bleed_for(PICTURE, OUTLINE, edge, spec, WHITE, override)


def test_a_bare_border_needs_none_and_print_up_to_the_edge_does() -> None:
    assert bleed(EdgeSpec(distance_mm=3))[1].width_mm == 0
    assert bleed(EdgeSpec("bare", 0))[1].width_mm == STARTER_MISS_MM
    assert bleed(EdgeSpec(distance_mm=3, colour="#2F6F86"))[1].width_mm == STARTER_MISS_MM


def test_white_on_white_needs_none_and_is_not_printed() -> None:
    assert bleed(EdgeSpec(distance_mm=3, colour=WHITE))[1].width_mm == 0
    assert not is_printed(WHITE, WHITE)
    assert not is_printed(None, WHITE)
    assert is_printed("#2F6F86", WHITE)


def test_a_colour_is_bled_from_where_the_eye_sees_it_beside_the_stock() -> None:
    def width(grey: int, alpha: int = 255) -> float:
        rgba = PICTURE.rgba.copy()
        rgba[..., :3], rgba[..., 3] = grey, alpha
        spec = EdgeSpec("bare", 0)
        return bleed_for(Picture(rgba), OUTLINE, derive_edge(OUTLINE, spec, 1.0), spec, WHITE, None).width_mm

    # A grey of 225 is ΔE 10.7 from white, one of 230 9.
    assert width(225) == STARTER_MISS_MM
    assert width(230) == 0
    # What is half there lets the stock through.
    assert width(225, 200) == 0
    assert width(150, 200) == STARTER_MISS_MM


def test_the_outermost_ring_decides() -> None:
    dark, bare = RingSpec(1, "#22303A"), RingSpec(2)
    assert bleed(EdgeSpec(rings=(dark, bare)))[1].width_mm == 0
    assert bleed(EdgeSpec(rings=(bare, dark)))[1].width_mm == STARTER_MISS_MM


def test_a_person_can_set_it_and_is_told_when_it_is_missing() -> None:
    _, none = bleed(EdgeSpec("bare", 0), 0.0)
    (finding,) = bleed_findings(none, 0, STOCK_BY_KEY["satin-vinyl"])
    assert (finding.severity, finding.fixes[0].changes) == ("look", {"bleed_mm": None})
    assert bleed(EdgeSpec(distance_mm=3), 1.5)[1].width_mm == 1.5
    assert bleed_findings(none, 0, STOCK_BY_KEY["plain-vinyl"]) == []


def test_pixels_are_carried_outward_and_no_farther() -> None:
    spec = EdgeSpec("bare", 0)
    edge, computed = bleed(spec)
    carried = carried_outward(PICTURE, OUTLINE, edge, computed.width_mm)
    left, top, width, height = bleed_box_mm(OUTLINE, edge, computed.width_mm)
    assert (carried.width_px, carried.height_px) == (round(width * 10), round(height * 10))
    rows, columns = np.nonzero(carried.rgba[:, :, 3] > 127)
    away = np.hypot(columns / 10 + 0.05 + left - 18, rows / 10 + 0.05 + top - 18)
    assert away.max() == pytest.approx(18.6, abs=0.2)
    ring = (np.abs(away - 18.3)) < 0.2
    assert (carried.rgba[rows[ring], columns[ring]][:, :3] == (40, 90, 160)).all()


def test_a_picture_shown_smaller_is_carried_to_the_same_box() -> None:
    """What is shown, rehearsed or measured from a preview lies where the print lies."""
    edge, computed = bleed(EdgeSpec("bare", 0))
    full = carried_outward(PICTURE, OUTLINE, edge, computed.width_mm)
    # The left half is another colour, so that a picture laid in a corner of the box would be noticed.
    halved = replace(PICTURE, rgba=PICTURE.rgba.copy())
    halved.rgba[:, :200, :3] = (200, 30, 30)
    small = replace(halved, rgba=np.asarray(Image.fromarray(halved.rgba).resize((150, 150), Image.Resampling.BOX)))
    carried = carried_outward(small, OUTLINE, edge, computed.width_mm)
    share = 150 / 400
    assert carried.width_px == pytest.approx(full.width_px * share, abs=1)
    covered = [float((one.alpha > 127).mean()) for one in (full, carried)]
    assert covered[1] == pytest.approx(covered[0], abs=0.02)
    red = carried.rgba[..., 0] > 120
    middle = carried.width_px // 2
    assert red[:, : middle - 2][carried.alpha[:, : middle - 2] > 127].all()
    assert not red[:, middle + 2 :].any()


def test_packing_keeps_bleeds_apart() -> None:
    edge = shapely.MultiPolygon([box(0, 0, 10, 10)])
    wide = Piece(0, edge, 1, Cut.KISS, 1.5)
    assert gap_between(wide, wide, 2) == 3
    assert gap_between(wide, Piece(1, edge, 1), 2) == 2


def test_near_pieces_share_the_space_and_no_bleed_leaves_the_live_area() -> None:
    spec = EdgeSpec("bare", 0)
    edge, computed = bleed(spec)
    item = PrintItem(OUTLINE, edge, spec.stack, computed.width_mm)
    live = box(5, 5, 95, 95)
    placements = [Placement(1, 5, 5, 0), Placement(1, 41.4, 5, 0)]
    sheet = laid(placements, {1: edge.shape}, live)
    page = compose_page(Paper(100, 100), sheet, {1: item}, (), WHITE, False)
    first, second = (printed.clip for printed in page.pictures)
    assert shapely.intersection(first, second).area < 1e-6
    assert live.buffer(1e-9).covers(first)
    assert first.area > edge.shape.area


@tried(60)
@given(st.lists(st.tuples(st.floats(-6, 30), st.floats(-6, 26)), min_size=3, max_size=9))
def test_a_ring_is_filled_by_the_centres_of_pixels(corners: list[tuple[float, float]]) -> None:
    """Scan conversion agrees with a point-in-polygon test at every centre, also where a ring reaches past the box."""
    ring = np.array([*corners, corners[0]])
    mask = np.zeros((20, 24), dtype=bool)
    _toggle(mask, ring)
    inside = np.logical_xor.accumulate(mask, axis=1)
    x, y = np.meshgrid(np.arange(24) + 0.5, np.arange(20) + 0.5)
    crossed = np.zeros(x.shape, dtype=int)
    for (x0, y0), (x1, y1) in pairwise(ring):
        with np.errstate(divide="ignore", invalid="ignore"):
            at = x0 + (y - y0) * (x1 - x0) / (y1 - y0)
        crossed += ((y0 <= y) != (y1 <= y)) & (at <= x)
    near = shapely.distance(shapely.LineString(ring), shapely.points(x, y)) < 1e-6
    assert np.array_equal(inside[~near], (crossed % 2 == 1)[~near])
