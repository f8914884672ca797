"""The steps of one batch: its chain, by the work in it.

So many sheets, pieces, coats and platefuls: coats and their waits come by turns; what is done piece by piece stays
together with what must follow it at once (soak, then place). How long a step takes follows from the label where it was
read; a label's greatest time is never its least.
"""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Any, ClassVar, TypeVar

from annotated_types import Ge, Le

from vamper.core.finishing.chain import USUAL_COATS, Chain, ChainStage, ChainStep, StepCount
from vamper.core.finishing.dangers import Act, Circumstances, dangers_of
from vamper.core.finishing.labels import LABELS, believed
from vamper.core.finishing.timetable import Batch, TimedStep
from vamper.core.printing.advice import advice_for
from vamper.core.values.finish import AddedStep, TimeFor
from vamper.core.values.job import Job
from vamper.core.values.limits import STRICT

# More repetitions than this are one step to plan with.
_MOST_REPEATS = 8
# What is timed for every spot under the plate or the iron, where the label says so.
_PRESSED = ("press_s", "tack_s", "second_s")
_SECONDS_A_MINUTE = 60
# Waits of which the maker's own record counts where it is longer than the label.
WAITS = frozenset({"dry_minutes", "coat_minutes", "cure_minutes", "base_minutes", "top_minutes"})
_T = TypeVar("_T")
_ANYWHERE = Circumstances()
ADDED_CHECK = "tried on a scrap of the same stock first; dry before the next step"


@dataclass(frozen=True, slots=True)
class BatchWork:
    """How much work there is.

    Parameters
    ----------
    pieces, backs, sheets : int
        Pieces, those among them that are second sides of others, and sheets.
    coats : int or None
        None: as the label says, or as is usual.
    plate : int
        Pieces that a plate or an oven holds.
    added : tuple of AddedStep
        Steps that the maker added.
    patches, for_spot : int, bool
        On how many spots a piece is pressed; whether the label's time is for each spot, or for the whole.
    label, record, starters : mapping of str to float
        What was read on labels, how long the maker's own runs waited, and what is planned with until either is known.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    pieces: Annotated[int, Ge(1), Le(10_000)] = 1
    sheets: Annotated[int, Ge(1), Le(1000)] = 1
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    plate: Annotated[int, Ge(1), Le(1000)] = 6
    label: Mapping[str, float] = field(default_factory=dict)
    added: tuple[AddedStep, ...] = ()
    patches: Annotated[int, Ge(1), Le(1000)] = 1
    for_spot: bool = False
    backs: Annotated[int, Ge(0), Le(10_000)] = 0
    record: Mapping[str, float] = field(default_factory=dict)
    starters: Mapping[str, float] = field(default_factory=dict)

    def figures(self, chain: Chain) -> dict[str, float]:
        """The figures of the labels, as far as a label can say them; waits are never shorter than the maker's own."""
        stock = chain.facts.stock
        read = believed(stock, self.label)
        own = {key: value for key, value in believed(stock, self.record).items() if key in WAITS}
        return {**read, **{key: max(value, read.get(key, 0.0)) for key, value in own.items()}}

    def coats_of(self, chain: Chain) -> int:
        """How many coats it gets: as many as were asked for, else as the label says, else the usual number."""
        if not chain.facts.coated:
            return 0
        if self.coats is not None:
            return self.coats
        return int(believed(chain.facts.stock, self.label).get("coats", USUAL_COATS))


@dataclass(frozen=True, slots=True)
class WorkStep:
    """One step of a batch.

    Parameters
    ----------
    step : ChainStep
        What it is in its chain.
    timed : TimedStep
        What is planned of it.
    least : int
        How many minutes it takes at least.
    of : int
        How many of it the batch takes, one after the other.
    cautions : tuple of str
        What can hurt in it.
    most_s : float or None
        After how many seconds it must be over; None where it may last.
    """

    step: ChainStep
    timed: TimedStep
    least: int
    of: int
    cautions: tuple[str, ...] = ()
    most_s: float | None = None


def steps_of(chain: Chain, work: BatchWork) -> tuple[WorkStep, ...]:
    """The steps of one batch in their order."""
    found = list[WorkStep]()
    figures = work.figures(chain)
    steps = _with_added([step for step in chain.steps if not _is_quick(step, figures, work)], work.added)
    for group in _groups(_with_ends(steps)):
        each = group[0].each
        times = _times(each, chain, work)
        if len(group) == 1 and each in (StepCount.PIECE, StepCount.SHEET):
            # Nothing must follow each of them at once, so they are done in one go.
            found.append(_timed(group[0], times, 1, 1, figures, work, chain))
        elif times > _MOST_REPEATS and each in (StepCount.PIECE, StepCount.PLATE):
            found.append(_lot(group, times, figures, work, chain))
        else:
            found += [
                _timed(step, 1, number + 1, times, figures, work, chain) for number in range(times) for step in group
            ]
    return tuple(found)


