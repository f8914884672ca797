"""Dry runs of a job, their pictures, and the faults that can be switched on."""

from typing import Annotated, Literal

from annotated_types import Ge, Le
from fastapi import Query, Response

from vamper.api.door import Id, Number, in_turn
from vamper.api.door import router as door_router
from vamper.api.here import Here
from vamper.api.twin.schemas import DryRunIn, DryRunOut, FaultOut
from vamper.api.twin.views import dry_run_out
from vamper.core.twin.faults import FAULTS
from vamper.core.twin.scan import Pixels
from vamper.formats.out.picture_files import write_jpeg
from vamper.services.twin.desk import Asked, part_of
from vamper.services.twin.practice import VERNIER_PPI, practice_ruler

router = door_router("twin")

Ppi = Annotated[int, Ge(50), Le(400)]
# Left, top, width, height, mm.
Box = Annotated[str | None, Query(pattern=r"^-?[0-9.]+(,-?[0-9.]+){3}$", max_length=80)]


@router.get("/faults")
def get_faults() -> list[FaultOut]:
    """What can be made to go wrong on purpose."""
    return [FaultOut(key=key, device=one.device, name=one.name, words=one.words) for key, one in FAULTS.items()]


@router.get("/jobs/{job_id}/dry-run")
def get_dry_run(here: Here, job_id: Id) -> DryRunOut:
    """How a job's dry run stands, and what came of the last one."""
    state = here.jobs.get(job_id)
    return dry_run_out(here.dry_runs.look(job_id), here.plan(state).plan)


@router.post("/jobs/{job_id}/dry-run", status_code=202)
def begin_dry_run(here: Here, job_id: Id, asked: DryRunIn) -> DryRunOut:
    """Run a job as it is now on the simulated devices, in the background."""
    plan = here.plan(here.jobs.get(job_id)).plan
    how = Asked(asked.runs, asked.unsure, tuple(dict.fromkeys(asked.faults)), asked.seed)
    return dry_run_out(here.dry_runs.begin(job_id, plan, here.shown_of, how), plan)


@router.delete("/jobs/{job_id}/dry-run", status_code=204)
def stop_dry_run(here: Here, job_id: Id) -> None:
    """Stop a dry run; what came of the one before stays."""
    here.dry_runs.stop(job_id)


@router.get("/jobs/{job_id}/dry-run/sheets/{sheet}/result.jpg", response_class=Response)
async def get_result(here: Here, job_id: Id, sheet: Number, number: int, ppi: Ppi = 150, box: Box = None) -> Response:
    """One run of a sheet as a scan, or a part of it; `number` is that of the dry run."""

    def draw() -> Response:
        part = _sides(box) if box else None
        data = here.dry_runs.picture(job_id, number, sheet - 1, ppi, part)
        return Response(data, media_type="image/jpeg", headers={"cache-control": "private, max-age=3600"})

    return await in_turn(draw)


@router.post("/jobs/{job_id}/practice", status_code=204)
def practise(here: Here, job_id: Id) -> None:
    """Make a job on the practice bench: simulated machines with errors of their own, to be found by the usual means."""
    here.practise(job_id)


@router.get("/jobs/{job_id}/practice/vernier.jpg", response_class=Response)
async def get_practice_vernier(here: Here, job_id: Id, box: Box = None) -> Response:
    """The vernier sheet as the practice machines printed and cut it, or a part of it."""

    def draw() -> Response:
        scan = here.practice_vernier(here.jobs.get(job_id))
        return _jpeg(scan if box is None else part_of(scan, VERNIER_PPI, _sides(box)), VERNIER_PPI)

    return await in_turn(draw)


@router.get("/jobs/{job_id}/practice/records/{record_id}/drops/{drop}.jpg", response_class=Response)
async def get_practice_drop(here: Here, job_id: Id, record_id: Id, drop: int) -> Response:
    """A test drop as the practice cutter cut it: bent a little, and its backing."""

    def draw() -> Response:
        return _jpeg(here.practice_drop(here.jobs.get(job_id), record_id, drop), VERNIER_PPI)

    return await in_turn(draw)


@router.get("/jobs/{job_id}/practice/bar-{side}.jpg", response_class=Response)
async def get_practice_bar(here: Here, job_id: Id, side: Literal["across", "down"]) -> Response:
    """The end of a proof's bar as the practice printer printed it, a ruler along it."""

    def draw() -> Response:
        plan = here.plan(here.jobs.get(job_id)).plan
        return _jpeg(practice_ruler(plan, side == "down"), VERNIER_PPI)

    return await in_turn(draw)


def _jpeg(pixels: Pixels, ppi: float) -> Response:
    return Response(write_jpeg(pixels, ppi, quality=92), media_type="image/jpeg", headers={"cache-control": "no-cache"})


def _sides(box: str) -> tuple[float, ...]:
    return tuple(float(one) for one in box.split(","))
