"""A job's history: what was done, and how its document differed before and after each step.

Undo and redo are a move along the steps. Changes of the same fields in quick succession, as from a slider, become one
step.
"""

from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from vamper.services.jobs.document import JobDocument, document_json, read_document
from vamper.store.differences import applied, difference
from vamper.store.tables import JobRow, StepRow, now

ONE_STEP = timedelta(seconds=2)
# Goes up only: an undo does not give numbers free.
_LASTING = "last_number"


def document_of(row: JobRow) -> JobDocument:
    """A job's document as it stands."""
    return read_document(row.document)


def begin(session: Session, row: JobRow) -> None:
    """The first step of a job that was just made."""
    session.add(StepRow(job_id=row.id, number=0, label="new job", subject="", back=None, forth=None))


def add_step(session: Session, row: JobRow, label: str, subject: str, before: JobDocument, after: JobDocument) -> None:
    """One step more, in the place of any that were undone; `row` still holds what it was before."""
    session.execute(delete(StepRow).where(StepRow.job_id == row.id, StepRow.number > row.step))
    last = session.get_one(StepRow, (row.id, row.step))
    was, now_is = _lapsing(document_json(before)), _lapsing(document_json(after))
    if row.step and subject and last.subject == subject and now() - aware(last.made_at) < ONE_STEP:
        first = applied(was, last.back)
        last.back, last.forth, last.made_at = difference(now_is, first), difference(first, now_is), now()
        return
    row.step += 1
    back, forth = difference(now_is, was), difference(was, now_is)
    session.add(StepRow(job_id=row.id, number=row.step, label=label, subject=subject, back=back, forth=forth))


def moved(session: Session, row: JobRow, by: int) -> JobDocument | None:
    """The document one step back (-1) or forth (1); None where there is no such step."""
    step = session.get(StepRow, (row.id, row.step + max(by, 0)))
    if step is None or row.step + by < 0:
        return None
    row.step += by
    document = document_of(row)
    data = applied(_lapsing(document_json(document)), step.back if by < 0 else step.forth)
    return read_document({**data, _LASTING: document.last_number})


def labels(session: Session, row: JobRow) -> tuple[str | None, str | None]:
    """The labels of the steps that undo and redo would take."""
    steps = select(StepRow.number, StepRow.label).where(
        StepRow.job_id == row.id, StepRow.number.in_([row.step, row.step + 1])
    )
    found = {step.number: step.label for step in session.execute(steps)}
    return found.get(row.step) if row.step > 0 else None, found.get(row.step + 1)


def aware(moment: datetime) -> datetime:
    """SQLite gives moments back without their zone; all of ours are UTC."""
    return moment if moment.tzinfo else moment.replace(tzinfo=now().tzinfo)


def _lapsing(data: dict[str, Any]) -> dict[str, Any]:
    """The fields of a job's document that an undo may bring back."""
    return {name: value for name, value in data.items() if name != _LASTING}
