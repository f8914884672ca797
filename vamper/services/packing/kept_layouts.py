"""Layouts in the workshop's file: the best one found for each state of a job, written down as it is found."""

import logging
from collections.abc import Mapping

from sqlalchemy import delete, select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from vamper.core.sheet.layout import Layout
from vamper.formats.layout_document import layout_document, layout_of
from vamper.services.packing.older_keys import older_key_of
from vamper.services.packing.posed import Posed
from vamper.store.database import Sessions
from vamper.store.tables import LayoutRow, now
from vamper.store.trouble import StoreTrouble

_LOG = logging.getLogger(__name__)

KEPT_LAYOUTS = 30
# Since then pieces name their designs by number; before, by place.
_VERSION = 2


class KeptLayouts:
    """The layouts of one workshop's jobs."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def find(self, job_id: int, posed: Posed) -> tuple[Layout, str] | None:
        """The layout that was found for a problem, and how its search stood when it was written down."""
        with self._sessions() as session:
            row = session.get(LayoutRow, (job_id, posed.key)) or _older(session, job_id, posed)
        if row is None:
            return None
        numbers = [piece.item for piece in posed.problem.pieces] if row.version < _VERSION else None
        return layout_of(row.layout, numbers), row.state

    def write(self, job_id: int, key: str, layout: Layout, state: str) -> bool:
        """Write a layout down; whether that could be done."""
        values = {"version": _VERSION, "layout": layout_document(layout), "state": state, "found_at": now()}
        try:
            self._write(job_id, key, values)
        except StoreTrouble as trouble:
            _LOG.warning("a layout is not written down yet: %s", trouble)
            return False
        return True

    def _write(self, job_id: int, key: str, values: Mapping[str, object]) -> None:
        with self._sessions.begin() as session:
            statement = insert(LayoutRow).values(job_id=job_id, key=key, **values)
            session.execute(statement.on_conflict_do_update(index_elements=["job_id", "key"], set_=values))
            kept = (
                select(LayoutRow.key)
                .where(LayoutRow.job_id == job_id)
                .order_by(LayoutRow.found_at.desc())
                .limit(KEPT_LAYOUTS)
            )
            session.execute(delete(LayoutRow).where(LayoutRow.job_id == job_id, LayoutRow.key.not_in(kept)))


def _older(session: Session, job_id: int, posed: Posed) -> LayoutRow | None:
    """The layout that an older version found for the problem."""
    older = select(LayoutRow.key).where(LayoutRow.job_id == job_id, LayoutRow.version < _VERSION).limit(1)
    if session.scalar(older) is None:
        return None
    row = session.get(LayoutRow, (job_id, older_key_of(posed.problem)))
    return row if row is not None and row.version < _VERSION else None
