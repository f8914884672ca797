"""The fonts that a maker added, for text on composed pieces."""

from sqlalchemy import select

from vamper.core.values.findings import BadInput
from vamper.core.values.fonts import shipped_font
from vamper.formats.own_font import family_of
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import OwnFontRow

_MOST_FONTS = 200


class OwnFonts:
    """The added fonts of one workshop, by their families."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self._kept: Remembered[str, bytes | None] = sessions.remembered(OwnFontRow)

    def all(self) -> list[str]:
        with self._sessions() as session:
            return list(session.scalars(select(OwnFontRow.family).order_by(OwnFontRow.family)))

    def add(self, name: str, data: bytes) -> str:
        """Keep a font file; one of the same family is replaced. Returns the family.

        Raises
        ------
        BadInput
            If it is no font that can be used, or ships anyway.
        """
        family = family_of(name, data)
        if shipped_font(family) is not None:
            raise BadInput(f"{family} ships with Vamper; it is in the list already", name)
        with self._sessions.begin() as session:
            if session.get(OwnFontRow, family) is None and len(self.all()) >= _MOST_FONTS:
                raise BadInput(f"a workshop keeps {_MOST_FONTS} fonts; remove one first", name)
            session.merge(OwnFontRow(family=family, data=data))
        return family

    def remove(self, family: str) -> None:
        """Take a font away; pieces that were drawn with it stay as they are."""
        with self._sessions.begin() as session:
            row = session.get(OwnFontRow, family)
            if row is None:
                raise NotFound("there is no such font; it may have been removed")
            session.delete(row)

    def data(self, family: str) -> bytes | None:
        """The file of a family, None for a family that was not added."""
        return self._kept.get(family, lambda: self._read(family))

    def _read(self, family: str) -> bytes | None:
        with self._sessions() as session:
            row = session.get(OwnFontRow, family)
            return None if row is None else row.data
