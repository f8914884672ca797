"""How far off a cut may be, place by place on the sheet.

Per axis σ² = read² + residual² + (stretch left · distance from the marks' centre)² + slip² · passes, with σ = 0.25 mm
for all of it before anything was calibrated; along the feed of rollers another σ is added. The miss that 95 of 100 stay
under is 2.448 σ where both axes are alike (Rayleigh), else that of the ellipse; a known mean miss is added to it.

With fewer marks the same error of reading one carries farther. What four corners say of a place (x, y), measured from
their middle in half sides, has the variance (1 + x² + y²) / 4 of one mark's; three leave the fourth corner to be told
from the others: 3. So the part that reading has in a miss grows with three marks, most at the missing one.

Misses of runs are blended in by the inverse-gamma rule: the starter counts as five runs.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt
import shapely
from scipy import optimize

from vamper.core.marks.mark import Mark
from vamper.core.values.calibration import Calibration
from vamper.core.values.geometry import Points
from vamper.core.values.job import Job
from vamper.core.values.miss import NINETEEN_OF_TWENTY, STARTER_RUNS, STARTER_SIGMA_MM, LoggedMiss

Floats = npt.NDArray[np.float64]

_ANGLES = (np.arange(720) + 0.5) * math.pi / 720
_RATIOS = np.linspace(0.0, 1.0, 101)
# Runs that drift is told by.
_LAST = 5
# Rounds in which the variance of what was not measured settles; beyond this nothing is cut off it.
_ROUNDS, _FAR_OUT = 30, 50.0


@dataclass(frozen=True)
class ErrorBudget:
    """The errors that add up to the greatest likely miss of one sheet's cuts.

    Parameters
    ----------
    own_mm, far_share, slip_mm, along_mm : float
        σ of reading and calibration, of a distance, of each pass, and what the feed adds along it.
    centre_mm, half_mm : pair of float
        The middle of the marks, and how far they lie from it.
    marks : int
        How many are looked for; with 3, one corner has none.
    missing : pair of int
        That corner, seen from the middle: 1 to the right and down, -1 to the left and up.
    bias_mm : pair of float
        The mean miss that is known.
    blend : pair of float
        What logged runs make of the σ of either axis: a factor.
    """

    own_mm: float
    far_share: float
    slip_mm: float
    along_mm: float
    centre_mm: tuple[float, float]
    half_mm: tuple[float, float]
    marks: int = 4
    missing: tuple[int, int] = (1, 1)
    bias_mm: tuple[float, float] = (0.0, 0.0)
    blend: tuple[float, float] = (1.0, 1.0)

    @property
    def is_even(self) -> bool:
        """Whether it is the same all over the sheet."""
        return self.marks != 3 and self.far_share == 0

    def sigmas(self, points: Points, passes: npt.ArrayLike = 1, marks: int | None = None) -> Points:
        """σ across and along, shape (n, 2), at points (n, 2)."""
        away = points - self.centre_mm
        far = np.hypot(*away.T) * self.far_share
        read = self.own_mm**2 * self._carried(away, self.marks if marks is None else marks)
        same = read + far**2 + self.slip_mm**2 * np.asarray(passes, dtype=float)
        found: Points = np.sqrt(np.column_stack([same, same + self.along_mm**2])) * self.blend
        return found

    def miss_mm(self, points: Points, passes: npt.ArrayLike = 1, marks: int | None = None) -> Floats:
        """The miss that 95 of 100 pieces stay under at points (n, 2)."""
        found: Floats = p95(self.sigmas(points, passes, marks)) + math.hypot(*self.bias_mm)
        return found

    def _carried(self, away: Points, marks: int) -> Floats:
        """How much more variance reading has at places than with four marks."""
        if marks != 3:
            return np.ones(len(away))
        x, y = (away / self.half_mm).T
        four = (1 + x**2 + y**2) / 4
        # An affine map through three corners, by their shares in a place.
        u, v = (1 + x * self.missing[0]) / 2, (1 + y * self.missing[1]) / 2
        three = (1 - u - v) ** 2 + u**2 + v**2
        found: Floats = three / four
        return found


def budget_of(job: Job, marks: Sequence[Mark]) -> ErrorBudget:
    """The budget of a job as it is made; `marks` in the frame of its layout."""
    paper, calibration = job.paper, job.calibration
    boxes = [mark.box_mm for mark in marks]
    left = min((box.x_mm for box in boxes), default=0.0)
    top = min((box.y_mm for box in boxes), default=0.0)
    right = max((box.x_mm + box.width_mm for box in boxes), default=paper.width_mm)
    bottom = max((box.y_mm + box.height_mm for box in boxes), default=paper.height_mm)
    own, far, slip = _parts(calibration)
    sigma = _total(calibration)
    bias, blend = _blended(job.misses, (sigma, math.hypot(sigma, job.cutter.feed_mm)))
    return ErrorBudget(
        own_mm=own,
        far_share=far,
        slip_mm=slip,
        along_mm=job.cutter.feed_mm,
        centre_mm=((left + right) / 2, (top + bottom) / 2),
        half_mm=((right - left) / 2, (bottom - top) / 2),
        marks=3 if len(marks) == 3 else 4,
        missing=(-1 if job.mirrored else 1, 1),
        bias_mm=bias,
        blend=blend,
    )


def _parts(calibration: Calibration | None) -> tuple[float, float, float]:
    if calibration is None:
        return STARTER_SIGMA_MM, 0.0, 0.0
    own = math.hypot(calibration.read_mm, calibration.residual_mm or 0.0)
    return own, calibration.stretch_left, calibration.slip_mm


def _total(calibration: Calibration | None) -> float:
    """σ an axis of one pass in the middle of the sheet."""
    own, _, slip = _parts(calibration)
    return max(math.hypot(own, slip), 1e-6)


def _blended(
    misses: Sequence[LoggedMiss], sigmas: tuple[float, float]
) -> tuple[tuple[float, float], tuple[float, float]]:
    """Mean miss and factor on σ, an axis, after some runs: the belief before them is worth five.

    A run counts once, however many of its pieces were measured: they share the sheet's error. What came out well was
    not measured, and is only known to lie within what is seen as good; it counts with what a miss is expected to be
    there, which is worked out anew until it stays.
    """
    if not misses:
        return (0.0, 0.0), (1.0, 1.0)
    runs = _by_run(misses)
    count = STARTER_RUNS + len(runs)
    mean = np.sum([_run_mean(run) for run in runs], axis=0) / count
    before = np.array(sigmas)
    variance = before**2
    for _ in range(_ROUNDS):
        squares = np.sum([_run_squares(run, mean, variance) for run in runs], axis=0)
        variance = (STARTER_RUNS * before**2 + squares) / count
    factor = np.sqrt(variance) / before
    return (float(mean[0]), float(mean[1])), (float(factor[0]), float(factor[1]))


def _by_run(misses: Sequence[LoggedMiss]) -> list[list[LoggedMiss]]:
    """The misses run by run, the oldest first; each miss that names no run is a run of its own."""
    runs: dict[int, list[LoggedMiss]] = {}
    for number, one in enumerate(misses):
        runs.setdefault(one.run if one.run is not None else -1 - number, []).append(one)
    return list(runs.values())


def _run_mean(run: Sequence[LoggedMiss]) -> Floats:
    """The mean miss of a run's pieces; the good ones lie about their place."""
    pieces = sum(one.pieces for one in run)
    return np.asarray(np.sum([(one.dx_mm * one.pieces, one.dy_mm * one.pieces) for one in run], axis=0) / pieces)


