"""What can hurt someone is told at the step where it can, whatever process it stands in: a matrix over all there is.

What is expected is read off what a step does in its own words and places, not off what the table is asked by.
"""

from dataclasses import replace
from itertools import product

import pytest

from tests.covers import USUAL, USUAL_BOTH_WAYS, coats, laminated, on
from tests.scenes import item, scene
from vamper.core.finishing.chain import USUAL_CHAINS, Chain, chain_of, chain_of_job
from vamper.core.finishing.dangers import DANGERS, MOST_CAUTIONS
from vamper.core.finishing.labels import LABELS, believed, check_figures, label_in
from vamper.core.finishing.targets import TARGETS
from vamper.core.finishing.work import BatchWork, WorkStep, steps_of, work_of
from vamper.core.values.art import Purpose
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import AddedStep, FinishSpec, LabelFigure, SetWay, Target
from vamper.core.values.lengths import in_unit
from vamper.core.values.stock import StockClass

DRUNK_FROM = {Target.MUG, Target.CUP, Target.BOTTLE, Target.GLASS}
DRIVEN = {Target.VEHICLE, Target.BOAT}
KEPT_BY_PEOPLE = {
    Target.PLANNER, Target.LAPTOP, Target.KEY_RING, Target.BLANK, Target.BOTTLE, Target.HAND_OUT, Target.ANYTHING,
    Target.PARCEL, Target.NOTEBOOK, Target.JAR,
}  # fmt: skip
SMALL = {"label", "vinyl", "card", "magnet", "shrink-film", "laminate", "dye-paper"}
PIECES = (2, 30)


def has(steps: list[WorkStep], words: str) -> bool:
    return any(words in in_unit(caution) for one in steps for caution in one.cautions)


def batches(chain: Chain) -> list[list[WorkStep]]:
    added = (AddedStep("white pen on the rims", 5, chain.steps[-1].key),)
    return [list(steps_of(chain, BatchWork(pieces=pieces, added=own))) for pieces, own in product(PIECES, ((), added))]


def hurts(one: WorkStep, by_hand: bool) -> set[str]:
    """What a step can do to someone, by its own words and places, as the words of the caution that belongs there."""
    words = {do.strip() for do in one.step.do.lower().replace(",", " ").split()} | {one.step.key}
    expected = set()
    if words & {"spray", "coat", "coat;", "top", "base"} and one.timed.hands_on:
        expected.add("respirator on")
    if "sand" in words:
        expected.add("goggles")
    if "alcohol" in words or "clean" in words:
        expected.add("Solvents")
    if set(one.step.places) & {"oven", "press"}:
        expected.add("Never leave them alone")
    if set(one.step.places) & {"oven", "press"} and one.step.key != "cool":
        expected.add("PVC")
    if "oven" in one.step.places and one.step.key != "cool":
        expected.add("never used for food")
    if "cut" in one.step.key or "weed" in words:
        expected.add("away from your hand" if by_hand else "under the carriage")
    return expected


@pytest.mark.parametrize("name", USUAL_CHAINS)
@pytest.mark.parametrize("by_hand", [False, True])
def test_each_danger_is_told_at_its_step_and_no_other_is(name: str, by_hand: bool) -> None:
    for target in (None, *Target):
        chain = on(name, target, by_hand)
        for steps in batches(chain):
            for one in steps:
                assert len(one.cautions) <= MOST_CAUTIONS, (one.step.key, one.cautions)
                for words in hurts(one, by_hand):
                    assert has([one], words), (name, one.step.key, words)
            assert has(steps, "20 mm below the rim") == (target in DRUNK_FROM)
            assert has(steps, "the driver looks through") == (target in DRIVEN)
            assert has(steps, "under the carriage") == (not by_hand)
            assert has(steps, "away from the flame") == (target is Target.CANDLE)
            assert has(steps, "weaken its shell") == (target is Target.HELMET)
            small = chain.facts.stock.value in SMALL and (target is None or target in KEPT_BY_PEOPLE)
            assert has(steps[-1:], "children under three") == small, (name, target)


def test_the_rim_is_told_where_the_purpose_alone_is_known() -> None:
    for purpose in Purpose:
        for steps in batches(chain_of(replace(USUAL_CHAINS["sticker"], purpose=purpose))):
            assert has(steps, "20 mm below the rim") == (purpose in (Purpose.DRINKWARE, Purpose.GLASS))
            assert has(steps, "the driver looks through") == (purpose in (Purpose.VEHICLE, Purpose.WINDOW))


def test_a_job_on_a_vehicle_is_warned_under_a_laminate_too() -> None:
    plan = scene(item(), target=Target.VEHICLE, finish=laminated()).plan()
    assert has(list(steps_of(chain_of_job(plan.asked), work_of(plan.asked))), "the driver looks through")


def test_every_danger_can_happen() -> None:
    told = {
        caution
        for name, target, by_hand in product(USUAL_CHAINS, Target, (False, True))
        for one in steps_of(on(name, target, by_hand), BatchWork())
        for caution in one.cautions
    }
    kissed = chain_of(replace(USUAL_CHAINS["water-slide"], cuts=(Cut.KISS,)))
    told |= {caution for one in steps_of(kissed, BatchWork()) for caution in one.cautions}
    assert told == {danger.caution for danger in DANGERS}


# What labels say


