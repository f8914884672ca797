"""The force that the name of a machine's setting speaks of, by the plain words in it.

A name that speaks of labels presses about as label paper takes; a name without a known word may press anyhow.
"""

import re
from dataclasses import dataclass

from vamper.core.cutting.depth import bands_of, force_for
from vamper.core.values.blade import Blade
from vamper.core.values.cut import Cut
from vamper.core.values.stock import STOCK_BY_KEY, Stock, StockClass
from vamper.core.values.tables import table

# The spread (ln) of what a word stands for.
NAME_SIGMA = 0.35


@dataclass(frozen=True, slots=True)
class _Kind:
    """A kind of material by its words, and the starter stock that stands for it."""

    words: tuple[str, ...]
    force_gf: float


def starter_force_gf(stock: Stock, cut: Cut) -> float:
    """The force (gf) that one pass of a sharp 45° blade takes to a stock's target depth."""
    return force_for(bands_of(stock, cut).target_um, 1, stock, Blade.GENERAL)


_TABLE = table(__package__, "setting_names.toml")
_KINDS = tuple(
    _Kind(
        tuple(one["words"]), starter_force_gf(STOCK_BY_KEY[one["stock"]], Cut(one["cut"])) * float(one.get("times", 1))
    )
    for one in _TABLE["kinds"]
)
_GRADES: dict[str, float] = dict(_TABLE["grades"])
LOOK_FOR: dict[StockClass, str] = {StockClass(key): words for key, words in _TABLE["look_for"].items()}


def named_force_gf(name: str) -> float | None:
    """The force (gf) that a name speaks of, None where none of its words is known."""
    words = re.findall(r"[\w-]+", name.casefold())
    plain = f" {' '.join(words)} "
    kind = next((one for one in _KINDS if any(f" {word} " in plain for word in one.words)), None)
    if kind is None:
        return None
    force = kind.force_gf
    for word in words:
        force *= _GRADES.get(word, 1.0)
    return force
