"""What goes wrong with a workshop's file while it is in use, each as a sentence that says what to do.

A full disk, a file that became read-only: nothing that was saved is lost, and work goes on when the cause is gone.
"""

import sqlite3
from pathlib import Path

from sqlalchemy import Engine, event
from sqlalchemy.engine.interfaces import ExceptionContext

_SENTENCES = {
    sqlite3.SQLITE_FULL: "the disk that holds {file} is full; make room on it, then it goes on",
    sqlite3.SQLITE_READONLY: "{file} has become read-only; let it be written again, then it goes on",
    sqlite3.SQLITE_IOERR: "{file} cannot be written or read; see whether its disk is full or gone, then it goes on",
    sqlite3.SQLITE_CANTOPEN: "{file} cannot be opened; see whether its folder is still there, then it goes on",
    sqlite3.SQLITE_PERM: "{file} may not be opened; see to its permissions, then it goes on",
    sqlite3.SQLITE_BUSY: "another program is writing to {file}; try again in a moment",
    sqlite3.SQLITE_LOCKED: "another program is writing to {file}; try again in a moment",
    sqlite3.SQLITE_CORRUPT: "{file} is damaged; end Vamper, move the file away and restore a copy of it",
    sqlite3.SQLITE_NOTADB: "{file} is damaged; end Vamper, move the file away and restore a copy of it",
}


class StoreTrouble(Exception):
    """The file could not be written or read; the message is a sentence for people. What was saved is still there."""


def tell_trouble(engine: Engine, path: Path) -> None:
    """Turn the engine's errors that are no bugs into `StoreTrouble`."""

    @event.listens_for(engine, "handle_error")
    def told(context: ExceptionContext) -> None:
        code = getattr(context.original_exception, "sqlite_errorcode", None)
        sentence = None if code is None else _SENTENCES.get(code & 0xFF)
        if sentence is not None:
            raise StoreTrouble(sentence.format(file=f"“{path}”")) from context.original_exception
