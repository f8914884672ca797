"""Memory is given back: pictures that nobody has asked for in a while, and what the allocator keeps of them.

Threads that ask for memory at once get an arena each, and an arena gives nothing back by itself: a server that has
looked through all jobs once would hold the most that it ever needed.
"""

import ctypes
import sys
import threading

from vamper.services.work.cache import let_go_of_pictures

# Looking at the next job takes less; whoever comes back later waits a tenth of a second for a picture.
IDLE_S = 180.0
_LOOK_EVERY_S = 30.0
# `M_ARENA_MAX` of the GNU C library.
_ARENA_MAX, _ARENAS = -8, 2


def _library() -> ctypes.CDLL | None:
    """The C library, where it can be told to give back; None elsewhere."""
    if sys.platform != "linux":
        return None
    library = ctypes.CDLL(None)
    return library if hasattr(library, "malloc_trim") and hasattr(library, "mallopt") else None


def share_arenas() -> None:
    """Let threads share two arenas; to be said before there are any."""
    if (library := _library()) is not None:
        library.mallopt(_ARENA_MAX, _ARENAS)


class GivingBack:
    """Looks now and then whether pictures lie idle, until it is closed."""

    def __init__(self, idle_s: float = IDLE_S, look_every_s: float = _LOOK_EVERY_S) -> None:
        self._idle_s, self._look_every_s = idle_s, look_every_s
        self._closed = threading.Event()
        self._library = _library()
        threading.Thread(target=self._look, daemon=True).start()

    def _look(self) -> None:
        while not self._closed.wait(self._look_every_s):
            let_go_of_pictures(self._idle_s)
            if self._library is not None:
                self._library.malloc_trim(0)

    def close(self) -> None:
        self._closed.set()
