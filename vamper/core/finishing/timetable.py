"""Several batches that share one person and a few places, and a plan for them.

A batch is a chain of steps. Each begins between its least and its greatest wait after the one before it ended. Steps
occupy places (an oven, a press, a spray place) that hold so many steps at once; hands-on steps take the one person, who
does one thing at a time and nothing while away. A step that only waits runs on through away hours, unless it is hot:
heat never runs while nobody is there.

What has happened is a fact and binds nobody: two steps that were begun by the same hands, or one that runs into hours
when nobody was to be there, are planned round, not refused.

Times are whole minutes from the start of the plan. `soonest.py` finds the plan that ends soonest.
"""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from itertools import pairwise
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len

from vamper.core.values.findings import BadInput
from vamper.core.values.limits import ONE_LINE, STRICT

# What goes on in these is never left alone, unless it is said to be cold.
HOT_PLACES = frozenset({"oven", "press"})
Words = Annotated[str, Len(1, 100), ONE_LINE]
Minutes = Annotated[int, Ge(0), Le(100_000)]


@dataclass(frozen=True, slots=True)
class TimedStep:
    """A step with its times, min.

    Parameters
    ----------
    name, minutes : str, float
        What it is, and how long it takes.
    hands_on : bool
        Whether a person is at it.
    occupies : tuple of str
        The places that it takes.
    wait_least, wait_most : float, float or None
        How long after the step before it may begin; None: no matter when.
    attended : bool or None
        Whether somebody stays there while it goes on by itself; None: where its place is hot.
    began, ended : float or None
        When it really began and ended, from the start.
    lies_since : float or None
        Since when it takes its places although nobody is at it.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: Words
    minutes: Minutes
    hands_on: bool = False
    occupies: tuple[Words, ...] = ()
    wait_least: Minutes = 0
    wait_most: Minutes | None = None
    attended: bool | None = None
    began: Minutes | None = None
    ended: Minutes | None = None
    lies_since: Minutes | None = None

    @property
    def needs_somebody(self) -> bool:
        """Whether somebody has to be there while it goes on, with hands on it or not."""
        if self.attended is None:
            return self.hands_on or not HOT_PLACES.isdisjoint(self.occupies)
        return self.hands_on or self.attended


@dataclass(frozen=True, slots=True)
class Batch:
    """Pieces that go through their steps together."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: Words
    steps: Annotated[tuple[TimedStep, ...], Len(1, 200)]


@dataclass(frozen=True, slots=True)
class Away:
    """When nobody is there: from, until (minutes from the start)."""

    start: int
    end: int


@dataclass(frozen=True)
class Evening:
    """All that is to be planned. `places` says how many steps each place holds at once; `now` is where the clock
    stands: what has not begun begins no earlier.
    """

    batches: tuple[Batch, ...]
    places: Mapping[str, int]
    away: tuple[Away, ...] = ()
    now: int = 0


@dataclass(frozen=True, slots=True)
class PlannedStep:
    """One step with its place in time; `batch` and `step` count from 0."""

    batch: int
    step: int
    start: int
    end: int


class Proof(Enum):
    """How good a plan is known to be: no other ends sooner, or none sooner than its bound could be excluded."""

    OPTIMAL = "optimal"
    FEASIBLE = "feasible"


@dataclass(frozen=True)
class Timetable:
    """A plan: its steps by batch and order, when all is done, and how soon any plan could be done (`bound`)."""

    evening: Evening
    steps: tuple[PlannedStep, ...]
    ends: int
    bound: int

    @property
    def proof(self) -> Proof:
        """Proven only where every greatest wait is kept: a plan that breaks another wait could end sooner."""
        return Proof.OPTIMAL if self.bound >= self.ends and not self.broken else Proof.FEASIBLE

    @property
    def hands_on_minutes(self) -> int:
        return sum(
            one.end - one.start for one in self.steps if self.evening.batches[one.batch].steps[one.step].hands_on
        )

    @property
    def broken(self) -> tuple[PlannedStep, ...]:
        """The steps that come later after the one before than they may: something slipped, and nothing could help."""
        at = {(one.batch, one.step): one for one in self.steps}
        late = []
        for one in self.steps:
            most = self.evening.batches[one.batch].steps[one.step].wait_most
            if one.step and most is not None and one.start > at[one.batch, one.step - 1].end + most:
                late.append(one)
        return tuple(late)

    def of(self, batch: int, step: int) -> PlannedStep:
        return next(one for one in self.steps if (one.batch, one.step) == (batch, step))


