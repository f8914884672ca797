"""What was read is kept until something changes, whoever changes it meanwhile, and however old what is read is."""

import threading
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from sqlalchemy import Insert, delete, select

from vamper.store.database import Sessions, open_database
from vamper.store.tables import CutRecordRow, CutterRow, PreferenceRow, SupplyRow, TableBase, now


@pytest.fixture
def sessions(tmp_path: Path) -> Iterator[Sessions]:
    engine = open_database(tmp_path / "w.db")
    yield Sessions(engine)
    engine.dispose()


class _Counted:
    """How many preferences there are, remembered."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self._kept = sessions.remembered(PreferenceRow)
        self.read = 0

    def get(self) -> int:
        return int(self._kept.get(None, self._count))

    def _count(self) -> int:
        self.read += 1
        with self._sessions() as session:
            return len(session.scalars(select(PreferenceRow)).all())


def _put(sessions: Sessions, key: str) -> None:
    with sessions.begin() as session:
        session.merge(PreferenceRow(key=key, value=1))


def _meanwhile(change: Callable[[], None]) -> None:
    """Done by somebody else, to its end."""
    other = threading.Thread(target=change)
    other.start()
    other.join()


def test_what_was_read_is_kept_until_its_table_is_written_to(sessions: Sessions) -> None:
    counted = _Counted(sessions)
    assert [counted.get() for _ in range(3)] == [0, 0, 0]
    assert counted.read == 1
    with sessions.begin() as session:
        session.add(SupplyRow(value={}))
    assert counted.get() == 0
    assert counted.read == 1
    _put(sessions, "unit")
    assert counted.get() == 1
    assert counted.read == 2


def test_a_statement_of_many_rows_is_a_write_too(sessions: Sessions) -> None:
    counted = _Counted(sessions)
    _put(sessions, "unit")
    assert counted.get() == 1
    with sessions.begin() as session:
        session.execute(delete(PreferenceRow).where(PreferenceRow.key == "unit"))
    assert counted.get() == 0


def test_rows_that_go_with_their_owner_are_forgotten_with_it(sessions: Sessions) -> None:
    """The next cutter may get the number of one that is gone, but not what was tried on it."""

    def records() -> int:
        with sessions() as session:
            return len(session.scalars(select(CutRecordRow)).all())

    with sessions.begin() as session:
        cutter = CutterRow(name="bench cutter", revision=0, value={})
        session.add(cutter)
        session.flush()
        number = cutter.id
        session.execute(_stock_row())
        session.add(CutRecordRow(cutter_id=number, stock_key="card", made_at=now(), value={}))
    kept = sessions.remembered(CutRecordRow)
    assert kept.get(None, records) == 1
    with sessions.begin() as session:
        session.delete(session.get(CutterRow, number))
    assert kept.get(None, records) == 0


def _stock_row() -> Insert:
    table = TableBase.metadata.tables["stock"]
    return table.insert().values(key="card", position=1, name="card", revision=0, value={}, hidden=False)


def test_a_change_while_it_is_read_leaves_nothing_old_behind(sessions: Sessions) -> None:
    """A force was asked for while a drop was judged: the answer was a breakdown, now and then."""
    kept = sessions.remembered(PreferenceRow)

    def read() -> str:
        _meanwhile(lambda: _put(sessions, "unit"))
        return "before the change"

    assert kept.get(None, read) == "before the change"
    assert kept.get(None, lambda: "after it") == "after it"


def test_what_an_old_snapshot_shows_is_not_kept(sessions: Sessions) -> None:
    """A page that was drawn while a stock was changed left the stock as it had been, for everybody after it."""
    counted = _Counted(sessions)
    with sessions.snapshot():
        with sessions() as session:
            assert session.scalars(select(SupplyRow)).all() == []
        _meanwhile(lambda: _put(sessions, "unit"))
        assert counted.get() == 0
    assert counted.get() == 1
    with sessions.snapshot():
        assert counted.get() == 1
    assert counted.read == 2


def test_what_a_transaction_took_back_is_not_kept(sessions: Sessions) -> None:
    counted = _Counted(sessions)
    assert counted.get() == 0

    def write() -> None:
        with sessions.together():
            _put(sessions, "unit")
            assert counted.get() == 1
            raise RuntimeError("on second thoughts")

    with pytest.raises(RuntimeError, match="on second thoughts"):
        write()
    assert counted.get() == 0


def test_what_a_transaction_wrote_is_seen_by_others_once_it_has_ended(sessions: Sessions) -> None:
    counted, seen = _Counted(sessions), list[int]()
    with sessions.together():
        _put(sessions, "unit")
        _meanwhile(lambda: seen.append(counted.get()))
    assert seen == [0]
    assert counted.get() == 1
