"""Layouts side by side: the one on the table, those kept under a name, and how the other modes would pack the job.

A named layout is the pieces as they lay; keeping it puts them back, as pieces that are kept until everything is packed
again. Its figures are taken anew from the job's present edges, so that a layout from before a change of size says how
many of its pieces no longer keep their distance.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum

from pydantic import TypeAdapter
from sqlalchemy import select

from vamper.core.plan import Plan, cut_of
from vamper.core.sheet.inspect import breach_findings
from vamper.core.sheet.laid import lay
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.pack import pack
from vamper.core.values.findings import BadInput
from vamper.core.values.item import ItemSpec
from vamper.core.values.packing import TIDY
from vamper.core.values.placement import Pin, Placement, Sheet, without_gaps
from vamper.services.design.job_design import Design
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.packing.planning import TimedWatch
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import NamedLayoutRow, now

MOST_NAMED = 20
_SHEETS = TypeAdapter(tuple[Sheet, ...])


class Origin(StrEnum):
    """Where a layout to compare comes from."""

    TABLE = "table"
    NAMED = "named"
    ROWS = "rows"


@dataclass(frozen=True, slots=True)
class Compared:
    """One layout with its figures.

    Parameters
    ----------
    name, origin : str, Origin
        What it is called, and where it comes from.
    layout, plan : Layout, Plan
        The layout, and the plan that it makes.
    pieces : int
        How many lie on it.
    used : float
        The share of its sheets that they cover.
    cut_length_mm : float
        How far the blade travels.
    broken : int
        How many rules it would break by now.
    saved_at : datetime or None
        When it was kept under its name.
    """

    name: str
    origin: Origin
    layout: Layout
    plan: Plan
    pieces: int
    used: float
    cut_length_mm: float
    broken: int
    saved_at: datetime | None = None


class Layouts:
    """Named layouts of one workshop's jobs."""

    def __init__(self, sessions: Sessions, jobs: Jobs) -> None:
        self._sessions = sessions
        self._jobs = jobs

    def save(self, job_id: int, name: str, plan: Plan) -> None:
        """Keep the present layout under a name; the same name again replaces it."""
        if not plan.layout.sheets:
            raise BadInput("nothing is placed yet; there is no layout to keep", "layout")
        sheets = _SHEETS.dump_python(kept_as_they_lie(plan.layout.sheets), mode="json")
        with self._sessions.begin() as session:
            count = len(session.scalars(select(NamedLayoutRow.name).where(NamedLayoutRow.job_id == job_id)).all())
            row = session.get(NamedLayoutRow, (job_id, name))
            if row is None and count >= MOST_NAMED:
                raise BadInput(f"{MOST_NAMED} layouts are kept already; remove one first", "name")
            row = row or NamedLayoutRow(job_id=job_id, name=name)
            row.sheets, row.saved_at = sheets, now()
            session.add(row)

    def remove(self, job_id: int, name: str) -> None:
        with self._sessions.begin() as session:
            row = session.get(NamedLayoutRow, (job_id, name))
            if row is None:
                raise NotFound("there is no layout with that name")
            session.delete(row)

    def keep(self, job_id: int, name: str) -> JobState:
        """Put a named layout back on the table; numbers of pieces follow it."""
        held = self._named(job_id).get(name)
        if held is None:
            raise NotFound("there is no layout with that name")

        def edit(document: JobDocument) -> JobDocument:
            there = {item.number for item in document.items}
            if gone := len({one.item for sheet in held[0] for one in sheet} - there):
                what = "a design that is" if gone == 1 else f"{gone} designs that are"
                raise BadInput(f"this layout has {what} no longer in the job; undo that, or remove the layout", "name")
            return _with_pieces(document, held[0])

        return self._jobs.edit(job_id, f"layout {name}", edit)

    def keep_rows(self, job_id: int) -> JobState:
        """Straight rows from now on."""

        def edit(document: JobDocument) -> JobDocument:
            return replace(document, held=(), packing=replace(document.packing, mode=TIDY))

        return self._jobs.edit(job_id, "straight rows", edit)

    def all(self, job_id: int, design: Design, plan: Plan) -> list[Compared]:
        """The layout on the table, the named ones, and straight rows."""
        found = [_figures("on the table", Origin.TABLE, plan, plan.layout)]
        for name, (held, saved_at) in sorted(self._named(job_id).items()):
            layout = _layout(held, plan)
            found.append(replace(_figures(name, Origin.NAMED, plan, layout), saved_at=saved_at))
        if design.asked.packing.mode != TIDY:
            problem = design.problem()
            spec = replace(problem.spec, mode=TIDY)
            rows = pack(replace(problem, spec=spec, held=()), _Never(), TimedWatch(5.0))
            found.append(_figures("straight rows", Origin.ROWS, plan, rows))
        return found

    def _named(self, job_id: int) -> dict[str, tuple[tuple[Sheet, ...], datetime]]:
        with self._sessions() as session:
            rows = session.scalars(select(NamedLayoutRow).where(NamedLayoutRow.job_id == job_id)).all()
            return {row.name: (_SHEETS.validate_python(row.sheets), row.saved_at) for row in rows}


class _Never:
    """Straight rows ask no engine."""

    cores = 1

    def race(self, *_: object) -> None:
        raise AssertionError("straight rows need no search")


def kept_as_they_lie(sheets: Sequence[Sequence[Placement]]) -> tuple[Sheet, ...]:
    """Pieces to be held where they lie: free pieces are kept until everything is packed again."""
    return tuple(tuple(replace(one, pin=Pin.KEPT) if one.pin is Pin.FREE else one for one in sheet) for sheet in sheets)


def _layout(held: Sequence[Sheet], plan: Plan) -> Layout:
    """The held pieces as a layout; designs that are gone by now are left out."""
    there = tuple(tuple(one for one in sheet if one.item in plan.by_number) for sheet in held)
    return Layout(without_gaps(there), (), time_limited=False)


def _with_pieces(document: JobDocument, held: tuple[Sheet, ...]) -> JobDocument:
    counts = Counter(one.item for sheet in held for one in sheet)

    def item(one: ItemSpec) -> ItemSpec:
        return replace(one, quantity=counts[one.number]) if counts[one.number] > one.quantity else one

    return replace(document.each_item(item), held=held)


def _figures(name: str, origin: Origin, plan: Plan, layout: Layout) -> Compared:
    pieces = {item.number: item.piece(plan.job.stock.printable) for item in plan.items}
    trial = plan
    if layout is not plan.layout:
        edges = {number: piece.edge for number, piece in pieces.items()}
        trial = replace(plan, layout=layout, sheets=lay(layout, edges, plan.setup.live_of))
    live = sum(sheet.live.area_mm2 for sheet in trial.sheets)
    covered = sum(sheet.used_share * sheet.live.area_mm2 for sheet in trial.sheets)
    return Compared(
        name=name,
        origin=origin,
        layout=layout,
        plan=trial,
        pieces=layout.pieces,
        used=covered / live if live else 0.0,
        cut_length_mm=sum(cut_of(trial, sheet.number).length_mm for sheet in trial.sheets),
        broken=len(breach_findings(trial.sheets, pieces, plan.job.packing.gap_mm)),
    )
