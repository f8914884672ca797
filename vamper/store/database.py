"""Opening the workshop's file: WAL, foreign keys on, brought to the newest shape by its migrations.

A writing session takes the file's write lock when it begins, not at its first write: what it reads is then what it
changes, however many changes come at once.
"""

import os
import sqlite3
import threading
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator
from contextlib import AbstractContextManager, closing, contextmanager
from contextvars import ContextVar
from functools import cache
from pathlib import Path
from typing import Any

from alembic import command
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import URL, Connection, Engine, create_engine, event
from sqlalchemy.dialects import sqlite as sqlite_dialect
from sqlalchemy.orm import ORMExecuteState, Session, UOWTransaction, sessionmaker
from sqlalchemy.schema import CreateIndex, CreateTable, ExecutableDDLElement

from vamper.core.values.findings import BadInput
from vamper.store.remembered import Remembered
from vamper.store.tables import TableBase
from vamper.store.trouble import StoreTrouble, tell_trouble
from vamper.store.workshop_file import check_place, check_workshop, config, read_only, revision_of

_WRITES = "writes"
# Of a session: the tables that it wrote to.
_WRITTEN = "written"
# Connections that are kept for the next one; further ones are opened as they are needed.
_KEPT_OPEN = 8


def open_database(path: Path) -> Engine:
    """The engine for a workshop's file, made and migrated as needed.

    Raises
    ------
    BadInput
        If there is something else at that place, or the file is broken, newer or not to be written; nothing is altered.
    """
    check_place(path)
    is_new = not path.exists()
    if not is_new:
        check_workshop(path)
    # Whoever reads from a snapshot may write beside it, over a second connection: it must not wait for the first ones.
    engine = create_engine(
        URL.create("sqlite", database=str(path.absolute())),
        connect_args={"timeout": 20},
        pool_size=_KEPT_OPEN,
        max_overflow=-1,
    )
    event.listen(engine, "connect", _set_up)
    event.listen(engine, "begin", _begin)
    tell_trouble(engine, path)
    try:
        if is_new:
            make_tables(engine)
        else:
            migrate(engine)
    except StoreTrouble as trouble:
        engine.dispose()
        if is_new:
            _remove(path)
        raise BadInput(str(trouble), str(path)) from None
    return engine


def remove_database(path: Path) -> None:
    """Take a workshop's file away, if the file is a workshop.

    Raises
    ------
    BadInput
        If there is something else at that place.
    """
    if path.exists():
        check_workshop(path)
    _remove(path)


def _remove(path: Path) -> None:
    """A file with the files that lie beside it while it is in use."""
    for beside in ("", "-wal", "-shm"):
        path.with_name(path.name + beside).unlink(missing_ok=True)


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
    """Bring an older file to the newest shape."""
    steps = config()
    with engine.begin() as connection:
        steps.attributes["connection"] = connection
        command.upgrade(steps, "head")


def make_tables(engine: Engine) -> None:
    """Give an empty file the newest shape at once; a test sees that the steps from the first shape lead to the same."""
    with engine.begin() as connection:
        for statement in _newest_shape():
            connection.exec_driver_sql(statement)
        MigrationContext.configure(connection).stamp(_steps(), "head")


@cache
def _newest_shape() -> tuple[str, ...]:
    """The statements that make all tables and their indexes."""
    dialect = sqlite_dialect.dialect()
    made: list[ExecutableDDLElement] = []
    for table in TableBase.metadata.sorted_tables:
        made += [
            CreateTable(table),
            *(CreateIndex(index) for index in sorted(table.indexes, key=lambda one: one.name or "")),
        ]
    return tuple(str(one.compile(dialect=dialect)) for one in made)


@cache
def _steps() -> ScriptDirectory:
    return ScriptDirectory.from_config(config())


