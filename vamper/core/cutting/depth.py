"""How deep a blade goes, and how deep it should.

One pass at force F reaches z = F · sharp / (hardness · b), b = 1.00 for the 45° blade and 0.85 for the 60° one; pass n
adds z · 0.6^(n−1). A kiss cut is clean from the face to the face and 0.3 of the backing, and aims at 0.15 of it; a cut
through aims at 1.15 of everything.
"""

import math
from dataclasses import dataclass

from vamper.core.values.blade import Blade
from vamper.core.values.cut import Cut
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Outcome

PASS_FADE = 0.6
EFFORT = {Blade.GENERAL: 1.0, Blade.STEEP: 0.85}
# A cut that goes this far past the sheet is deeper than it need be.
_DEEPER = 1.4
_INFINITE = math.inf


@dataclass(frozen=True, slots=True)
class Bands:
    """The depths (µm, from, to) that each outcome stands for; those that are wanted (`least_um` to `most_um`), the one
    aimed at, and `usable_um`, up to which the sheet can still be used: a marked backing peels all the same.
    """

    outcomes: tuple[tuple[Outcome, float, float], ...]
    least_um: float
    target_um: float
    most_um: float
    usable_um: float

    @property
    def wanted(self) -> tuple[float, float]:
        return self.least_um, self.most_um

    def of(self, outcome: Outcome) -> tuple[float, float]:
        return next((low, high) for one, low, high in self.outcomes if one is outcome)


def bands_of(stock: Stock, cut: Cut) -> Bands:
    """The outcomes that can be told apart on a stock: four with a backing; cut through, or without a backing, two."""
    face, backing = stock.face_um, stock.backing_um
    if cut is Cut.KISS and backing:
        most = face + 0.3 * backing
        seen = (
            (Outcome.NOT_THROUGH, 0.0, face),
            (Outcome.CLEAN, face, most),
            (Outcome.BACKING_MARKED, most, face + backing),
            (Outcome.BACKING_THROUGH, face + backing, _INFINITE),
        )
        return Bands(seen, face, face + 0.15 * backing, most, face + backing)
    whole = face + backing
    both = ((Outcome.NOT_THROUGH, 0.0, whole), (Outcome.CLEAN, whole, _INFINITE))
    return Bands(both, whole, 1.15 * whole, _DEEPER * whole, _INFINITE)


def passes_factor(passes: int) -> float:
    """How many times deeper so many passes go than a single pass: (1 − 0.6^n) / 0.4."""
    return (1 - PASS_FADE**passes) / (1 - PASS_FADE)


def depth_um(force_gf: float, passes: int, stock: Stock, blade: Blade, sharpness: float = 1.0) -> float:
    """Depth after `passes` at `force_gf`."""
    return force_gf * sharpness / (stock.hardness_gf_per_um * EFFORT[blade]) * passes_factor(passes)


def force_for(depth: float, passes: int, stock: Stock, blade: Blade, sharpness: float = 1.0) -> float:
    """The force (gf) that reaches `depth` (µm) in `passes`; the inverse of `depth_um`."""
    return depth / depth_um(1.0, passes, stock, blade, sharpness)
