"""Batches to be planned as JSON, and the timetable that comes of them."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len
from pydantic import TypeAdapter

from vamper.core.finishing.chain import STARTER_PLACES, chain_of, chain_of_job, usual_chain
from vamper.core.finishing.labels import check_figures
from vamper.core.finishing.timetable import (
    Away,
    Batch,
    Evening,
    PlannedStep,
    Proof,
    TimedStep,
    Timetable,
    Words,
    horizon_of,
)
from vamper.core.finishing.work import BatchWork, batch_of
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import CoverKind
from vamper.core.values.limits import STRICT
from vamper.formats.chain_file import work_asked
from vamper.formats.job_file import read_job
from vamper.formats.json_object import object_in
from vamper.formats.sentences import read_as

# What every workshop has, beside the places that a file names.
_OWN_PLACES = {place: STARTER_PLACES[place] for place in ("mat", "rack")}
# More than three years from its start nothing is planned; beyond these years is a slip.
_LONGEST_MIN = 3 * 366 * 24 * 60
_FIRST_YEAR, _LAST_YEAR = 2000, 2200
Count = Annotated[int, Ge(0), Le(1000)]


@dataclass(frozen=True)
class _AwayIn:
    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    start: datetime
    end: datetime


@dataclass(frozen=True)
class _BatchIn:
    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: Words
    steps: Annotated[tuple[TimedStep, ...], Len(1, 200)] | None = None
    process: str | None = None
    job: Annotated[str, Len(1, 500)] | None = None
    pieces: Annotated[int, Ge(1), Le(10_000)] = 1
    sheets: Annotated[int, Ge(1), Le(1000)] = 1
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    plate: Annotated[int, Ge(1), Le(1000)] = 6
    label: dict[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class _FileIn:
    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    start: datetime
    batches: Annotated[tuple[_BatchIn, ...], Len(1, 100)]
    places: dict[str, Count] = field(default_factory=dict)
    away: tuple[dict[str, Any], ...] = ()


_FILE, _AWAY = TypeAdapter(_FileIn), TypeAdapter(_AwayIn)


JobText = Callable[[str], bytes]
"""The text of a job file, by its path."""


def _no_jobs(name: str) -> bytes:
    raise BadInput("no job files can be read here; name a process, or its steps", name)


def read_batches(text: str | bytes, job_text: JobText = _no_jobs) -> tuple[Evening, datetime]:
    """The batches to plan, and when they begin; `job_text` reads the job files that batches name.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    data = read_as(_FILE, object_in(text, "the batches file"))
    start = _whole(data.start, "start")
    away = tuple(_away(one, number, start) for number, one in enumerate(data.away))
    batches = tuple(_batch(one, job_text) for one in data.batches)
    names = [one.name for one in batches]
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice is not None:
        raise BadInput(f"two batches are called “{twice}”; give each its own name", "batches")
    evening = Evening(batches, {**_OWN_PLACES, **data.places}, away)
    if horizon_of(evening) > _LONGEST_MIN:
        raise BadInput("that is more than three years of work; look at the minutes and at the hours away", "batches")
    return evening, start


def _whole(time: datetime, where: str) -> datetime:
    if not _FIRST_YEAR <= time.year <= _LAST_YEAR:
        raise BadInput(f"the year {time.year} is not one to plan for; write it as 2026-05-02T18:00", where)
    if time.second or time.microsecond:
        raise BadInput("times are whole minutes", where)
    return time


def _away(raw: dict[str, Any], number: int, start: datetime) -> Away:
    where = f"away.{number}"
    # "from" is no name a field can have.
    renamed = {{"from": "start", "to": "end"}.get(key, f"{key} "): value for key, value in raw.items()}
    try:
        data = read_as(_AWAY, renamed)
    except BadInput as bad:
        sentence = bad.sentence.replace("start", "from").replace("end", "to")
        raise BadInput(f"{sentence} (a time each for from and to)", where) from None
    return Away(_minutes(_whole(data.start, where), start, where), _minutes(_whole(data.end, where), start, where))


def _minutes(time: datetime, start: datetime, where: str) -> int:
    if (time.tzinfo is None) != (start.tzinfo is None):
        raise BadInput("has a time zone where start has none, or the other way round; write both alike", where)
    return int((time - start).total_seconds() // 60)


def _batch(one: _BatchIn, job_text: JobText) -> Batch:
    if sum(said is not None for said in (one.steps, one.process, one.job)) != 1:
        raise BadInput("needs either its steps, the name of a process, or a job file, one of the three", one.name)
    if one.job is not None:
        try:
            job = read_job(job_text(one.job))
        except BadInput as bad:
            raise BadInput(bad.sentence, f"{one.name}, {bad.where}") from None
        return batch_of(one.name, chain_of_job(job), work_asked(job))
    if one.steps is not None:
        if any((step.began, step.ended, step.lies_since) != (None, None, None) for step in one.steps):
            raise BadInput("a plan says when steps begin and end; leave began, ended and lies_since out", one.name)
        return Batch(one.name, one.steps)
    assert one.process is not None
    chain = usual_chain(one.process)
    if one.coats is not None:
        # Coats that are asked for are laid, and none where none are, whatever the chain is called.
        kind = CoverKind.COAT if one.coats else CoverKind.NONE
        chain = chain_of(replace(chain.facts, cover=kind))
    try:
        check_figures(chain.facts.stock, one.label)
    except BadInput as bad:
        raise BadInput(bad.sentence, f"{one.name}, {bad.where}") from None
    work = BatchWork(pieces=one.pieces, sheets=one.sheets, coats=one.coats, plate=one.plate, label=one.label)
    return batch_of(one.name, chain, work)


def timetable_document(found: Timetable, start: datetime) -> dict[str, Any]:
    """A timetable as data, its steps in the order in which they begin."""
    return {
        "steps": [_step(found, one, start) for one in in_order(found)],
        "ends": _at(start, found.ends),
        "optimal": found.proof is Proof.OPTIMAL,
        "bound_ends": _at(start, found.bound),
        "hands_on_minutes": found.hands_on_minutes,
    }


def in_order(found: Timetable) -> list[PlannedStep]:
    """Its steps as they begin."""
    return sorted(found.steps, key=lambda one: (one.start, one.end, one.batch, one.step))


def _step(found: Timetable, one: PlannedStep, start: datetime) -> dict[str, Any]:
    batch = found.evening.batches[one.batch]
    step = batch.steps[one.step]
    return {
        "batch": batch.name,
        "name": step.name,
        "start": _at(start, one.start),
        "end": _at(start, one.end),
        "hands_on": step.hands_on,
        "occupies": list(step.occupies),
    }


def _at(start: datetime, minutes: int) -> str:
    return (start + timedelta(minutes=minutes)).isoformat(timespec="minutes")
