"""A job's finish and the evening, as the screen shows them."""

from collections.abc import Iterator
from datetime import datetime, timedelta

from vamper.api.finish.schemas import (
    EveningBatchOut,
    EveningNoteOut,
    EveningOut,
    EveningStepOut,
    FinishChoiceOut,
    FinishOut,
    FinishStepOut,
    LabelOut,
    NextOut,
    PracticeOut,
    StepState,
)
from vamper.core.art.legible import letter_mm
from vamper.core.finishing.chain import ALWAYS, PLACES, Chain
from vamper.core.finishing.chain_facts import carries, cover_of, is_coverable
from vamper.core.finishing.goes_on import SET_WORDS, ApplyWay, way_words
from vamper.core.finishing.labels import HEAT_UNIT, LABELS, Label, believed, dial_words, label_in
from vamper.core.finishing.placing import ball_of
from vamper.core.finishing.targets import TARGETS
from vamper.core.finishing.timetable import PlannedStep, Proof
from vamper.core.finishing.work import WAITS, BatchWork, WorkStep
from vamper.core.plan import Plan
from vamper.core.values.finish import CoverKind, PlaceSpec, SetWay, TransferMask
from vamper.core.values.job import Job
from vamper.core.values.lengths import figure, mm
from vamper.services.brief.words import span
from vamper.services.finish.clock import local
from vamper.services.finish.evening_document import EveningBatch, EveningNow
from vamper.services.finish.evening_plan import next_step, unread_labels
from vamper.services.finish.finishing import Finishing


def finish_out(found: Finishing, plan: Plan, now: datetime, tonight: bool) -> FinishOut:
    chain, work, job = found.chain, found.work, plan.asked
    facts, label = chain.facts, found.work.figures(chain)
    shown = dict[str, FinishStepOut]()
    for one in found.steps:
        if one.step.key not in shown:
            shown[one.step.key] = _step_out(one, chain, work)
    hands = sum(one.timed.minutes for one in found.steps if one.timed.hands_on)
    return FinishOut(
        name=chain.name,
        words=way_words(facts.way, facts.set),
        cover=cover_of(job) if is_coverable(facts.stock) or facts.cover is not CoverKind.NONE else None,
        coats=work.coats_of(chain) if facts.coated else None,
        masks=[FinishChoiceOut(key=one, name=_MASK_WORDS[one]) for one in TransferMask]
        if carries(facts.stock, facts.way)
        else [],
        mask=facts.mask,
        sets=[_set_out(one, job) for one in SetWay] if facts.set is not None else [],
        set=facts.set,
        press=job.finish.press if facts.way is ApplyWay.PRESS else None,
        plate=work.plate,
        on_plate=facts.way in (ApplyWay.TAPE, ApplyWay.BAKE),
        outdoors=facts.way is ApplyWay.HINGE,
        letters=_letters(job.finish.place),
        ball_mm=None if facts.mask is TransferMask.NONE else ball_of(job),
        takes=span(found.minutes),
        done_at=now + timedelta(minutes=found.minutes),
        hands_on=span(hands),
        steps=list(shown.values()),
        needs=list(chain.needs),
        later=[f"{one.do}: {one.check}." for one in chain.later],
        practice=_practice(plan) if facts.way is ApplyWay.SLIDE else None,
        always=ALWAYS,
        labels=[_label_out(label_in(facts.stock, key), label.get(key)) for key in chain.label_keys()],
        missing=[one.name for one in found.missing],
        tonight=tonight,
    )


_MASK_WORDS = {
    TransferMask.NONE: "no mask",
    TransferMask.PAPER: "a paper mask",
    TransferMask.CLEAR: "a clear mask of low tack",
}
_NO_OVEN = "not known to stand an oven"


def _letters(place: PlaceSpec | None) -> str:
    if place is None or not place.distance_m:
        return ""
    high = mm(letter_mm(place.distance_m))
    return f"Letters are read at a glance from {place.distance_m:g} m when they are {high} high."


def _masks() -> list[FinishChoiceOut]:
    return [FinishChoiceOut(key=one, name=_MASK_WORDS[one]) for one in TransferMask]