@pytest.mark.parametrize("name", USUAL_CHAINS)
def test_nothing_counts_as_read_that_no_label_can_say(name: str) -> None:
    stock = USUAL[name].facts.stock
    for key, label in ((key, label_in(stock, key)) for key in USUAL[name].label_keys()):
        assert believed(stock, {key: label.least}) == {key: label.least}
        assert believed(stock, {key: label.most}) == {key: label.most}
        for wrong in (label.least - 0.5, label.most + 0.5, -1e9, 1e9):
            assert believed(stock, {key: wrong}) == {}
            with pytest.raises(BadInput, match=label.name):
                check_figures(stock, {key: wrong})
        # Nought is no heat, no time and no pressure; only a peel may be at once, and a print dry as it comes out.
        assert label.holds(0) == (key in ("peel", "dry_minutes"))
    with pytest.raises(BadInput, match="no label says"):
        check_figures(stock, {"magic": 1.0})


def test_the_other_unit_is_named_where_that_is_what_was_typed() -> None:
    with pytest.raises(BadInput, match=r"275 °C \(527 °F\).*If your label says 275 °F, that is 135 °C"):
        check_figures(StockClass.SHRINK, {"oven_c": 275.0})
    # 160 typed where °F were meant.
    with pytest.raises(BadInput, match=r"71 °C \(160 °F\).*If your label says 160 °C, type it as 160 C"):
        check_figures(StockClass.TRANSFER, {"press_c": (160 - 32) / 1.8})
    with pytest.raises(BadInput, match="read the label again"):
        check_figures(StockClass.TRANSFER, {"press_c": 9999.0})


def test_an_unread_figure_is_asked_for_again() -> None:
    nought = tuple(LabelFigure(key, 0.0) for key in ("press_c", "press_s", "pressure"))
    plan = scene(item(), stock="dark-transfer", target=Target.SHIRT, finish=FinishSpec(label=nought))
    assert plan.one("finish.label").figures["missing"] == 5


def test_a_greatest_time_is_never_a_least_one_whatever_the_label_says() -> None:
    for chain in USUAL_BOTH_WAYS.values():
        for key in chain.label_keys():
            if not LABELS[key].greatest:
                continue
            for figure in (5.0, 30.0, 45.0, 60.0, 90.0, 119.0, 180.0, 600.0):
                steps = steps_of(chain, BatchWork(label={key: figure}))
                (soak,) = (one for one in steps if one.step.lasts == key)
                assert soak.least == 0
                assert soak.most_s == figure
                # What is planned of it lies within, as far as whole minutes can.
                assert soak.timed.minutes <= max(1, figure / 60)


def test_heat_that_goes_on_by_itself_is_watched_and_ended_by_hand() -> None:
    watched = 0
    for chain in USUAL.values():
        steps = chain.steps
        for place, step in enumerate(steps):
            if not step.is_attended:
                continue
            watched += 1
            after = steps[place + 1]
            assert after.hands_on
            assert after.within == 0
            timed = next(one.timed for one in steps_of(chain, BatchWork()) if one.step.key == step.key)
            assert timed.needs_somebody
    assert watched


# Waits and counts


def test_the_longer_of_the_labels_wait_and_the_makers_own_counts() -> None:
    chain = USUAL["water-slide"]

    def wait(label: float | None, record: float | None) -> int:
        said = {} if label is None else {"coat_minutes": label}
        own = {} if record is None else {"coat_minutes": record}
        steps = steps_of(chain, BatchWork(label=said, record=own))
        one = next(one for one in steps if one.step.key == "between")
        assert one.least <= one.timed.minutes
        return one.timed.minutes

    assert wait(2, 30) == 30
    assert wait(45, 30) == 45
    assert wait(2, None) == 2
    assert wait(None, 30) == 30
    assert wait(None, None) == next(step.minutes for step in chain.steps if step.key == "between")
    # A record of heat is none: that is the label's alone.
    assert BatchWork(record={"oven_c": 150.0}).figures(chain) == {}


def test_coats_have_one_number() -> None:
    chain = USUAL["sealed-coat"]
    for asked, label, number in ((None, None, 3), (None, 2.0, 2), (1, 2.0, 1), (0, None, 0)):
        work = BatchWork(coats=asked, label={} if label is None else {"coats": label})
        assert work.coats_of(chain) == number
        assert sum(one.step.key == "coat" for one in steps_of(chain, work)) == number


def test_each_side_of_a_blank_has_a_press_of_its_own() -> None:
    dye = USUAL["dye"]

    def presses(pieces: int, backs: int) -> int:
        return sum(one.step.key == "press" for one in steps_of(dye, BatchWork(pieces=pieces, backs=backs, plate=6)))

    assert presses(6, 3) == 2
    assert presses(6, 0) == 1
    assert presses(14, 7) == 4


def test_a_layers_tack_is_set_down_as_often_as_its_press_where_the_label_says_so() -> None:
    chain = USUAL["layered-flex"]
    work = BatchWork(label={"tack_s": 30.0, "press_s": 30.0}, patches=6, for_spot=True)

    def minutes(work: BatchWork) -> dict[str, int]:
        return {one.step.key: one.timed.minutes for one in steps_of(chain, work)}

    assert minutes(work)["tack"] == minutes(work)["press"] == 3
    assert minutes(replace(work, patches=1))["tack"] == 1
    # A time for the whole motif is never multiplied.
    assert minutes(replace(work, for_spot=False))["tack"] == 1


def test_no_coats_asked_for_is_no_cover_and_no_oven_without_one_that_stands_it() -> None:
    bare = scene(item(), stock="water-slide-white", target=Target.MUG, finish=coats(0)).plan()
    assert not any(step.stage.value == "cover" for step in chain_of_job(bare.asked).steps)
    for target in Target:
        plan = scene(item(), stock="water-slide-white", target=target, finish=FinishSpec(set=SetWay.OVEN))
        on_it = chain_of_job(plan.job).facts.set is SetWay.OVEN
        assert ("finish.oven" in plan.codes()) == (on_it and not TARGETS[target].heat)