def work_of(job: Job, pieces: int = 1, sheets: int = 1, backs: int = 0, patches: int = 1) -> BatchWork:
    """The work of a job, as it was asked for."""
    spec = job.finish
    said = {"press_s": spec.press.seconds, "peel": spec.press.peel_after_s, "second_s": spec.press.second_s}
    label = {one.key: one.value for one in spec.label}
    return BatchWork(
        pieces=pieces,
        sheets=sheets,
        coats=None if spec.cover is None else spec.cover.coats,
        plate=spec.plate,
        label=label | {key: value for key, value in said.items() if value is not None},
        added=spec.added,
        patches=patches,
        for_spot=spec.press.time_for is TimeFor.SPOT,
        backs=backs,
        record={one.key: one.value for one in spec.record},
        starters={"dry_minutes": advice_for(job.stock, job.printer).dry_minutes},
    )


def dry_minutes(chain: Chain, work: BatchWork) -> int:
    """How long the print dries, by the one figure that every station goes by; 0 where nothing has to dry."""
    dry = next((step for step in chain.steps if step.stage is ChainStage.DRY), None)
    if dry is None or _is_quick(dry, work.figures(chain), work):
        return 0
    return _minutes(dry, work.figures(chain), work)


def wanted_coats(job: Job, chain: Chain) -> int:
    """How many coats the label wants, else are usual, whatever was asked for."""
    return replace(work_of(job), coats=None).coats_of(chain)


def batch_of(name: str, chain: Chain, work: BatchWork) -> Batch:
    """The same as a batch to be planned."""
    return Batch(name, tuple(one.timed for one in steps_of(chain, work)))


def _is_quick(step: ChainStep, figures: Mapping[str, float], work: BatchWork) -> bool:
    """Whether its own figure says that it takes no time at all: stock that comes out dry."""
    if step.lasts is None or step.hands_on or step.each is not StepCount.BATCH:
        return False
    return figures.get(step.lasts, work.starters.get(step.lasts)) == 0


def _with_ends(steps: Sequence[ChainStep]) -> list[ChainStep]:
    """The steps with what is done whatever they are: the last hands a piece out, and brings it to its place where no
    other does.
    """
    placed = any(Act.PLACE in step.does for step in steps)
    ends = (Act.HAND_OUT,) if placed else (Act.PLACE, Act.HAND_OUT)
    return [*steps[:-1], replace(steps[-1], does=(*steps[-1].does, *ends))]


def _groups(steps: Sequence[ChainStep]) -> list[list[ChainStep]]:
    """Neighbours that are repeated together: coats with their waits, and what must follow at once."""
    groups = list[list[ChainStep]]()
    for step in steps:
        last = groups[-1][-1] if groups else None
        joined = (
            last is not None
            and last.each is step.each
            and (
                step.each is StepCount.COAT
                or ((step.within is not None or step.together) and step.each in (StepCount.PIECE, StepCount.PLATE))
            )
        )
        if joined:
            groups[-1].append(step)
        else:
            groups.append([step])
    return groups


def _with_added(steps: Sequence[ChainStep], added: Sequence[AddedStep]) -> list[ChainStep]:
    """The steps with the steps that a maker added between them; those after nothing come first, those after a step that
    is not there at the end.
    """
    keys = {step.key for step in steps}
    found = [_by_hand(one) for one in added if not one.after]
    last = [one for one in added if one.after and one.after not in keys]
    for step in steps:
        found += [step, *(_by_hand(one) for one in added if one.after == step.key)]
    return found + [_by_hand(one) for one in last]


def _by_hand(one: AddedStep) -> ChainStep:
    return ChainStep(
        stage=ChainStage.BY_HAND,
        key=f"added-{one.do}",
        do=one.do,
        minutes=one.minutes,
        least=one.minutes,
        hands_on=True,
        each=StepCount.SHEET,
        places=(),
        within=None,
        check=ADDED_CHECK,
        label=(),
        lasts=None,
        does=(),
        own=True,
    )


