"""Sheets that were made: how they came out, and what follows from it; what was seen on them, and the rest of them.

A sheet is looked at as it was handed off, whatever became of its job since; a sheet that was never handed off as the
job stands.
"""

from collections.abc import Callable, Iterable, Mapping
from contextlib import suppress
from dataclasses import replace

import numpy as np

from vamper.core.ledger.miss_kind import EVEN, kind_of_misses
from vamper.core.ledger.rest import rest_of
from vamper.core.ledger.run import CameOut, Run, symptoms_of
from vamper.core.ledger.supply import Offcut
from vamper.core.plan import Plan
from vamper.core.printing.advice import PrintAdvice, advice_for
from vamper.core.values.calibration import thickness_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Feed
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.run_seen import MarksSeen
from vamper.core.values.tried import Outcome
from vamper.services.jobs.document import JobDocument
from vamper.services.ledger.handed import HandedOff, HandedOffs
from vamper.services.ledger.logging import (
    AS_PROPOSED,
    Said,
    WasSetAs,
    cut_outcomes,
    good_of_designs,
    is_simulated,
    misses_of,
    really_set,
    run_of,
)
from vamper.services.ledger.on_hand import FinishedMove, OnHand
from vamper.services.ledger.runs import NO_TRACE, KeptRun, Runs, Trace
from vamper.services.ledger.supplies import Supplies
from vamper.services.ledger.taught import print_learnt
from vamper.services.shop.shop import Shop
from vamper.services.shop.tried import CutRecord, JudgedDrop, RecordKind, blade_then, check_outcome
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions

# A job as it stands, by its number; what some sheets of a plan take of ink.
AsItStands = Callable[[int], tuple[JobDocument, Plan]]
InkMl = Callable[[Plan, Iterable[int]], float]


