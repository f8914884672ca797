"""The window of force: over the scale of force, how likely each outcome is, and the belief as a hill above it.

The hill is over the force that would reach the target depth: as drops are judged it grows narrow, and the clean band
under it wide.
"""

from dataclasses import dataclass

import numpy as np

from vamper.core.cutting.belief import Belief, Floats
from vamper.core.cutting.depth import EFFORT, passes_factor
from vamper.core.values.cutter import ForceRange
from vamper.core.values.tried import Outcome

_POINTS = 161
_HILL = 121
# How far past the rims of what is believed the scale is drawn.
_BEYOND = 1.15


@dataclass(frozen=True)
class Window:
    """`force_gf` (n,) is the scale; `chances` are those of each outcome along it, adding up to 1. `hill_gf` and `hill`
    (m,) are the belief, 1 at its peak.
    """

    force_gf: Floats
    chances: tuple[tuple[Outcome, Floats], ...]
    hill_gf: Floats
    hill: Floats


def window_of(belief: Belief, prior: Belief, force: ForceRange, passes: int) -> Window:
    """The window for so many passes; drawn as wide as what was believed before anything was tried, so that it does not
    jump while drops are judged.
    """
    factor = passes_factor(passes) * belief.sharpness / EFFORT[belief.blade]
    bands = belief.bands
    soft, hard = (float(prior.quantile(share)) for share in (0.02, 0.98))
    low = max(force.min, bands.least_um * soft / factor / _BEYOND)
    high = min(force.max, bands.most_um * hard / factor * _BEYOND)
    if high <= low * 1.1:
        low, high = force.min, force.max
    scale = np.linspace(low, high, _POINTS)
    chances = tuple((outcome, belief.chance(scale, passes, (least, most))) for outcome, least, most in bands.outcomes)
    aim = bands.target_um * belief.hardness / factor
    every = np.linspace(low, high, _HILL)
    # The grid is even in ln: as a density over the scale each weight is divided by its force.
    density = np.interp(every, aim, belief.weight / aim, left=0.0, right=0.0)
    peak = float((belief.weight / aim).max())
    return Window(scale, chances, every, density / peak)
