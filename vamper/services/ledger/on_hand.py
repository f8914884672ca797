"""Finished pieces on hand: how many of each product were made, given away and sold, as the maker counts them."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len
from pydantic import TypeAdapter

from vamper.core.values.findings import BadInput
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.store.database import Sessions
from vamper.store.tables import PreferenceRow

_KEY = "finished"
Number = Annotated[int, Ge(0), Le(1_000_000)]
FinishedName = Annotated[str, Len(1, 80), ONE_LINE]


class FinishedMove(StrEnum):
    """The ways of finished pieces out of the workshop."""

    MADE = "made"
    GIVEN = "given"
    SOLD = "sold"


@dataclass(frozen=True, slots=True)
class Finished:
    """One product: how many of it were made, given and sold."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: FinishedName
    made: Number = 0
    given: Number = 0
    sold: Number = 0

    @property
    def left(self) -> int:
        return self.made - self.given - self.sold

    def after(self, move: FinishedMove, count: int) -> "Finished":
        """The same after so many more of a move; fewer where the count is negative."""
        return replace(self, **{move.value: getattr(self, move.value) + count})


_FINISHED = TypeAdapter(tuple[Finished, ...])


class OnHand:
    """The finished pieces of one workshop."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def all(self) -> tuple[Finished, ...]:
        with self._sessions() as session:
            kept = session.get(PreferenceRow, _KEY)
            return () if kept is None else _FINISHED.validate_python(kept.value)

    def count(self, name: str, move: FinishedMove, count: int) -> tuple[Finished, ...]:
        """So many were made, given or sold; a negative count takes some of that back.

        Raises
        ------
        BadInput
            If more would be gone than were made.
        """
        every = {one.name: one for one in self.all()}
        after = every.get(name, Finished(name)).after(move, count)
        if min(after.made, after.given, after.sold) < 0:
            raise BadInput(f"fewer than none of “{name}” cannot have been {move.value}; look at the number", "count")
        if after.left < 0:
            before = every.get(name, Finished(name)).left
            raise BadInput(f"only {before} of “{name}” are on hand; count what was made first", "count")
        every[name] = after
        kept = tuple(one for one in every.values() if one.made)
        with self._sessions.begin() as session:
            session.merge(PreferenceRow(key=_KEY, value=_FINISHED.dump_python(kept, mode="json")))
        return kept

    def uncount(self, name: str, count: int) -> None:
        """So many were not made after all; what has left already stays counted as made."""
        left = next((one.left for one in self.all() if one.name == name), 0)
        if back := min(count, left):
            self.count(name, FinishedMove.MADE, -back)
