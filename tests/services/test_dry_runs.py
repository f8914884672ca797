"""Dry runs as a use-case: progress, stop, remedies that are tried, the practice loop from vernier to a smaller miss."""

import io
import time
from dataclasses import replace

import cv2
import numpy as np
import pytest
from PIL import Image

from tests.conftest import disc_png
from vamper.core.plan import complete
from vamper.core.twin.devices import TwinCutter
from vamper.core.twin.faults import with_faults
from vamper.core.twin.practice import hidden_map, practice_cutter
from vamper.core.twin.scan import pixels_of
from vamper.core.twin.simulate import NOT_WIDER
from vamper.core.values.calibration import Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Route
from vamper.core.values.findings import BadInput
from vamper.core.values.twin import FaultKey
from vamper.demo.workshop import PRACTICE_SEED
from vamper.services.packing.packing_service import PackingState
from vamper.services.shop.tried import CutRecord, JudgedDrop, RecordKind
from vamper.services.twin.comparing import read_picture
from vamper.services.twin.dry_run_service import DryRunRequest, DryRunStatus
from vamper.services.twin.dry_runs import Stopped, devices_for, dry_run
from vamper.services.twin.pictures import scanned
from vamper.services.twin.practice import practice_machines
from vamper.services.work.not_found import NotFound
from vamper.services.workshop import Workshop


@pytest.fixture
def job(workshop: Workshop) -> int:
    number = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("disc.png", disc_png())
    workshop.jobs.add_item(number, art.digest, "disc", 40, {})
    workshop.jobs.change_items(number, "quantity", (1,), {"quantity": 6})
    workshop.repacking.begin(workshop.jobs.get(number))
    workshop.packing.stop(number)
    return number


def ran(workshop: Workshop, job: int, asked: DryRunRequest) -> DryRunStatus:
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    return ended(workshop.dry_runs.begin(job, plan, workshop.pictures.shown, asked))


def ended(told: DryRunStatus) -> DryRunStatus:
    for _ in range(600):
        if not told.running:
            return told
        time.sleep(0.05)
    raise AssertionError("the dry run never ended")


def test_a_dry_run_tells_what_spoils_and_what_would_help(workshop: Workshop, job: int) -> None:
    told = ran(workshop, job, DryRunRequest(60, True, (FaultKey.TUFT, FaultKey.STRETCHED_PRINT, FaultKey.HARDER_STOCK)))
    assert told.found is not None
    assert told.found.outcome.sheet_good == 0
    helped = {remedy.key for remedy, _ in told.helps.each}
    assert "measure-scale" in helped
    # One trouble hides another: what else is wrong is seen once the first is mended.
    assert {remedy.key for remedy, _ in told.helps.then} >= {"clean-tip", "ladder"}
    assert told.helps.then[-1][1].sheet_good > 0.9
    for remedy, chances in told.helps.each:
        # What is remembered of the sheet from one trial to the next makes no difference.
        anew = dry_run(told.found.plan, told.found.pictures, 60, told.found.seed, remedy.trial.devices)
        assert remedy.trial.wider != NOT_WIDER or float(anew.sheets[0].good.mean()) == chances.pieces_good, remedy.key
    picture = workshop.dry_runs.picture(job, told.found.number, 0, 100, None)
    assert picture[:2] == b"\xff\xd8"
    close = workshop.dry_runs.picture(job, told.found.number, 0, 300, (20.0, 20.0, 30.0, 10.0))
    assert Image.open(io.BytesIO(close)).size == (355, 118)
    with pytest.raises(NotFound):
        workshop.dry_runs.picture(job, told.found.number + 1, 0, 100, None)


def test_a_job_that_nobody_has_packed_yet_is_packed_first(workshop: Workshop) -> None:
    number = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("disc.png", disc_png())
    workshop.jobs.add_item(number, art.digest, "disc", 40, {})
    workshop.jobs.change_items(number, "quantity", (1,), {"quantity": 5})
    told = ended(workshop.simulations.begin_dry_run(number, DryRunRequest(5, False)))
    planned = workshop.plans.of(workshop.jobs.get(number))
    assert planned.packing.state is PackingState.DONE
    assert told.is_of(planned.plan)


