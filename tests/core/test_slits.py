"""Slits in a mask on something round both ways."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, MultiPolygon, Point

from vamper.core.finishing.slits import MASK_PAST_MM, YIELD_SHARE, flat_radius_mm, slits


def disc(radius: float, x: float = 0.0, y: float = 0.0) -> MultiPolygon:
    return MultiPolygon([Point(x, y).buffer(radius)])


def test_flat_ends_where_the_film_would_have_to_yield_more_than_it_does() -> None:
    ball = 240.0
    way = flat_radius_mm(ball)
    too_much = 1 - math.sin(way / (ball / 2)) / (way / (ball / 2))
    assert too_much == pytest.approx(YIELD_SHARE, rel=0.01)


def test_a_small_piece_on_a_large_ball_needs_none() -> None:
    assert slits(disc(8), 240) == ()
    assert slits(disc(60), 4000) == ()


@given(
    radius=st.floats(25, 90),
    ball=st.floats(120, 400),
    apart=st.floats(0, 60),
)
def test_slits_run_from_the_rim_inward_and_never_into_the_piece(radius: float, ball: float, apart: float) -> None:
    piece = MultiPolygon([Point(0, 0).buffer(radius / 3), Point(radius / 1.5 + apart, 0).buffer(radius / 4)])
    left, top, right, bottom = piece.bounds
    rim = shapely.box(left - MASK_PAST_MM, top - MASK_PAST_MM, right + MASK_PAST_MM, bottom + MASK_PAST_MM).exterior
    middle = np.array([(left + right) / 2, (top + bottom) / 2])
    for outer, inner in slits(piece, ball):
        assert rim.distance(Point(outer)) < 0.01
        assert piece.distance(LineString([outer, inner])) >= 1.9
        assert np.hypot(*(inner - middle)) >= flat_radius_mm(ball) - 0.01
        # Straight at the middle.
        (a, b), (c, d) = outer - middle, inner - middle
        across = a * d - b * c
        assert abs(across) < 1e-6 * np.hypot(*(outer - middle)) * max(1.0, np.hypot(*(inner - middle)))


def test_a_rounder_ball_asks_for_more_and_deeper_slits() -> None:
    piece = disc(20)
    few, many = slits(piece, 300), slits(piece, 120)
    assert len(many) > len(few)

    def deepest(found: tuple[np.ndarray, ...]) -> float:
        return max((float(np.hypot(*(one[0] - one[1]))) for one in found), default=0.0)

    assert deepest(many) > 0
    assert deepest(many) >= deepest(few)
