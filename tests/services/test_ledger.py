"""A run from its one question to what the next job starts with."""

import threading
from dataclasses import asdict, replace
from datetime import timedelta
from pathlib import Path
from types import SimpleNamespace
from typing import cast

import numpy as np
import pytest
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from shapely import Point

from tests.conftest import disc_alpha, picture_of
from tests.tried import tried
from vamper.core.ledger.facts import facts_of
from vamper.core.ledger.recipe import RecipeKind
from vamper.core.ledger.run import CameOut, LaterKind, Run, Spoilt, SpoiltPiece, Took, UsedSetting, symptoms_of
from vamper.core.ledger.supply import Bought, Offcut, Pack, Thing
from vamper.core.values.blade import BladeIn
from vamper.core.values.calibration import thickness_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Route
from vamper.core.values.findings import BadInput, Severity
from vamper.core.values.mat import MatIn
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.named_settings import NamedSetting
from vamper.core.values.paper import Paper
from vamper.core.values.reading import Remedy, RoomLight
from vamper.core.values.stock import StockClass
from vamper.core.values.tried import Outcome, Pressure, WasSet
from vamper.core.vision.loose_pieces import LoosePiece, UnsureReason
from vamper.core.vision.pose import Pose
from vamper.core.vision.rectify import RectifiedPicture
from vamper.core.vision.reference import SheetReference
from vamper.core.vision.weeded_sheet import WeededSheet
from vamper.formats.out.picture_files import write_png
from vamper.formats.runs_file import read_runs_csv, write_runs_csv
from vamper.services.brief.brief import brief
from vamper.services.finish.finishing import finishing_of
from vamper.services.jobs.document import JobDocument, document_json
from vamper.services.ledger.costing import work_of
from vamper.services.ledger.from_photo import spoilt_in
from vamper.services.ledger.handed import HandedOffs
from vamper.services.ledger.logging import Said, WasSetAs, run_of
from vamper.services.ledger.on_hand import FinishedMove
from vamper.services.ledger.runs import LoggedAlready, Runs
from vamper.services.ledger.scraps import scraps_for
from vamper.services.ledger.shelf_findings import shelf_findings
from vamper.services.twin.photo_checks import WeededCheck
from vamper.services.twin.samples import sample_photo
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
    return run_of(workshop.made.last_handed(job), workshop.shop, said(came_out, *spoilt))


def torn(count: int, what: Spoilt = Spoilt.TORN) -> tuple[SpoiltPiece, ...]:
    return tuple(SpoiltPiece(place, what) for place in range(count))


@given(
    st.lists(st.tuples(st.integers(0, 8), st.sampled_from(list(Spoilt))), max_size=9),
    st.sampled_from([CameOut.GOOD, CameOut.NOT_RUN]),
)
@tried(12, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_logging_never_changes_the_job_or_its_layout(
    workshop: Workshop, job: int, spoilt: list[tuple[int, Spoilt]], other: CameOut
) -> None:
    before = document_json(workshop.jobs.get(job).document)
    layout = workshop.plans.of(workshop.jobs.get(job)).plan.layout
    pieces = tuple(SpoiltPiece(place, what) for place, what in dict(spoilt).items())
    workshop.made.log_outcome(job, said(CameOut.SPOILED if pieces else other, *pieces), again=True)
    assert document_json(workshop.jobs.get(job).document) == before
    assert workshop.plans.of(workshop.jobs.get(job)).plan.layout == layout


def test_a_sheet_of_a_job_that_was_removed_is_still_logged_with_its_plan(workshop: Workshop, job: int) -> None:
    workshop.handing_over.record(workshop.jobs.get(job))
    workshop.jobs.remove(job)
    number = workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(2)))
    assert workshop.runs.get(number).run.pieces == 9


def test_the_second_job_starts_with_what_the_first_taught(workshop: Workshop, job: int) -> None:
    state = workshop.jobs.get(job)
    starter = next(iter(workshop.plans.of(state).plan.settings.values()))
    for _ in range(2):
        workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(9, Spoilt.NOT_THROUGH)), again=True)
    second = workshop.jobs.add(JobDocument(printer_id=1, cutter_id=1, stock="satin-vinyl"))
    workshop.jobs.add_item(second, workshop.jobs.get(job).document.items[0].art, "disc", 30.0, {})
    learnt = next(iter(workshop.plans.of(workshop.jobs.get(second)).plan.settings.values()))
    assert learnt.force_gf * learnt.passes > starter.force_gf * starter.passes
    recipe = workshop.runs.recipes()[0]
    # What stands is the setting of the second run, which the first one taught; the first one's failure is not its.
    assert (recipe.success.good, recipe.success.bad) == (0, 1)


