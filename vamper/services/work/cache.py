"""A bounded cache of computed things: least recently used goes first, and nothing is computed twice at once.

Only pictures and files are weighed; they are let go altogether once nobody has asked for any of them in a while.
"""

import threading
import time
import weakref
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, Generic, TypeVar

T = TypeVar("T")

# Caches of what is weighed; they come and go in several threads.
_WEIGHED: "weakref.WeakSet[Cache[Any]]" = weakref.WeakSet()
_LISTING = threading.Lock()


class Cache(Generic[T]):
    """Keeps values up to a total weight.

    Parameters
    ----------
    most : float
        The greatest total weight kept; the newest value always stays.
    weigh : callable
        The weight of one value; 1 each when left out.
    """

    def __init__(self, most: float, weigh: Callable[[T], float] | None = None) -> None:
        self._most = most
        self._weigh: Callable[[T], float] = weigh or (lambda _value: 1.0)
        self._asked_at = time.monotonic()
        self._values: OrderedDict[Hashable, T] = OrderedDict()
        self._total = 0.0
        self._guard = threading.Lock()
        self._making: dict[Hashable, threading.Lock] = {}
        if weigh is not None:
            with _LISTING:
                _WEIGHED.add(self)

    def __contains__(self, key: Hashable) -> bool:
        with self._guard:
            return key in self._values

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value for `key`, made now if it is not kept. What `make` raises is not kept."""
        with self._guard:
            self._asked_at = time.monotonic()
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
            making = self._making.setdefault(key, threading.Lock())
        with making:
            with self._guard:
                if key in self._values:
                    return self._values[key]
            try:
                value = make()
            finally:
                with self._guard:
                    self._making.pop(key, None)
            with self._guard:
                self._values[key] = value
                self._total += self._weigh(value)
                while self._total > self._most and len(self._values) > 1:
                    _, dropped = self._values.popitem(last=False)
                    self._total -= self._weigh(dropped)
        return value

    def let_go(self, since: float) -> None:
        """Drop everything if nobody has asked since a time (monotonic, s)."""
        with self._guard:
            if self._asked_at <= since:
                self._values.clear()
                self._total = 0.0


def let_go_of_pictures(idle_s: float) -> None:
    """Drop what weighed caches hold that nobody has asked for so long."""
    since = time.monotonic() - idle_s
    with _LISTING:
        caches = tuple(_WEIGHED)
    for cache in caches:
        cache.let_go(since)
