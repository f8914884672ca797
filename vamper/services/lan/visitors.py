"""Who is in, and who has to wait: sessions of devices that gave the passphrase, and the tries of those that did not.

A few wrong passphrases are free; then every further one doubles the wait, for that device and, later, for all of them
together. Sessions are known by a digest of their token and end with the server, or after a while unused.
"""

import hashlib
import secrets
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass

from vamper.services.lan.passphrase import Passphrase

SESSION_S = 12 * 3600.0
_FREE_TRIES = 5
_FREE_TRIES_OF_ALL = 30
_FIRST_WAIT_S = 15.0
_LONGEST_WAIT_S = 3600.0
# Devices that are remembered; beyond it the one that tried longest ago is forgotten.
_MOST_REMEMBERED = 1000
_EVERYBODY = ""


class Wrong(Exception):
    """It is not the passphrase."""


class Wait(Exception):
    """Too many wrong passphrases; `seconds` until another may be tried."""

    def __init__(self, seconds: float) -> None:
        super().__init__(seconds)
        self.seconds = seconds


@dataclass(slots=True)
class _Tries:
    wrong: int = 0
    until: float = 0.0


class Visitors:
    """The devices that come to one server."""

    def __init__(self, passphrase: Passphrase, clock: Callable[[], float] = time.monotonic) -> None:
        self._passphrase = passphrase
        self._clock = clock
        self._lock = threading.Lock()
        # One at a time: a hash takes memory, and a crowd of guesses must not take all of it.
        self._hashing = threading.Lock()
        self._tries: dict[str, _Tries] = {}
        self._sessions: dict[str, float] = {}

    def enter(self, device: str, words: str) -> str:
        """A session's token for the right passphrase.

        Raises
        ------
        Wrong, Wait
        """
        with self._hashing:
            self._may_try(device)
            right = self._passphrase.is_right(words)
            with self._lock:
                if not right:
                    self._count(device, _FREE_TRIES)
                    self._count(_EVERYBODY, _FREE_TRIES_OF_ALL)
                    raise Wrong
                self._tries.pop(device, None)
                token = secrets.token_urlsafe(32)
                self._sessions[_digest(token)] = self._clock() + SESSION_S
        return token

    def is_in(self, token: str) -> bool:
        """Whether a session is open; it stays open for a while from now on."""
        now = self._clock()
        with self._lock:
            for gone in [key for key, ends in self._sessions.items() if ends < now]:
                del self._sessions[gone]
            key = _digest(token)
            if key not in self._sessions:
                return False
            self._sessions[key] = now + SESSION_S
            return True

    def leave(self, token: str) -> None:
        with self._lock:
            self._sessions.pop(_digest(token), None)

    def _may_try(self, device: str) -> None:
        now = self._clock()
        with self._lock:
            until = max(self._tries.get(key, _Tries()).until for key in (device, _EVERYBODY))
        if until > now:
            raise Wait(until - now)

    def _count(self, device: str, free: int) -> None:
        tries = self._tries.pop(device, _Tries())
        tries.wrong += 1
        over = tries.wrong - free
        if over >= 0:
            tries.until = self._clock() + min(_LONGEST_WAIT_S, _FIRST_WAIT_S * 2.0**over)
        self._tries[device] = tries
        while len(self._tries) > _MOST_REMEMBERED:
            self._tries.pop(next(key for key in self._tries if key != _EVERYBODY))


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()
