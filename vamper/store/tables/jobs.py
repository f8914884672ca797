"""Jobs: each as one document with its history, the layouts found for it, and what was handed over."""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey, LargeBinary
from sqlalchemy.orm import Mapped, mapped_column

from vamper.store.tables.base import TableBase, now


class JobRow(TableBase):
    """A job as it stands: `document`; `step` is where in its history it stands.

    The other columns say the same once more: `title` to `arts`, `customer` and the `names` of its designs for the list
    of jobs, the keys of what it is made with so that nothing is removed that a job needs.
    """

    __tablename__ = "job"

    id: Mapped[int] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    title: Mapped[str]
    pieces: Mapped[int]
    designs: Mapped[int]
    arts: Mapped[list[str]] = mapped_column(JSON)
    stock_key: Mapped[str] = mapped_column(ForeignKey("stock.key"))
    printer_id: Mapped[int] = mapped_column(ForeignKey("printer.id"))
    cutter_id: Mapped[int] = mapped_column(ForeignKey("cutter.id"))
    step: Mapped[int] = mapped_column(default=0)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    changed_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    handed_off_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)
    removed_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)
    customer: Mapped[str] = mapped_column(default="")
    names: Mapped[list[str]] = mapped_column(JSON, default=list)
    is_template: Mapped[bool] = mapped_column(default=False)
    archived_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)


class StepRow(TableBase):
    """One step of a job's history: what was done, and how its document differs before (`back`) and after (`forth`).
    Step 0 is the job as it was made.
    """

    __tablename__ = "step"

    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    label: Mapped[str]
    subject: Mapped[str]
    back: Mapped[Any] = mapped_column(JSON)
    forth: Mapped[Any] = mapped_column(JSON)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class LayoutRow(TableBase):
    """The best layout found for one state of a job; `key` digests everything it was packed from.

    `state` is its search's state; a search that says it is searching though nobody is was cut short by the server's
    end.
    """

    __tablename__ = "layout"

    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    layout: Mapped[dict[str, Any]] = mapped_column(JSON)
    state: Mapped[str]
    found_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class NamedLayoutRow(TableBase):
    """A layout of a job that was kept under a name: its sheets with their pieces as they were held."""

    __tablename__ = "named_layout"

    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), primary_key=True)
    name: Mapped[str] = mapped_column(primary_key=True)
    sheets: Mapped[list[list[dict[str, Any]]]] = mapped_column(JSON)
    saved_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class HandOffRow(TableBase):
    """A hand-off, never changed afterwards: the job by value, with its layout, as it was planned then.

    `job` is a job file's data, `plan` that of `plan.json`, packed. `document` is the job as it was kept, and
    `layout` its layout to the last digit.
    """

    __tablename__ = "hand_off"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), index=True)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    job: Mapped[dict[str, Any]] = mapped_column(JSON)
    plan: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    layout: Mapped[dict[str, Any]] = mapped_column(JSON)
