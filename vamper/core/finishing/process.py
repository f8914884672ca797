"""Processes: what is done to a stock after it is printed, step by step, as `processes.toml` tells it.

A process becomes the steps of one batch by the work in it: so many sheets, pieces, coats and platefuls. Coats and their
waits come by turns; what is done piece by piece stays together with what must follow it at once (soak, then place).
The minutes are starters until the product's label says otherwise.
"""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le

from vamper.core.finishing.targets import TARGETS
from vamper.core.finishing.timetable import Batch, TimedStep
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import AddedStep, Fibre, FinishSpec, School, Target, WrapSpec
from vamper.core.values.job import Job
from vamper.core.values.limits import STRICT
from vamper.core.values.stock import Stock, StockClass
from vamper.core.values.tables import table

_TABLE = table(__package__, "processes.toml")
MOST_CAUTIONS = 3
# More repetitions than this are one step to plan with.
_MOST_REPEATS = 8
# The time of one place under the press or the iron.
_PRESSED = "press_s"
_SECONDS_OF = {"s": 1, "min": 60}


class Each(StrEnum):
    """What a step is done for, once each."""

    BATCH = "batch"
    SHEET = "sheet"
    PIECE = "piece"
    COAT = "coat"
    PLATE = "plate"


@dataclass(frozen=True, slots=True)
class Label:
    """A figure that the product's label must say, `first` where nothing is begun before it is known."""

    key: str
    name: str
    unit: str
    ask: str
    most: float
    first: bool = False


@dataclass(frozen=True, slots=True)
class Step:
    """One step of a process. Minutes are those of one `each`, `least` those it takes at least; `lasts` is the figure of
    the label that says how long it takes.
    """

    key: str
    do: str
    minutes: int
    least: int
    hands_on: bool
    each: Each
    places: tuple[str, ...]
    within: int | None
    check: str
    label: tuple[str, ...]
    lasts: str | None
    cautions: tuple[str, ...]
    school: School | None
    own: bool = False


@dataclass(frozen=True, slots=True)
class Process:
    """What is done to a stock after it is printed."""

    key: str
    name: str
    words: str
    classes: tuple[StockClass, ...]
    steps: tuple[Step, ...]
    coats: int
    schools: Mapping[School, str]
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

    def step(self, key: str) -> Step:
        return next(step for step in self.steps if step.key == key)

    def of(self, school: School | None) -> tuple[Step, ...]:
        """Its steps in one school; the first where none is named."""
        chosen = school if school in self.schools else next(iter(self.schools), None)
        return tuple(step for step in self.steps if step.school in (None, chosen))


def _step(data: Mapping[str, Any]) -> Step:
    hands = "hands" in data
    minutes = int(data["hands"] if hands else data["rest"])
    return Step(
        data["key"],
        data["do"],
        minutes,
        int(data.get("least", minutes)),
        hands,
        Each(data.get("each", Each.BATCH)),
        tuple(data.get("at", ())),
        data.get("within"),
        data["check"],
        tuple(data.get("label", ())),
        data.get("lasts"),
        tuple(data.get("care", ())),
        School(data["school"]) if "school" in data else None,
    )


def _process(key: str, data: Mapping[str, Any]) -> Process:
    return Process(
        key,
        data["name"],
        data["words"],
        tuple(StockClass(one) for one in data["classes"]),
        tuple(_step(one) for one in data["steps"]),
        int(data.get("coats", 0)),
        {School(one): words for one, words in data.get("schools", {}).items()},
        tuple(data.get("purposes", ())),
        tuple(data["need"]),
        bool(data.get("coated", False)),
        bool(data.get("bare", False)),
        bool(data.get("layered", False)),
        bool(data.get("mirrored", False)),
        data.get("later", ""),
        tuple(Fibre(one) for one in data.get("fibres", ())),
        tuple(Fibre(one) for one in data.get("wanders", ())),
        bool(data.get("pale", False)),
    )


PROCESSES: dict[str, Process] = {key: _process(key, data) for key, data in _TABLE["processes"].items()}
LABELS: dict[str, Label] = {key: Label(key, **data) for key, data in _TABLE["label"].items()}
CAUTIONS: dict[str, str] = dict(_TABLE["cautions"])
CUPS: dict[str, WrapSpec] = {
    cup["name"]: WrapSpec(float(cup["top_mm"]), float(cup["bottom_mm"]), float(cup["slant_mm"]))
    for cup in _TABLE["cups"].values()
}
PLACES: dict[str, str] = {key: place["name"] for key, place in _TABLE["places"].items()}
STARTER_PLACES: dict[str, int] = {key: place["holds"] for key, place in _TABLE["places"].items()}
HEAT_UNIT = "°C"
ADDED_CHECK = "tried on a scrap of the same stock first; dry before the next step"
ALWAYS = "The label of your product and your local rules come before this."


