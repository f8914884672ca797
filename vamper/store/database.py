"""Opening the workshop's file: WAL, foreign keys on, brought to the newest shape by its migrations.

A writing session takes the file's write lock when it begins, not at its first write: what it reads is then what it
changes, however many changes come at once.
"""

import sqlite3
from contextlib import AbstractContextManager
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.orm import Session, sessionmaker

_WRITES = "writes"
MIGRATIONS = Path(__file__).parent / "migrations"


def open_database(path: Path) -> Engine:
    """The engine for a workshop's file, made and migrated as needed."""
    path.parent.mkdir(parents=True, exist_ok=True)
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 20})
    event.listen(engine, "connect", _set_up)
    event.listen(engine, "begin", _begin)
    migrate(engine)
    return engine


def _set_up(connection: sqlite3.Connection, _record: object) -> None:
    # Transactions are begun by `_begin`; the driver would begin them later than is safe.
    connection.isolation_level = None
    cursor = connection.cursor()
    cursor.execute("PRAGMA journal_mode=WAL")
    cursor.execute("PRAGMA foreign_keys=ON")
    # With WAL, NORMAL keeps every committed transaction when the program is killed.
    cursor.execute("PRAGMA synchronous=NORMAL")
    cursor.close()


def _begin(connection: Connection) -> None:
    writes = connection.get_execution_options().get(_WRITES, False)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")


def migrate(engine: Engine) -> None:
    """Bring an empty or older file to the newest shape."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


class Sessions:
    """Sessions on one workshop's file: call it for reading, `begin` a transaction for writing."""

    def __init__(self, engine: Engine) -> None:
        self._reading = sessionmaker(engine, expire_on_commit=False)
        self._writing = sessionmaker(engine.execution_options(**{_WRITES: True}), expire_on_commit=False)

    def __call__(self) -> Session:
        return self._reading()

    def begin(self) -> AbstractContextManager[Session]:
        return self._writing.begin()


def copy_database(source: Path, target: Path) -> None:
    """A consistent copy of a workshop's file, also while it is in use."""
    with sqlite3.connect(f"file:{source}?mode=ro", uri=True) as reading, sqlite3.connect(target) as writing:
        reading.backup(writing)
