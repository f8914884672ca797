"""A run from its one question to what the next job starts with."""

from datetime import timedelta

import pytest

from tests.conftest import disc_alpha, picture_of
from vamper.core.ledger.facts import facts_of
from vamper.core.ledger.run import CameOut, LaterKind, Run, Spoilt, SpoiltPiece, symptoms_of
from vamper.core.ledger.supply import Pack
from vamper.core.values.findings import BadInput
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.tried import Outcome
from vamper.formats.out.picture_files import write_png
from vamper.services.brief.brief import brief
from vamper.services.jobs.document import JobDocument, written
from vamper.services.ledger.costing import work_of
from vamper.services.ledger.logging import Said, run_of
from vamper.services.ledger.runs import LoggedAlready, Runs
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop

PNG = write_png(picture_of(disc_alpha(200, 80, (100, 100))).rgba, 300)


@pytest.fixture
def job(workshop: Workshop) -> int:
    job_id = workshop.jobs.add(JobDocument(printer_id=1, cutter_id=1, stock="satin-vinyl"))
    art = workshop.arts.take_in("disc.png", PNG)
    workshop.jobs.add_item(job_id, art.digest, "disc", 30.0, {})
    workshop.jobs.change_items(job_id, "count", (1,), {"quantity": 9})
    return job_id


def said(came_out: CameOut = CameOut.GOOD, *spoilt: SpoiltPiece) -> Said:
    """What is said of the first sheet."""
    return Said(1, 1, came_out, spoilt)


def made(workshop: Workshop, job: int, came_out: CameOut = CameOut.GOOD, *spoilt: SpoiltPiece) -> Run:
    return run_of(workshop.last_handed(job), workshop.shop, said(came_out, *spoilt))


def torn(count: int, what: Spoilt = Spoilt.TORN) -> tuple[SpoiltPiece, ...]:
    return tuple(SpoiltPiece(place, what) for place in range(count))


def test_logging_never_changes_the_job(workshop: Workshop, job: int) -> None:
    before = written(workshop.jobs.get(job).document)
    layout = workshop.plan(workshop.jobs.get(job)).plan.layout
    workshop.log_outcome(job, said(CameOut.SPOILED, *torn(9, Spoilt.NOT_THROUGH)))
    assert written(workshop.jobs.get(job).document) == before
    assert workshop.plan(workshop.jobs.get(job)).plan.layout == layout


def test_the_second_job_starts_with_what_the_first_taught(workshop: Workshop, job: int) -> None:
    state = workshop.jobs.get(job)
    starter = next(iter(workshop.plan(state).plan.settings.values()))
    for _ in range(2):
        workshop.log_outcome(job, said(CameOut.SPOILED, *torn(9, Spoilt.NOT_THROUGH)), again=True)
    second = workshop.jobs.add(JobDocument(printer_id=1, cutter_id=1, stock="satin-vinyl"))
    workshop.jobs.add_item(second, workshop.jobs.get(job).document.items[0].art, "disc", 30.0, {})
    learnt = next(iter(workshop.plan(workshop.jobs.get(second)).plan.settings.values()))
    assert learnt.force_gf * learnt.passes > starter.force_gf * starter.passes
    recipe = workshop.runs.recipes()[0]
    assert (recipe.success.good, recipe.success.bad) == (0, 2)


def test_one_torn_piece_says_nothing_of_the_force(workshop: Workshop, job: int) -> None:
    workshop.log_outcome(job, said(CameOut.SPOILED, *torn(1)))
    tries = workshop.shop.tried.of(1, "satin-vinyl").runs
    assert [one.outcome for one in tries] == [Outcome.CLEAN]


def test_what_pieces_were_off_by_is_kept_with_the_machines(workshop: Workshop, job: int) -> None:
    off = SpoiltPiece(0, Spoilt.OFF, LoggedMiss(0.4, -0.1))
    workshop.log_outcome(job, said(CameOut.SPOILED, off))
    stock = workshop.stock("satin-vinyl")
    assert workshop.shop.measured.of(1, 1, stock).misses == (LoggedMiss(0.4, -0.1),)


def test_a_run_logged_twice_is_asked_about(workshop: Workshop, job: int) -> None:
    workshop.record_hand_off(workshop.jobs.get(job))
    workshop.log_outcome(job, said())
    tries = len(workshop.shop.tried.of(1, "satin-vinyl").runs)
    with pytest.raises(LoggedAlready, match="in the ledger already"):
        workshop.log_outcome(job, said())
    # What was refused taught nothing.
    assert (len(workshop.runs.all()), len(workshop.shop.tried.of(1, "satin-vinyl").runs)) == (1, tries)
    workshop.log_outcome(job, said(), again=True)
    assert len(workshop.runs.all()) == 2


def test_a_sheet_that_was_not_run_teaches_nothing(workshop: Workshop, job: int) -> None:
    workshop.log_outcome(job, said(CameOut.NOT_RUN))
    assert workshop.shop.tried.of(1, "satin-vinyl").runs == ()
    assert workshop.runs.recipes() == ()