Span = tuple[int, int]


def merged(spans: Iterable[Span]) -> list[Span]:
    """The same times as spans that do not overlap, in order."""
    found = list[Span]()
    for start, end in sorted(spans):
        if found and start <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], end))
        elif end > start:
            found.append((start, end))
    return found


def levels(taken: Sequence[tuple[Span, int]]) -> list[tuple[Span, int]]:
    """How much is taken altogether, span by span, where spans overlap."""
    at = sorted({time for span, _ in taken for time in span})
    found = [
        ((start, end), sum(many for (begins, ends), many in taken if begins <= start and end <= ends))
        for start, end in pairwise(at)
    ]
    return [(span, many) for span, many in found if many]


def horizon_of(evening: Evening) -> int:
    """By then everything could be done one after the other."""
    steps = [step for batch in evening.batches for step in batch.steps]
    work = sum(step.minutes + step.wait_least for step in steps)
    over = max((one.end for one in evening.away), default=0)
    facts = max((max(step.began or 0, step.ended or 0) for step in steps), default=0)
    return max(evening.now, facts) + work + max(0, over) + sum(max(0, one.end - one.start) for one in evening.away)


def soonest_alone(evening: Evening) -> int:
    """When the longest batch is done if nothing is in its way: no plan ends sooner."""
    return max((_alone(batch, evening.now) for batch in evening.batches), default=evening.now)


def _alone(batch: Batch, now: int) -> int:
    at = 0
    for place, step in enumerate(batch.steps):
        if step.began is not None:
            at = step.ended if step.ended is not None else step.began + max(step.minutes, now - step.began)
        else:
            at = max(now, at + (step.wait_least if place else 0)) + step.minutes
    return at


def one_by_one(evening: Evening) -> Timetable:
    """A plan without any search: all that is still to be done one after the other, when everything that goes on is over
    and nobody is away any more. It always can be; greatest waits may be broken in it.
    """
    steps = list[PlannedStep]()
    at = max([evening.now, *(one.end for one in evening.away)])
    for number, batch in enumerate(evening.batches):
        for place, step in enumerate(batch.steps):
            if step.began is not None:
                running = step.began + max(step.minutes, evening.now - step.began)
                end = step.ended if step.ended is not None else running
                steps.append(PlannedStep(number, place, step.began, end))
                at = max(at, end)
    for number, batch in enumerate(evening.batches):
        for place, step in enumerate(batch.steps):
            if step.began is None:
                start = at + (step.wait_least if place else 0)
                at = start + step.minutes
                steps.append(PlannedStep(number, place, start, at))
    found = tuple(sorted(steps, key=lambda one: (one.batch, one.step)))
    ends = max((one.end for one in found), default=evening.now)
    return Timetable(evening, found, ends, min(ends, soonest_alone(evening)))


def check(evening: Evening) -> None:
    """Refuse what no plan can keep.

    Raises
    ------
    BadInput
        Naming the step or the place.
    """
    for batch in evening.batches:
        for step in batch.steps:
            where = f"{batch.name}, {step.name}"
            if step.wait_most is not None and step.wait_most < step.wait_least:
                raise BadInput(
                    f"its greatest wait ({step.wait_most} min) is under its least ({step.wait_least} min); change one",
                    where,
                )
            for place, many in Counter(step.occupies).items():
                holds = evening.places.get(place, 0)
                if holds < 1:
                    raise BadInput(f"there is no {place}, or it holds nothing; add it to the places", where)
                if holds < many:
                    raise BadInput(f"it takes {many} places of the {place}, which holds {holds}", where)
    for hours in evening.away:
        if hours.end <= hours.start:
            raise BadInput("it ends before it begins; give the later time second", "away")
