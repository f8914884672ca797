"""Files to take away: print page and cut files of each sheet, or everything at once."""

from fastapi import Response

from vamper.api.dependencies import HandingOverHere, JobsHere, PicturesHere, PlansHere
from vamper.api.downloads import download
from vamper.api.handoff.schemas import FoundCutOut, found_cut_out
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet_number import sheet_place
from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput
from vamper.formats.out.sheet_file import SHEET_FILES, SheetFile
from vamper.services.handoff.files import sheet_file, sheet_found_cut
from vamper.services.jobs.jobs import Jobs
from vamper.services.planning.plans import Plans

router = door_router()


def _planned(jobs: Jobs, plans: Plans, job_id: Id, sheet: Number | None = None) -> Plan:
    plan = plans.of(jobs.get(job_id)).plan
    if not plan.layout.sheets:
        raise BadInput("nothing is placed on a sheet yet; add art that fits it first", "sheets")
    if sheet is not None:
        sheet_place(plan, sheet)
    return plan


def _offer(kind: SheetFile) -> None:
    """A route for one kind of file."""

    @router.get(
        f"/jobs/{{job_id}}/sheets/{{sheet}}/{kind.ending}",
        tags=["hand-off"],
        response_class=Response,
        name=kind.key,
    )
    def file(jobs: JobsHere, plans: PlansHere, pictures: PicturesHere, job_id: Id, sheet: Number) -> Response:
        plan = _planned(jobs, plans, job_id, sheet)
        if not (kind.is_for(plan.job) or kind.on_request(plan.job)):
            raise BadInput(kind.missing, "stock")
        data = sheet_file(plan, sheet - 1, kind.key, pictures.whole)
        return download(data, kind.media_type, f"{plan.job.title}-sheet-{sheet:02d}-{kind.ending}")


for one in SHEET_FILES:
    _offer(one)


@router.get("/jobs/{job_id}/sheets/{sheet}/found-cut", tags=["hand-off"])
async def get_found_cut(
    pictures: PicturesHere, jobs: JobsHere, plans: PlansHere, job_id: Id, sheet: Number
) -> FoundCutOut:
    """The outlines that the machine's own program will find to cut on a sheet: its picture, traced back."""

    def find() -> FoundCutOut:
        plan = _planned(jobs, plans, job_id, sheet)
        if not plan.job.for_own_program:
            raise BadInput(SHEET_FILES["whole"].missing, "marks")
        return found_cut_out(sheet_found_cut(plan, sheet - 1, pictures.whole))

    return await in_turn(find)


@router.post("/jobs/{job_id}/hand-off", tags=["hand-off"], status_code=204)
def mark_handed_off(jobs: JobsHere, plans: PlansHere, handing_over: HandingOverHere, job_id: Id) -> None:
    """The job counts as handed off from now on."""
    _planned(jobs, plans, job_id)
    handing_over.record(jobs.get(job_id))


@router.get("/jobs/{job_id}/hand-off.zip", tags=["hand-off"], response_class=Response)
def hand_off(jobs: JobsHere, plans: PlansHere, handing_over: HandingOverHere, job_id: Id) -> Response:
    """Every file of the job, the job file and its art."""
    _planned(jobs, plans, job_id)
    data = handing_over.bundle(jobs.get(job_id))
    title = jobs.get(job_id).document.title
    return download(data, "application/zip", f"{title}.zip")
