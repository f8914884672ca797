"""Packing in the background: the first layout at once, better ones after, the best kept through everything."""

import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import select

from tests.services.test_jobs import job_with_disc
from vamper.core.plan import Plan
from vamper.core.values.placement import Pin
from vamper.formats.layout_document import layout_document, layout_of
from vamper.services.design.designer import Designer
from vamper.services.packing.kept_layouts import KEPT_LAYOUTS, KeptLayouts
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.packing_service import PackingState, PackingStatus
from vamper.services.workshop import Workshop
from vamper.store.tables import LayoutRow


@pytest.fixture
def patient(tmp_path: Path, nester: ProcessNester, designer: Designer) -> Iterator[Workshop]:
    """One whose searches last until they are stopped."""
    opened = Workshop(tmp_path / "patient.db", nester, search_seconds=30, designer=designer)
    yield opened
    opened.close()


def plan(workshop: Workshop, number: int) -> tuple[Plan, PackingStatus]:
    workshop.repacking.begin(workshop.jobs.get(number))
    planned = workshop.plans.of(workshop.jobs.get(number))
    return planned.plan, planned.packing


def wait(workshop: Workshop, number: int, seconds: float = 60) -> PackingStatus:
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        _, packing = plan(workshop, number)
        if packing.state is not PackingState.SEARCHING:
            return packing
        time.sleep(0.05)
    raise AssertionError("packing did not end")


