"""What is believed about the hardness of a stock on a machine, and what that says about a force.

The belief is a distribution over ln hardness on a grid: normal round the starter with σ 0.30 before anything was tried.
A drop that was cut at a force and looked at says in which band of depth it landed; that is seen with a spread of 6 %,
and 2 % of all readings are plain mistakes. Runs say the same with the 4 % that they spread themselves. Bayes' rule does
the rest; "torn" says nothing about depth.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np
import numpy.typing as npt
from scipy.special import ndtr

from vamper.core.cutting.setting import Blade, depth_um
from vamper.core.values.item import Cut
from vamper.core.values.stock import Stock

Floats = npt.NDArray[np.float64]

PRIOR_SIGMA = 0.30
SEEN_SIGMA = 0.06
RUN_SIGMA = 0.04
MISREAD = 0.02
# A blade that has cut so many metres (times abrasion) is down to 1/e.
BLADE_METRES = 600.0
_GRID = 401
_GRID_SIGMAS = 5.0
_INFINITE = math.inf
# A cut that goes this far past the sheet is deeper than it need be.
_DEEPER = 1.4


class Outcome(StrEnum):
    """What a drop, or a run, looks like."""

    NOT_THROUGH = "not-through"
    CLEAN = "clean"
    BACKING_MARKED = "backing-marked"
    BACKING_THROUGH = "backing-through"
    TORN = "torn"


@dataclass(frozen=True, slots=True)
class Try:
    """One drop of a ladder, or one run: what was set, and what came of it."""

    force_gf: float
    passes: int
    outcome: Outcome


@dataclass(frozen=True, slots=True)
class Bands:
    """The depths (µm, from, to) that each outcome stands for, and those that are wanted of a force."""

    outcomes: tuple[tuple[Outcome, float, float], ...]
    wanted: tuple[float, float]
    target_um: float

    def of(self, outcome: Outcome) -> tuple[float, float]:
        return next((low, high) for one, low, high in self.outcomes if one is outcome)


def bands_of(stock: Stock, cut: Cut) -> Bands:
    """What can be told apart on a stock: with a backing four things, cut through, or without one, two."""
    face, backing = stock.face_um, stock.backing_um
    if cut is Cut.KISS and backing:
        clean = (face, face + 0.3 * backing)
        return Bands(
            (
                (Outcome.NOT_THROUGH, 0.0, face),
                (Outcome.CLEAN, *clean),
                (Outcome.BACKING_MARKED, clean[1], face + backing),
                (Outcome.BACKING_THROUGH, face + backing, _INFINITE),
            ),
            clean,
            face + 0.15 * backing,
        )
    whole = face + backing
    seen = ((Outcome.NOT_THROUGH, 0.0, whole), (Outcome.CLEAN, whole, _INFINITE))
    return Bands(seen, (whole, _DEEPER * whole), 1.15 * whole)


@dataclass(frozen=True)
class Belief:
    """A distribution over hardness: `ln_hardness` is an even grid, `weight` adds up to 1.

    Parameters
    ----------
    stock, cut, blade
        What is cut, how, and with which blade.
    sharpness : float
        1 for a new blade.
    """

    stock: Stock
    cut: Cut
    blade: Blade
    sharpness: float
    ln_hardness: Floats
    weight: Floats

    @property
    def bands(self) -> Bands:
        return bands_of(self.stock, self.cut)

    @property
    def hardness(self) -> Floats:
        return np.exp(self.ln_hardness)

    def quantile(self, share: float | Floats) -> Floats:
        """Hardness (gf/µm) that is not exceeded with a chance."""
        found: Floats = np.exp(np.interp(share, np.cumsum(self.weight) - self.weight / 2, self.ln_hardness))
        return found

    def depths(self, force_gf: npt.ArrayLike, passes: npt.ArrayLike) -> Floats:
        """Depth (µm) on each hardness of the grid, shape (forces, grid)."""
        forces, counts = np.broadcast_arrays(np.atleast_1d(np.asarray(force_gf, float)), np.atleast_1d(passes))
        one = np.array(
            [
                depth_um(1.0, int(n), self.stock, self.blade, self.sharpness) * self.stock.hardness_gf_per_um
                for n in counts
            ]
        )
        found: Floats = (forces * one)[:, None] / self.hardness
        return found

    def chance(self, force_gf: npt.ArrayLike, passes: npt.ArrayLike, band: tuple[float, float]) -> Floats:
        """The chance that a run lands in a band of depth (µm), for each force."""
        found: Floats = landing(self.depths(force_gf, passes), band, RUN_SIGMA) @ self.weight
        return found

    def after(self, tries: Iterable[Try], spread: float = SEEN_SIGMA) -> "Belief":
        """The belief after some more was seen."""
        weight = self.weight
        for one in tries:
            weight = weight * self.likelihood(one, spread)
        total = float(weight.sum())
        return self if total <= 0 else replace(self, weight=weight / total)

    def likelihood(self, one: Try, spread: float = SEEN_SIGMA) -> Floats:
        """How likely a try is on each hardness of the grid."""
        seen = [outcome for outcome, _, _ in self.bands.outcomes]
        if one.outcome not in seen:
            return np.ones_like(self.weight)
        lands = landing(self.depths(one.force_gf, one.passes), self.bands.of(one.outcome), spread)[0]
        found: Floats = (1 - MISREAD) * lands + MISREAD / len(seen)
        return found


def landing(depths: Floats, band: tuple[float, float], spread: float) -> Floats:
    """The chance that depths, spread by a share, lie in a band."""
    low, high = band
    ln = np.log(depths)
    above = ndtr((ln - math.log(low)) / spread) if low > 0 else np.ones_like(ln)
    beyond = ndtr((ln - math.log(high)) / spread) if math.isfinite(high) else np.zeros_like(ln)
    found: Floats = above - beyond
    return found


def sharpness_of(metres: float) -> float:
    """How sharp a blade is that has cut so many metres (times the abrasion of what it cut)."""
    return math.exp(-metres / BLADE_METRES)


def first_belief(stock: Stock, cut: Cut, blade: Blade = Blade.GENERAL, metres: float = 0.0) -> Belief:
    """What is believed before anything was tried."""
    middle = math.log(stock.hardness_gf_per_um)
    away = np.linspace(-_GRID_SIGMAS, _GRID_SIGMAS, _GRID)
    weight = np.exp(-(away**2) / 2)
    return Belief(stock, cut, blade, sharpness_of(metres), middle + away * PRIOR_SIGMA, weight / weight.sum())


def told(belief: Belief, tries: Sequence[Try], runs: Sequence[Try]) -> Belief:
    """A belief after ladders and runs."""
    return belief.after(tries).after(runs, RUN_SIGMA)
