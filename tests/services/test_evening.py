"""An evening, run with a driven clock: what is planned, what slips, and what a restart finds again."""

import time
from contextlib import suppress
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar

from tests.covers import laminated
from tests.scenes import item, scene
from tests.tried import tried
from vamper.api.finish.views import evening_out
from vamper.core.finishing.labels import LABELS
from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import AddedStep, FinishSpec, LabelFigure, PressSpec, Target
from vamper.core.values.product import ProductSpec
from vamper.core.values.stock import StockClass
from vamper.formats.out.calendar import write_calendar
from vamper.services.finish.clock import workshop_clock
from vamper.services.finish.evening import Evenings
from vamper.services.finish.evening_document import AwayTime
from vamper.services.finish.evening_plan import next_step, unread_labels
from vamper.services.finish.finishing import Finishing, finishing_of
from vamper.services.shop.labels import Labels
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop
from vamper.store.database import Sessions, open_database

SIX = datetime(2026, 5, 2, 18, 0).astimezone()


class Clock:
    def __init__(self) -> None:
        self.time = SIX

    def __call__(self) -> datetime:
        return self.time

    def on(self, minutes: int) -> None:
        self.time += timedelta(minutes=minutes)


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def evenings(workshop: Workshop, clock: Clock) -> Evenings:
    return Evenings(workshop.sessions, clock)


def plan_of(stock: str, pieces: int = 2) -> Plan:
    target = Target.MUG if stock.startswith("water") else Target.DARK_SHIRT
    return scene(item(1, quantity=pieces, width_mm=20.0), stock=stock, target=target).plan()


READ = {"press_c": 160.0, "press_s": 30.0, "pressure": 2.0, "oven_c": 150.0, "oven_minutes": 30.0}
MUGS, SHIRTS = plan_of("water-slide-white"), plan_of("dark-transfer")
FEW = plan_of("water-slide-white", 1)


def test_two_batches_share_one_person(evenings: Evenings) -> None:
    evenings.add(1, MUGS)
    evenings.add(2, SHIRTS)
    now = evenings.state()
    assert now.plan is not None
    hands = sorted((one.start, one.end) for one in now.plan.steps if now.steps[one.batch][one.step].timed.hands_on)
    assert all(before[1] <= after[0] for before, after in pairwise(hands))
    alone = sum(one.timed.minutes for steps in now.steps for one in steps)
    assert now.plan.ends < alone


def test_a_batch_that_is_taken_away_leaves_the_others(evenings: Evenings) -> None:
    evenings.add(1, MUGS)
    evenings.add(2, SHIRTS)
    first, second = (one.number for one in evenings.document().batches)
    evenings.remove(first)
    assert [one.number for one in evenings.document().batches] == [second]


def test_a_label_is_missing_until_every_figure_that_is_needed_is_read() -> None:
    named = {one.name for one in finishing_or_fail(MUGS).missing}
    assert named
    keys = [key for key, label in LABELS.items() if label.name in named]
    read = tuple(LabelFigure(key, READ.get(key, LABELS[key].least)) for key in keys)
    done = replace(MUGS, asked=replace(MUGS.asked, finish=replace(MUGS.asked.finish, label=read)))
    assert finishing_or_fail(done).missing == ()


def finishing_or_fail(plan: Plan) -> Finishing:
    found = finishing_of(plan)
    assert found is not None
    return found