def test_what_is_learnt_is_learnt_of_what_was_set(workshop: Workshop, job: int) -> None:
    kiss = workshop.plans.of(workshop.jobs.get(job)).plan.settings[Cut.KISS]

    def log(was_set: WasSetAs) -> tuple[list[tuple[float, int]], list[UsedSetting]]:
        before = len(workshop.shop.tried.of(1, "satin-vinyl").runs)
        number = workshop.made.log_outcome(job, replace(said(), was_set=was_set), again=True)
        new = workshop.shop.tried.of(1, "satin-vinyl").runs[before:]
        return [(one.force_gf, one.passes) for one in new], list(workshop.runs.get(number).run.settings)

    taught, used = log("as proposed")
    assert taught == [(kiss.force_gf, kiss.passes)]
    assert [(one.force_gf, one.passes, one.setting) for one in used] == [(kiss.force_gf, kiss.passes, "")]
    taught, used = log((WasSet(Cut.KISS, 2, 66.0),))
    assert taught == [(66.0, 2)]
    assert [(one.force_gf, one.passes) for one in used] == [(66.0, 2)]
    # Nobody remembers: the run is kept, and nothing is learnt of force.
    assert log(None) == ([], [])


def test_a_machine_with_settings_of_its_own_is_asked_for_one_of_them(workshop: Workshop, job: int) -> None:
    machine = workshop.shop.cutters.get(1)
    own = replace(machine.value, route=Route.PROGRAM)
    workshop.shop.cutters.keep(machine.name, own, 1)
    # Nothing is typed yet, so nothing is taken for set.
    number = workshop.made.log_outcome(job, said(), again=True)
    assert workshop.runs.get(number).run.settings == ()
    steps = (NamedSetting("foil"), NamedSetting("card", tuple(Pressure)))
    workshop.shop.cutters.keep(machine.name, replace(own, settings=steps), 1)
    set_to = (WasSet(Cut.KISS, 2, setting="card", pressure=Pressure.LESS),)
    number = workshop.made.log_outcome(job, replace(said(), was_set=set_to), again=True)
    run = workshop.runs.get(number).run
    used = [(one.force_gf, one.setting, one.pressure, one.passes) for one in run.settings]
    assert used == [(None, "card", Pressure.LESS, 2)]
    # It is remembered of that setting, and taken again.
    (told,) = workshop.jobs.core_job(workshop.jobs.get(job)).cutter.settings[1].seen
    assert (told.outcome, told.pressure, told.passes) == (Outcome.CLEAN, Pressure.LESS, 2)
    again = workshop.plans.of(workshop.jobs.get(job)).plan.settings[Cut.KISS].spoken.choice
    assert again is not None
    assert again.words == "“card”, less pressure, 2 passes"
    assert workshop.shop.tried.of(1, "satin-vinyl").runs == ()
    # It goes out and comes in again as it was.
    ((_, read),) = read_runs_csv(write_runs_csv([(workshop.runs.get(number).made_at, run)]))
    assert read.settings == run.settings
    with pytest.raises(BadInput, match="no setting"):
        workshop.made.log_outcome(job, replace(said(), was_set=(WasSet(Cut.KISS, 1, setting="felt"),)), again=True)
    with pytest.raises(BadInput, match="settings of its own"):
        workshop.made.log_outcome(job, replace(said(), was_set=(WasSet(Cut.KISS, 1, 100.0),)), again=True)
    with pytest.raises(ValueError, match="not both"):
        WasSet(Cut.KISS, 1, 100.0, "card")


def test_one_torn_piece_says_nothing_of_the_force(workshop: Workshop, job: int) -> None:
    workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(1)))
    tries = workshop.shop.tried.of(1, "satin-vinyl").runs
    assert [one.outcome for one in tries] == [Outcome.CLEAN]


def test_a_miss_is_kept_and_read_in_the_class_of_the_sheet_with_its_laminate(workshop: Workshop, job: int) -> None:
    def read() -> list[tuple[float, float]]:
        misses = workshop.jobs.core_job(workshop.jobs.get(job)).misses
        return [(one.dx_mm, one.dy_mm) for one in misses if one.within_mm is None]

    plain = workshop.shop.stock("satin-vinyl")
    assert thickness_of(plain.thickness_um) is not thickness_of(plain.under(400.0).thickness_um)
    workshop.jobs.change(job, "laminate", {"finish.cover": {"kind": "laminate", "um": 400.0}})
    workshop.made.log_outcome(job, said(CameOut.SPOILED, SpoiltPiece(0, Spoilt.OFF, LoggedMiss(0.4, -0.1))))
    assert read() == [(0.4, -0.1)]
    workshop.jobs.change(job, "no laminate", {"finish.cover": {"kind": "none"}})
    assert read() == []


