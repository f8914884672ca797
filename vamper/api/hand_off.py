"""Files to take away: print page and cut files of each sheet, or everything at once."""

from fastapi import APIRouter, Response

from vamper.api.here import Here
from vamper.core.findings import BadInput
from vamper.core.plan import Plan
from vamper.services.hand_off import cut_dxf_file, cut_svg_file, print_file
from vamper.services.jobs import NotFound
from vamper.services.workshop import Workshop

router = APIRouter(prefix="/api")


def _planned(here: Workshop, job_id: int, sheet: int | None = None) -> Plan:
    plan, _ = here.plan(here.jobs.get(job_id))
    if not plan.layout.sheets:
        raise BadInput("nothing is placed on a sheet yet; add art that fits it first", "sheets")
    if sheet is not None and not 1 <= sheet <= len(plan.layout.sheets):
        raise NotFound("this job has no such sheet")
    return plan


def _file(data: bytes, media_type: str, name: str) -> Response:
    safe = "".join(c if c.isascii() and (c.isalnum() or c in "-._") else "-" for c in name)
    return Response(data, media_type=media_type, headers={"content-disposition": f'attachment; filename="{safe}"'})


@router.get("/jobs/{job_id}/sheets/{sheet}/print.pdf", tags=["hand-off"], response_class=Response)
def print_pdf(here: Here, job_id: int, sheet: int) -> Response:
    plan = _planned(here, job_id, sheet)
    if not plan.job.stock.printable:
        raise BadInput("this stock is not printed, so there is no print file; take the cut file", "stock")
    return _file(
        print_file(plan, sheet - 1, here.picture_of), "application/pdf", f"{plan.job.title}-sheet-{sheet:02d}-print.pdf"
    )


@router.get("/jobs/{job_id}/sheets/{sheet}/cut.svg", tags=["hand-off"], response_class=Response)
def cut_svg(here: Here, job_id: int, sheet: int) -> Response:
    plan = _planned(here, job_id, sheet)
    return _file(cut_svg_file(plan, sheet - 1), "image/svg+xml", f"{plan.job.title}-sheet-{sheet:02d}-cut.svg")


@router.get("/jobs/{job_id}/sheets/{sheet}/cut.dxf", tags=["hand-off"], response_class=Response)
def cut_dxf(here: Here, job_id: int, sheet: int) -> Response:
    plan = _planned(here, job_id, sheet)
    return _file(cut_dxf_file(plan, sheet - 1), "image/vnd.dxf", f"{plan.job.title}-sheet-{sheet:02d}-cut.dxf")


@router.get("/jobs/{job_id}/hand-off.zip", tags=["hand-off"], response_class=Response)
def hand_off(here: Here, job_id: int) -> Response:
    """Every file of the job, the job file and its art."""
    _planned(here, job_id)
    data = here.hand_off(here.jobs.get(job_id))
    title = here.jobs.get(job_id).document.title
    return _file(data, "application/zip", f"{title}.zip")
