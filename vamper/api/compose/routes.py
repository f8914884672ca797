"""Composed pieces: drawn for each name, and drawn anew."""

from typing import Annotated

from fastapi import Query, Response

from vamper.api.compose.schemas import Composing, OneComposed
from vamper.api.door import Id, Number
from vamper.api.door import router as door_router
from vamper.api.here import Here
from vamper.api.jobs.schemas import JobOut
from vamper.api.jobs.views import job_out
from vamper.core.values.composition import ComposedSpec
from vamper.formats.names_list import read_names
from vamper.services.work.not_found import NotFound

router = door_router()


@router.post("/compose/preview.png", tags=["compose"], response_class=Response)
def preview_composed(here: Here, one: OneComposed, px: Annotated[int, Query(ge=16, le=2000)] = 700) -> Response:
    """The composed piece for one name; nothing is kept."""
    return Response(here.compositions.preview(one.composition, one.name, px), media_type="image/png")


@router.post("/jobs/{job_id}/compose", tags=["compose"], status_code=201)
def compose(here: Here, job_id: Id, composing: Composing) -> JobOut:
    """A design for each name; a single one where no line takes names."""
    composed = ComposedSpec(
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
