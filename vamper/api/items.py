"""One design at a time: its picture, tried changes, shapes to choose from, several drawings told apart; saved edges."""

from typing import Annotated

from fastapi import Query, Response

from vamper.api.door import Id, Number
from vamper.api.door import router as door_router
from vamper.api.here import Here
from vamper.api.item_views import art_notes, groups_out, item_out, shapes_out
from vamper.api.schemas import (
    Apart,
    Composing,
    EdgeStyleOut,
    GroupsOut,
    ItemOut,
    JobOut,
    NewEdgeStyle,
    OneComposed,
    ShapesOut,
    Trial,
)
from vamper.api.views import job_out
from vamper.core.cutting.setting import effective_cut
from vamper.core.findings import BadInput
from vamper.core.job import Preparation
from vamper.formats.composition_model import ComposedModel
from vamper.formats.names_list import read_names
from vamper.services.jobs import NotFound

router = door_router()


def _crop(text: str | None) -> tuple[float, float, float, float] | None:
    """Four shares, separated by commas."""
    if not text:
        return None
    try:
        left, top, right, bottom = (float(part) for part in text.split(","))
    except ValueError:
        raise BadInput("four numbers: left, top, right, bottom", "crop") from None
    if not (0 <= left < right <= 1 and 0 <= top < bottom <= 1):
        raise BadInput("left, top, right, bottom must rise between 0 and 1", "crop")
    return left, top, right, bottom


@router.get("/art/{digest}.png", tags=["art"], response_class=Response)
def art_preview(
    here: Here,
    digest: str,
    px: int = 1200,
    page: Annotated[int, Query(ge=1, le=10_000)] = 1,
    lift: Annotated[float | None, Query(ge=0.5, le=60)] = None,
    crop: str | None = None,
) -> Response:
    """The prepared picture, at most `px` at its longer side. Content never changes under the same address."""
    return Response(
        here.arts.preview(digest, px, Preparation(page=page, lift_de=lift, crop=_crop(crop))),
        media_type="image/png",
        headers={"cache-control": "private, max-age=31536000, immutable"},
    )


@router.get("/jobs/{job_id}/items/{number}/printed.png", tags=["design"], response_class=Response)
def printed(here: Here, job_id: Id, number: Number) -> Response:
    """What the design prints, its bleed included."""
    return Response(
        here.items.printed(here.jobs.get(job_id), number),
        media_type="image/png",
        headers={"cache-control": "private, max-age=3600"},
    )


@router.post("/jobs/{job_id}/items/{number}/trial", tags=["design"])
def try_changes(here: Here, job_id: Id, number: Number, trial: Trial) -> ItemOut:
    """The design as it would be with some fields changed; nothing is saved."""
    state = here.jobs.get(job_id)
    document = state.document.items_changed((number,), trial.changes).item(number)
    notes = art_notes(here, {document.art})[document.art]
    cut = effective_cut(here.stock(state.document.stock), document.cut)
    return item_out(here.items.tried(state, number, trial.changes), document, cut, 0, notes)


@router.get("/jobs/{job_id}/items/{number}/shapes", tags=["design"])
def get_shapes(here: Here, job_id: Id, number: Number) -> ShapesOut:
    """Shapes that the border could have, with the stock each takes, and which manner is proposed."""
    return shapes_out(here.items.shapes(here.jobs.get(job_id), number))


@router.get("/jobs/{job_id}/items/{number}/groups", tags=["design"])
def get_groups(
    here: Here, job_id: Id, number: Number, apart_mm: Annotated[float | None, Query(gt=0, le=3000)] = None
) -> GroupsOut:
    """The drawings in the picture that lie more than `apart_mm` from each other."""
    return groups_out(*here.items.groups(here.jobs.get(job_id), number, apart_mm))


@router.post("/jobs/{job_id}/items/{number}/split", tags=["design"])
def split(here: Here, job_id: Id, number: Number, apart: Apart) -> JobOut:
    """Each drawing in the picture a design of its own."""
    return job_out(here.items.split(here.jobs.get(job_id), number, apart.apart_mm))


@router.post("/compose/preview.png", tags=["compose"], response_class=Response)
def preview_composed(here: Here, one: OneComposed, px: Annotated[int, Query(ge=16, le=2000)] = 700) -> Response:
    """The composed piece for one name; nothing is kept."""
    return Response(here.compositions.preview(one.composition, one.name, px), media_type="image/png")


@router.post("/jobs/{job_id}/compose", tags=["compose"], status_code=201)
def compose(here: Here, job_id: Id, composing: Composing) -> JobOut:
    """A design for each name; a single one where no line takes names."""
    composed = ComposedModel(
        composition=composing.composition,
        names=read_names(composing.names),
        quantity=composing.quantity,
        cut=composing.cut,
    )
    return job_out(here.compositions.add(here.jobs.get(job_id).id, composed, composing.title))


@router.get("/jobs/{job_id}/items/{number}/composition", tags=["compose"])
def get_composition(here: Here, job_id: Id, number: Number) -> OneComposed:
    """How a composed design was made."""
    composed = here.compositions.of(here.jobs.get(job_id).document.item(number).art)
    if composed is None:
        raise NotFound("this design was not composed here")
    return OneComposed(composition=composed.composition, name=composed.name)


@router.put("/jobs/{job_id}/items/{number}/composition", tags=["compose"])
def change_composition(here: Here, job_id: Id, number: Number, one: OneComposed) -> JobOut:
    """Draw a composed design anew."""
    return job_out(here.compositions.change(here.jobs.get(job_id), number, one.composition, one.name))


@router.get("/edge-styles", tags=["design"])
def list_styles(here: Here) -> list[EdgeStyleOut]:
    return [EdgeStyleOut(name=style.name, edge=style.edge) for style in here.styles.all()]


@router.put("/edge-styles", tags=["design"], status_code=204)
def save_style(here: Here, style: NewEdgeStyle) -> None:
    here.styles.save(style.name, style.edge)


@router.delete("/edge-styles/{name}", tags=["design"], status_code=204)
def remove_style(here: Here, name: str) -> None:
    here.styles.remove(name)
