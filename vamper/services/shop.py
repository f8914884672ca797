"""What jobs are made with: printers, cutters and stocks as core knows them, read from the workshop's file once.

Only this program writes to the file, so what was read stays right until something here is changed.
"""

from dataclasses import dataclass
from typing import Generic, TypeVar

from vamper.core.devices import Cutter, Printer
from vamper.core.stocks import Stock
from vamper.store.database import Sessions
from vamper.store.models import CutterRow, PrinterRow, StockRow
from vamper.store.rows import cutter_of, printer_of, stock_of

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Called(Generic[T]):
    """A thing and what it is called."""

    name: str
    thing: T


class Shop:
    """Looks things up by their keys; they must be there."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self.forget()

    def forget(self) -> None:
        """Read everything anew from now on: something was changed."""
        self._printers: dict[int, Called[Printer]] = {}
        self._cutters: dict[int, Called[Cutter]] = {}
        self._stocks: dict[str, Stock] = {}

    def printer(self, number: int) -> Called[Printer]:
        kept = self._printers
        if number not in kept:
            with self._sessions() as session:
                row = session.get_one(PrinterRow, number)
                kept[number] = Called(row.name, printer_of(row))
        return kept[number]

    def cutter(self, number: int) -> Called[Cutter]:
        kept = self._cutters
        if number not in kept:
            with self._sessions() as session:
                row = session.get_one(CutterRow, number)
                kept[number] = Called(row.name, cutter_of(row))
        return kept[number]

    def stock(self, key: str) -> Stock:
        kept = self._stocks
        if key not in kept:
            with self._sessions() as session:
                kept[key] = stock_of(session.get_one(StockRow, key))
        return kept[key]
