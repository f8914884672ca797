"""Jobs in the workshop: every change is one transaction and one step of the job's history."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import fields, replace
from types import MappingProxyType
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from vamper.core.values.blade import Blade
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import LabelFigure
from vamper.core.values.job import Job
from vamper.core.values.run_seen import RunSeen
from vamper.services.jobs.answers import still_answered
from vamper.services.jobs.beginning import START_MM, begun_as, begun_in, last_made, taking_after
from vamper.services.jobs.document import (
    JobDocument,
    changed_item,
    document_json,
)
from vamper.services.jobs.history import add_step, aware, begin, document_of, labels, moved
from vamper.services.jobs.incoming import with_designs
from vamper.services.jobs.job_state import JobState, JobSummary
from vamper.services.shop.shop import Shop
from vamper.services.shop.usual import UsualMachines
from vamper.services.work.cache import Cache
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import ArtRow, CutterRow, JobRow, PlayRow, PrinterRow, StockRow, now

_KEPT_DOCUMENTS = 50
# Jobs that are practised on; they are in no list.
_LESSONS = select(PlayRow.job_id)
NOTHING: Mapping[str, Any] = MappingProxyType({})

Edit = Callable[[JobDocument], JobDocument]
# What runs have taught a job of that document; fields with their values.
Taught = Callable[[JobDocument, Job], Mapping[str, Any]]
# How long a stock's runs waited, by the figures of its labels.
Waited = Callable[[str], tuple[LabelFigure, ...]]
# With these comes what was learnt of them.
_TAUGHT_WITH = {"stock", "cutter_id"}


# What a document and a job say in the same words.
_SAME = sorted({one.name for one in fields(JobDocument)} & {one.name for one in fields(Job)} - {"stock", "finish"})


class Jobs:
    """All jobs of one workshop."""

    def __init__(
        self,
        sessions: Sessions,
        shop: Shop,
        usual: UsualMachines,
        taught: Taught = lambda _document, _job: NOTHING,
        waited: Waited = lambda _stock: (),
    ) -> None:
        self._sessions = sessions
        self._shop = shop
        self._usual = usual
        self._taught = taught
        self._waited = waited
        self._on_removal = list[Callable[[int], None]]()
        self._documents: Cache[JobDocument] = Cache(_KEPT_DOCUMENTS)

    def all(self) -> list[JobSummary]:
        """Summaries, the one changed last first."""
        with self._sessions() as session:
            rows = session.execute(
                select(JobRow, StockRow.name)
                .join(StockRow, StockRow.key == JobRow.stock_key)
                .where(JobRow.removed_at.is_(None), JobRow.id.not_in(_LESSONS))
                .order_by(JobRow.changed_at.desc())
            )
            return [
                JobSummary(
                    id=row.id,
                    title=row.title,
                    pieces=row.pieces,
                    designs=row.designs,
                    stock=stock,
                    stock_key=row.stock_key,
                    changed_at=aware(row.changed_at),
                    handed_off_at=aware(row.handed_off_at) if row.handed_off_at else None,
                    arts=tuple(row.arts),
                    customer=row.customer,
                    names=tuple(row.names),
                    is_template=row.is_template,
                    archived_at=aware(row.archived_at) if row.archived_at else None,
                )
                for row, stock in rows
            ]

    def recent_stocks(self) -> tuple[str, ...]:
        """The stocks of the jobs that have something in them, the one changed last first."""
        with self._sessions() as session:
            rows = select(JobRow.stock_key).where(
                JobRow.removed_at.is_(None), JobRow.designs > 0, JobRow.id.not_in(_LESSONS)
            )
            return tuple(dict.fromkeys(session.scalars(rows.order_by(JobRow.changed_at.desc(), JobRow.id.desc()))))

    def create(self, title: str) -> int:
        """A new, empty job on the usual printer and cutter; returns its number. It takes after the maker's last job, or
        after the work that they said they do most.
        """
        printer, cutter = self._usual.machines()
        empty = begun_in(self._usual.unit(), JobDocument(title=title, printer_id=printer, cutter_id=cutter))
        with self._sessions() as session:
            row = last_made(session, self._shop)
            last = None if row is None else self._document(row)
        begun = begun_as(empty, self._usual.first_job()) if last is None else taking_after(empty, last)
        return self.add(self._learned(begun, ("finish.cover",) if begun.finish.cover is not None else ()))

    def _learned(self, document: JobDocument, but: Iterable[str] = ()) -> JobDocument:
        """A job with what runs have taught of its stock and machines, `but` for fields that were set on purpose."""
        try:
            changes = self._taught(document, self.by_value(document))
        except NotFound:
            # Nothing is known of what is not there; whoever keeps the job says so.
            return document
        return document.changed({name: value for name, value in changes.items() if name not in but})

    def add(self, document: JobDocument) -> int:
        """A new job as given; returns its number."""
        with self._sessions.begin() as session:
            row = JobRow()
            _write(session, row, document)
            session.add(row)
            session.flush()
            begin(session, row)
            return row.id

    def get(self, job_id: int) -> JobState:
        with self._sessions() as session:
            row = _row(session, job_id)
            return _state(session, row, self._document(row))

    def _document(self, row: JobRow) -> JobDocument:
        """What was written at that moment is what is there; a job is mostly read."""
        written_at = (row.id, row.step, aware(row.changed_at))
        return self._documents.get(written_at, lambda: document_of(row))

    def cutter(self, document: JobDocument) -> Cutter:
        """The job's cutter as core knows it."""
        return self._shop.cutters.get(document.cutter_id).value

    def core_job(self, state: JobState) -> Job:
        """The job as core plans it: what it is made with, by value."""
        return self.by_value(state.document)

    def by_value(self, document: JobDocument) -> Job:
        """The job that a document says, with its stock, its machines and what is known of them."""
        stock = self._shop.stocks.get(document.stock).value
        measured = self._shop.measured.of(
            document.printer_id, document.cutter_id, stock.under(document.finish.laminate_um)
        )
        tried, care = self._shop.tried.of(document.cutter_id, document.stock), self._shop.care
        blade = care.blades.in_machine(document.cutter_id)
        mat = care.mats.in_machine(document.cutter_id)
        label, record = self._shop.labels.figures(document.stock), self._waited(document.stock)
        return Job(
            **{name: getattr(document, name) for name in _SAME},
            finish=replace(document.finish, label=label, record=record),
            printer=self._shop.printers.get(document.printer_id).value,
            cutter=self._shop.cutter_with_seen(document.cutter_id),
            stock=stock,
            blade=None if blade is None else blade.value,
            mat=None if mat is None else mat.value,
            steep_at_hand=any(one.value.angle is Blade.STEEP for one in care.blades.all()),
            tries=tried.tries,
            runs=(*map(RunSeen.of, tried.runs), *self._shop.marks_seen(document.cutter_id)),
            calibration=measured.calibration,
            misses=measured.misses,
        )

    def change(
        self, job_id: int, label: str, changes: Mapping[str, Any], each: Mapping[str, Any] = NOTHING
    ) -> JobState:
        """Set fields of the job itself, and the fields in `each` of every design."""
        if {"items", "held"} & changes.keys():
            raise BadInput("designs are changed one by one, and pieces moved on the sheet", "items")

        def edit(document: JobDocument) -> JobDocument:
            after = document.changed(changes)
            if _TAUGHT_WITH & changes.keys():
                after = self._learned(after, changes)
            return after.items_changed(tuple(item.number for item in after.items), each) if each else after

        after = self.edit(job_id, label, edit, ",".join(sorted((*changes, *each))))
        self._usual.chosen(changes)
        return after

    def change_items(self, job_id: int, label: str, numbers: tuple[int, ...], changes: Mapping[str, Any]) -> JobState:
        """Set the same fields of some items."""
        if {"number", "art"} & changes.keys():
            raise BadInput("a design keeps its art; add another one instead", "items")
        subject = f"{numbers}:{','.join(sorted(changes))}"
        return self.edit(job_id, label, lambda document: document.items_changed(numbers, changes), subject)

    def add_item(
        self,
        job_id: int,
        digest: str,
        name: str,
        longest_mm: float | None,
        edge: Mapping[str, Any],
        based: bool | None = None,
    ) -> JobState:
        """Add an art as one more design after the others, in the usual size where none is given; `based` says whether
        it has a border of its own.
        """
        design = {"name": name, "art": digest, "longest_mm": longest_mm or START_MM[self._usual.unit()], "edge": edge}
        return self.add_items(job_id, f"add {name}", [design], [based])

    def add_items(
        self, job_id: int, label: str, designs: Sequence[Mapping[str, Any]], based: Sequence[bool | None] = ()
    ) -> JobState:
        """Add designs after the others, as one step; see `with_designs`."""

        def edit(document: JobDocument) -> JobDocument:
            stock = self._shop.stocks.get(document.stock).value.plainly(document.plain)
            return with_designs(document, stock, designs, based)

        return self.edit(job_id, label, edit)

    def replace_item(self, job_id: int, label: str, number: int, designs: Sequence[Mapping[str, Any]]) -> JobState:
        """Put several designs in the place of a single design; each holds the fields in which it differs from it."""

        def edit(document: JobDocument) -> JobDocument:
            old, first = document.item(number), document.next_number()
            new = tuple(
                replace(changed_item(old, changes), number=first + place, layer_of=None, keyed=False)
                for place, changes in enumerate(designs)
            )
            return document.in_place_of(number, new)

        return self.edit(job_id, label, edit)

    def remove_items(self, job_id: int, numbers: tuple[int, ...]) -> JobState:
        def edit(document: JobDocument) -> JobDocument:
            for number in numbers:
                document.item(number)
            return document.with_items(tuple(item for item in document.items if item.number not in numbers))

        return self.edit(job_id, "remove a design" if len(numbers) == 1 else "remove designs", edit)

    def edit(self, job_id: int, label: str, edit: Edit, subject: str = "", on: str | None = None) -> JobState:
        """One step of any kind; steps with the same subject in quick succession become one.

        Raises
        ------
        BadInput
            If it was made `on` a revision that is no longer the job's; nothing is changed then.
        """
        with self._sessions.begin() as session:
            row = _row(session, job_id)
            before = self._document(row)
            if on is not None and before.revision != on:
                raise BadInput("the job was changed in the meantime; nothing was done: check it and try again", "job")
            after = still_answered(before, edit(before).consistent())
            if after == before:
                return _state(session, row, before)
            add_step(session, row, label, subject, before, after)
            return self._written(session, row, after)

    def undo(self, job_id: int) -> JobState:
        return self._move(job_id, -1)

    def redo(self, job_id: int) -> JobState:
        return self._move(job_id, 1)

    def _move(self, job_id: int, by: int) -> JobState:
        with self._sessions.begin() as session:
            row = _row(session, job_id)
            document = moved(session, row, by)
            if document is None:
                return _state(session, row, document_of(row))
            return self._written(session, row, document)

    def _written(self, session: Session, row: JobRow, document: JobDocument) -> JobState:
        _write(session, row, document)
        session.flush()
        # Read as it was written: it is what everybody gets from now on.
        return _state(session, row, self._document(row))

    def mark_handed_off(self, job_id: int) -> None:
        with self._sessions.begin() as session:
            _row(session, job_id).handed_off_at = now()

    def remove(self, job_id: int) -> None:
        """Take a job off the list, and end all work for it; it can be put back."""
        with self._sessions.begin() as session:
            _row(session, job_id).removed_at = now()
        for end in self._on_removal:
            end(job_id)

    def on_removal(self, end: Callable[[int], None]) -> None:
        """Have the work for a job ended when it is taken off the list."""
        self._on_removal.append(end)

    def put_back(self, job_id: int) -> None:
        with self._sessions.begin() as session:
            row = session.get(JobRow, job_id)
            if row is None:
                raise NotFound("there is no such job")
            row.removed_at = None

    def copy(self, job_id: int) -> int:
        """A new job with the same content; a job that is begun from a template keeps its title."""
        document, is_template = self.get(job_id).document, self._is_template(job_id)
        return self.add(document if is_template else replace(document, title=again(document.title)))

    def _is_template(self, job_id: int) -> bool:
        with self._sessions() as session:
            return _row(session, job_id).is_template

    def put_aside(self, job_id: int, away: bool) -> None:
        """Take a job out of the way, or get it back; nothing else of it changes."""
        with self._sessions.begin() as session:
            _row(session, job_id).archived_at = now() if away else None

    def make_template(self, job_id: int, yes: bool) -> None:
        """Others are begun from a template as copies."""
        with self._sessions.begin() as session:
            _row(session, job_id).is_template = yes


