"""The runs of one workshop: logged once, looked up, and written out."""

import threading
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import select

from vamper.core.ledger.diagnosis import CAUSE_BY_KEY
from vamper.core.ledger.recipe import Recipe, Tally
from vamper.core.ledger.run import DAYS_LATER, LaterCheck, LaterKind, Run, check_run
from vamper.core.values.findings import BadInput
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import RunRow, now

_RUN = TypeAdapter(Run)
# Before this nobody cut stickers at home; and a clock beside this one may be a day ahead.
_FIRST_YEAR, _CLOCKS_DIFFER = 1995, timedelta(days=1)


@dataclass(frozen=True, slots=True)
class Trace:
    """The traces that a run left elsewhere in the workshop, so that it can be taken back with it.

    Parameters
    ----------
    cut_records, misses : tuple of int
        Numbers of the records of what cuts looked like, and of misses.
    offcut : int or None
        Number of the offcut that it was made of.
    finished : tuple of (str, int)
        Finished products that were counted with it.
    blade, metres : int or None, float
        The blade, and the metres it was worn by, times abrasion.
    mat, loads : int or None, int
        The mat, and how often it was loaded.
    """

    cut_records: tuple[int, ...] = ()
    misses: tuple[int, ...] = ()
    offcut: int | None = None
    finished: tuple[tuple[str, int], ...] = ()
    blade: int | None = None
    metres: float = 0.0
    mat: int | None = None
    loads: int = 0


NO_TRACE = Trace()
_TRACE = TypeAdapter(Trace)


class LoggedAlready(BadInput):
    """A run of this sheet was logged before; it may be another run, or the same again."""


@dataclass(frozen=True, slots=True)
class KeptRun:
    """A run as it is kept. The hand-off is that whose plan it was made by."""

    id: int
    job_id: int | None
    hand_off_id: int | None
    made_at: datetime
    run: Run


