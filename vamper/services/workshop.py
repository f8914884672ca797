"""The workshop: one file with its jobs, art and machines, and what works on them while the program runs."""

import threading
from collections.abc import Callable, Iterable, Mapping
from contextlib import suppress
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.inspect import findings_of
from vamper.core.plan import Plan, metres_of
from vamper.core.printing.ink import InkUse
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.twin.scan import Pixels
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput, Finding
from vamper.core.values.finish import LabelFigure
from vamper.core.values.job import Job
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Outcome, SetThen
from vamper.core.values.units import pixels_at
from vamper.formats.art_in.raster import shown_pixels
from vamper.services.brief.brief import choices
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext
from vamper.services.design.art_reading import PREVIEW_PX
from vamper.services.design.arts import Arts
from vamper.services.design.designer import Designer
from vamper.services.design.job_design import Design, design_job
from vamper.services.design.kept_designs import KeptDesigns
from vamper.services.finish.evening import Evenings
from vamper.services.handoff.drafts import Pictures
from vamper.services.handoff.hand_offs import HandOffs
from vamper.services.handoff.ink import Inks
from vamper.services.jobs.composing import Compositions
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.items import Items
from vamper.services.jobs.jobs import Jobs, JobState
from vamper.services.jobs.jobs import again as titled_again
from vamper.services.jobs.variants import Variants
from vamper.services.lan.passphrase import Passphrase
from vamper.services.ledger.handed import HandedOffs
from vamper.services.ledger.logging import AS_PROPOSED, WasSetAs
from vamper.services.ledger.made_sheets import MadeSheets
from vamper.services.ledger.runs import Runs
from vamper.services.ledger.supplies import Supplies
from vamper.services.ledger.taught import machines_of, taught, waited
from vamper.services.packing.by_hand import ByHand
from vamper.services.packing.counting import Counting
from vamper.services.packing.keyed_problem import KeyedProblem
from vamper.services.packing.named import Layouts
from vamper.services.packing.packing_service import SEARCH_SECONDS, PackingService, PackingState, PackingStatus
from vamper.services.packing.scaling import Scaling, ScalingService, scaled_document
from vamper.services.packing.tables import Table, Tables
from vamper.services.shop.own_fonts import OwnFonts
from vamper.services.shop.shop import Shop
from vamper.services.shop.styles import Styles
from vamper.services.shop.usual import UsualMachines
from vamper.services.twin.dry_run_service import DryRunRequest as AskedRun
from vamper.services.twin.dry_run_service import DryRunService, DryRunStatus
from vamper.services.twin.dry_runs import SENSED_PPI
from vamper.services.twin.photo_checks import PhotoChecks
from vamper.services.twin.practice import practice_drop, practice_machines, practice_vernier
from vamper.services.work.cache import Cache
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions, open_database

# Jobs as they were planned last; one that nobody changed is not planned again.
_KEPT_JOBS = 24


@dataclass(frozen=True, slots=True)
class Planned:
    """A plan with everything that was found on it, and the packing that it came from."""

    plan: Plan
    findings: tuple[Finding, ...]
    packing: PackingStatus


@dataclass(frozen=True, slots=True)
class ArtNotes:
    """What the screen needs to know of an art file beside its picture."""

    pages: int
    composed: bool


