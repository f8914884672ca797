"""What was read of the workshop's file, kept until something of it changes.

Reads and writes come from several threads, and not every reader sees what the file holds now: a snapshot shows it as
it was, and a transaction that has not ended what may never be. A thing is kept only where its reader saw every write
that has ended to the tables it comes from; an older one would never be asked for again.
"""

import threading
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Thing = TypeVar("Thing")


class Remembered(Generic[Key, Thing]):
    """Things by what they were asked by; `Sessions.remembered` makes one and has it forget.

    Parameters
    ----------
    seen : callable
        The number of the last write whose result a reader is sure to see now; None for one who sees what nobody else
        does.
    """

    def __init__(self, seen: Callable[[], int | None]) -> None:
        self._seen = seen
        self._guard = threading.Lock()
        self._forgotten_at = 0
        self._kept: dict[Key, Thing] = {}

    def get(self, key: Key, read: Callable[[], Thing]) -> Thing:
        """The thing of a key, read now if it is not kept."""
        seen = self._seen()
        with self._guard:
            if seen is not None and key in self._kept:
                return self._kept[key]
        thing = read()
        with self._guard:
            if seen is not None and seen >= self._forgotten_at:
                self._kept[key] = thing
        return thing

    def forget(self, write: int) -> None:
        """A write of that number has ended: everything is read anew."""
        with self._guard:
            self._forgotten_at = write
            self._kept = {}
