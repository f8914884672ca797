"""The ledger: runs, and what is kept on the shelf."""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from vamper.store.tables.base import TableBase, now


class RunRow(TableBase):
    """A run that was logged: `value` is all of it. It outlives its job, and points at the plan it was made by; `trace`
    is what it left elsewhere, None where that was not written down.
    """

    __tablename__ = "run"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int | None] = mapped_column(ForeignKey("job.id", ondelete="SET NULL"), index=True)
    hand_off_id: Mapped[int | None] = mapped_column(ForeignKey("hand_off.id", ondelete="SET NULL"))
    sheet: Mapped[int]
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)
    trace: Mapped[dict[str, Any] | None] = mapped_column(JSON)


class SupplyRow(TableBase):
    """Something that is used up: `value` is what was bought, and when."""

    __tablename__ = "supply"

    id: Mapped[int] = mapped_column(primary_key=True)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)


class OffcutRow(TableBase):
    """The rest of a sheet, kept in `value`. Once it was used it is kept for the record, and not offered."""

    __tablename__ = "offcut"

    id: Mapped[int] = mapped_column(primary_key=True)
    stock_key: Mapped[str] = mapped_column(ForeignKey("stock.key", ondelete="CASCADE"), index=True)
    kept_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    used_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)
    value: Mapped[dict[str, Any]] = mapped_column(JSON)
