"""Timetables, held against every constraint by a checker that knows nothing of the solver."""

from dataclasses import replace
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from ortools.sat.python import cp_model

from tests.covers import USUAL, USUAL_BOTH_WAYS
from tests.tried import tried
from vamper.core.finishing import soonest
from vamper.core.finishing.labels import LABELS
from vamper.core.finishing.soonest import plan_evening
from vamper.core.finishing.timetable import Away, Batch, Evening, Proof, TimedStep, Timetable, one_by_one
from vamper.core.finishing.work import BatchWork, batch_of, steps_of
from vamper.core.values.findings import BadInput

PLACES = {"oven": 1, "press": 1, "rack": 3}


def broken(found: Timetable) -> list[str]:
    """What a timetable does not keep, minute by minute."""
    evening, wrong = found.evening, list[str]()
    by = {(one.batch, one.step): one for one in found.steps}
    assert len(by) == len(found.steps) == sum(len(batch.steps) for batch in evening.batches)
    at_work = dict[int, str]()
    taken = dict[tuple[str, int], int]()
    for (number, place), one in by.items():
        step = evening.batches[number].steps[place]
        if one.end - one.start != step.minutes or one.start < 0:
            wrong.append(f"{step.name} does not take its time")
        if place:
            wait = one.start - by[number, place - 1].end
            if wait < step.wait_least or (step.wait_most is not None and wait > step.wait_most):
                wrong.append(f"{step.name} waits {wait}")
        for minute in range(one.start, one.end):
            if step.hands_on:
                if minute in at_work:
                    wrong.append(f"{step.name} and {at_work[minute]} at once")
                at_work[minute] = step.name
            hot = not step.hands_on and {"oven", "press"} & set(step.occupies) and step.attended is not False
            if (step.hands_on or hot) and any(hours.start <= minute < hours.end for hours in evening.away):
                wrong.append(f"{step.name} while away")
            for where in step.occupies:
                taken[where, minute] = taken.get((where, minute), 0) + 1
    wrong += [f"{where} is too full" for (where, _), many in taken.items() if many > evening.places[where]]
    return wrong


@st.composite
def evenings(draw: st.DrawFn) -> Evening:
    batches = []
    for number in range(draw(st.integers(1, 4))):
        steps = []
        for place in range(draw(st.integers(1, 5))):
            least = draw(st.sampled_from([0, 0, 5, 20]))
            most = draw(st.sampled_from([None, None, least + 5, least + 30]))
            where = draw(st.sampled_from([(), (), ("oven",), ("press",), ("rack",)]))
            step = TimedStep(f"{number}.{place}", draw(st.integers(1, 30)), draw(st.booleans()), where, least, most)
            steps.append(step)
        batches.append(Batch(f"b{number}", tuple(steps)))
    gone = draw(st.lists(st.tuples(st.integers(0, 200), st.integers(1, 120)), max_size=2))
    return Evening(tuple(batches), PLACES, tuple(Away(start, start + length) for start, length in gone))


@tried(25)
@given(evenings())
def test_every_constraint_is_kept(evening: Evening) -> None:
    found = plan_evening(evening, 4)
    assert broken(found) == []
    assert not found.broken
    assert found.bound <= found.ends == max(one.end for one in found.steps)


def test_two_batches_use_each_others_waits() -> None:
    batch = (TimedStep("coat", 5, True), TimedStep("dry", 30), TimedStep("coat again", 5, True))
    found = plan_evening(Evening((Batch("a", batch), Batch("b", batch)), {}))
    # One after the other would take 80.
    assert (found.ends, found.proof, found.hands_on_minutes) == (45, Proof.OPTIMAL, 20)


class OutOfTime(cp_model.CpSolver):
    """A solver that never gets to prove that nothing ends sooner, and has shown so much."""

    def solve(self, *asked: Any) -> Any:
        super().solve(*asked)
        return cp_model.FEASIBLE

    @property
    def best_objective_bound(self) -> float:
        return 40.0000000001


