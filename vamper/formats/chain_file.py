"""The chain of a job after the print, as JSON: `vamper steps`."""

from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter

from vamper.core.finishing.chain import ChainStage, ChainStep, chain_of_job
from vamper.core.finishing.press_plan import MOST_PATCHES, patch_count
from vamper.core.finishing.work import BatchWork, WorkStep, cautions_of, minutes_of, steps_of, work_of
from vamper.core.values.job import Job
from vamper.core.values.product import products_of


def work_asked(job: Job) -> BatchWork:
    """The work in a job as it is asked for, before anything lies on a sheet: one of each sheet, all pieces."""
    pieces = sum(item.quantity for item in job.items) * job.copies
    backs = sum(item.quantity for item in job.items if item.back_of is not None) * job.copies
    sizes = [item.size.wanted_mm for item in job.items] or [0.0]
    patches = min(patch_count(max(sizes), max(sizes), job.finish.heat), MOST_PATCHES)
    return work_of(job, max(1, pieces), job.copies, backs, patches)


@dataclass(frozen=True, slots=True)
class StepEntry:
    """One step of a chain, as it is written.

    Parameters
    ----------
    stage, key, do : ChainStage, str, str
        Which part of the work it belongs to, its code, and what is done.
    minutes, hands_on : int, bool
        How long one of it takes, and whether hands are busy meanwhile.
    times : int
        How often it is done.
    occupies : tuple of str
        The places that it takes up.
    wait_most : int or None
        The greatest wait after the step before, minutes.
    check : str
        What ends it.
    cautions, label : tuple of str
        What can hurt, and which figures the product's label must say.
    """

    stage: ChainStage
    key: str
    do: str
    minutes: int
    hands_on: bool
    times: int
    occupies: tuple[str, ...]
    wait_most: int | None
    check: str
    cautions: tuple[str, ...]
    label: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ChainDocument:
    """A job's chain, as it is written.

    Parameters
    ----------
    way, name : str
        The process's code and its name.
    steps : tuple of StepEntry
        In their order.
    minutes, hands_on_minutes : int
        How long all of it takes, and how much of that is work of hands.
    products : int
        How many products come of it.
    needs : tuple of str
        What must be at hand.
    not_known : tuple of str
        What its labels must still say.
    """

    way: str
    name: str
    steps: tuple[StepEntry, ...]
    minutes: int
    hands_on_minutes: int
    products: int
    needs: tuple[str, ...]
    not_known: tuple[str, ...]


_DOCUMENT = TypeAdapter(ChainDocument)


def steps_document(job: Job) -> dict[str, Any]:
    """The chain of a job as the data of its document."""
    chain, work = chain_of_job(job), work_asked(job)
    every = steps_of(chain, work)
    known = work.figures(chain)
    shown = dict[str, StepEntry]()
    for one in every:
        shown.setdefault(one.step.key, _step(one))
    later = tuple(_later(step, cautions_of(step, chain.facts.where)) for step in chain.later)
    document = ChainDocument(
        way=chain.key,
        name=chain.name,
        steps=(*shown.values(), *later),
        minutes=minutes_of(every),
        hands_on_minutes=sum(one.timed.minutes for one in every if one.timed.hands_on),
        products=products_of(job.products, {item.number: item.quantity for item in job.items}) * job.copies,
        needs=chain.needs,
        not_known=tuple(key for key in chain.label_keys() if key not in known),
    )
    data: dict[str, Any] = _DOCUMENT.dump_python(document, mode="json")
    return data


def steps_schema() -> dict[str, Any]:
    """The JSON Schema of a chain, published with the documentation."""
    return _DOCUMENT.json_schema(mode="serialization")


def _step(one: WorkStep) -> StepEntry:
    return StepEntry(
        stage=one.step.stage,
        key=one.step.key,
        do=one.step.do if one.of > 1 else one.timed.name,
        minutes=one.timed.minutes,
        hands_on=one.timed.hands_on,
        times=one.of,
        occupies=one.timed.occupies,
        wait_most=one.timed.wait_most,
        check=one.step.check,
        cautions=one.cautions,
        label=one.step.label,
    )


def _later(step: ChainStep, cautions: tuple[str, ...]) -> StepEntry:
    return StepEntry(step.stage, step.key, step.do, 0, False, 1, (), None, step.check, cautions, ())