def test_what_pieces_were_off_by_is_kept_with_the_machines(workshop: Workshop, job: int) -> None:
    off = SpoiltPiece(0, Spoilt.OFF, LoggedMiss(0.4, -0.1))
    workshop.made.log_outcome(job, said(CameOut.SPOILED, off))
    stock = workshop.shop.stock("satin-vinyl")
    seen, good = workshop.shop.measured.of(1, 1, stock).misses
    assert (seen.dx_mm, seen.dy_mm, seen.pieces, seen.within_mm) == (0.4, -0.1, 1, None)
    # The other eight came out well, so they lie within what is seen as good; one sheet made them all.
    assert (good.pieces, good.run) == (8, seen.run)
    assert good.within_mm is not None
    # Stock of another thickness was not cut.
    assert workshop.shop.measured.of(1, 1, workshop.shop.stock("heavy-card")).misses == ()


def test_a_run_logged_twice_is_asked_about(workshop: Workshop, job: int) -> None:
    workshop.handing_over.record(workshop.jobs.get(job))
    workshop.made.log_outcome(job, said())
    tries = len(workshop.shop.tried.of(1, "satin-vinyl").runs)
    with pytest.raises(LoggedAlready, match="in the ledger already"):
        workshop.made.log_outcome(job, said())
    # What was refused taught nothing.
    assert (len(workshop.runs.all()), len(workshop.shop.tried.of(1, "satin-vinyl").runs)) == (1, tries)
    workshop.made.log_outcome(job, said(), again=True)
    assert len(workshop.runs.all()) == 2


def test_a_sheet_that_was_not_run_teaches_nothing(workshop: Workshop, job: int) -> None:
    workshop.made.log_outcome(job, said(CameOut.NOT_RUN))
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
        workshop.runs.found(workshop.made.log_outcome(job, said()), "nonsense")


def test_a_run_outlives_its_job_and_a_restart(workshop: Workshop, job: int) -> None:
    number = workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(2)))
    workshop.jobs.remove(job)
    kept = Runs(workshop.sessions).get(number)
    assert kept.run.spoilt == torn(2)
    assert kept.run.settings


def test_the_cause_that_was_found_shifts_what_is_thought_of_first(workshop: Workshop, job: int) -> None:
    number = workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(3)))
    assert symptoms_of(workshop.runs.get(number).run) == ("corners-torn",)
    workshop.runs.found(number, "too-fast")
    assert workshop.runs.causes_found() == {"too-fast": 1}
    workshop.runs.found(number, None)
    assert workshop.runs.causes_found() == {}


def test_misses_say_what_kind_they_are(workshop: Workshop, job: int) -> None:
    workshop.handing_over.record(workshop.jobs.get(job))
    places = [edge.centroid for edge in workshop.made.last_handed(job).plan.sheets[0].edges]

    def seen(*off: LoggedMiss) -> tuple[str, ...]:
        pieces = [SpoiltPiece(place, Spoilt.OFF, one) for place, one in enumerate(off)]
        number = workshop.made.log_outcome(job, said(CameOut.SPOILED, *pieces), again=True)
        return workshop.made.symptoms_of(workshop.runs.get(number))

    assert seen(*(LoggedMiss(0.5, 0.2) for _ in places)) == ("cut-off-even",)
    assert seen(*(LoggedMiss(round(0.01 * at.x, 3), 0.0) for at in places)) == ("cut-off-growing",)
    assert seen(*(LoggedMiss(0.0, round(0.02 * (at.y - places[0].y), 3)) for at in places)) == ("cut-off-feed",)


