"""Edges saved under a name: how a maker likes their borders, to be given to any design."""

from dataclasses import dataclass, replace

from pydantic import TypeAdapter
from sqlalchemy import select

from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.store.database import Sessions
from vamper.store.tables import EdgeStyleRow, now

LONGEST_NAME = 60
_EDGE = TypeAdapter(EdgeSpec)


@dataclass(frozen=True, slots=True)
class EdgeStyle:
    name: str
    edge: EdgeSpec


class Styles:
    """The saved edges of one workshop."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def all(self) -> list[EdgeStyle]:
        """By name."""
        with self._sessions() as session:
            rows = session.scalars(select(EdgeStyleRow).order_by(EdgeStyleRow.name))
            return [EdgeStyle(row.name, _EDGE.validate_python(row.edge)) for row in rows]

    def save(self, name: str, edge: EdgeSpec) -> None:
        """Keep an edge under a name; an edge of that name is replaced. Holes kept by hand stay with their art."""
        name = " ".join(name.split())
        if not 0 < len(name) <= LONGEST_NAME:
            raise BadInput(f"give the style a name of at most {LONGEST_NAME} letters", "name")
        document = _EDGE.dump_python(replace(edge, keep_holes=()), mode="json")
        with self._sessions.begin() as session:
            session.merge(EdgeStyleRow(name=name, edge=document, saved_at=now()))

    def remove(self, name: str) -> None:
        with self._sessions.begin() as session:
            row = session.get(EdgeStyleRow, name)
            if row is not None:
                session.delete(row)
