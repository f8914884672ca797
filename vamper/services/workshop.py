"""The workshop: one file with its jobs, art and machines, and what works on them while the program runs."""

from dataclasses import replace
from pathlib import Path

from sqlalchemy import select

from vamper.core.art.picture import Picture
from vamper.core.findings import BadInput
from vamper.core.job import Job
from vamper.core.plan import DesignedItem, Plan, complete, pack_problem
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.nesting import Nester
from vamper.core.stocks import Stock
from vamper.formats.safe_text import safe_file_name
from vamper.services.arts import Arts
from vamper.services.by_hand import ByHand
from vamper.services.cache import Cache
from vamper.services.composing import Compositions
from vamper.services.counting import Counting
from vamper.services.design import ArtFile, Designer
from vamper.services.document import JobDocument
from vamper.services.hand_off import bundle, is_own_name
from vamper.services.items import Items
from vamper.services.jobs import Jobs, JobState
from vamper.services.layouts import Layouts
from vamper.services.machines import Machines
from vamper.services.packing_desk import SEARCH_SECONDS, Packing, PackingDesk, PackingState, Posed
from vamper.services.planning import Design, design_job
from vamper.services.scaling import Scaling, ScalingDesk, scaled_document
from vamper.services.shop import Shop
from vamper.services.styles import Styles
from vamper.services.tables import Table, Tables
from vamper.services.variants import Variants
from vamper.store.database import Sessions, open_database
from vamper.store.models import StockRow
from vamper.store.rows import add_starters

# Jobs as they were planned last; one that nobody changed is not planned again.
_KEPT_JOBS = 24


