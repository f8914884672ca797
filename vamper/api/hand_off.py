"""Files to take away: print page and cut files of each sheet, or everything at once."""

from urllib.parse import quote

from fastapi import Response

from vamper.api.door import Id, Number
from vamper.api.door import router as door_router
from vamper.api.here import Here
from vamper.core.findings import BadInput
from vamper.core.plan import Plan
from vamper.formats.safe_text import safe_file_name
from vamper.services.hand_off import cut_dxf_file, cut_svg_file, print_file
from vamper.services.jobs import NotFound
from vamper.services.workshop import Workshop

router = door_router()


def _planned(here: Workshop, job_id: Id, sheet: Number | None = None) -> Plan:
    plan, _ = here.plan(here.jobs.get(job_id))
    if not plan.layout.sheets:
        raise BadInput("nothing is placed on a sheet yet; add art that fits it first", "sheets")
    if sheet is not None and not 1 <= sheet <= len(plan.layout.sheets):
        raise NotFound("this job has no such sheet")
    return plan


def _file(data: bytes, media_type: str, name: str) -> Response:
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "-._") else "-" for c in name)
    named = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(safe_file_name(name))}"
    return Response(data, media_type=media_type, headers={"content-disposition": named})


@router.get("/jobs/{job_id}/sheets/{sheet}/print.pdf", tags=["hand-off"], response_class=Response)
def print_pdf(here: Here, job_id: Id, sheet: Number) -> Response:
    plan = _planned(here, job_id, sheet)
    if not plan.job.stock.printable:
        raise BadInput("this stock is not printed, so there is no print file; take the cut file", "stock")
    return _file(
        print_file(plan, sheet - 1, here.picture_of), "application/pdf", f"{plan.job.title}-sheet-{sheet:02d}-print.pdf"
    )


@router.get("/jobs/{job_id}/sheets/{sheet}/cut.svg", tags=["hand-off"], response_class=Response)
def cut_svg(here: Here, job_id: Id, sheet: Number) -> Response:
    plan = _planned(here, job_id, sheet)
    return _file(cut_svg_file(plan, sheet - 1), "image/svg+xml", f"{plan.job.title}-sheet-{sheet:02d}-cut.svg")


@router.get("/jobs/{job_id}/sheets/{sheet}/cut.dxf", tags=["hand-off"], response_class=Response)
def cut_dxf(here: Here, job_id: Id, sheet: Number) -> Response:
    plan = _planned(here, job_id, sheet)
    return _file(cut_dxf_file(plan, sheet - 1), "image/vnd.dxf", f"{plan.job.title}-sheet-{sheet:02d}-cut.dxf")


@router.post("/jobs/{job_id}/hand-off", tags=["hand-off"], status_code=204)
def mark_handed_off(here: Here, job_id: Id) -> None:
    """The job counts as handed off from now on."""
    _planned(here, job_id)
    here.jobs.mark_handed_off(job_id)


@router.get("/jobs/{job_id}/hand-off.zip", tags=["hand-off"], response_class=Response)
def hand_off(here: Here, job_id: Id) -> Response:
    """Every file of the job, the job file and its art."""
    _planned(here, job_id)
    data = here.hand_off(here.jobs.get(job_id))
    title = here.jobs.get(job_id).document.title
    return _file(data, "application/zip", f"{title}.zip")
