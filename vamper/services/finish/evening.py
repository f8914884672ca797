"""The evening: the batches that share one person and the places of this workshop, as planned and as it really goes.

It is kept whole in the workshop's file: what is in it, and when each step was begun and ended. The plan is worked out
from that, again whenever something slips, so a restart loses nothing. What only rests begins by itself when the step
before it is done; what hands do is begun by the one whose hands they are.
"""

import threading
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len
from pydantic import TypeAdapter

from vamper.core.finishing.process import LABELS, Label, Work, WorkStep, process_of, steps_of
from vamper.core.finishing.timetable import Away, Batch, Evening, PlannedStep, Timetable, plan_evening
from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.services.finish.finishing import finishing_of
from vamper.services.work.not_found import NotFound
from vamper.store.database import Sessions
from vamper.store.tables import PreferenceRow

_KEY = "evening"
STARTER_PLACES: dict[str, int] = {"oven": 1, "press": 1, "spray": 1, "mat": 1, "rack": 9}
PLAN_SECONDS = 2.0
_DAY = 24 * 60
MOST_BATCHES = 20


@dataclass(frozen=True, slots=True)
class Happened:
    """When a step really began and ended; None where it has not."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    step: Annotated[int, Ge(0), Le(10_000)]
    began: datetime | None = None
    ended: datetime | None = None


@dataclass(frozen=True, slots=True)
class EveningBatch:
    """One batch: the job it is of, its process and the work in it, and what has happened so far."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    number: Annotated[int, Ge(1)]
    job_id: int | None
    name: Annotated[str, Len(1, 100), ONE_LINE]
    process: str
    work: Work
    happened: tuple[Happened, ...] = ()

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
    """What is kept of an evening. `begins` is None until it is set or the first step begins."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    begins: datetime | None = None
    done_by: datetime | None = None
    places: dict[str, Annotated[int, Ge(0), Le(100)]] = field(default_factory=lambda: dict(STARTER_PLACES))
    away: tuple[AwayTime, ...] = ()
    batches: tuple[EveningBatch, ...] = ()

    def batch(self, number: int) -> EveningBatch:
        for one in self.batches:
            if one.number == number:
                return one
        raise NotFound("this batch is not in the evening any more")


_DOCUMENT = TypeAdapter(EveningDocument)


@dataclass(frozen=True)
class EveningNow:
    """The evening as it stands: `starts` is minute 0 of its plan, which is None where there is nothing to do; `now` is
    in whole minutes, `clock` to the second.
    """

    document: EveningDocument
    starts: datetime
    now: datetime
    clock: datetime
    steps: tuple[tuple[WorkStep, ...], ...]
    plan: Timetable | None

    def time(self, minutes: int) -> datetime:
        return self.starts + timedelta(minutes=minutes)


class Evenings:
    """The evening of one workshop. `clock` gives the time where the workshop is, without a zone."""

    def __init__(self, sessions: Sessions, clock: Callable[[], datetime] = datetime.now) -> None:
        self._sessions = sessions
        self._clock = clock
        self._lock = threading.RLock()
        self._last: tuple[object, Timetable] | None = None

    def now(self) -> datetime:
        return self._clock().replace(second=0, microsecond=0)

    def look(self) -> EveningNow:
        """The evening with its plan, made again where something slipped."""
        with self._lock:
            document = self._read()
            now = self.now()
            starts = document.begins if document.begins is not None else now
            steps = tuple(_steps(batch) for batch in document.batches)
            plan = self._planned(document, starts, now, steps) if document.batches else None
            return EveningNow(document, starts, now, self._clock(), steps, plan)

    def _planned(
        self, document: EveningDocument, starts: datetime, now: datetime, steps: tuple[tuple[WorkStep, ...], ...]
    ) -> Timetable:
        minute = max(0, _minutes(now - starts))
        known = (tuple(sorted(document.places.items())), document.away, document.batches, starts)
        if self._last is not None and self._last[0] == known and not _has_slipped(self._last[1], minute):
            return self._last[1]
        away = tuple(Away(_minutes(one.begins - starts), _minutes(one.ends - starts)) for one in document.away)
        batches = tuple(
            Batch(
                batch.name,
                tuple(_timed(one, batch.at(place), starts) for place, one in enumerate(of_batch)),
            )
            for batch, of_batch in zip(document.batches, steps, strict=True)
        )
        plan = plan_evening(Evening(batches, document.places, away, minute), PLAN_SECONDS)
        self._last = (known, plan)
        return plan

    def add(self, job_id: int, name: str, plan: Plan, label: dict[str, float]) -> None:
        """Put a job's pieces into the evening; a job that is in it already is put in anew.

        Raises
        ------
        BadInput
            If nothing lies on its sheets, or too much is in the evening.
        """
        found = finishing_of(plan, label)
        if found is None:
            raise BadInput("nothing lies on a sheet, so there is nothing to finish; add art first", "items")
        with self._lock:
            document = self._read()
            others = tuple(one for one in document.batches if one.job_id != job_id)
            if len(others) >= MOST_BATCHES:
                raise BadInput(f"an evening holds {MOST_BATCHES} batches; take one out first", "batches")
            number = 1 + max((one.number for one in document.batches), default=0)
            taken = {one.name for one in others}
            title = name[:90] or "job"
            title = title if title not in taken else f"{title} ({number})"
            batch = EveningBatch(number, job_id, title, found.process.key, found.work)
            self._write(replace(document, batches=(*others, batch)))

    def read_label(self, number: int, figures: Mapping[str, float]) -> None:
        """Go by what a product's label says, in a batch."""
        with self._lock:
            document = self._read()
            batch = document.batch(number)
            work = replace(batch.work, label={**batch.work.label, **figures})
            if len(steps_of(process_of(batch.process), work)) != len(_steps(batch)) and batch.happened:
                raise BadInput("the number of coats cannot change once a batch has begun", "coats")
            self._put(document, replace(batch, work=work))

    def remove(self, number: int) -> None:
        with self._lock:
            document = self._read()
            document.batch(number)
            self._write(replace(document, batches=tuple(one for one in document.batches if one.number != number)))

    def clear(self) -> None:
        """Begin a new evening: the places stay."""
        with self._lock:
            self._write(EveningDocument(places=self._read().places))

    def change(
        self,
        begins: datetime | None,
        done_by: datetime | None,
        places: dict[str, int] | None,
        away: tuple[AwayTime, ...] | None,
    ) -> None:
        """Set when it begins, the wish when it ends, what the places hold, and when nobody is there."""
        for one in away or ():
            if one.ends <= one.begins:
                raise BadInput("it ends before it begins; give the later time second", "away")
        with self._lock:
            document = self._read()
            data = replace(document, begins=begins, done_by=done_by)
            if places is not None:
                data = replace(data, places={**document.places, **places})
            if away is not None:
                data = replace(data, away=away)
            self._write(data)

    def begin(self, number: int, step: int) -> None:
        """A step begins now; what rested before it is over."""
        with self._lock:
            document = self._read()
            now = self.now()
            batch = document.batch(number)
            steps = _steps(batch)
            self._known(steps, step)
            unread = unread_labels(steps[step], batch)
            if unread:
                raise BadInput(
                    f"read the product's label first: {', '.join(one.name for one in unread)}; heat is never set by a "
                    "starter figure",
                    "label",
                )
            for place in range(step):
                one = batch.at(place)
                if one.ended is None:
                    if one.began is None or steps[place].timed.hands_on:
                        raise BadInput(f"“{steps[place].timed.name}” comes first; say when it is done", "step")
                    batch = batch.with_step(replace(one, ended=now))
            batch = batch.with_step(Happened(step, now))
            self._put(document, batch)

    def end(self, number: int, step: int) -> None:
        """A step is done now; what rests after it begins by itself."""
        with self._lock:
            document = self._read()
            now = self.now()
            batch = document.batch(number)
            steps = _steps(batch)
            self._known(steps, step)
            one = batch.at(step)
            if step and batch.at(step - 1).ended is None:
                batch = self._ended_before(batch, steps, step, now)
            batch = batch.with_step(replace(one, began=one.began or now, ended=now))
            after = step + 1
            if after < len(steps) and not steps[after].timed.hands_on and batch.at(after).began is None:
                batch = batch.with_step(Happened(after, now))
            self._put(document, batch)

    def _ended_before(self, batch: EveningBatch, steps: tuple[WorkStep, ...], step: int, now: datetime) -> EveningBatch:
        for place in range(step):
            one = batch.at(place)
            if one.ended is None:
                if one.began is None:
                    raise BadInput(f"“{steps[place].timed.name}” comes first; say when it is done", "step")
                batch = batch.with_step(replace(one, ended=now))
        return batch

    def undo(self, number: int, step: int) -> None:
        """A step has not begun, or is not done, after all; nor has what follows."""
        with self._lock:
            document = self._read()
            batch = document.batch(number)
            self._known(_steps(batch), step)
            one = batch.at(step)
            back = Happened(step, one.began) if one.ended is not None else Happened(step)
            for later in [other.step for other in batch.happened if other.step > step]:
                batch = batch.with_step(Happened(later))
            self._put(document, batch.with_step(back))

    def _known(self, steps: tuple[WorkStep, ...], step: int) -> None:
        if not 0 <= step < len(steps):
            raise NotFound("this batch has no such step")

    def _put(self, document: EveningDocument, batch: EveningBatch) -> None:
        begins = document.begins
        first = min((one.began for one in batch.happened if one.began is not None), default=None)
        if first is not None and (begins is None or first < begins):
            begins = first
        batches = tuple(batch if one.number == batch.number else one for one in document.batches)
        self._write(replace(document, begins=begins, batches=batches))

    def _read(self) -> EveningDocument:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _KEY)
            kept = EveningDocument() if row is None else _DOCUMENT.validate_python(row.value)
        now = self.now()
        return replace(kept, batches=tuple(_rolled(batch, now) for batch in kept.batches))

    def _write(self, document: EveningDocument) -> None:
        with self._sessions.begin() as session:
            session.merge(PreferenceRow(key=_KEY, value=_DOCUMENT.dump_python(document, mode="json")))