def test_a_rehearsal_puts_the_clock_forward(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    ahead = tmp_path / "minutes"
    monkeypatch.setenv("VAMPER_CLOCK", str(ahead))
    clock = workshop_clock()
    assert abs(clock() - datetime.now().astimezone()) < timedelta(minutes=1)
    ahead.write_text("90")
    assert timedelta(minutes=89) < clock() - datetime.now().astimezone() <= timedelta(minutes=91)


def _made(stock: str, target: Target, finish: FinishSpec, *products: ProductSpec) -> Plan:
    items = (item(1, quantity=2, width_mm=20.0), item(2, quantity=2, width_mm=25.0))
    return scene(*items, stock=stock, target=target, finish=finish, products=products).plan()


# A decal set that dries in air, a shirt that is peeled cold, a sheet under a laminate, a product of two prints.
MIXED = (
    _made("water-slide-white", Target.CANDLE, FinishSpec()),
    _made("print-flex", Target.SHIRT, FinishSpec(press=PressSpec(peel_after_s=180.0))),
    _made("gloss-label", Target.HAND_OUT, laminated()),
    _made("dye-paper", Target.BLANK, FinishSpec(), ProductSpec("coaster", (1, 2), 2)),
)


@pytest.mark.parametrize("plans", [(MUGS, SHIRTS), MIXED], ids=["mugs and shirts", "four kinds"])
def test_an_evening_is_worked_through_to_its_end(evenings: Evenings, clock: Clock, plans: tuple[Plan, ...]) -> None:
    for job, plan in enumerate(plans, 1):
        evenings.add(job, plan)
    for _ in range(300):
        now = evenings.state()
        assert now.plan is not None
        assert not now.plan.broken
        todo = next_step(now)
        if todo is None:
            break
        batch = now.document.batches[todo.batch]
        starts = now.time(todo.start)
        clock.time = max(clock.time, starts)
        unread = unread_labels(now.steps[todo.batch][todo.step], batch)
        if unread:
            with pytest.raises(BadInput, match="read the product's label first"):
                evenings.begin(batch.number, todo.step)
            evenings.read_label(batch.number, READ)
        evenings.begin(batch.number, todo.step)
        clock.on(now.steps[todo.batch][todo.step].timed.minutes)
        if now.steps[todo.batch][todo.step].timed.hands_on:
            evenings.end(batch.number, todo.step)
    else:
        pytest.fail("the evening never ended")
    clock.on(600)
    for batch, steps in zip(evenings.state().document.batches, now.steps, strict=True):
        assert len(batch.happened) == len(steps)
        for place in range(1, len(steps)):
            before, one = batch.at(place - 1), batch.at(place)
            assert before.ended is not None
            assert one.began is not None
            assert one.began >= before.ended
            if steps[place].timed.wait_most is not None:
                assert one.began - before.ended <= timedelta(minutes=steps[place].timed.wait_most)


@pytest.mark.parametrize("seconds", [0, 1, 30, 59])
def test_what_follows_a_rest_is_not_asked_for_before_that_is_over(
    evenings: Evenings, clock: Clock, seconds: int
) -> None:
    evenings.add(1, MUGS)
    now = evenings.state()
    number = now.document.batches[0].number
    rest = next(place for place, one in enumerate(now.steps[0]) if not one.timed.hands_on)
    clock.time += timedelta(seconds=seconds)
    for place in range(rest):
        evenings.begin(number, place)
        clock.on(now.steps[0][place].timed.minutes)
        evenings.end(number, place)
    evenings.begin(number, rest)
    over = clock.time + timedelta(minutes=now.steps[0][rest].timed.minutes)
    clock.on(3)
    later = evenings.state()
    assert later.plan is not None
    assert over <= later.time(later.plan.of(0, rest + 1).start) < over + timedelta(minutes=1)


def test_what_follows_a_soak_is_never_planned_past_its_greatest_time(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, FEW)
    now = evenings.state()
    number = now.document.batches[0].number
    soak = next(place for place, one in enumerate(now.steps[0]) if one.step.key == "soak")
    evenings.read_label(number, READ | {"soak_s": 45.0})
    now = evenings.state()
    assert now.steps[0][soak].most_s == 45.0
    clock.time += timedelta(seconds=50)
    for place in range(soak):
        evenings.begin(number, place)
        clock.on(now.steps[0][place].timed.minutes)
        evenings.end(number, place)
    evenings.begin(number, soak)
    begun = clock.time
    clock.time += timedelta(seconds=20)
    later = evenings.state()
    assert later.plan is not None
    assert later.time(later.plan.of(0, soak + 1).start) <= begun + timedelta(minutes=1)


def test_what_slips_moves_the_rest(evenings: Evenings, clock: Clock) -> None:
    evenings.add(2, SHIRTS)
    number = evenings.state().document.batches[0].number
    evenings.begin(number, 0)
    before = evenings.state()
    assert before.plan is not None
    clock.on(before.plan.of(0, 1).start + 25)
    after = evenings.state()
    assert after.plan is not None
    assert after.time(after.plan.of(0, 1).start) >= clock.time
    assert after.plan.ends >= before.plan.ends + 20


def test_a_restart_finds_everything_again(workshop: Workshop, evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)
    number = evenings.state().document.batches[0].number
    evenings.begin(number, 0)
    clock.on(31)
    again = Evenings(workshop.sessions, clock)
    assert again.state().document == evenings.state().document
    again.begin(number, 1)
    batch = again.state().document.batches[0]
    assert batch.at(0).ended == clock.time
    again.begin(number, 1)
    assert again.state().document.batches[0] == batch
    again.undo(number, 1)
    assert again.state().document.batches[0].at(1).began is None


def test_steps_come_in_their_order(evenings: Evenings) -> None:
    evenings.add(1, MUGS)
    number = evenings.state().document.batches[0].number
    with pytest.raises(BadInput, match="comes first"):
        evenings.begin(number, 3)


def test_rests_begin_by_themselves_when_hands_are_done(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)
    now = evenings.state()
    number, steps = now.document.batches[0].number, now.steps[0]
    evenings.begin(number, 0)
    clock.on(30)
    spray = next(place for place, one in enumerate(steps) if one.step.key == "coat")
    for step in range(1, spray):
        evenings.begin(number, step)
        evenings.end(number, step)
    evenings.begin(number, spray)
    clock.on(3)
    evenings.end(number, spray)
    assert evenings.state().document.batches[0].at(spray + 1).began == clock.time


def test_away_hours_keep_hands_off(evenings: Evenings) -> None:
    evenings.add(2, SHIRTS)
    gone = AwayTime(SIX + timedelta(minutes=15), SIX + timedelta(minutes=120))
    evenings.change(SIX, None, None, (gone,))
    now = evenings.state()
    assert now.plan is not None
    for one in now.plan.steps:
        if now.steps[one.batch][one.step].timed.hands_on:
            assert now.time(one.end) <= gone.begins or now.time(one.start) >= gone.ends
    with pytest.raises(BadInput, match="ends before it begins"):
        evenings.change(SIX, None, None, (AwayTime(gone.ends, gone.begins),))


def test_labels_are_kept_with_their_stock(workshop: Workshop) -> None:
    labels = Labels(workshop.sessions)
    assert labels.change("satin-vinyl", StockClass.VINYL, {"coats": 2.0}) == {"coats": 2.0}
    labels.change("satin-vinyl", StockClass.VINYL, {"coat_minutes": 45.0})
    assert Labels(workshop.sessions).of("satin-vinyl") == {"coats": 2.0, "coat_minutes": 45.0}
    assert labels.of("gloss-vinyl") == {}
    assert labels.change("satin-vinyl", StockClass.VINYL, {"coats": None}) == {"coat_minutes": 45.0}
    for wrong in ({"coats": 99.0}, {"magic": 1.0}):
        with pytest.raises(BadInput):
            labels.change("satin-vinyl", StockClass.VINYL, wrong)


def test_heat_is_not_begun_without_its_figures_however_many_pieces(evenings: Evenings, clock: Clock) -> None:
    evenings.add(2, plan_of("dark-transfer", 12))
    number = evenings.state().document.batches[0].number
    evenings.begin(number, 0)
    clock.on(30)
    steps = evenings.state().steps[0]
    heat = next(place for place, one in enumerate(steps) if one.step.places == ("press",))
    for step in range(1, heat):
        evenings.begin(number, step)
        clock.on(steps[step].timed.minutes)
        evenings.end(number, step)
    for doing in (evenings.begin, evenings.end):
        with pytest.raises(BadInput, match="read the product's label first: press heat"):
            doing(number, heat)


def test_a_rest_is_not_over_before_its_label_says(evenings: Evenings, clock: Clock) -> None:
    spec = replace(MUGS.asked.finish, label=(LabelFigure("coat_minutes", 40.0),))
    evenings.add(1, replace(MUGS, asked=replace(MUGS.asked, finish=spec)))
    now = evenings.state()
    number, steps = now.document.batches[0].number, now.steps[0]
    evenings.begin(number, 0)
    clock.on(10)
    with pytest.raises(BadInput, match="15 min at least"):
        evenings.end(number, 0)
    clock.on(6)
    evenings.end(number, 0)
    coat = next(place for place, one in enumerate(steps) if one.step.key == "coat")
    for step in range(1, coat):
        evenings.begin(number, step)
        evenings.end(number, step)
    evenings.begin(number, coat)
    clock.on(3)
    evenings.end(number, coat)
    clock.on(25)
    with pytest.raises(BadInput, match="40 min at least"):
        evenings.begin(number, coat + 2)
    clock.on(15)
    evenings.begin(number, coat + 2)


def test_a_place_that_is_needed_is_not_taken_away(evenings: Evenings) -> None:
    evenings.add(1, MUGS)
    with pytest.raises(BadInput, match="there is no oven"):
        evenings.change(None, None, {"oven": 0}, None)
    assert evenings.state().plan is not None
    evenings.change(None, None, {"press": 0}, None)
    with pytest.raises(BadInput, match="there is no press"):
        evenings.add(2, SHIRTS)


def test_times_lie_about_now(evenings: Evenings) -> None:
    for far in (datetime(1, 1, 1), datetime(9999, 12, 31)):
        with pytest.raises(BadInput, match="within a month"):
            evenings.change(far, None, None, None)
        with pytest.raises(BadInput, match="within a month"):
            evenings.change(None, None, None, (AwayTime(far, far + timedelta(hours=-1 if far.year > 1 else 1)),))


def test_what_has_not_changed_is_not_planned_again(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)
    first = evenings.state().plan
    clock.on(3)
    # Nothing has begun, so all of it only begins later.
    assert evenings.state().plan is first
    evenings.begin(evenings.state().document.batches[0].number, 0)
    clock.on(50)
    # The rest is over and nobody came: planned anew, once a minute.
    late = evenings.state().plan
    assert evenings.state().plan is late


def test_a_paused_step_waits_and_what_was_done_of_it_counts(evenings: Evenings, clock: Clock) -> None:
    evenings.add(2, SHIRTS)
    number = evenings.state().document.batches[0].number
    with pytest.raises(BadInput, match="rests by itself and cannot be paused"):
        evenings.pause(number, 0)
    evenings.begin(number, 0)
    clock.on(10)
    with pytest.raises(BadInput, match="not being worked on"):
        evenings.pause(number, 1)
    evenings.begin(number, 1)
    clock.on(4)
    evenings.pause(number, 1)
    clock.on(30)
    now = evenings.state()
    assert now.plan is not None
    cutting = now.steps[0][1].timed.minutes
    paused = now.plan.of(0, 1)
    # What is left of it comes whenever hands come back, and all else after it.
    assert (now.time(paused.start), paused.end - paused.start) == (now.now, cutting - 4)
    assert now.plan.of(0, 2).start >= paused.end
    assert not now.plan.broken
    evenings.begin(number, 1)
    clock.on(1)
    going_on = evenings.state()
    assert going_on.plan is not None
    assert going_on.plan.of(0, 1).end - going_on.plan.of(0, 1).start == cutting
    assert going_on.time(going_on.plan.of(0, 1).end) == going_on.now + timedelta(minutes=cutting - 5)
    evenings.end(number, 1)
    assert evenings.state().document.batches[0].at(1).paused is None


def test_while_one_is_paused_hands_do_another(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)
    evenings.add(2, SHIRTS)
    mugs, shirts = (one.number for one in evenings.state().document.batches)
    evenings.begin(mugs, 0)
    evenings.begin(shirts, 0)
    clock.on(10)
    evenings.begin(shirts, 1)
    evenings.pause(shirts, 1)
    clock.on(25)
    evenings.begin(mugs, 1)
    now = evenings.state()
    assert now.plan is not None
    mine, other = now.plan.of(0, 1), now.plan.of(1, 1)
    assert mine.end <= other.start or other.end <= mine.start


def test_a_rest_that_ends_while_nobody_is_there_says_what_to_start_later(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)
    now = evenings.state()
    number, steps = now.document.batches[0].number, now.steps[0]
    soak = next(place for place, one in enumerate(steps) if one.step.key == "soak")
    for step in range(soak):
        evenings.begin(number, step)
        clock.on(steps[step].timed.minutes)
        evenings.end(number, step)
    evenings.begin(number, soak)
    away = AwayTime(clock.time, clock.time + timedelta(hours=8))
    evenings.change(None, None, None, (away,))
    found = [note for note in evening_out(evenings.state()).notes if note.code == "finish.away"]
    assert len(found) == 1
    assert "Nobody is there" in found[0].text
    assert f"{away.ends - timedelta(minutes=1):%H:%M} or later" in found[0].text


def test_a_step_of_ones_own_stands_where_it_was_put(evenings: Evenings) -> None:
    added = (AddedStep("white pen on the rims", 12, "cut"), AddedStep("photograph them", 3, "gone"))
    spec = replace(SHIRTS.asked.finish, added=added)
    evenings.add(2, replace(SHIRTS, asked=replace(SHIRTS.asked, finish=spec)))
    names = [one.timed.name for one in evenings.state().steps[0]]
    assert names.index("white pen on the rims") == names.index("Cut the face") + 1
    assert names[-1] == "photograph them"


# What has happened is fact


@pytest.fixture(scope="module")
def kept(tmp_path_factory: pytest.TempPathFactory) -> Sessions:
    return Sessions(open_database(tmp_path_factory.mktemp("evening") / "workshop.db"))


DOINGS = st.tuples(
    st.sampled_from(["begin", "begin", "begin", "end", "end", "pause", "undo", "away", "begins", "read", "places"]),
    st.integers(0, 1),
    st.integers(0, 12),
    st.integers(0, 90),
)


def done(evenings: Evenings, clock: Clock, what: str, number: int, step: int, minutes: int) -> None:
    away = AwayTime(clock.time - timedelta(minutes=minutes), clock.time + timedelta(minutes=5 + minutes))
    match what:
        case "away":
            evenings.change(None, None, None, (away,))
        case "begins":
            evenings.change(clock.time + timedelta(minutes=minutes), None, None, None)
        case "read":
            evenings.read_label(number, READ)
        case "places":
            evenings.change(None, None, {"mat": minutes % 2}, None)
        case _:
            getattr(evenings, what)(number, step)


@tried(12)
@given(st.lists(DOINGS, min_size=4, max_size=14))
def test_whatever_is_done_the_evening_is_shown_and_what_happened_stays(
    kept: Sessions, doings: list[tuple[str, int, int, int]]
) -> None:
    """Any order of doings, by any number of hands, beside any hours away: each is refused with a sentence or taken, and
    the page has its plan, its steps at the times they had, and goes on.
    """
    clock = Clock()
    evenings = Evenings(kept, clock, plan_seconds=0.2)
    evenings.clear()
    evenings.add(1, FEW)
    evenings.add(2, SHIRTS)
    happened: dict[tuple[int, int], datetime] = {}
    for what, which, step, minutes in doings:
        with suppress(BadInput, NotFound):
            done(evenings, clock, what, evenings.document().batches[which].number, step, minutes)
        clock.time += timedelta(minutes=minutes, seconds=step)
        now = evenings.state()
        shown = evening_out(now)
        assert now.plan is not None
        times = {
            (one.number, step.step): one.at(step.step).began for one in now.document.batches for step in one.happened
        }
        for batch_out in shown.batches:
            for one in batch_out.steps:
                began = times.get((batch_out.number, one.step))
                assert one.starts <= one.ends
                if began is not None:
                    assert one.starts == began
        # Nothing that began is moved by anything but its own doing or undoing.
        for key, began in happened.items():
            assert times.get(key) in (began, None) or what in ("begin", "undo")
        happened = {key: began for key, began in times.items() if began is not None}
    evenings.clear()
    assert evenings.state().plan is None


def test_two_steps_under_way_at_once_and_hours_away_set_then_are_shown(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)
    evenings.add(2, SHIRTS)
    for one in evenings.document().batches:
        evenings.begin(one.number, 0)
        clock.on(31)
        evenings.begin(one.number, 1)
    evenings.change(None, None, None, (AwayTime(clock.time, clock.time + timedelta(hours=9)),))
    now = evenings.state()
    assert now.plan is not None
    coming = [one for one in now.plan.steps if now.document.batches[one.batch].at(one.step).began is None]
    hands = [one for one in coming if now.steps[one.batch][one.step].timed.hands_on]
    assert all(now.time(one.start) >= clock.time + timedelta(hours=9) for one in hands)


def test_what_was_begun_stays_where_it_was_when_the_beginning_is_changed(evenings: Evenings, clock: Clock) -> None:
    evenings.add(2, SHIRTS)
    number = evenings.document().batches[0].number
    evenings.begin(number, 0)
    clock.on(12)
    evenings.end(number, 0)
    evenings.change(clock.time + timedelta(minutes=40), None, None, None)
    first = evening_out(evenings.state()).batches[0].steps[0]
    assert (first.starts, first.ends) == (SIX, SIX + timedelta(minutes=12))


def worked_up_to(evenings: Evenings, clock: Clock, key: str) -> tuple[int, int]:
    """The batch, with everything before a step done."""
    now = evenings.state()
    batch, steps = now.document.batches[0], now.steps[0]
    place = next(place for place, one in enumerate(steps) if one.step.key == key)
    for step in range(place):
        evenings.begin(batch.number, step)
        clock.on(max(steps[step].timed.minutes, steps[step].least))
        evenings.end(batch.number, step)
    return batch.number, place


def test_a_soak_is_begun_by_hand_and_may_end_any_time_until_its_greatest(evenings: Evenings, clock: Clock) -> None:
    spec = replace(MUGS.asked.finish, label=(LabelFigure("soak_s", 90.0),))
    evenings.add(1, replace(MUGS, asked=replace(MUGS.asked, finish=spec)))
    number, soak = worked_up_to(evenings, clock, "soak")
    assert evenings.document().batches[0].at(soak).began is None
    evenings.begin(number, soak)
    shown = evening_out(evenings.state()).batches[0].steps[soak]
    assert shown.greatest
    assert shown.ends - shown.starts == timedelta(seconds=90)
    assert shown.state == "running"
    clock.time += timedelta(seconds=91)
    assert evening_out(evenings.state()).batches[0].steps[soak].state == "over"
    evenings.undo(number, soak)
    evenings.begin(number, soak)
    clock.time += timedelta(seconds=40)
    evenings.end(number, soak)
    assert evenings.document().batches[0].at(soak).ended == clock.time


def test_the_oven_is_switched_off_by_somebody_who_is_there(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)
    evenings.read_label(evenings.document().batches[0].number, READ)
    worked_up_to(evenings, clock, "into")
    away = AwayTime(clock.time + timedelta(minutes=20), clock.time + timedelta(hours=8))
    evenings.change(None, None, None, (away,))
    now = evenings.state()
    assert now.plan is not None
    by_key = {one.step.key: now.plan.of(0, place) for place, one in enumerate(now.steps[0])}
    # Half an hour of heat does not end before they leave, so it waits until they are back.
    assert now.time(by_key["set"].start) >= away.ends
    assert by_key["off"].start == by_key["set"].end
    data = write_calendar(now.plan, now.starts, "Tonight", {}, "evening", now.clock)
    assert b"Oven off" in data


def test_events_keep_their_identity_when_the_evening_slips(evenings: Evenings, clock: Clock) -> None:
    evenings.add(1, MUGS)

    def events() -> dict[str, tuple[str, datetime]]:
        now = evenings.state()
        assert now.plan is not None
        data = write_calendar(now.plan, now.starts, "Tonight", {}, f"evening {now.document.opened}", now.clock)
        found = Calendar.from_ical(data).walk("VEVENT")
        assert all(one["DTSTAMP"].dt == now.clock for one in found)
        return {str(one["UID"]): (str(one["SUMMARY"]), one["DTSTART"].dt) for one in found}

    before = events()
    clock.on(47)
    after = events()
    assert before.keys() == after.keys()
    assert {uid: words for uid, (words, _) in before.items()} == {uid: words for uid, (words, _) in after.items()}
    assert {at for _, at in before.values()} != {at for _, at in after.values()}
    evenings.clear()
    clock.on(60 * 24)
    evenings.add(1, MUGS)
    assert not events().keys() & before.keys()


def test_an_hour_is_an_hour_long_when_the_clocks_change(workshop: Workshop, monkeypatch: pytest.MonkeyPatch) -> None:
    """The night in which the clocks go back: what begins at 02:50 and takes half an hour is over at 02:20."""
    monkeypatch.setenv("TZ", "Europe/Berlin")
    time.tzset()
    try:
        clock = Clock()
        clock.time = datetime(2026, 10, 25, 0, 50, tzinfo=UTC)
        evenings = Evenings(workshop.sessions, clock)
        evenings.add(1, MUGS)
        number = evenings.document().batches[0].number
        evenings.begin(number, 0)
        shown = evening_out(evenings.state()).batches[0].steps[0]
        assert (f"{shown.starts:%H:%M%z}", f"{shown.ends:%H:%M%z}") == ("02:50+0200", "02:20+0100")
        clock.on(10)
        with pytest.raises(BadInput, match="needs 15 min at least, and 10 are gone"):
            evenings.end(number, 0)
        clock.on(6)
        evenings.end(number, 0)
    finally:
        monkeypatch.undo()
        time.tzset()


def test_the_longer_wait_is_told_with_its_reason(evenings: Evenings) -> None:
    spec = replace(
        MUGS.asked.finish,
        label=(LabelFigure("coat_minutes", 2.0),),
        record=(LabelFigure("coat_minutes", 30.0),),
    )
    evenings.add(1, replace(MUGS, asked=replace(MUGS.asked, finish=spec)))
    step = next(one for one in evening_out(evenings.state()).batches[0].steps if "Let the coat dry" in one.name)
    assert step.labels == [
        "wait between coats: 30 min, as in your own runs; the label says 2 min, and the longer counts"
    ]
