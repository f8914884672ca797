"""Pieces in hand: every action keeps every rule, is one step, and survives undo, redo and a restart."""

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import disc_png
from tests.services.test_jobs import job_with_disc
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.lay.arranging import AlignedBy, SpacedAlong
from vamper.core.values.findings import BadInput
from vamper.core.values.placement import Pin
from vamper.services.packing.by_hand import HandResult, check
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.packing_service import PackingState
from vamper.services.packing.tables import Hand, Table
from vamper.services.workshop import Workshop


@pytest.fixture
def job(workshop: Workshop) -> int:
    number = job_with_disc(workshop)
    workshop.jobs.change_items(number, "number", (1,), {"quantity": 6})
    return number


def table(workshop: Workshop, job: int) -> Table:
    """The layout when its search has ended."""
    workshop.repacking.begin(workshop.jobs.get(job))
    workshop.packing.stop(job)
    packing = workshop.plans.of(workshop.jobs.get(job)).packing
    return workshop.plans.table(job, packing.layout_id)


def assert_sound(workshop: Workshop, job: int) -> Table:
    after = table(workshop, job)
    for number, sheet in enumerate(after.layout.sheets):
        assert not breaches(sheet, after.by_item, after.problem.live_of(number), after.problem.spec.gap_mm)
    return after


def hand(on: Table, sheet: int, index: int, dx: float, dy: float) -> Hand:
    one = on.placement(sheet, index)
    return Hand(index, one.x_mm + dx, one.y_mm + dy, one.turn_deg)


def test_a_piece_that_is_dropped_on_another_slides_off_it_and_the_others_stay(workshop: Workshop, job: int) -> None:
    before = table(workshop, job)
    onto = before.placement(0, 5)
    held = Hand(0, onto.x_mm + 41, onto.y_mm, onto.turn_deg)
    assert not check(before, 0, [held], True).is_free
    done = workshop.by_hand.drop(job, before, 0, [held])
    after = assert_sound(workshop, job)
    assert done.note.startswith("Slid ")
    assert after.sheet(0)[0].pin is Pin.HAND
    assert [p.pin for p in after.sheet(0)[1:]] == [Pin.KEPT] * 5
    assert [(p.x_mm, p.y_mm) for p in after.sheet(0)[1:]] == [(p.x_mm, p.y_mm) for p in before.sheet(0)[1:]]


def test_where_there_is_no_free_place_it_goes_back(workshop: Workshop, job: int) -> None:
    before = table(workshop, job)
    with pytest.raises(BadInput, match="no free place within ⟨10 mm=10⟩; nothing was moved"):
        workshop.by_hand.drop(job, before, 0, [hand(before, 0, 0, -400, -400)])
    assert table(workshop, job).layout.sheets == before.layout.sheets


def test_a_nudge_goes_as_far_as_it_may(workshop: Workshop, job: int) -> None:
    before = table(workshop, job)
    workshop.by_hand.nudge(job, before, 0, [5], 0.0, 5.0)
    moved = assert_sound(workshop, job)
    assert moved.placement(0, 5).y_mm == pytest.approx(before.placement(0, 5).y_mm + 5)
    # Far to the left there is the rim; it ends there.
    done = workshop.by_hand.nudge(job, moved, 0, [5], -100.0, 0.0)
    assert done.note
    at_rim = assert_sound(workshop, job)
    with pytest.raises(BadInput, match="cannot come any nearer"):
        workshop.by_hand.nudge(job, at_rim, 0, [5], -1.0, 0.0)


def test_turning_follows_the_rule(workshop: Workshop, job: int) -> None:
    first = table(workshop, job)
    workshop.by_hand.turn(job, first, 0, [5], 1)
    assert (assert_sound(workshop, job).placement(0, 5).turn_deg - first.placement(0, 5).turn_deg) % 360 == 15
    workshop.jobs.change(job, "upright", {"packing.turn": "upright"})
    with pytest.raises(BadInput, match="stay upright"):
        workshop.by_hand.turn(job, table(workshop, job), 0, [0], 1)


def test_duplicate_and_take_off_change_the_number(workshop: Workshop, job: int) -> None:
    done = workshop.by_hand.duplicate(job, table(workshop, job), 0, [0])
    assert done.state.document.items[0].quantity == 7
    more = assert_sound(workshop, job)
    assert len(more.sheet(0)) == 7
    workshop.by_hand.take_off(job, more, done.sheet, list(done.indexes))
    assert workshop.jobs.get(job).document.items[0].quantity == 6
    assert len(assert_sound(workshop, job).sheet(0)) == 6


