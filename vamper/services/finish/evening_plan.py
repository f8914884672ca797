"""From an evening as it stands to what is planned of it, and what comes next."""

import math
from dataclasses import replace
from datetime import datetime, timedelta

from vamper.core.finishing.labels import LABELS, Label
from vamper.core.finishing.timetable import Away, Batch, Evening, PlannedStep, TimedStep, Timetable
from vamper.core.finishing.work import WorkStep
from vamper.services.finish.evening_document import EveningBatch, EveningDocument, EveningNow, Happened


def to_plan(document: EveningDocument, starts: datetime, now: datetime) -> Evening:
    """The request to the planner, in minutes from its start."""
    away = tuple(Away(whole_minutes(one.begins - starts), whole_minutes(one.ends - starts)) for one in document.away)
    batches = tuple(
        Batch(batch.name, tuple(_timed(one, batch.at(place), starts) for place, one in enumerate(batch.steps)))
        for batch in document.batches
    )
    return Evening(batches, document.places, away, max(0, whole_minutes(now - starts)))


def unread_labels(one: WorkStep, batch: EveningBatch) -> list[Label]:
    """The figures that the label must say before a step is begun, and that nobody has read yet."""
    read = batch.work.figures(batch.chain)
    return [LABELS[key] for key in one.step.label if LABELS[key].first and key not in read]


def begins_by_itself(one: WorkStep) -> bool:
    """Whether it goes on when the hands before it are done."""
    return not one.timed.hands_on and not one.step.begun


def rolled_on(batch: EveningBatch, now: datetime) -> EveningBatch:
    """One rest goes over into the next by itself, when its time has passed."""
    steps = batch.steps
    for place in range(len(steps) - 1):
        one = batch.at(place)
        if one.began is None or one.ended is not None or steps[place].timed.hands_on:
            continue
        if not begins_by_itself(steps[place + 1]):
            continue
        due = one.began + timedelta(minutes=steps[place].timed.minutes)
        if due <= now and batch.at(place + 1).began is None:
            batch = batch.with_step(replace(one, ended=due)).with_step(Happened(place + 1, due))
    return batch


def _timed(one: WorkStep, happened: Happened, starts: datetime) -> TimedStep:
    if happened.began is not None and happened.paused is not None:
        # What is left of it is to be done at any time, whatever came before it.
        left = max(1, one.timed.minutes - whole_minutes(happened.paused - happened.began))
        return replace(
            one.timed, minutes=left, wait_most=None, lies_since=max(0, whole_minutes(happened.began - starts))
        )
    began = None if happened.began is None else max(0, whole_minutes(happened.began - starts))
    ended = None if happened.ended is None else max(0, whole_minutes(happened.ended - starts))
    if happened.began is not None and ended is None and not one.timed.hands_on and one.most_s is None:
        # The plan counts whole minutes: what follows a rest is not asked for before that is over to the second;
        # what must not last longer may be ended any time, and is never planned past its label.
        over = happened.began + timedelta(minutes=one.timed.minutes) - starts
        return replace(one.timed, began=began, minutes=math.ceil(over.total_seconds() / 60) - (began or 0))
    return replace(one.timed, began=began, ended=ended)


def has_slipped(plan: Timetable, minute: int) -> bool:
    """Whether a step should have begun, or be over, by now and is not."""
    for one in plan.steps:
        step = plan.evening.batches[one.batch].steps[one.step]
        if step.ended is None and ((step.began is None and one.start < minute) or one.end < minute):
            return True
    return False


def whole_minutes(span: timedelta) -> int:
    return int(span.total_seconds() // 60)


def next_step(now: EveningNow) -> PlannedStep | None:
    """The step that somebody does next, or does now: work of hands, or letting the first rest begin."""
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
