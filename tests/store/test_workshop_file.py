"""Whatever lies where a workshop's file should be is named with a sentence, and left as it was."""

import shutil
import sqlite3
import threading
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path

import pytest
from sqlalchemy import text

from tests.test_cli import vamper
from vamper.core.values.findings import BadInput
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
from vamper.store.database import Sessions, copy_database, open_database, remove_database
from vamper.store.tables import EdgeStyleRow
from vamper.store.trouble import StoreTrouble


@pytest.fixture(scope="module")
def sound(tmp_path_factory: pytest.TempPathFactory, nester: ProcessNester) -> Path:
    """A workshop's file with one job, not in use."""
    path = tmp_path_factory.mktemp("sound") / "workshop.db"
    workshop = Workshop(path, nester)
    workshop.jobs.create("Kept")
    workshop.close()
    return path


def titles(path: Path) -> list[str]:
    with closing(sqlite3.connect(path)) as connection:
        return [row[0] for row in connection.execute("SELECT title FROM job")]


@pytest.mark.parametrize(
    "name", ["a#b.db", "a?mode=ro.db", "100%25.db", "a b.db", "two\nlines.db", "file:x", "ü'\".db"]
)
def test_a_path_is_opened_and_copied_as_it_is_written(tmp_path: Path, nester: ProcessNester, name: str) -> None:
    workshop = Workshop(tmp_path / name, nester)
    workshop.jobs.create("Kept")
    copy_database(tmp_path / name, tmp_path / f"copy of {name}")
    workshop.close()
    assert titles(tmp_path / f"copy of {name}") == ["Kept"]
    assert {path.name for path in tmp_path.iterdir()} == {name, f"copy of {name}"}


def foreign(path: Path, _sound: Path) -> None:
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("CREATE TABLE songs (title TEXT)")


def newer(path: Path, sound: Path) -> None:
    shutil.copy(sound, path)
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
        connection.commit()


def scribbled(path: Path, sound: Path) -> None:
    data = bytearray(sound.read_bytes())
    data[4096:8192] = b"\x5a" * 4096
    path.write_bytes(data)


def read_only(path: Path, sound: Path) -> None:
    shutil.copy(sound, path)
    path.chmod(0o444)


