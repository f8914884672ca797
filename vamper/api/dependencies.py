"""What a route depends on: the services of the workshop that a request is about, each by itself."""

from typing import Annotated, Any

from fastapi import Depends, Request

from vamper.api.jobs.views import Views
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.values.lengths import Unit
from vamper.services.design.art_zips import ArtZips
from vamper.services.design.arts import Arts
from vamper.services.design.designer import Designer
from vamper.services.design.item_pictures import ItemPictures
from vamper.services.finish.evening import Evenings
from vamper.services.handoff.ink import Inks
from vamper.services.jobs.composing import Compositions
from vamper.services.jobs.fixes import Fixes
from vamper.services.jobs.items import Items
from vamper.services.jobs.jobs import Jobs
from vamper.services.jobs.variants import Variants
from vamper.services.ledger.made_sheets import MadeSheets
from vamper.services.ledger.on_hand import OnHand
from vamper.services.ledger.runs import Runs
from vamper.services.ledger.supplies import Supplies
from vamper.services.packing.by_hand import ByHand
from vamper.services.packing.counting import Counting
from vamper.services.packing.named import Layouts
from vamper.services.packing.packing_service import PackingService
from vamper.services.packing.scaling import ScalingService
from vamper.services.planning.briefing import Briefing
from vamper.services.planning.handing_over import HandingOver
from vamper.services.planning.making import Making
from vamper.services.planning.plans import Plans
from vamper.services.planning.repacking import Repacking
from vamper.services.planning.simulations import Simulations
from vamper.services.planning.tonight import Tonight
from vamper.services.shop.garments import Garments
from vamper.services.shop.own_fonts import OwnFonts
from vamper.services.shop.shop import Shop
from vamper.services.shop.styles import Styles
from vamper.services.shop.usual import UsualMachines
from vamper.services.trainer.lessons import Lessons
from vamper.services.trainer.plays import Plays
from vamper.services.trainer.spoilt_sheets import SpoiltSheets
from vamper.services.twin.dry_run_service import DryRunService
from vamper.services.twin.photo_checks import PhotoChecks
from vamper.services.workshop import Workshop
from vamper.store.database import Sessions


async def workshop_of(request: Request) -> Workshop:
    workshop: Workshop = request.app.state.workshop
    return workshop


async def views_of(request: Request) -> Views:
    views: Views = request.app.state.views
    return views


async def unit_here(request: Request) -> Unit:
    """The unit that the workshop measures in."""
    unit: Unit = request.app.state.workshop.usual.unit()
    return unit


def _service(name: str) -> Any:
    """One service of the workshop, as a dependency."""

    async def service(request: Request) -> Any:
        return getattr(request.app.state.workshop, name)

    return Depends(service)


UnitHere = Annotated[Unit, Depends(unit_here)]
WorkshopHere = Annotated[Workshop, Depends(workshop_of)]
Shown = Annotated[Views, Depends(views_of)]

SessionsHere = Annotated[Sessions, _service("sessions")]
ShopHere = Annotated[Shop, _service("shop")]
UsualHere = Annotated[UsualMachines, _service("usual")]
StylesHere = Annotated[Styles, _service("styles")]
GarmentsHere = Annotated[Garments, _service("garments")]
OwnFontsHere = Annotated[OwnFonts, _service("own_fonts")]
ArtsHere = Annotated[Arts, _service("arts")]
ArtZipsHere = Annotated[ArtZips, _service("art_zips")]
PicturesHere = Annotated[ItemPictures, _service("pictures")]
RunsHere = Annotated[Runs, _service("runs")]
JobsHere = Annotated[Jobs, _service("jobs")]
CompositionsHere = Annotated[Compositions, _service("compositions")]
ItemsHere = Annotated[Items, _service("items")]
FixesHere = Annotated[Fixes, _service("fixes")]
VariantsHere = Annotated[Variants, _service("variants")]
PackingHere = Annotated[PackingService, _service("packing")]
CountingHere = Annotated[Counting, _service("counting")]
ByHandHere = Annotated[ByHand, _service("by_hand")]
LayoutsHere = Annotated[Layouts, _service("layouts")]
ScalingsHere = Annotated[ScalingService, _service("scalings")]
PlansHere = Annotated[Plans, _service("plans")]
RepackingHere = Annotated[Repacking, _service("repacking")]
InksHere = Annotated[Inks, _service("inks")]
HandingOverHere = Annotated[HandingOver, _service("handing_over")]
SuppliesHere = Annotated[Supplies, _service("supplies")]
OnHandHere = Annotated[OnHand, _service("on_hand")]
MadeHere = Annotated[MadeSheets, _service("made")]
MakingHere = Annotated[Making, _service("making")]
BriefingHere = Annotated[Briefing, _service("briefing")]
DryRunsHere = Annotated[DryRunService, _service("dry_runs")]
PhotoChecksHere = Annotated[PhotoChecks, _service("photo_checks")]
SimulationsHere = Annotated[Simulations, _service("simulations")]
EveningsHere = Annotated[Evenings, _service("evenings")]
TonightHere = Annotated[Tonight, _service("tonight")]
LessonsHere = Annotated[Lessons, _service("lessons")]
PlaysHere = Annotated[Plays, _service("plays")]
SpoiltSheetsHere = Annotated[SpoiltSheets, _service("spoilt_sheets")]
DesignerHere = Annotated[Designer, _service("designer")]
NesterHere = Annotated[Nester, _service("nester")]
