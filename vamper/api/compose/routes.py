"""Composed pieces: drawn for each name, and drawn anew."""

from typing import Annotated

from fastapi import Query, Response, UploadFile

from vamper.api.compose.schemas import Composing, FontFamily, FontOut, OneComposed, PlacesOut
from vamper.api.dependencies import CompositionsHere, JobsHere, OwnFontsHere
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.core.values.composition import ComposedSpec
from vamper.core.values.findings import Place
from vamper.core.values.fonts import FONTS
from vamper.formats.names_list import read_names
from vamper.formats.own_font import MOST_BYTES
from vamper.services.jobs.job_state import JobState
from vamper.services.work.not_found import NotFound

router = door_router()

# A multipart body carries a little more than the file in it.
MOST_FONT_BODY = MOST_BYTES + 64 * 1024


@router.post("/compose/preview.png", tags=["compose"], response_class=Response)
def preview_composed(
    compositions: CompositionsHere, one: OneComposed, px: Annotated[int, Query(ge=16, le=2000)] = 700
) -> Response:
    """The composed piece for one name; nothing is kept."""
    return Response(compositions.preview(one.composition, one.name, px), media_type="image/png")


@router.post("/compose/places", tags=["compose"])
def get_places(compositions: CompositionsHere, one: OneComposed) -> PlacesOut:
    """Where everything lies on the composed piece for one name."""
    places = compositions.places(one.composition, one.name)
    return PlacesOut(
        frame=Place.of_bounds(places.frame),
        arts=[Place.of_bounds(box) for box in places.arts],
        lines=[Place.of_bounds(box) for box in places.lines],
        free=[Place.of_bounds(box) for box in places.free],
    )


@router.get("/fonts", tags=["compose"])
def list_fonts(own_fonts: OwnFontsHere) -> list[FontOut]:
    """The fonts that ship, then the maker's own."""
    own = [FontOut(family=family, words=family, own=True) for family in own_fonts.all()]
    return [FontOut(family=font.family, words=font.words, own=False) for font in FONTS] + own


@router.post("/fonts", tags=["compose"], status_code=201, max_body_size=MOST_FONT_BODY)
async def add_font(own_fonts: OwnFontsHere, file: UploadFile) -> FontFamily:
    """Keep a font of the maker's own."""

    def add() -> FontFamily:
        return FontFamily(family=own_fonts.add(file.filename or "", file.file.read()))

    return await in_turn(add)


@router.post("/fonts/remove", tags=["compose"], status_code=204)
def remove_font(own_fonts: OwnFontsHere, font: FontFamily) -> None:
    """Take a font away; pieces that were drawn with it stay as they are."""
    own_fonts.remove(font.family)


@router.post("/jobs/{job_id}/compose", tags=["compose"], status_code=201)
def compose(jobs: JobsHere, compositions: CompositionsHere, job_id: Id, composing: Composing) -> JobState:
    """A design for each name; a single design where no line takes names."""
    composed = ComposedSpec(
        composition=composing.composition,
        names=read_names(composing.names),
        quantity=composing.quantity,
        cut=composing.cut,
        curved_apart=composing.curved_apart,
    )
    return compositions.add(jobs.get(job_id).id, composed, composing.title)


@router.get("/jobs/{job_id}/items/{number}/composition", tags=["compose"])
def get_composition(jobs: JobsHere, compositions: CompositionsHere, job_id: Id, number: Number) -> OneComposed:
    """How a composed design was made."""
    composed = compositions.of(jobs.get(job_id).document.item(number).art)
    if composed is None:
        raise NotFound("this design was not composed here")
    return OneComposed(composition=composed.composition, name=composed.name)


@router.put("/jobs/{job_id}/items/{number}/composition", tags=["compose"])
def change_composition(
    jobs: JobsHere, compositions: CompositionsHere, job_id: Id, number: Number, one: OneComposed
) -> JobState:
    """Draw a composed design anew."""
    return compositions.change(jobs.get(job_id), number, one.composition, one.name)
