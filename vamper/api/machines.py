"""The workshop's printers and cutters, to be changed and added to; jobs on them follow."""

from vamper.api.door import Id
from vamper.api.door import router as door_router
from vamper.api.here import Here
from vamper.api.schemas import CutterOut, JobId, PrinterOut
from vamper.services.machines import CutterProfile, PrinterProfile

router = door_router("machines")


@router.get("/printers")
def list_printers(here: Here) -> list[PrinterOut]:
    return [PrinterOut(id=number, profile=profile) for number, profile in here.machines.printers().items()]


@router.post("/printers", status_code=201)
def add_printer(here: Here, profile: PrinterProfile) -> JobId:
    return JobId(id=here.machines.keep_printer(profile))


@router.put("/printers/{number}")
def change_printer(here: Here, number: Id, profile: PrinterProfile) -> JobId:
    return JobId(id=here.machines.keep_printer(profile, number))


@router.delete("/printers/{number}", status_code=204)
def remove_printer(here: Here, number: Id) -> None:
    here.machines.remove_printer(number)


@router.get("/cutters")
def list_cutters(here: Here) -> list[CutterOut]:
    return [CutterOut(id=number, profile=profile) for number, profile in here.machines.cutters().items()]


@router.post("/cutters", status_code=201)
def add_cutter(here: Here, profile: CutterProfile) -> JobId:
    return JobId(id=here.machines.keep_cutter(profile))


@router.put("/cutters/{number}")
def change_cutter(here: Here, number: Id, profile: CutterProfile) -> JobId:
    return JobId(id=here.machines.keep_cutter(profile, number))


@router.delete("/cutters/{number}", status_code=204)
def remove_cutter(here: Here, number: Id) -> None:
    here.machines.remove_cutter(number)
