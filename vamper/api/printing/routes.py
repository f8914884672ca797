"""What to choose in the printer's dialog, the proof, ink, the page as a picture, and swatch strips."""

from typing import Annotated

from annotated_types import Ge, Le
from fastapi import Response

from vamper.api.dependencies import InksHere, JobsHere, MadeHere, PicturesHere, PlansHere, ShopHere
from vamper.api.downloads import download
from vamper.api.printing.schemas import PrintChoiceIn, PrintingOut, ProofIn, ProofOut
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet_number import sheet_place
from vamper.core.finishing.chain import chain_of_job
from vamper.core.finishing.work import dry_minutes, work_of
from vamper.core.plan import Plan
from vamper.core.printing.advice import SCHOOLS, PrintAdvice, PrintChoice
from vamper.core.printing.ink import SheetInk, sheet_ink
from vamper.core.printing.page_box import page_for
from vamper.core.printing.proof import scale_of
from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH
from vamper.services.brief.printing import dialog_lines, mirror_words
from vamper.services.handoff.files import page_file, proof_file, proof_name
from vamper.services.handoff.measuring import swatch_file
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.ledger.made_sheets import MadeSheets
from vamper.services.planning.plans import Plans
from vamper.services.shop.shop import Shop
from vamper.services.work.not_found import NotFound

router = door_router("print")

Ppi = Annotated[int, Ge(30), Le(1200)]
_MM_OF = {"mm": 1.0, "cm": 10.0, "in": MM_PER_INCH}


def _planned(jobs: Jobs, plans: Plans, job_id: Id, sheet: Number | None = None) -> Plan:
    plan = plans.of(jobs.get(job_id)).plan
    if not plan.job.stock.printable:
        raise BadInput("this stock is not printed; take the cut file", "stock")
    if sheet is not None:
        sheet_place(plan, sheet)
    return plan


def _advice(shop: Shop, made: MadeSheets, state: JobState, plan: Plan) -> tuple[PrintAdvice, PrintChoice]:
    choice = shop.prints.get(state.document.printer_id, state.document.stock)
    return made.print_advice(state.document, plan.job), choice


@router.get("/jobs/{job_id}/printing")
def get_printing(shop: ShopHere, jobs: JobsHere, plans: PlansHere, made: MadeHere, job_id: Id) -> PrintingOut | None:
    """The choices in the printer's dialog for a job; none for a stock that is not printed."""
    state = jobs.get(job_id)
    plan = plans.of(state).plan
    if not plan.job.stock.printable:
        return None
    advice, choice = _advice(shop, made, state, plan)
    page, scale = page_for(plan.job.paper, plan.job.printer), plan.job.printer.scale
    return PrintingOut(
        lines=dialog_lines(plan, advice),
        source=advice.source,
        look=advice.look,
        mirror_words=mirror_words(plan, advice),
        schools=list(advice.schools),
        school=choice.school,
        label=choice.label,
        own=choice.own,
        dry_minutes=dry_minutes(chain_of_job(plan.asked), work_of(plan.asked)),
        scale_x=scale.x,
        scale_y=scale.y,
        page_width_mm=page.width_mm,
        page_height_mm=page.height_mm,
        sheet_left_mm=page.left_mm,
    )


@router.put("/jobs/{job_id}/printing", status_code=204)
def choose_printing(shop: ShopHere, jobs: JobsHere, job_id: Id, choice: PrintChoiceIn) -> None:
    """Remember what suits this printer and stock."""
    document = jobs.get(job_id).document
    shop.prints.change(document.printer_id, document.stock, choice.model_dump(exclude_none=True))


@router.get("/jobs/{job_id}/sheets/{sheet}/proof.pdf", response_class=Response)
async def get_proof(pictures: PicturesHere, jobs: JobsHere, plans: PlansHere, job_id: Id, sheet: Number) -> Response:
    """The proof of a sheet, for plain paper: its page with the cut lines and two bars of 100 mm."""

    def draw() -> Response:
        plan = _planned(jobs, plans, job_id, sheet)
        data = proof_file(plan, sheet - 1, pictures.whole)
        return download(data, "application/pdf", f"{plan.job.title}-{proof_name(sheet - 1)}")

    return await in_turn(draw)


@router.post("/jobs/{job_id}/proof")
def measure_proof(shop: ShopHere, jobs: JobsHere, job_id: Id, proof: ProofIn) -> ProofOut:
    """Keep the measured bars of a proof as the printer's scale from now on; it is compensated."""
    factor = _MM_OF[proof.unit]
    scale = scale_of(round(proof.across * factor, 4), round(proof.down * factor, 4), proof.sure)
    shop.proved(jobs.get(job_id).document.printer_id, scale)
    return ProofOut(scale_x=scale.x, scale_y=scale.y)


@router.get("/jobs/{job_id}/sheets/{sheet}/ink")
async def get_ink(jobs: JobsHere, plans: PlansHere, inks: InksHere, job_id: Id, sheet: Number) -> SheetInk:
    """The ink that a sheet takes."""

    def measure() -> SheetInk:
        plan = _planned(jobs, plans, job_id, sheet)
        paper = plan.job.paper
        return sheet_ink(inks.of(plan, sheet - 1), paper.width_mm * paper.height_mm / 100)

    return await in_turn(measure)


@router.get("/jobs/{job_id}/sheets/{sheet}/page.png", response_class=Response)
async def get_page(
    pictures: PicturesHere, jobs: JobsHere, plans: PlansHere, job_id: Id, sheet: Number, ppi: Ppi = 300
) -> Response:
    """The page of a sheet as a picture, transparent where nothing is printed."""

    def draw() -> Response:
        plan = _planned(jobs, plans, job_id, sheet)
        data = page_file(plan, sheet - 1, ppi, pictures.whole)
        return download(data, "image/png", f"{plan.job.title}-sheet-{sheet:02d}-page.png")

    return await in_turn(draw)


@router.get("/jobs/{job_id}/swatch-{school}.pdf", response_class=Response)
def get_swatch(jobs: JobsHere, plans: PlansHere, job_id: Id, school: str) -> Response:
    """A swatch strip, to be printed by one school's settings on what is left of a sheet."""
    if school not in SCHOOLS:
        raise NotFound("there is no such choice")
    plan = _planned(jobs, plans, job_id)
    named = swatch_file(plan, SCHOOLS[school].name, second=school != next(iter(SCHOOLS)))
    return download(named.data, named.media_type, f"{plan.job.title}-swatch-{school}.pdf")
