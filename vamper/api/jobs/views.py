"""A job as the screen shows it, in parts: what did not change since it was looked at is neither drawn nor sent again.

Every part has a revision, a digest of what it is drawn from. Who asks says which ones they have; what they have not
comes with the answer, so that what is shown together belongs together.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

from vamper.api.art.schemas import ItemOut
from vamper.api.art.views import item_out
from vamper.api.cut.schemas import CutPart
from vamper.api.cut.views import cut_part
from vamper.api.jobs.schemas import (
    NOTHING_KNOWN,
    FindingOut,
    KnownParts,
    PackingOut,
    PartsOut,
    ViewOut,
)
from vamper.api.sheet.schemas import FiguresPart, LayoutPart, SheetPart
from vamper.api.sheet.views import figures_part, layout_part, sheet_part
from vamper.core.design import DesignedItem
from vamper.core.inspect import answered
from vamper.core.ledger.run import CameOut
from vamper.core.plan import Plan
from vamper.core.program.choices import program_choices
from vamper.core.values.findings import BadInput, Finding, most_serious_first
from vamper.core.values.job import Job
from vamper.core.values.placement import Pin
from vamper.services.brief.brief import Phrase, brief
from vamper.services.brief.phrase import BriefFacts
from vamper.services.brief.rail import StationFigure, dry_run_figure, empty_stations, finish_figure, stations
from vamper.services.finish.finishing import finishing_of
from vamper.services.jobs.composing import ArtNotes
from vamper.services.jobs.job_state import JobState
from vamper.services.ledger.runs import KeptRun
from vamper.services.ledger.shelf_findings import shelf_findings
from vamper.services.packing.packing_service import PackingStatus
from vamper.services.planning.plans import Planned
from vamper.services.work.cache import Cache
from vamper.services.work.keys import digest_of
from vamper.services.workshop import Workshop

T = TypeVar("T")

_KEPT = 48
_KEPT_ITEMS = 600


@dataclass(frozen=True, slots=True)
class _Head:
    """The fields of a plan's view, all but its parts and how its search stands."""

    stations: list[StationFigure]
    findings: list[FindingOut]
    sheet: str
    designs: dict[int, str]
    layout: str
    cut: str


