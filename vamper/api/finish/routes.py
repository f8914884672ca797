"""How a job is finished, and the evening that several jobs share."""

from dataclasses import asdict
from typing import Annotated

from annotated_types import Len
from fastapi import Response

from vamper.api.dependencies import (
    EveningsHere,
    GarmentsHere,
    ItemsHere,
    JobsHere,
    PlansHere,
    ShopHere,
    SuppliesHere,
    TonightHere,
    UnitHere,
)
from vamper.api.downloads import download
from vamper.api.finish.cup_view import cup_out
from vamper.api.finish.pieces_schemas import PiecesOut
from vamper.api.finish.pieces_view import pieces_out
from vamper.api.finish.schemas import (
    EveningIn,
    EveningOut,
    FiguresIn,
    FinishOut,
    LabelsIn,
    OnCupOut,
    SeamsIn,
    StepDoing,
    StripsIn,
)
from vamper.api.finish.views import evening_out, finish_out
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.core.finishing.chain import ALWAYS
from vamper.core.finishing.placing import placing_pages
from vamper.core.finishing.round_things import diameter_of
from vamper.core.ledger.money import money
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import in_unit
from vamper.formats.out.calendar import write_calendar
from vamper.formats.out.drawing_pdf import write_drawings_pdf
from vamper.services.finish.evening import Evenings
from vamper.services.finish.finishing import finishing_of
from vamper.services.jobs.job_state import JobState
from vamper.services.shop.garments import Garment
from vamper.services.work.not_found import NotFound

router = door_router("finish")


@router.get("/jobs/{job_id}/finish")
def get_finish(jobs: JobsHere, plans: PlansHere, evenings: EveningsHere, job_id: Id) -> FinishOut | None:
    """The steps for a job's pieces after the print; empty while no piece lies on a sheet."""
    plan = plans.of(jobs.get(job_id)).plan
    found = finishing_of(plan)
    if found is None:
        return None
    tonight = any(one.job_id == job_id for one in evenings.document().batches)
    return finish_out(found, plan, evenings.now(), tonight)


@router.get("/jobs/{job_id}/finish/pieces")
def get_pieces(jobs: JobsHere, plans: PlansHere, shop: ShopHere, supplies: SuppliesHere, job_id: Id) -> PiecesOut:
    """How the pieces are pressed, where they go on cloth, how they shrink, which layer comes first."""
    stocks = [kept.value for kept in shop.stocks.all().values() if not kept.hidden]
    rates = supplies.prices()
    prices = {one.stock: money(one.sheet_price, rates.currency) for one in supplies.stocks()}
    state = jobs.get(job_id)
    return pieces_out(plans.of(state).plan, stocks, prices, supplies.offcuts(state.document.stock))


@router.get("/jobs/{job_id}/placing.pdf", response_class=Response)
async def get_placing(jobs: JobsHere, plans: PlansHere, unit: UnitHere, job_id: Id) -> Response:
    """True-size paper templates to find a piece's place with."""

    def draw() -> Response:
        plan = plans.of(jobs.get(job_id)).plan
        if not plan.items:
            raise BadInput("there is nothing to place yet; add art first", "items")
        data = write_drawings_pdf(placing_pages(plan), unit)
        return download(data, "application/pdf", f"{plan.job.title}-placing.pdf")

    return await in_turn(draw)


@router.get("/jobs/{job_id}/items/{number}/cup")
def get_cup(jobs: JobsHere, plans: PlansHere, job_id: Id, number: Number) -> OnCupOut | None:
    """Where a design comes to lie on its cup; nothing where it goes round nothing."""
    plan = plans.of(jobs.get(job_id)).plan
    item = next((one for one in plan.items if one.number == number), None)
    if item is None:
        raise NotFound("this design is no longer in the job")
    return cup_out(item)


@router.post("/jobs/{job_id}/items/{number}/cup/strips", status_code=204)
def measure_by_strips(jobs: JobsHere, job_id: Id, number: Number, strips: StripsIn) -> None:
    """A cup measured by paper strips laid round its rims."""
    asked = {"top_mm": strips.top_around_mm, "bottom_mm": strips.bottom_around_mm}
    changes = {f"wrap.{side}": diameter_of(around) for side, around in asked.items() if around is not None}
    jobs.change_items(job_id, "cup", (number,), changes)


