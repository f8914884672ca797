"""Designs that were worked out once, kept in the workshop's file: a job opens at once after a start.

They go by a digest of everything they were made from, the program that made them among it. Looking up changes nothing:
what was worked out since is written down with the next thing that somebody does.
"""

import hashlib
import logging
import threading
from collections.abc import Callable
from functools import cache
from importlib import resources
from typing import TYPE_CHECKING, TypeVar

from vamper.formats.packed import packed, unpacked
from vamper.services.work.keys import digest_of

if TYPE_CHECKING:
    # A command without a workshop would read the whole of the store for nothing.
    from vamper.store.database import Sessions

T = TypeVar("T")
_LOG = logging.getLogger(__name__)
MOST_KEPT = 2000
_PLACES = (
    "vamper.core.art",
    "vamper.core.edge",
    "vamper.core.finishing",
    "vamper.core.printing",
    "vamper.core.values",
    "vamper.formats",
)


@cache
def program() -> str:
    """A digest of the program as far as designs depend on it."""
    digest = hashlib.sha256()
    for place in _PLACES:
        for file in sorted(resources.files(place).rglob("*.py"), key=str):  # type: ignore[attr-defined]
            digest.update(file.read_bytes())
    return digest.hexdigest()


class KeptDesigns:
    """The designs that one workshop keeps; without a file it keeps nothing."""

    def __init__(self, sessions: "Sessions | None" = None) -> None:
        self._sessions = sessions
        self._pending: dict[str, bytes] = {}
        self._guard = threading.Lock()

    def get(self, kind: type[T], made_from: tuple[object, ...], make: Callable[[], T]) -> T:
        """The value that follows from `made_from`: as it is kept, or made now and kept from the next `write` on."""
        if self._sessions is None:
            return make()
        from vamper.store.tables import ComputedRow

        key = digest_of("design", 1, kind.__name__, program(), made_from)
        with self._sessions() as session:
            row = session.get(ComputedRow, key)
        if row is not None:
            try:
                return unpacked(kind, row.data)
            except (ValueError, TypeError):
                _LOG.warning("a kept design cannot be read; it is made anew")
        value = make()
        with self._guard:
            self._pending[key] = packed(value)
        return value

    def write(self) -> None:
        """Write down what was made since; where the disk is full it waits."""
        with self._guard:
            pending = dict(self._pending)
        if not pending or self._sessions is None:
            return
        from sqlalchemy import delete, select
        from sqlalchemy.dialects.sqlite import insert

        from vamper.store.tables import ComputedRow, now
        from vamper.store.trouble import StoreTrouble

        try:
            with self._sessions.begin() as session:
                for key, data in pending.items():
                    row = insert(ComputedRow).values(key=key, data=data, made_at=now())
                    session.execute(row.on_conflict_do_nothing())
                newest = select(ComputedRow.key).order_by(ComputedRow.made_at.desc()).limit(MOST_KEPT)
                session.execute(delete(ComputedRow).where(ComputedRow.key.not_in(newest)))
        except StoreTrouble as trouble:
            _LOG.warning("designs are not kept yet: %s", trouble)
            return
        with self._guard:
            for key in pending:
                self._pending.pop(key, None)