class Views:
    """The views of one workshop's jobs."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._heads: Cache[_Head] = Cache(_KEPT)
        self._sheets: Cache[SheetPart] = Cache(_KEPT)
        self._layouts: Cache[LayoutPart] = Cache(_KEPT)
        self._figures: Cache[FiguresPart] = Cache(_KEPT)
        self._cuts: Cache[CutPart] = Cache(_KEPT)
        self._items: Cache[ItemOut] = Cache(_KEPT_ITEMS)

    def view(self, state: JobState, known: KnownParts = NOTHING_KNOWN) -> ViewOut:
        """The job, with the parts that are not known yet; where it cannot be planned, the sentence that says why."""
        # A dozen services read for it: one state of the workshop, over one connection, which saves a third of its time.
        with self._workshop.sessions.snapshot():
            return self._view(state, known)

    def _view(self, state: JobState, known: KnownParts) -> ViewOut:
        try:
            planned = self._workshop.plans.of(state)
        except BadInput as bad:
            phrases = _brief(self._workshop.briefing.facts(state))
            rail = list(empty_stations())
            return ViewOut(job=state, brief=phrases, stations=rail, findings=[], problem=bad.sentence, parts=None)
        plan = planned.plan
        head = self._head(planned, tuple(shelf_findings(plan, self._workshop.supplies)))
        dry_run = dry_run_figure(self._workshop.dry_runs.status(state.id), plan)
        finish = finish_figure(finishing_of(plan), self._workshop.evenings.now(), planned.findings)
        return ViewOut(
            job=state,
            brief=_brief(self._workshop.briefing.facts(state, plan)),
            stations=[*head.stations, dry_run, finish],
            findings=head.findings,
            problem=None,
            parts=PartsOut(
                sheet=head.sheet,
                designs=head.designs,
                layout=head.layout,
                cut=head.cut,
                packing=_packing_out(plan, planned.packing),
                program_bleed=program_choices(plan).why[0] if plan.job.cutter.has_own_program else None,
                new_sheet=self._new(known.sheet, head.sheet, self._sheets, state, plan, sheet_part),
                new_layout=self._new(known.layout, head.layout, self._layouts, state, plan, layout_part),
                new_cut=self._new(known.cut, head.cut, self._cuts, state, plan, cut_part),
                new_designs=self._designs(head, plan, set(known.designs)),
            ),
        )

    def _new(
        self, known: str, revision: str, kept: Cache[T], state: JobState, plan: Plan, draw: Callable[[Plan, str], T]
    ) -> T | None:
        """A part of a plan, unless it is known."""
        return None if known == revision else kept.get((state.id, revision), lambda: draw(plan, revision))

    def _designs(self, head: _Head, plan: Plan, known: set[str]) -> list[ItemOut]:
        """The designs that are not known, with their shapes."""
        asked = [item for item in plan.items if head.designs[item.number] not in known]
        notes = self._workshop.compositions.notes({item.spec.art for item in asked})
        # Where its machine's own program leads, Vamper carries no colour past the cut.
        bleeds = not plan.job.cutter.has_own_program
        return [self._design(item, head.designs[item.number], notes[item.spec.art], bleeds) for item in asked]

    def figures(self, state: JobState, revision: str) -> FiguresPart | None:
        """How good the layout of that revision is; None where the job was changed since."""
        key = (state.id, revision)
        if key not in self._figures:
            planned = self._workshop.plans.of(state)
            if self._head(planned).layout != revision:
                return None
        return self._figures.get(key, lambda: figures_part(self._workshop.plans.of(state).plan, revision))

    def _design(self, item: DesignedItem, revision: str, notes: ArtNotes, bleeds: bool) -> ItemOut:
        return self._items.get(revision, lambda: item_out(item, revision, notes, bleeds))

    def _head(self, planned: Planned, shelf: tuple[Finding, ...] = ()) -> _Head:
        """The head, with what the shelf says besides; that is no part of any revision."""
        plan, packing = planned.plan, planned.packing
        job, findings = plan.asked, most_serious_first((*planned.findings, *answered(shelf, plan.asked)))

        def make() -> _Head:
            stock = digest_of("stock", 1, job.stock)
            frame = digest_of(
                "frame",
                1,
                job.paper,
                job.printer,
                job.cutter,
                job.marks,
                stock,
                job.calibration,
                job.misses,
                *_seen(job),
            )
            return _Head(
                list(stations(plan, findings)),
                [finding_out(finding) for finding in findings],
                frame,
                {item.number: digest_of("design", 2, stock, *_drawn_from(plan, item)) for item in plan.items},
                digest_of("layout", 1, packing.layout_id, frame),
                digest_of("cut", 1, stock, job.cutter, sorted({item.spec.cut for item in plan.items}), plan.settings),
            )

        return self._heads.get((job, packing.layout_id, tuple(one.title + one.text for one in shelf)), make)


def _brief(told: BriefFacts) -> list[Phrase]:
    return list(brief(told))


def _drawn_from(plan: Plan, item: DesignedItem) -> tuple[Any, ...]:
    """Everything that a design is drawn from; a back follows its front."""
    front = None if item.spec.back_of is None else plan.item(item.spec.back_of).spec
    return item.spec, front, item.bleed, item.miss_mm, plan.job.cutter.has_own_program


def _seen(job: Job) -> tuple[Any, ...]:
    """Choices that change how a sheet looks."""
    return job.from_inside, job.stock_colour


def finding_out(finding: Finding) -> FindingOut:
    return FindingOut(
        code=finding.code,
        severity=finding.severity,
        station=finding.station,
        title=finding.title,
        text=finding.text,
        figures=dict(finding.figures),
        item_number=finding.item,
        sheet=finding.sheet,
        places=finding.places,
        fixes=list(finding.fixes),
        answer=None if (answer := finding.answer()) is None else answer.say,
        meant=finding.meant,
    )


def _packing_out(plan: Plan, packing: PackingStatus) -> PackingOut:
    return PackingOut(
        state=packing.state,
        seconds_left=packing.seconds_left,
        seconds=packing.seconds,
        better_ago_s=packing.better_ago_s,
        version=packing.version,
        layout=packing.layout_id,
        time_limited=plan.layout.time_limited,
        held=sum(one.pin is not Pin.FREE for sheet in plan.layout.sheets for one in sheet),
    )


def last_run_words(kept: KeptRun) -> str:
    """How a run came out, in a few words."""
    run = kept.run
    if run.came_out is CameOut.NOT_RUN:
        return f"sheet {run.sheet} was not run"
    return f"sheet {run.sheet}: {run.good_pieces} of {run.made_pieces} good"