class MadeSheets:
    """The sheets that one workshop has made."""

    def __init__(
        self,
        sessions: Sessions,
        shop: Shop,
        runs: Runs,
        supplies: Supplies,
        handed_offs: HandedOffs,
        as_it_stands: AsItStands,
        ink_ml: InkMl,
        on_hand: OnHand,
    ) -> None:
        self._sessions = sessions
        self._shop = shop
        self._runs = runs
        self._supplies = supplies
        self._handed_offs = handed_offs
        self._as_it_stands = as_it_stands
        self._ink_ml = ink_ml
        self._on_hand = on_hand

    def handed_of(self, kept: KeptRun) -> HandedOff | None:
        """The hand-off that a run was made by; None where its plan is not kept."""
        return None if kept.hand_off_id is None else self._handed_offs.get(kept.hand_off_id)

    def keep_cut(
        self,
        plan: Plan,
        document: JobDocument,
        sheets: int,
        outcomes: Mapping[Cut, Outcome],
        metres: float,
        was_set: WasSetAs = AS_PROPOSED,
        read: MarksSeen | None = None,
    ) -> Trace:
        """Keep the outcomes of the cuts of so many sheets, and the metres that their blade went; returns what was kept.
        Of force is learnt what was really set, and nothing where nobody said it; of marks whether they were `read`.

        Raises
        ------
        BadInput
            If the job has no such cut, or it cannot look like that.
        """
        stock, cutter = self._shop.stocks.get(document.stock).value, self._shop.cutters.get(document.cutter_id).value
        # Nothing is kept of a run of which one part cannot be.
        for cut, outcome in outcomes.items():
            if cut not in plan.settings:
                raise BadInput(f"{stock.name} has no backing to kiss: say what the cut through looks like", "outcomes")
            check_outcome(stock, cut, outcome)
            if all(plan.item(piece.item).spec.cut is not cut for sheet in plan.sheets for piece in sheet.placements):
                raise BadInput(f"no piece of this job is cut as “{cut}”: say what its own cuts look like", "outcomes")
        really = really_set(plan, was_set)
        records, loads = list[int](), sheets if cutter.feed is Feed.MAT else 0
        with self._sessions.together():
            for cut, outcome in outcomes.items():
                then = really.get(cut)
                if then is None:
                    continue
                blade, worn = blade_then(plan.job.blade, plan.settings[cut].blade)
                drop = JudgedDrop(then.force_gf, then.passes, outcome, then.setting, then.pressure)
                record = CutRecord(RecordKind.RUN, cut, (drop,), blade, worn)
                records.append(self._shop.tried.keep(document.cutter_id, stock, cutter.force_gf, record))
            if read is not None:
                job = plan.asked
                seen = CutRecord(
                    RecordKind.RUN,
                    Cut.KISS,
                    (),
                    marks=read,
                    room_light=job.room_light,
                    remedies=job.marks.remedies,
                )
                records.append(self._shop.tried.keep(document.cutter_id, stock, cutter.force_gf, seen))
            used_blade, used_mat = self._shop.care.ran(document.cutter_id, metres, loads)
        return Trace(tuple(records), blade=used_blade, metres=metres, mat=used_mat, loads=loads)

    def last_handed(self, job_id: int) -> HandedOff:
        """A job as it was handed over last; as it stands, where it never was or no longer can be told."""
        newest = self._handed_offs.newest(job_id)
        handed = None if newest is None else self._handed_offs.get(newest[0])
        if handed is not None:
            return handed
        number, made_at = newest or (None, None)
        return HandedOff(number, job_id, made_at, *self._as_it_stands(job_id))

    def log_outcome(self, job_id: int, said: Said, again: bool = False) -> int:
        """How a sheet that was handed over came out: kept, and with it belief, blade, mat and misses. A run that was
        logged already changes nothing unless it was made `again`.
        """
        handed = self.last_handed(job_id)
        plan, document = handed.plan, handed.document
        offcut = self._supplies.offcut_of(document.stock, document.paper) if said.sheet == 1 else None
        used = offcut is not None or (said.sheet == 1 and document.paper.is_used)
        advice = self.print_advice(document, plan.asked) if plan.job.stock.printable else None
        run = run_of(handed, self._shop, said, advice, self._ink_ml(plan, [said.sheet - 1]), used)
        outcomes, misses = cut_outcomes(plan, run), misses_of(run, plan)

        def keep_along() -> Trace:
            trace = NO_TRACE
            if run.came_out is CameOut.NOT_RUN:
                return trace
            if offcut is not None:
                self._supplies.use_offcut(offcut)
            # What was removed meanwhile learns nothing.
            if (
                outcomes
                and document.cutter_id in self._shop.cutters.all()
                and document.stock in self._shop.stocks.all()
            ):
                trace = self.keep_cut(plan, document, run.sheets, outcomes, run.took.metres, said.was_set, run.read)
            finished = () if run.simulated else self._products_of(job_id, handed, run)
            for name, count in finished:
                self._on_hand.count(name, FinishedMove.MADE, count)
            logged: tuple[int, ...] = ()
            if misses:
                kind = thickness_of(plan.asked.stock.under(plan.asked.finish.laminate_um).thickness_um)
                logged = self._shop.measured.log(document.printer_id, document.cutter_id, misses, kind)
            return replace(trace, misses=logged, offcut=offcut, finished=finished)

        return self._runs.add(run, job_id, handed.number, again, along=keep_along)

    def _products_of(self, job_id: int, handed: HandedOff, run: Run) -> tuple[tuple[str, int], ...]:
        """How many more of each product are whole once a run is counted with earlier runs of the same hand-off: of
        each of its prints there must be one that came out well.
        """
        # Without a hand-off nobody knows by which plan an earlier sheet was made.
        of_job = () if handed.number is None else self._runs.of_job(job_id)
        before = [one.run for one in of_job if one.hand_off_id == handed.number]
        good_before = good_of_designs(handed.plan, before)
        good = good_of_designs(handed.plan, [*before, run])
        more = (
            (one.name, min(good[number] for number in one.items) - min(good_before[number] for number in one.items))
            for one in handed.document.products
        )
        return tuple((name, count) for name, count in more if count > 0)

    def remove(self, run_id: int) -> None:
        """A run was none, after all: what it taught of force, blade, mat and misses goes with it, its sheets lie on the
        shelf again, and the offcut that it was made of is there. Of a run that came from a file, or that an older
        Vamper logged, nothing more than the run itself is known.
        """
        trace = self._runs.trace(run_id) or NO_TRACE
        with self._sessions.together():
            for number in trace.cut_records:
                with suppress(NotFound):
                    self._shop.tried.forget(number)
            if trace.misses:
                self._shop.measured.take_back(trace.misses)
            if trace.offcut is not None:
                self._supplies.put_back_offcut(trace.offcut)
            for name, count in trace.finished:
                self._on_hand.uncount(name, count)
            self._shop.care.did_not_run(trace.blade, trace.metres, trace.mat, trace.loads)
            self._runs.remove(run_id)

    def print_advice(self, document: JobDocument, job: Job) -> PrintAdvice:
        """The print choices that a job is printed with."""
        choice = self._shop.prints.get(document.printer_id, document.stock)
        printer = self._shop.printers.all().get(document.printer_id)
        learnt = print_learnt(self._runs, document.stock, printer.name, is_simulated(job)) if printer else None
        return advice_for(job.stock, job.printer, choice, learnt)

    def symptoms_of(self, kept: KeptRun) -> tuple[str, ...]:
        """The symptoms seen on a run; where its misses are known, they tell what kind of miss it is."""
        seen = symptoms_of(kept.run)
        handed = self.handed_of(kept)
        off = {one.placement: one.off for one in kept.run.spoilt if one.off is not None}
        if EVEN not in seen or handed is None or not off:
            return seen
        edges = handed.plan.sheets[kept.run.sheet - 1].edges
        places = np.array([edges[place].centroid.coords[0] for place in off])
        kind = kind_of_misses(places, np.array([(one.dx_mm, one.dy_mm) for one in off.values()]))
        return tuple(kind if one == EVEN else one for one in seen)

    def keep_rest(self, run_id: int, name: str) -> int:
        """Keep the rest of the sheet of a run as an offcut; returns its number.

        Raises
        ------
        BadInput
            If the run came without its plan.
        """
        kept = self._runs.get(run_id)
        handed = self.handed_of(kept)
        if handed is None:
            raise BadInput("the plan of this run is not kept; say what is left of the sheet by hand", "run")
        paper = rest_of(handed.plan, kept.run.sheet - 1)
        placements = handed.plan.sheets[kept.run.sheet - 1].placements
        colours = {handed.plan.item(one.item).spec.sheet_colour for one in placements} - {None}
        colour = next(iter(colours), handed.document.stock_colour)
        return self._supplies.keep_offcut(Offcut(handed.document.stock, paper, name, colour))
