"""What was measured on the machines: calibrations by printer, cutter and thickness of stock, misses of runs, and what
was changed since.

The newest calibration of a class of thickness holds; older ones stay as its history. Misses count from the calibration
on that they were cut with. Whether a new one is due follows the maker's school.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time
from enum import StrEnum
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import delete, func, select

from vamper.core.marks.budget import drifted
from vamper.core.marks.calibrate import CalibrationFit, VernierReading
from vamper.core.marks.vernier import NarrowSide
from vamper.core.values.calibration import Calibration, Thickness, thickness_of
from vamper.core.values.findings import BadInput
from vamper.core.values.miss import STARTER_MISS_MM, LoggedMiss
from vamper.core.values.stock import Stock
from vamper.core.values.tables import table
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import CalibrationRow, LoggedMissRow, MachineEventRow, PreferenceRow, now

_SCHOOL = "calibration-school"
_MOST_NOTES = 200
_MOST_MISSES = 1000


class CalibrationSchool(StrEnum):
    """When to calibrate anew."""

    EVERY_JOB = "every-job"
    WHEN_OFF = "when-off"
    DRIFT = "drift"


class MachineChange(StrEnum):
    """The changes that put a calibration in doubt."""

    FIRMWARE = "cutter-firmware"
    DRIVER = "printer-driver"
    PROGRAM = "cutter-program"
    PAGE_SIZE = "page-size"
    HOLDER = "blade-holder"


MACHINE_CHANGE_WORDS = {one: table(__package__, "machines.toml")["changes"][one.value] for one in MachineChange}


@dataclass(frozen=True, slots=True)
class Record:
    """One calibration as it was made.

    Parameters
    ----------
    calibration : Calibration
        What files allow for from then on.
    offset_mm, turn_deg, stretch : pair of float, float, pair of float
        The fit in words, as in `CalibrationFit`.
    readings : tuple of VernierReading
        What was read off the sheet.
    check : NarrowSide
        How the check figure looked.
    versions, paper : str
        Versions of the cutter's program and machine, and the paper that it was cut on, where they were told.
    """

    calibration: Calibration
    offset_mm: tuple[float, float]
    turn_deg: float
    stretch: tuple[float, float]
    readings: tuple[VernierReading, ...]
    check: NarrowSide
    versions: str = ""
    paper: str = ""

    @classmethod
    def of(
        cls, fit: CalibrationFit, readings: Sequence[VernierReading], check: NarrowSide, versions: str, paper: str
    ) -> "Record":
        calibration = Calibration(fit.map, fit.left_mm)
        return cls(calibration, fit.offset_mm, fit.turn_deg, fit.stretch, tuple(readings), check, versions, paper)


@dataclass(frozen=True, slots=True)
class KeptRecord:
    id: int
    thickness: Thickness
    made_at: datetime
    record: Record


@dataclass(frozen=True, slots=True)
class KeptMiss:
    """A miss as it is kept: on stock of which thickness, None where that was not written down."""

    miss: LoggedMiss
    thickness: Thickness | None = None


@dataclass(frozen=True, slots=True)
class MeasuredFor:
    """The measurements that hold for a job."""

    calibration: Calibration | None
    misses: tuple[LoggedMiss, ...]


@dataclass(frozen=True, slots=True)
class _Kept:
    """Everything of a printer with a cutter, the newest first; misses and changes the oldest first."""

    records: tuple[KeptRecord, ...]
    misses: tuple[tuple[datetime, KeptMiss], ...]


_RECORD = TypeAdapter(Record)
_MISS, _BARE_MISS = TypeAdapter(KeptMiss), TypeAdapter(LoggedMiss)


class Measured:
    """The measurements of one workshop."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self._kept: Remembered[tuple[int, int], _Kept] = sessions.remembered(CalibrationRow, LoggedMissRow)

    def of(self, printer_id: int, cutter_id: int, stock: Stock) -> MeasuredFor:
        """The measurements that hold for a job on a stock."""
        kept = self._all(printer_id, cutter_id)
        newest = _newest(kept, thickness_of(stock.thickness_um))
        since = datetime.min.replace(tzinfo=UTC) if newest is None else newest.made_at
        mine = (None, thickness_of(stock.thickness_um))
        misses = tuple(one.miss for made_at, one in kept.misses if made_at >= since and one.thickness in mine)
        return MeasuredFor(None if newest is None else newest.record.calibration, misses)

    def history(self, printer_id: int, cutter_id: int) -> tuple[KeptRecord, ...]:
        """All calibrations of a printer with a cutter, the newest first."""
        return self._all(printer_id, cutter_id).records

    def keep(
        self, printer_id: int, cutter_id: int, stock: Stock, record: Record, made_at: datetime | None = None
    ) -> None:
        """Keep a calibration; jobs on these machines and stocks of that thickness follow."""
        if len(record.versions) > _MOST_NOTES:
            raise BadInput(f"say which versions were used in at most {_MOST_NOTES} letters", "versions")
        with self._sessions.begin() as session:
            session.add(
                CalibrationRow(
                    printer_id=printer_id,
                    cutter_id=cutter_id,
                    thickness=thickness_of(stock.thickness_um).value,
                    made_at=made_at or now(),
                    value=_RECORD.dump_python(record, mode="json"),
                )
            )

    def forget(self, calibration_id: int) -> None:
        """Take a calibration away; the one before it holds again."""
        with self._sessions.begin() as session:
            row = session.get(CalibrationRow, calibration_id)
            if row is None:
                raise NotFound("there is no such calibration; it may have been removed")
            session.delete(row)

    def log(
        self, printer_id: int, cutter_id: int, misses: Sequence[LoggedMiss], thickness: Thickness | None = None
    ) -> tuple[int, ...]:
        """Keep what pieces of one run were off by, on stock of a thickness; returns their numbers."""
        with self._sessions.begin() as session:
            run = 1 + (session.scalar(select(func.max(LoggedMissRow.id))) or 0)
            rows = [
                LoggedMissRow(
                    printer_id=printer_id,
                    cutter_id=cutter_id,
                    value=_MISS.dump_python(KeptMiss(replace(miss, run=run), thickness), mode="json"),
                )
                for miss in misses
            ]
            session.add_all(rows)
            session.flush()
            return tuple(row.id for row in rows)

    def take_back(self, numbers: Sequence[int]) -> None:
        """These misses were none, after all."""
        with self._sessions.begin() as session:
            session.execute(delete(LoggedMissRow).where(LoggedMissRow.id.in_(numbers)))

    def forget_misses(self, printer_id: int, cutter_id: int) -> None:
        """Begin anew with what runs were off by."""
        with self._sessions.begin() as session:
            mine = (LoggedMissRow.printer_id == printer_id) & (LoggedMissRow.cutter_id == cutter_id)
            session.execute(delete(LoggedMissRow).where(mine))

    def changed(self, cutter_id: int, what: MachineChange) -> None:
        """Something was changed on a cutter."""
        with self._sessions.begin() as session:
            session.add(MachineEventRow(cutter_id=cutter_id, what=what.value))

    def school(self) -> CalibrationSchool:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _SCHOOL)
            return CalibrationSchool.DRIFT if row is None else CalibrationSchool(row.value)

    def follow(self, school: CalibrationSchool) -> None:
        """Calibrate by another school from now on."""
        with self._sessions.begin() as session:
            session.merge(PreferenceRow(key=_SCHOOL, value=school.value))

    def due(self, printer_id: int, cutter_id: int, stock: Stock) -> str:
        """Why a calibration is due for a job, in a sentence; empty where none is."""
        kept = self._all(printer_id, cutter_id)
        newest = _newest(kept, thickness_of(stock.thickness_um))
        if newest is None:
            return f"Never calibrated on {thickness_of(stock.thickness_um)} stock: the usual miss is assumed."
        return self._due_since(newest.made_at, printer_id, cutter_id, stock)

    def program_due(self, printer_id: int, cutter_id: int, stock: Stock, made_on: date | None) -> str:
        """The same of a calibration that was made in the machine's own program, on a day."""
        if made_on is None:
            return "Never calibrated, as far as is told: do it in the machine’s program before you start."
        # What happened on the day itself was before it, as far as anybody knows.
        end = datetime.combine(made_on, time.max, UTC)
        return self._due_since(end, printer_id, cutter_id, stock)

    def _due_since(self, made_at: datetime, printer_id: int, cutter_id: int, stock: Stock) -> str:
        event = self._last_change(cutter_id)
        if event is not None and event[0] > made_at:
            return (
                f"Due: {MACHINE_CHANGE_WORDS[event[1]]} was changed on {event[0]:%d %B %Y}, after the last calibration."
            )
        misses = self.of(printer_id, cutter_id, stock).misses
        school = self.school()
        if school is CalibrationSchool.EVERY_JOB and made_at.date() < now().date():
            return "Due: you calibrate before every job, and the last one was not today."
        seen = [one for one in misses if one.within_mm is None]
        off = bool(seen) and (seen[-1].dx_mm ** 2 + seen[-1].dy_mm ** 2) ** 0.5 > STARTER_MISS_MM
        if school is CalibrationSchool.WHEN_OFF and off:
            return "Due: the last piece that was measured was off by more than usual."
        if drifted(misses):
            return "Due: the last five pieces that were measured drift to one side."
        return ""

    def _last_change(self, cutter_id: int) -> tuple[datetime, MachineChange] | None:
        with self._sessions() as session:
            rows = select(MachineEventRow).where(MachineEventRow.cutter_id == cutter_id)
            row = session.scalars(rows.order_by(MachineEventRow.id.desc()).limit(1)).first()
            return None if row is None else (_aware(row.happened_at), MachineChange(row.what))

    def _all(self, printer_id: int, cutter_id: int) -> _Kept:
        return self._kept.get((printer_id, cutter_id), lambda: self._read(printer_id, cutter_id))

    def _read(self, printer_id: int, cutter_id: int) -> _Kept:
        with self._sessions() as session:
            records = session.scalars(
                select(CalibrationRow)
                .where(CalibrationRow.printer_id == printer_id, CalibrationRow.cutter_id == cutter_id)
                .order_by(CalibrationRow.made_at.desc(), CalibrationRow.id.desc())
            ).all()
            misses = session.scalars(
                select(LoggedMissRow)
                .where(LoggedMissRow.printer_id == printer_id, LoggedMissRow.cutter_id == cutter_id)
                .order_by(LoggedMissRow.id)
            ).all()
            return _Kept(
                tuple(
                    KeptRecord(
                        row.id, Thickness(row.thickness), _aware(row.made_at), _RECORD.validate_python(row.value)
                    )
                    for row in records
                ),
                tuple((_aware(row.made_at), _kept_miss(row.value)) for row in misses[-_MOST_MISSES:]),
            )


def _kept_miss(value: dict[str, Any]) -> KeptMiss:
    """The miss of a kept row, also of a row from before a miss knew its stock's thickness."""
    return _MISS.validate_python(value) if "miss" in value else KeptMiss(_BARE_MISS.validate_python(value))


def _newest(kept: _Kept, thickness: Thickness) -> KeptRecord | None:
    return next((one for one in kept.records if one.thickness is thickness), None)


def _aware(at: datetime) -> datetime:
    """The file keeps no zone; everything in it is UTC."""
    return at if at.tzinfo else at.replace(tzinfo=UTC)