def test_a_stopped_run_leaves_what_came_of_the_one_before(workshop: Workshop, job: int) -> None:
    first = ran(workshop, job, DryRunRequest(20, False))
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    second = workshop.dry_runs.begin(job, plan, workshop.pictures.shown, DryRunRequest(2000, False))
    workshop.dry_runs.stop(job)
    for _ in range(1200):
        if not second.running:
            break
        time.sleep(0.05)
    assert not second.running
    assert second.found is first.found
    assert second.is_of(plan)
    workshop.jobs.change_items(job, "border", (1,), {"edge.distance_mm": 4.0})
    assert not second.is_of(workshop.plans.of(workshop.jobs.get(job)).plan)


@pytest.mark.parametrize(
    "faults",
    [(FaultKey.LINES, FaultKey.LOST_PICTURE), (FaultKey.PAGE_SIZE_RESET, FaultKey.WRONG_SIDE), (FaultKey.TUFT,)],
)
def test_a_close_look_shows_what_the_whole_sheet_shows(
    workshop: Workshop, job: int, faults: tuple[FaultKey, ...]
) -> None:
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    found = dry_run(plan, workshop.pictures.shown, 2, 1, with_faults(devices_for(plan), faults))
    whole = scanned(found, 0, 200, 0)
    for box in ((5.0, 5.0, 60.0, 50.0), (100.0, 60.0, 45.0, 70.0)):
        left, top, right, bottom = pixels_of(box, 200, (whole.shape[0], whole.shape[1]))
        part = scanned(found, 0, 200, 0, box).astype(float)
        # The grain of each picture is its own.
        apart = cv2.GaussianBlur(part - whole[top:bottom, left:right], (0, 0), 3)
        assert np.abs(apart).max() < 4


def test_a_dry_run_can_be_stopped_in_the_middle_of_a_sheet(workshop: Workshop, job: int) -> None:
    told = list[tuple[int, int]]()

    def stops(done: int, of: int) -> None:
        told.append((done, of))
        if len(told) == 20:
            raise Stopped

    with pytest.raises(Stopped):
        dry_run(workshop.plans.of(workshop.jobs.get(job)).plan, workshop.pictures.shown, 100, 1, on_sheet=stops)
    assert set(told) == {(0, 1)}


def test_nothing_on_a_sheet_is_a_sentence(workshop: Workshop) -> None:
    empty = workshop.jobs.create("Empty")
    plan = workshop.plans.of(workshop.jobs.get(empty)).plan
    with pytest.raises(BadInput, match="nothing lies on a sheet"):
        workshop.dry_runs.begin(empty, plan, workshop.pictures.shown, DryRunRequest(1))
    with pytest.raises(BadInput, match="nothing lies on a sheet"):
        workshop.simulations.begin_dry_run(empty, DryRunRequest(1))


def test_calibrating_the_practice_bench_makes_the_miss_fall(workshop: Workshop, job: int) -> None:
    workshop.simulations.practise(job)
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    seed = plan.job.cutter.practice
    assert seed is not None
    assert plan.job.printer.practice is not None
    before = dry_run(plan, workshop.pictures.shown, 100, 1, devices_for(plan)).outcome
    known = Calibration(hidden_map(seed, plan.job.paper), 0.03, 0.07, 0.0, 0.06)
    asked, made = replace(plan.asked, calibration=known), replace(plan.job, calibration=known)
    corrected = complete(asked, made, plan.setup, plan.items, plan.layout)
    after = dry_run(corrected, workshop.pictures.shown, 100, 1, devices_for(corrected)).outcome
    assert before.miss_p50_mm is not None
    assert after.miss_p50_mm is not None
    assert before.miss_p50_mm > 0.3
    assert after.miss_p50_mm < 0.2


