"""What is used up: packs of stock that were bought, and how many sheets of them are left."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le

from vamper.core.ledger.cost import Money
from vamper.core.ledger.run import CameOut, Run, Words
from vamper.core.values.limits import STRICT
from vamper.core.values.stock import StockKey


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
    """A stock as it lies on the shelf: bought, spent and left, the price of a sheet, that of the newest pack,
    and the number of that pack.
    """

    stock: str
    bought: int
    spent: int
    sheet_price: float
    pack_price: float
    newest_pack: int = 0

    @property
    def left(self) -> int:
        return max(0, self.bought - self.spent)


def spent_in(runs: Iterable[Run], stock: str) -> int:
    """Sheets of a stock that real runs took."""
    return sum(
        run.sheets for run in runs if run.stock == stock and not run.simulated and run.came_out is not CameOut.NOT_RUN
    )
