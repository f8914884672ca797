"""What jobs are made with: printers, cutters and stocks of the workshop, and the ones a new workshop starts with."""

from dataclasses import replace

from pydantic import TypeAdapter
from sqlalchemy import func, select

from vamper.core.values.accepted_size import AcceptedSize, PaperSide
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import mm
from vamper.core.values.named_settings import MOST_SEEN, SettingSeen
from vamper.core.values.paper import Paper
from vamper.core.values.printer import Printer, PrintScale
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.core.values.tables import row, table
from vamper.services.shop.care import Care
from vamper.services.shop.labels import Labels
from vamper.services.shop.measured import Measured
from vamper.services.shop.own_stocks import OwnStocks
from vamper.services.shop.print_choices import PrintChoices
from vamper.services.shop.shelf import Shelf
from vamper.services.shop.tried import Tried, check_outcome
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import CutterRow, JobRow, PrinterRow, StockRow

_STARTERS = table(__package__, "machines.toml")
_PRINTER, _CUTTER, _STOCK = TypeAdapter(Printer), TypeAdapter(Cutter), TypeAdapter(Stock)


class Shop:
    """The shelves of one workshop; they belong to it, not to a job's history."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self.printers: Shelf[int, Printer] = Shelf(
            sessions, PrinterRow, _PRINTER, "printer", lambda key: JobRow.printer_id == key
        )
        self.cutters: Shelf[int, Cutter] = Shelf(
            sessions, CutterRow, _CUTTER, "cutter", lambda key: JobRow.cutter_id == key
        )
        self.measured = Measured(sessions)
        self.prints = PrintChoices(sessions)
        self.stocks: Shelf[str, Stock] = Shelf(sessions, StockRow, _STOCK, "stock", lambda key: JobRow.stock_key == key)
        self.own_stocks = OwnStocks(self.stocks)
        self.labels = Labels(sessions)
        self.tried = Tried(sessions)
        self.care = Care(sessions)
        self._stock_up()

    def stock(self, key: str) -> Stock:
        """A stock by its key."""
        return self.stocks.get(key).value

    def forget_read(self) -> None:
        """Read anew what runs change, once what was written of it has ended, well or not."""
        self.measured.forget_read()
        self.tried.forget_read()
        self.care.forget_read()

    def proved(self, printer_id: int, scale: PrintScale) -> None:
        """A proof came out at a scale: jobs on that printer are compensated by it from now on."""
        kept = self.printers.get(printer_id)
        self.printers.keep(kept.name, replace(kept.value, scale=scale), printer_id)

    def picture_tried(self, cutter_id: int, paper: Paper, side: PaperSide, size_mm: float, taken: bool) -> None:
        """The own program of a cutter took or refused a picture of a size; jobs on that paper follow.

        Raises
        ------
        BadInput
            If the size is larger than the paper.
        """
        whole = paper.width_mm if side is PaperSide.WIDTH else paper.height_mm
        if size_mm > whole:
            raise BadInput(
                f"a picture of {mm(size_mm)} is larger than the paper, which is {mm(whole)} there; "
                "type what the program took",
                "size_mm",
            )
        kept = self.cutters.get(cutter_id)
        before = kept.value.granted_of(paper) or AcceptedSize(paper.width_mm, paper.height_mm)
        self._keep_granted(cutter_id, before, before.after(side, size_mm, taken))

    def forget_granted(self, cutter_id: int, paper: Paper) -> None:
        """Begin anew with what is known of a paper."""
        before = self.cutters.get(cutter_id).value.granted_of(paper)
        if before is not None:
            self._keep_granted(cutter_id, before, None)

    def step_did(self, cutter_id: int, step: str, seen: SettingSeen) -> None:
        """A step of a machine's settings did something on a stock: it finds its place on the scale of force."""
        check_outcome(seen.stock, seen.cut, seen.outcome)
        kept = self.cutters.get(cutter_id)
        steps = kept.value.settings
        if step not in {one.name for one in steps}:
            raise NotFound("there is no such step on this machine; it may have been renamed")
        settings = tuple(
            replace(one, seen=(*one.seen, seen)[-MOST_SEEN:]) if one.name == step else one for one in steps
        )
        self.cutters.keep(kept.name, replace(kept.value, settings=settings), cutter_id)

    def _keep_granted(self, cutter_id: int, before: AcceptedSize, after: AcceptedSize | None) -> None:
        kept = self.cutters.get(cutter_id)
        others = tuple(one for one in kept.value.granted if one != before)
        granted = others if after is None else (*others, after)
        self.cutters.keep(kept.name, replace(kept.value, granted=granted), cutter_id)

    def _stock_up(self) -> None:
        """Fill a new workshop: the starter stocks, two printers and three ways to cut. Starter stocks that came since a
        workshop was filled are put behind those that it has.
        """
        with self._sessions.begin() as session:
            there = set(session.scalars(select(StockRow.key)))
            last = session.scalar(select(func.max(StockRow.position))) or 0
            new = [stock for stock in STARTER_STOCKS if stock.key not in there]
            for position, stock in enumerate(new, last + 1 if there else 0):
                session.add(StockRow(key=stock.key, position=position, name=stock.name, value=self.stocks.data(stock)))
            if there:
                return
            for start in _STARTERS["printers"]:
                printer = row(Printer, start["printer"])
                session.add(PrinterRow(name=start["name"], value=self.printers.data(printer)))
            for start in _STARTERS["cutters"]:
                cutter = row(Cutter, start["cutter"])
                session.add(CutterRow(name=start["name"], value=self.cutters.data(cutter)))