class Runs:
    """All runs, the newest last by their own date: a run of years ago that is read in today is an old run. They are
    read once and kept: ten thousand of them are a few megabytes. What is logged now is put behind them, and only the
    recipes that it belongs to are counted again. Where anything else was written to them since, they are read anew.
    """

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self._lock = threading.RLock()
        self._kept: tuple[KeptRun, ...] | None = None
        self._kept_at = 0
        self._tally: Tally | None = None

    def all(self) -> tuple[KeptRun, ...]:
        with self._lock:
            # Counted before it is read: what ends meanwhile is read again.
            now_at = self._sessions.writes_to(RunRow)
            if self._sessions.is_joined:
                return self._read()
            if self._kept is None or self._kept_at != now_at:
                self._put(self._read(), now_at, None)
            return self._kept or ()

    def _read(self) -> tuple[KeptRun, ...]:
        with self._sessions.newest() as session:
            rows = session.scalars(select(RunRow).order_by(RunRow.made_at, RunRow.id)).all()
            return tuple(_kept(row) for row in rows)

    def _put(self, runs: tuple[KeptRun, ...], at: int, tally: Tally | None) -> None:
        self._kept, self._kept_at, self._tally = runs, at, tally

    def _only_this_since(self, at: int) -> bool:
        """Whether one write of runs, and no other, has ended since a count of them."""
        return self._kept_at == at and self._sessions.writes_to(RunRow) == at + 1

    def get(self, run_id: int) -> KeptRun:
        for one in self.all():
            if one.id == run_id:
                return one
        raise NotFound("this run is no longer in the ledger")

    def of_job(self, job_id: int) -> tuple[KeptRun, ...]:
        return tuple(one for one in self.all() if one.job_id == job_id)

    def recipes(self) -> tuple[Recipe, ...]:
        """The recipes that the runs give, with the recipe used last first."""
        with self._lock:
            runs = self.all()
            if self._tally is None or self._sessions.is_joined:
                return self._tallied(runs).recipes()
            return self._tally.recipes()

    def _tallied(self, runs: tuple[KeptRun, ...]) -> Tally:
        tally = Tally((one.id, one.run) for one in runs)
        if runs is self._kept:
            self._tally = tally
        return tally

    def add(
        self,
        run: Run,
        job_id: int | None,
        hand_off_id: int | None,
        again: bool = False,
        made_at: datetime | None = None,
        along: Callable[[], Trace] = lambda: NO_TRACE,
    ) -> int:
        """Log a run, with what is written `along` with it in the same transaction, which says what that was; returns
        its number.

        Raises
        ------
        LoggedAlready
            If this sheet of this hand-off is in the ledger already, and nobody said that it was made again.
        """
        with self._lock:
            self._ask_if_logged(run, hand_off_id, again)
            before, at, tally = self._kept, self._kept_at, self._tally
            with self._sessions.together() as session:
                row = RunRow(
                    job_id=job_id,
                    hand_off_id=hand_off_id,
                    sheet=run.sheet,
                    made_at=made_at or now(),
                    value=_RUN.dump_python(run, mode="json"),
                )
                session.add(row)
                session.flush()
                kept = _kept(row)
                row.trace = _TRACE.dump_python(along(), mode="json")
            if before is not None and self._only_this_since(at) and not (before and kept.made_at < before[-1].made_at):
                if tally is not None:
                    tally.add(kept.id, run)
                self._put((*before, kept), at + 1, tally)
            return kept.id

    def trace(self, run_id: int) -> Trace | None:
        """The traces that a run left elsewhere in the workshop; None where they were not written down."""
        with self._sessions() as session:
            row = session.get(RunRow, run_id)
            if row is None:
                raise NotFound("this run is no longer in the ledger")
            return None if row.trace is None else _TRACE.validate_python(row.trace)

    def remove(self, run_id: int) -> None:
        """A run was none, after all."""
        with self._lock, self._sessions.begin() as session:
            row = session.get(RunRow, run_id)
            if row is None:
                raise NotFound("this run is no longer in the ledger")
            session.delete(row)

    def _ask_if_logged(self, run: Run, hand_off_id: int | None, again: bool) -> None:
        same = (one for one in self.all() if one.hand_off_id == hand_off_id and one.run.sheet == run.sheet)
        if hand_off_id is not None and not again and any(same):
            raise LoggedAlready(
                f"sheet {run.sheet} of this hand-off is in the ledger already; say that it was made once more, or "
                "leave it",
                "again",
            )

    def add_all(self, runs: list[tuple[datetime, Run]]) -> int:
        """Add many runs at once, as from a file; runs that are here already are left out. Returns how many came in.

        Raises
        ------
        BadInput
            Naming the run that nobody could have logged; then none comes in.
        """
        for place, (made_at, run) in enumerate(runs, 1):
            try:
                check_date(made_at, now())
                check_run(run)
            except BadInput as bad:
                raise BadInput(bad.sentence, f"run {place}, {bad.where}") from None
        # The file keeps no zone: everything in it is UTC.
        dated_runs = [(made_at.astimezone(UTC), run) for made_at, run in runs]
        with self._lock:
            there = {(one.made_at, one.run) for one in self.all()}
            new = list(dict.fromkeys(dated for dated in dated_runs if dated not in there))
            with self._sessions.begin() as session:
                for made_at, run in new:
                    value = _RUN.dump_python(run, mode="json")
                    session.add(RunRow(sheet=run.sheet, made_at=made_at, value=value))
            return len(new)

    def found(self, run_id: int, cause: str | None) -> None:
        """Keep the cause that turned out to be at work; it shifts which causes are thought of first from then on."""
        if cause is not None and cause not in CAUSE_BY_KEY:
            raise BadInput("there is no such cause; `vamper diagnose --codes` lists them", "cause")
        self._change(run_id, lambda run: replace(run, cause=cause))

    def looked_later(self, run_id: int, kind: LaterKind, held: bool, note: str) -> None:
        """How it held when somebody looked again."""

        def looked(run: Run) -> Run:
            others = tuple(one for one in run.later if one.kind is not kind)
            return replace(run, later=(*others, LaterCheck(kind, held, note)))

        self._change(run_id, looked)

    def due(self, at: datetime) -> list[tuple[KeptRun, LaterKind]]:
        """The looks that are due and were not taken."""
        return [
            (one, check.kind)
            for one in self.all()
            for check in one.run.later
            if check.held is None and due_at(one.made_at, check.kind) <= at
        ]

    def causes_found(self) -> Mapping[str, int]:
        """How often each cause was found here, on real machines."""
        counts: dict[str, int] = {}
        for one in self.all():
            if one.run.cause is not None and not one.run.simulated:
                counts[one.run.cause] = counts.get(one.run.cause, 0) + 1
        return counts

    def _change(self, run_id: int, change: Any) -> None:
        with self._lock:
            before, at = self._kept, self._kept_at
            with self._sessions.begin() as session:
                row = session.get(RunRow, run_id)
                if row is None:
                    raise NotFound("this run is no longer in the ledger")
                row.value = _RUN.dump_python(change(_RUN.validate_python(row.value)), mode="json")
                session.flush()
                after = _kept(row)
            if before is not None and self._only_this_since(at):
                self._put(tuple(after if one.id == run_id else one for one in before), at + 1, None)


def check_date(at: datetime, today: datetime) -> None:
    """Refuse a date on which nothing of a workshop can have happened.

    Raises
    ------
    BadInput
        If it is long before there were such machines, or in the future.
    """
    if at.year < _FIRST_YEAR or at.year > today.year + 1 or at > today + _CLOCKS_DIFFER:
        raise BadInput(f"{at.year:04}-{at.month:02}-{at.day:02} is not a day on which this can have been", "date")


def due_at(made_at: datetime, kind: LaterKind) -> datetime:
    """When to look again."""
    try:
        return made_at + timedelta(days=DAYS_LATER[kind])
    except OverflowError:
        return made_at


def _kept(row: RunRow) -> KeptRun:
    return KeptRun(row.id, row.job_id, row.hand_off_id, _aware(row.made_at), _RUN.validate_python(row.value))


def _aware(time: datetime) -> datetime:
    return time if time.tzinfo else time.replace(tzinfo=UTC)
