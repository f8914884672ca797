"""What could be pressed on a cloth, side by side, where several products would do."""

from collections.abc import Iterable
from dataclasses import dataclass

from vamper.core.finishing.cloth_fit import cloth_findings, film_of
from vamper.core.values.findings import Severity
from vamper.core.values.finish import ClothSpec
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.core.values.tables import row, table


@dataclass(frozen=True, slots=True)
class ClothWords:
    """How a product feels, how sharp its edge is, how it stands the wash, and how it weeds."""

    feel: str
    sharp: str
    wash: str
    weed: str


_TABLE = table(__package__, "cloth_products.toml")
CLOTH_WORDS = {key: row(ClothWords, data) for key, data in _TABLE.items()}


@dataclass(frozen=True, slots=True)
class ClothProduct:
    """One stock for a cloth: its words, and what speaks against it there ("" where nothing does)."""

    stock: Stock
    words: ClothWords
    against: str


def cloth_products(stocks: Iterable[Stock], cloth: ClothSpec) -> tuple[ClothProduct, ...]:
    """The stocks that can be pressed on a cloth at all, those against which nothing speaks first."""
    found = []
    for stock in stocks:
        words = _words_of(stock)
        said = list(cloth_findings(stock, cloth)) if words is not None else []
        if words is not None and not any(one.severity is Severity.STOP for one in said):
            found.append(ClothProduct(stock, words, said[0].title if said else ""))
    return tuple(sorted(found, key=lambda one: bool(one.against)))


def _words_of(stock: Stock) -> ClothWords | None:
    """The words of a stock that is pressed, by itself or by the starter of its kind."""
    if stock.key in CLOTH_WORDS:
        return CLOTH_WORDS[stock.key]
    if not film_of(stock).fibres:
        return None
    kind = (stock.stock_class, stock.mirrored, stock.printable)
    alike = (
        one.key
        for one in STARTER_STOCKS
        if (one.stock_class, one.mirrored, one.printable) == kind and one.key in CLOTH_WORDS
    )
    key = next(alike, None)
    return None if key is None else CLOTH_WORDS[key]
