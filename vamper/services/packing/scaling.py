"""Scale to fill: the largest common scale at which everything wanted fits on the sheets wanted.

The borders keep their width, so every size has edges of its own; while it is searched for, shapes alone tell whether
it fits (`ScaledShapes`), and the size that is found is designed in full and held against them. A size fits when packing
lays all pieces within a few seconds. It begins at the size at which shapes like these usually fill the sheets; what a
try reached, more or less than was asked for, says where to go on, and where that is not known the interval between a
scale that fits and another that does not is halved. The layout that proved the answer becomes the job's. It is a search
against the clock: another run may find a hair more.
"""

import logging
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum

import numpy as np

from vamper.core.plan import Plan
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.search.promise import likely_fill
from vamper.core.sheet.pack.search.run import HOPELESS_FILL
from vamper.core.sheet.pack.search.whole import WholeFit, fit_whole
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import grow
from vamper.core.values.item import ItemSpec, sized
from vamper.core.values.job import Job
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.design.job_design import Design, design_job
from vamper.services.jobs.document import JobDocument
from vamper.services.packing.planning import TimedWatch
from vamper.services.packing.scaled_shapes import ScaledShapes
from vamper.services.work.not_found import NotFound
from vamper.store.trouble import StoreTrouble

_LOG = logging.getLogger(__name__)

# All tries together, the least for one of them, and the most: what fits at all shows sooner.
_SECONDS, _LEAST_TRIAL_S, _MOST_TRIAL_S = 8.0, 1.5, 6.0
_TRIALS = 12
# No try begins where so little is left to find.
_CLOSE = 0.004
# The load grows with the scale to about this power: art by the square, borders by the first.
_GROWS_BY = 1.85
# A guess keeps so far from what is known to fit and not to fit, as a share of what lies between.
_APART, _A_HAIR = 0.15, 0.005
_SMALLEST = 0.2
# Where a scale that fits by its shapes does not hold in full.
_SMALLER = (1.0, 0.99, 0.97, 0.9)
_LARGEST = 5.0


class ScaleState(StrEnum):
    WORKING = "working"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


@dataclass
class Scaling:
    """One search for the largest scale, as it stands.

    Parameters
    ----------
    sheets : int
        On how many sheets everything is to lie.
    started : float
        By the monotonic clock, s.
    state : ScaleState
        Whether it is at work.
    fits, trying : float or None
        The scale that fits so far, and the scale that is being tried.
    trials : int
        How many scales were tried.
    problem : str
        Why it ended without a scale.
    stopped : Event
        Set to end it.
    """

    sheets: int
    started: float = field(default_factory=time.monotonic)
    state: ScaleState = ScaleState.WORKING
    fits: float | None = None
    trying: float | None = None
    trials: int = 0
    problem: str = ""
    stopped: threading.Event = field(default_factory=threading.Event)

    @property
    def share(self) -> float:
        """How much of the search is done, 0 to 1."""
        return 1.0 if self.state is not ScaleState.WORKING else min(0.95, (time.monotonic() - self.started) / _SECONDS)


class ScalingService:
    """One scale-to-fill a job, in the background."""

    def __init__(self, nester: Nester) -> None:
        self._nester = nester
        self._running: dict[int, Scaling] = {}

    def start(
        self, job_id: int, job: Job, sheets: int, design: Callable[[Job], Design], keep: Callable[[float, Layout], None]
    ) -> Scaling:
        """Begin a search; `keep` is called with the scale and the layout that were found."""
        self.stop(job_id)
        told = Scaling(sheets)
        self._running[job_id] = told

        def run() -> None:
            try:
                found = largest_scale(job, sheets, design, self._nester, told)
                if found is None:
                    stopped = told.stopped.is_set()
                    told.state = ScaleState.STOPPED if stopped else ScaleState.FAILED
                    told.problem = "" if stopped else f"not even a fifth of the size fits on {sheets} sheet(s)"
                    return
                told.fits = found[0]
                keep(found[0], found[2])
                told.state = ScaleState.DONE
            except BadInput as bad:
                told.state, told.problem = ScaleState.FAILED, bad.sentence
            except NotFound:
                # The job was removed meanwhile, and with it whoever wanted to know.
                told.state = ScaleState.STOPPED
            except StoreTrouble as trouble:
                told.state, told.problem = ScaleState.FAILED, str(trouble)
            except Exception:
                _LOG.exception("scaling job %s broke down", job_id)
                told.state, told.problem = ScaleState.FAILED, "the search broke down; nothing was changed, try it again"

        threading.Thread(target=run, daemon=True, name=f"scale-{job_id}").start()
        return told

    def stop(self, job_id: int) -> None:
        """End the search; what was found so far is kept."""
        told = self._running.get(job_id)
        if told is not None:
            told.stopped.set()

    def close(self) -> None:
        for told in self._running.values():
            told.stopped.set()

    def state(self, job_id: int) -> Scaling | None:
        return self._running.get(job_id)


def scaled_job(job: Job, factor: float, sheets: int) -> Job:
    """The job with every size scaled (down to a tenth of a millimetre), on that many sheets."""
    items = tuple(scaled_item(item, factor) for item in job.items)
    packing = replace(job.packing, max_sheets=sheets, fill=False)
    return replace(job, items=items, packing=packing, held=(), scale_to_fill=None)


def scaled_document(document: JobDocument, factor: float, sheets: int) -> JobDocument:
    """The same for the job as it is kept in the workshop."""

    packing = replace(document.packing, max_sheets=sheets, fill=False)
    items = tuple(scaled_item(item, factor) for item in document.items)
    return replace(document, items=items, packing=packing, held=())


def scaled_item(item: ItemSpec, factor: float) -> ItemSpec:
    """The item with its size scaled, down to a tenth of a millimetre."""
    return sized(item, scaled_size(item.size, factor))


