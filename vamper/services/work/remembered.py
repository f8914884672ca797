"""What was read of the workshop, kept until something of it changes.

Reads and changes come from several threads. What was read before a change and would be kept after it is not: nobody
would ever ask again.
"""

import threading
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Thing = TypeVar("Thing")


class Remembered(Generic[Key, Thing]):
    """Things by what they were asked by."""

    def __init__(self) -> None:
        self._guard = threading.Lock()
        self._changes = 0
        self._kept: dict[Key, Thing] = {}

    def get(self, key: Key, read: Callable[[], Thing]) -> Thing:
        """The thing of a key, read now if it is not kept."""
        with self._guard:
            if key in self._kept:
                return self._kept[key]
            before = self._changes
        thing = read()
        with self._guard:
            if before == self._changes:
                self._kept[key] = thing
        return thing

    def forget(self) -> None:
        """Something has changed: everything is read anew."""
        with self._guard:
            self._changes += 1
            self._kept = {}
