"""What belongs to the workshop rather than to one of its jobs: printers, cutters, stocks, what was measured on them,
styles of edges.

Each is kept whole, with a revision that rises with every change; it is not part of any job's history.
"""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey, false
from sqlalchemy.orm import Mapped, mapped_column

from vamper.store.tables.base import TableBase, now


class PrinterRow(TableBase):
    __tablename__ = "printer"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    revision: Mapped[int] = mapped_column(default=1)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class CutterRow(TableBase):
    __tablename__ = "cutter"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    revision: Mapped[int] = mapped_column(default=1)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class StockRow(TableBase):
    """A sheet material; the starters are put in when the file is made."""

    __tablename__ = "stock"

    key: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int]
    name: Mapped[str]
    revision: Mapped[int] = mapped_column(default=1)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)
    hidden: Mapped[bool] = mapped_column(default=False, server_default=false())


class _InMachine:
    """Something that is in a machine for a while: `cutter_id` names it, `confirmed_at` is when somebody last looked."""

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    revision: Mapped[int] = mapped_column(default=1)
    cutter_id: Mapped[int | None] = mapped_column(ForeignKey("cutter.id", ondelete="SET NULL"))
    confirmed_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class BladeRow(_InMachine, TableBase):
    __tablename__ = "blade"


class MatRow(_InMachine, TableBase):
    """A carrier mat."""

    __tablename__ = "mat"


class CutRecordRow(TableBase):
    """A try on a stock with a cutter: a ladder, a reading of another day, or a run."""

    __tablename__ = "cut_record"

    id: Mapped[int] = mapped_column(primary_key=True)
    cutter_id: Mapped[int] = mapped_column(ForeignKey("cutter.id", ondelete="CASCADE"))
    stock_key: Mapped[str] = mapped_column(ForeignKey("stock.key", ondelete="CASCADE"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class CalibrationRow(TableBase):
    """Where a cutter's cuts land beside a printer's print, on stock of one thickness; never changed afterwards."""

    __tablename__ = "calibration"

    id: Mapped[int] = mapped_column(primary_key=True)
    printer_id: Mapped[int] = mapped_column(ForeignKey("printer.id", ondelete="CASCADE"))
    cutter_id: Mapped[int] = mapped_column(ForeignKey("cutter.id", ondelete="CASCADE"))
    thickness: Mapped[str]
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class LoggedMissRow(TableBase):
    """How far off a piece was cut, measured by the maker."""

    __tablename__ = "logged_miss"

    id: Mapped[int] = mapped_column(primary_key=True)
    printer_id: Mapped[int] = mapped_column(ForeignKey("printer.id", ondelete="CASCADE"))
    cutter_id: Mapped[int] = mapped_column(ForeignKey("cutter.id", ondelete="CASCADE"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class MachineEventRow(TableBase):
    """Something that was changed on a cutter, so that calibrations from before are in doubt."""

    __tablename__ = "machine_event"

    id: Mapped[int] = mapped_column(primary_key=True)
    cutter_id: Mapped[int] = mapped_column(ForeignKey("cutter.id", ondelete="CASCADE"))
    happened_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    what: Mapped[str]


class PrintChoiceRow(TableBase):
    """The print choices remembered for a stock with a printer."""

    __tablename__ = "print_choice"

    printer_id: Mapped[int] = mapped_column(ForeignKey("printer.id", ondelete="CASCADE"), primary_key=True)
    stock_key: Mapped[str] = mapped_column(ForeignKey("stock.key", ondelete="CASCADE"), primary_key=True)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class PreferenceRow(TableBase):
    """Something that the maker decided once for the whole workshop."""

    __tablename__ = "preference"

    key: Mapped[str] = mapped_column(primary_key=True)
    value: Mapped[Any] = mapped_column(JSON)


class EdgeStyleRow(TableBase):
    """An edge that was saved under a name, to be given to other designs."""

    __tablename__ = "edge_style"

    name: Mapped[str] = mapped_column(primary_key=True)
    edge: Mapped[dict[str, Any]] = mapped_column(JSON)
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