def test_practice_drops_look_like_their_depth_and_machines_stay_apart(workshop: Workshop, job: int) -> None:
    usual = workshop.usual.machines()
    # A bench whose stock is about as hard as it should be: on a much harder one the middle drop is not through either.
    practice_machines(workshop.shop, PRACTICE_SEED)
    workshop.simulations.practise(job)
    assert workshop.usual.machines() == usual
    state = workshop.jobs.get(job)
    stock, cutter = workshop.shop.stock(state.document.stock), workshop.shop.cutters.get(state.document.cutter_id).value
    drops = tuple(JudgedDrop(gf, 1) for gf in (40.0, 120.0, 360.0))
    record = CutRecord(RecordKind.LADDER, Cut.KISS, drops)
    number = workshop.shop.tried.keep(state.document.cutter_id, stock, cutter.force_gf, record)
    seen = [workshop.simulations.drop(state, number, place) for place in range(3)]
    backing = [picture[:, picture.shape[1] // 2 + 6 :].astype(int) for picture in seen]
    # Not through: nothing came off, so the right half is as white as the left; through: dark slits in the backing.
    assert backing[0].mean() > backing[1].mean()
    assert backing[2].min() < 110
    hard = practice_cutter(
        TwinCutter(), cutter.practice or 1, stock.key, workshop.plans.of(state).plan.job.paper
    ).hardness[0]
    assert 0.5 < hard < 1.8
    # What is tried on the practice bench is no real machine's.
    assert not workshop.shop.tried.of(1, stock.key).records
    with pytest.raises(NotFound):
        workshop.simulations.drop(state, number, 9)
    again = workshop.jobs.create("Other")
    workshop.simulations.practise(again)
    assert workshop.jobs.get(again).document.cutter_id == state.document.cutter_id


def test_the_practice_vernier_shows_the_hidden_offset(workshop: Workshop, job: int) -> None:
    workshop.simulations.practise(job)
    scan = workshop.simulations.vernier(workshop.jobs.get(job))
    assert scan.shape[0] > 4000
    assert np.asarray(scan).std() > 3
    workshop.jobs.change(job, "machines", {"cutter_id": 1, "printer_id": 1})
    with pytest.raises(BadInput, match="real machines"):
        workshop.simulations.vernier(workshop.jobs.get(job))


@pytest.mark.parametrize("route", [Route.FILES, Route.PROGRAM])
def test_practice_is_on_a_cutter_that_is_told_like_the_makers_own(workshop: Workshop, job: int, route: Route) -> None:
    own = workshop.shop.cutters.get(workshop.jobs.get(job).document.cutter_id).value
    number = workshop.shop.cutters.keep(f"led by {route}", replace(own, route=route))
    workshop.jobs.change(job, "cutter", {"cutter_id": number})
    workshop.simulations.practise(job)
    on = workshop.shop.cutters.get(workshop.jobs.get(job).document.cutter_id).value
    assert on.practice is not None
    assert on.has_own_program is (route is Route.PROGRAM)


def test_practice_machines_are_called_what_they_are(workshop: Workshop) -> None:
    _, files = practice_machines(workshop.shop, 7)
    _, program = practice_machines(workshop.shop, 7, Route.PROGRAM)
    names = [workshop.shop.cutters.get(key).name for key in (files, program)]
    assert names == ["practice cutter (simulated)", "practice machine with its own program (simulated)"]
    assert practice_machines(workshop.shop, 8) == practice_machines(workshop.shop)


def test_what_is_seen_through_lies_on_white() -> None:
    rgba = np.zeros((8, 8, 4), np.uint8)
    rgba[..., 3] = 255
    rgba[:4, :, 3], rgba[0, :, 3] = 51, 0
    data = io.BytesIO()
    Image.fromarray(rgba).save(data, "PNG")
    found = read_picture(data.getvalue(), "scan.png")
    assert (found[0] == 255).all()
    assert (found[1:4] == 204).all()
    assert (found[4:] == 0).all()