def again(title: str) -> str:
    """The title of a job that is made once more."""
    return f"{title}, again"[:200]


def _row(session: Session, job_id: int) -> JobRow:
    row = session.get(JobRow, job_id)
    if row is None or row.removed_at is not None:
        raise NotFound("there is no such job; it may have been removed")
    return row


def _write(session: Session, row: JobRow, document: JobDocument) -> None:
    """Bring the row to what the document says."""
    for model, key, what in (
        (PrinterRow, document.printer_id, "printer"),
        (CutterRow, document.cutter_id, "cutter"),
        (StockRow, document.stock, "stock"),
    ):
        if session.get(model, key) is None:
            raise BadInput(f"there is no such {what} in the workshop", what)
    arts = {item.art for item in document.items}
    if len(set(session.scalars(select(ArtRow.digest).where(ArtRow.digest.in_(arts))))) < len(arts):
        raise BadInput("there is no such art in the workshop", "art")
    document = replace(document, last_number=document.next_number() - 1)
    row.document = document_json(document)
    row.title, row.stock_key = document.title, document.stock
    row.printer_id, row.cutter_id = document.printer_id, document.cutter_id
    row.pieces, row.designs = sum(item.quantity for item in document.items), len(document.items)
    row.arts = [item.art for item in document.items]
    row.customer, row.names = document.customer, [item.name for item in document.items]
    row.changed_at = now()


def _state(session: Session, row: JobRow, document: JobDocument) -> JobState:
    undo, redo = labels(session, row)
    handed_off = aware(row.handed_off_at) if row.handed_off_at else None
    play = session.scalar(select(PlayRow.id).where(PlayRow.job_id == row.id).limit(1))
    return JobState(row.id, document, aware(row.changed_at), handed_off, undo, redo, play)
