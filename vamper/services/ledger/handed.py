"""What was handed over: a record that nothing changes afterwards, from which its plan is worked out anew.

Sheets are asked about, looked at and made once more as they were handed over, whatever became of the job since.
"""

import json
import zlib
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy import select

from vamper.core.plan import Plan
from vamper.core.values.findings import Finding
from vamper.formats.job_file import job_document, read_job
from vamper.formats.layout_document import layout_document, layout_of
from vamper.formats.plan_writing import plan_document
from vamper.services.design.arts import Arts
from vamper.services.design.designer import Designer
from vamper.services.design.job_design import design_job
from vamper.services.jobs.document import JobDocument, document_json, read_document
from vamper.services.jobs.history import aware
from vamper.services.work.cache import Cache
from vamper.store.database import Sessions
from vamper.store.tables import HandOffRow

# Those that were looked at last; nothing changes them.
_KEPT = 12


@dataclass(frozen=True)
class HandedOff:
    """A job as it was handed over: its document, and its plan; without a number it is the job as it stands."""

    number: int | None
    job_id: int
    made_at: datetime | None
    document: JobDocument
    plan: Plan


class HandedOffs:
    """The hand-offs of one workshop."""

    def __init__(self, sessions: Sessions, arts: Arts, designer: Designer) -> None:
        self._sessions = sessions
        self._arts = arts
        self._designer = designer
        self._handed: Cache[HandedOff | None] = Cache(_KEPT)

    def record(self, job_id: int, document: JobDocument, plan: Plan, findings: Sequence[Finding]) -> None:
        """Keep what was handed over: the job as it is kept and by value, with its stock and machines, and its plan."""
        packed = zlib.compress(plan_document(plan, findings).write(), 6)
        with self._sessions.begin() as session:
            session.add(
                HandOffRow(
                    job_id=job_id,
                    job=job_document(plan.asked),
                    plan=packed,
                    document=document_json(document),
                    layout=layout_document(plan.layout),
                )
            )

    def newest(self, job_id: int) -> tuple[int, datetime] | None:
        """The number of a job's newest hand-off, and when it was made."""
        with self._sessions() as session:
            newest = select(HandOffRow.id, HandOffRow.made_at).where(HandOffRow.job_id == job_id)
            row = session.execute(newest.order_by(HandOffRow.id.desc()).limit(1)).first()
        return None if row is None else (row.id, aware(row.made_at))

    def get(self, number: int) -> HandedOff | None:
        """A hand-off as it was then; None where it is gone."""
        return self._handed.get(number, lambda: self._read(number))

    def _read(self, number: int) -> HandedOff | None:
        with self._sessions() as session:
            row = session.get(HandOffRow, number)
        if row is None:
            return None
        document = read_document(row.document)
        # A job file numbers its designs by place; the layout knows them by the numbers of the document.
        job = replace(read_job(json.dumps(row.job)), items=document.items, held=document.held)
        design = design_job(job, [self._arts.file(item.art) for item in job.items], self._designer)
        return HandedOff(number, row.job_id, aware(row.made_at), document, design.planned(layout_of(row.layout)))
