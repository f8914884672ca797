"""Blades and mats: how they are now, and what to do next.

A blade's sharpness is that of `values.blade`. A mat loses tack with every load, and washing brings most of it back; a
new one is too tacky for paper. The mats' figures are starters of our own: a tenth of the tack is gone after four loads,
a washing brings back all but a twentieth of what it had after the one before.
"""

import math
from dataclasses import dataclass
from enum import StrEnum

from vamper.core.values.blade import BLADE_METRES, WORN_AT, BladeIn
from vamper.core.values.mat import MatIn
from vamper.core.values.stock import Stock, StockClass, Tack

LOADS_TO_FADE = 38.0
WASHED_BACK = 0.95
# Of its tack when new: wash below the first, tape below the second, a new one where washing brings no more back.
WASH_AT, TAPE_AT, SPENT_AT = 0.6, 0.45, 0.5
ROLL_FROM_LOAD = 3
_BLADE_SOON = 0.65
# Fibrous stock leaves something on the tip after about so many metres, divided by its tuft.
_TUFT_METRES = 2.0
_PAPERY = {StockClass.LABEL, StockClass.TRANSFER, StockClass.CARD, StockClass.DYE, StockClass.WATER_SLIDE}
_ORDER = list(Tack)


class Urgency(StrEnum):
    """Whether something is to be done now, soon, or is only good to know."""

    NOW = "now"
    SOON = "soon"
    FINE = "fine"


@dataclass(frozen=True, slots=True)
class WearAdvice:
    """An advice on a worn blade or mat: the action, its time, and its reason."""

    urgency: Urgency
    do: str
    why: str


def held_of(mat: MatIn) -> float:
    """How strongly a mat holds now, as a share of what it did when new."""
    return WASHED_BACK**mat.washings * math.exp(-mat.loads / LOADS_TO_FADE)


def mat_advice(mat: MatIn, stock: Stock) -> list[WearAdvice]:
    """Advice on a mat before this stock is laid on it, the most urgent first."""
    held, found = held_of(mat), list[WearAdvice]()
    wanted, has = _ORDER.index(stock.tack), _ORDER.index(mat.tack)
    if mat.lint:
        found.append(
            WearAdvice(
                Urgency.NOW, "pick off lint and hair with tape", "what lies under the stock lifts it from the mat"
            )
        )
    if has < wanted:
        found.append(
            WearAdvice(
                Urgency.NOW,
                f"take a mat of {stock.tack} tack, or tape the rim",
                f"{stock.name} moves on a mat of {mat.tack} tack",
            )
        )
    elif has > wanted and held > WASH_AT:
        found.append(
            WearAdvice(
                Urgency.NOW,
                "touch the mat with clean cloth a few times first",
                f"a mat of {mat.tack} tack tears {stock.name} on the way off until it is worn",
            )
        )
    elif mat.loads + mat.washings == 0 and stock.stock_class in _PAPERY:
        found.append(
            WearAdvice(Urgency.NOW, "touch the mat with clean cloth first", "a fresh mat is too tacky for paper")
        )
    if WASHED_BACK**mat.washings < SPENT_AT:
        found.append(WearAdvice(Urgency.SOON, "get another mat", "washing brings back too little of this one’s tack"))
    elif held < WASH_AT:
        found.append(
            WearAdvice(
                Urgency.NOW if held < TAPE_AT else Urgency.SOON,
                "wash it with mild soap and let it dry in air",
                f"it holds {held * 100:.0f} % of what it did; washing brings most of that back",
            )
        )
    if held < TAPE_AT and not mat.taped:
        found.append(
            WearAdvice(
                Urgency.NOW, "tape the rim of the sheet, clear of the marks", "a tired mat lets go of the rim first"
            )
        )
    if mat.loads + 1 >= ROLL_FROM_LOAD:
        found.append(
            WearAdvice(Urgency.FINE, "roll the sheet down", f"from the third load on (this is number {mat.loads + 1})")
        )
    if not found:
        found.append(WearAdvice(Urgency.FINE, "nothing to do", f"it holds {held * 100:.0f} % of what it did"))
    return sorted(found, key=lambda one: list(Urgency).index(one.urgency))


def blade_advice(blade: BladeIn, stock: Stock, metres: float) -> list[WearAdvice]:
    """Advice on a blade before so many metres (times abrasion) are cut with it, the most urgent first."""
    found = list[WearAdvice]()
    if blade.tuft:
        found.append(
            WearAdvice(
                Urgency.NOW,
                "brush the tuft off the tip before anything else",
                "fibre or glue there tears the stock: with the machine off take the blade out, fingers off its tip",
            )
        )
    after = BladeIn(blade.angle, blade.metres + metres).sharpness
    if blade.sharpness < WORN_AT:
        found.append(
            WearAdvice(Urgency.NOW, "change the blade", f"it is down to {blade.sharpness * 100:.0f} % of its edge")
        )
    elif after < WORN_AT:
        found.append(WearAdvice(Urgency.SOON, "have a new blade ready", "this job takes it below half of its edge"))
    elif blade.sharpness < _BLADE_SOON:
        found.append(
            WearAdvice(
                Urgency.SOON, "have a new blade ready", f"it is down to {blade.sharpness * 100:.0f} % of its edge"
            )
        )
    if stock.tuft:
        every = _TUFT_METRES / stock.tuft
        found.append(
            WearAdvice(
                Urgency.FINE,
                f"look at the tip about every {every:.0f} m",
                f"{stock.name} leaves fibre on it; a ball of foil cleans the tip, but sharpens nothing",
            )
        )
    if not found:
        found.append(WearAdvice(Urgency.FINE, "nothing to do", f"it has {blade.sharpness * 100:.0f} % of its edge"))
    return sorted(found, key=lambda one: list(Urgency).index(one.urgency))


def loads_left(mat: MatIn) -> int:
    """How many more loads until it wants washing."""
    whole = LOADS_TO_FADE * math.log(WASHED_BACK**mat.washings / WASH_AT)
    return max(0, math.floor(whole - mat.loads))


def metres_left(blade: BladeIn) -> float:
    """How many more metres (times abrasion) until it is changed."""
    return max(0.0, -BLADE_METRES * math.log(WORN_AT) - blade.metres)
