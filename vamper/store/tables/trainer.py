"""The trainer: plays of lessons, each with the moves that were made."""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, DateTime, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from vamper.store.tables.base import TableBase, now


class PlayRow(TableBase):
    """One play of a lesson by a learner.

    `moves` are its moves in their order, each a code, or a change that the learner made in the job: the document as it
    was then, and the minutes that it took. `job_id` is the practice job. `passed` is None while it goes on.
    """

    __tablename__ = "play"

    id: Mapped[int] = mapped_column(primary_key=True)
    lesson: Mapped[str]
    learner: Mapped[str] = mapped_column(default="")
    seed: Mapped[int]
    job_id: Mapped[int] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    moves: Mapped[list[dict[str, Any]]] = mapped_column(JSON, default=list)
    sheets_used: Mapped[int] = mapped_column(default=0)
    seconds_used: Mapped[int] = mapped_column(default=0)
    passed: Mapped[bool | None] = mapped_column(default=None)
    started_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    ended_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)


class PuzzleRow(TableBase):
    """A spoilt sheet of free play that was solved, or given up: how hard it was, and how many checks it took beside
    the checks that the network itself would have done.
    """

    __tablename__ = "puzzle"

    id: Mapped[int] = mapped_column(primary_key=True)
    learner: Mapped[str] = mapped_column(default="")
    level: Mapped[str]
    seed: Mapped[int]
    right: Mapped[bool]
    checks: Mapped[int]
    best_checks: Mapped[int]
    ended_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