class Workshop:
    """Everything one server works with."""

    def __init__(self, path: Path, nester: Nester, search_seconds: float = SEARCH_SECONDS) -> None:
        self.path = path
        self._engine = open_database(path)
        self.sessions = Sessions(self._engine)
        with self.sessions.begin() as session:
            if session.scalar(select(StockRow.key).limit(1)) is None:
                add_starters(session)
        self.designer = Designer()
        self.arts = Arts(self.sessions, self.designer)
        self.shop = Shop(self.sessions)
        self.jobs = Jobs(self.sessions, self.shop)
        self.styles = Styles(self.sessions)
        self.compositions = Compositions(self.sessions, self.arts, self.jobs, self.designer)
        self.items = Items(self.arts, self.jobs, self.designer, self.stock)
        self.desk = PackingDesk(self.sessions, nester, search_seconds)
        self._designs: Cache[tuple[Design, Posed]] = Cache(_KEPT_JOBS)
        self._plans: Cache[Plan] = Cache(_KEPT_JOBS)
        self.counting = Counting()
        self.tables = Tables()
        self.by_hand = ByHand(self.jobs)
        self.layouts = Layouts(self.sessions, self.jobs)
        self.machines = Machines(self.sessions, self.shop)
        self.variants = Variants(self.jobs, self.arts, self.designer)
        self.scalings = ScalingDesk(nester)

    def close(self) -> None:
        self.scalings.close()
        self.desk.close()
        self._engine.dispose()

    def design(self, state: JobState) -> Design:
        """The job with outlines and edges, before packing."""
        return self._posed(state)[0]

    def _posed(self, state: JobState) -> tuple[Design, Posed]:
        """The job's design and what packing is asked, both by the value of the job."""
        job = self.jobs.core_job(state)

        def make() -> tuple[Design, Posed]:
            design = design_job(job, [self.arts.file(item.art) for item in job.items], self.designer)
            return design, Posed.of(pack_problem(design.job, design.setup, design.items))

        return self._designs.get(job, make)

    def sheet_design(self, state: JobState) -> Design:
        """The job's sheet alone, whatever its art."""
        return design_job(replace(self.jobs.core_job(state), items=(), held=()), [], self.designer)

    def plan(self, state: JobState) -> tuple[Plan, Packing]:
        """The job's plan with its best layout so far; nothing is begun or changed."""
        design, posed = self._posed(state)
        packing = self.desk.look(state.id, posed)
        self.tables.put(state.id, packing.layout_id, state.revision, posed.problem, packing.layout)

        def make() -> Plan:
            return complete(design.job, design.setup, design.items, packing.layout)

        return self._plans.get((design.job, packing.layout_id), make), packing

    def begin_packing(self, state: JobState) -> Packing:
        """Search for a layout of the job as it is, in the background, unless that was done or is being done."""
        return self.desk.begin(state.id, self._posed(state)[1])

    def remove_job(self, job_id: int) -> None:
        """Take a job off the list, and end all work for it."""
        self.jobs.remove(job_id)
        self.scalings.stop(job_id)
        self.desk.forget(job_id)

    def table(self, job_id: int, layout_id: str) -> Table:
        """The layout that a maker has in hand; see `Tables`."""
        return self.tables.get(job_id, layout_id, lambda: self.plan(self.jobs.get(job_id)))

    def pack_again(self, state: JobState, everything: bool = False) -> None:
        """Pack what is not placed by hand, or everything that is not locked.

        Where that brings a layout back that was searched to its end, it is there at once; one whose search was stopped
        is searched on from another seed, and so is one from which nothing had to be released.
        """
        released = self.by_hand.release(state.id, everything)
        design, posed = self._posed(released)
        if not design.items:
            raise BadInput("there is nothing to pack yet; add art first", "items")
        unfinished = (PackingState.STOPPED, PackingState.INTERRUPTED, PackingState.BROKEN)
        if released.document == state.document or self.desk.look(state.id, posed).state in unfinished:
            self.desk.again(state.id, posed)
        else:
            self.desk.begin(state.id, posed)

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
            self.desk.adopt(state.id, self._posed(after)[1], layout)

        return self.scalings.start(state.id, self.jobs.core_job(state), sheets, design, keep)

    def picture_of(self, item: DesignedItem) -> Picture:
        """A design's pixels."""
        return self.designer.picture_of(item, self.arts.file(item.spec.art))

    def made_with(self, document: JobDocument) -> tuple[Stock, str | None, str]:
        """The job's stock, and what its printer (None where nothing is printed) and cutter are called."""
        stock = self.shop.stock(document.stock)
        printer = self.shop.printer(document.printer_id).name if stock.printable else None
        return stock, printer, self.shop.cutter(document.cutter_id).name

    def hand_off(self, state: JobState) -> bytes:
        """Everything in one zip."""
        plan, _ = self.plan(state)
        arts = self.bundle_arts(state)
        name_of = {art.digest: name for name, art in arts.items()}
        items = tuple(replace(item, art=name_of[item.art]) for item in plan.job.items)
        designed = tuple(replace(item, spec=spec) for item, spec in zip(plan.items, items, strict=True))
        named = replace(plan, job=replace(plan.job, items=items), items=designed)
        return bundle(
            named,
            {name: art.data for name, art in arts.items()},
            lambda item: self.designer.picture_of(item, arts[item.spec.art]),
        )

    def bundle_arts(self, state: JobState) -> dict[str, ArtFile]:
        """The job's art files by names that are safe to unpack: no two are the same on any file system, and none is
        that of a file that Vamper writes.
        """
        named: dict[str, ArtFile] = {}
        taken: set[str] = set()
        for digest in dict.fromkeys(item.art for item in state.document.items):
            art = self.arts.file(digest)
            base = safe_file_name(art.name)
            stem, dot, ending = base.rpartition(".") if "." in base else (base, "", "")
            name, number = base, 1
            while name.lower() in taken or is_own_name(name):
                number += 1
                name = f"{stem}-{number}{dot}{ending}"
            taken.add(name.lower())
            named[name] = art
        return named

    def stock(self, key: str) -> Stock:
        return self.shop.stock(key)

    def stocks(self) -> list[StockRow]:
        with self.sessions() as session:
            return list(session.scalars(select(StockRow).order_by(StockRow.position)))
