"""Planning a whole job from its art files: design every item, set up the sheet, pack, and draw it together."""

import threading
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace

from vamper.core.art.picture import Picture
from vamper.core.devices import Cutter
from vamper.core.edge.by_hand import for_hand
from vamper.core.edge.inspect import EdgeFacts
from vamper.core.edge.two_sided import back_edge
from vamper.core.findings import BadInput
from vamper.core.job import ItemSpec, Job
from vamper.core.plan import (
    DesignedItem,
    Plan,
    SheetSetup,
    check_quantity,
    complete,
    pack_problem,
    set_up_sheet,
)
from vamper.core.printing.bleed import bleed_for
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.nesting import Nester
from vamper.core.sheet.packing import pack
from vamper.core.stocks import Stock
from vamper.services.design import ArtFile, Designer
from vamper.services.reading_room import SEATS

DEFAULT_SECONDS = 5.0


@dataclass
class TimedWatch:
    """Lets a packing run for some seconds, or until it is told to stop; passes every better layout on."""

    seconds: float
    on_better: Callable[[Layout], None] = lambda _layout: None
    stopped: threading.Event = field(default_factory=threading.Event)
    started: float = field(default_factory=time.monotonic)

    def seconds_left(self) -> float:
        if self.stopped.is_set():
            return 0.0
        return self.seconds - (time.monotonic() - self.started)

    def cut_short(self, seconds: float) -> None:
        """Leave it no more than this many seconds from now."""
        self.seconds = min(self.seconds, time.monotonic() - self.started + seconds)

    def better(self, layout: Layout) -> None:
        self.on_better(layout)


@dataclass(frozen=True, slots=True)
class Design:
    """A job with everything that comes before packing."""

    job: Job
    setup: SheetSetup
    items: tuple[DesignedItem, ...]


def design_job(job: Job, arts: Sequence[ArtFile], designer: Designer) -> Design:
    """Sheet and items of a job; `arts` goes with `job.items` one by one.

    Raises
    ------
    BadInput
        For a sheet without live area, too many pieces, or art that cannot be used.
    """
    check_quantity(job)
    setup = set_up_sheet(job)

    def design(index: int, spec: ItemSpec, art: ArtFile) -> DesignedItem:
        try:
            return designer.design(index, cut_with(job.cutter, spec), art, job.stock)
        except BadInput as bad:
            raise BadInput(bad.sentence, bad.where or f"items.{index}") from None

    # As many at once as can be read at once.
    with ThreadPoolExecutor(SEATS) as at_once:
        items = list(at_once.map(design, range(len(job.items)), job.items, arts))
    backs = [
        item
        if item.spec.back_of is None
        else as_back(item, items[item.spec.back_of], designer.picture_of(item, art), job.stock)
        for item, art in zip(items, arts, strict=True)
    ]
    return Design(job, setup, tuple(backs))


def cut_with(cutter: Cutter, spec: ItemSpec) -> ItemSpec:
    """The item as this cutter can cut it: scissors need rounder edges."""
    return spec if cutter.is_machine else replace(spec, edge=for_hand(spec.edge))


def as_back(item: DesignedItem, front: DesignedItem, picture: Picture, stock: Stock) -> DesignedItem:
    """The design, of that picture, cut to its front's edge, turned over."""
    edge = back_edge(front.edge, front.outline, item.outline)
    spec = front.spec.edge
    return replace(
        item,
        spec=replace(item.spec, edge=spec),
        edge=edge,
        edge_facts=EdgeFacts(stock.least_neck_mm),
        bleed=bleed_for(picture, item.outline, edge, spec, stock.colour, item.spec.bleed_mm),
    )


def plan_job(
    job: Job,
    arts: Sequence[ArtFile],
    designer: Designer,
    nester: Nester,
    seconds: float = DEFAULT_SECONDS,
    seed: int = 1,
) -> Plan:
    """The plan of a job, packing included; blocks for up to `seconds`."""
    design = design_job(job, arts, designer)
    layout = pack(pack_problem(job, design.setup, design.items, seed), nester, TimedWatch(seconds))
    return complete(job, design.setup, design.items, layout)
