"""Jobs in the workshop: every change is one transaction and one step of the job's history.

The tables hold the job as it stands; a step holds the whole document after it was made, so that undo and redo are a
move along the steps. Changes of the same fields in quick succession, as from a slider, become one step.
"""

import dataclasses
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session, selectinload

from vamper.core.devices import Cutter
from vamper.core.findings import BadInput
from vamper.core.job import HeldPiece, ItemSpec, Job
from vamper.formats.jobfile import MarksModel, PackingModel, PaperModel
from vamper.services.cache import Cache
from vamper.services.document import HeldDocument, ItemDocument, JobDocument
from vamper.services.shop import Shop
from vamper.store.database import Sessions
from vamper.store.models import ArtRow, CutterRow, ItemRow, JobRow, PrinterRow, StepRow, StockRow, now

_KEPT_DOCUMENTS = 50
ONE_STEP = timedelta(seconds=2)
# A design's fields are its row's columns, but for the art, which the row names by its digest.
_ITEM_FIELDS = tuple(ItemDocument.model_fields)
_LETTER = PaperModel(width_mm=215.9, height_mm=279.4)


class NotFound(LookupError):
    """There is no such thing in the workshop; the message is a sentence for people."""


@dataclass(frozen=True, slots=True)
class JobState:
    """A job with its place in its history."""

    id: int
    document: JobDocument
    changed_at: datetime
    handed_off_at: datetime | None
    undo: str | None
    redo: str | None

    @property
    def revision(self) -> str:
        return self.document.revision


@dataclass(frozen=True, slots=True)
class JobSummary:
    id: int
    title: str
    pieces: int
    designs: int
    stock: str
    changed_at: datetime
    handed_off_at: datetime | None
    arts: tuple[str, ...]