class Sessions:
    """Sessions on one workshop's file: call it for reading, `begin` a transaction for writing.

    What is read and written within `together` is one transaction, whoever asks for it. What is read within a `snapshot`
    is read from one state of the file, over one connection. What is `remembered` of some tables is forgotten as soon as
    a transaction that wrote to one of them has ended, well or not; who keeps it otherwise asks for `writes_to` them.
    """

    def __init__(self, engine: Engine) -> None:
        self._reading = sessionmaker(engine, expire_on_commit=False)
        self._writing = sessionmaker(engine.execution_options(**{_WRITES: True}), expire_on_commit=False)
        self._joined: ContextVar[Session | None] = ContextVar("joined", default=None)
        self._snapshot: ContextVar[tuple[Session, int] | None] = ContextVar("snapshot", default=None)
        self._counting = threading.Lock()
        self._writes = 0
        self._writes_to = Counter[type[TableBase]]()
        self._memories: defaultdict[type[TableBase], list[Remembered[Any, Any]]] = defaultdict(list)
        event.listen(self._writing, "after_flush", _note_flushed)
        event.listen(self._writing, "do_orm_execute", _note_executed)
        event.listen(self._writing, "after_commit", self._ended)
        event.listen(self._writing, "after_rollback", self._ended)

    def __call__(self) -> AbstractContextManager[Session]:
        shown = None if self.is_joined else self._snapshot.get()
        return self.newest() if shown is None else _within(shown[0])

    def newest(self) -> AbstractContextManager[Session]:
        """For reading everything that has ended by now, also within a snapshot that is older."""
        joined = self._joined.get()
        return self._reading() if joined is None else _within(joined)

    @property
    def is_joined(self) -> bool:
        """Whether whoever asks is within a transaction of several, and sees what nobody else does."""
        return self._joined.get() is not None

    def begin(self) -> AbstractContextManager[Session]:
        joined = self._joined.get()
        return self._writing.begin() if joined is None else _within(joined)

    @contextmanager
    def together(self) -> Iterator[Session]:
        """One transaction for all that is written in it."""
        with self.begin() as session:
            before = self._joined.set(session)
            try:
                yield session
            finally:
                self._joined.reset(before)

    @contextmanager
    def snapshot(self) -> Iterator[None]:
        """One state of the file for all that is read in it, however much is written meanwhile, by this thread too."""
        # Counted before anything is read: what ends meanwhile may be seen or not.
        writes = self._writes
        with self() as session:
            before = self._snapshot.set((session, writes))
            try:
                yield
            finally:
                self._snapshot.reset(before)

    def remembered(self, *tables: type[TableBase]) -> Remembered[Any, Any]:
        """A memory of what is read of some tables, and of nothing else."""
        memory = Remembered[Any, Any](self._seen)
        for table in _with_owners(tables):
            self._memories[table].append(memory)
        return memory

    def writes_to(self, table: type[TableBase]) -> int:
        """How many transactions that wrote to a table have ended."""
        return self._writes_to[table]

    def _seen(self) -> int | None:
        """The number of the last write that whoever reads here and now is sure to see; None within a transaction, which
        sees what it wrote itself.
        """
        if self.is_joined:
            return None
        shown = self._snapshot.get()
        return self._writes if shown is None else shown[1]

    def _ended(self, session: Session) -> None:
        written = session.info.pop(_WRITTEN, ())
        with self._counting:
            self._writes += 1
            self._writes_to.update(written)
            for memory in {id(one): one for table in written for one in self._memories[table]}.values():
                memory.forget(self._writes)


def _with_owners(tables: Iterable[type[TableBase]]) -> set[type[TableBase]]:
    """Tables, and the tables whose rows take theirs with them when they go."""
    classes = {mapper.local_table: mapper.class_ for mapper in TableBase.registry.mappers}
    found, waiting = set[type[TableBase]](), list(tables)
    while waiting:
        one = waiting.pop()
        if one not in found:
            found.add(one)
            waiting += [classes[key.column.table] for key in one.__table__.foreign_keys if key.ondelete]
    return found


def _note_flushed(session: Session, _context: UOWTransaction) -> None:
    rows = (*session.new, *session.dirty, *session.deleted)
    session.info.setdefault(_WRITTEN, set()).update(type(row) for row in rows)


def _note_executed(asked: ORMExecuteState) -> None:
    if (asked.is_insert or asked.is_update or asked.is_delete) and asked.bind_mapper is not None:
        asked.session.info.setdefault(_WRITTEN, set()).add(asked.bind_mapper.class_)


@contextmanager
def _within(session: Session) -> Iterator[Session]:
    """A part of a transaction that somebody else ends."""
    yield session
    session.flush()


def copy_database(source: Path, target: Path) -> None:
    """A consistent copy of a workshop's file, also while it is in use; whole and checked, or not there at all.

    Raises
    ------
    BadInput
        If the source is no workshop, the target is there already, or the copy cannot be written.
    """
    if not source.exists():
        raise BadInput("there is no workshop to copy", str(source))
    check_workshop(source, to_write=False)
    check_place(target)
    if target.exists():
        raise BadInput("is there already; move it away or name a new file, so that nothing is lost", str(target))
    part = target.with_name(f".{target.name}.part")
    try:
        _copy(source, part, target)
        # Linking fails where something has come to lie there meanwhile; renaming would replace it.
        os.link(part, target)
    except sqlite3.Error as error:
        raise BadInput(f"the copy cannot be written: {error}; nothing was kept of it", str(target)) from None
    except OSError as error:
        raise BadInput(f"the copy cannot be written: {error.strerror}; nothing was kept of it", str(target)) from None
    finally:
        _remove(part)


def _copy(source: Path, part: Path, target: Path) -> None:
    part.unlink(missing_ok=True)
    with closing(read_only(source)) as reading, closing(sqlite3.connect(part.absolute())) as writing:
        reading.backup(writing)
    with part.open("rb") as written:
        os.fsync(written.fileno())
    with closing(read_only(part)) as copy, closing(read_only(source)) as reading:
        whole = copy.execute("PRAGMA integrity_check(1)").fetchone()[0] == "ok"
        if not whole or revision_of(copy) != revision_of(reading):
            raise BadInput("the copy is not what was copied; see whether its disk is sound", str(target))
