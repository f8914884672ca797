"""A job's finish and the evening, as the screen shows them."""

from collections.abc import Iterator
from datetime import datetime, timedelta

from vamper.api.finish.schemas import (
    EveningBatchOut,
    EveningNoteOut,
    EveningOut,
    EveningStepOut,
    FinishOut,
    FinishStepOut,
    LabelOut,
    NextOut,
    ProcessOut,
    ProcessVariantOut,
    StepState,
)
from vamper.core.finishing.labels import HEAT_UNIT, LABELS, Label, believed, label_in
from vamper.core.finishing.process import ALWAYS, PLACES, PROCESSES, Process, processes_for
from vamper.core.finishing.timetable import PlannedStep, Proof
from vamper.core.finishing.work import WAITS, BatchWork, WorkStep
from vamper.core.plan import Plan
from vamper.core.values.lengths import figure
from vamper.services.brief.words import span
from vamper.services.finish.clock import local
from vamper.services.finish.evening_document import EveningBatch, EveningNow
from vamper.services.finish.evening_plan import next_step, unread_labels
from vamper.services.finish.finishing import Finishing


def finish_out(found: Finishing, plan: Plan, now: datetime, tonight: bool) -> FinishOut:
    process = found.process
    label = believed(process.key, found.work.label)
    shown = dict[str, FinishStepOut]()
    for one in found.steps:
        if one.step.key not in shown:
            shown[one.step.key] = _step_out(one, process, found.work)
    hands = sum(one.timed.minutes for one in found.steps if one.timed.hands_on)
    school = found.work.school if found.work.school in process.schools else next(iter(process.schools), None)
    return FinishOut(
        process=_process_out(process),
        processes=[_process_out(one) for one in processes_for(plan.job.stock)],
        schools=[ProcessVariantOut(key=key, words=words) for key, words in process.schools.items()],
        school=school,
        coats=found.work.coats_of(process) if process.coats else None,
        plate=found.work.plate,
        takes=span(found.minutes),
        done_at=now + timedelta(minutes=found.minutes),
        hands_on=span(hands),
        steps=list(shown.values()),
        needs=list(process.needs),
        later=process.later,
        always=ALWAYS,
        labels=[_label_out(label_in(process.key, key), label.get(key)) for key in process.label_keys()],
        missing=[one.name for one in found.missing],
        tonight=tonight,
    )


def _label_out(label: Label, value: float | None) -> LabelOut:
    return LabelOut(
        key=label.key,
        name=label.name,
        unit=label.unit,
        ask=label.ask,
        least=label.least,
        most=label.most,
        value=value,
    )


def _process_out(process: Process) -> ProcessOut:
    return ProcessOut(key=process.key, name=process.name, words=process.words)


def _step_out(one: WorkStep, process: Process, work: BatchWork) -> FinishStepOut:
    return FinishStepOut(
        key=one.step.key,
        do=one.timed.name if one.of == 1 else one.step.do,
        minutes=one.timed.minutes,
        takes=span(one.timed.minutes),
        times=one.of,
        hands_on=one.timed.hands_on,
        places=[PLACES.get(place, place) for place in one.step.places],
        check=one.step.check,
        labels=_said(one, process, work),
        cautions=list(one.cautions),
        within=one.step.within,
        watched=one.step.is_attended,
        most=None if one.most_s is None else f"{one.most_s:g} s",
        own=one.step.own,
    )


def _figure(value: float, unit: str) -> str:
    """Heat in the maker's own degrees, all else as it is."""
    return figure(value, unit) if unit == HEAT_UNIT else f"{value:g} {unit}".strip()


def _said(one: WorkStep, process: Process, work: BatchWork) -> list[str]:
    """What the label says of a step, or that it must be read first, and where the maker's own wait is longer."""
    return [_said_of(key, process, work) for key in one.step.label]


def _said_of(key: str, process: Process, work: BatchWork) -> str:
    name, unit = LABELS[key].name, LABELS[key].unit
    read, gone_by = believed(process.key, work.label).get(key), work.figures(process).get(key)
    if key in WAITS and gone_by is not None and (read is None or gone_by > read):
        label = "the label has not been read" if read is None else f"the label says {_figure(read, unit)}"
        return f"{name}: {_figure(gone_by, unit)}, as in your own runs; {label}, and the longer counts"
    return f"{name}: starter, read your label" if read is None else f"{name}: {_figure(read, unit)}"


