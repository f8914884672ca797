"""A job as the screen shows it, in parts: what did not change since it was looked at is neither drawn nor sent again.

Every part has a revision, a digest of what it is drawn from. The head names the revisions of all parts; a part is asked
for by its revision, so that what is shown together belongs together.
"""

from collections.abc import Callable
from dataclasses import dataclass, fields
from typing import Any, TypeVar

from vamper.api.art.schemas import ItemOut
from vamper.api.art.views import item_out
from vamper.api.cut.schemas import CutPart
from vamper.api.cut.views import cut_part
from vamper.api.jobs.schemas import FindingOut, FixOut, JobOut, PackingOut, PartsOut, PhraseOut, StationOut, ViewOut
from vamper.api.places import place_out
from vamper.api.sheet.schemas import FiguresPart, LayoutPart, SheetPart
from vamper.api.sheet.views import figures_part, layout_part, sheet_part
from vamper.core.design import DesignedItem
from vamper.core.ledger.run import CameOut
from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput, Finding, most_serious_first
from vamper.core.values.job import Job
from vamper.core.values.placement import Pin
from vamper.services.brief.brief import brief
from vamper.services.brief.phrase import BriefFacts
from vamper.services.brief.rail import dry_run_figure, empty_stations, finish_figure, stations
from vamper.services.finish.finishing import finishing_of
from vamper.services.jobs.composing import ArtNotes
from vamper.services.jobs.jobs import JobState
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


def job_out(state: JobState) -> JobOut:
    return JobOut(
        id=state.id,
        document=state.document,
        changed_at=state.changed_at,
        handed_off_at=state.handed_off_at,
        undo=state.undo,
        redo=state.redo,
    )


@dataclass(frozen=True, slots=True)
class _Head:
    """What a plan looks like on the screen, all but its parts and how its search stands."""

    stations: list[StationOut]
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

    def view(self, state: JobState) -> ViewOut:
        """The job; where it cannot be planned, the sentence that says why."""
        try:
            planned = self._workshop.plans.of(state)
        except BadInput as bad:
            phrases = _brief(self._workshop.briefing.facts(state))
            rail = [StationOut(**_fields(figure)) for figure in empty_stations()]
            return ViewOut(
                job=job_out(state), brief=phrases, stations=rail, findings=[], problem=bad.sentence, parts=None
            )
        phrases = _brief(self._workshop.briefing.facts(state, planned.plan))
        head = self._head(planned, tuple(shelf_findings(planned.plan, self._workshop.supplies)))
        dry_run = dry_run_figure(self._workshop.dry_runs.status(state.id), planned.plan)
        finish = finish_figure(finishing_of(planned.plan), self._workshop.evenings.now(), planned.findings)
        return ViewOut(
            job=job_out(state),
            brief=phrases,
            stations=[*head.stations, StationOut(**_fields(dry_run)), StationOut(**_fields(finish))],
            findings=head.findings,
            problem=None,
            parts=PartsOut(
                sheet=head.sheet,
                designs=head.designs,
                layout=head.layout,
                cut=head.cut,
                packing=_packing_out(planned.plan, planned.packing),
            ),
        )

    def sheet(self, state: JobState, revision: str) -> SheetPart | None:
        """What all sheets have in common."""
        return self._part(state, revision, self._sheets, lambda head: head.sheet, sheet_part)

    def layout(self, state: JobState, revision: str) -> LayoutPart | None:
        """The layout with its figures."""
        return self._part(state, revision, self._layouts, lambda head: head.layout, layout_part)

    def figures(self, state: JobState, revision: str) -> FiguresPart | None:
        """How good the layout of that revision is."""
        return self._part(state, revision, self._figures, lambda head: head.layout, figures_part)

    def cut(self, state: JobState, revision: str) -> CutPart | None:
        """What the cutter is set to."""
        return self._part(state, revision, self._cuts, lambda head: head.cut, cut_part)

    def designs(self, state: JobState, numbers: list[int]) -> list[ItemOut]:
        """Some of the job's designs, with their shapes; those that are gone by now are left out."""
        planned = self._workshop.plans.of(state)
        revisions = self._head(planned).designs
        there = [item for item in planned.plan.items if item.number in numbers]
        notes = self._workshop.compositions.notes({item.spec.art for item in there})
        return [self._design(item, revisions[item.number], notes[item.spec.art]) for item in there]

    def _design(self, item: DesignedItem, revision: str, notes: ArtNotes) -> ItemOut:
        return self._items.get(revision, lambda: item_out(item, revision, notes))

    def _head(self, planned: Planned, shelf: tuple[Finding, ...] = ()) -> _Head:
        """The head, with what the shelf says besides; that is no part of any revision."""
        plan, packing = planned.plan, planned.packing
        job, findings = plan.asked, most_serious_first((*planned.findings, *shelf))

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
                [StationOut(**_fields(figure)) for figure in stations(plan, findings)],
                [finding_out(finding) for finding in findings],
                frame,
                {item.number: digest_of("design", 1, stock, *_drawn_from(plan, item)) for item in plan.items},
                digest_of("layout", 1, packing.layout_id, frame),
                digest_of("cut", 1, stock, job.cutter, sorted({item.spec.cut for item in plan.items}), plan.settings),
            )

        return self._heads.get((job, packing.layout_id, tuple(one.title + one.text for one in shelf)), make)

    def _part(
        self,
        state: JobState,
        revision: str,
        kept: Cache[T],
        named: Callable[[_Head], str],
        draw: Callable[[Plan, str], T],
    ) -> T | None:
        """A part of that revision; None where the job was changed since."""
        key = (state.id, revision)
        if key not in kept:
            planned = self._workshop.plans.of(state)
            if named(self._head(planned)) != revision:
                return None
            return kept.get(key, lambda: draw(planned.plan, revision))
        return kept.get(key, lambda: draw(self._workshop.plans.of(state).plan, revision))


def _brief(told: BriefFacts) -> list[PhraseOut]:
    return [PhraseOut(text=phrase.text, key=phrase.key) for phrase in brief(told)]


def _drawn_from(plan: Plan, item: DesignedItem) -> tuple[Any, ...]:
    """Everything that a design is drawn from; a back follows its front."""
    front = None if item.spec.back_of is None else plan.item(item.spec.back_of).spec
    return item.spec, front, item.bleed, item.miss_mm


def _seen(job: Job) -> tuple[Any, ...]:
    """Choices that change how a sheet looks."""
    return job.from_inside, job.stock_colour


def _fields(value: Any) -> dict[str, Any]:
    return {one.name: getattr(value, one.name) for one in fields(value)}


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
        places=[place_out(place) for place in finding.places],
        fixes=[
            FixOut(label=fix.label, effect=fix.effect, target=fix.target, changes=dict(fix.changes))
            for fix in finding.fixes
        ],
    )


def _packing_out(plan: Plan, packing: PackingStatus) -> PackingOut:
    return PackingOut(
        state=packing.state,
        seconds_left=packing.seconds_left,
        seconds=packing.seconds,
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