def test_what_does_not_go_together_is_said(workshop: Workshop, job: int) -> None:
    with pytest.raises(BadInput, match="tap the pieces"):
        made(workshop, job, CameOut.SPOILED)
    with pytest.raises(BadInput, match="does not lie on this sheet"):
        made(workshop, job, CameOut.SPOILED, SpoiltPiece(99, Spoilt.TORN))
    with pytest.raises(NotFound):
        workshop.runs.get(7)
    with pytest.raises(BadInput, match="no such cause"):
        workshop.runs.found(workshop.log_outcome(job, said()), "nonsense")


def test_a_run_outlives_its_job_and_a_restart(workshop: Workshop, job: int) -> None:
    number = workshop.log_outcome(job, said(CameOut.SPOILED, *torn(2)))
    workshop.jobs.remove(job)
    kept = Runs(workshop.sessions).get(number)
    assert kept.run.spoilt == torn(2)
    assert kept.run.settings


def test_the_cause_that_was_found_shifts_what_is_thought_of_first(workshop: Workshop, job: int) -> None:
    number = workshop.log_outcome(job, said(CameOut.SPOILED, *torn(3)))
    assert symptoms_of(workshop.runs.get(number).run) == ("corners-torn",)
    workshop.runs.found(number, "too-fast")
    assert workshop.runs.causes_found() == {"too-fast": 1}
    workshop.runs.found(number, None)
    assert workshop.runs.causes_found() == {}


def test_looks_come_back_when_they_are_due(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(job, "outdoors", {"purpose": "vehicle"})
    number = workshop.log_outcome(job, said())
    at = workshop.runs.get(number).made_at
    assert workshop.runs.due(at + timedelta(days=29)) == []
    assert [kind for _, kind in workshop.runs.due(at + timedelta(days=31))] == [LaterKind.MONTH]
    workshop.runs.looked_later(number, LaterKind.MONTH, held=False, note="one corner")
    assert workshop.runs.due(at + timedelta(days=31)) == []


def test_facts_follow_from_the_plan(workshop: Workshop, job: int) -> None:
    plain = facts_of(workshop.plan(workshop.jobs.get(job)).plan)
    assert {"not-calibrated", "new-material"} <= set(plain)
    workshop.jobs.change(job, "shimmer", {"stock": "shimmer-vinyl", "room_light": "bright"})
    shiny = facts_of(workshop.plan(workshop.jobs.get(job)).plan)
    assert {"gloss", "metallic", "bright-light"} <= set(shiny)


def test_runs_come_in_once(workshop: Workshop, job: int) -> None:
    run, at = made(workshop, job), workshop.jobs.get(job).changed_at
    assert workshop.runs.add_all([(at, run), (at, run)]) == 1
    assert workshop.runs.add_all([(at, run)]) == 0


def test_runs_take_their_sheets_off_the_shelf(workshop: Workshop, job: int) -> None:
    assert workshop.supplies.of("satin-vinyl") is None
    pack = workshop.supplies.buy(Pack("satin-vinyl", 10, 12.0))
    workshop.log_outcome(job, said())
    workshop.log_outcome(job, said(CameOut.NOT_RUN), again=True)
    shelf = workshop.supplies.of("satin-vinyl")
    assert shelf is not None
    assert (shelf.bought, shelf.spent, shelf.left, shelf.sheet_price) == (10, 1, 9, 1.2)
    told = "".join(phrase.text for phrase in brief(workshop.told(workshop.jobs.get(job))))
    assert "satin vinyl (9 sheets left)" in told
    workshop.supplies.remove(pack)
    assert workshop.supplies.of("satin-vinyl") is None


def test_prices_below_nothing_are_refused(workshop: Workshop) -> None:
    workshop.supplies.change_rates({"hour": 12, "currency": "gannets"})
    for wrong in ({"hour": -1}, {"margin": 1}, {"nonsense": 3}):
        with pytest.raises(BadInput):
            workshop.supplies.change_rates(wrong)
    assert (workshop.supplies.rates().hour, workshop.supplies.rates().currency) == (12, "gannets")


def test_what_is_spoilt_makes_the_good_ones_dearer(workshop: Workshop, job: int) -> None:
    plan = workshop.plan(workshop.jobs.get(job)).plan
    assert work_of(plan, None, workshop.runs, 0.0, simulated=False).good == 1.0
    workshop.log_outcome(job, said(CameOut.SPOILED, *torn(3)))
    work = work_of(plan, None, workshop.runs, 0.0, simulated=False)
    assert work.good == pytest.approx(7 / 11)
    assert work_of(plan, None, workshop.runs, 0.0, simulated=True).good == 1.0


def test_a_log_that_cannot_be_keeps_nothing(workshop: Workshop, job: int) -> None:
    """A stock without a backing has none to cut through: said before anything is kept, not after."""
    workshop.jobs.change(job, "card", {"stock": "card"})
    with pytest.raises(BadInput, match="there is no backing"):
        workshop.log_outcome(job, said(CameOut.SPOILED, *torn(9, Spoilt.BACKING_THROUGH)))
    assert workshop.runs.all() == ()
