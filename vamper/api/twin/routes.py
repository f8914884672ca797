"""Dry runs of a job, their pictures, and the faults that can be switched on."""

from typing import Annotated, Literal

from annotated_types import Ge, Le
from fastapi import Form, Query, Response, UploadFile

from vamper.api.dependencies import (
    DesignerHere,
    DryRunsHere,
    JobsHere,
    PhotoChecksHere,
    PicturesHere,
    PlansHere,
    SimulationsHere,
)
from vamper.api.downloads import download
from vamper.api.places import CORNERS, corners_of
from vamper.api.request_checks import MOST_FILE_BODY, Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet_number import sheet_place
from vamper.api.twin.photo_views import photo_check_out
from vamper.api.twin.schemas import DryRunIn, DryRunOut, FaultOut, PhotoCheckOut, PhotoKind, SampleIn
from vamper.api.twin.views import dry_run_out
from vamper.core.twin.faults import FAULTS
from vamper.core.twin.scan import BoxMm, Pixels
from vamper.core.values.findings import BadInput
from vamper.formats.out.picture_files import write_jpeg
from vamper.services.design.item_pictures import ItemPictures
from vamper.services.jobs.jobs import Jobs
from vamper.services.planning.plans import Plans
from vamper.services.twin.comparing import read_picture
from vamper.services.twin.dry_run_service import DryRunRequest, part_of
from vamper.services.twin.photo_checks import AnyCheck, PhotoChecks, PiecesCheck
from vamper.services.twin.practice import VERNIER_PPI, practice_ruler
from vamper.services.twin.samples import PHOTO_PPI, PIECES_PPI, sample_photo, sample_pieces, sample_weeded
from vamper.services.work.not_found import NotFound

router = door_router("twin")

_SAMPLES = {PhotoKind.PRINT: sample_photo, PhotoKind.WEEDED: sample_weeded, PhotoKind.PIECES: sample_pieces}
_SAMPLE_PPI = {PhotoKind.PRINT: None, PhotoKind.WEEDED: None, PhotoKind.PIECES: PIECES_PPI}

Ppi = Annotated[int, Ge(50), Le(400)]
# Left, top, width, height, mm.
Box = Annotated[str | None, Query(pattern=r"^-?\d+(\.\d*)?(,-?\d+(\.\d*)?){3}$", max_length=80)]


@router.get("/faults")
def get_faults() -> list[FaultOut]:
    """The faults that can be switched on."""
    return [FaultOut(key=key, device=one.device, name=one.name, words=one.words) for key, one in FAULTS.items()]


@router.get("/jobs/{job_id}/dry-run")
def get_dry_run(jobs: JobsHere, plans: PlansHere, dry_runs: DryRunsHere, job_id: Id) -> DryRunOut:
    """How a job's dry run stands, and the result of the last one."""
    state = jobs.get(job_id)
    return dry_run_out(dry_runs.status(job_id), plans.of(state).plan)


@router.post("/jobs/{job_id}/dry-run", status_code=202)
def begin_dry_run(simulations: SimulationsHere, job_id: Id, asked: DryRunIn) -> DryRunOut:
    """Run a job as it is now on the simulated devices, in the background."""
    how = DryRunRequest(asked.runs, asked.unsure, tuple(dict.fromkeys(asked.faults)), asked.seed)
    told = simulations.begin_dry_run(job_id, how)
    return dry_run_out(told, told.plan)


@router.delete("/jobs/{job_id}/dry-run", status_code=204)
def stop_dry_run(dry_runs: DryRunsHere, job_id: Id) -> None:
    """Stop a dry run; what came of the one before stays."""
    dry_runs.stop(job_id)


@router.get("/jobs/{job_id}/dry-run/sheets/{sheet}/result.jpg", response_class=Response)
async def get_result(
    dry_runs: DryRunsHere, job_id: Id, sheet: Number, number: int, ppi: Ppi = 150, box: Box = None
) -> Response:
    """One run of a sheet as a scan, or a part of it; `number` is that of the dry run."""

    def draw() -> Response:
        part = _sides(box) if box else None
        data = dry_runs.picture(job_id, number, sheet - 1, ppi, part)
        return Response(data, media_type="image/jpeg", headers={"cache-control": "private, max-age=3600"})

    return await in_turn(draw)


@router.post("/jobs/{job_id}/practice", status_code=204)
def practise(simulations: SimulationsHere, job_id: Id) -> None:
    """Make a job on the practice bench: simulated machines with errors of their own, to be found by the usual means."""
    simulations.practise(job_id)


@router.get("/jobs/{job_id}/practice/vernier.jpg", response_class=Response)
async def get_practice_vernier(jobs: JobsHere, simulations: SimulationsHere, job_id: Id, box: Box = None) -> Response:
    """The vernier sheet as the practice machines printed and cut it, or a part of it."""

    def draw() -> Response:
        scan = simulations.vernier(jobs.get(job_id))
        return _jpeg(scan if box is None else part_of(scan, VERNIER_PPI, _sides(box)), VERNIER_PPI)

    return await in_turn(draw)


@router.get("/jobs/{job_id}/practice/records/{record_id}/drops/{drop}.jpg", response_class=Response)
async def get_practice_drop(
    jobs: JobsHere, simulations: SimulationsHere, job_id: Id, record_id: Id, drop: Annotated[int, Ge(0), Le(100)]
) -> Response:
    """A test drop as the practice cutter cut it: bent a little, and its backing."""

    def draw() -> Response:
        return _jpeg(simulations.drop(jobs.get(job_id), record_id, drop), VERNIER_PPI)

    return await in_turn(draw)