def _lot(
    group: Sequence[ChainStep], times: int, figures: Mapping[str, float], work: BatchWork, chain: Chain
) -> WorkStep:
    """Many repetitions as one step: whoever does it goes from one piece to the next, and has read all it needs."""
    name = f"{times} times: {', then '.join(_as_next(number, step.do) for number, step in enumerate(group))}"
    whole = replace(
        group[0],
        hands_on=True,
        check="; ".join(step.check for step in group),
        places=_all_of(step.places for step in group),
        label=_all_of(step.label for step in group),
        does=_all_of(step.does for step in group),
    )
    minutes = times * sum(_minutes(step, figures, work) for step in group)
    timed = TimedStep(name[:100], minutes, True, whole.places, 0, whole.within)
    return WorkStep(whole, timed, 0, 1, cautions_of(whole, chain.facts.where))


def cautions_of(step: ChainStep, where: Circumstances) -> tuple[str, ...]:
    """The cautions of a step where it is done, the worst first."""
    return tuple(one.caution for one in dangers_of(step.does, where))


def _all_of(several: Iterable[tuple[_T, ...]]) -> tuple[_T, ...]:
    return tuple(dict.fromkeys(one for some in several for one in some))


def _as_next(number: int, do: str) -> str:
    return do if number == 0 else do[0].lower() + do[1:]


def minutes_of(steps: Sequence[WorkStep]) -> int:
    """How long a batch takes with nothing else in its way."""
    return sum(one.timed.minutes for one in steps)


def _times(each: StepCount, chain: Chain, work: BatchWork) -> int:
    match each:
        case StepCount.BATCH:
            return 1
        case StepCount.SHEET:
            return work.sheets
        case StepCount.COAT:
            return work.coats_of(chain)
        case StepCount.PIECE:
            return work.pieces
        case StepCount.PLATE:
            # Each side has its own print, and a press of its own.
            fronts = work.pieces - work.backs
            return math.ceil(fronts / work.plate) + math.ceil(work.backs / work.plate)


def _by_label(step: ChainStep, figures: Mapping[str, float], work: BatchWork) -> int | None:
    """How many minutes the label says, seconds rounded up; None where it has not been read, or says only what must not
    be passed.
    """
    if step.lasts is None or step.lasts not in figures or LABELS[step.lasts].greatest:
        return None
    seconds = LABELS[step.lasts].seconds(figures[step.lasts])
    if step.lasts in _PRESSED and work.for_spot:
        seconds *= work.patches
    return max(1, math.ceil(seconds / _SECONDS_A_MINUTE))


def _most_s(step: ChainStep, figures: Mapping[str, float]) -> float | None:
    """After how many seconds it must be over, by the label."""
    if step.lasts is None or not LABELS[step.lasts].greatest or step.lasts not in figures:
        return None
    return LABELS[step.lasts].seconds(figures[step.lasts])


def _minutes(step: ChainStep, figures: Mapping[str, float], work: BatchWork) -> int:
    """How long one of a step takes; hands never take less than usual, they lay it in and take it out as well."""
    said = _by_label(step, figures, work)
    if said is None:
        most = _most_s(step, figures)
        if step.lasts is not None and step.lasts in work.starters:
            return math.ceil(work.starters[step.lasts])
        return step.minutes if most is None else max(1, min(step.minutes, int(most // _SECONDS_A_MINUTE)))
    return max(said, step.minutes) if step.hands_on else said


def _timed(
    step: ChainStep, many: int, number: int, of: int, figures: Mapping[str, float], work: BatchWork, chain: Chain
) -> WorkStep:
    """One step; `many` of it are done in one go, or it is one `of` several."""
    name = f"{step.do} ({number} of {of})" if of > 1 else step.do
    said, most_s = _by_label(step, figures, work), _most_s(step, figures)
    minutes = many * _minutes(step, figures, work)
    timed = TimedStep(name, minutes, step.hands_on, step.places, 0, step.within, step.is_attended)
    # What only rests is not over before its label says, whatever a touch tells; what must not last longer may end any
    # time.
    least = 0 if step.hands_on or most_s is not None else _least(step, work) if said is None else said
    return WorkStep(step, timed, least, of, cautions_of(step, chain.facts.where), most_s)


def _least(step: ChainStep, work: BatchWork) -> int:
    """How long a rest lasts at least while no label says: of a starter at least half, its check decides."""
    if step.lasts is not None and step.lasts in work.starters:
        return math.ceil(work.starters[step.lasts] / 2)
    return step.least