def test_looks_come_back_when_they_are_due(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(job, "outdoors", {"purpose": "vehicle"})
    number = workshop.made.log_outcome(job, said())
    at = workshop.runs.get(number).made_at
    assert workshop.runs.due(at + timedelta(days=29)) == []
    assert [kind for _, kind in workshop.runs.due(at + timedelta(days=31))] == [LaterKind.MONTH]
    workshop.runs.looked_later(number, LaterKind.MONTH, held=False, note="one corner")
    assert workshop.runs.due(at + timedelta(days=31)) == []


def test_facts_follow_from_the_plan(workshop: Workshop, job: int) -> None:
    plain = facts_of(workshop.plans.of(workshop.jobs.get(job)).plan)
    assert {"not-calibrated", "new-material"} <= set(plain)
    workshop.jobs.change(job, "shimmer", {"stock": "shimmer-vinyl", "room_light": "bright"})
    shiny = facts_of(workshop.plans.of(workshop.jobs.get(job)).plan)
    assert {"gloss", "metallic", "bright-light"} <= set(shiny)


def test_runs_come_in_once(workshop: Workshop, job: int) -> None:
    run, at = made(workshop, job), workshop.jobs.get(job).changed_at
    assert workshop.runs.add_all([(at, run), (at, run)]) == 1
    assert workshop.runs.add_all([(at, run)]) == 0


def test_runs_take_their_sheets_off_the_shelf(workshop: Workshop, job: int) -> None:
    assert workshop.supplies.of("satin-vinyl") is None
    pack = workshop.supplies.buy(Pack("satin-vinyl", 10, 12.0))
    workshop.made.log_outcome(job, said())
    workshop.made.log_outcome(job, said(CameOut.NOT_RUN), again=True)
    shelf = workshop.supplies.of("satin-vinyl")
    assert shelf is not None
    assert (shelf.bought, shelf.spent, shelf.left, shelf.sheet_price) == (10, 1, 9, 1.2)
    told = "".join(phrase.text for phrase in brief(workshop.briefing.facts(workshop.jobs.get(job))))
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
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    assert work_of(plan, None, workshop.runs, 0.0, simulated=False).good == 1.0
    workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(3)))
    work = work_of(plan, None, workshop.runs, 0.0, simulated=False)
    assert work.good == pytest.approx(7 / 11)
    assert work_of(plan, None, workshop.runs, 0.0, simulated=True).good == 1.0


def test_a_log_that_cannot_be_keeps_nothing(workshop: Workshop, job: int) -> None:
    """A stock without a backing has none to cut through: said before anything is kept, not after."""
    workshop.jobs.change(job, "card", {"stock": "card"})
    with pytest.raises(BadInput, match="there is no backing"):
        workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(9, Spoilt.BACKING_THROUGH)))
    assert workshop.runs.all() == ()


def test_sheets_are_asked_about_as_they_were_handed_off(workshop: Workshop, job: int) -> None:
    workshop.handing_over.record(workshop.jobs.get(job))
    before = workshop.made.last_handed(job)
    workshop.jobs.change_items(job, "count", (1,), {"quantity": 2})
    after = workshop.made.last_handed(job)
    assert len(after.plan.sheets[0].placements) == 9
    assert after.plan.layout == before.plan.layout
    assert (after.document.copies, after.number) == (1, before.number)
    assert made(workshop, job).pieces == 9


def test_a_hand_off_is_worked_out_anew_after_a_restart(workshop: Workshop, job: int) -> None:
    state = workshop.jobs.get(job)
    workshop.handing_over.record(state)
    plan = workshop.plans.of(state).plan
    again = HandedOffs(workshop.sessions, workshop.arts, workshop.designer).get(1)
    assert again is not None
    assert again.plan.layout == plan.layout
    assert {cut: one.force_gf for cut, one in again.plan.settings.items()} == {
        cut: one.force_gf for cut, one in plan.settings.items()
    }
    assert [edge.wkt for edge in again.plan.sheets[0].edges] == [edge.wkt for edge in plan.sheets[0].edges]


def test_a_run_is_kept_whole_or_not_at_all(workshop: Workshop, job: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """Belief, blade, mat and misses are written with it: where the last of them fails, there is nothing of any."""
    blade = workshop.shop.care.blades.keep("May", BladeIn())
    workshop.shop.care.blades.put_in(blade, 1)

    def fails(*_: object) -> None:
        raise RuntimeError("the disk is full")

    monkeypatch.setattr(workshop.shop.measured, "log", fails)
    off = SpoiltPiece(0, Spoilt.OFF, LoggedMiss(0.4, -0.1))
    with pytest.raises(RuntimeError):
        workshop.made.log_outcome(job, said(CameOut.SPOILED, off))
    assert workshop.runs.all() == Runs(workshop.sessions).all() == ()
    assert workshop.shop.tried.of(1, "satin-vinyl").runs == ()
    assert workshop.shop.care.blades.get(blade).value.metres == 0


def test_a_good_run_is_made_again_exactly(workshop: Workshop, job: int) -> None:
    workshop.handing_over.record(workshop.jobs.get(job))
    run = workshop.made.log_outcome(job, said())
    then = workshop.made.last_handed(job).plan
    # What was learnt since changes what is proposed, and not what was set then.
    for _ in range(3):
        workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(9, Spoilt.NOT_THROUGH)), again=True)
    again = workshop.jobs.get(workshop.making.again(run, 4))
    plan = workshop.plans.of(again).plan
    assert plan.layout == then.layout
    assert again.document.copies == 4
    assert {cut: (one.force_gf, one.passes) for cut, one in plan.settings.items()} == {
        cut: (one.force_gf, one.passes) for cut, one in then.settings.items()
    }
    assert plan.settings[Cut.KISS].instead
    let_go = workshop.plans.of(workshop.jobs.change(again.id, "as proposed", {"set_then": []})).plan
    assert let_go.settings[Cut.KISS].force_gf > plan.settings[Cut.KISS].force_gf


