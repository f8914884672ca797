"""What lies on this workshop's shelf: packs of stock, all else that is used up, offcuts; and what things cost."""

from collections.abc import Container, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Any, TypeVar

from pydantic import TypeAdapter
from sqlalchemy import select

from vamper.core.ledger.cost import MOST_MONEY, Rates
from vamper.core.ledger.run import Took
from vamper.core.ledger.supply import (
    THINGS,
    Bought,
    Offcut,
    OnShelf,
    Pack,
    Stored,
    Thing,
    check_price,
    spent_in,
    taken_of,
    takes,
)
from vamper.core.values.findings import BadInput
from vamper.core.values.paper import Paper
from vamper.formats.ledger_file import Ledger
from vamper.formats.sentences import read_as
from vamper.services.jobs.history import aware
from vamper.services.ledger.runs import Runs, check_date
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import OffcutRow, PreferenceRow, SupplyRow, now

_PACK, _BOUGHT, _OFFCUT, _RATES = TypeAdapter(Pack), TypeAdapter(Bought), TypeAdapter(Offcut), TypeAdapter(Rates)
Entry = TypeVar("Entry")
_KEY = "rates"
# What a rate is known from where nobody typed it: the price of the thing that was bought last.
_RATE_OF = {
    Thing.INK: "ink_ml",
    Thing.LAMINATE: "laminate_m2",
    Thing.COAT: "coat",
    Thing.BLANK: "blank",
    Thing.BLADE: "blade",
}
_LEAST_SHORT = 0.01


@dataclass(frozen=True, slots=True)
class KeptPack:
    id: int
    bought_at: datetime
    pack: Pack


@dataclass(frozen=True, slots=True)
class KeptBought:
    id: int
    bought_at: datetime
    bought: Bought


@dataclass(frozen=True, slots=True)
class KeptOffcut:
    id: int
    kept_at: datetime
    offcut: Offcut


@dataclass(frozen=True, slots=True)
class Short:
    """A supply that a job has not enough of: its name, the amount that the job takes, and the amount left, both with
    their unit.
    """

    name: str
    needed: str
    left: str


def _dated(entries: Sequence[tuple[datetime, Entry]], name: str) -> Sequence[tuple[datetime, Entry]]:
    """The entries of a file, each on a day that can have been."""
    for place, (at, one) in enumerate(entries, 1):
        try:
            check_date(at, now())
            if isinstance(one, Bought):
                check_price(one)
        except BadInput as bad:
            raise BadInput(bad.sentence, f"{name} {place}, {bad.where}") from None
    return entries


def _when(row: SupplyRow) -> datetime:
    return datetime.fromisoformat(row.value["bought_at"])


