"""How wide motifs are on what is worn, as a table that the maker edits; starters until they do."""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len
from pydantic import TypeAdapter

from vamper.core.values.findings import BadInput
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.tables import row, table
from vamper.formats.sentences import read_as
from vamper.store.database import Sessions
from vamper.store.tables import PreferenceRow

_KEY = "garments"


@dataclass(frozen=True, slots=True)
class Garment:
    """A size of something worn, and how wide a motif is on it, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: Annotated[str, Len(1, 60), ONE_LINE]
    width_mm: Annotated[float, Ge(10), Le(1000)]


STARTER_GARMENTS = tuple(row(Garment, one) for one in table(__package__, "garments.toml")["rows"])
_GARMENTS = TypeAdapter(Annotated[tuple[Garment, ...], Len(0, 40)])


class Garments:
    """The table of one workshop."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def all(self) -> tuple[Garment, ...]:
        with self._sessions() as session:
            kept = session.get(PreferenceRow, _KEY)
            return STARTER_GARMENTS if kept is None else _GARMENTS.validate_python(kept.value)

    def put(self, raw: Any) -> tuple[Garment, ...]:
        """Keep the whole table; an empty one brings the starters back.

        Raises
        ------
        BadInput
            For a width out of range, or a name that stands twice.
        """
        garments = read_as(_GARMENTS, raw)
        names = [one.name.casefold() for one in garments]
        twice = next((one.name for one in garments if names.count(one.name.casefold()) > 1), None)
        if twice is not None:
            raise BadInput(f"“{twice}” stands twice; give each size its own name", "garments")
        with self._sessions.begin() as session:
            kept = session.get(PreferenceRow, _KEY)
            if not garments:
                if kept is not None:
                    session.delete(kept)
            else:
                session.merge(PreferenceRow(key=_KEY, value=_GARMENTS.dump_python(garments, mode="json")))
        return garments or STARTER_GARMENTS
