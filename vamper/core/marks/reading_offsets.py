"""What runs say about the reading of marks: how much better or worse this machine and this stock read than most.

The model's chance for a sheet is moved in the logit, by an offset for the machine and one for the stock, both normal
around 0 with σ 1 before any run was told. Every try of a run is a reading; what other stocks did says something of the
machine, and so of this stock. The chance is moved by the offsets' means. Source: craft/program.md, "Reading its marks".
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from vamper.core.values.run_seen import MarksSeen

Floats = npt.NDArray[np.float64]

_GRID = np.linspace(-6.0, 6.0, 121)
_PRIOR: Floats = np.exp(-(_GRID**2) / 2)
# The model is never surer than this once runs are told: what it leaves out fails more often than it reckons.
_MOST = 0.99


@dataclass(frozen=True, slots=True)
class ReadingOffsets:
    """Means of the offsets, in the logit of the chance of a sheet; `runs` is how many spoke of this stock, `all_runs`
    of any.
    """

    machine: float = 0.0
    stock: float = 0.0
    runs: int = 0
    all_runs: int = 0

    @property
    def total(self) -> float:
        return self.machine + self.stock


NOTHING_TOLD = ReadingOffsets()


def offsets_of(told: Sequence[tuple[str, float, MarksSeen | None]], stock: str) -> ReadingOffsets:
    """The offsets of a machine and of one stock.

    Parameters
    ----------
    told : sequence
        For each run its stock, the chance of its sheet by the model alone, and whether it was read.
    stock : str
        The stock that is asked about.
    """
    machine = np.log(_PRIOR)
    own = np.log(_PRIOR)[None, :] + np.zeros((len(_GRID), 1))
    both = _GRID[:, None] + _GRID[None, :]
    for key in dict.fromkeys(one for one, _, _ in told):
        joint: Floats = np.log(_PRIOR)[None, :] + np.zeros((len(_GRID), 1))
        for _, chance, seen in (one for one in told if one[0] == key):
            if seen is None:
                continue
            logit = _logit(chance) + both
            joint = joint + seen.read * -np.logaddexp(0, -logit) + seen.failed * -np.logaddexp(0, logit)
        if key == stock:
            own = joint
        else:
            machine = machine + np.logaddexp.reduce(joint, axis=1)
    weight = np.exp((whole := machine[:, None] + own) - whole.max())
    weight /= weight.sum()
    return ReadingOffsets(
        float(weight.sum(axis=1) @ _GRID),
        float(weight.sum(axis=0) @ _GRID),
        sum(key == stock for key, _, seen in told if seen is not None),
        sum(seen is not None for _, _, seen in told),
    )


def moved(chance: float, offsets: ReadingOffsets) -> float:
    """The chance of a sheet, moved by what runs said; as it is where none did."""
    if not offsets.all_runs or chance <= 0:
        return chance
    found = 1 / (1 + math.exp(-(_logit(chance) + offsets.total)))
    return max(found, chance) if offsets.total >= 0 else found


def _logit(chance: float) -> float:
    within = min(max(chance, 1 - _MOST), _MOST)
    return math.log(within / (1 - within))
