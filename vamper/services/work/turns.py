"""Turns: so many at once, the others wait in the order of asking, and may give up waiting."""

import threading
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager

_ASK_S = 0.1


def _never() -> bool:
    return False


def _nothing() -> None:
    pass


class Turns:
    """Seats for some at once.

    Parameters
    ----------
    seats : int
        How many may be seated at the same time.
    """

    def __init__(self, seats: int) -> None:
        self._free = seats
        self._waiting: deque[threading.Event] = deque()
        self._guard = threading.Lock()

    @contextmanager
    def seat(self, given_up: Callable[[], bool] = _never, waits: Callable[[], None] = _nothing) -> Iterator[bool]:
        """Wait for a seat and hold it; False where waiting was given up. `waits` is called where there is a wait."""
        seated = self._sit(given_up, waits)
        try:
            yield seated
        finally:
            if seated:
                self._stand_up()

    def _sit(self, given_up: Callable[[], bool], waits: Callable[[], None]) -> bool:
        with self._guard:
            if self._free and not self._waiting:
                self._free -= 1
                return True
            turn = threading.Event()
            self._waiting.append(turn)
        waits()
        while not turn.wait(_ASK_S):
            if not given_up():
                continue
            with self._guard:
                if not turn.is_set():
                    self._waiting.remove(turn)
                    return False
        return True

    def _stand_up(self) -> None:
        with self._guard:
            if self._waiting:
                self._waiting.popleft().set()
            else:
                self._free += 1
