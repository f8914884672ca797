"""Who leads the cut, and what is known of and handed to a machine's own program."""

from dataclasses import replace

from fastapi import UploadFile

from vamper.api.dependencies import JobsHere, PlansHere, ShopHere
from vamper.api.program.schemas import CalibratedIn, ProgramIn, ProgramOut, ProgramPicture, RouteIn, TrimOut
from vamper.api.request_checks import MOST_FILE_BODY, Id, in_turn
from vamper.api.request_checks import router as door_router
from vamper.core.plan import Plan
from vamper.core.program.choices import cover_trim_mm, program_choices
from vamper.core.program.picture import picture_frame, riding_drop
from vamper.core.values.art import SizeSpec
from vamper.core.values.lengths import size_mm
from vamper.core.values.paper import named
from vamper.core.values.program import ProgramMarks
from vamper.core.vision.program_marks_scan import measured_marks
from vamper.formats.art_in.raster import read_pixels

router = door_router("program")


@router.get("/jobs/{job_id}/program")
async def get_program(shop: ShopHere, jobs: JobsHere, plans: PlansHere, job_id: Id) -> ProgramOut | None:
    """The files for the machine's own program and the choices to make there; nothing where cut files lead the cut."""

    def tell() -> ProgramOut | None:
        state = jobs.get(job_id)
        plan = plans.of(state).plan
        if not plan.job.cutter.has_own_program:
            return None
        due = shop.program_due(state.document.printer_id, state.document.cutter_id, plan.asked.stock)
        return program_out(plan, due)

    return await in_turn(tell)


def program_out(plan: Plan, due: str) -> ProgramOut:
    """A plan as the machine's own program needs it."""
    job, choices, trim = plan.job, program_choices(plan), cover_trim_mm(plan)
    facts = job.cutter.program_facts
    paper, size = named(job.paper), size_mm(job.paper.width_mm, job.paper.height_mm)
    return ProgramOut(
        pictures=[_picture(plan, sheet) for sheet in range(len(plan.sheets))],
        bleed=choices.bleed,
        mirror=choices.mirror,
        why=list(choices.why),
        asks_bleed=choices.asks_bleed,
        paper=f"{paper.words}, {size}" if paper else size,
        copies=job.copies,
        measured=facts.marks is not None and facts.marks.rim_mm is not None,
        trim=None if trim is None else TrimOut(width_mm=trim[0], height_mm=trim[1]),
        facts=facts,
        calibration_due=due,
    )


def _picture(plan: Plan, sheet: int) -> ProgramPicture:
    frame = picture_frame(plan, sheet)
    width, height = frame.size_mm
    return ProgramPicture(
        sheet=sheet + 1,
        width_mm=width,
        height_mm=height,
        width_px=frame.width_px,
        height_px=frame.height_px,
        left_mm=frame.left_mm,
        top_mm=frame.top_mm,
        drop=riding_drop(plan, sheet) is not None,
    )


@router.put("/cutters/{number}/route", status_code=204)
def choose_route(shop: ShopHere, number: Id, chosen: RouteIn) -> None:
    """Who leads the cut on a machine; jobs on it follow."""
    kept = shop.cutters.get(number)
    shop.cutters.keep(kept.name, replace(kept.value, route=chosen.route), number)


@router.put("/cutters/{number}/program", status_code=204)
def tell_program(shop: ShopHere, number: Id, told: ProgramIn) -> None:
    """Keep what is known of a machine's own program; its calibrations stay."""
    kept = shop.cutters.get(number)
    facts = replace(told.facts, calibrated=kept.value.program_facts.calibrated)
    shop.cutters.keep(kept.name, replace(kept.value, program=facts), number)


@router.post("/cutters/{number}/program/calibrated", status_code=204)
def tell_calibrated(shop: ShopHere, number: Id, told: CalibratedIn) -> None:
    """A calibration was made in the program, with its own sheet."""
    shop.program_calibrated(number, told.made)


@router.post("/jobs/{job_id}/program/marks-scan", max_body_size=MOST_FILE_BODY)
async def scan_marks(jobs: JobsHere, job_id: Id, file: UploadFile) -> ProgramMarks:
    """The program's marks as a flat scan of one print shows them, edge to edge; nothing is kept."""

    def look() -> ProgramMarks:
        paper = jobs.core_job(jobs.get(job_id)).paper
        return measured_marks(
            read_pixels(file.file.read(), SizeSpec(), 0).rgba[..., :3], paper.width_mm, paper.height_mm
        )

    return await in_turn(look)