def test_a_run_that_was_not_through_is_made_again_with_what_it_taught(workshop: Workshop, job: int) -> None:
    workshop.handing_over.record(workshop.jobs.get(job))
    run = workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(9, Spoilt.NOT_THROUGH)))
    again = workshop.jobs.get(workshop.making.again(run, 1))
    assert again.document.set_then == ()
    workshop.runs.add_all([(again.changed_at, workshop.runs.get(run).run)])
    with pytest.raises(BadInput, match="the plan of this run is not kept"):
        workshop.making.again(workshop.runs.all()[-1].id, 1)


def test_new_jobs_begin_with_the_remedies_light_and_coats_that_went_well(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(
        job,
        "tape",
        {"marks.remedies": ["matte-tape"], "room_light": "dim", "finish.cover": {"kind": "coat", "coats": 5}},
    )
    for _ in range(2):
        workshop.made.log_outcome(job, said(), again=True)
    new = workshop.jobs.get(workshop.jobs.create("second"))
    assert new.document.marks.remedies == (Remedy.MATTE_TAPE,)
    assert new.document.room_light is RoomLight.DIM
    # Nothing is known of another stock, so what stood stays; back on the first one it is as it was learnt.
    there = workshop.jobs.change(new.id, "stock", {"stock": "gloss-vinyl", "marks.remedies": []})
    assert there.document.marks.remedies == ()
    assert workshop.jobs.change(new.id, "stock", {"stock": "satin-vinyl"}).document.marks.remedies != ()
    # What is said with the stock is said on purpose.
    own = {"stock": "satin-vinyl", "marks.remedies": []}
    assert workshop.jobs.change(new.id, "stock", own).document.marks.remedies == ()
    assert {one.what.kind for one in workshop.runs.recipes()} == set(RecipeKind)


def test_a_print_setting_that_went_better_is_proposed(workshop: Workshop, job: int) -> None:
    def printed_on(media: str, *spoilt: SpoiltPiece) -> None:
        workshop.shop.prints.change(1, "satin-vinyl", {"own": media})
        workshop.made.log_outcome(job, said(CameOut.SPOILED if spoilt else CameOut.GOOD, *spoilt), again=True)

    for _ in range(3):
        printed_on("photo, slow")
    for _ in range(3):
        printed_on("plain, fast", *torn(9, Spoilt.PRINT_FAULT))
    workshop.shop.prints.change(1, "satin-vinyl", {"own": ""})
    advice = workshop.made.print_advice(
        workshop.jobs.get(job).document, workshop.plans.of(workshop.jobs.get(job)).plan.job
    )
    assert advice.media == "photo, slow"
    assert "good in 3 of 3 runs here" in advice.source


def test_everything_that_is_used_up_goes_down_with_the_runs(workshop: Workshop, job: int) -> None:
    workshop.supplies.buy(Bought(Thing.INK, 10.0, 5.0))
    workshop.supplies.buy(Bought(Thing.BLADE, 2, 18.0))
    workshop.made.log_outcome(job, said())
    took = workshop.runs.all()[0].run.took
    assert took.ink_ml > 0
    ink = next(one for one in workshop.supplies.stored() if one.thing is Thing.INK)
    assert ink.left == pytest.approx(10 - took.ink_ml)
    assert workshop.supplies.prices().ink_ml == pytest.approx(0.5)
    assert workshop.supplies.rates().ink_ml == 0
    short = workshop.supplies.short_of("satin-vinyl", 1, Took(ink_ml=11))
    assert [one.name for one in short] == ["ink"]


def test_there_is_not_enough_for_the_job(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(job, "often", {"copies": 5})
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    assert list(shelf_findings(plan, workshop.supplies)) == []
    workshop.supplies.buy(Pack("satin-vinyl", 3, 3.0))
    (finding,) = shelf_findings(plan, workshop.supplies)
    assert (finding.code, finding.severity) == ("sheet.short", Severity.LOOK)
    told = "".join(phrase.text for phrase in brief(workshop.briefing.facts(workshop.jobs.get(job), plan)))
    assert "(3 sheets left, 5 needed)" in told


def test_an_offcut_that_holds_the_job_is_its_sheet(workshop: Workshop, job: int) -> None:
    workshop.supplies.buy(Pack("satin-vinyl", 10, 10.0))
    workshop.handing_over.record(workshop.jobs.get(job))
    run = workshop.made.log_outcome(job, said())
    workshop.jobs.change_items(job, "count", (1,), {"quantity": 4})
    number = workshop.made.keep_rest(run, "rest of the discs")
    (finding,) = shelf_findings(workshop.plans.of(workshop.jobs.get(job)).plan, workshop.supplies)
    assert finding.code == "sheet.offcut"
    after = workshop.jobs.change(job, "offcut", dict(finding.fixes[0].changes))
    assert after.document.paper == workshop.supplies.offcuts()[0].offcut.paper
    plan = workshop.plans.of(after).plan
    assert plan.layout.pieces == 4
    assert work_of(plan, workshop.supplies.of("satin-vinyl"), workshop.runs, 0.0, simulated=False).sheet_price == 0
    # Made on it, it is gone, and no sheet was taken for it.
    workshop.handing_over.record(after)
    workshop.made.log_outcome(job, said())
    assert [one.id for one in workshop.supplies.offcuts()] == []
    assert number == 1
    shelf = workshop.supplies.of("satin-vinyl")
    assert shelf is not None
    assert shelf.spent == 1


def test_products_that_came_out_well_are_counted_with_their_runs(workshop: Workshop, job: int) -> None:
    art = workshop.jobs.get(job).document.items[0].art
    workshop.jobs.add_item(job, art, "back", 20, {})
    workshop.jobs.change_items(job, "count", (1, 2), {"quantity": 4})
    pendant = {"name": "pendant", "items": [1, 2], "quantity": 4}
    workshop.jobs.change(job, "product", {"products": [pendant]})
    workshop.handing_over.record(workshop.jobs.get(job))
    # One piece is torn: of the four products three are whole.
    first = workshop.made.log_outcome(job, said(CameOut.SPOILED, *torn(1)))
    assert [(one.name, one.left) for one in workshop.on_hand.all()] == [("pendant", 3)]
    # The same sheet once more makes up for it.
    again = workshop.made.log_outcome(job, said(), again=True)
    assert workshop.on_hand.all()[0].left == 7
    workshop.on_hand.count("pendant", FinishedMove.SOLD, 5)
    # A run that was none takes back no more than is still there.
    workshop.made.remove(again)
    assert (workshop.on_hand.all()[0].made, workshop.on_hand.all()[0].left) == (5, 0)
    workshop.made.remove(first)
    assert workshop.on_hand.all()[0].left == 0


def test_a_sheet_that_was_never_handed_off_counts_by_its_own_plan_alone(workshop: Workshop, job: int) -> None:
    art = workshop.jobs.get(job).document.items[0].art
    workshop.jobs.change(job, "product", {"products": [{"name": "tag", "items": [1], "quantity": 60}]})
    workshop.plans.of(workshop.jobs.get(job))
    sheets = len(workshop.made.last_handed(job).plan.sheets)
    assert sheets > 1
    workshop.made.log_outcome(job, replace(said(), sheet=sheets))
    # The job has fewer sheets since, and other pieces on them.
    workshop.jobs.change(job, "fewer", {"products": [{"name": "tag", "items": [1], "quantity": 2}]})
    before = workshop.on_hand.all()[0].made
    workshop.made.log_outcome(job, said(), again=True)
    assert workshop.on_hand.all()[0].made == before + 2
    assert art


def test_a_layer_is_offered_what_was_kept_of_its_colour_the_tightest_first(workshop: Workshop) -> None:
    def keep(wide: float, high: float, name: str, colour: str | None) -> None:
        workshop.supplies.keep_offcut(Offcut("plain-vinyl", Paper(wide, high), name, colour))

    keep(210, 297, "large", "#2050A0")
    keep(90, 160, "strip", "#2050A0")
    keep(60, 60, "too small", "#2050A0")
    keep(150, 120, "red", "#B03030")
    keep(120, 110, "nobody noted its colour", None)
    offcuts = workshop.supplies.offcuts("plain-vinyl")
    found = scraps_for(offcuts, "#2050A0", 100, 70)
    assert [one.name for one in found] == ["nobody noted its colour", "strip", "large"]
    assert all(max(one.width_mm, one.height_mm) >= 100 for one in found)
    assert scraps_for(offcuts, "#2050A0", 400, 10) == ()


def test_a_whole_ledger_comes_into_another_workshop(workshop: Workshop, tmp_path: Path) -> None:
    workshop.supplies.buy(Pack("satin-vinyl", 10, 10.0, "May"))
    workshop.supplies.buy(Bought(Thing.INK, 10.0, 5.0))
    workshop.supplies.keep_offcut(Offcut("satin-vinyl", Paper(80, 100), "a corner"))
    workshop.supplies.change_rates({"currency": "gannets"})
    written_out = workshop.supplies.written()
    assert workshop.supplies.take_in(written_out, workshop.shop.stocks.all()) == 0
    other = Workshop(tmp_path / "other.db", workshop.nester)
    try:
        assert other.supplies.take_in(written_out, other.shop.stocks.all()) == 3
        assert other.supplies.written() == written_out
    finally:
        other.close()


def test_jobs_are_put_aside_and_begun_from_templates(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(job, "for", {"customer": "the junior crew"})
    workshop.jobs.make_template(job, yes=True)
    begun = workshop.jobs.copy(job)
    workshop.jobs.put_aside(job, away=True)
    kept, new = (next(one for one in workshop.jobs.all() if one.id == number) for number in (job, begun))
    assert (kept.customer, kept.names, kept.is_template) == ("the junior crew", ("disc",), True)
    assert kept.archived_at is not None
    assert (new.title, new.is_template, new.archived_at) == (kept.title, False, None)
    workshop.jobs.put_aside(job, away=False)
    assert all(one.archived_at is None for one in workshop.jobs.all())


def test_a_photo_says_which_pieces_are_spoilt(workshop: Workshop, job: int) -> None:
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    picture = sample_photo(plan, 0, workshop.pictures.shown)
    # One picture was lost on it.
    check = workshop.photo_checks.check_print(job, plan, 0, workshop.pictures.shown, picture, None)
    (lost,) = check.found.missing
    assert spoilt_in(check) == (SpoiltPiece(lost.placement, Spoilt.PRINT_FAULT),)
    whole = tuple(replace(one, ink_there=1.0, strength=1.0, off_mm=(0.1, 0.0)) for one in check.found.pieces)
    assert spoilt_in(replace(check, found=replace(check.found, pieces=whole))) == ()
    shifted = (replace(whole[0], off_mm=(1.2, 0.0)), *whole[1:])
    aside = spoilt_in(replace(check, found=replace(check.found, pieces=shifted)))
    assert aside == (SpoiltPiece(whole[0].placement, Spoilt.PRINT_FAULT),)


@pytest.mark.parametrize(
    ("off_mm", "border_mm", "unsure", "told"),
    [
        (0.45, 1.0, None, False),
        (0.6, 1.0, None, True),
        (0.1, 0.0, None, True),
        (0.6, 1.0, UnsureReason.FAINT, False),
    ],
)
def test_a_weeded_sheet_says_which_cuts_are_off(
    off_mm: float, border_mm: float, unsure: UnsureReason | None, told: bool
) -> None:
    pose = Pose(0.0, 0.0, 0.0)
    piece = LoosePiece(1, pose, (off_mm, 0.0), border_mm, 1.0, Point(0, 0).buffer(5), unsure)
    found = WeededSheet(((4, piece),), gone=(7,), torn=(8,), unclear=(9,), sheet_picture=np.zeros((1, 1, 3), np.uint8))
    planned = SimpleNamespace(pieces=(SimpleNamespace(placement=4, turn_deg=0.0),))
    check = WeededCheck(1, 0, cast("SheetReference", planned), found, cast("RectifiedPicture", None))
    spoilt = {one.placement: one for one in spoilt_in(check)}
    assert (spoilt[7].what, spoilt[8].what) == (Spoilt.LIFTED, Spoilt.TORN)
    assert 9 not in spoilt
    assert (4 in spoilt) is told
    if told:
        assert spoilt[4].what is Spoilt.OFF
        assert spoilt[4].off == LoggedMiss(off_mm, 0.0)


def test_misses_of_a_mirrored_sheet_are_kept_as_it_is_loaded(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(job, "transfer", {"stock": "light-transfer"})
    workshop.made.log_outcome(job, said(CameOut.SPOILED, SpoiltPiece(0, Spoilt.OFF, LoggedMiss(0.4, -0.1))))
    seen = workshop.shop.measured.of(1, 1, workshop.shop.stock("light-transfer")).misses[0]
    assert (seen.dx_mm, seen.dy_mm) == (-0.4, -0.1)


def test_a_run_that_was_none_takes_back_all_it_taught(workshop: Workshop, job: int) -> None:
    state = workshop.jobs.get(job)

    def stands() -> tuple[object, ...]:
        document = state.document
        tried = workshop.shop.tried.of(document.cutter_id, document.stock)
        measured = workshop.shop.measured.of(
            document.printer_id, document.cutter_id, workshop.shop.stocks.get(document.stock).value
        )
        care = workshop.shop.care
        blade, mat = care.blades.in_machine(document.cutter_id), care.mats.in_machine(document.cutter_id)
        shelf = workshop.supplies.of(document.stock)
        return (
            tried,
            measured,
            None if blade is None else round(blade.value.metres, 9),
            None if mat is None else mat.value,
            None if shelf is None else shelf.left,
            [one.id for one in workshop.runs.all()],
            workshop.plans.of(state).plan.settings,
            workshop.runs.recipes(),
        )

    blade = workshop.shop.care.blades.keep("a blade of its own", BladeIn(metres=10.0))
    mat = workshop.shop.care.mats.keep("a mat of its own", MatIn(loads=3))
    workshop.shop.care.blades.put_in(blade, state.document.cutter_id)
    workshop.shop.care.mats.put_in(mat, state.document.cutter_id)
    workshop.supplies.buy(Pack(state.document.stock, 10))
    before = stands()
    off = SpoiltPiece(0, Spoilt.OFF, LoggedMiss(0.4, 0.2))
    run = workshop.made.log_outcome(job, said(CameOut.SPOILED, off, *torn(8, Spoilt.NOT_THROUGH)[1:]))
    assert all(one != other for one, other in zip(stands(), before, strict=True))
    workshop.made.remove(run)
    assert stands() == before


def test_one_spoilt_piece_of_forty_says_nothing_of_the_force(workshop: Workshop, job: int) -> None:
    """Two pieces a sheet, twenty sheets: half of one sheet is a fortieth of all."""
    workshop.jobs.change_items(job, "two", (1,), {"quantity": 2})
    state = workshop.jobs.get(job)
    before = {cut: one.force_gf for cut, one in workshop.plans.of(state).plan.settings.items()}
    one = Said(1, 20, CameOut.SPOILED, torn(1, Spoilt.NOT_THROUGH))
    workshop.made.log_outcome(job, one)
    after = {cut: one.force_gf for cut, one in workshop.plans.of(workshop.jobs.get(job)).plan.settings.items()}
    assert all(after[cut] == pytest.approx(gf, rel=0.1) for cut, gf in before.items())
    (record,) = workshop.shop.tried.of(state.document.cutter_id, state.document.stock).records
    assert [drop.outcome for drop in record.record.drops] == [Outcome.CLEAN]


def test_waits_that_were_long_before_are_waited_again(workshop: Workshop, job: int) -> None:
    workshop.jobs.change(job, "coated", {"finish.cover": {"kind": "coat"}})
    workshop.shop.labels.change("satin-vinyl", StockClass.VINYL, {"coat_minutes": 30.0})
    workshop.made.log_outcome(job, said())
    workshop.shop.labels.change("satin-vinyl", StockClass.VINYL, {"coat_minutes": 2.0})
    found = finishing_of(workshop.plans.of(workshop.jobs.get(job)).plan)
    assert found is not None
    assert {one.timed.minutes for one in found.steps if one.step.key == "between"} == {30}
    # And what was really waited is what the next run says.
    assert {one.key: one.value for one in made(workshop, job).figures}["coat_minutes"] == 30.0


def test_a_run_that_was_taken_back_while_a_page_was_drawn_is_gone_for_everybody(workshop: Workshop, job: int) -> None:
    workshop.made.log_outcome(job, said())
    (kept,) = workshop.runs.all()
    with workshop.sessions.snapshot():
        workshop.jobs.get(job)
        other = threading.Thread(target=workshop.made.remove, args=(kept.id,))
        other.start()
        other.join()
        workshop.runs.all()
    assert workshop.runs.all() == ()
    assert workshop.runs.recipes() == ()


def test_runs_of_a_transaction_that_failed_are_not_kept(workshop: Workshop, job: int) -> None:
    workshop.made.log_outcome(job, said())
    (kept,) = workshop.runs.all()

    def fail() -> None:
        with workshop.sessions.together():
            workshop.runs.add_all([(kept.made_at - timedelta(days=3), kept.run)])
            assert len(workshop.runs.all()) == 2
            raise RuntimeError("the disk is full")

    with pytest.raises(RuntimeError, match="disk is full"):
        fail()
    assert workshop.runs.all() == (kept,)


@pytest.mark.parametrize(("count", "short"), [(1, False), (60, True)])
def test_an_offcut_is_one_sheet(workshop: Workshop, job: int, count: int, short: bool) -> None:
    workshop.supplies.keep_offcut(Offcut("satin-vinyl", Paper(150, 200), "half of a sheet"))
    workshop.jobs.change(job, "paper", {"paper": asdict(Paper(150, 200))})
    workshop.jobs.change_items(job, "count", (1,), {"quantity": count})
    state = workshop.jobs.get(job)
    workshop.repacking.begin(state)
    plan = workshop.plans.of(state).plan
    assert (len(plan.sheets) > 1) is short
    assert ("The offcut is one sheet" in [one.title for one in shelf_findings(plan, workshop.supplies)]) is short
