"""Packs of stock on this workshop's shelf, and what things cost here."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import select

from vamper.core.ledger.cost import Rates
from vamper.core.ledger.supply import OnShelf, Pack, spent_in
from vamper.formats.sentences import read_as
from vamper.services.ledger.runs import Runs
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import PreferenceRow, SupplyRow, now

_PACK, _RATES = TypeAdapter(Pack), TypeAdapter(Rates)
_KEY = "rates"


@dataclass(frozen=True, slots=True)
class KeptPack:
    id: int
    bought_at: datetime
    pack: Pack


class Supplies:
    """What was bought; what is left follows from the runs."""

    def __init__(self, sessions: Sessions, runs: Runs) -> None:
        self._sessions = sessions
        self._runs = runs

    def packs(self) -> tuple[KeptPack, ...]:
        with self._sessions() as session:
            rows = session.scalars(select(SupplyRow).order_by(SupplyRow.id)).all()
            return tuple(
                KeptPack(
                    row.id, datetime.fromisoformat(row.value["bought_at"]), _PACK.validate_python(row.value["pack"])
                )
                for row in rows
            )

    def buy(self, pack: Pack, bought_at: datetime | None = None) -> int:
        """A pack comes onto the shelf; returns its number."""
        value = {"bought_at": (bought_at or now()).isoformat(), "pack": _PACK.dump_python(pack, mode="json")}
        with self._sessions.begin() as session:
            row = SupplyRow(value=value)
            session.add(row)
            session.flush()
            return row.id

    def remove(self, pack_id: int) -> None:
        with self._sessions.begin() as session:
            row = session.get(SupplyRow, pack_id)
            if row is None:
                raise NotFound("this pack is not on the shelf any more")
            session.delete(row)

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
        )

    def stocks(self) -> tuple[OnShelf, ...]:
        """All stocks that were bought, those that run low first."""
        packs: dict[str, list[KeptPack]] = {}
        for one in self.packs():
            packs.setdefault(one.pack.stock, []).append(one)
        found = [shelf for key, those in packs.items() if (shelf := self._shelf(key, those)) is not None]
        return tuple(sorted(found, key=lambda one: one.left / one.bought))

    def rates(self) -> Rates:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _KEY)
            return Rates() if row is None else _RATES.validate_python(row.value)

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
