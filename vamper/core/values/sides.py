"""Which side of a stock is up at the printer and at the cutter, in words, as `sides.toml` tells it."""

from dataclasses import dataclass

from vamper.core.values.stock import Stock
from vamper.core.values.tables import table

_TABLE = table(__package__, "sides.toml")


@dataclass(frozen=True, slots=True)
class Sides:
    """`printed` is the side that is printed and how it is told from the other ("" where none is), `up` what lies up at
    the cutter, `why` what comes of it where makers get it wrong.
    """

    printed: str
    up: str
    why: str = ""


def sides_of(stock: Stock) -> Sides:
    """The sides of a stock; one of the maker's own goes by its class, and by how it is cut."""
    rows = _TABLE["stocks"]
    if stock.key in rows:
        return Sides(**rows[stock.key])
    if not stock.printable and stock.mirrored:
        return Sides(**rows["colour-flex"])
    sides = Sides(**_TABLE["classes"][stock.stock_class.value])
    return sides if stock.printable else Sides("", _UNPRINTED if sides.printed else sides.up)


_UNPRINTED = "face up"