BROKEN = {
    "no database": (lambda path, _: path.write_text("shopping list " * 40), "no workshop"),
    "empty": (lambda path, _: path.write_bytes(b""), "empty"),
    "a few bytes": (lambda path, sound: path.write_bytes(sound.read_bytes()[:40]), "cut short"),
    "half": (lambda path, sound: path.write_bytes(sound.read_bytes()[: sound.stat().st_size // 2]), "cut short"),
    "scribbled on": (scribbled, "damaged"),
    "another program's": (foreign, "another program"),
    "newer": (newer, "another version of Vamper"),
    "read-only": (read_only, "read-only"),
    "a folder": (lambda path, _: path.mkdir(), "folder"),
}


@pytest.mark.parametrize("kind", BROKEN)
def test_what_is_no_workshop_is_named_and_left_as_it_is(tmp_path: Path, sound: Path, kind: str) -> None:
    make, word = BROKEN[kind]
    path = tmp_path / "w.db"
    make(path, sound)
    before = path.is_dir() or path.read_bytes()
    with pytest.raises(BadInput, match=word) as refused:
        open_database(path)
    assert refused.value.where == str(path)
    if kind != "read-only":
        with pytest.raises(BadInput, match=word):
            copy_database(path, tmp_path / "copy.db")
        with pytest.raises(BadInput, match=word):
            remove_database(path)
    assert (path.is_dir() or path.read_bytes()) == before
    assert [one.name for one in tmp_path.iterdir()] == ["w.db"]


def test_a_missing_folder_is_named_and_nothing_is_made(tmp_path: Path, sound: Path) -> None:
    with pytest.raises(BadInput, match="there is no folder"):
        open_database(tmp_path / "no" / "w.db")
    with pytest.raises(BadInput, match="there is no folder"):
        copy_database(sound, tmp_path / "no" / "w.db")
    with pytest.raises(BadInput, match="no workshop to copy"):
        copy_database(tmp_path / "w.db", tmp_path / "copy.db")
    assert not list(tmp_path.iterdir())


def test_a_copy_never_replaces_what_is_there(tmp_path: Path, sound: Path) -> None:
    (tmp_path / "there.db").write_text("mine")
    with pytest.raises(BadInput, match="there already"):
        copy_database(sound, tmp_path / "there.db")
    assert (tmp_path / "there.db").read_text() == "mine"


@pytest.mark.parametrize("command", [("serve", "--data", "w.db"), ("demo", "--fresh", "--data", "w.db")])
def test_the_command_ends_with_one_line(tmp_path: Path, sound: Path, command: tuple[str, ...]) -> None:
    foreign(tmp_path / "w.db", sound)
    done = vamper(*command, folder=tmp_path)
    assert (done.returncode, done.stdout) == (2, "")
    assert done.stderr == "w.db: this is another program's file, not a workshop; name another one\n"


def test_a_full_disk_is_named_and_it_goes_on_when_there_is_room(tmp_path: Path) -> None:
    engine = open_database(tmp_path / "w.db")
    sessions = Sessions(engine)

    def write(name: str) -> None:
        with sessions.begin() as session:
            session.add(EdgeStyleRow(name=name, edge={"much": "x" * 100_000}))

    def most_pages(pages: int) -> None:
        # What the file may grow to, as on a disk with so much room; it holds for this connection.
        with engine.connect() as connection:
            connection.execute(text(f"PRAGMA max_page_count = {pages}"))

    write("first")
    most_pages(1)
    with pytest.raises(StoreTrouble, match=r"w\.db” is full|disk that holds") as told:
        write("second")
    assert "make room" in str(told.value)
    most_pages(1_000_000)
    write("third")
    # As a file is seen that became read-only meanwhile.
    with engine.connect() as connection:
        connection.execute(text("PRAGMA query_only = 1"))
    with pytest.raises(StoreTrouble, match="read-only"):
        write("fourth")
    with engine.connect() as connection:
        connection.execute(text("PRAGMA query_only = 0"))
    write("fifth")
    with sessions() as session:
        assert {row.name for row in session.query(EdgeStyleRow)} == {"first", "third", "fifth"}


def names(sessions: Sessions) -> set[str]:
    with sessions() as session:
        return {row.name for row in session.query(EdgeStyleRow)}


def test_a_snapshot_is_one_state_whoever_writes_meanwhile(tmp_path: Path) -> None:
    sessions = Sessions(open_database(tmp_path / "w.db"))

    def write(name: str) -> None:
        with sessions.begin() as session:
            session.add(EdgeStyleRow(name=name, edge={}))

    write("before")
    with sessions.snapshot():
        assert names(sessions) == {"before"}
        write("by itself")
        other = threading.Thread(target=write, args=("by another",))
        other.start()
        other.join()
        with sessions.snapshot():
            assert names(sessions) == {"before"}
        # Whoever writes sees what is there now, and what they write.
        with sessions.together():
            write("together")
            assert names(sessions) == {"before", "by itself", "by another", "together"}
        assert names(sessions) == {"before"}
    assert names(sessions) == {"before", "by itself", "by another", "together"}


def test_many_snapshots_leave_room_to_write(tmp_path: Path) -> None:
    """Each reader holds a connection and takes a second one to write: none waits for another's."""
    sessions = Sessions(open_database(tmp_path / "w.db"))
    readers = 24
    reading = threading.Barrier(readers, timeout=20)

    def use(number: int) -> None:
        with sessions.snapshot():
            names(sessions)
            reading.wait()
            with sessions.begin() as session:
                session.add(EdgeStyleRow(name=f"{number}", edge={}))

    with ThreadPoolExecutor(readers) as pool:
        list(pool.map(use, range(readers)))
    assert len(names(sessions)) == readers
