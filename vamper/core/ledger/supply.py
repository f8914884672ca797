"""What is used up: packs of stock, and everything else that was bought, with how much of each is left.

Nobody counts what is spent: it follows from the runs since the first purchase.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.ledger.cost import MOST_MONEY, Money
from vamper.core.ledger.run import CameOut, Run, Took, Words
from vamper.core.values.blade import BLADE_METRES
from vamper.core.values.findings import BadInput
from vamper.core.values.limits import ONE_LINE, STRICT, Colour
from vamper.core.values.paper import Paper
from vamper.core.values.stock import StockKey

# Less than this share of what was bought is little.
LOW_SHARE = 0.2


@dataclass(frozen=True, slots=True)
class Pack:
    """Sheets of a stock that were bought together, for a price."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock: StockKey
    sheets: Annotated[int, Ge(1), Le(100_000)]
    price: Money = 0.0
    lot: Words = ""


@dataclass(frozen=True, slots=True)
class OnShelf:
    """A stock as it lies on the shelf.

    Parameters
    ----------
    stock : str
        The stock's key.
    bought, spent : int
        Sheets.
    sheet_price, pack_price : float
        The price of a sheet, and of the newest pack.
    newest_pack : int
        The newest pack's number, 0 where none was bought.
    lots : tuple of str
        The lots of its packs, the newest first.
    """

    stock: str
    bought: int
    spent: int
    sheet_price: float
    pack_price: float
    newest_pack: int = 0
    lots: tuple[str, ...] = ()

    @property
    def left(self) -> int:
        return max(0, self.bought - self.spent)


def spent_in(runs: Iterable[Run], stock: str) -> int:
    """Sheets of a stock that real runs took."""
    return sum(run.sheets_spent for run in runs if run.stock == stock and not run.simulated)


class Thing(StrEnum):
    """The things that are bought beside stock."""

    INK = "ink"
    LAMINATE = "laminate"
    COAT = "coat"
    BLANK = "blank"
    BLADE = "blade"


@dataclass(frozen=True, slots=True)
class ThingWords:
    """The words for a thing: its name, the unit it is bought by, how much of it is written, and the name of a single
    unit.
    """

    name: str
    bought_by: str
    unit: str
    each: str


THINGS: dict[Thing, ThingWords] = {
    Thing.INK: ThingWords("ink", "millilitres in the bottle or cartridge", "ml", "a ml"),
    Thing.LAMINATE: ThingWords("laminate", "square metres on the roll", "m²", "a m²"),
    Thing.COAT: ThingWords("coat", "coats of one sheet in the can", "coats", "a coat"),
    Thing.BLANK: ThingWords("blanks", "pieces", "pieces", "each"),
    Thing.BLADE: ThingWords("blades", "pieces", "blades", "a blade"),
}


@dataclass(frozen=True, slots=True)
class Bought:
    """So much of a thing that was bought together, for a price."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    thing: Thing
    amount: Annotated[float, Gt(0), Le(1_000_000)]
    price: Money = 0.0
    name: Words = ""

    @property
    def each(self) -> float:
        """The cost of a single unit."""
        return self.price / self.amount


def check_price(bought: Bought) -> None:
    """Refuse what nobody pays for one of a thing; it is an amount in another unit.

    Raises
    ------
    BadInput
        If one of it is dearer than any price can be.
    """
    if bought.each > MOST_MONEY:
        words = THINGS[bought.thing]
        raise BadInput(
            f"{bought.price:g} for {bought.amount:g} {words.unit} is {bought.each:.0f} {words.each}; look at the "
            "amount",
            "amount",
        )


@dataclass(frozen=True, slots=True)
class Stored:
    """A supply as it lies on the shelf.

    Parameters
    ----------
    thing : Thing
        Which supply, and so its unit.
    bought, spent : float
        In that unit.
    price : float
        What one unit cost the last time.
    newest : int
        Number of the newest purchase, 0 where there is none.
    name : str
        What that purchase was called.
    """

    thing: Thing
    bought: float
    spent: float
    price: float
    newest: int = 0
    name: str = ""

    @property
    def left(self) -> float:
        return max(0.0, self.bought - self.spent)

    @property
    def is_low(self) -> bool:
        return self.left <= LOW_SHARE * self.bought


_TAKES: dict[Thing, Callable[[Took], float]] = {
    Thing.INK: lambda took: took.ink_ml,
    Thing.LAMINATE: lambda took: took.laminate_m2,
    Thing.COAT: lambda took: took.coats,
    Thing.BLANK: lambda took: took.blanks,
    Thing.BLADE: lambda took: took.metres / BLADE_METRES,
}


def takes(thing: Thing, took: Took) -> float:
    """The amount taken of a thing, in its own unit."""
    return _TAKES[thing](took)


def taken_of(thing: Thing, runs: Iterable[Run]) -> float:
    """The amount that real runs took of a thing, in its own unit."""
    return sum(takes(thing, run.took) for run in runs if not run.simulated and run.came_out is not CameOut.NOT_RUN)


@dataclass(frozen=True, slots=True)
class Offcut:
    """The rest of a sheet, to be used once more: its paper with the parts that are gone, and where it came from.
    `colour` is that of its face where its stock comes in several.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    stock: StockKey
    paper: Paper
    name: Annotated[str, Len(1, 120), ONE_LINE]
    colour: Colour | None = None
