"""The lessons of a workshop: those that ship, and one of each spoilt run whose cause the twin can show.

A lesson's job is a document of the workshop: the practice bench, and everything else as the lesson says. What is made
of a run keeps its own machines and plan, as they were handed over; the order is one good sheet of it.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

from vamper.core.ledger.diagnosis import CAUSE_BY_KEY, Seen, diagnose
from vamper.core.ledger.run import symptoms_of
from vamper.core.trainer.lesson import BENCHES, LESSONS, Lesson, lesson_of
from vamper.core.trainer.puzzles import SHOWN
from vamper.core.trainer.world import LessonWorld
from vamper.core.values.cutter import Route
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.formats.lesson_art import lesson_art
from vamper.services.design.arts import Arts
from vamper.services.design.designer import ArtFile
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.jobs import Jobs
from vamper.services.ledger.made_sheets import MadeSheets
from vamper.services.ledger.runs import KeptRun, Runs
from vamper.services.shop.shop import Shop
from vamper.services.trainer.bench import changed_document, lesson_job
from vamper.services.twin.practice import practice_machines
from vamper.services.work.not_found import NotFound

_FROM_RUN = "run-"
_SAME = {one.name for one in fields(JobDocument)} & {one.name for one in fields(Job)} - {"stock", "items"}
# A real sheet took about so long, and so many are given to find what was the matter.
_SHEETS, _MINUTES = 3, 90
# Beside the true cause so many others are thought of.
_OTHERS = 2


@dataclass(frozen=True, slots=True)
class OpenLesson:
    """A lesson with its job as it begins; `of_run` says that the job's own machines make it."""

    lesson: Lesson
    document: JobDocument
    of_run: bool


@dataclass(frozen=True, slots=True)
class RunToPractise:
    """A spoilt run that can be practised on, the key of its lesson, and what it turned out to be."""

    key: str
    run_id: int
    title: str
    cause: str


class Lessons:
    """All lessons of one workshop."""

    def __init__(self, jobs: Jobs, arts: Arts, shop: Shop, runs: Runs, made: MadeSheets) -> None:
        self._jobs = jobs
        self._arts = arts
        self._shop = shop
        self._runs = runs
        self._made = made

    def open(self, key: str) -> OpenLesson:
        """A lesson with its job.

        Raises
        ------
        NotFound
            If there is no such lesson.
        """
        if key in LESSONS:
            return OpenLesson(LESSONS[key], self._document(LESSONS[key]), False)
        if key.startswith(_FROM_RUN) and key.removeprefix(_FROM_RUN).isdigit():
            return self._of_run(self._runs.get(int(key.removeprefix(_FROM_RUN))))
        raise NotFound("there is no such lesson")

    def of_runs(self) -> list[RunToPractise]:
        """The spoilt runs that can be practised on, the newest first."""
        return [
            RunToPractise(f"{_FROM_RUN}{kept.id}", kept.id, kept.run.title, CAUSE_BY_KEY[cause].text)
            for kept in reversed(self._runs.all())
            for cause in [kept.run.cause or ""]
            if cause in SHOWN and kept.hand_off_id is not None
        ]

    def job(self, opened: OpenLesson, world: LessonWorld) -> tuple[Job, Sequence[ArtFile]]:
        """The job as it stands in a world, on the lesson's own bench."""
        document = world.document if isinstance(world.document, JobDocument) else None
        if document is None:
            document = changed_document(opened.document, world.job)
        job = self._jobs.by_value(document)
        if not opened.of_run:
            bench = lesson_job(opened.lesson)
            job = replace(
                job, printer=bench.printer, cutter=bench.cutter, calibration=bench.calibration, blade=None, mat=None
            )
            job = replace(job, tries=(), runs=(), misses=(), steep_at_hand=False, finish=document.finish)
        return job, [self._arts.file(item.art) for item in document.items]

    def _document(self, lesson: Lesson) -> JobDocument:
        job = lesson_job(lesson)
        route = Route(BENCHES[lesson.bench]["cutter"].get("route", Route.FILES))
        printer, cutter = practice_machines(self._shop, route=route)
        digests = {name: self._arts.take_in(name, lesson_art(name)).digest for name in {one.art for one in job.items}}
        items = tuple(replace(one, art=digests[one.art], name=one.name or _named(one.art)) for one in job.items)
        same: dict[str, Any] = {name: getattr(job, name) for name in _SAME}
        return JobDocument(
            **same | {"title": f"Practice: {lesson.title}"},
            printer_id=printer,
            cutter_id=cutter,
            stock=job.stock.key,
            items=items,
            last_number=max(one.number for one in items),
        )

    def _of_run(self, kept: KeptRun) -> OpenLesson:
        cause, handed = kept.run.cause or "", self._made.handed_of(kept)
        if cause not in SHOWN or handed is None or not handed.plan.sheets:
            raise BadInput("no lesson can be made of this run: its plan or its cause is not known", "run")
        sheet = handed.plan.sheets[0].placements
        counts = Counter(one.item for one in sheet)
        items = tuple(replace(one, quantity=counts[one.number]) for one in handed.document.items if counts[one.number])
        title = f"Practice: {handed.document.title}"[:200]
        document = replace(handed.document, title=title, copies=1, items=items, held=(sheet,), products=())
        return OpenLesson(lesson_of(f"{_FROM_RUN}{kept.id}", _of_cause(kept, cause, len(sheet))), document, True)


def _named(art: str) -> str:
    return art.rpartition(".")[0]


def _of_cause(kept: KeptRun, cause: str, pieces: int) -> Mapping[str, Any]:
    """The table of a lesson on one cause: the causes that look like it beside it, with their checks and remedies."""
    seen = symptoms_of(kept.run) or tuple(CAUSE_BY_KEY[cause].seen)[:1]
    suspects = [one.cause.key for one in diagnose(Seen(seen)).suspects]
    others = [one for one in suspects if one != cause and one in SHOWN and SHOWN[one].faults != SHOWN[cause].faults]
    might = [cause, *others[:_OTHERS]]
    checks = dict.fromkeys(CAUSE_BY_KEY[one].check for one in (*might, *suspects[:4]) if CAUSE_BY_KEY[one].check)
    mends = dict.fromkeys(SHOWN[one].mends for one in (*might, *others[:4]))
    return {
        "title": kept.run.title or "A run of your own",
        "aim": f"One good sheet of {pieces}, as it was handed over then.",
        "station": "cut",
        "told": f"This is your own run of {kept.made_at.date().isoformat()}. It was spoiled.",
        "keep": CAUSE_BY_KEY[cause].remedy,
        "sheets": _SHEETS,
        "minutes": _MINUTES,
        "pieces": pieces,
        "bench": "files",
        "job": {},
        "seen": list(seen),
        "might": [{"cause": one, "twin": {"faults": [str(fault) for fault in SHOWN[one].faults]}} for one in might],
        "moves": [*checks, *mends, "make", "make-and-look", "make-all"],
        "hints": [CAUSE_BY_KEY[cause].text],
    }
