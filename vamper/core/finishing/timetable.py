"""Several batches that share one person and a few places, and a plan for them.

A batch is a chain of steps. Each begins between its least and its greatest wait after the one before it ended. Steps
occupy places (an oven, a press, a spray place) that hold so many steps at once; hands-on steps take the one person, who
does one thing at a time and nothing while away. A step that only waits runs on through away hours.

Times are whole minutes from the start of the plan. `soonest.py` finds the plan that ends soonest.
"""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len

from vamper.core.values.findings import BadInput
from vamper.core.values.limits import ONE_LINE, STRICT

Words = Annotated[str, Len(1, 100), ONE_LINE]
Minutes = Annotated[int, Ge(0), Le(100_000)]


@dataclass(frozen=True, slots=True)
class TimedStep:
    """One step: how long it takes, whether a person is at it, which places it takes, and how long after the one before
    it may begin (`wait_most` None: no matter when). `began` and `ended` say what really happened, minutes from the
    start.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: Words
    minutes: Minutes
    hands_on: bool = False
    occupies: tuple[Words, ...] = ()
    wait_least: Minutes = 0
    wait_most: Minutes | None = None
    began: Minutes | None = None
    ended: Minutes | None = None


@dataclass(frozen=True, slots=True)
class Batch:
    """What goes through its steps together."""

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
        return Proof.OPTIMAL if self.bound >= self.ends else Proof.FEASIBLE

    @property
    def hands_on_minutes(self) -> int:
        return sum(
            one.end - one.start for one in self.steps if self.evening.batches[one.batch].steps[one.step].hands_on
        )

    @property
    def broken(self) -> tuple[PlannedStep, ...]:
        """The steps that come later after the one before than they may: something slipped, and nothing could help."""
        late = []
        for one in self.steps:
            most = self.evening.batches[one.batch].steps[one.step].wait_most
            if one.step and most is not None and one.start > self.of(one.batch, one.step - 1).end + most:
                late.append(one)
        return tuple(late)

    def of(self, batch: int, step: int) -> PlannedStep:
        return next(one for one in self.steps if (one.batch, one.step) == (batch, step))


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