class Supplies:
    """The supplies that were bought; the rest of them follows from the runs."""

    def __init__(self, sessions: Sessions, runs: Runs) -> None:
        self._sessions = sessions
        self._runs = runs
        self._kept: Remembered[None, tuple[tuple[KeptPack, ...], tuple[KeptBought, ...]]] = sessions.remembered(
            SupplyRow
        )
        self._kept_offcuts: Remembered[str | None, tuple[KeptOffcut, ...]] = sessions.remembered(OffcutRow)
        self._kept_rates: Remembered[None, Rates] = sessions.remembered(PreferenceRow)

    def packs(self) -> tuple[KeptPack, ...]:
        """Packs of stock, the newest last by the day on which they were bought."""
        return self._kept.get(None, self._read)[0]

    def bought(self) -> tuple[KeptBought, ...]:
        """Everything else, the newest last likewise."""
        return self._kept.get(None, self._read)[1]

    def _read(self) -> tuple[tuple[KeptPack, ...], tuple[KeptBought, ...]]:
        with self._sessions() as session:
            rows = session.scalars(select(SupplyRow)).all()
        rows = sorted(rows, key=lambda row: (aware(_when(row)), row.id))
        return (
            tuple(
                KeptPack(row.id, aware(_when(row)), _PACK.validate_python(row.value["pack"]))
                for row in rows
                if "pack" in row.value
            ),
            tuple(
                KeptBought(row.id, aware(_when(row)), _BOUGHT.validate_python(row.value["bought"]))
                for row in rows
                if "bought" in row.value
            ),
        )

    def buy(self, what: Pack | Bought, bought_at: datetime | None = None) -> int:
        """A pack of stock, or something else, comes onto the shelf; returns its number.

        Raises
        ------
        BadInput
            For a price or a day that cannot be.
        """
        if bought_at is not None:
            check_date(bought_at, now())
        if isinstance(what, Bought):
            check_price(what)
        if isinstance(what, Pack):
            value = {"pack": _PACK.dump_python(what, mode="json")}
        else:
            value = {"bought": _BOUGHT.dump_python(what, mode="json")}
        with self._sessions.begin() as session:
            row = SupplyRow(value={"bought_at": (bought_at or now()).isoformat(), **value})
            session.add(row)
            session.flush()
            return row.id

    def remove(self, number: int) -> None:
        """Take back a purchase that was none."""
        with self._sessions.begin() as session:
            row = session.get(SupplyRow, number)
            if row is None:
                raise NotFound("this is no longer on the shelf")
            session.delete(row)

    def stored(self) -> tuple[Stored, ...]:
        """Everything beside stock that was bought, things that run low first."""
        of: dict[Thing, list[KeptBought]] = {}
        for one in self.bought():
            of.setdefault(one.bought.thing, []).append(one)
        found = []
        for thing, those in of.items():
            first, newest = min(one.bought_at for one in those), those[-1]
            spent = taken_of(thing, (one.run for one in self._runs.all() if one.made_at >= first))
            amount = sum(one.bought.amount for one in those)
            found.append(Stored(thing, amount, spent, newest.bought.each, newest.id, newest.bought.name))
        return tuple(sorted(found, key=lambda one: one.left / one.bought))

    def short_of(self, stock: str, sheets: int, took: Took) -> tuple[Short, ...]:
        """The supplies that a job has not enough of; things that nobody said were bought are never short."""
        found = list[Short]()
        shelf = self.of(stock)
        if shelf is not None and shelf.left < sheets:
            found.append(Short("stock", f"{sheets} sheets", f"{shelf.left}"))
        for one in self.stored():
            needed, words = takes(one.thing, took), THINGS[one.thing]
            if needed > one.left + _LEAST_SHORT:
                found.append(Short(words.name, f"{needed:.3g} {words.unit}", f"{one.left:.3g}"))
        return tuple(found)

    def offcuts(self, stock: str | None = None) -> tuple[KeptOffcut, ...]:
        """Offcuts that were not used yet, the newest first."""
        return self._kept_offcuts.get(stock, lambda: self._read_offcuts(stock))

    def _read_offcuts(self, stock: str | None) -> tuple[KeptOffcut, ...]:
        rows = select(OffcutRow).where(OffcutRow.used_at.is_(None)).order_by(OffcutRow.id.desc())
        with self._sessions() as session:
            found = session.scalars(rows if stock is None else rows.where(OffcutRow.stock_key == stock)).all()
        return tuple(KeptOffcut(row.id, aware(row.kept_at), _OFFCUT.validate_python(row.value)) for row in found)

    def keep_offcut(self, offcut: Offcut, kept_at: datetime | None = None) -> int:
        """Keep the rest of a sheet to be used once more; returns its number."""
        if kept_at is not None:
            check_date(kept_at, now())
        with self._sessions.begin() as session:
            value = _OFFCUT.dump_python(offcut, mode="json")
            row = OffcutRow(stock_key=offcut.stock, kept_at=kept_at or now(), value=value)
            session.add(row)
            session.flush()
            return row.id

    def use_offcut(self, number: int) -> None:
        """It is used up, or thrown away."""
        with self._sessions.begin() as session:
            row = session.get(OffcutRow, number)
            if row is None:
                raise NotFound("this offcut is no longer kept")
            row.used_at = now()

    def put_back_offcut(self, number: int) -> None:
        """It was not used, after all."""
        with self._sessions.begin() as session:
            row = session.get(OffcutRow, number)
            if row is not None:
                row.used_at = None

    def offcut_of(self, stock: str, paper: Paper) -> int | None:
        """The offcut that a job's paper is; None where it is none of them."""
        return next((one.id for one in self.offcuts(stock) if one.offcut.paper == paper), None)

    def of(self, stock: str) -> OnShelf | None:
        """A stock on the shelf; None where nobody said that it was bought."""
        return self._shelf(stock, [one for one in self.packs() if one.pack.stock == stock])

    def _shelf(self, stock: str, packs: Sequence[KeptPack]) -> OnShelf | None:
        if not packs:
            return None
        first = min(one.bought_at for one in packs)
        spent = spent_in((one.run for one in self._runs.all() if one.made_at >= first), stock)
        newest = packs[-1].pack
        return OnShelf(
            stock,
            sum(one.pack.sheets for one in packs),
            spent,
            newest.price / newest.sheets,
            newest.price,
            packs[-1].id,
            tuple(dict.fromkeys(one.pack.lot for one in reversed(packs) if one.pack.lot)),
        )

    def stocks(self) -> tuple[OnShelf, ...]:
        """All stocks that were bought, stocks that run low first."""
        packs: dict[str, list[KeptPack]] = {}
        for one in self.packs():
            packs.setdefault(one.pack.stock, []).append(one)
        found = [shelf for key, those in packs.items() if (shelf := self._shelf(key, those)) is not None]
        return tuple(sorted(found, key=lambda one: one.left / one.bought))

    def written(self) -> Ledger:
        """All of the shelf, as a file holds it."""
        entries: list[tuple[int, datetime, Pack | Bought]] = [
            *((one.id, one.bought_at, one.pack) for one in self.packs()),
            *((one.id, one.bought_at, one.bought) for one in self.bought()),
        ]
        return Ledger(
            bought=tuple((at, what) for _, at, what in sorted(entries, key=lambda entry: entry[0])),
            offcuts=tuple((one.kept_at, one.offcut) for one in reversed(self.offcuts())),
            rates=self.rates(),
        )

    def take_in(self, ledger: Ledger, stocks: Container[str]) -> int:
        """Take in the things of a file that are not on the shelf yet; returns how many these were. Prices are only
        taken where none were said here, and offcuts only of stocks that are here.
        """
        here = self.written()
        ledger = replace(
            ledger,
            bought=tuple((at.astimezone(UTC), one) for at, one in _dated(ledger.bought, "bought")),
            offcuts=tuple((at.astimezone(UTC), one) for at, one in _dated(ledger.offcuts, "offcut")),
        )
        with self._sessions.together():
            bought = [entry for entry in dict.fromkeys(ledger.bought) if entry not in here.bought]
            for at, what in bought:
                self.buy(what, at)
            offcuts = [
                entry
                for entry in dict.fromkeys(ledger.offcuts)
                if entry not in here.offcuts and entry[1].stock in stocks
            ]
            for at, offcut in offcuts:
                self.keep_offcut(offcut, at)
            if ledger.rates is not None and here.rates == Rates():
                self.change_rates(_RATES.dump_python(ledger.rates, mode="json"))
        return len(bought) + len(offcuts)

    def rates(self) -> Rates:
        return self._kept_rates.get(None, self._read_rates)

    def _read_rates(self) -> Rates:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _KEY)
            return Rates() if row is None else _RATES.validate_python(row.value)

    def prices(self) -> Rates:
        """The prices of things: as typed, and where nothing was typed, as the thing was bought last."""
        typed = self.rates()
        known = {
            _RATE_OF[one.thing]: one.price
            for one in self.stored()
            if not getattr(typed, _RATE_OF[one.thing]) and one.price <= MOST_MONEY
        }
        return _RATES.validate_python(_RATES.dump_python(typed, mode="json") | known)

    def change_rates(self, changes: dict[str, Any]) -> Rates:
        """Set some of what things cost.

        Raises
        ------
        BadInput
            For a price below 0 or a margin of all of it.
        """
        rates = read_as(_RATES, _RATES.dump_python(self.rates(), mode="json") | changes)
        with self._sessions.begin() as session:
            session.merge(PreferenceRow(key=_KEY, value=_RATES.dump_python(rates, mode="json")))
        return rates
