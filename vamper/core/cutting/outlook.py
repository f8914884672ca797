"""Cut, look, cut again: the chance that a sheet comes out good with a look before it is unloaded.

A cut that is not through is run once more while the sheet has not moved; the second pass lands in the same place and
shares the first one's luck. So from a depth d after n passes the sheet is good where d is usable, or where d is not
through and d · (1 − 0.6^(n+1)) / (1 − 0.6^n) is. Usable is clean, or the backing marked and not through it.

What an outcome is worth: clean 1, usable but not clean 0.9, one more pass costs 0.02, all else 0.
Source: craft/cut.md, "Cut, look, cut again".
"""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.special import ndtr

from vamper.core.cutting.depth import Bands, passes_factor
from vamper.core.values.tried import Outcome

Floats = npt.NDArray[np.float64]

# A real run has a spread of its own, as a share of its depth.
RUN_SIGMA = 0.04
MARKED_WORTH = 0.9
PASS_COSTS = 0.02
# Beyond so many deviations a chance is 0 or 1 to the last digit of a float; most of a grid of forces lies there.
_SURE_SIGMAS = 8.5
# Under this a sheet is not risked without a test cut.
SURE_AT = 0.85


@dataclass(frozen=True)
class Outlook:
    """Arrays, each of the shape of the depths they are for: the chance of a usable sheet with a look, of one at the
    first go, of a clean cut at the first go, and what the outcome is worth on average (0..1).
    """

    usable: Floats
    at_first: Floats
    clean: Floats
    worth: Floats


def outlook(depths_um: Floats, bands: Bands, passes: int) -> Outlook:
    """The outlook of cuts that reach `depths_um` in so many passes, but for the spread of a run."""
    least, best, most = bands.least_um, bands.most_um, bands.usable_um
    deeper = passes_factor(passes + 1) / passes_factor(passes)
    rims = (least, best, most, bands.of(Outcome.CLEAN)[1], least / deeper, best / deeper, most / deeper)
    through, past_best, past_most, past_clean, again, again_best, again_most = _beyond(depths_um, rims)
    again_best, again_most = np.maximum(again_best, through), np.maximum(again_most, through)
    at_first, second = through - past_most, again - again_most
    wanted, again_wanted = through - past_best, again - again_best
    clean = through - past_clean
    worth = wanted + MARKED_WORTH * (at_first - wanted)
    worth = worth + (1 - PASS_COSTS) * again_wanted + (MARKED_WORTH - PASS_COSTS) * (second - again_wanted)
    return Outlook(at_first + second, at_first, clean, worth)


def _beyond(depths_um: Floats, rims_um: tuple[float, ...]) -> Floats:
    """The chance that a run goes deeper than each rim (which may be infinite), one array of the depths' shape a rim."""
    rims = np.log(rims_um).reshape(-1, *(1 for _ in depths_um.shape))
    deviations = (np.log(depths_um) - rims) / RUN_SIGMA
    found: Floats = np.heaviside(deviations, 0.5)
    near = np.abs(deviations) < _SURE_SIGMAS
    found[near] = ndtr(deviations[near])
    return found
