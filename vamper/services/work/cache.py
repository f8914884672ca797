"""A bounded cache of computed things: least recently used goes first, and nothing is computed twice at once."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

T = TypeVar("T")


class Cache(Generic[T]):
    """Keeps values up to a total weight.

    Parameters
    ----------
    most : float
        The greatest total weight kept; the newest value always stays.
    weigh : callable
        The weight of one value; 1 each when left out.
    """

    def __init__(self, most: float, weigh: Callable[[T], float] = lambda _value: 1.0) -> None:
        self._most = most
        self._weigh = weigh
        self._values: OrderedDict[Hashable, T] = OrderedDict()
        self._total = 0.0
        self._guard = threading.Lock()
        self._making: dict[Hashable, threading.Lock] = {}

    def __contains__(self, key: Hashable) -> bool:
        with self._guard:
            return key in self._values

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value for `key`, made now if it is not kept. What `make` raises is not kept."""
        with self._guard:
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