def _set_out(way: SetWay, job: Job) -> FinishChoiceOut:
    stands = way is not SetWay.OVEN or (job.target is not None and TARGETS[job.target].heat)
    return FinishChoiceOut(key=way, name=SET_WORDS[way], limit="" if stands else _NO_OVEN)


def _practice(plan: Plan) -> PracticeOut | None:
    """One more of the smallest is a practice piece, printed and covered like the real ones."""
    smallest = min(plan.items, key=lambda one: one.edge.shape.area, default=None)
    if smallest is None:
        return None
    asked = smallest.as_asked
    return PracticeOut(number=smallest.number, name=asked.name, quantity=asked.quantity + 1)


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


def _step_out(one: WorkStep, chain: Chain, work: BatchWork) -> FinishStepOut:
    return FinishStepOut(
        key=one.step.key,
        stage=one.step.stage,
        do=one.timed.name if one.of == 1 else one.step.do,
        minutes=one.timed.minutes,
        takes=span(one.timed.minutes),
        times=one.of,
        hands_on=one.timed.hands_on,
        places=[PLACES.get(place, place) for place in one.step.places],
        check=one.step.check,
        labels=_said(one, chain, work),
        cautions=list(one.cautions),
        within=one.step.within,
        watched=one.step.is_attended,
        most=None if one.most_s is None else f"{one.most_s:g} s",
        own=one.step.own,
    )


def _figure(value: float, unit: str) -> str:
    """Heat in the maker's own degrees, all else as it is."""
    return figure(value, unit) if unit == HEAT_UNIT else f"{value:g} {unit}".strip()


def _said(one: WorkStep, chain: Chain, work: BatchWork) -> list[str]:
    """The figures that the label gives for a step, or that it must be read first, and where the maker's own wait is
    longer.
    """
    return [_said_of(key, chain, work) for key in one.step.label]


_PRESS_HEAT = "press_c"


def _said_of(key: str, chain: Chain, work: BatchWork) -> str:
    name, unit = LABELS[key].name, LABELS[key].unit
    read, gone_by = believed(chain.facts.stock, work.label).get(key), work.figures(chain).get(key)
    if key in WAITS and gone_by is not None and (read is None or gone_by > read):
        label = "the label has not been read" if read is None else f"the label says {_figure(read, unit)}"
        return f"{name}: {_figure(gone_by, unit)}, as in your own runs; {label}, and the longer counts"
    if read is None:
        return f"{name}: a starter figure, read your label"
    dial = f" (on an iron about {dial_words(read)})" if key == _PRESS_HEAT and chain.facts.iron else ""
    return f"{name}: {_figure(read, unit)}{dial}"


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
            process=batch.chain.name,
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
        labels=_said(one, batch.chain, batch.work),
        hands_on=one.timed.hands_on,
        places=[PLACES.get(place, place) for place in one.step.places],
        # What has happened is where it was, whatever is planned from.
        starts=happened.began or now.time(planned.start),
        greatest=one.most_s is not None,
        watched=one.step.is_attended,
        ends=ends,
        state=state,
        too_late=late,
        unread=[_label_out(label_in(batch.facts.stock, label.key), None) for label in unread_labels(one, batch)],
    )


def _verdict(now: EveningNow, ends: datetime | None) -> str:
    if now.plan is None or ends is None:
        return "Nothing is to be done tonight."
    day = "" if ends.date() == now.now.date() else f"{ends:%A} "
    words = f"All done {day}at {ends:%H:%M}, {span(now.plan.hands_on_minutes)} of it by hand."
    if now.plan.proof is not Proof.OPTIMAL:
        best = now.time(now.plan.bound)
        words += f" It cannot be done before {best:%H:%M}."
    return words


def _notes(now: EveningNow) -> list[EveningNoteOut]:
    """Notes on this plan for the maker."""
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
            f"You wanted to be done by {document.done_by:%H:%M}; take a batch out, begin "
            f"{span(int((ends - document.done_by).total_seconds() // 60))} sooner, or add a place.",
        )
    for batch, steps in zip(document.batches, now.steps, strict=True):
        read = batch.work.figures(batch.chain)
        missing = {key for one in steps for key in one.step.label if key not in read}
        if missing:
            names = ", ".join(sorted({LABELS[key].name for key in missing}))
            yield "finish.label", f"{batch.name}: these times are starter figures; read on the label: {names}."