def test_a_plan_that_is_not_proven_best_says_what_no_plan_could_beat(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(soonest, "_solver", lambda _seconds: OutOfTime())
    batch = (TimedStep("coat", 5, True), TimedStep("dry", 30), TimedStep("coat again", 5, True))
    found = plan_evening(Evening((Batch("a", batch), Batch("b", batch)), {}))
    assert (found.ends, found.bound) == (45, 40)


def test_hands_stay_off_while_away_and_what_only_waits_runs_on() -> None:
    steps = (TimedStep("coat", 10, True), TimedStep("dry", 60), TimedStep("cut", 10, True))
    found = plan_evening(Evening((Batch("a", steps),), {}, (Away(20, 100),)))
    assert [one.start for one in found.steps] == [0, 10, 100]


def test_heat_never_runs_while_nobody_is_there() -> None:
    steps = (TimedStep("into", 5, True, ("oven",)), TimedStep("bake", 30, False, ("oven",), 0, 0))
    off = TimedStep("off", 1, True, ("oven",), 0, 0)
    found = plan_evening(Evening((Batch("a", (*steps, off)),), PLACES, (Away(20, 100),)))
    assert [one.start for one in found.steps] == [100, 105, 135]
    # What cools in it is not hot: its oven is off.
    cooling = (*steps, off, TimedStep("cool", 60, False, ("oven",), attended=False))
    found = plan_evening(Evening((Batch("a", cooling),), PLACES, (Away(40, 100),)))
    assert [one.start for one in found.steps] == [0, 5, 35, 36]


@st.composite
def evenings_under_way(draw: st.DrawFn) -> Evening:
    """Evenings in which things have happened, in whatever order and overlap: steps begun, ended, paused."""
    evening = draw(evenings())
    now = draw(st.integers(0, 150))
    batches = []
    for batch in evening.batches:
        steps, at = list(batch.steps), 0
        for place in range(draw(st.integers(0, len(steps)))):
            began = draw(st.integers(at, max(at, now)))
            if draw(st.booleans()) and place < len(steps) - 1:
                at = draw(st.integers(began, max(began, now)))
                steps[place] = replace(steps[place], began=began, ended=at)
                continue
            kept = replace(steps[place], began=began)
            steps[place] = kept if draw(st.booleans()) else replace(steps[place], lies_since=began, wait_most=None)
            break
        batches.append(replace(batch, steps=tuple(steps)))
    return replace(evening, batches=tuple(batches), now=now)


@tried(40)
@given(evenings_under_way())
def test_what_has_happened_is_fact_and_never_refused(evening: Evening) -> None:
    for found in (plan_evening(evening, 4), one_by_one(evening)):
        by = {(one.batch, one.step): one for one in found.steps}
        assert len(by) == sum(len(batch.steps) for batch in evening.batches)
        at_work = list[tuple[int, int]]()
        for (number, place), one in by.items():
            step = evening.batches[number].steps[place]
            if step.began is not None:
                assert one.start == step.began
                assert step.ended is None or one.end == step.ended
                continue
            assert one.start >= evening.now
            assert one.end - one.start == step.minutes
            if place:
                assert one.start >= by[number, place - 1].end + step.wait_least
            if step.hands_on:
                at_work.append((one.start, one.end))
            hot = not step.hands_on and {"oven", "press"} & set(step.occupies)
            if step.hands_on or hot:
                assert not any(hours.start < one.end and one.start < hours.end for hours in evening.away)
        for before, after in pairwise(sorted(at_work)):
            assert before[1] <= after[0]
        assert found.bound <= found.ends
        assert not (found.proof is Proof.OPTIMAL and found.broken)


def test_what_is_paused_keeps_its_place() -> None:
    """The sheet of a cut that was paused still lies on the mat."""
    paused = TimedStep("cut", 5, True, ("mat",), lies_since=2)
    other = TimedStep("cut", 6, True, ("mat",))
    found = plan_evening(Evening((Batch("a", (paused,)), Batch("b", (other,))), {"mat": 1}, now=10))
    assert found.of(1, 0).start >= found.of(0, 0).end


def test_a_greatest_wait_under_its_least_is_named() -> None:
    steps = (TimedStep("soak", 5), TimedStep("place", 10, True, (), 8, 4))
    with pytest.raises(BadInput, match="a, place: its greatest wait"):
        plan_evening(Evening((Batch("a", steps),), {}))


def test_a_place_that_is_not_there_is_named() -> None:
    with pytest.raises(BadInput, match="there is no kiln"):
        plan_evening(Evening((Batch("a", (TimedStep("fire", 5, False, ("kiln",)),)),), {"oven": 1}))
    with pytest.raises(BadInput, match="2 places of the oven, which holds 1"):
        plan_evening(Evening((Batch("a", (TimedStep("bake", 5, False, ("oven", "oven")),)),), {"oven": 1}))


def test_a_step_that_slips_moves_the_rest_and_says_what_it_breaks() -> None:
    mug = (TimedStep("soak", 5), TimedStep("place", 10, True, (), 0, 2))
    before = plan_evening(Evening((Batch("a", mug), Batch("b", mug)), {}))
    assert not before.broken
    slipped = (replace(mug[0], began=0, ended=5), replace(mug[1], began=None))
    after = plan_evening(replace(before.evening, batches=(Batch("a", slipped), Batch("b", mug)), now=30))
    assert [(one.batch, one.step) for one in after.broken] == [(0, 1)]
    assert after.of(0, 1).start == 30
    assert after.of(1, 1).start - after.of(1, 0).end <= 2


@pytest.mark.parametrize("name", USUAL_BOTH_WAYS)
def test_every_usual_chain_can_be_planned(name: str) -> None:
    chain = USUAL_BOTH_WAYS[name]
    places = {place: 1 for step in chain.steps for place in step.places}
    batch = batch_of(name, chain, BatchWork(pieces=3, sheets=2))
    assert broken(plan_evening(Evening((batch,), places), 4)) == []
    assert set(chain.label_keys()) <= set(LABELS)
    for step in chain.steps:
        assert step.check
        assert step.least <= step.minutes


def test_a_label_says_how_many_coats_and_how_long() -> None:
    work = BatchWork(label={"coats": 2, "coat_minutes": 45})
    steps = steps_of(USUAL["water-slide"], work)
    assert [one.timed.minutes for one in steps if one.step.key == "between"] == [45, 45]


def test_what_must_follow_at_once_stays_with_its_piece() -> None:
    keys = [one.step.key for one in steps_of(USUAL["water-slide"], BatchWork(pieces=2))]
    at = keys.index("soak")
    assert keys[at : at + 4] == ["soak", "place", "soak", "place"]


def test_many_repetitions_keep_every_label_and_caution_of_what_they_hold() -> None:
    many = steps_of(USUAL["dark-transfer"], BatchWork(pieces=30))
    lot = next(one for one in many if "30 times" in one.timed.name)
    assert {"press_c", "press_s", "pressure"} <= set(lot.step.label)
    assert any("PVC" in caution for caution in lot.cautions)
    few = steps_of(USUAL["dark-transfer"], BatchWork(pieces=2))
    assert {key for one in few for key in one.step.label} == {key for one in many for key in one.step.label}


def _minutes_of(name: str, key: str) -> int:
    return next(step.minutes for step in USUAL[name].steps if step.key == key)


def test_the_figure_that_says_how_long_is_named_by_the_step() -> None:
    def minutes(process: str, key: str, **label: float) -> int:
        return next(
            one.timed.minutes for one in steps_of(USUAL[process], BatchWork(label=label)) if one.step.key == key
        )

    assert minutes("water-slide", "into", oven_minutes=45.0) == _minutes_of("water-slide", "into")
    assert minutes("water-slide", "set", oven_minutes=45.0) == 45
    # Hands never take less than usual: they lay it in and take it out as well.
    assert minutes("dark-transfer", "press", press_s=15.0) == _minutes_of("dark-transfer", "press")
    assert minutes("dark-transfer", "press", press_s=300.0) == 5


def test_before_heat_every_figure_of_it_is_asked_for() -> None:
    first = {key for key, label in LABELS.items() if label.first}
    for process in USUAL.values():
        for step in process.steps:
            if set(step.label) & first and not step.hands_on:
                # A rest begins by itself: what it needs was asked by the hands before it.
                before = process.steps[process.steps.index(step) - 1]
                assert set(step.label) & first <= set(before.label), step.key


def test_a_short_way_out_within_a_long_one_brings_nobody_back_earlier() -> None:
    step = TimedStep("coat", 10, True)
    found = plan_evening(Evening((Batch("b", (step,)),), PLACES, (Away(0, 100), Away(20, 40))), 5)
    assert [one.start for one in found.steps] == [100]
