"""Things of one sort that a workshop keeps: looked up by key, changed and added to, each with a revision.

Only this program writes to the file, so what was read stays right until something here is changed.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

from pydantic import TypeAdapter
from sqlalchemy import ColumnElement, func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from vamper.core.values.findings import BadInput
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import CutterRow, JobRow, PrinterRow, StockRow

Thing = TypeVar("Thing")
Key = TypeVar("Key", int, str)
Row = type[PrinterRow] | type[CutterRow] | type[StockRow]


@dataclass(frozen=True, slots=True)
class Kept(Generic[Thing]):
    """A thing as it is kept: what it is called, how often it was changed, itself, and whether it was put aside."""

    name: str
    revision: int
    value: Thing
    hidden: bool = False


class Shelf(Generic[Key, Thing]):
    """The things of one sort.

    Parameters
    ----------
    what : str
        The word for such a thing in a sentence.
    used_by : callable
        Which jobs are planned with the thing of a key.
    """

    def __init__(
        self,
        sessions: Sessions,
        table: Row,
        adapter: TypeAdapter[Thing],
        what: str,
        used_by: Callable[[Key], ColumnElement[bool]],
    ) -> None:
        self._sessions = sessions
        self._table: Any = table
        self._key: Any = getattr(table, "key" if table is StockRow else "id")
        self._order: Any = StockRow.position if table is StockRow else self._key
        self._adapter = adapter
        self._what = what
        self._used_by: Callable[[Key], ColumnElement[bool]] = used_by
        self._kept: Remembered[None, dict[Key, Kept[Thing]]] = sessions.remembered(table)

    def all(self) -> dict[Key, Kept[Thing]]:
        """By key, in the order in which they are listed."""
        return self._kept.get(None, self._read)

    def _read(self) -> dict[Key, Kept[Thing]]:
        with self._sessions() as session:
            rows = session.scalars(select(self._table).order_by(self._order)).all()
            name = self._key.key
            return {
                getattr(row, name): Kept(
                    row.name,
                    row.revision,
                    self._adapter.validate_python(row.value),
                    getattr(row, "hidden", False),
                )
                for row in rows
            }

    def get(self, key: Key) -> Kept[Thing]:
        found = self.all().get(key)
        if found is None:
            raise NotFound(f"there is no such {self._what}; it may have been removed")
        return found

    def keep(self, name: str, value: Thing, key: Key | None = None) -> Key:
        """Change a thing, or add one; jobs that are made with it follow. Returns its key."""
        try:
            with self._sessions.begin() as session:
                row = self._table(revision=0) if key is None else self._found(session, key)
                row.name, row.value = name, self.data(value)
                row.revision += 1
                session.add(row)
                session.flush()
                kept: Key = getattr(row, self._key.key)
        except IntegrityError:
            raise BadInput(f"there is a {self._what} of that name already; give it another one", "name") from None
        return kept

    def add(self, key: Key, name: str, value: Thing) -> None:
        """Put a thing on the shelf under a key of its own, after the others."""
        try:
            with self._sessions.begin() as session:
                last = session.scalar(select(func.max(self._order))) or 0
                session.add(self._table(key=key, position=last + 1, name=name, value=self.data(value)))
        except IntegrityError:
            raise BadInput(f"there is a {self._what} of that name already; give it another one", "name") from None

    def hide(self, key: Key, hidden: bool) -> None:
        """Put a thing aside, or back; jobs that are made with it stay as they are."""
        with self._sessions.begin() as session:
            row = self._found(session, key)
            row.hidden = hidden
            row.revision += 1

    def remove(self, key: Key) -> None:
        """Take a thing away, unless a job is planned with it or it is the last of its sort."""
        with self._sessions.begin() as session:
            row = self._found(session, key)
            job = session.scalars(select(JobRow.title).where(self._used_by(key)).limit(1)).first()
            if job is not None:
                raise BadInput(
                    f"the job “{job[:60]}” is planned on this {self._what}; choose another one there first", self._what
                )
            if session.scalars(select(self._key).where(self._key != key).limit(1)).first() is None:
                raise BadInput(f"this is the only {self._what}; add another one first", self._what)
            session.delete(row)

    def data(self, value: Thing) -> Any:
        """A thing as it is stored."""
        return self._adapter.dump_python(value, mode="json")

    def _found(self, session: Session, key: Key) -> Any:
        row = session.get(self._table, key)
        if row is None:
            raise NotFound(f"there is no such {self._what}; it may have been removed")
        return row
