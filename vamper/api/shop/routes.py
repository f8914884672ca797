"""The workshop's printers and cutters, to be changed and added to; jobs on them follow."""

from typing import Annotated

from annotated_types import Ge, Le
from fastapi import Response

from vamper.api.dependencies import ShopHere, UsualHere
from vamper.api.jobs.schemas import JobId
from vamper.api.request_checks import Id
from vamper.api.request_checks import router as door_router
from vamper.api.shop.schemas import CutterOut, CutterProfile, GrantedAnswer, PrinterOut, PrinterProfile
from vamper.core.values.paper import Paper
from vamper.formats.out.whole_png import trial_png
from vamper.services.shop.usual import Usual

router = door_router("machines")

TrialSide = Annotated[float, Ge(5), Le(600)]


@router.get("/usual")
def get_usual(usual: UsualHere) -> Usual:
    """The machines that new jobs are made on, as far as the maker named them."""
    return usual.get()


@router.put("/usual")
def put_usual(kept_usual: UsualHere, usual: Usual) -> Usual:
    kept_usual.put(usual)
    return kept_usual.get()


@router.get("/printers")
def list_printers(shop: ShopHere) -> list[PrinterOut]:
    return [
        PrinterOut(id=key, revision=kept.revision, profile=PrinterProfile(name=kept.name, printer=kept.value))
        for key, kept in shop.printers.all().items()
    ]


@router.post("/printers", status_code=201)
def add_printer(shop: ShopHere, profile: PrinterProfile) -> JobId:
    return JobId(id=shop.printers.keep(profile.name, profile.printer))


@router.put("/printers/{number}")
def change_printer(shop: ShopHere, number: Id, profile: PrinterProfile) -> JobId:
    return JobId(id=shop.printers.keep(profile.name, profile.printer, number))


@router.delete("/printers/{number}", status_code=204)
def remove_printer(shop: ShopHere, number: Id) -> None:
    shop.printers.remove(number)


@router.get("/cutters")
def list_cutters(shop: ShopHere) -> list[CutterOut]:
    return [
        CutterOut(id=key, revision=kept.revision, profile=CutterProfile(name=kept.name, cutter=kept.value))
        for key, kept in shop.cutters.all().items()
    ]


@router.post("/cutters", status_code=201)
def add_cutter(shop: ShopHere, profile: CutterProfile) -> JobId:
    return JobId(id=shop.cutters.keep(profile.name, profile.cutter))


@router.put("/cutters/{number}")
def change_cutter(shop: ShopHere, number: Id, profile: CutterProfile) -> JobId:
    return JobId(id=shop.cutters.keep(profile.name, profile.cutter, number))


@router.delete("/cutters/{number}", status_code=204)
def remove_cutter(shop: ShopHere, number: Id) -> None:
    shop.cutters.remove(number)


@router.post("/cutters/{number}/granted", status_code=204)
def tell_granted(shop: ShopHere, number: Id, answer: GrantedAnswer) -> None:
    """The machine's own program took or refused a size; jobs on that paper follow."""
    shop.picture_tried(number, answer.paper, answer.side, answer.size_mm, answer.taken)


@router.post("/cutters/{number}/granted/forget", status_code=204)
def forget_granted(shop: ShopHere, number: Id, paper: Paper) -> None:
    """Begin anew with what is known of a paper."""
    shop.forget_granted(number, paper)


@router.get("/trial.png", response_class=Response)
def get_trial(width_mm: TrialSide, height_mm: TrialSide) -> Response:
    """A picture of a size, to try in a machine's own program before anything is printed."""
    name = f'attachment; filename="trial-{width_mm:g}x{height_mm:g}-mm.png"'
    return Response(trial_png(width_mm, height_mm), media_type="image/png", headers={"content-disposition": name})