def evening_out(now: EveningNow) -> EveningOut:
    plan = now.plan
    late = {(one.batch, one.step) for one in plan.broken} if plan is not None else set()
    at = {(one.batch, one.step): one for one in plan.steps} if plan is not None else {}
    upcoming = next_step(now)
    document = now.document
    batches = [
        EveningBatchOut(
            number=batch.number,
            job_id=batch.job_id,
            name=batch.name,
            process=batch.process,
            steps=[
                _evening_step(now, one, at[number, place], batch, (number, place) in late)
                for place, one in enumerate(now.steps[number])
            ],
        )
        for number, batch in enumerate(document.batches)
    ]
    ends = now.time(plan.ends) if plan is not None else None
    return EveningOut(
        begins=document.begins,
        done_by=document.done_by,
        now=now.clock,
        starts=now.starts,
        ends=ends,
        proven=plan is not None and plan.proof is Proof.OPTIMAL,
        verdict=_verdict(now, ends),
        notes=_notes(now),
        places=document.places,
        away=list(document.away),
        batches=batches,
        next=None if upcoming is None else NextOut(batch=document.batches[upcoming.batch].number, step=upcoming.step),
        always=ALWAYS,
    )


def _evening_step(
    now: EveningNow, one: WorkStep, planned: PlannedStep, batch: EveningBatch, late: bool
) -> EveningStepOut:
    happened = batch.at(planned.step)
    ends = happened.ended or now.time(planned.end)
    state = StepState.TO_COME
    if happened.ended is not None:
        state = StepState.DONE
    elif happened.paused is not None:
        state = StepState.PAUSED
    elif happened.began is not None:
        lasts = timedelta(minutes=one.timed.minutes) if one.most_s is None else timedelta(seconds=one.most_s)
        ends = local(happened.began + lasts)
        state = StepState.OVER if ends <= now.clock else StepState.RUNNING
    return EveningStepOut(
        step=planned.step,
        name=one.timed.name,
        check=one.step.check,
        cautions=list(one.cautions),
        labels=_said(one, PROCESSES[batch.process], batch.work),
        hands_on=one.timed.hands_on,
        places=[PLACES.get(place, place) for place in one.step.places],
        # What has happened is where it was, whatever is planned from.
        starts=happened.began or now.time(planned.start),
        greatest=one.most_s is not None,
        watched=one.step.is_attended,
        ends=ends,
        state=state,
        too_late=late,
        unread=[_label_out(label_in(batch.process, label.key), None) for label in unread_labels(one, batch)],
    )


def _verdict(now: EveningNow, ends: datetime | None) -> str:
    if now.plan is None or ends is None:
        return "Nothing is to be done tonight."
    day = "" if ends.date() == now.now.date() else f"{ends:%A} "
    words = f"All done {day}at {ends:%H:%M}, {span(now.plan.hands_on_minutes)} of it by hand."
    if now.plan.proof is not Proof.OPTIMAL:
        best = now.time(now.plan.bound)
        words += f" No plan ends before {best:%H:%M}."
    return words


def _notes(now: EveningNow) -> list[EveningNoteOut]:
    """What the maker should know of this plan."""
    return [EveningNoteOut(code=code, text=text) for code, text in _noted(now)]


def _noted(now: EveningNow) -> Iterator[tuple[str, str]]:
    plan, document = now.plan, now.document
    if plan is None:
        return
    for one in plan.broken:
        step, before = now.steps[one.batch][one.step], now.steps[one.batch][one.step - 1]
        name, most = document.batches[one.batch].name, step.timed.wait_most
        text = (
            f"{name}: “{step.timed.name}” should begin within {most} min of “{before.timed.name}”, and can only at "
            f"{now.time(one.start):%H:%M}. Look at the piece first."
        )
        due = now.time(plan.of(one.batch, one.step - 1).end)
        away = next(
            (away for away in document.away if away.begins <= due + timedelta(minutes=most or 0) < away.ends), None
        )
        if away is None:
            yield "finish.late", text
            continue
        later = max(away.ends - timedelta(minutes=before.timed.minutes), away.begins)
        yield (
            "finish.away",
            f"{text} Nobody is there from {away.begins:%H:%M} to {away.ends:%H:%M}: another time start "
            f"“{before.timed.name}” so that it ends after that, at {later:%H:%M} or later.",
        )
    ends = now.time(plan.ends)
    if document.done_by is not None and ends > document.done_by:
        yield (
            "finish.done-by",
            f"You wished to be done by {document.done_by:%H:%M}; take a batch out, begin "
            f"{span(int((ends - document.done_by).total_seconds() // 60))} sooner, or add a place.",
        )
    for batch, steps in zip(document.batches, now.steps, strict=True):
        read = believed(batch.process, batch.work.label)
        missing = {key for one in steps for key in one.step.label if key not in read}
        if missing:
            names = ", ".join(sorted({LABELS[key].name for key in missing}))
            yield "finish.label", f"{batch.name}: times are starters; read on the label: {names}."
