"""What a piece costs, what to ask for it, and what a fuller sheet saves.

A sheet costs its stock, its ink, what lies over it and what it takes of the blade. A piece has its share of that by
area or evenly; what is spoilt is spread over what is good, so all of it is divided by the share of good pieces. Hands
cost minutes × rate. Asked by the hour, a price is just that: the material and the minutes; asked by margin it is
cost / (1 − margin). One more piece on a sheet of n saves each of them S/n − S/(n + 1).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len, Lt

from vamper.core.ledger.run import Took
from vamper.core.values.blade import BLADE_METRES
from vamper.core.values.limits import ONE_LINE, STRICT

MOST_MONEY = 1_000_000
Money = Annotated[float, Ge(0), Le(MOST_MONEY)]
_MINUTES_AN_HOUR = 60.0
_NOTHING = Took()


class SharedBy(StrEnum):
    """How a sheet is shared among its pieces."""

    AREA = "area"
    EVEN = "evenly"


@dataclass(frozen=True, slots=True)
class Rates:
    """The prices and rates of this workshop, in its currency as typed.

    Parameters
    ----------
    currency : str
        Its sign or name.
    hour, ink_ml, laminate_m2, coat, blank, blade : float
        An hour of hands, a ml of ink, a m² of laminate, a coat of one sheet, a blank, a blade.
    margin : float
        The share of a price that is to be kept.
    shared : SharedBy
        How the cost of a sheet is shared among its pieces.
    tax_line : str
        Written below a price as it is.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    currency: Annotated[str, Len(0, 12), ONE_LINE] = ""
    hour: Money = 0.0
    ink_ml: Money = 0.0
    laminate_m2: Money = 0.0
    coat: Money = 0.0
    blank: Money = 0.0
    blade: Money = 0.0
    margin: Annotated[float, Ge(0), Lt(1)] = 0.4
    shared: SharedBy = SharedBy.AREA
    tax_line: Annotated[str, Len(0, 120), ONE_LINE] = ""


@dataclass(frozen=True, slots=True)
class MadeCounts:
    """The number of pieces made of one design, and the area of a piece, mm²."""

    number: int
    count: int
    area_mm2: float


@dataclass(frozen=True, slots=True)
class WorkTimes:
    """The working times of a job.

    Parameters
    ----------
    designs : tuple of MadeCounts
        How many pieces of each design are made.
    sheets : int
        Sheets of its stock.
    sheet_price : float
        The price of a sheet.
    took : Took
        All else, over all sheets.
    minutes : float
        Time of hands.
    good : float
        The share of pieces that come out well, 0 to 1.
    """

    designs: tuple[MadeCounts, ...]
    sheets: int
    sheet_price: float
    took: Took = _NOTHING
    minutes: float = 0.0
    good: float = 1.0


# What a rate is of, in words.
RATE_WORDS: dict[str, str] = {
    "hour": "An hour of hands",
    "ink_ml": "A millilitre of ink",
    "laminate_m2": "A square metre of laminate",
    "coat": "A coat of one sheet",
    "blank": "A blank",
    "blade": "A blade",
}


class CostPart(StrEnum):
    """A part of a cost."""

    STOCK = "stock"
    INK = "ink"
    LAMINATE = "laminate"
    COAT = "coat"
    BLADE = "blade"
    BLANK = "blank"
    HANDS = "hands"
    WASTE = "waste"


@dataclass(frozen=True, slots=True)
class PieceCost:
    """The cost of one piece of a design, by part, and what to ask for it."""

    number: int
    parts: tuple[tuple[CostPart, float], ...]
    by_margin: float
    by_hour: float

    @property
    def total(self) -> float:
        return math.fsum(cost for _, cost in self.parts)


@dataclass(frozen=True, slots=True)
class Costing:
    """The cost of a job; `one_more_saves` is saved on each piece where every sheet held one piece more."""

    pieces: tuple[PieceCost, ...]
    total: float
    one_more_saves: float


def costs_of(work: WorkTimes, rates: Rates) -> Costing:
    """The cost of a piece of every design of a job."""
    count = sum(one.count for one in work.designs)
    if not count:
        return Costing((), 0.0, 0.0)
    over_all = {
        CostPart.STOCK: work.sheets * work.sheet_price,
        CostPart.INK: work.took.ink_ml * rates.ink_ml,
        CostPart.LAMINATE: work.took.laminate_m2 * rates.laminate_m2,
        CostPart.COAT: work.took.coats * rates.coat,
        CostPart.BLADE: work.took.metres / BLADE_METRES * rates.blade,
    }
    hands = work.minutes / _MINUTES_AN_HOUR * rates.hour / count
    blank = work.took.blanks / count * rates.blank
    shares = _shares(work.designs, rates.shared)
    pieces = tuple(
        _piece(one.number, {part: cost * share for part, cost in over_all.items()}, blank, hands, work.good, rates)
        for one, share in zip(work.designs, shares, strict=True)
        if one.count
    )
    counts = {one.number: one.count for one in work.designs}
    sheet = math.fsum(over_all.values())
    each = count / work.sheets if work.sheets else 0.0
    saves = sheet / count - sheet / (work.sheets * (each + 1)) if work.sheets else 0.0
    return Costing(pieces, math.fsum(one.total * counts[one.number] for one in pieces), saves / work.good)


def _shares(designs: Sequence[MadeCounts], shared: SharedBy) -> list[float]:
    """The share that one piece of each design has of all sheets together."""
    weights = [one.area_mm2 if shared is SharedBy.AREA else 1.0 for one in designs]
    whole = math.fsum(weight * one.count for weight, one in zip(weights, designs, strict=True))
    return [weight / whole if whole else 0.0 for weight in weights]


def _piece(
    number: int, shared: dict[CostPart, float], blank: float, hands: float, good: float, rates: Rates
) -> PieceCost:
    parts = {**shared, CostPart.BLANK: blank, CostPart.HANDS: hands}
    plain = math.fsum(parts.values())
    parts[CostPart.WASTE] = plain / good - plain
    return PieceCost(
        number,
        tuple((part, cost) for part, cost in parts.items() if cost),
        plain / good / (1 - rates.margin),
        plain / good,
    )


def break_even(pack_price: float, price: float, other_cost: float) -> int | None:
    """How many pieces at a price pay for a pack of stock, where each costs so much besides; None where none ever do."""
    left = price - other_cost
    return None if left <= 0 else math.ceil(pack_price / left - 1e-9)
