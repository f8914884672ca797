"""What the sensor sees, where cuts land, calibration, and helpers to print."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Annotated, Literal

from annotated_types import Ge, Le
from fastapi import Query, Response

from vamper.api.dependencies import JobsHere, PlansHere, ShopHere
from vamper.api.downloads import download
from vamper.api.marks.schemas import (
    ArrowOut,
    CalibrationOut,
    ChangeIn,
    FitOut,
    HelperOut,
    KeepCalibration,
    MissesIn,
    MissPieceOut,
    ReadingOut,
    ReadSheet,
    ScaleReading,
    SchoolIn,
)
from vamper.api.marks.views import arrows_out, fit_out, misses_out, reading_out, record_out
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet_number import sheet_place
from vamper.core.marks.calibrate import CalibrationFit, VernierReading, fit
from vamper.core.marks.printed_helpers import HELPERS, cover_trim, helper_paths, size_words
from vamper.core.marks.vernier import (
    COARSE_MM,
    CUT_PITCH_MM,
    CUT_TICKS,
    MOST_TICK,
    PRINTED_PITCH_MM,
    NarrowSide,
    VernierScale,
    VernierSheet,
    agree,
    expected_side,
    possible_miss,
    reading_of,
)
from vamper.core.values.calibration import thickness_of
from vamper.core.values.findings import BadInput
from vamper.core.values.reading import Remedy
from vamper.formats.svg_path import DECIMALS, closed_path
from vamper.services.handoff.measuring import helper_drawing, helper_file, helper_scene, vernier_file, vernier_of
from vamper.services.jobs.job_state import JobState
from vamper.services.planning.plans import Plans
from vamper.services.shop.measured import Record

router = door_router("marks")

Room = Annotated[float, Ge(0), Le(3)]
CutKind = Literal["svg", "dxf", "pdf"]
HelperKind = Literal["svg", "pdf"]


@router.get("/jobs/{job_id}/reading")
def get_reading(
    jobs: JobsHere, job_id: Id, room: Room | None = None, remedies: Annotated[list[Remedy] | None, Query()] = None
) -> ReadingOut | None:
    """Whether the marks will be read, and what the sensor sees; in another light, or with other remedies, to try."""
    job = jobs.core_job(jobs.get(job_id))
    if room is not None:
        job = replace(job, room_light=room)
    if remedies is not None:
        job = replace(job, marks=replace(job.marks, remedies=tuple(dict.fromkeys(remedies))))
    return reading_out(replace(job, items=(), held=()))


@router.get("/jobs/{job_id}/misses")
async def get_misses(jobs: JobsHere, plans: PlansHere, job_id: Id) -> MissPieceOut:
    """The greatest likely miss of each piece, and a map of the sheet."""
    return await in_turn(lambda: misses_out(plans.of(jobs.get(job_id)).plan))


def _vernier(plans: Plans, state: JobState) -> VernierSheet:
    design = plans.sheet_design(state)
    return vernier_of(design.job, design.setup)


@router.get("/jobs/{job_id}/calibration")
def get_calibration(shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id) -> CalibrationOut:
    """The measurements of a job's machines."""
    state = jobs.get(job_id)
    document = state.document
    stock = shop.stock(document.stock).under(document.finish.laminate_um)
    measured, problem, scales = shop.measured, None, []
    try:
        scales = [
            VernierScale(number=one.number, place=one.place, x_mm=one.x_mm, y_mm=one.y_mm, axis=one.axis)
            for one in _vernier(plans, state).scales
        ]
    except BadInput as bad:
        problem = bad.sentence
    thickness = thickness_of(stock.thickness_um)
    history = measured.history(document.printer_id, document.cutter_id)
    holding = next((one.id for one in history if one.thickness is thickness), None)
    return CalibrationOut(
        thickness=thickness,
        due=measured.due(document.printer_id, document.cutter_id, stock),
        school=measured.school(),
        problem=problem,
        scales=scales,
        most_tick=MOST_TICK,
        coarse_mm=list(COARSE_MM),
        miss_mm=[[possible_miss(tick, coarse) for coarse in COARSE_MM] for tick in range(-MOST_TICK, MOST_TICK + 1)],
        printed_pitch_mm=PRINTED_PITCH_MM,
        cut_pitch_mm=CUT_PITCH_MM,
        cut_ticks=CUT_TICKS,
        sides=list(NarrowSide),
        history=[record_out(one, one.id == holding) for one in history],
        misses=list(measured.of(document.printer_id, document.cutter_id, stock).misses),
    )


@router.get("/jobs/{job_id}/calibration/arrows")
def get_arrows(jobs: JobsHere, job_id: Id) -> list[ArrowOut]:
    """Where uncorrected cuts land from the print; nothing where no calibration holds."""
    job = jobs.core_job(jobs.get(job_id))
    return [] if job.calibration is None else arrows_out(job.calibration, job.paper)


def _fitted(
    plans: Plans, state: JobState, read: Sequence[ScaleReading]
) -> tuple[VernierSheet, list[VernierReading], CalibrationFit]:
    sheet = _vernier(plans, state)
    readings = [reading_of(sheet, one.scale, one.tick, one.coarse_mm) for one in read]
    return sheet, readings, fit(readings)


