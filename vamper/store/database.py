"""Opening the workshop's file: WAL, foreign keys on, brought to the newest shape by its migrations."""

import sqlite3
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.orm import Session, sessionmaker

MIGRATIONS = Path(__file__).parent / "migrations"


def open_database(path: Path) -> Engine:
    """The engine for a workshop's file, made and migrated as needed."""
    path.parent.mkdir(parents=True, exist_ok=True)
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 20})
    event.listen(engine, "connect", _set_pragmas)
    migrate(engine)
    return engine


def _set_pragmas(connection: sqlite3.Connection, _record: object) -> None:
    cursor = connection.cursor()
    cursor.execute("PRAGMA journal_mode=WAL")
    cursor.execute("PRAGMA foreign_keys=ON")
    # With WAL, NORMAL keeps every committed transaction when the program is killed.
    cursor.execute("PRAGMA synchronous=NORMAL")
    cursor.close()


def migrate(engine: Engine) -> None:
    """Bring an empty or older file to the newest shape."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def sessions(engine: Engine) -> sessionmaker[Session]:
    return sessionmaker(engine, expire_on_commit=False)


def copy_database(source: Path, target: Path) -> None:
    """A consistent copy of a workshop's file, also while it is in use."""
    with sqlite3.connect(f"file:{source}?mode=ro", uri=True) as reading, sqlite3.connect(target) as writing:
        reading.backup(writing)