def _run_squares(run: Sequence[LoggedMiss], mean: Floats, variance: Floats) -> Floats:
    """The mean square of a run's misses, an axis."""
    found = np.zeros(2)
    for one in run:
        if one.within_mm is None:
            found += (np.array([one.dx_mm, one.dy_mm]) - mean) ** 2
        else:
            found += one.pieces * variance * _share_within(one.within_mm, variance)
    return found / sum(one.pieces for one in run)


def _share_within(within_mm: float, variance: Floats) -> float:
    """How much of its variance a normal miss keeps once it is known to be no longer than so: for Rayleigh's,
    1 − u·e^−u / (1 − e^−u) with u = within² / 2σ².
    """
    u = within_mm**2 / (2 * max(float(variance.mean()), 1e-9))
    return 1.0 if u > _FAR_OUT else 1 - u / math.expm1(u)


def drifted(misses: Sequence[LoggedMiss], sigma: float = STARTER_SIGMA_MM) -> bool:
    """Whether the mean of the last five runs that were measured lies beyond 2σ/√5 along either axis."""
    if len(_measured(misses)) < _LAST:
        return False
    return max(abs(side) for side in last_runs_mm(misses)) > 2 * sigma / math.sqrt(_LAST)


def last_runs_mm(misses: Sequence[LoggedMiss]) -> tuple[float, float]:
    """The mean miss of the last five runs that were measured."""
    across, down = np.array([_run_mean(run) for run in _measured(misses)[-_LAST:]]).mean(axis=0).tolist()
    return across, down


def _measured(misses: Sequence[LoggedMiss]) -> list[list[LoggedMiss]]:
    return _by_run([one for one in misses if one.within_mm is None])


def p95(sigmas: Points) -> Floats:
    """The length that 95 of 100 errors stay under, for σ across and along, shape (n, 2)."""
    most, least = sigmas.max(axis=1), sigmas.min(axis=1)
    ratio = np.divide(least, most, out=np.ones_like(most), where=most > 0)
    found: Floats = most * np.interp(ratio, _RATIOS, _factors())
    return found


@cache
def _factors() -> Floats:
    """The 95 % length beside the larger σ, by the ratio of the smaller: that of one axis at 0, Rayleigh's at 1."""

    def beyond(length: float, ratio: float) -> float:
        # Of a normal error with σ 1 and `ratio`: the mean over directions of what lies outside, in polar coordinates.
        steep = np.cos(_ANGLES) ** 2 + (np.sin(_ANGLES) / ratio) ** 2
        return float(np.mean(np.exp(-(length**2) * steep / 2) / steep)) / ratio - 0.05

    found = [optimize.brentq(beyond, 1.0, 4.0, args=(ratio,)) for ratio in _RATIOS[5:]]
    # Thinner ellipses are all but a line; σ along it alone decides.
    thin = np.interp(_RATIOS[:5], [0.0, _RATIOS[5]], [1.95996, found[0]])
    factors = np.concatenate([thin, found])
    factors[-1] = NINETEEN_OF_TWENTY
    return factors


def farthest_mm(budget: ErrorBudget, edges: Sequence[shapely.Geometry], passes: npt.ArrayLike) -> Floats:
    """The miss of each piece at its farthest edge point; `passes` are those of the pieces' cuts."""
    if not edges:
        return np.zeros(0)
    each_passes = np.broadcast_to(np.asarray(passes, dtype=float), len(edges))
    if budget.is_even:
        return budget.miss_mm(np.tile(budget.centre_mm, (len(edges), 1)), each_passes)
    points, piece = shapely.get_coordinates(np.array(edges, dtype=object), return_index=True)
    each = budget.miss_mm(points, each_passes[piece])
    most = np.zeros(len(edges))
    np.maximum.at(most, piece, each)
    return most
