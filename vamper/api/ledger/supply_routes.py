"""The shelf, offcuts, and what a job costs."""

from typing import Annotated

from annotated_types import Gt, Le
from fastapi import Form, Query, UploadFile

from vamper.api.dependencies import (
    DesignerHere,
    InksHere,
    JobsHere,
    MadeHere,
    PlansHere,
    RunsHere,
    ShopHere,
    SuppliesHere,
)
from vamper.api.ledger.cost_schemas import CostOut
from vamper.api.ledger.cost_views import check_stock, cost_out, supplies_out
from vamper.api.ledger.offcut_views import offcut_out
from vamper.api.ledger.schemas import GoneOut, NewId, OffcutOut, RatesIn, RestIn, SuppliesOut
from vamper.api.places import CORNERS, corners_of
from vamper.api.request_checks import MOST_FILE_BODY, Id, in_turn
from vamper.api.request_checks import router as door_router
from vamper.core.ledger.supply import Bought, Offcut, Pack
from vamper.core.values.findings import BadInput
from vamper.core.values.stock import StockKey
from vamper.services.brief.words import plural
from vamper.services.twin.comparing import read_picture
from vamper.services.twin.used_sheets import gone_in

router = door_router("ledger")

Side = Annotated[float, Form(), Gt(0), Le(3000)]


@router.get("/supplies")
def get_supplies(shop: ShopHere, supplies: SuppliesHere) -> SuppliesOut:
    """The shelf with its counts, and the prices of the workshop."""
    return supplies_out(shop, supplies)


@router.post("/supplies", status_code=201)
def buy(shop: ShopHere, supplies: SuppliesHere, pack: Pack) -> NewId:
    """A pack of stock comes onto the shelf."""
    check_stock(shop, pack.stock)
    return NewId(id=supplies.buy(pack))


@router.post("/supplies/things", status_code=201)
def buy_thing(supplies: SuppliesHere, bought: Bought) -> NewId:
    """Something else that is used up comes onto the shelf."""
    return NewId(id=supplies.buy(bought))


@router.delete("/supplies/{number}", status_code=204)
def take_back(supplies: SuppliesHere, number: Id) -> None:
    """Take back a purchase that was entered by mistake."""
    supplies.remove(number)


@router.put("/supplies/rates")
def change_rates(shop: ShopHere, supplies: SuppliesHere, asked: RatesIn) -> SuppliesOut:
    """Set what things cost."""
    supplies.change_rates(dict(asked.rates))
    return supplies_out(shop, supplies)


@router.get("/jobs/{job_id}/cost")
async def get_cost(
    runs: RunsHere, jobs: JobsHere, plans: PlansHere, inks: InksHere, supplies: SuppliesHere, job_id: Id
) -> CostOut:
    """The cost of a job's pieces, and what to ask for them."""

    def reckon() -> CostOut:
        return cost_out(runs, inks, supplies, plans.of(jobs.get(job_id)).plan)

    return await in_turn(reckon)


@router.get("/offcuts")
def get_offcuts(
    shop: ShopHere, supplies: SuppliesHere, stock: Annotated[StockKey | None, Query()] = None
) -> list[OffcutOut]:
    """Offcuts that were not used yet, the newest first."""
    return [offcut_out(kept, shop) for kept in supplies.offcuts(stock)]


@router.post("/offcuts", status_code=201)
def keep_offcut(shop: ShopHere, supplies: SuppliesHere, offcut: Offcut) -> NewId:
    """Keep the rest of a sheet, as it is described here."""
    check_stock(shop, offcut.stock)
    return NewId(id=supplies.keep_offcut(offcut))


@router.post("/offcuts/rest", status_code=201)
async def keep_rest(made: MadeHere, asked: RestIn) -> NewId:
    """Keep the rest of the sheet of a run, by its plan."""
    return NewId(id=await in_turn(lambda: made.keep_rest(asked.run, asked.name)))


@router.delete("/offcuts/{number}", status_code=204)
def drop_offcut(supplies: SuppliesHere, number: Id) -> None:
    """It is used up, or thrown away."""
    supplies.use_offcut(number)


@router.post("/offcuts/look", max_body_size=MOST_FILE_BODY)
async def look_at_sheet(
    designer: DesignerHere,
    file: UploadFile,
    width_mm: Side,
    height_mm: Side,
    corners: Annotated[str, Form(pattern=CORNERS, max_length=200)],
) -> GoneOut:
    """Read the part of a used sheet that is gone off a photo or scan of it whose `corners` are shown."""

    def look() -> GoneOut:
        at = corners_of(corners)
        if at is None:
            raise BadInput("show the four corners of the sheet", "corners")
        picture = read_picture(file.file.read(), file.filename or "picture", designer.room)
        gone = designer.room.run(gone_in, picture, width_mm, height_mm, at)
        words = f"{plural(len(gone), 'part')} of the sheet look used." if gone else "The whole sheet looks unused."
        return GoneOut(gone=list(gone), words=words)

    return await in_turn(look)
