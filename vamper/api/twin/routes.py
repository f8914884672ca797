"""Dry runs of a job, their pictures, and the faults that can be switched on."""

from typing import Annotated

from annotated_types import Ge, Le
from fastapi import Query, Response

from vamper.api.door import Id, Number, in_turn
from vamper.api.door import router as door_router
from vamper.api.here import Here
from vamper.api.twin.schemas import DryRunIn, DryRunOut, FaultOut
from vamper.api.twin.views import dry_run_out
from vamper.core.twin.faults import FAULTS
from vamper.services.twin.desk import Asked

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
        part = tuple(float(one) for one in box.split(",")) if box else None
        data = here.dry_runs.picture(job_id, number, sheet - 1, ppi, part)
        return Response(data, media_type="image/jpeg", headers={"cache-control": "private, max-age=3600"})

    return await in_turn(draw)