def _steps(batch: EveningBatch) -> tuple[WorkStep, ...]:
    return steps_of(process_of(batch.process), batch.work)


def unread_labels(one: WorkStep, batch: EveningBatch) -> list[Label]:
    """What the label must say before a step is begun, and nobody has read yet."""
    return [LABELS[key] for key in one.step.label if LABELS[key].first and key not in batch.work.label]


def _rolled(batch: EveningBatch, now: datetime) -> EveningBatch:
    """One rest goes over into the next by itself, when its time has passed."""
    steps = _steps(batch)
    for place in range(len(steps) - 1):
        one = batch.at(place)
        if one.began is None or one.ended is not None or steps[place].timed.hands_on or steps[place + 1].timed.hands_on:
            continue
        due = one.began + timedelta(minutes=steps[place].timed.minutes)
        if due <= now and batch.at(place + 1).began is None:
            batch = batch.with_step(replace(one, ended=due)).with_step(Happened(place + 1, due))
    return batch


def _timed(one: WorkStep, happened: Happened, starts: datetime) -> Any:
    began = None if happened.began is None else max(0, _minutes(happened.began - starts))
    ended = None if happened.ended is None else max(0, _minutes(happened.ended - starts))
    return replace(one.timed, began=began, ended=ended)


def _has_slipped(plan: Timetable, minute: int) -> bool:
    """Whether a step should have begun, or be over, by now and is not."""
    for one in plan.steps:
        step = plan.evening.batches[one.batch].steps[one.step]
        if step.ended is None and ((step.began is None and one.start < minute) or one.end < minute):
            return True
    return False


def _minutes(span: timedelta) -> int:
    return int(span.total_seconds() // 60)


def next_step(now: EveningNow) -> PlannedStep | None:
    """What somebody does next, or does now: work of hands, or letting the first rest begin."""
    if now.plan is None:
        return None
    waiting = [
        one
        for one in now.plan.steps
        if now.document.batches[one.batch].at(one.step).ended is None
        and (now.steps[one.batch][one.step].timed.hands_on or _is_to_be_let(now, one))
    ]
    return min(waiting, key=lambda one: (one.start, one.batch), default=None)


def _is_to_be_let(now: EveningNow, one: PlannedStep) -> bool:
    """Whether a rest has not begun though nothing comes before it any more."""
    batch = now.document.batches[one.batch]
    over = one.step == 0 or batch.at(one.step - 1).ended is not None
    return over and batch.at(one.step).began is None