def scaled_size(size: SizeSpec, factor: float) -> SizeSpec:
    def side(mm: float | None) -> float | None:
        return None if mm is None else max(1.0, int(mm * factor * 10 + 1e-6) / 10)

    return replace(size, width_mm=side(size.width_mm), height_mm=side(size.height_mm), longest_mm=side(size.longest_mm))


def largest_scale(
    job: Job, sheets: int, design: Callable[[Job], Design], nester: Nester, told: Scaling
) -> tuple[float, Design, Layout] | None:
    """The largest scale found, with its design and layout; None where nothing down to a fifth fits."""
    now = design(job)
    shapes = ScaledShapes(now)

    def fit(factor: float, seconds: float) -> WholeFit:
        """Whether everything fits at a scale, by its shapes where those tell all."""
        scaled = scaled_job(job, factor, sheets)
        try:
            problem = shapes.problem(scaled) if shapes.tell_all else design(scaled).problem()
        except BadInput:
            return WholeFit(None, None)
        return fit_whole(problem, sheets, nester, TimedWatch(seconds, stopped=told.stopped))

    best: tuple[float, Layout] | None = None
    low, (factor, high) = _SMALLEST, _likely_and_most(now, sheets)
    began = time.monotonic()
    while told.trials < _TRIALS and not told.stopped.is_set() and high - low > _CLOSE * high:
        left = _SECONDS - (time.monotonic() - began)
        if best is not None and left < _LEAST_TRIAL_S:
            break
        told.trying = factor
        tried = fit(factor, float(np.clip(left, _LEAST_TRIAL_S, _MOST_TRIAL_S)))
        told.trials += 1
        if tried.layout is not None:
            best, low, told.fits = (factor, tried.layout), factor, factor
        else:
            high = factor
        factor = _next_scale(factor, tried.reach, low, high, _SECONDS - (time.monotonic() - began))
    return None if best is None else _in_full(job, sheets, design, nester, *best)


def _in_full(
    job: Job, sheets: int, design: Callable[[Job], Design], nester: Nester, factor: float, layout: Layout
) -> tuple[float, Design, Layout] | None:
    """A scale that fits by its shapes, with its designs worked out in full: where the layout does not hold for the full
    designs, another layout for them, or for a scale that is a hair smaller.
    """
    for share in _SMALLER:
        found = design(scaled_job(job, factor * share, sheets))
        if share == 1.0 and _holds(found, layout):
            return factor, found, layout
        again = fit_whole(found.problem(), sheets, nester, TimedWatch(_MOST_TRIAL_S))
        if again.layout is not None:
            return factor * share, found, again.layout
    return None


def _holds(found: Design, layout: Layout) -> bool:
    """Whether a layout keeps every rule with the designs as they are."""
    problem = found.problem()
    pieces = {piece.item: piece for piece in problem.pieces}
    return not any(
        breaches(sheet, pieces, found.setup.live_of(number).shape, problem.spec.gap_mm)
        for number, sheet in enumerate(layout.sheets)
    )


def _next_scale(tried: float, reach: float | None, low: float, high: float, left_s: float) -> float:
    """The scale to try next between a scale that fits and one that does not, from the scale tried last and the fill it
    reached; a smaller step where little time is left to prove it.
    """
    if reach is None:
        # Near the bound of areas hardly anything fits: feel upwards from below first.
        return min(low * 1.25, (low + high) / 2) if low > _SMALLEST and high > low * 1.5 else (low + high) / 2
    # What is known of scales that fit is nothing yet where none was tried that did.
    apart = _APART * (high - low) if low > _SMALLEST else _A_HAIR * high
    step = reach ** (1 / _GROWS_BY) - 1
    if step > 0:
        step *= float(np.clip(left_s / _MOST_TRIAL_S, 0.0, 1.0))
    return float(np.clip(tried * (1 + step), low + apart, high - apart))


def plan_scaled(job: Job, arts: Sequence[ArtFile], designer: Designer, nester: Nester) -> Plan:
    """The plan of a job whose file asks for scale to fill.

    Raises
    ------
    BadInput
        If not even a fifth of the size fits on so many sheets.
    """
    sheets = job.scale_to_fill
    assert sheets is not None

    def design(trial: Job) -> Design:
        return design_job(trial, arts, designer)

    found = largest_scale(job, sheets, design, nester, Scaling(sheets))
    if found is None:
        raise BadInput(f"not even a fifth of the size fits on {sheets} sheet(s)", "scale_to_fill")
    _, designed, layout = found
    return designed.planned(replace(layout, time_limited=True))


def _likely_and_most(now: Design, sheets: int) -> tuple[float, float]:
    """The scale at which such shapes usually fill the sheets, and the scale at which areas alone rule it out; borders
    do not grow, so that is a little too large.
    """
    gap = now.job.packing.gap_mm
    room = grow(now.setup.live.shape, gap / 2).area * sheets
    bare = sum(item.outline.shape.area * item.spec.quantity for item in now.items)
    if not bare:
        raise BadInput("there is nothing to scale yet; add art first", "items")
    most = min(_LARGEST, float((HOPELESS_FILL * room / bare) ** 0.5))
    grown = [(grow(item.edge.shape, gap / 2), item.spec.quantity) for item in now.items]
    # Art grows by the square of the scale, what its border and gap add by the scale itself.
    added = max(0.0, sum(shape.area * quantity for shape, quantity in grown) - bare)
    wanted = likely_fill(grown, _MOST_TRIAL_S) * room
    likely = (-added + (added * added + 4 * bare * wanted) ** 0.5) / (2 * bare)
    return float(np.clip(likely, _SMALLEST, most)), most
