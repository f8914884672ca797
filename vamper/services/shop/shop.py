"""What jobs are made with: printers, cutters and stocks of the workshop, and the ones a new workshop starts with."""

from sqlalchemy import select

from vamper.core.values.cutter import Cutter
from vamper.core.values.printer import Printer
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.core.values.tables import row, table
from vamper.services.shop.shelf import Shelf
from vamper.store.database import Sessions
from vamper.store.tables import CutterRow, JobRow, PrinterRow, StockRow

_STARTERS = table(__package__, "machines.toml")


class Shop:
    """The shelves of one workshop; they belong to it, not to a job's history."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self.printers: Shelf[int, Printer] = Shelf(
            sessions, PrinterRow, Printer, "printer", lambda key: JobRow.printer_id == key
        )
        self.cutters: Shelf[int, Cutter] = Shelf(
            sessions, CutterRow, Cutter, "cutter", lambda key: JobRow.cutter_id == key
        )
        self.stocks: Shelf[str, Stock] = Shelf(sessions, StockRow, Stock, "stock", lambda key: JobRow.stock_key == key)
        self._stock_up()

    def _stock_up(self) -> None:
        """Fill a new workshop: the starter stocks, two printers and three ways to cut."""
        with self._sessions.begin() as session:
            if session.scalar(select(StockRow.key).limit(1)) is not None:
                return
            for position, stock in enumerate(STARTER_STOCKS):
                session.add(StockRow(key=stock.key, position=position, name=stock.name, value=self.stocks.data(stock)))
            for start in _STARTERS["printers"]:
                printer = row(Printer, start["printer"])
                session.add(PrinterRow(name=start["name"], value=self.printers.data(printer)))
            for start in _STARTERS["cutters"]:
                cutter = row(Cutter, start["cutter"])
                session.add(CutterRow(name=start["name"], value=self.cutters.data(cutter)))
