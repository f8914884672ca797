"""What is believed about the hardness of a stock on a machine, and what that says about a force.

The belief is a distribution over ln hardness on a grid: normal round the starter before anything was tried, with σ
0.22 for a starter stock or one whose package names a setting, and 0.30 for any other of the maker's own. A drop that
was cut at a force and looked at says in which band of depth it landed; that is seen with a spread of 6 %, and 2 % of
all readings are plain mistakes. Runs say the same with the 4 % that they spread themselves. Bayes' rule does the
rest; "torn" says nothing about depth.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
from scipy.special import logsumexp, ndtr

from vamper.core.cutting.depth import EFFORT, Bands, bands_of, passes_factor
from vamper.core.cutting.outlook import RUN_SIGMA, Floats, Outlook, outlook
from vamper.core.values.blade import Blade, sharpness_of
from vamper.core.values.cut import Cut
from vamper.core.values.stock import STOCK_BY_KEY, Stock
from vamper.core.values.tried import Try

STARTER_SIGMA, OWN_SIGMA = 0.22, 0.30
SEEN_SIGMA = 0.06
MISREAD = 0.02
_GRID = 401
_GRID_SIGMAS = 5.0
# The chance that something is not as it was told (dial numbers typed as gf, another stock, a broken blade), and how far
# the hardness may then seem to lie from the starter, in ln either way, as likely anywhere.
NOT_AS_ASSUMED = 0.01
_WIDEST = math.log(100)


@dataclass(frozen=True)
class HardnessBelief:
    """A distribution over hardness: `ln_hardness` is an even grid, `weight` adds up to 1.

    Parameters
    ----------
    stock, cut, blade
        What is cut, how, and with which blade.
    sharpness : float
        1 for a new blade.
    as_assumed : bool
        False once what was seen fits the starter, its unit or its blade so badly that something must be another.
    """

    stock: Stock
    cut: Cut
    blade: Blade
    sharpness: float
    ln_hardness: Floats
    weight: Floats
    as_assumed: bool = True

    @property
    def bands(self) -> Bands:
        return bands_of(self.stock, self.cut)

    @property
    def hardness(self) -> Floats:
        return np.exp(self.ln_hardness)

    @property
    def from_starter(self) -> float:
        """How many times as hard as the starter it is taken to be."""
        return float(self.quantile(0.5)) / self.stock.hardness_gf_per_um

    def quantile(self, share: float | Floats) -> Floats:
        """Hardness (gf/µm) that is not exceeded with a chance."""
        found: Floats = np.exp(np.interp(share, np.cumsum(self.weight) - self.weight / 2, self.ln_hardness))
        return found

    def depths(self, force_gf: npt.ArrayLike, passes: npt.ArrayLike) -> Floats:
        """Depth (µm) on each hardness of the grid, shape (forces, grid)."""
        forces, counts = np.broadcast_arrays(np.atleast_1d(np.asarray(force_gf, float)), np.atleast_1d(passes))
        factors = np.array([passes_factor(int(count)) for count in counts]) * self.sharpness / EFFORT[self.blade]
        found: Floats = (forces * factors)[:, None] / self.hardness
        return found

    def chance(self, force_gf: npt.ArrayLike, passes: npt.ArrayLike, band: tuple[float, float]) -> Floats:
        """The chance that a run lands in a band of depth (µm), for each force."""
        found: Floats = landing_chance(self.depths(force_gf, passes), band, RUN_SIGMA) @ self.weight
        return found

    def outlook(self, force_gf: npt.ArrayLike, passes: int) -> Outlook:
        """The outlook of each force with a look before the sheet is unloaded, averaged over the posterior."""
        found = outlook(self.depths(force_gf, passes), self.bands, passes)
        return Outlook(*(one @ self.weight for one in (found.usable, found.at_first, found.clean, found.worth)))

    def after(self, tries: Iterable[Try], spread: float = SEEN_SIGMA) -> "HardnessBelief":
        """The belief after some more was seen."""
        return self.weighed((one, spread) for one in tries)[0]

    def weighed(self, seen: Iterable[tuple[Try, float]]) -> "tuple[HardnessBelief, float]":
        """The belief after what was seen, each with its spread, and ln of how likely all of it was under it."""
        # In logarithms: a few hundred readings would vanish below the smallest number there is.
        with np.errstate(divide="ignore"):
            ln = np.log(self.weight)
        for one, spread in seen:
            ln = ln + np.log(self.likelihood(one, spread))
        total = float(logsumexp(ln))
        return replace(self, weight=np.exp(ln - total)), total

    def likelihood(self, one: Try, spread: float = SEEN_SIGMA) -> Floats:
        """How likely a try is on each hardness of the grid."""
        bands = self.bands if one.cut is None else bands_of(self.stock, one.cut)
        seen = [outcome for outcome, _, _ in bands.outcomes]
        if one.outcome not in seen:
            return np.ones_like(self.weight)
        depths = self.depths(one.force_gf, one.passes) * self._as_then(one)
        lands = landing_chance(depths, bands.of(one.outcome), spread)[0]
        found: Floats = (1 - MISREAD) * lands + MISREAD / len(seen)
        return found

    def _as_then(self, one: Try) -> float:
        """How many times deeper the same force went with the blade of a try than it would go with this blade."""
        sharp = self.sharpness if one.metres is None else sharpness_of(one.metres)
        effort = EFFORT[self.blade if one.blade is None else one.blade]
        return sharp / self.sharpness * EFFORT[self.blade] / effort


def landing_chance(depths: Floats, band: tuple[float, float], spread: float) -> Floats:
    """The chance that depths, spread by a share, lie in a band."""
    low, high = band
    ln = np.log(depths)
    above = ndtr((ln - math.log(low)) / spread) if low > 0 else np.ones_like(ln)
    beyond = ndtr((ln - math.log(high)) / spread) if math.isfinite(high) else np.zeros_like(ln)
    found: Floats = above - beyond
    return found


def prior(stock: Stock, cut: Cut, blade: Blade = Blade.GENERAL, metres: float = 0.0) -> HardnessBelief:
    """The belief before anything was tried."""
    middle = math.log(stock.hardness_gf_per_um)
    away = np.linspace(-_GRID_SIGMAS, _GRID_SIGMAS, _GRID)
    weight = np.exp(-(away**2) / 2)
    known = stock.key in STOCK_BY_KEY or bool(stock.package_setting)
    sigma = STARTER_SIGMA if known else OWN_SIGMA
    return HardnessBelief(stock, cut, blade, sharpness_of(metres), middle + away * sigma, weight / weight.sum())


def posterior(belief: HardnessBelief, tries: Sequence[Try], runs: Sequence[Try]) -> HardnessBelief:
    """A belief after ladders and runs.

    Two stories are held against each other: that all is as assumed, and that something is another (1 in 100), so that
    the hardness may seem to lie anywhere. What the first could only call misread, again and again, makes the second
    the likelier one, and it is believed from then on.
    """
    seen = [*((one, SEEN_SIGMA) for one in tries), *((one, RUN_SIGMA) for one in runs)]
    usual, as_usual = belief.weighed(seen)
    any_other, as_other = _anywhere(belief).weighed(seen)
    odds = math.log(NOT_AS_ASSUMED / (1 - NOT_AS_ASSUMED)) + as_other - as_usual
    return any_other if odds > 0 else usual


def _anywhere(belief: HardnessBelief) -> HardnessBelief:
    """The same over every hardness up to a hundred times less or more, as close together."""
    step = float(belief.ln_hardness[1] - belief.ln_hardness[0])
    count = math.ceil(_WIDEST / step)
    grid: Floats = math.log(belief.stock.hardness_gf_per_um) + step * np.arange(-count, count + 1, dtype=np.float64)
    return replace(belief, ln_hardness=grid, weight=np.full(len(grid), 1 / len(grid)), as_assumed=False)