@router.post("/jobs/{job_id}/calibration/fit")
def try_calibration(jobs: JobsHere, plans: PlansHere, job_id: Id, read: ReadSheet) -> FitOut:
    """The calibration that readings come to; nothing is kept."""
    state = jobs.get(job_id)
    sheet, _, found = _fitted(plans, state, read.readings)
    return fit_out(found, sheet, [one.scale for one in read.readings], state.document.paper)


@router.post("/jobs/{job_id}/calibration", status_code=204)
def keep_calibration(shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id, kept: KeepCalibration) -> None:
    """Keep a calibration; cut files of jobs on these machines and such stocks are corrected from now on."""
    state = jobs.get(job_id)
    document = state.document
    sheet, readings, found = _fitted(plans, state, kept.readings)
    expected = expected_side(sheet, found)
    if not agree(expected, kept.check):
        raise BadInput(
            f"by these readings the ring of the check figure is narrow {_where(expected)}, and you saw it narrow "
            f"{_where(kept.check)}; look at the scales once more, the signs first",
            "check",
        )
    paper = f"{document.paper.width_mm:g} × {document.paper.height_mm:g} mm"
    record = Record.of(found, readings, kept.check, kept.versions, paper)
    shop.measured.keep(
        document.printer_id, document.cutter_id, shop.stock(document.stock).under(document.finish.laminate_um), record
    )


def _where(side: str) -> str:
    return "nowhere" if side == "even" else f"on the side “{side}”"


@router.delete("/calibrations/{number}", status_code=204)
def forget_calibration(shop: ShopHere, number: Id) -> None:
    """Take a calibration away; the one before it holds again."""
    shop.measured.forget(number)


@router.post("/jobs/{job_id}/misses", status_code=204)
def log_misses(shop: ShopHere, jobs: JobsHere, job_id: Id, run: MissesIn) -> None:
    """Keep what up to four pieces of a run were off by."""
    state = jobs.get(job_id)
    stock, document = jobs.core_job(state).stock, state.document
    kind = thickness_of(stock.under(document.finish.laminate_um).thickness_um)
    shop.measured.log(document.printer_id, document.cutter_id, run.misses, kind)


@router.delete("/jobs/{job_id}/misses", status_code=204)
def forget_misses(shop: ShopHere, jobs: JobsHere, job_id: Id) -> None:
    """Begin anew with what runs on these machines were off by."""
    document = jobs.get(job_id).document
    shop.measured.forget_misses(document.printer_id, document.cutter_id)


@router.post("/jobs/{job_id}/machine-changed", status_code=204)
def machine_changed(shop: ShopHere, jobs: JobsHere, job_id: Id, change: ChangeIn) -> None:
    """Something was changed on the machines: calibrations from before are in doubt."""
    shop.measured.changed(jobs.get(job_id).document.cutter_id, change.what)


@router.put("/calibration-school", status_code=204)
def follow_school(shop: ShopHere, chosen: SchoolIn) -> None:
    """Calibrate by another school from now on."""
    shop.measured.follow(chosen.school)


@router.get("/jobs/{job_id}/calibration.{kind}", response_class=Response)
def get_vernier(jobs: JobsHere, plans: PlansHere, job_id: Id, kind: CutKind) -> Response:
    """The vernier sheet: to print (pdf), or to cut (svg, dxf)."""
    state = jobs.get(job_id)
    design = plans.sheet_design(state)
    named = vernier_file(design.job, design.setup, kind)
    return download(named.data, named.media_type, f"{state.document.title}-{named.ending}")


@router.get("/jobs/{job_id}/sheets/{sheet}/helpers")
async def get_helpers(jobs: JobsHere, plans: PlansHere, job_id: Id, sheet: Number) -> list[HelperOut]:
    """The helpers for a sheet, as they lie on it."""

    def draw() -> list[HelperOut]:
        plan = plans.of(jobs.get(job_id)).plan
        number = sheet_place(plan, sheet, before_any=True)
        found = []
        for helper in HELPERS.values():
            paths, size, problem = [], "", None
            try:
                drawing = helper_drawing(plan, number, helper.key)
                paths = [closed_path(points, DECIMALS) for points in helper_paths(drawing)]
                if helper.key in ("cover-trim", "spray-guard"):
                    size = size_words(cover_trim(helper_scene(plan, number)))
            except BadInput as bad:
                problem = bad.sentence
            found.append(
                HelperOut(
                    key=helper.key,
                    name=helper.name,
                    what=helper.what,
                    paths=paths,
                    size_words=size,
                    problem=problem,
                )
            )
        return found

    return await in_turn(draw)


@router.get("/jobs/{job_id}/sheets/{sheet}/helpers/{key}.{kind}", response_class=Response)
async def get_helper(
    jobs: JobsHere, plans: PlansHere, job_id: Id, sheet: Number, key: str, kind: HelperKind
) -> Response:
    """One helper to print, at true size."""

    def draw() -> Response:
        plan = plans.of(jobs.get(job_id)).plan
        number = sheet_place(plan, sheet, before_any=True)
        named = helper_file(plan, number, key, kind)
        return download(named.data, named.media_type, f"{plan.job.title}-{named.ending}")

    return await in_turn(draw)
