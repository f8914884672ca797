"""The window of force: over the scale of force, how likely each outcome is, and the belief as a hill above it.

The hill is over the force that would reach the target depth: as drops are judged it grows narrow, and the clean band
under it wide.
"""

from dataclasses import dataclass

import numpy as np

from vamper.core.cutting.belief import HardnessBelief, landing_chance
from vamper.core.cutting.depth import EFFORT, passes_factor
from vamper.core.cutting.outlook import RUN_SIGMA, Floats
from vamper.core.values.cutter import ForceRange
from vamper.core.values.tried import Outcome

_POINTS = 161
_HILL = 121
# How far past the rims of what is believed the scale is drawn.
_BEYOND = 1.15


@dataclass(frozen=True)
class Window:
    """`force_gf` (n,) is the scale; `chances` are those of each outcome along it, adding up to 1. `hill_gf` (m,) is a
    coarser scale for `hill` and `prior`, what is believed now and what was before anything was tried, each 1 at its
    peak.
    """

    force_gf: Floats
    chances: tuple[tuple[Outcome, Floats], ...]
    hill_gf: Floats
    hill: Floats
    prior: Floats


def window_of(belief: HardnessBelief, prior: HardnessBelief, force: ForceRange, passes: int) -> Window:
    """The window for so many passes; drawn as wide as what was believed before anything was tried, so that it does not
    jump while drops are judged.
    """
    factor, bands = passes_factor(passes) * belief.sharpness / EFFORT[belief.blade], belief.bands
    soft, hard = (float(prior.quantile(share)) for share in (0.02, 0.98))
    low = max(force.min, bands.least_um * soft / factor / _BEYOND)
    high = min(force.max, bands.most_um * hard / factor * _BEYOND)
    if high <= low * 1.1:
        low, high = force.min, force.max
    scale, every = np.linspace(low, high, _POINTS), np.linspace(low, high, _HILL)
    depths = belief.depths(scale, passes)
    # Each rim between two outcomes is worked out once: what lies beyond one, and not beyond the next.
    beyond = [landing_chance(depths, (rim, np.inf), RUN_SIGMA) @ belief.weight for _, rim, _ in bands.outcomes[1:]]
    rims = [np.ones(_POINTS), *beyond, np.zeros(_POINTS)]
    chances = tuple((one, rims[n] - rims[n + 1]) for n, (one, _, _) in enumerate(bands.outcomes))
    hills = (_hill(one, bands.target_um / factor, every) for one in (belief, prior))
    return Window(scale, chances, every, *hills)


def _hill(belief: HardnessBelief, gf_per_hardness: float, scale: Floats) -> Floats:
    """A belief as a density over the force that reaches the target depth. Its grid is even in ln, so each weight is
    divided by its force.
    """
    aim = gf_per_hardness * belief.hardness
    found: Floats = np.interp(scale, aim, belief.weight / aim, left=0.0, right=0.0)
    return found / float((belief.weight / aim).max())
