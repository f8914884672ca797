"""What jobs are made with: printers, cutters and stocks of the workshop, and the ones a new workshop starts with."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date

from pydantic import TypeAdapter
from sqlalchemy import func, select

from vamper.core.values.accepted_size import AcceptedSize, PaperSide
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import mm
from vamper.core.values.named_settings import (
    MOST_SEEN,
    MOST_SETTINGS,
    NamedSetting,
    SettingSeen,
    check_settings,
    place_of,
    placed_below,
    same_name,
)
from vamper.core.values.paper import Paper
from vamper.core.values.printer import Printer, PrintScale
from vamper.core.values.program import ProgramCalibration
from vamper.core.values.run_seen import RunSeen
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.core.values.tables import row, table
from vamper.services.shop.care import Care
from vamper.services.shop.labels import Labels
from vamper.services.shop.measured import Measured
from vamper.services.shop.own_stocks import OwnStocks
from vamper.services.shop.print_choices import PrintChoices
from vamper.services.shop.shelf import Kept, Shelf
from vamper.services.shop.tried import Tried
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import CutterRow, JobRow, PrinterRow, StockRow, now

_MOST_CALIBRATED = 100
_STARTERS = table(__package__, "machines.toml")
_PRINTER, _CUTTER, _STOCK = TypeAdapter(Printer), TypeAdapter(Cutter), TypeAdapter(Stock)


def _renamed(names: Sequence[str], name: str, changed: NamedSetting | None) -> Iterator[str]:
    """Named settings once a setting is called otherwise, or is gone."""
    for one in names:
        if not same_name(one, name):
            yield one
        elif changed is not None:
            yield changed.name


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadInput(f"“{text}” is not a date; write it as 2026-05-02", "made.on") from None


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

    def program_calibrated(self, cutter_id: int, made: ProgramCalibration) -> None:
        """A calibration was made in a machine's own program, with its own sheet.

        Raises
        ------
        BadInput
            If its day is still to come.
        """
        if _day(made.on) > now().date():
            raise BadInput("that day is still to come; say when it was calibrated", "made.on")
        kept = self.cutters.get(cutter_id)
        facts = kept.value.program_facts
        calibrated = tuple(sorted((*facts.calibrated, made), key=lambda one: one.on))[-_MOST_CALIBRATED:]
        self.cutters.keep(kept.name, replace(kept.value, program=replace(facts, calibrated=calibrated)), cutter_id)

    def program_due(self, printer_id: int, cutter_id: int, stock: Stock) -> str:
        """Why the own calibration of a machine's program is due, in a sentence; empty where it is not."""
        made = self.cutters.get(cutter_id).value.program_facts.calibrated
        return self.measured.program_due(printer_id, cutter_id, stock, _day(made[-1].on) if made else None)

    def cutter_with_seen(self, cutter_id: int) -> Cutter:
        """A cutter with what test cuts and runs said of its settings, beside what was typed of them."""
        cutter = self.cutters.get(cutter_id).value
        seen = self._named_seen(cutter_id) if cutter.settings else {}
        if not seen:
            return cutter
        settings = tuple(
            replace(one, seen=(*one.seen, *seen.get(one.name, ()))[-MOST_SEEN:]) for one in cutter.settings
        )
        return replace(cutter, settings=settings)

    def _named_seen(self, cutter_id: int) -> dict[str, list[SettingSeen]]:
        """The outcomes of named settings on one cutter, as far as they can still be set so."""
        settings = {one.name: one for one in self.cutters.get(cutter_id).value.settings}
        found = dict[str, list[SettingSeen]]()
        for key, record in self.tried.on_cutter(cutter_id):
            if (stock := self._stock_or_none(key)) is None:
                continue
            for name, did in record.named(stock):
                if name in settings and settings[name].takes(did.pressure):
                    found.setdefault(name, []).append(did)
        return found

    def marks_seen(self, cutter_id: int) -> list[RunSeen]:
        """Whether the marks of runs on one cutter were read, whatever their stock."""
        found = list[RunSeen]()
        for key, record in self.tried.on_cutter(cutter_id):
            stock = self._stock_or_none(key)
            if stock is not None and (seen := record.marks_of(stock)) is not None:
                found.append(seen)
        return found

    def _stock_or_none(self, key: str) -> Stock | None:
        try:
            return self.stocks.get(key).value
        except NotFound:
            return None

    def add_settings(self, cutter_id: int, added: Sequence[NamedSetting]) -> None:
        """Several settings of a machine's list typed at once; settings it has already are left as they are.

        Raises
        ------
        BadInput
            If a setting is named twice among them.
        """
        kept = self.cutters.get(cutter_id)
        for place, one in enumerate(added):
            if any(same_name(one.name, other.name) for other in added[:place]):
                raise BadInput(f"“{one.name}” stands twice in what you typed; leave one of them out", "settings")
        new = tuple(one for one in added if place_of(one.name, kept.value.settings) is None)
        if len(kept.value.settings) + len(new) > MOST_SETTINGS:
            raise BadInput(
                f"a machine has room for {MOST_SETTINGS} settings here; type those that come near your stocks",
                "settings",
            )
        self.cutters.keep(kept.name, replace(kept.value, settings=(*kept.value.settings, *new)), cutter_id)

    def change_setting(self, cutter_id: int, name: str, changed: NamedSetting | None) -> None:
        """Another name, other pressures or another order of a setting; None takes it away, with all that was told of
        it by hand.

        Raises
        ------
        BadInput
            If that makes the list contradict itself.
        """
        kept = self.cutters.get(cutter_id)
        place = place_of(name, kept.value.settings)
        if place is None:
            raise NotFound("there is no such setting on this machine; it may have been renamed")
        before = kept.value.settings
        after = [replace(one, gentler_than=tuple(_renamed(one.gentler_than, name, changed))) for one in before]
        if changed is None:
            del after[place]
        else:
            after[place] = replace(changed, seen=before[place].seen)
        self._keep_settings(cutter_id, kept, after)

    def place_setting(self, cutter_id: int, name: str, above: Sequence[str]) -> None:
        """Put one setting of a machine's list below the settings that press less, as `placed_below` does.

        Raises
        ------
        BadInput
            If that goes against the order told of the others.
        """
        kept = self.cutters.get(cutter_id)
        settings = kept.value.settings
        if any(place_of(one, settings) is None for one in (name, *above)):
            raise NotFound("there is no such setting on this machine; it may have been renamed")
        self._keep_settings(cutter_id, kept, placed_below(settings, name, above))

    def _keep_settings(self, cutter_id: int, kept: Kept[Cutter], settings: Sequence[NamedSetting]) -> None:
        try:
            check_settings(settings)
            cutter = replace(kept.value, settings=tuple(settings))
        except ValueError as bad:
            raise BadInput(str(bad), "settings") from None
        self.cutters.keep(kept.name, cutter, cutter_id)

    def _keep_granted(self, cutter_id: int, before: AcceptedSize, after: AcceptedSize | None) -> None:
        kept = self.cutters.get(cutter_id)
        others = tuple(one for one in kept.value.granted if one != before)
        granted = others if after is None else (*others, after)
        self.cutters.keep(kept.name, replace(kept.value, granted=granted), cutter_id)

    def _stock_up(self) -> None:
        """Fill a new workshop: the starter stocks, two printers and three ways to cut. Starter stocks that came since a
        workshop was filled are put behind the stocks that it has.
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
