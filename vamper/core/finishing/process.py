"""Processes: what is done to a stock after it is printed, step by step, as `processes.toml` tells it.

The minutes are starters until the product's label says otherwise. `work.py` makes the steps of one batch of it.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from vamper.core.finishing.dangers import HEATS, Act
from vamper.core.finishing.targets import TARGETS
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import Fibre, FinishSpec, ProcessVariant, Target, WrapSpec
from vamper.core.values.job import Job
from vamper.core.values.stock import Stock, StockClass
from vamper.core.values.tables import table

_TABLE = table(__package__, "processes.toml")


class StepCount(StrEnum):
    """What a step is done for, once each."""

    BATCH = "batch"
    SHEET = "sheet"
    PIECE = "piece"
    COAT = "coat"
    PLATE = "plate"


@dataclass(frozen=True, slots=True)
class ProcessStep:
    """One step of a process. Minutes are those of one `each`, `least` those it takes at least; `lasts` is the figure of
    the label that says how long it takes, `does` what of it can hurt. A rest that is `begun` begins with a hand.
    """

    key: str
    do: str
    minutes: int
    least: int
    hands_on: bool
    each: StepCount
    places: tuple[str, ...]
    within: int | None
    check: str
    label: tuple[str, ...]
    lasts: str | None
    does: tuple[Act, ...]
    school: ProcessVariant | None
    begun: bool = False
    own: bool = False

    @property
    def is_attended(self) -> bool:
        """Whether somebody stays near while it goes on by itself: heat is never left alone."""
        return not self.hands_on and bool(HEATS & set(self.does))


@dataclass(frozen=True, slots=True)
class Process:
    """What is done to a stock after it is printed."""

    key: str
    name: str
    words: str
    classes: tuple[StockClass, ...]
    steps: tuple[ProcessStep, ...]
    coats: int
    schools: Mapping[ProcessVariant, str]
    purposes: tuple[str, ...]
    needs: tuple[str, ...]
    coated: bool
    bare: bool
    layered: bool
    mirrored: bool
    later: str
    fibres: tuple[Fibre, ...]
    wanders: tuple[Fibre, ...]
    pale: bool

    @property
    def on_cloth(self) -> bool:
        return bool(self.fibres)

    def takes(self, place: str) -> bool:
        """Whether one of its steps takes a place: the oven, the press."""
        return any(place in step.places for step in self.steps)

    def label_keys(self) -> tuple[str, ...]:
        """The figures that its products' labels must say."""
        return tuple(dict.fromkeys(key for step in self.steps for key in step.label))

    def step(self, key: str) -> ProcessStep:
        return next(step for step in self.steps if step.key == key)

    def of(self, school: ProcessVariant | None) -> tuple[ProcessStep, ...]:
        """Its steps in one school; the first where none is named."""
        chosen = school if school in self.schools else next(iter(self.schools), None)
        return tuple(step for step in self.steps if step.school in (None, chosen))


def _step(data: Mapping[str, Any]) -> ProcessStep:
    hands = "hands" in data
    minutes = int(data["hands"] if hands else data["rest"])
    return ProcessStep(
        key=data["key"],
        do=data["do"],
        minutes=minutes,
        least=int(data.get("least", minutes)),
        hands_on=hands,
        each=StepCount(data.get("each", StepCount.BATCH)),
        places=tuple(data.get("at", ())),
        within=data.get("within"),
        check=data["check"],
        label=tuple(data.get("label", ())),
        lasts=data.get("lasts"),
        does=tuple(Act(one) for one in data.get("does", ())),
        school=ProcessVariant(data["school"]) if "school" in data else None,
        begun=bool(data.get("begun", False)),
    )


def _process(key: str, data: Mapping[str, Any]) -> Process:
    return Process(
        key=key,
        name=data["name"],
        words=data["words"],
        classes=tuple(StockClass(one) for one in data["classes"]),
        steps=tuple(_step(one) for one in data["steps"]),
        coats=int(data.get("coats", 0)),
        schools={ProcessVariant(one): words for one, words in data.get("schools", {}).items()},
        purposes=tuple(data.get("purposes", ())),
        needs=tuple(data["need"]),
        coated=bool(data.get("coated", False)),
        bare=bool(data.get("bare", False)),
        layered=bool(data.get("layered", False)),
        mirrored=bool(data.get("mirrored", False)),
        later=data.get("later", ""),
        fibres=tuple(Fibre(one) for one in data.get("fibres", ())),
        wanders=tuple(Fibre(one) for one in data.get("wanders", ())),
        pale=bool(data.get("pale", False)),
    )


PROCESSES: dict[str, Process] = {key: _process(key, data) for key, data in _TABLE["processes"].items()}
CUPS: dict[str, WrapSpec] = {
    cup["name"]: WrapSpec(float(cup["top_mm"]), float(cup["bottom_mm"]), float(cup["slant_mm"]))
    for cup in _TABLE["cups"].values()
}
PLACES: dict[str, str] = {key: place["name"] for key, place in _TABLE["places"].items()}
STARTER_PLACES: dict[str, int] = {key: place["holds"] for key, place in _TABLE["places"].items()}
ALWAYS = "The label of your product and your local rules come before this."


def process_of(key: str) -> Process:
    """A process by its key.

    Raises
    ------
    BadInput
        If there is none.
    """
    if key not in PROCESSES:
        raise BadInput(f'there is no process "{key}"; there are {", ".join(PROCESSES)}', "process")
    return PROCESSES[key]


def processes_for(stock: Stock) -> tuple[Process, ...]:
    """The processes that a stock can go through, the usual one first."""
    fit = [
        one
        for one in PROCESSES.values()
        if stock.stock_class in one.classes
        and one.bare == (not stock.printable and stock.stock_class in (StockClass.VINYL, StockClass.FLEX))
        and (stock.stock_class is not StockClass.TRANSFER or one.mirrored == stock.mirrored)
    ]
    return tuple(fit)


def usual_process(stock: Stock, purpose: str, target: Target | None, coated: bool, laminated: bool) -> Process:
    """The process that follows from what a job is made of, what it goes on and what it is for."""
    fit = tuple(one for one in processes_for(stock) if not one.layered)
    meant = TARGETS[target].processes if target is not None else ()
    if laminated:
        fit = tuple(one for one in fit if one.key == "sealed-laminate") or fit
    elif coated:
        fit = tuple(one for one in fit if one.coated) or fit
    else:
        fit = (
            tuple(sorted((one for one in fit if one.key in meant), key=lambda one: meant.index(one.key)))
            or tuple(one for one in fit if purpose in one.purposes)
            or fit
        )
    return fit[0]


def finish_of(
    spec: FinishSpec, stock: Stock, purpose: str, target: Target | None, coated: bool, laminated: bool
) -> Process:
    """The process of a job: the one that was chosen, where its stock can go through it, else what follows."""
    fit = processes_for(stock)
    chosen = next((one for one in fit if one.key == spec.process), None)
    return chosen or usual_process(stock, purpose, target, coated, laminated)


def process_of_job(job: Job) -> Process:
    """How a job is finished. A laminate counts as such whether it is still said of the job or of its stock."""
    laminated = job.laminate_um > 0
    found = finish_of(job.finish, job.stock, job.purpose, job.target, job.coated, laminated)
    if job.finish.process is None and len({item.sheet_colour for item in job.items}) > 1:
        return next((one for one in processes_for(job.stock) if one.layered), found)
    return found