def test_an_easy_job_is_packed_at_once(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    planned, _ = plan(workshop, number)
    assert planned.layout.pieces == 1
    assert wait(workshop, number).state is PackingState.DONE


def hard(workshop: Workshop) -> int:
    """More discs than one sheet takes, on one sheet."""
    number = job_with_disc(workshop)
    workshop.jobs.change_items(number, "number", (1,), {"quantity": 40})
    workshop.jobs.change(number, "one sheet", {"packing.max_sheets": 1})
    return number


def test_a_hard_job_shows_a_layout_first_and_gets_better(workshop: Workshop) -> None:
    number = hard(workshop)
    planned, packing = plan(workshop, number)
    assert packing.state is PackingState.SEARCHING
    assert planned.layout.pieces > 0
    wait(workshop, number)
    better, _ = plan(workshop, number)
    assert better.layout.pieces >= planned.layout.pieces
    assert better.layout.time_limited


def test_stopping_keeps_the_best_and_a_restart_keeps_it_too(workshop: Workshop) -> None:
    number = hard(workshop)
    plan(workshop, number)
    workshop.packing.stop(number)
    stopped, packing = plan(workshop, number)
    assert packing.state is PackingState.STOPPED
    again = Workshop(workshop.path, workshop.packing._nester, 3)
    kept, packing = plan(again, number)
    assert kept.layout.sheets == stopped.layout.sheets
    assert packing.state is PackingState.STOPPED
    again.close()


def test_what_somebody_saw_stays_in_their_hand_though_better_ones_came_since(patient: Workshop) -> None:
    number = hard(patient)
    seen, packing = plan(patient, number)
    ends = time.monotonic() + 20
    later = packing
    while later.layout_id == packing.layout_id and time.monotonic() < ends:
        time.sleep(0.02)
        _, later = plan(patient, number)
    assert later.layout_id != packing.layout_id
    patient.packing.freeze(number, packing.layout_id)
    held, taken = plan(patient, number)
    assert (held.layout.sheets, taken.state) == (seen.layout.sheets, PackingState.STOPPED)
    # What the search still finds on its way out does not come in any more, now or after a restart.
    time.sleep(1)
    assert plan(patient, number)[1].layout_id == packing.layout_id
    again = Workshop(patient.path, patient.packing._nester, 3)
    assert plan(again, number)[0].layout.sheets == seen.layout.sheets
    again.close()


def test_what_was_stopped_is_filled_all_the_same(patient: Workshop) -> None:
    def small(planned: Plan) -> int:
        return sum(placement.item == 2 for sheet in planned.layout.sheets for placement in sheet)

    number = hard(patient)
    other = job_with_disc(patient)
    patient.variants.fill_with(patient.jobs.get(number), other, 1, 8, 8)
    before, packing = plan(patient, number)
    assert packing.state is PackingState.SEARCHING
    assert small(before) == 0
    patient.packing.stop(number)
    stopped, packing = plan(patient, number)
    assert packing.state is PackingState.STOPPED
    assert small(stopped) > 0


def test_packing_everything_anew_goes_on_where_the_search_was_stopped(workshop: Workshop) -> None:
    """It brought the stopped layout back, and did nothing more."""
    number = hard(workshop)
    _, packing = plan(workshop, number)
    workshop.packing.stop(number)
    _, packing = plan(workshop, number)
    workshop.by_hand.lock(number, workshop.plans.table(number, packing.layout_id), 0, [0], True)
    assert plan(workshop, number)[0].layout.sheets[0][0].pin is Pin.LOCKED
    _, packing = plan(workshop, number)
    workshop.by_hand.lock(number, workshop.plans.table(number, packing.layout_id), 0, [0], False)
    workshop.repacking.again(workshop.jobs.get(number), everything=True)
    assert plan(workshop, number)[1].state is PackingState.SEARCHING


def test_a_change_packs_anew_and_undo_brings_the_layout_back(workshop: Workshop) -> None:
    number = job_with_disc(workshop)
    wait(workshop, number)
    before, _ = plan(workshop, number)
    workshop.jobs.change_items(number, "number", (1,), {"quantity": 3})
    assert plan(workshop, number)[0].layout.pieces == 3
    wait(workshop, number)
    workshop.jobs.undo(number)
    after, packing = plan(workshop, number)
    assert after.layout.sheets == before.layout.sheets
    assert packing.state is PackingState.DONE


def test_listeners_hear_of_every_change(workshop: Workshop) -> None:
    number, told = job_with_disc(workshop), threading.Event()
    seen = workshop.packing.version(number)
    with workshop.packing.listening(number, told.set):
        plan(workshop, number)
        assert told.wait(3)
    assert workshop.packing.version(number) > seen
    told.clear()
    workshop.packing.forget(number)
    assert not told.is_set()


def test_layouts_are_kept_to_the_last_digit(workshop: Workshop) -> None:
    number = hard(workshop)
    layout = plan(workshop, number)[0].layout
    assert layout_of(layout_document(layout)) == layout


def test_a_search_that_a_change_ended_is_stopped_and_not_cut_short(workshop: Workshop) -> None:
    job = job_with_disc(workshop)
    workshop.jobs.change_items(job, "many", (1,), {"quantity": 60})
    workshop.repacking.begin(workshop.jobs.get(job))
    ended = workshop.packing._runs[job].thread
    assert ended is not None
    workshop.jobs.change(job, "gap", {"packing.gap_mm": 3})
    workshop.repacking.begin(workshop.jobs.get(job))
    ended.join(20)
    # Undone, the layout is there at once, with what really became of its search.
    workshop.jobs.undo(job)
    packing = workshop.plans.of(workshop.jobs.get(job)).packing
    assert packing.state in (PackingState.STOPPED, PackingState.DONE)
    assert packing.layout.pieces == 60


def test_a_design_taken_off_and_brought_back_has_a_layout_of_its_own(workshop: Workshop) -> None:
    """The same art again is another design; a layout that names the first one is not its."""
    number = job_with_disc(workshop)
    art = workshop.jobs.get(number).document.items[0].art
    wait(workshop, number)
    workshop.jobs.remove_items(number, (1,))
    workshop.jobs.add_item(number, art, "disc", 40, {})
    planned, _ = plan(workshop, number)
    assert {one.item for sheet in planned.layout.sheets for one in sheet} == {2}


def test_only_a_jobs_own_layouts_make_room_for_its_next(workshop: Workshop) -> None:
    one, other = job_with_disc(workshop), job_with_disc(workshop)
    layout = plan(workshop, one)[0].layout
    kept = KeptLayouts(workshop.sessions)
    for number in range(KEPT_LAYOUTS + 3):
        assert kept.write(other, f"of the other {number}", layout, "done")
        assert kept.write(one, f"{number}", layout, "done")
    with workshop.sessions() as session:
        keys = {row.key for row in session.scalars(select(LayoutRow).where(LayoutRow.job_id == one))}
        others = {row.key for row in session.scalars(select(LayoutRow).where(LayoutRow.job_id == other))}
    assert keys == {f"{number}" for number in range(3, KEPT_LAYOUTS + 3)}
    assert others == {f"of the other {number}" for number in range(3, KEPT_LAYOUTS + 3)}