class Jobs:
    """All jobs of one workshop."""

    def __init__(self, sessions: Sessions, shop: Shop) -> None:
        self._sessions = sessions
        self._shop = shop
        self._documents: Cache[JobDocument] = Cache(_KEPT_DOCUMENTS)

    def all(self) -> list[JobSummary]:
        """Summaries, the one changed last first."""
        with self._sessions() as session:
            rows = session.scalars(
                select(JobRow)
                .where(JobRow.removed_at.is_(None))
                .order_by(JobRow.changed_at.desc())
                .options(selectinload(JobRow.items))
            )
            stocks = {row.key: row.name for row in session.execute(select(StockRow.key, StockRow.name))}
            return [
                JobSummary(
                    row.id,
                    row.title,
                    sum(item.quantity for item in row.items),
                    len(row.items),
                    stocks[row.stock_key],
                    _aware(row.changed_at),
                    _aware(row.handed_off_at) if row.handed_off_at else None,
                    tuple(item.art_digest for item in row.items),
                )
                for row in rows
            ]

    def create(self, title: str) -> int:
        """A new, empty job on the first printer and cutter; returns its number."""
        with self._sessions.begin() as session:
            printer, cutter = (
                session.scalars(select(PrinterRow.id).order_by(PrinterRow.id)).first(),
                session.scalars(select(CutterRow.id).order_by(CutterRow.id)).first(),
            )
            assert printer is not None
            assert cutter is not None
            document = JobDocument(
                title=title, paper=_LETTER, printer_id=printer, cutter_id=cutter, stock="satin-vinyl"
            )
            return self._insert(session, document)

    def add(self, document: JobDocument) -> int:
        """A new job as given; returns its number."""
        with self._sessions.begin() as session:
            return self._insert(session, document)

    def _insert(self, session: Session, document: JobDocument) -> int:
        row = JobRow()
        _write(session, row, document)
        session.add(row)
        session.flush()
        session.add(
            StepRow(job_id=row.id, number=0, label="new job", subject="", document=document.model_dump(mode="json"))
        )
        return row.id

    def get(self, job_id: int) -> JobState:
        with self._sessions() as session:
            row = _row(session, job_id)
            # What was written at that moment is what is there; a job is mostly read.
            written = (row.id, row.step, row.changed_at)
            return _state(session, row, self._documents.get(written, lambda: _document(row)))

    def cutter(self, document: JobDocument) -> Cutter:
        """The job's cutter as core knows it."""
        return self._shop.cutter(document.cutter_id).thing

    def core_job(self, state: JobState) -> Job:
        """The job as core plans it."""
        document = state.document
        return Job(
            title=document.title,
            paper=document.paper.to_core(),
            printer=self._shop.printer(document.printer_id).thing,
            cutter=self._shop.cutter(document.cutter_id).thing,
            marks=document.marks.to_core(),
            stock=self._shop.stock(document.stock),
            purpose=document.purpose,
            packing=document.packing.to_core(),
            items=specs_of(document),
            held=held_of(document),
        )

    def change(self, job_id: int, label: str, changes: Mapping[str, Any]) -> JobState:
        """Set fields of the job itself."""
        if {"items", "held"} & changes.keys():
            raise BadInput("designs are changed one by one, and pieces moved on the sheet", "items")
        return self._edit(job_id, label, ",".join(sorted(changes)), lambda document: document.changed(changes))

    def change_items(self, job_id: int, label: str, numbers: tuple[int, ...], changes: Mapping[str, Any]) -> JobState:
        """Set the same fields of some items."""
        if {"number", "art"} & changes.keys():
            raise BadInput("a design keeps its art; add another one instead", "items")
        subject = f"{numbers}:{','.join(sorted(changes))}"
        return self._edit(job_id, label, subject, lambda document: document.items_changed(numbers, changes))

    def add_item(self, job_id: int, digest: str, name: str, longest_mm: float, edge: Mapping[str, Any]) -> JobState:
        """Add an art as one more design, after the others."""
        design = {"name": name, "art": digest, "longest_mm": longest_mm, "edge": edge}
        return self.add_items(job_id, f"add {name}", [design])

    def add_items(self, job_id: int, label: str, designs: Sequence[Mapping[str, Any]]) -> JobState:
        """Add designs after the others, as one step."""

        def edit(document: JobDocument) -> JobDocument:
            first = document.next_number()
            new = tuple(
                ItemDocument.model_validate({"number": first + n, **design}) for n, design in enumerate(designs)
            )
            return document.with_items((*document.items, *new))

        return self._edit(job_id, label, "", edit)

    def replace_item(self, job_id: int, label: str, number: int, designs: Sequence[Mapping[str, Any]]) -> JobState:
        """Put several designs in the place of one; each holds the fields in which it differs from it."""

        def edit(document: JobDocument) -> JobDocument:
            old, first = document.item(number), document.next_number()
            new = tuple(
                document.items_changed((number,), changes).item(number).model_copy(update={"number": first + place})
                for place, changes in enumerate(designs)
            )
            at = document.items.index(old)
            return document.with_items((*document.items[:at], *new, *document.items[at + 1 :]))

        return self._edit(job_id, label, "", edit)

    def remove_items(self, job_id: int, numbers: tuple[int, ...]) -> JobState:
        def edit(document: JobDocument) -> JobDocument:
            for number in numbers:
                document.item(number)
            return document.with_items(tuple(item for item in document.items if item.number not in numbers))

        return self._edit(job_id, "remove a design" if len(numbers) == 1 else "remove designs", "", edit)

    def edit(
        self,
        job_id: int,
        label: str,
        edit: Callable[[JobDocument], JobDocument],
        subject: str = "",
        on: str | None = None,
    ) -> JobState:
        """One step of any kind; steps with the same subject in quick succession become one.

        Raises
        ------
        BadInput
            If it was made `on` a revision that is no longer the job's; nothing is changed then.
        """

        def checked(document: JobDocument) -> JobDocument:
            if on is not None and document.revision != on:
                raise BadInput("the job was changed meanwhile; nothing was done, look and try it once more", "job")
            return edit(document)

        return self._edit(job_id, label, subject, checked)

    def undo(self, job_id: int) -> JobState:
        return self._move(job_id, -1)

    def redo(self, job_id: int) -> JobState:
        return self._move(job_id, 1)

    def mark_handed_off(self, job_id: int) -> None:
        with self._sessions.begin() as session:
            _row(session, job_id).handed_off_at = now()

    def remove(self, job_id: int) -> None:
        """Take a job off the list; it can be put back."""
        with self._sessions.begin() as session:
            _row(session, job_id).removed_at = now()

    def put_back(self, job_id: int) -> None:
        with self._sessions.begin() as session:
            row = session.get(JobRow, job_id)
            if row is None:
                raise NotFound("there is no such job")
            row.removed_at = None

    def copy(self, job_id: int) -> int:
        """A new job with the same content."""
        document = self.get(job_id).document
        return self.add(document.model_copy(update={"title": f"{document.title}, again"[:200]}))

    def _edit(self, job_id: int, label: str, subject: str, edit: Any) -> JobState:
        with self._sessions.begin() as session:
            row = _row(session, job_id)
            before = _document(row)
            after: JobDocument = edit(before).consistent()
            if after == before:
                return _state(session, row)
            session.execute(delete(StepRow).where(StepRow.job_id == job_id, StepRow.number > row.step))
            last = session.get_one(StepRow, (job_id, row.step))
            if subject and last.subject == subject and now() - _aware(last.made_at) < ONE_STEP:
                last.document, last.made_at = after.model_dump(mode="json"), now()
            else:
                row.step += 1
                session.add(
                    StepRow(
                        job_id=job_id,
                        number=row.step,
                        label=label,
                        subject=subject,
                        document=after.model_dump(mode="json"),
                    )
                )
            _write(session, row, after)
            session.flush()
            return _state(session, row)

    def _move(self, job_id: int, by: int) -> JobState:
        with self._sessions.begin() as session:
            row = _row(session, job_id)
            step = session.get(StepRow, (job_id, row.step + by))
            if step is not None:
                row.step += by
                _write(session, row, JobDocument.model_validate(step.document))
                session.flush()
            return _state(session, row)