class Workshop:
    """Everything one server works with.

    Parameters
    ----------
    designer : Designer
        What designs are worked out with; one that keeps them in this file where none is given.
    """

    def __init__(
        self, path: Path, nester: Nester, search_seconds: float = SEARCH_SECONDS, designer: Designer | None = None
    ) -> None:
        self.path = path
        self._engine = open_database(path)
        self._closing = threading.Event()
        self.sessions = Sessions(self._engine)
        self._kept = KeptDesigns(self.sessions)
        self.designer = designer or Designer(kept=self._kept)
        self.arts = Arts(self.sessions, self.designer)
        self.shop = Shop(self.sessions)
        self.passphrase = Passphrase(self.sessions)
        self.usual = UsualMachines(self.sessions, self.shop)
        self._inks = Inks(self.shown_of)
        self.runs = Runs(self.sessions)
        self.jobs = Jobs(self.sessions, self.shop, self.usual, self._taught, self._waited)
        self.styles = Styles(self.sessions)
        self.own_fonts = OwnFonts(self.sessions)
        self.compositions = Compositions(self.sessions, self.arts, self.jobs, self.designer, self.own_fonts)
        self.items = Items(self.arts, self.jobs, self.designer, self.stock)
        self.nester = nester
        self.packing = PackingService(self.sessions, nester, search_seconds)
        self._designs: Cache[tuple[Design, KeyedProblem]] = Cache(_KEPT_JOBS)
        self._plans: Cache[tuple[Plan, tuple[Finding, ...]]] = Cache(_KEPT_JOBS)
        # The plan that was made last of each job, for what lies as it did.
        self._last: dict[int, Plan] = {}
        self.counting = Counting()
        self.tables = Tables()
        self.by_hand = ByHand(self.jobs)
        self.layouts = Layouts(self.sessions, self.jobs)
        self.hand_offs = HandOffs(self.arts, self.designer)
        self.handed_offs = HandedOffs(self.sessions, self.arts, self.designer)
        self.variants = Variants(self.jobs, self.arts, self.designer)
        self.scalings = ScalingService(nester)
        self.dry_runs = DryRunService()
        self.photo_checks = PhotoChecks()
        self._verniers: Cache[Pixels] = Cache(1)
        self.supplies = Supplies(self.sessions, self.runs)
        self.made = MadeSheets(
            self.sessions, self.shop, self.runs, self.supplies, self.handed_offs, self._as_it_stands, self.ink_ml
        )
        self.evenings = Evenings(self.sessions)

    def close(self) -> None:
        self._closing.set()
        self.scalings.close()
        self.dry_runs.close()
        self.packing.close()
        self._kept.write()
        self._engine.dispose()

    def design(self, state: JobState) -> Design:
        """The job with outlines and edges, before packing."""
        return self._posed(state)[0]

    def _posed(self, state: JobState) -> tuple[Design, KeyedProblem]:
        """The job's design and what packing is asked, both by the value of the job."""
        job = self.jobs.core_job(state)

        def make() -> tuple[Design, KeyedProblem]:
            design = design_job(job, [self.arts.file(item.art) for item in job.items], self.designer)
            return design, KeyedProblem.of(design.problem())

        return self._designs.get(job, make)

    def sheet_design(self, state: JobState) -> Design:
        """The job's sheet alone, whatever its art."""
        return design_job(replace(self.jobs.core_job(state), items=(), held=()), [], self.designer)

    def plan(self, state: JobState) -> Planned:
        """The job's plan with its best layout so far; nothing is begun or changed."""
        design, keyed = self._posed(state)
        packing = self.packing.status(state.id, keyed)
        self.tables.put(state.id, packing.layout_id, state.revision, keyed.problem, packing.layout)

        def make() -> tuple[Plan, tuple[Finding, ...]]:
            plan = design.planned(packing.layout, self._last.get(state.id))
            return plan, findings_of(plan)

        plan, findings = self._plans.get((design.asked, packing.layout_id), make)
        self._last[state.id] = plan
        for old in list(self._last)[:-_KEPT_JOBS]:
            self._last.pop(old, None)
        return Planned(plan, findings, packing)

    def glance(self, state: JobState) -> tuple[Design, Layout]:
        """What a list of jobs shows of one: its designs and its layout so far."""
        design, keyed = self._posed(state)
        return design, self.packing.status(state.id, keyed).layout

    def warm_up(self) -> None:
        """Read the ledger, and work out the designs of the jobs that were changed last, so that they open at once."""
        self.runs.all()
        for summary in self.jobs.all()[:_KEPT_JOBS]:
            if self._closing.is_set():
                return
            # What cannot be planned says so when it is opened.
            with suppress(BadInput, NotFound):
                self._posed(self.jobs.get(summary.id))
        self._kept.write()

    def begin_packing(self, state: JobState) -> PackingStatus:
        """Search for a layout of the job as it is, in the background, unless that was done or is being done."""
        keyed = self._posed(state)[1]
        self._kept.write()
        return self.packing.begin(state.id, keyed)

    def remove_job(self, job_id: int) -> None:
        """Take a job off the list, and end all work for it."""
        self.jobs.remove(job_id)
        self.scalings.stop(job_id)
        self.dry_runs.forget(job_id)
        self.photo_checks.forget(job_id)
        self.packing.forget(job_id)

    def table(self, job_id: int, layout_id: str) -> Table:
        """The layout that a maker has in hand; see `Tables`."""
        return self.tables.get(job_id, layout_id, lambda: self.plan(self.jobs.get(job_id)))

    def pack_again(self, state: JobState, everything: bool = False) -> None:
        """Pack what is not placed by hand, or everything that is not locked.

        Where that brings a layout back that was searched to its end, it is there at once; one whose search was stopped
        is searched on from another seed, and so is one from which nothing had to be released.
        """
        released = self.by_hand.release(state.id, everything)
        design, keyed = self._posed(released)
        if not design.items:
            raise BadInput("there is nothing to pack yet; add art first", "items")
        unfinished = (PackingState.STOPPED, PackingState.INTERRUPTED, PackingState.BROKEN)
        if released.document == state.document or self.packing.status(state.id, keyed).state in unfinished:
            self.packing.restart(state.id, keyed)
        else:
            self.packing.begin(state.id, keyed)

    def scale_to_fill(self, state: JobState, sheets: int) -> Scaling:
        """Look for the largest common scale at which everything fits on so many sheets; then it is the job's."""
        arts = [self.arts.file(item.art) for item in state.document.items]

        def design(job: Job) -> Design:
            return design_job(job, arts, self.designer)

        def keep(factor: float, layout: Layout) -> None:
            after = self.jobs.edit(
                state.id,
                f"scale to {factor * 100:.0f} %",
                lambda document: scaled_document(document, factor, sheets),
                on=state.revision,
            )
            self.packing.adopt(state.id, self._posed(after)[1], layout)

        return self.scalings.start(state.id, self.jobs.core_job(state), sheets, design, keep)

    def picture_of(self, item: DesignedItem) -> Picture:
        """A design's pixels."""
        return self.designer.picture_of(item, self.arts.file(item.spec.art))

    def shown_of(self, item: DesignedItem) -> Picture:
        """A design's pixels as they are shown, which is fine enough for a scan; all of them where it is large."""
        longest_mm = max(item.outline.picture_box_mm[2:])
        if max(PREVIEW_PX) < pixels_at(longest_mm, SENSED_PPI):
            return self.picture_of(item)
        data = self.designer.preview(self.arts.file(item.spec.art), max(PREVIEW_PX), item.spec.prepare)
        return Picture(shown_pixels(data))

    def hand_off(self, state: JobState) -> bytes:
        """Everything in one zip, for a job as it is planned now."""
        planned = self.plan(state)
        return self.hand_offs.bundle(planned.plan, planned.findings)

    def record_hand_off(self, state: JobState) -> None:
        """The job was handed over as it is: that stays known, whatever becomes of it."""
        planned = self.plan(state)
        with self.sessions.together():
            self.handed_offs.record(state.id, state.document, planned.plan, planned.findings)
            self.jobs.mark_handed_off(state.id)

    def log_run(
        self, state: JobState, sheets: int, outcomes: Mapping[Cut, Outcome], was_set: WasSetAs = AS_PROPOSED
    ) -> None:
        """So many sheets of a job were cut, and this is what they look like: the belief, the blade and the mat follow.

        Raises
        ------
        BadInput
            If nothing lies on a sheet, or an outcome is none that this cut can have.
        """
        plan = self.plan(state).plan
        if not plan.sheets:
            raise BadInput("nothing lies on a sheet yet, so nothing was cut; add art first", "items")
        each = [metres_of(plan, sheet) for sheet in range(len(plan.sheets))]
        self.made.keep_cut(plan, state.document, sheets, outcomes, sum(each) / len(each) * sheets, was_set)

    def _as_it_stands(self, job_id: int) -> tuple[JobDocument, Plan]:
        state = self.jobs.get(job_id)
        return state.document, self.plan(state).plan

    def _waited(self, stock: str) -> tuple[LabelFigure, ...]:
        return waited(self.runs, stock)

    def _taught(self, document: JobDocument, job: Job) -> Mapping[str, Any]:
        """What the runs have taught a job on its stock and machines."""
        return taught(self.runs, document.stock, machines_of(self.shop, document), job)

    def ink(self, plan: Plan, sheet: int) -> InkUse:
        """What one sheet (from 0) of a plan takes."""
        return self._inks.of(plan, sheet)

    def ink_ml(self, plan: Plan, sheets: Iterable[int]) -> float:
        """What some sheets (from 0) of a plan take of ink in all."""
        return sum(self.ink(plan, sheet).ml for sheet in sheets if 0 <= sheet < len(plan.sheets))

    def run_again(self, run_id: int, sheets: int) -> int:
        """A new job, exactly as that of a run was handed over: its layout, its counts and what was set, on so many
        sheets. Settings that did not cut as they should are not kept; those follow what was learnt.

        Raises
        ------
        BadInput
            If the run came without its plan, or a machine or its stock is no longer in the workshop.
        """
        kept = self.runs.get(run_id)
        handed = self.made.handed_of(kept)
        if handed is None:
            raise BadInput("the plan of this run is not kept; open its job and copy it, or begin a new one", "run")
        then = tuple(SetThen(cut, one.force_gf, one.passes) for cut, one in handed.plan.settings.items())
        document = replace(
            handed.document,
            title=titled_again(handed.document.title),
            copies=sheets,
            set_then=then if handed.plan.job.cutter.is_machine and kept.run.cut_is_good else (),
        )
        job_id = self.jobs.add(document)
        self.packing.adopt(job_id, self._posed(self.jobs.get(job_id))[1], handed.plan.layout)
        return job_id

    def sample(self, state: JobState, sheet: int, draw: Callable[[Plan, int, Pictures], Pixels]) -> Pixels:
        """A sample picture of a sheet of the plan (from 0)."""
        return draw(self.plan(state).plan, sheet, self.shown_of)

    def finish_tonight(self, job_id: int) -> None:
        """Put a job's pieces into the evening."""
        self.evenings.add(job_id, self.plan(self.jobs.get(job_id)).plan)

    def read_label(self, batch: int, figures: Mapping[str, float]) -> None:
        """Keep what a label says with the stock it is for, and go by it tonight.

        Raises
        ------
        BadInput
            For a figure that is unknown or out of range.
        """
        found = self.evenings.document().batch(batch)
        self.shop.labels.change(found.stock, found.process, figures)
        self.evenings.read_label(batch, figures)

    def begin_dry_run(self, job_id: int, asked: AskedRun) -> DryRunStatus:
        """Run a job dry, in the background, once its packing has ended; where nobody has packed it yet, that begins."""
        self.begin_packing(self.jobs.get(job_id))

        def latest() -> tuple[Plan, bool]:
            now = self.plan(self.jobs.get(job_id))
            return now.plan, now.packing.is_under_way

        return self.dry_runs.begin(job_id, latest()[0], self.shown_of, asked, latest)

    def practise(self, job_id: int) -> None:
        """Make a job on the workshop's simulated machines."""
        printer, cutter = practice_machines(self.shop)
        self.jobs.change(job_id, "practice bench", {"printer_id": printer, "cutter_id": cutter})

    def practice_vernier(self, state: JobState) -> Pixels:
        """The vernier sheet of a job as its practice machines made it."""
        plan = self.plan(state).plan
        key = (plan.job.paper, plan.job.marks, plan.job.printer, plan.job.cutter, plan.job.stock)
        return self._verniers.get(key, lambda: practice_vernier(plan))

    def practice_drop(self, state: JobState, record_id: int, drop: int) -> Pixels:
        """One drop of a ladder as the practice cutter cut it."""
        plan = self.plan(state).plan
        record = self.shop.tried.get(record_id)
        if not 0 <= drop < len(record.drops):
            raise NotFound("this ladder has no such drop")
        return practice_drop(plan, record.cut, record.drops[drop], drop)

    def told(self, state: JobState, plan: Plan | None = None) -> BriefFacts:
        """What the brief of a job is told from; with its plan it also says whether there is enough of its stock."""
        document = state.document
        printer, cutter = self.shop.printers.get(document.printer_id), self.shop.cutters.get(document.cutter_id)
        usual = self.usual.get()
        for_now = {"printer": usual.printer_id is None, "cutter": usual.cutter_id is None}
        shelf = self.supplies.of(document.stock)
        left = None if shelf is None else shelf.left
        needed = 0 if plan is None else len(plan.sheets) * document.copies - document.paper.is_used
        return BriefFacts(document, self.jobs.core_job(state), printer.name, cutter.name, for_now, left, needed)

    def choices(self, state: JobState, phrase: str) -> list[Choice]:
        """What a phrase of a job's brief can be changed to."""
        try:
            design = self.design(state)
        except BadInput:
            design = None
        offcuts = self.supplies.offcuts(state.document.stock)
        return choices(ChoiceContext(state.document, self.jobs.core_job(state), design, self.shop, offcuts), phrase)

    def art_notes(self, digests: set[str]) -> dict[str, ArtNotes]:
        composed = self.compositions.composed_among(digests)
        return {digest: ArtNotes(self.arts.pages(digest), digest in composed) for digest in digests}

    def stock(self, key: str) -> Stock:
        return self.shop.stocks.get(key).value