def test_the_last_copy_takes_its_design_with_it(workshop: Workshop, job: int) -> None:
    everything = list(range(6))
    workshop.by_hand.take_off(job, table(workshop, job), 0, everything)
    assert workshop.jobs.get(job).document.items == ()
    assert workshop.jobs.undo(job).document.items[0].quantity == 6


def test_locked_pieces_are_not_moved(workshop: Workshop, job: int) -> None:
    done = workshop.by_hand.lock(job, table(workshop, job), 0, [2], True)
    locked = table(workshop, job)
    assert locked.placement(0, 2).pin is Pin.LOCKED
    for action in (
        lambda: workshop.by_hand.nudge(job, locked, 0, [2], 1, 0),
        lambda: workshop.by_hand.take_off(job, locked, 0, [2]),
        lambda: workshop.by_hand.send(job, locked, 0, [2], 1),
    ):
        with pytest.raises(BadInput, match="locked"):
            action()
    workshop.by_hand.lock(job, locked, done.sheet, [2], False)
    assert table(workshop, job).placement(0, 2).pin is Pin.HAND


def test_to_another_sheet_and_back(workshop: Workshop, job: int) -> None:
    done = workshop.by_hand.send(job, table(workshop, job), 0, [3, 4], 1)
    two = assert_sound(workshop, job)
    assert (done.sheet, [len(sheet) for sheet in two.layout.sheets]) == (1, [4, 2])
    back = workshop.by_hand.send(job, two, 1, list(done.indexes), 0)
    assert back.sheet == 0
    # An empty sheet is no sheet.
    assert [len(sheet) for sheet in assert_sound(workshop, job).layout.sheets] == [6]


def test_swap_align_and_space(workshop: Workshop, job: int) -> None:
    first = table(workshop, job)
    workshop.by_hand.swap(job, first, 0, [0, 5])
    swapped = assert_sound(workshop, job)
    assert swapped.placement(0, 0).x_mm == pytest.approx(first.placement(0, 5).x_mm, abs=0.1)
    for action in (
        lambda: workshop.by_hand.align(job, swapped, 0, [0], AlignedBy.LEFT),
        lambda: workshop.by_hand.space(job, swapped, 0, [0, 1], SpacedAlong.ACROSS),
        lambda: workshop.by_hand.swap(job, swapped, 0, [0, 1, 2]),
    ):
        with pytest.raises(BadInput, match="pick"):
            action()
    # The first row is level already and evenly spaced; it stays where it is.
    level: HandResult = workshop.by_hand.align(job, swapped, 0, [1, 2], AlignedBy.TOP)
    assert level.indexes == (1, 2)
    assert_sound(workshop, job)


def test_undo_and_redo_move_pieces_back_and_forth(workshop: Workshop, job: int) -> None:
    first = table(workshop, job)
    workshop.by_hand.nudge(job, first, 0, [5], 0.0, 3.0)
    second = table(workshop, job)
    workshop.by_hand.turn(job, second, 0, [5], 2)
    third = table(workshop, job)
    workshop.jobs.undo(job)
    assert table(workshop, job).layout.sheets == second.layout.sheets
    workshop.jobs.undo(job)
    assert table(workshop, job).layout.sheets == first.layout.sheets
    workshop.jobs.redo(job)
    workshop.jobs.redo(job)
    assert table(workshop, job).layout.sheets == third.layout.sheets


def test_packing_again_keeps_what_was_placed_by_hand(workshop: Workshop, job: int) -> None:
    first = table(workshop, job)
    workshop.by_hand.nudge(job, first, 0, [5], 7.0, 50.0)
    placed = table(workshop, job).placement(0, 5)
    workshop.repacking.again(workshop.jobs.get(job))
    after = assert_sound(workshop, job)
    (by_hand,) = [p for p in after.sheet(0) if p.pin is Pin.HAND]
    assert (by_hand.x_mm, by_hand.y_mm) == (placed.x_mm, placed.y_mm)
    assert sum(len(sheet) for sheet in after.layout.sheets) == 6
    workshop.repacking.again(workshop.jobs.get(job), everything=True)
    assert {p.pin for sheet in assert_sound(workshop, job).layout.sheets for p in sheet} == {Pin.FREE}


