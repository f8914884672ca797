"""The chain on the bench card: what comes before the cut stands before it, what comes after stands after it.

One step of the card for each before the sheet is loaded; what follows afterwards is one list, with its minutes and its
cautions, since it is done at another table.
"""

from collections.abc import Iterable, Iterator

from vamper.core.bench_step import BenchStep
from vamper.core.finishing.chain import ALWAYS, ChainStage, chain_of_job
from vamper.core.finishing.work import WorkStep, steps_of, work_of
from vamper.core.plan import Plan

_LAID = "laminate"


def before_the_cut(plan: Plan, trim: str = "") -> Iterator[BenchStep]:
    """The steps done to the sheet before it is cut; `trim` is how large a laminate may be."""
    for one in _once(_steps(plan)[0]):
        figures = (_times(one),) if one.timed.minutes else ()
        size = (trim,) if trim and one.step.key == _LAID else ()
        yield BenchStep(one.step.key, one.step.do, (*size, *figures), (one.step.check, *one.cautions))


def after_the_cut(plan: Plan) -> BenchStep:
    """The steps once the sheet is off the machine."""
    steps = list(_once(_steps(plan)[1]))
    cautions = dict.fromkeys(caution for one in steps for caution in one.cautions)
    later = (f"{step.do}" for step in chain_of_job(plan.asked).later)
    lines = (*(f"{one.step.do}: {_times(one)}" for one in steps), *later, *cautions, ALWAYS)
    return BenchStep("after", "Afterwards", (), lines)


def _steps(plan: Plan) -> tuple[list[WorkStep], list[WorkStep]]:
    """The steps before the cut, and those after it."""
    job = plan.asked
    pieces = max(1, plan.layout.pieces * job.copies)
    every = steps_of(chain_of_job(job), work_of(job, pieces, max(1, len(plan.sheets)) * job.copies))
    cut = next(place for place, one in enumerate(every) if one.step.stage is ChainStage.CUT)
    return list(every[:cut]), list(every[cut + 1 :])


def _once(steps: Iterable[WorkStep]) -> Iterator[WorkStep]:
    """Each step once, however often it comes."""
    seen = set[str]()
    for one in steps:
        if one.step.key not in seen:
            seen.add(one.step.key)
            yield one


def _times(one: WorkStep) -> str:
    minutes = one.timed.minutes
    said = f"{minutes} min" if minutes < 90 else f"{minutes / 60:.3g} h"
    return f"{said}, {one.of} times" if one.of > 1 else said
