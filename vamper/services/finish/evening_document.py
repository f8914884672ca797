"""An evening as it is kept: what is in it, and when each step really began and ended."""

from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len
from pydantic import TypeAdapter

from vamper.core.finishing.chain import STARTER_PLACES, Chain, chain_of
from vamper.core.finishing.chain_facts import ChainFacts
from vamper.core.finishing.timetable import Timetable
from vamper.core.finishing.work import BatchWork, WorkStep, steps_of
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.stock import StockKey
from vamper.services.finish.clock import local
from vamper.services.work.not_found import NotFound


@dataclass(frozen=True, slots=True)
class Happened:
    """When a step really began and ended; None where it has not. `paused` is since when hands are off it."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    step: Annotated[int, Ge(0), Le(10_000)]
    began: datetime | None = None
    ended: datetime | None = None
    paused: datetime | None = None


@dataclass(frozen=True, slots=True)
class EveningBatch:
    """One batch of an evening.

    Parameters
    ----------
    number : int
        Its number in the evening.
    job_id, stock, name : int, str, str
        The job it is of, that job's stock, and what it is called.
    facts : ChainFacts
        What decides its chain.
    work : BatchWork
        How much of it there is.
    happened : tuple of Happened
        What was begun and done so far.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    number: Annotated[int, Ge(1)]
    job_id: int
    stock: StockKey
    name: Annotated[str, Len(1, 100), ONE_LINE]
    facts: ChainFacts
    work: BatchWork
    happened: tuple[Happened, ...] = ()

    @property
    def chain(self) -> Chain:
        return chain_of(self.facts)

    @property
    def steps(self) -> tuple[WorkStep, ...]:
        return steps_of(self.chain, self.work)

    def at(self, step: int) -> Happened:
        return next((one for one in self.happened if one.step == step), Happened(step))

    def with_step(self, one: Happened) -> "EveningBatch":
        others = [other for other in self.happened if other.step != one.step]
        if one.began is None and one.ended is None:
            return replace(self, happened=tuple(others))
        return replace(self, happened=tuple(sorted((*others, one), key=lambda other: other.step)))


@dataclass(frozen=True, slots=True)
class AwayTime:
    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    begins: datetime
    ends: datetime


@dataclass(frozen=True)
class EveningDocument:
    """An evening as it is kept.

    Parameters
    ----------
    begins, done_by : datetime or None
        None until it is set; `begins` also until the first step begins.
    places : dict of str to int
        How much each place takes at once: oven, press, spray place, cutting machine, drying rack.
    away : tuple of AwayTime
        When nobody is there.
    batches : tuple of EveningBatch
        What is made.
    opened : datetime or None
        When the first batch was put into it, which tells it from other evenings.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    begins: datetime | None = None
    done_by: datetime | None = None
    places: dict[str, Annotated[int, Ge(0), Le(100)]] = field(default_factory=lambda: dict(STARTER_PLACES))
    away: tuple[AwayTime, ...] = ()
    batches: tuple[EveningBatch, ...] = ()
    opened: datetime | None = None

    @property
    def first_began(self) -> datetime | None:
        """The minute in which the first step of all was begun."""
        began = [one.began for batch in self.batches for one in batch.happened if one.began is not None]
        return min(began).replace(second=0, microsecond=0) if began else None

    def batch(self, number: int) -> EveningBatch:
        for one in self.batches:
            if one.number == number:
                return one
        raise NotFound("this batch is no longer in the plan")


DOCUMENT = TypeAdapter(EveningDocument)


@dataclass(frozen=True)
class EveningNow:
    """The evening as it stands.

    Parameters
    ----------
    document : EveningDocument
        What is kept of it.
    starts : datetime
        Minute 0 of its plan.
    now, clock : datetime
        The time in whole minutes, and to the second.
    steps : tuple of tuple of WorkStep
        Each batch's steps.
    plan : Timetable or None
        None where there is nothing to do.
    """

    document: EveningDocument
    starts: datetime
    now: datetime
    clock: datetime
    steps: tuple[tuple[WorkStep, ...], ...]
    plan: Timetable | None

    def time(self, minutes: int) -> datetime:
        return local(self.starts + timedelta(minutes=minutes))


def with_offsets(kept: EveningDocument) -> EveningDocument:
    """An evening with every time as the workshop's clock shows it, also an evening that was kept without offsets."""

    def at(time: datetime | None) -> datetime | None:
        return None if time is None else local(time)

    def happened(one: Happened) -> Happened:
        return Happened(one.step, at(one.began), at(one.ended), at(one.paused))

    return replace(
        kept,
        begins=at(kept.begins),
        done_by=at(kept.done_by),
        opened=at(kept.opened),
        away=tuple(AwayTime(local(one.begins), local(one.ends)) for one in kept.away),
        batches=tuple(replace(one, happened=tuple(map(happened, one.happened))) for one in kept.batches),
    )