@dataclass(frozen=True, slots=True)
class Work:
    """How much of it there is: pieces, sheets, coats (None: the process' own), pieces a plate or oven holds, and in how
    many patches a piece is pressed.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    pieces: Annotated[int, Ge(1), Le(10_000)] = 1
    sheets: Annotated[int, Ge(1), Le(1000)] = 1
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    plate: Annotated[int, Ge(1), Le(1000)] = 6
    school: School | None = None
    label: Mapping[str, float] = field(default_factory=dict)
    added: tuple[AddedStep, ...] = ()
    patches: Annotated[int, Ge(1), Le(1000)] = 1


@dataclass(frozen=True, slots=True)
class WorkStep:
    """One step of a batch: what it is in its process, what is planned of it, how many minutes it takes at least, and
    how many of it there are.
    """

    step: Step
    timed: TimedStep
    least: int
    of: int


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


def steps_of(process: Process, work: Work) -> tuple[WorkStep, ...]:
    """The steps of one batch in their order."""
    found = list[WorkStep]()
    for group in _groups(_with_added(process.of(work.school), work.added)):
        each = group[0].each
        times = _times(each, process, work)
        if len(group) == 1 and each in (Each.PIECE, Each.SHEET):
            # Nothing must follow each of them at once, so they are done in one go.
            found.append(_timed(group[0], times, 1, 1, work))
        elif times > _MOST_REPEATS and each in (Each.PIECE, Each.PLATE):
            found.append(_lot(group, times, work))
        else:
            found += [_timed(step, 1, number + 1, times, work) for number in range(times) for step in group]
    return tuple(found)


def batch_of(name: str, process: Process, work: Work) -> Batch:
    """The same as a batch to be planned."""
    return Batch(name, tuple(one.timed for one in steps_of(process, work)))


def cautions_of(steps: Iterable[Step]) -> list[str]:
    """The cautions of some steps, never more than three, the ones that hurt most first."""
    keys = {key for step in steps for key in step.cautions}
    return [text for key, text in CAUTIONS.items() if key in keys][:MOST_CAUTIONS]


def _groups(steps: Sequence[Step]) -> list[list[Step]]:
    """Neighbours that are repeated together: coats with their waits, and what must follow at once."""
    groups = list[list[Step]]()
    for step in steps:
        last = groups[-1][-1] if groups else None
        joined = (
            last is not None
            and last.each is step.each
            and (step.each is Each.COAT or (step.within is not None and step.each in (Each.PIECE, Each.PLATE)))
        )
        if joined:
            groups[-1].append(step)
        else:
            groups.append([step])
    return groups


def _with_added(steps: Sequence[Step], added: Sequence[AddedStep]) -> list[Step]:
    """The steps with those that a maker put between them; those after a step that is not there come at the end."""
    keys = {step.key for step in steps}
    found, last = list[Step](), [one for one in added if one.after not in keys]
    for step in steps:
        found += [step, *(_by_hand(one) for one in added if one.after == step.key)]
    return found + [_by_hand(one) for one in last]


def _by_hand(one: AddedStep) -> Step:
    key, minutes = f"added-{one.do}", one.minutes
    return Step(key, one.do, minutes, minutes, True, Each.SHEET, (), None, ADDED_CHECK, (), None, (), None, own=True)


def _lot(group: Sequence[Step], times: int, work: Work) -> WorkStep:
    """Many repetitions as one step: whoever does it goes from one piece to the next, and has read all it needs."""
    name = f"{times} times: {', then '.join(_as_next(number, step.do) for number, step in enumerate(group))}"
    whole = replace(
        group[0],
        hands_on=True,
        check="; ".join(step.check for step in group),
        places=_all_of(step.places for step in group),
        label=_all_of(step.label for step in group),
        cautions=_all_of(step.cautions for step in group),
    )
    minutes = times * sum(_minutes(step, work) for step in group)
    return WorkStep(whole, TimedStep(name[:100], minutes, True, whole.places, 0, whole.within), 0, 1)


def _all_of(several: Iterable[tuple[str, ...]]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(one for some in several for one in some))


def _as_next(number: int, do: str) -> str:
    return do if number == 0 else do[0].lower() + do[1:]


def minutes_of(steps: Sequence[WorkStep]) -> int:
    """How long a batch takes with nothing else in its way."""
    return sum(one.timed.minutes for one in steps)


def _times(each: Each, process: Process, work: Work) -> int:
    match each:
        case Each.BATCH:
            return 1
        case Each.SHEET:
            return work.sheets
        case Each.COAT:
            return max(0, int(work.label.get("coats", work.coats if work.coats is not None else process.coats)))
        case Each.PIECE:
            return work.pieces
        case Each.PLATE:
            return -(-work.pieces // work.plate)


def _by_label(step: Step, work: Work) -> int | None:
    """How many minutes the label says, seconds rounded up; None where it has not been read."""
    if step.lasts is None or step.lasts not in work.label:
        return None
    seconds = work.label[step.lasts] * _SECONDS_OF[LABELS[step.lasts].unit]
    if step.lasts == _PRESSED:
        seconds *= work.patches
    return max(1, math.ceil(seconds / _SECONDS_OF["min"]))


def _minutes(step: Step, work: Work) -> int:
    """How long one of a step takes; hands never take less than usual, they lay it in and take it out as well."""
    said = _by_label(step, work)
    if said is None:
        return step.minutes
    return max(said, step.minutes) if step.hands_on else said


def _timed(step: Step, many: int, number: int, of: int, work: Work) -> WorkStep:
    """One step; `many` of it are done in one go, or it is one `of` several."""
    name = f"{step.do} ({number} of {of})" if of > 1 else step.do
    said = _by_label(step, work)
    timed = TimedStep(name, many * _minutes(step, work), step.hands_on, step.places, 0, step.within)
    # What only rests is not over before its label says, whatever a touch tells.
    return WorkStep(step, timed, 0 if step.hands_on else step.least if said is None else said, of)
