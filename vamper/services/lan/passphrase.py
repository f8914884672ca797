"""The workshop's passphrase: kept as a salted scrypt hash, never as it was typed.

Cost: n = 2^15, r = 8 takes 32 MB and about a tenth of a second, which is what makes guessing dear (RFC 7914).
"""

import hashlib
import hmac
import secrets

from vamper.core.values.findings import BadInput
from vamper.store.database import Sessions
from vamper.store.tables import PreferenceRow

_KEY = "passphrase"
_COST = {"n": 2**15, "r": 8, "p": 1}
_MEMORY = 128 * _COST["n"] * _COST["r"] * 2
LEAST_LETTERS = 8
MOST_LETTERS = 200


class Passphrase:
    """The passphrase of one workshop."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    @property
    def is_set(self) -> bool:
        with self._sessions() as session:
            return session.get(PreferenceRow, _KEY) is not None

    def choose(self, words: str) -> None:
        """Keep a new passphrase.

        Raises
        ------
        BadInput
            If it is too short or too long.
        """
        if not LEAST_LETTERS <= len(words) <= MOST_LETTERS:
            raise BadInput(
                f"a passphrase needs {LEAST_LETTERS} to {MOST_LETTERS} letters; a few words that only you would put "
                "together are best",
                "passphrase",
            )
        salt = secrets.token_bytes(16)
        value = {"salt": salt.hex(), "hash": _hashed(words, salt).hex()}
        with self._sessions.begin() as session:
            session.merge(PreferenceRow(key=_KEY, value=value))

    def is_right(self, words: str) -> bool:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _KEY)
        if row is None:
            return False
        kept = bytes.fromhex(row.value["hash"])
        return hmac.compare_digest(kept, _hashed(words[:MOST_LETTERS], bytes.fromhex(row.value["salt"])))


def _hashed(words: str, salt: bytes) -> bytes:
    return hashlib.scrypt(words.encode("utf-8", "replace"), salt=salt, maxmem=_MEMORY, dklen=32, **_COST)