@router.get("/jobs/{job_id}/practice/bar-{side}.jpg", response_class=Response)
async def get_practice_bar(jobs: JobsHere, plans: PlansHere, job_id: Id, side: Literal["across", "down"]) -> Response:
    """The end of a proof's bar as the practice printer printed it, a ruler along it."""

    def draw() -> Response:
        plan = plans.of(jobs.get(job_id)).plan
        return _jpeg(practice_ruler(plan, side == "down"), VERNIER_PPI)

    return await in_turn(draw)


def _jpeg(pixels: Pixels, ppi: float) -> Response:
    return Response(write_jpeg(pixels, ppi, quality=92), media_type="image/jpeg", headers={"cache-control": "no-cache"})


def _sides(box: str) -> BoxMm:
    left, top, width, height = (float(one) for one in box.split(","))
    return left, top, width, height


@router.post("/jobs/{job_id}/sheets/{sheet}/photo", status_code=201, max_body_size=MOST_FILE_BODY)
async def check_photo(
    pictures: PicturesHere,
    jobs: JobsHere,
    plans: PlansHere,
    photo_checks: PhotoChecksHere,
    designer: DesignerHere,
    job_id: Id,
    sheet: Number,
    file: UploadFile,
    kind: Annotated[PhotoKind, Form()] = PhotoKind.PRINT,
    ppi: Annotated[float | None, Form(ge=50, le=2400)] = None,
    corners: Annotated[str | None, Form(pattern=CORNERS, max_length=200)] = None,
) -> PhotoCheckOut:
    """Hold a photo or scan against a sheet; `corners` are shares of the picture, top left first, clockwise."""

    def check() -> PhotoCheckOut:
        picture = read_picture(file.file.read(), file.filename or "picture", designer.room)
        return _checked(pictures, jobs, plans, photo_checks, job_id, sheet, kind, picture, ppi, corners)

    return await in_turn(check)


@router.post("/jobs/{job_id}/sheets/{sheet}/sample", status_code=201)
async def check_sample(
    pictures: PicturesHere,
    jobs: JobsHere,
    plans: PlansHere,
    photo_checks: PhotoChecksHere,
    simulations: SimulationsHere,
    job_id: Id,
    sheet: Number,
    sample: SampleIn,
) -> PhotoCheckOut:
    """The same with a sample picture that the simulated devices draw."""

    def check() -> PhotoCheckOut:
        state = jobs.get(job_id)
        picture = simulations.sample(state, sheet_place(plans.of(state).plan, sheet), _SAMPLES[sample.kind])
        return _checked(
            pictures, jobs, plans, photo_checks, job_id, sheet, sample.kind, picture, _SAMPLE_PPI[sample.kind], None
        )

    return await in_turn(check)


@router.get("/jobs/{job_id}/sheets/{sheet}/sample-{kind}.jpg", response_class=Response)
async def get_sample(
    jobs: JobsHere, plans: PlansHere, simulations: SimulationsHere, job_id: Id, sheet: Number, kind: PhotoKind
) -> Response:
    """A sample picture to keep, drawn by the simulated devices."""

    def draw() -> Response:
        state = jobs.get(job_id)
        picture = simulations.sample(state, sheet_place(plans.of(state).plan, sheet), _SAMPLES[kind])
        return download(write_jpeg(picture, _SAMPLE_PPI[kind] or PHOTO_PPI, 80), "image/jpeg", f"sample-{kind}.jpg")

    return await in_turn(draw)


@router.get("/jobs/{job_id}/photo")
def get_photo_check(photo_checks: PhotoChecksHere, job_id: Id) -> PhotoCheckOut | None:
    """The findings of the last picture of this job; None where none was looked at."""
    check = photo_checks.latest(job_id)
    return None if check is None else photo_check_out(check)


@router.get("/jobs/{job_id}/photo/{number}.jpg", response_class=Response)
def get_photo_picture(photo_checks: PhotoChecksHere, job_id: Id, number: Id) -> Response:
    """The picture that was looked at, straightened."""
    check = photo_checks.latest(job_id)
    if check is None or check.number != number:
        raise NotFound("this picture is gone; look at it again")
    shown = check.picture if isinstance(check, PiecesCheck) else check.found.sheet_picture
    return _jpeg(shown, PHOTO_PPI)


def _checked(
    pictures: ItemPictures,
    jobs: Jobs,
    plans: Plans,
    photo_checks: PhotoChecks,
    job_id: int,
    sheet: int,
    kind: PhotoKind,
    picture: Pixels,
    ppi: float | None,
    corners: str | None,
) -> PhotoCheckOut:
    plan, checks = plans.of(jobs.get(job_id)).plan, photo_checks
    place = sheet_place(plan, sheet)
    check: AnyCheck
    if kind is PhotoKind.PIECES:
        if ppi is None:
            raise BadInput("say how many pixels an inch the scan of the pieces has", "ppi")
        check = checks.check_pieces(job_id, plan, place, pictures.shown, picture, ppi)
    else:
        at = corners_of(corners)
        if kind is PhotoKind.WEEDED:
            check = checks.check_weeded(job_id, plan, place, pictures.shown, picture, at)
        else:
            check = checks.check_print(job_id, plan, place, pictures.shown, picture, ppi, at)
    return photo_check_out(check)