def specs_of(document: JobDocument) -> tuple[ItemSpec, ...]:
    """All designs as core knows them: backs name their fronts by place."""
    places = {item.number: place for place, item in enumerate(document.items)}
    return tuple(
        dataclasses.replace(item.spec(item.art), back_of=None if item.back_of is None else places.get(item.back_of))
        for item in document.items
    )


def held_of(document: JobDocument) -> tuple[HeldPiece, ...]:
    """Held pieces as core knows them."""
    places = {item.number: place for place, item in enumerate(document.items)}
    return tuple(
        HeldPiece(places[one.number], one.sheet, one.x_mm, one.y_mm, one.turn_deg, one.pin) for one in document.held
    )


def _row(session: Session, job_id: int) -> JobRow:
    row = session.get(JobRow, job_id)
    if row is None or row.removed_at is not None:
        raise NotFound("there is no such job; it may have been removed")
    return row


def _aware(moment: datetime) -> datetime:
    """SQLite gives moments back without their zone; all of ours are UTC."""
    return moment if moment.tzinfo else moment.replace(tzinfo=now().tzinfo)


def _document(row: JobRow) -> JobDocument:
    return JobDocument(
        title=row.title,
        paper=PaperModel.model_validate(
            {"width_mm": row.paper_width_mm, "height_mm": row.paper_height_mm, "spent": row.spent}
        ),
        printer_id=row.printer_id,
        cutter_id=row.cutter_id,
        stock=row.stock_key,
        purpose=row.purpose,
        marks=MarksModel.model_validate(row.marks),
        packing=PackingModel.model_validate(row.packing),
        items=tuple(
            ItemDocument.model_validate(
                {"art": item.art_digest, **{name: getattr(item, name) for name in _ITEM_FIELDS if name != "art"}}
            )
            for item in row.items
        ),
        held=tuple(HeldDocument.model_validate(one) for one in row.held),
        last_number=row.last_number,
    )


def _write(session: Session, row: JobRow, document: JobDocument) -> None:
    """Bring the row and its items to what the document says."""
    for model, key, what in (
        (PrinterRow, document.printer_id, "printer"),
        (CutterRow, document.cutter_id, "cutter"),
        (StockRow, document.stock, "stock"),
        *((ArtRow, item.art, "art") for item in document.items),
    ):
        if session.get(model, key) is None:
            raise BadInput(f"there is no such {what} in the workshop", what)
    # An undo does not give numbers free.
    row.last_number = max((row.last_number or 0, document.last_number, *(item.number for item in document.items)))
    row.title = document.title
    row.paper_width_mm, row.paper_height_mm = document.paper.width_mm, document.paper.height_mm
    row.spent = document.paper.spent.model_dump(mode="json") if document.paper.spent else None
    row.held = [one.model_dump(mode="json") for one in document.held]
    row.printer_id, row.cutter_id, row.stock_key = document.printer_id, document.cutter_id, document.stock
    row.purpose = document.purpose.value
    row.marks, row.packing = document.marks.model_dump(mode="json"), document.packing.model_dump(mode="json")
    kept = {item.number: item for item in row.items}
    rows = []
    for position, item in enumerate(document.items):
        item_row = kept.get(item.number) or ItemRow(number=item.number)
        item_row.position, item_row.art_digest = position, item.art
        for name, value in item.model_dump(mode="json", exclude={"art", "number"}).items():
            setattr(item_row, name, value)
        rows.append(item_row)
    row.items = rows
    row.changed_at = now()


def _state(session: Session, row: JobRow, document: JobDocument | None = None) -> JobState:
    steps = select(StepRow.number, StepRow.label).where(
        StepRow.job_id == row.id, StepRow.number.in_([row.step, row.step + 1])
    )
    labels = {step.number: step.label for step in session.execute(steps)}
    return JobState(
        row.id,
        document or _document(row),
        _aware(row.changed_at),
        _aware(row.handed_off_at) if row.handed_off_at else None,
        labels.get(row.step) if row.step > 0 else None,
        labels.get(row.step + 1),
    )


def count_jobs(session: Session) -> int:
    return session.scalar(select(func.count()).select_from(JobRow)) or 0
