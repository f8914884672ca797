"""The outline against shapes whose area and size are known."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import disc_alpha, picture_of
from tests.tried import tried
from vamper.core.art.outline import SPECK_MM2, outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput

PX_600 = 600 / 25.4


@given(st.floats(5, 20), st.floats(-0.5, 0.5), st.floats(-0.5, 0.5))
@tried(12)
def test_disc_area_and_radius(diameter: float, dx: float, dy: float) -> None:
    radius = diameter / 2 * PX_600
    size = int(2 * radius) + 8
    tracing = trace(picture_of(disc_alpha(size, radius, (size / 2 + dx, size / 2 + dy))))
    outline = outline_at(tracing, SizeSpec(width_mm=diameter))
    # 0.2 % at 20 mm; a rim's error is a length, so it weighs more on a smaller disc.
    assert outline.shape.area == pytest.approx(math.pi * diameter**2 / 4, rel=0.002 * 20 / diameter)
    points = shapely.get_coordinates(outline.shape) - diameter / 2
    assert np.abs(np.hypot(*points.T) - diameter / 2).max() < 0.03
    assert outline.ppi == pytest.approx(600, rel=0.002)


def test_holes_stay_and_islands_in_them_are_parts() -> None:
    ring = disc_alpha(400, 180, (200, 200)) - disc_alpha(400, 100, (200, 200)) + disc_alpha(400, 50, (200, 200))
    outline = outline_at(trace(picture_of(ring)), SizeSpec(width_mm=36))
    assert sorted(len(part.interiors) for part in outline.shape.geoms) == [0, 1]


def test_opaque_picture_is_its_rectangle() -> None:
    outline = outline_at(trace(Picture(np.full((50, 100, 4), 255, np.uint8))), SizeSpec(width_mm=40))
    assert outline.opaque
    assert outline.shape.equals(shapely.MultiPolygon([shapely.box(0, 0, 40, 20)]))


def test_specks_do_not_count_for_the_size() -> None:
    alpha = np.zeros((300, 600))
    alpha[100:200, 300:500] = 1
    alpha[5:8, 5:8] = 1
    outline = outline_at(trace(picture_of(alpha)), SizeSpec(width_mm=20))
    assert outline.size_mm == pytest.approx((20, 10), abs=0.02)
    assert len(outline.specks) == 1
    assert outline.specks[0].area < SPECK_MM2
    # The same dot on a large piece is no speck.
    assert not outline_at(trace(picture_of(alpha)), SizeSpec(width_mm=600)).specks


def test_pinholes_are_filled_and_reported() -> None:
    alpha = np.ones((200, 200))
    alpha[100:103, 100:103] = 0
    outline = outline_at(trace(picture_of(alpha)), SizeSpec(width_mm=20))
    assert len(outline.pinholes) == 1
    assert not outline.shape.geoms[0].interiors


def test_height_can_be_asked_for() -> None:
    alpha = np.zeros((200, 100))
    alpha[10:190, 10:90] = 1
    assert outline_at(trace(picture_of(alpha)), SizeSpec(height_mm=90)).size_mm == pytest.approx((40, 90), abs=0.02)


def test_nothing_inked_is_refused() -> None:
    with pytest.raises(BadInput, match="fully transparent"):
        trace(picture_of(np.zeros((20, 20))))


def test_too_small_to_be_cut_is_refused() -> None:
    with pytest.raises(BadInput, match="too little to cut"):
        outline_at(trace(picture_of(np.ones((20, 20)))), SizeSpec(width_mm=0.3))


def test_the_picture_box_puts_pixels_where_the_outline_is() -> None:
    alpha = np.zeros((100, 100))
    alpha[20:60, 30:90] = 1
    outline = outline_at(trace(picture_of(alpha)), SizeSpec(width_mm=30))
    assert outline.picture_box_mm == pytest.approx((-15, -10, 50, 50), abs=0.01)


def test_pictures_too_large_to_trace_whole_are_pooled_and_stay_exact(monkeypatch: pytest.MonkeyPatch) -> None:
    picture = picture_of(disc_alpha(1003, 450.3, (501.2, 499.7)))
    whole = outline_at(trace(picture), SizeSpec(width_mm=40))
    monkeypatch.setattr("vamper.core.art.outline.MOST_TRACED_PX", 120_000)
    pooled = outline_at(trace(picture), SizeSpec(width_mm=40))
    # Three by three pixels in one: a quarter of such a block at most.
    assert pooled.shape.hausdorff_distance(whole.shape) < 0.25 * 3 * whole.mm_per_px
    assert pooled.ppi == pytest.approx(whole.ppi, rel=0.001)
    assert pooled.picture_box_mm == pytest.approx(whole.picture_box_mm, abs=0.03)


def test_every_third_pixel_of_a_picture_three_times_as_large_as_is_wanted() -> None:
    rgba = np.arange(90 * 60 * 4, dtype=np.uint32).astype(np.uint8).reshape(60, 90, 4)
    thin, every = Picture(rgba).thinned(30)
    assert every == 3
    assert (thin.rgba == rgba[1::3, 1::3]).all()
    same, once = thin.thinned(30)
    assert (same is thin, once) == (True, 1)
