"""A job's history: what was done, and how its document differed before and after each step.

Undo and redo are a move along the steps. Changes of the same fields in quick succession, as from a slider, become one
step. A history that was written in an older version is brought up whole before it is added to.
"""

from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from vamper.services.jobs.document import JobDocument, read_document, written
from vamper.services.jobs.upgrades import VERSION, upgraded
from vamper.store.differences import applied, difference
from vamper.store.tables import JobRow, StepRow, now

ONE_STEP = timedelta(seconds=2)
# Goes up only: an undo does not give numbers free.
_LASTING = "last_number"


def document_of(row: JobRow) -> JobDocument:
    """A job's document as it stands."""
    return read_document(upgraded(row.document, row.version))


def begin(session: Session, row: JobRow) -> None:
    """The first step of a job that was just made."""
    session.add(StepRow(job_id=row.id, number=0, label="new job", subject="", back=None, forth=None))


def add_step(session: Session, row: JobRow, label: str, subject: str, before: JobDocument, after: JobDocument) -> None:
    """One step more, in the place of any that were undone; `row` still holds what it was before."""
    bring_up(session, row)
    session.execute(delete(StepRow).where(StepRow.job_id == row.id, StepRow.number > row.step))
    last = session.get_one(StepRow, (row.id, row.step))
    was, now_is = _lapsing(written(before)), _lapsing(written(after))
    if row.step and subject and last.subject == subject and now() - aware(last.made_at) < ONE_STEP:
        first = applied(was, last.back)
        last.back, last.forth, last.made_at = difference(now_is, first), difference(first, now_is), now()
        return
    row.step += 1
    back, forth = difference(now_is, was), difference(was, now_is)
    session.add(StepRow(job_id=row.id, number=row.step, label=label, subject=subject, back=back, forth=forth))


def moved(session: Session, row: JobRow, by: int) -> JobDocument | None:
    """The document one step back (-1) or forth (1); None where there is no such step."""
    bring_up(session, row)
    step = session.get(StepRow, (row.id, row.step + max(by, 0)))
    if step is None or row.step + by < 0:
        return None
    row.step += by
    document = document_of(row)
    data = applied(_lapsing(written(document)), step.back if by < 0 else step.forth)
    return read_document({**data, _LASTING: document.last_number})


def bring_up(session: Session, row: JobRow) -> None:
    """A history of an older version in the shape of the newest: every document of it upgraded, and told apart anew."""
    if row.version == VERSION:
        return
    steps = list(session.scalars(select(StepRow).where(StepRow.job_id == row.id).order_by(StepRow.number)))
    lasting = row.document.get(_LASTING, 0)
    here = next(place for place, step in enumerate(steps) if step.number == row.step)
    whole: dict[int, Any] = {here: _lapsing(row.document)}
    for place in range(here, 0, -1):
        whole[place - 1] = applied(whole[place], steps[place].back)
    for place in range(here + 1, len(steps)):
        whole[place] = applied(whole[place - 1], steps[place].forth)
    newest = [
        _lapsing(written(read_document(upgraded({**whole[place], _LASTING: lasting}, row.version))))
        for place in range(len(steps))
    ]
    for place in range(1, len(steps)):
        steps[place].back = difference(newest[place], newest[place - 1])
        steps[place].forth = difference(newest[place - 1], newest[place])
    row.document, row.version = {**newest[here], _LASTING: lasting}, VERSION
    session.flush()


def labels(session: Session, row: JobRow) -> tuple[str | None, str | None]:
    """What undo and redo would do."""
    steps = select(StepRow.number, StepRow.label).where(
        StepRow.job_id == row.id, StepRow.number.in_([row.step, row.step + 1])
    )
    found = {step.number: step.label for step in session.execute(steps)}
    return found.get(row.step) if row.step > 0 else None, found.get(row.step + 1)


def aware(moment: datetime) -> datetime:
    """SQLite gives moments back without their zone; all of ours are UTC."""
    return moment if moment.tzinfo else moment.replace(tzinfo=now().tzinfo)


def _lapsing(data: dict[str, Any]) -> dict[str, Any]:
    """What an undo may bring back."""
    return {name: value for name, value in data.items() if name != _LASTING}
