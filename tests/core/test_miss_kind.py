"""What kind of miss a sheet shows."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.ledger.miss_kind import ALONG_FEED, EVEN, GROWING, kind_of_misses

PLACES = np.array([(x, y) for x in (30.0, 90.0, 150.0) for y in (40.0, 110.0, 180.0, 250.0)])
CENTRED = PLACES - PLACES.mean(axis=0)
NOISE = np.random.default_rng(4).normal(0, 0.04, PLACES.shape)


@given(st.floats(-1, 1), st.floats(-1, 1))
def test_a_shift_is_even(dx: float, dy: float) -> None:
    assert kind_of_misses(PLACES, np.array([dx, dy]) + NOISE) == EVEN


@pytest.mark.parametrize("axis", [0, 1])
def test_a_stretch_toward_one_side_grows(axis: int) -> None:
    misses = np.array([0.3, 0.3]) + NOISE
    misses[:, axis] += 0.01 * CENTRED[:, 0]
    assert kind_of_misses(PLACES, misses) == GROWING


@given(st.floats(0.004, 0.02), st.floats(-0.3, 0.3))
def test_what_changes_along_the_feed_alone_is_told_apart(slope: float, shift: float) -> None:
    misses = NOISE * 0.5
    misses[:, 1] += shift + slope * CENTRED[:, 1]
    assert kind_of_misses(PLACES, misses) == ALONG_FEED


@pytest.mark.parametrize(("over_sheet_mm", "kind"), [(0.27, EVEN), (0.33, GROWING)])
def test_a_growth_is_seen_from_three_tenths_over_the_sheet_on(over_sheet_mm: float, kind: str) -> None:
    misses = np.zeros(PLACES.shape)
    misses[:, 0] = over_sheet_mm * CENTRED[:, 0] / np.ptp(CENTRED[:, 0])
    assert kind_of_misses(PLACES, misses) == kind


def test_few_pieces_tell_of_a_shift_only() -> None:
    assert kind_of_misses(PLACES[:3], CENTRED[:3]) == EVEN
    corners = PLACES[[0, 3, 8, 11]]
    assert kind_of_misses(corners, 0.01 * (corners - corners.mean(axis=0))) == GROWING
    assert kind_of_misses(np.tile(PLACES[:1], (6, 1)), NOISE[:6]) == EVEN
