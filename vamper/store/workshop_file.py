"""The checks on a workshop's file before it is opened, copied or trusted.

A path is taken as it is written, whatever signs are in it. Nothing is altered by looking: the file is opened read-only,
and as one that nobody writes where nobody does.
"""

import os
import sqlite3
import stat
from contextlib import closing
from pathlib import Path
from urllib.parse import quote

from alembic.config import Config
from alembic.script import ScriptDirectory

from vamper.core.values.findings import BadInput

MIGRATIONS = Path(__file__).parent / "migrations"
_HEADER = b"SQLite format 3\x00"
_HEADER_BYTES = 100
# Tables that every version of a workshop's file has had.
_OURS = {"job", "art", "stock", "alembic_version"}

_OTHER_VERSION = (
    "this workshop was written by another version of Vamper, a newer one or a trial from before 1.0; open it with that "
    "one, or move it away and begin a new one"
)


def config() -> Config:
    """Where the steps from one shape of the file to the next are."""
    made = Config()
    made.set_main_option("script_location", str(MIGRATIONS))
    return made


def check_place(path: Path) -> None:
    """Raise `BadInput` unless a file could be made at `path`."""
    if not path.parent.is_dir():
        raise BadInput(f"there is no folder “{path.parent}”; make it first, or name another place", str(path))
    if path.is_dir():
        raise _is_folder(str(path))
    if not os.access(path.parent, os.W_OK):
        raise BadInput(f"the folder “{path.parent}” cannot be written to; name another place", str(path))


def check_workshop(path: Path, to_write: bool = True) -> None:
    """See that a file that is there is a whole workshop of this version or an older version.

    Raises
    ------
    BadInput
        Names the file and says what it is instead; nothing was altered.
    """
    name = str(path)
    _check_access(path, name, to_write)
    _check_header(path, name)
    try:
        with closing(read_only(path)) as connection:
            tables = {row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if not tables >= _OURS:
                raise BadInput("this is another program's file, not a workshop; name another one", name)
            revision = revision_of(connection)
            known = {step.revision for step in ScriptDirectory.from_config(config()).walk_revisions()}
            if revision not in known:
                raise BadInput(_OTHER_VERSION, name)
            if connection.execute("PRAGMA quick_check(1)").fetchone()[0] != "ok":
                raise _broken(name)
    except sqlite3.DatabaseError as error:
        if error.sqlite_errorcode & 0xFF in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED):
            raise BadInput("another program has it open for itself; end that one first", name) from None
        raise _broken(name) from None


def revision_of(connection: sqlite3.Connection) -> str | None:
    """The shape that a workshop's file is in."""
    row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    return None if row is None else str(row[0])


def read_only(path: Path) -> sqlite3.Connection:
    """A connection that alters nothing, not even the files beside it where nobody is writing."""
    in_use = path.with_name(f"{path.name}-wal").exists()
    options = "mode=ro" if in_use else "mode=ro&immutable=1"
    return sqlite3.connect(f"file:{quote(str(path.absolute()))}?{options}", uri=True, timeout=5)


def _check_access(path: Path, name: str, to_write: bool) -> None:
    try:
        found = path.stat()
    except OSError as error:
        raise BadInput(f"the file cannot be looked at: {error.strerror}", name) from None
    if stat.S_ISDIR(found.st_mode):
        raise _is_folder(name)
    if not stat.S_ISREG(found.st_mode):
        raise BadInput("this is no file; name a workshop's file", name)
    if not os.access(path, os.R_OK):
        raise BadInput("the file cannot be read by you; see to its permissions", name)
    writable = os.access(path, os.W_OK) and found.st_mode & (stat.S_IWUSR | stat.S_IWGRP | stat.S_IWOTH)
    if to_write and not writable:
        raise BadInput("the file is read-only; let it be written, or restore it to another place", name)


def _check_header(path: Path, name: str) -> None:
    with path.open("rb") as file:
        header = file.read(_HEADER_BYTES)
    if not header:
        raise BadInput("the file is empty; move it away, and a new workshop is made in its place", name)
    if not header.startswith(_HEADER):
        raise BadInput("this is no workshop's file; name another one", name)
    if len(header) < _HEADER_BYTES:
        raise _cut_short(name)
    page = int.from_bytes(header[16:18], "big")
    pages = int.from_bytes(header[28:32], "big")
    # The count of pages holds only where the two counters of changes agree.
    if header[24:28] == header[92:96] and path.stat().st_size < pages * (65536 if page == 1 else page):
        raise _cut_short(name)


def _is_folder(name: str) -> BadInput:
    return BadInput("this is a folder; name a file in it", name)


def _broken(name: str) -> BadInput:
    return BadInput("the file is damaged; move it away and restore a copy of it", name)


def _cut_short(name: str) -> BadInput:
    return BadInput("the file is cut short; move it away and restore a copy of it", name)