@router.post("/jobs/{job_id}/items/{number}/cup/parts")
def make_in_cup_parts(jobs: JobsHere, items: ItemsHere, job_id: Id, number: Number, seams: SeamsIn) -> JobState:
    """A design that goes round a thing made in parts, each a design of its own."""
    return items.in_cup_parts(jobs.get(job_id), number, seams.seams_mm)


@router.put("/jobs/{job_id}/finish/labels", status_code=204)
def put_labels(shop: ShopHere, jobs: JobsHere, job_id: Id, labels: LabelsIn) -> None:
    """Keep what the label of this job's stock says."""
    stock = jobs.core_job(jobs.get(job_id)).stock
    shop.labels.change(stock.key, stock.stock_class, labels.figures)


@router.get("/garments")
def get_garments(garments: GarmentsHere) -> list[Garment]:
    """How wide motifs are on what is worn."""
    return list(garments.all())


@router.put("/garments")
def put_garments(garments: GarmentsHere, every: Annotated[list[Garment], Len(0, 40)]) -> list[Garment]:
    """Keep the whole table; an empty one brings the starters back."""
    return list(garments.put([asdict(one) for one in every]))


@router.post("/jobs/{job_id}/evening", status_code=201)
async def add_to_evening(evenings: EveningsHere, tonight: TonightHere, job_id: Id) -> EveningOut:
    """Put a job into the evening."""

    def add() -> EveningOut:
        tonight.add(job_id)
        return _evening(evenings)

    return await in_turn(add)


@router.get("/evening")
async def get_evening(evenings: EveningsHere) -> EveningOut:
    """The evening with its plan, as it stands now."""
    return await in_turn(lambda: _evening(evenings))


@router.put("/evening")
async def change_evening(evenings: EveningsHere, asked: EveningIn) -> EveningOut:
    """Set its times, its places and the hours when nobody is there."""

    def change() -> EveningOut:
        away = None if asked.away is None else tuple(asked.away)
        evenings.change(asked.begins, asked.done_by, asked.places, away)
        return _evening(evenings)

    return await in_turn(change)


@router.delete("/evening", status_code=204)
def clear_evening(evenings: EveningsHere) -> None:
    """Begin a new evening."""
    evenings.clear()


@router.delete("/evening/batches/{number}", status_code=204)
def remove_batch(evenings: EveningsHere, number: Id) -> None:
    """Take a batch out of the evening."""
    evenings.remove(number)


@router.put("/evening/batches/{number}/labels")
async def read_label(evenings: EveningsHere, tonight: TonightHere, number: Id, labels: FiguresIn) -> EveningOut:
    """Keep the figures read off a product's label with the stock; tonight's plan follows."""

    def read() -> EveningOut:
        tonight.read_label(number, labels.figures)
        return _evening(evenings)

    return await in_turn(read)


@router.post("/evening/batches/{number}/steps/{step}/{doing}")
async def do_step(evenings: EveningsHere, number: Id, step: int, doing: StepDoing) -> EveningOut:
    """A step begins, is done, or was neither after all."""

    def do() -> EveningOut:
        acts = {
            StepDoing.BEGIN: evenings.begin,
            StepDoing.PAUSE: evenings.pause,
            StepDoing.END: evenings.end,
            StepDoing.UNDO: evenings.undo,
        }
        acts[doing](number, step)
        return _evening(evenings)

    return await in_turn(do)


@router.get("/evening.ics", response_class=Response)
async def get_calendar(evenings: EveningsHere, unit: UnitHere) -> Response:
    """The steps with a person at them, as a calendar."""

    def write() -> Response:
        now = evenings.state()
        if now.plan is None:
            raise BadInput("nothing is planned yet, so there is nothing for a calendar; add a job first", "batches")
        details = {
            (number, place): in_unit(f"{one.step.check}. {ALWAYS}", unit)
            for number, steps in enumerate(now.steps)
            for place, one in enumerate(steps)
        }
        identity = f"evening {now.document.opened or now.starts}"
        data = write_calendar(now.plan, now.starts, "Tonight at the bench", details, identity, now.clock)
        return download(data, "text/calendar", "tonight.ics")

    return await in_turn(write)


def _evening(evenings: Evenings) -> EveningOut:
    return evening_out(evenings.state())
