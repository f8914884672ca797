"""Blades and mats of the workshop: which of them is in which machine, and what it went through."""

from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Any, Generic, TypeVar

from pydantic import TypeAdapter
from sqlalchemy import select, update
from sqlalchemy.exc import IntegrityError

from vamper.core.values.blade import BladeIn
from vamper.core.values.findings import BadInput
from vamper.core.values.mat import MatIn
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import BladeRow, CutterRow, MatRow, now

Thing = TypeVar("Thing", BladeIn, MatIn)
_BLADE, _MAT = TypeAdapter(BladeIn), TypeAdapter(MatIn)


@dataclass(frozen=True, slots=True)
class KeptThing(Generic[Thing]):
    """A blade or a mat as it is kept; `cutter_id` is the machine that it is in."""

    id: int
    name: str
    cutter_id: int | None
    confirmed_at: datetime | None
    value: Thing


class Drawer(Generic[Thing]):
    """The blades, or the mats, of one workshop."""

    def __init__(
        self, sessions: Sessions, table: type[BladeRow] | type[MatRow], adapter: TypeAdapter[Thing], what: str
    ) -> None:
        self._sessions = sessions
        self._table: Any = table
        self._adapter: TypeAdapter[Thing] = adapter
        self._what = what
        self._kept: Remembered[None, list[KeptThing[Thing]]] = sessions.remembered(table)

    def all(self) -> list[KeptThing[Thing]]:
        return self._kept.get(None, self._read)

    def _read(self) -> list[KeptThing[Thing]]:
        with self._sessions() as session:
            rows = session.scalars(select(self._table).order_by(self._table.id)).all()
            return [
                KeptThing(
                    row.id,
                    row.name,
                    row.cutter_id,
                    row.confirmed_at and row.confirmed_at.replace(tzinfo=UTC),
                    self._adapter.validate_python(row.value),
                )
                for row in rows
            ]

    def get(self, number: int) -> KeptThing[Thing]:
        found = next((one for one in self.all() if one.id == number), None)
        if found is None:
            raise NotFound(f"there is no such {self._what}; it may have been removed")
        return found

    def in_machine(self, cutter_id: int) -> KeptThing[Thing] | None:
        return next((one for one in self.all() if one.cutter_id == cutter_id), None)

    def keep(self, name: str, value: Thing, number: int | None = None) -> int:
        """Change a blade or mat, or add a new one. Returns its number."""
        data = self._adapter.dump_python(value, mode="json")
        try:
            with self._sessions.begin() as session:
                row = self._table(revision=0) if number is None else session.get(self._table, number)
                if row is None:
                    raise NotFound(f"there is no such {self._what}; it may have been removed")
                row.name, row.value = name, data
                row.revision += 1
                session.add(row)
                session.flush()
                kept: int = row.id
        except IntegrityError:
            raise BadInput(f"there is a {self._what} of that name already; give it another one", "name") from None
        return kept

    def put_in(self, number: int, cutter_id: int) -> None:
        """Put a blade or mat into a machine: the last one comes out, and this one is confirmed by that."""
        with self._sessions.begin() as session:
            if session.get(CutterRow, cutter_id) is None:
                raise NotFound("there is no such cutter; it may have been removed")
            row = session.get(self._table, number)
            if row is None:
                raise NotFound(f"there is no such {self._what}; it may have been removed")
            session.execute(
                update(self._table)
                .where(self._table.cutter_id == cutter_id, self._table.id != number)
                .values(cutter_id=None, confirmed_at=None)
            )
            row.cutter_id, row.confirmed_at = cutter_id, now()

    def remove(self, number: int) -> None:
        with self._sessions.begin() as session:
            row = session.get(self._table, number)
            if row is None:
                raise NotFound(f"there is no such {self._what}; it may have been removed")
            session.delete(row)


class Care:
    """Blades and mats, and what a run does to them."""

    def __init__(self, sessions: Sessions) -> None:
        self.blades: Drawer[BladeIn] = Drawer(sessions, BladeRow, _BLADE, "blade")
        self.mats: Drawer[MatIn] = Drawer(sessions, MatRow, _MAT, "mat")

    def ran(self, cutter_id: int, metres: float, loads: int) -> tuple[int | None, int | None]:
        """A run was made: the blade has cut so many metres more (times abrasion), the mat carried so many sheets.
        Returns the numbers of both, None where there was none in the machine.
        """
        blade, mat = self.blades.in_machine(cutter_id), self.mats.in_machine(cutter_id)
        if blade is not None:
            self.blades.keep(blade.name, replace(blade.value, metres=blade.value.metres + metres), blade.id)
        if mat is not None and loads:
            self.mats.keep(mat.name, replace(mat.value, loads=mat.value.loads + loads), mat.id)
        return (None if blade is None else blade.id, None if mat is None else mat.id)

    def did_not_run(self, blade_id: int | None, metres: float, mat_id: int | None, loads: int) -> None:
        """A run was none, after all; a blade or mat that is gone, or was made new since, stays as it is."""
        blade = next((one for one in self.blades.all() if one.id == blade_id), None)
        mat = next((one for one in self.mats.all() if one.id == mat_id), None)
        if blade is not None:
            left = max(0.0, blade.value.metres - metres)
            self.blades.keep(blade.name, replace(blade.value, metres=left), blade.id)
        if mat is not None and loads:
            self.mats.keep(mat.name, replace(mat.value, loads=max(0, mat.value.loads - loads)), mat.id)

    def washed(self, number: int) -> None:
        """A mat was washed and dried: its loads begin anew, lint and tape are gone."""
        mat = self.mats.get(number)
        self.mats.keep(mat.name, MatIn(mat.value.tack, 0, mat.value.washings + 1), number)
