"""Layouts in the workshop's file: the best one found for each state of a job, written down as it is found."""

import logging
from collections.abc import Mapping

from sqlalchemy import delete, select
from sqlalchemy.dialects.sqlite import insert

from vamper.core.sheet.layout import Layout
from vamper.formats.layout_document import layout_document, layout_of
from vamper.services.packing.keyed_problem import KeyedProblem
from vamper.store.database import Sessions
from vamper.store.tables import LayoutRow, now
from vamper.store.trouble import StoreTrouble

_LOG = logging.getLogger(__name__)

KEPT_LAYOUTS = 30


class KeptLayouts:
    """The layouts of one workshop's jobs."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def find(self, job_id: int, keyed: KeyedProblem) -> tuple[Layout, str] | None:
        """The layout that was found for a problem, and how its search stood when it was written down."""
        with self._sessions() as session:
            row = session.get(LayoutRow, (job_id, keyed.key))
        if row is None:
            return None
        return layout_of(row.layout), row.state

    def write(self, job_id: int, key: str, layout: Layout, state: str) -> bool:
        """Write a layout down; whether that could be done."""
        values = {"layout": layout_document(layout), "state": state, "found_at": now()}
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
