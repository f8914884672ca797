"""What was tried on each stock with each cutter: ladders, readings of another day, and runs.

A ladder is kept from the moment it is made, its drops without outcomes, so that its forces stay what they were while
they are judged one by one.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from enum import StrEnum

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import ForceRange
from vamper.core.values.findings import BadInput
from vamper.core.values.named_settings import SettingSeen
from vamper.core.values.reading import Light, Remedy
from vamper.core.values.run_seen import MarksSeen, RunSeen
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Gf, Outcome, Passes, Pressure, Try
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import CutRecordRow, now


class RecordKind(StrEnum):
    """A ladder of drops, one reading without a ladder, or what a real run came to."""

    LADDER = "ladder"
    READING = "reading"
    RUN = "run"


@dataclass(frozen=True, slots=True)
class JudgedDrop:
    """One force, or one named setting, that was tried; nothing is known of it before it was looked at."""

    force_gf: Gf | None
    passes: Passes
    outcome: Outcome | None = None
    setting: str = ""
    pressure: Pressure | None = None


@dataclass(frozen=True, slots=True)
class CutRecord:
    """The drops of one ladder, reading or run.

    Parameters
    ----------
    kind, cut : RecordKind, Cut
        A ladder, one reading or a run, and how deep was cut.
    drops : tuple of JudgedDrop
        What came of it.
    blade, metres : Blade, float
        The blade, and how worn it was, metres times abrasion.
    marks, room_light, remedies : MarksSeen or None, Light or None, tuple of Remedy
        Of a run: whether its marks were read, in which light, and with which remedies.
    """

    kind: RecordKind
    cut: Cut
    drops: tuple[JudgedDrop, ...]
    blade: Blade = Blade.GENERAL
    metres: float = 0.0
    marks: MarksSeen | None = None
    room_light: Light | None = None
    remedies: tuple[Remedy, ...] = ()

    @property
    def tries(self) -> tuple[Try, ...]:
        return tuple(
            Try(drop.force_gf, drop.passes, drop.outcome, self.cut, self.blade, self.metres)
            for drop in self.drops
            if drop.outcome is not None and drop.force_gf is not None
        )

    def named(self, stock: Stock) -> list[tuple[str, SettingSeen]]:
        """The outcomes of named settings on a stock, by their names."""
        return [
            (
                drop.setting,
                SettingSeen(stock, self.cut, drop.outcome, drop.pressure, drop.passes, self.metres, self.blade),
            )
            for drop in self.drops
            if drop.outcome is not None and drop.setting
        ]

    def marks_of(self, stock: Stock) -> RunSeen | None:
        """Whether its marks were read, where that was said."""
        if self.marks is None:
            return None
        return RunSeen(marks=self.marks, stock=stock, room_light=self.room_light, remedies=self.remedies)

    @property
    def is_open(self) -> bool:
        return any(drop.outcome is None for drop in self.drops)


@dataclass(frozen=True, slots=True)
class KeptCutRecord:
    id: int
    made_at: datetime
    record: CutRecord


@dataclass(frozen=True, slots=True)
class TriedOn:
    """Everything that was seen of one stock on one cutter, the oldest first."""

    records: tuple[KeptCutRecord, ...]

    def _of(self, kinds: Sequence[RecordKind]) -> tuple[Try, ...]:
        return tuple(one for kept in self.records if kept.record.kind in kinds for one in kept.record.tries)

    @property
    def tries(self) -> tuple[Try, ...]:
        return self._of((RecordKind.LADDER, RecordKind.READING))

    @property
    def runs(self) -> tuple[Try, ...]:
        return self._of((RecordKind.RUN,))

    @property
    def ladders(self) -> tuple[KeptCutRecord, ...]:
        return tuple(kept for kept in self.records if kept.record.kind is RecordKind.LADDER)

    @property
    def open_ladder(self) -> KeptCutRecord | None:
        return next((kept for kept in reversed(self.ladders) if kept.record.is_open), None)


_RECORD = TypeAdapter(CutRecord)


class Tried:
    """The records of one workshop."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self._kept: Remembered[tuple[int, str], TriedOn] = sessions.remembered(CutRecordRow)
        self._by_cutter: Remembered[int, tuple[tuple[str, CutRecord], ...]] = sessions.remembered(CutRecordRow)

    def of(self, cutter_id: int, stock: str) -> TriedOn:
        return self._kept.get((cutter_id, stock), lambda: self._read(cutter_id, stock))

    def on_cutter(self, cutter_id: int) -> tuple[tuple[str, CutRecord], ...]:
        """Everything that was seen on one cutter, each with the key of its stock, the oldest first."""
        return self._by_cutter.get(cutter_id, lambda: self._read_cutter(cutter_id))

    def _read_cutter(self, cutter_id: int) -> tuple[tuple[str, CutRecord], ...]:
        with self._sessions() as session:
            rows = session.scalars(
                select(CutRecordRow).where(CutRecordRow.cutter_id == cutter_id).order_by(CutRecordRow.id)
            ).all()
            return tuple((row.stock_key, _RECORD.validate_python(row.value)) for row in rows)

    def _read(self, cutter_id: int, stock: str) -> TriedOn:
        with self._sessions() as session:
            rows = session.scalars(
                select(CutRecordRow)
                .where(CutRecordRow.cutter_id == cutter_id, CutRecordRow.stock_key == stock)
                .order_by(CutRecordRow.id)
            ).all()
            return TriedOn(
                tuple(
                    KeptCutRecord(
                        row.id,
                        row.made_at if row.made_at.tzinfo else row.made_at.replace(tzinfo=UTC),
                        _RECORD.validate_python(row.value),
                    )
                    for row in rows
                )
            )

    def keep(
        self, cutter_id: int, stock: Stock, force: ForceRange, record: CutRecord, made_at: datetime | None = None
    ) -> int:
        """Keep what was tried; jobs on that stock and cutter follow. Returns its number.

        Raises
        ------
        BadInput
            If a force is outside the machine's range, or an outcome is none that this cut can have.
        """
        for drop in record.drops:
            if drop.force_gf is not None and not force.min <= drop.force_gf <= force.max:
                raise BadInput(
                    f"{drop.force_gf:g} gf is outside this machine's range, {force.min:g} to {force.max:g} gf",
                    "force_gf",
                )
            check_outcome(stock, record.cut, drop.outcome)
        with self._sessions.begin() as session:
            row = CutRecordRow(
                cutter_id=cutter_id,
                stock_key=stock.key,
                made_at=made_at or now(),
                value=_RECORD.dump_python(record, mode="json"),
            )
            session.add(row)
            session.flush()
            return row.id

    def get(self, record_id: int) -> CutRecord:
        """One record."""
        with self._sessions() as session:
            return _RECORD.validate_python(_row(session, record_id).value)

    def judge(self, record_id: int, stock: Stock, drop: int, outcome: Outcome | None) -> None:
        """Say what one drop (from 0) looks like; None takes that back."""
        with self._sessions.begin() as session:
            row = _row(session, record_id)
            record = _RECORD.validate_python(row.value)
            if not 0 <= drop < len(record.drops):
                raise NotFound("there is no such drop in this ladder")
            check_outcome(stock, record.cut, outcome)
            drops = list(record.drops)
            drops[drop] = replace(drops[drop], outcome=outcome)
            row.value = _RECORD.dump_python(replace(record, drops=tuple(drops)), mode="json")

    def forget(self, record_id: int) -> None:
        """Take a record away, as if it had never been."""
        with self._sessions.begin() as session:
            session.delete(_row(session, record_id))


def _row(session: Session, record_id: int) -> CutRecordRow:
    row = session.get(CutRecordRow, record_id)
    if row is None:
        raise NotFound("there is no such record; it may have been removed")
    return row


def check_outcome(stock: Stock, cut: Cut, outcome: Outcome | None) -> None:
    """Raise `BadInput` if a cut of a stock cannot look like that."""
    on_backing = (Outcome.BACKING_MARKED, Outcome.BACKING_THROUGH)
    if outcome in on_backing and (cut is Cut.THROUGH or not stock.has_backing):
        raise BadInput("there is no backing to mark in this cut: say not through, clean or torn", "outcome")


def blade_then(blade: BladeIn | None, asked: Blade) -> tuple[Blade, float]:
    """The blade that a try is made with: the blade in the machine, or a new blade of the angle that is asked for."""
    return (asked, 0.0) if blade is None else (blade.angle, blade.metres)
