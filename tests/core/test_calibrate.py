"""Calibration: any affine map is found back, misread ticks are named, and a vernier sheet reads what was put in."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely.geometry import box

from vamper.core.marks.calibrate import VernierReading, fit
from vamper.core.marks.vernier import (
    COARSE_MM,
    MOST_TICK,
    NarrowSide,
    agree,
    expected_side,
    miss_of,
    narrow_side,
    reading_of,
    vernier_sheet,
)
from vamper.core.values.calibration import Calibration, landing
from vamper.core.values.findings import BadInput
from vamper.core.values.paper import PAPER_BY_KEY

LETTER = PAPER_BY_KEY["letter"]
LIVE = box(10.8, 10.8, 205.1, 268.6)
CORNERS = [(x, y) for x in (30.0, 185.0) for y in (25.0, 250.0)]
small = st.floats(-0.02, 0.02)
offset = st.floats(-3, 3)


def readings_of(matrix: np.ndarray, places: list[tuple[float, float]], step: float = 0.0) -> list[VernierReading]:
    found = []
    for place in places:
        miss = landing(matrix, np.array([place]))[0] - place
        for axis, value in zip("xy", miss.tolist(), strict=True):
            read = round(value / step) * step if step else value
            found.append(VernierReading(*place, axis, read))  # type: ignore[arg-type]
    return found


@given(small, small, offset, small, small, offset, st.lists(st.tuples(offset, offset), max_size=4))
def test_any_affine_map_is_found_back(a, b, c, d, e, f, more) -> None:  # type: ignore[no-untyped-def]
    matrix = np.array([[1 + a, b, c], [d, 1 + e, f]])
    assume(np.abs(landing(matrix, np.array(CORNERS)) - CORNERS).max() < 25)
    places = CORNERS + [(100 + 20 * x, 140 + 20 * y) for x, y in more]
    found = fit(readings_of(matrix, places))
    assert np.array(found.map) == pytest.approx(matrix, abs=1e-8)
    assert found.residual_mm == pytest.approx(0, abs=1e-9)
    assert 0.02 < found.left_mm < 0.042
    assert found.stretch == pytest.approx((math.hypot(1 + a, d), math.hypot(b, 1 + e)))
    calibration = Calibration(found.map)
    points = np.random.default_rng(0).uniform(0, 280, (20, 2))
    assert calibration.landing(calibration.corrected(points)) == pytest.approx(points)


def test_a_turn_is_a_turn_and_a_shear_a_shear() -> None:
    angle = math.radians(0.3)
    turned = np.array([[math.cos(angle), -math.sin(angle), 0], [math.sin(angle), math.cos(angle), 0]])
    found = fit(readings_of(turned, CORNERS))
    assert (found.turn_deg, found.shear_deg) == pytest.approx((0.3, 0.0))
    sheared = np.array([[1, 0, 0], [math.tan(angle), 1, 0]])
    found = fit(readings_of(sheared, CORNERS))
    assert (found.turn_deg, found.shear_deg) == pytest.approx((0.15, 0.3), abs=1e-4)


def test_the_offset_is_the_miss_in_the_middle_of_the_readings() -> None:
    matrix = np.array([[1.002, 0, 0.1], [0, 1, -0.2]])
    assert fit(readings_of(matrix, CORNERS)).offset_mm == pytest.approx((0.1 + 0.002 * 107.5, -0.2))


@pytest.mark.parametrize("number", range(8))
def test_a_misread_tick_is_named(number: int) -> None:
    readings = readings_of(np.array([[1.001, 0, 0.4], [0, 0.999, -0.2]]), CORNERS, 0.1)
    readings[number] = replace(readings[number], miss_mm=readings[number].miss_mm + 0.9)
    found = fit(readings)
    assert found.worst is not None
    assert found.worst.reading == number
    assert found.worst.by_mm == pytest.approx(0.9, abs=0.25)
    assert found.residual_mm is not None
    assert found.residual_mm > found.left_mm > 0.1


def test_with_three_readings_nothing_is_left_to_check_by() -> None:
    readings = readings_of(np.array([[1.001, 0.002, 0.4], [0, 0.999, -0.2]]), CORNERS[:3])
    found = fit(readings)
    assert (found.residual_mm, found.worst) == (None, None)
    assert found.left_mm == pytest.approx(0.042)


@pytest.mark.parametrize(
    "places", [CORNERS[:2], [(10, 10), (50, 50), (90, 90)], [(20, 20)] * 4, [(10, 10), (10.01, 10), (10, 10.01)]]
)
def test_readings_that_cannot_fix_a_map_are_refused(places: list[tuple[float, float]]) -> None:
    with pytest.raises(BadInput, match=r"three are needed|one line"):
        fit(readings_of(np.array([[1.0, 0, 0.4], [0, 1, 0]]), places))


@pytest.mark.parametrize("by", [(0.19, 0.0), (0.0, 0.19)])
def test_a_sheet_is_a_fifth_from_itself_at_most(by: tuple[float, float]) -> None:
    def map_of(stretch: float, turn: float) -> tuple[tuple[float, ...], ...]:
        return (1 + stretch, turn, 0.0), (0.0, 1.0, 0.0)

    assert Calibration(map_of(*by)).map[0][0] == 1 + by[0]
    with pytest.raises(ValueError, match="map"):
        Calibration(map_of(by[0] * 1.2, by[1] * 1.2))


def test_readings_six_millimetres_apart_fix_a_map() -> None:
    true = np.array([[1.0, 0, 0.4], [0, 1, 0]])
    assert fit(readings_of(true, [(10, 10), (22, 10), (10, 22), (22, 22)])).map[0][2] == pytest.approx(0.4)


@given(st.floats(-3.4, 3.4))
def test_a_vernier_reads_any_miss_to_half_a_tenth(miss: float) -> None:
    """The printed tick that a cut one meets best, and the place on the comb, as an eye would find them."""
    printed, cut = np.arange(-MOST_TICK, MOST_TICK + 1), np.arange(-5, 6)
    apart = np.abs(printed[:, None] - (0.9 * cut[None] + miss))
    tick = int(printed[np.unravel_index(apart.argmin(), apart.shape)[0]])
    assert miss_of(tick, round(miss * 2) / 2) == pytest.approx(miss, abs=0.051)
    assert miss_of(tick, round(miss * 4) / 4) == pytest.approx(miss, abs=0.051)


@pytest.mark.parametrize(("tick", "coarse"), [(9, 0.0), (0, 9.0), (0, math.nan)])
def test_what_is_not_on_the_scale_is_refused(tick: int, coarse: float) -> None:
    with pytest.raises(BadInput):
        miss_of(tick, coarse)


def test_readings_that_cannot_be_are_refused() -> None:
    """Every pair of a tick and a place on the comb: taken only where some cut tick lies at that printed one."""
    for tick in range(-MOST_TICK, MOST_TICK + 1):
        for coarse in COARSE_MM:
            nearest = min(abs(tick - 0.9 * cut - coarse) for cut in range(-5, 6))
            if nearest <= 0.7:
                assert abs(miss_of(tick, coarse) - coarse) == pytest.approx(nearest)
            else:
                with pytest.raises(BadInput, match="cannot meet a cut one"):
                    miss_of(tick, coarse)
    with pytest.raises(BadInput, match="look at both once more"):
        miss_of(8, 0.0)


def test_a_calibration_half_a_metre_off_is_refused() -> None:
    with pytest.raises(ValueError, match="no more than 60 mm off"):
        Calibration(((1.0, 0.0, 500.0), (0.0, 1.0, 0.0)))
    assert Calibration(((1.0, 0.0, 5.0), (0.0, 1.0, -5.0))).map[0][2] == 5.0


def test_a_whole_sheet_is_read() -> None:
    sheet = vernier_sheet(LETTER, LIVE, "letter")
    assert len(sheet.scales) == 8
    assert len({(scale.place, scale.axis) for scale in sheet.scales}) == 8
    matrix = np.array([[1.001, 0.0005, 0.62], [-0.0003, 1.0008, -0.4]])
    readings = []
    for scale in sheet.scales:
        off = landing(matrix, np.array([[scale.x_mm, scale.y_mm]]))[0] - (scale.x_mm, scale.y_mm)
        miss = float(off["xy".index(scale.axis)])
        cut = round((miss - round(miss)) * 10)
        readings.append(reading_of(sheet, scale.number, cut + round(miss), round(miss)))
    found = fit(readings)
    corners = np.array([(0, 0), (216, 0), (0, 279), (216, 279)], float)
    assert np.abs(landing(np.array(found.map), corners) - landing(matrix, corners)).max() < 0.15
    assert expected_side(sheet, found) is narrow_side(
        tuple(landing(matrix, np.array([sheet.check_mm]))[0] - sheet.check_mm)
    )


def test_everything_on_the_sheet_lies_in_the_live_area() -> None:
    for paper in ("letter", "a4", "a5", "4x6in"):
        size = PAPER_BY_KEY[paper]
        live = box(8, 8, size.width_mm - 8, size.height_mm - 8)
        sheet = vernier_sheet(size, live, paper)
        drawn = [sheet.disc, *sheet.lines, *(stroke.points for stroke in sheet.drawing.strokes)]
        points = np.concatenate([*drawn, *(ring for fill in sheet.drawing.fills for ring in fill.rings)])
        left, top, right, bottom = live.bounds
        assert (points >= (left, top)).all()
        assert (points <= (right, bottom)).all()


def test_notched_corners_move_the_scales_in_and_too_small_a_sheet_is_refused() -> None:
    notched = box(8, 8, 200, 270).difference(box(0, 0, 22, 22)).difference(box(186, 0, 220, 22))
    notched = notched.difference(box(0, 256, 22, 280)).difference(box(186, 256, 220, 280))
    sheet = vernier_sheet(LETTER, notched, "notched")
    assert all(notched.covers(box(s.x_mm - 5, s.y_mm - 5, s.x_mm + 5, s.y_mm + 5)) for s in sheet.scales)
    with pytest.raises(BadInput, match="too small"):
        vernier_sheet(LETTER, box(8, 8, 60, 90), "small")


def test_the_check_figure_agrees_with_its_neighbours_only() -> None:
    assert narrow_side((0.02, 0.05)) is NarrowSide.EVEN
    assert narrow_side((0.5, 0.0)) is NarrowSide.RIGHT
    assert narrow_side((0.0, -0.5)) is NarrowSide.ABOVE
    assert agree(NarrowSide.RIGHT, NarrowSide.LOWER_RIGHT)
    assert not agree(NarrowSide.RIGHT, NarrowSide.LEFT)
    assert not agree(NarrowSide.EVEN, NarrowSide.LEFT)


@pytest.mark.parametrize("map_", [((0.5, 0, 0), (0, 1, 0)), ((1, 0.9, 0), (0, 1, 0))])
def test_a_map_that_cannot_be_is_refused(map_: tuple[tuple[float, ...], ...]) -> None:
    with pytest.raises(ValueError, match="about as it is"):
        Calibration(map_)


@pytest.mark.parametrize(("aside_mm", "tells"), [(0.05, False), (0.25, False), (0.3, True), (1.0, True)])
def test_readings_nearly_on_one_line_tell_no_turn(aside_mm: float, tells: bool) -> None:
    readings = readings_of(np.eye(2, 3), [(0.0, 0.0), (150.0, aside_mm), (300.0, 0.0)])
    if tells:
        assert np.array(fit(readings).map) == pytest.approx(np.eye(2, 3), abs=1e-9)
    else:
        with pytest.raises(BadInput, match="on one line"):
            fit(readings)
