"""The miss budget: the page's formula, ellipses against chance itself, fewer marks, and runs that were measured."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_reading import job
from tests.scenes import bars, item, lying, scene
from tests.tried import tried
from vamper.core.effective_job import effective_job
from vamper.core.marks.budget import ErrorBudget, drifted, p95
from vamper.core.marks.inspect import drift_findings
from vamper.core.plan import cut_as_sent, cut_of, set_up_sheet, worst_miss_mm
from vamper.core.values.calibration import Calibration
from vamper.core.values.cutter import Cutter
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.marks import MarksSpec
from vamper.core.values.miss import STARTER_MISS_MM, LoggedMiss

MIDDLE = np.array([[107.95, 139.7]])
CORNER = np.array([[207.9, 271.4]])


def budget(**fields: object) -> ErrorBudget:
    return set_up_sheet(effective_job(job(**fields))).budget


def test_the_starter_is_the_same_everywhere() -> None:
    found = budget().miss_mm(np.vstack([MIDDLE, CORNER]))
    assert found == pytest.approx([0.612, 0.612])
    assert pytest.approx(0.612) == STARTER_MISS_MM


def test_the_formula_by_hand() -> None:
    calibration = Calibration(residual_mm=0.05, read_mm=0.1, stretch_left=0.001, slip_mm=0.08)
    found = budget(calibration=calibration)
    far = float(np.hypot(*(CORNER - MIDDLE)[0]))
    sigma = math.sqrt(0.1**2 + 0.05**2 + (0.001 * far) ** 2 + 0.08**2 * 3)
    assert found.miss_mm(CORNER, 3)[0] == pytest.approx(2.448 * sigma, rel=1e-4)


@given(st.floats(0.01, 1), st.floats(0.01, 1))
@tried(30)
def test_unequal_axes_against_chance(across: float, along: float) -> None:
    drawn = np.random.default_rng(1).normal(size=(40_000, 2)) * (across, along)
    seen = np.quantile(np.hypot(*drawn.T), 0.95)
    assert p95(np.array([[across, along]]))[0] == pytest.approx(seen, rel=0.03)


@pytest.mark.parametrize("ratio", [0.06, 0.3, 0.5, 0.9])
def test_unequal_axes_are_between_one_axis_and_two(ratio: float) -> None:
    """A quarter of the directions, finely summed: what lies beyond the length is one in twenty."""
    length = float(p95(np.array([[ratio, 1.0]]))[0])
    angles = (np.arange(4000) + 0.5) * math.pi / 8000
    steep = np.cos(angles) ** 2 + (np.sin(angles) / ratio) ** 2
    assert float((np.exp(-(length**2) * steep / 2) / steep).mean() / ratio) == pytest.approx(0.05, abs=1e-4)
    assert 1.9599 < length < 2.4478


def test_along_the_feed_it_is_off_by_more() -> None:
    even, fed = budget(), budget(cutter=Cutter(feed_mm=0.3))
    (across, along) = fed.sigmas(MIDDLE)[0]
    assert (across, along) == pytest.approx((0.25, math.hypot(0.25, 0.3)))
    assert even.miss_mm(MIDDLE)[0] < fed.miss_mm(MIDDLE)[0] < 2.448 * along


def test_three_marks_carry_an_error_farther_most_to_the_missing_one() -> None:
    three, four = budget(marks=MarksSpec(count=3)), budget()
    near, far = np.array([[9.0, 9.0]]), CORNER
    assert three.miss_mm(far)[0] > three.miss_mm(near)[0] > four.miss_mm(near)[0]
    assert three.miss_mm(far)[0] == pytest.approx(2 * STARTER_MISS_MM, rel=0.05)
    assert three.miss_mm(far, marks=4)[0] == pytest.approx(four.miss_mm(far)[0])


def test_three_marks_against_an_affine_map_through_them() -> None:
    """Each mark read with its own error; the map through them carries these errors to every place."""
    three = budget(marks=MarksSpec(count=3))
    places = np.array([[0.0, 0.0], [1.0, 0.0], [0.0, 1.0]])
    errors = np.random.default_rng(2).normal(size=(20_000, 3))
    share = {"middle": (0.5, 0.5), "missing": (1.0, 1.0)}
    for u, v in share.values():
        shares = np.linalg.solve(np.vstack([places.T, np.ones(3)]), [u, v, 1.0])
        away = np.array([[(2 * u - 1) * three.half_mm[0], (2 * v - 1) * three.half_mm[1]]])
        four = (1 + (2 * u - 1) ** 2 + (2 * v - 1) ** 2) / 4
        carried = three._carried(away, 3)[0] * four
        assert carried == pytest.approx((errors @ shares).var(), rel=0.05)


def test_ten_own_runs_outweigh_the_starter() -> None:
    good = tuple(LoggedMiss(*one) for one in np.random.default_rng(3).normal(0, 0.08, (10, 2)).tolist())
    found = budget(misses=good).sigmas(MIDDLE)[0]
    assert (found < 0.17).all()
    one_side = tuple(LoggedMiss(0.3, 0.0) for _ in range(10))
    biased = budget(misses=one_side)
    assert biased.bias_mm == pytest.approx((0.2, 0.0))
    assert biased.miss_mm(MIDDLE)[0] > 2.448 * biased.sigmas(MIDDLE)[0].min()


def test_the_feed_counts_once_once_misses_are_logged() -> None:
    """What was measured along the feed has the feed in it already."""
    rng = np.random.default_rng(5)
    feed = Cutter(feed_mm=0.4)
    along = math.hypot(0.25, 0.4)
    drawn = rng.normal(size=(500, 2)) * (0.25, along)
    found = budget(misses=tuple(LoggedMiss(float(x), float(y)) for x, y in drawn), cutter=feed)
    assert found.sigmas(MIDDLE)[0] == pytest.approx((0.25, along), rel=0.08)


def test_pieces_of_one_sheet_count_as_one_run() -> None:
    """Two runs of four pieces without drift raised “calibrate anew” in 43 of 100 cases; chance alone raises it in 9."""
    rng, alarms = np.random.default_rng(2), 0
    for _ in range(400):
        misses = []
        for run in range(5):
            shared = rng.normal(size=2) * 0.23
            misses += [LoggedMiss(*(shared + rng.normal(size=2) * 0.1).tolist(), run=run) for _ in range(4)]
        alarms += drifted(misses)
        assert not drifted(misses[:8])
    assert alarms / 400 < 0.14
    alike = tuple(LoggedMiss(0.3, 0.0, run=1) for _ in range(40))
    assert budget(misses=alike).bias_mm == pytest.approx((0.3 / 6, 0.0))


def test_pieces_that_came_out_well_count_as_well() -> None:
    """Where only spoilt pieces are measured, their misses are the large ones: 1.04 was learnt for a true 0.61."""
    rng, within = np.random.default_rng(3), 0.6
    sigma = 0.25
    everything, spoilt_alone = [], []
    for run in range(300):
        pieces = rng.normal(size=(9, 2)) * sigma
        off = [one for one in pieces.tolist() if math.hypot(*one) > within]
        spoilt = [LoggedMiss(*one, run=run) for one in off]
        spoilt_alone += spoilt
        everything += [*spoilt, LoggedMiss(0.0, 0.0, run, within, 9 - len(off))]
    learnt = 2.448 * budget(misses=tuple(everything[:1000])).sigmas(MIDDLE)[0].mean()
    biased = 2.448 * budget(misses=tuple(spoilt_alone[:1000])).sigmas(MIDDLE)[0].mean()
    assert learnt == pytest.approx(0.612, rel=0.06)
    assert biased > 0.9


def test_what_was_measured_by_marks_says_nothing_of_what_is_only_cut() -> None:
    calibration = Calibration(((1.0, 0.0, 0.5), (0.0, 1.0, 0.0)))
    cut_only = scene(item(), stock="plain-vinyl", calibration=calibration, misses=(LoggedMiss(1.0, 0.0),)).plan()
    assert cut_only.job.calibration is None
    sent, nominal = cut_as_sent(cut_only, 0), cut_of(cut_only, 0)
    assert all(np.array_equal(a.points, b.points) for a, b in zip(sent.loops, nominal.loops, strict=True))
    assert cut_only.budget.bias_mm == (0.0, 0.0)
    printed = scene(item(), calibration=calibration).plan()
    assert printed.job.calibration == calibration


def test_drift_is_the_mean_of_the_last_five() -> None:
    limit = 2 * 0.25 / math.sqrt(5)
    assert drifted([LoggedMiss(limit + 0.01, 0)] * 5)
    assert not drifted([LoggedMiss(limit - 0.01, 0)] * 5)
    assert not drifted([LoggedMiss(1, 0)] * 4)
    assert not drifted([LoggedMiss(0.3, 0), LoggedMiss(-0.3, 0)] * 3)
    (told,) = drift_findings([LoggedMiss(-1.5, 1.0), *[LoggedMiss(0.8, -0.5)] * 5])
    assert (told.figures["dx_mm"], told.figures["dy_mm"]) == (0.8, -0.5)


def test_bleed_is_as_wide_as_the_largest_miss_of_its_pieces() -> None:
    calibration = Calibration(residual_mm=0.0, read_mm=0.2, stretch_left=0.004, slip_mm=0.1)
    full = bars((0, 0, 400, 400))
    near = scene(
        item(quantity=1, edge=EdgeSpec("bare", 0)),
        pictures={1: full},
        calibration=calibration,
        held=lying((1, 90, 120)),
    )
    far = scene(
        item(quantity=1, edge=EdgeSpec("bare", 0)),
        pictures={1: full},
        calibration=calibration,
        held=lying((1, 11, 11)),
    )
    for one in (near, far):
        plan = one.plan()
        assert plan.items[0].bleed.width_mm == pytest.approx(plan.misses_mm(0).max(), abs=1e-3)
    assert near.plan().items[0].bleed.width_mm < far.plan().items[0].bleed.width_mm
    made = effective_job(far.job)
    assert far.plan().items[0].bleed.width_mm <= worst_miss_mm(made, set_up_sheet(made))