def test_an_old_layout_is_refused_with_a_sentence(workshop: Workshop, job: int) -> None:
    old = table(workshop, job)
    workshop.by_hand.nudge(job, old, 0, [5], 0.0, 3.0)
    table(workshop, job)
    with pytest.raises(BadInput, match="better layout came in"):
        workshop.plans.table(job, old.layout_id)


def test_filled_copies_become_wanted_ones_when_pieces_are_moved(workshop: Workshop, job: int) -> None:
    workshop.jobs.change_items(job, "more", (1,), {"fill_priority": 1})
    workshop.jobs.change(job, "fill", {"packing.fill": True})
    packing = workshop.repacking.begin(workshop.jobs.get(job))
    while packing.state is PackingState.SEARCHING:
        packing = workshop.plans.of(workshop.jobs.get(job)).packing
    filled = workshop.plans.table(job, packing.layout_id)
    count = len(filled.sheet(0))
    assert count > 6
    done = workshop.by_hand.lock(job, filled, 0, [0], True)
    assert done.state.document.items[0].quantity == count
    assert not done.state.document.packing.fill


def test_a_restart_says_what_was_kept(tmp_path: Path, nester: ProcessNester) -> None:
    path = tmp_path / "a.db"
    first = Workshop(path, nester, search_seconds=60)
    number = job_with_disc(first)
    art = first.arts.take_in("second.png", disc_png())
    first.jobs.add_item(number, art.digest, "second", 37, {})
    first.jobs.change_items(number, "number", (1, 2), {"quantity": 14})
    packing = first.repacking.begin(first.jobs.get(number))
    assert packing.state is PackingState.SEARCHING
    # Cut short as by a kill: another workshop opens the file while the first one never says that it ends.
    second = Workshop(path, nester, search_seconds=1)
    planned = second.plans.of(second.jobs.get(number))
    plan, packing = planned.plan, planned.packing
    assert packing.state is PackingState.INTERRUPTED
    assert plan.layout.pieces > 0
    second.close()
    first.close()


def test_extra_copies_stay_when_one_of_them_grows(workshop: Workshop, job: int) -> None:
    workshop.jobs.change_items(job, "more are fine", (1,), {"quantity": 2, "fill_priority": 1})
    workshop.jobs.change(job, "fill", {"packing.fill": True})
    before = table(workshop, job)
    lying = len(before.sheet(0))
    assert lying > 2
    # As if they had been packed with more room between them than is needed.
    problem = replace(before.problem, spec=replace(before.problem.spec, gap_mm=0.5))
    roomy = Table(before.layout_id, before.revision, problem, before.layout)
    # One that lies in the middle, away from the rim.
    middle = roomy.problem.live.centroid
    places = [np.hypot(one.x_mm - middle.x, one.y_mm - middle.y) for one in roomy.sheet(0)]
    done = workshop.by_hand.grow(job, roomy, 0, [int(np.argmin(places))])
    assert [one.quantity for one in done.state.document.items] == [lying - 1, 1]
    assert sum(len(sheet) for sheet in done.state.document.held) == lying


def test_one_piece_grows_into_its_gap_and_the_others_keep_their_size(workshop: Workshop, job: int) -> None:
    before = table(workshop, job)
    # The last one has the rest of the sheet beside it.
    workshop.by_hand.drop(job, before, 0, [hand(before, 0, 5, 40, 60)])
    freed = assert_sound(workshop, job)
    old = workshop.jobs.get(job).document.items[0]
    done = workshop.by_hand.grow(job, freed, 0, [5])
    after = assert_sound(workshop, job)
    first, grown = done.state.document.items
    assert (first.quantity, grown.quantity) == (5, 1)
    assert first.size == old.size
    assert grown.size.wanted_mm > 1.2 * old.size.wanted_mm
    assert after.sheet(0)[5].item == grown.number
    assert after.sheet(0)[:5] == freed.sheet(0)[:5]
    # It does not grow any more, or no more than its border kept from it.

    def again(times: int) -> None:
        for _ in range(times):
            workshop.by_hand.grow(job, table(workshop, job), 0, [5])

    with pytest.raises(BadInput, match="fills its gap"):
        again(6)
    assert_sound(workshop, job)
    with pytest.raises(BadInput, match="pick one piece"):
        workshop.by_hand.grow(job, after, 0, [0, 1])
