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

from sqlalchemy import select

from vamper.core.findings import BadInput
from vamper.core.job import PackingMode, Pin
from vamper.core.plan import Plan, cut_of, pack_problem
from vamper.core.sheet.layout import Layout, Placement, breaches
from vamper.core.sheet.packing import pack
from vamper.services.document import HeldDocument, JobDocument
from vamper.services.jobs import Jobs, JobState, NotFound
from vamper.services.planning import Design, TimedWatch
from vamper.store.database import Sessions
from vamper.store.models import NamedLayoutRow, now

MOST_NAMED = 20


class Origin(StrEnum):
    """Where a layout to compare comes from."""

    TABLE = "on the table"
    NAMED = "named"
    ROWS = "straight rows"


@dataclass(frozen=True, slots=True)
class Compared:
    """One layout with its figures; `broken` counts rules that it would break by now."""

    name: str
    origin: Origin
    layout: Layout
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

    def save(self, job_id: int, name: str, plan: Plan, document: JobDocument) -> None:
        """Keep the present layout under a name; the same name again replaces it."""
        if not plan.layout.sheets:
            raise BadInput("nothing is placed yet; there is no layout to keep", "layout")
        numbers = [item.number for item in document.items]
        held = [one.model_dump(mode="json") for one in _held(plan.layout, numbers)]
        with self._sessions.begin() as session:
            count = len(session.scalars(select(NamedLayoutRow.name).where(NamedLayoutRow.job_id == job_id)).all())
            row = session.get(NamedLayoutRow, (job_id, name))
            if row is None and count >= MOST_NAMED:
                raise BadInput(f"{MOST_NAMED} layouts are kept already; remove one first", "name")
            row = row or NamedLayoutRow(job_id=job_id, name=name)
            row.held, row.saved_at = held, now()
            session.add(row)

    def remove(self, job_id: int, name: str) -> None:
        with self._sessions.begin() as session:
            row = session.get(NamedLayoutRow, (job_id, name))
            if row is None:
                raise NotFound("there is no layout of that name")
            session.delete(row)

    def keep(self, job_id: int, name: str) -> JobState:
        """Put a named layout back on the table; numbers of pieces follow it."""
        held = self._named(job_id).get(name)
        if held is None:
            raise NotFound("there is no layout of that name")

        def edit(document: JobDocument) -> JobDocument:
            there = {item.number for item in document.items}
            if gone := len({one.number for one in held[0]} - there):
                what = "a design that is" if gone == 1 else f"{gone} designs that are"
                raise BadInput(f"this layout has {what} no longer in the job; undo that, or remove the layout", "name")
            return _with_pieces(document, held[0])

        return self._jobs.edit(job_id, f"layout {name}", edit)

    def keep_rows(self, job_id: int) -> JobState:
        """Straight rows from now on."""

        def edit(document: JobDocument) -> JobDocument:
            packing = document.packing.model_copy(update={"mode": PackingMode.TIDY})
            return document.holding(()).model_copy(update={"packing": packing})

        return self._jobs.edit(job_id, "straight rows", edit)

    def all(self, job_id: int, design: Design, plan: Plan, document: JobDocument) -> list[Compared]:
        """The layout on the table, the named ones, and straight rows."""
        numbers = {item.number: place for place, item in enumerate(document.items)}
        found = [_figures("on the table", Origin.TABLE, plan, plan.layout)]
        for name, (held, saved_at) in sorted(self._named(job_id).items()):
            layout = _layout(held, numbers)
            found.append(replace(_figures(name, Origin.NAMED, plan, layout), saved_at=saved_at))
        if document.packing.mode is not PackingMode.TIDY:
            problem = pack_problem(design.job, design.setup, design.items)
            spec = replace(problem.spec, mode=PackingMode.TIDY)
            rows = pack(replace(problem, spec=spec, held=()), _Never(), TimedWatch(5.0))
            found.append(_figures("straight rows", Origin.ROWS, plan, rows))
        return found

    def _named(self, job_id: int) -> dict[str, tuple[tuple[HeldDocument, ...], datetime]]:
        with self._sessions() as session:
            rows = session.scalars(select(NamedLayoutRow).where(NamedLayoutRow.job_id == job_id)).all()
            return {
                row.name: (tuple(HeldDocument.model_validate(one) for one in row.held), row.saved_at) for row in rows
            }


class _Never:
    """Straight rows ask no engine."""

    def nest(self, *_: object) -> None:
        raise AssertionError("straight rows ask no engine")


def _held(layout: Layout, numbers: Sequence[int]) -> list[HeldDocument]:
    return [
        HeldDocument(
            number=numbers[one.item],
            sheet=sheet,
            x_mm=one.x_mm,
            y_mm=one.y_mm,
            turn_deg=one.turn_deg,
            pin=Pin.KEPT if one.pin is Pin.FREE else one.pin,
        )
        for sheet, pieces in enumerate(layout.sheets)
        for one in pieces
    ]


def _layout(held: Sequence[HeldDocument], numbers: dict[int, int]) -> Layout:
    """The held pieces as a layout; designs that are gone by now are left out."""
    sheets: dict[int, list[Placement]] = {}
    for one in held:
        if one.number in numbers:
            placement = Placement(numbers[one.number], one.x_mm, one.y_mm, one.turn_deg, one.pin)
            sheets.setdefault(one.sheet, []).append(placement)
    return Layout(tuple(tuple(sheets[number]) for number in sorted(sheets)), (), time_limited=False)


def _with_pieces(document: JobDocument, held: tuple[HeldDocument, ...]) -> JobDocument:
    counts = Counter(one.number for one in held)
    items = tuple(
        item.model_copy(update={"quantity": counts[item.number]}) if counts[item.number] > item.quantity else item
        for item in document.items
    )
    return document.model_copy(update={"items": items, "held": held})


def _figures(name: str, origin: Origin, plan: Plan, layout: Layout) -> Compared:
    trial = replace(plan, layout=layout) if layout is not plan.layout else plan
    problem = pack_problem(plan.job, plan.setup, plan.items)
    gap = plan.job.packing.gap_mm
    broken = sum(
        len(breaches(sheet, problem.by_item, problem.live_of(number), gap))
        for number, sheet in enumerate(layout.sheets)
    )
    numbers = range(len(layout.sheets))
    live = sum(plan.setup.live_of(number).area_mm2 for number in numbers)
    covered = sum(trial.used_share(number) * plan.setup.live_of(number).area_mm2 for number in numbers)
    return Compared(
        name,
        origin,
        layout,
        layout.pieces,
        covered / live if live else 0.0,
        sum(cut_of(trial, number).length_mm for number in numbers),
        broken,
    )
