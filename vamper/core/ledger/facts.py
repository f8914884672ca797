"""What is known of a sheet before anybody looks at it: the facts of the diagnosis that follow from its plan."""

from collections.abc import Iterator

from vamper.core.finishing.chain import chain_of_job
from vamper.core.finishing.work import wanted_coats, work_of
from vamper.core.plan import Plan, detail_of
from vamper.core.values.blade import Blade
from vamper.core.values.cutter import Feed
from vamper.core.values.job import Job
from vamper.core.values.reading import DARK_FACE, Black, RoomLight
from vamper.core.values.stock import Ground, Stock

_GLOSS, _MATTE = 0.5, 0.15
_FINE_MM = 1.0
_BLUNT = 0.75
_OLD_LOADS, _FRESH_LOADS = 8, 0
_NEAR_RIM_MM = 8.0


def facts_of(plan: Plan) -> tuple[str, ...]:
    """The codes of what is known of a plan's sheets."""
    return tuple(dict.fromkeys((*_of_stock(plan.asked), *_of_machine(plan), *_of_work(plan))))


def facts_of_stock(stock: Stock) -> Iterator[str]:
    """The codes of what is known of every sheet of a stock."""
    if stock.gloss >= _GLOSS:
        yield "gloss"
    if stock.gloss <= _MATTE:
        yield "matte"
    if stock.ground is Ground.METALLIC:
        yield "metallic"
    if stock.face_reflectance <= DARK_FACE:
        yield "dark-stock"


def _of_stock(job: Job) -> Iterator[str]:
    yield from facts_of_stock(job.stock)
    if not job.tries and not job.runs:
        yield "new-material"


def _of_machine(plan: Plan) -> Iterator[str]:
    job = plan.job
    if job.calibration is None:
        yield "not-calibrated"
    if job.cutter.feed is Feed.ROLLER:
        yield "roller"
    if job.blade is not None:
        if job.blade.sharpness <= _BLUNT:
            yield "old-blade"
        if job.blade.tuft:
            yield "tuft"
        if job.blade.angle is Blade.STEEP:
            yield "steep-blade"
    if job.mat is not None:
        if job.mat.loads >= _OLD_LOADS:
            yield "old-mat"
        if job.mat.loads <= _FRESH_LOADS:
            yield "fresh-mat"
        if job.mat.lint:
            yield "lint"


def _of_work(plan: Plan) -> Iterator[str]:
    job = plan.asked
    light = {RoomLight.DIM: "dim-light", RoomLight.BRIGHT: "bright-light"}
    if isinstance(job.room_light, RoomLight) and job.room_light in light:
        yield light[job.room_light]
    if job.printer.black is Black.LOW:
        yield "low-black"
    if job.finish.laminate_um:
        yield "laminated"
    chain = chain_of_job(job)
    if chain.facts.coated and not chain.facts.after_cut:
        yield "coated-before"
    if chain.facts.coated and work_of(job).coats_of(chain) < wanted_coats(job, chain):
        yield "few-coats"
    if plan.setup.marks and job.marks.inset_mm < _NEAR_RIM_MM:
        yield "small-inset"
    if detail_of(plan.items).radius_mm < _FINE_MM:
        yield "fine-detail"
