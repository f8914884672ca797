"""One design at a time: its picture, tried changes, shapes to choose from, several drawings told apart; saved edges."""

from typing import Annotated

from fastapi import Query, Response

from vamper.api.art.schemas import (
    Apart,
    CoverBlank,
    EdgeTrial,
    FromAfarOut,
    GroupsOut,
    HoleAt,
    ItemOut,
    NewEdgeStyle,
    Overlap,
    ShapesOut,
    WantedOut,
)
from vamper.api.art.views import groups_out, item_out, shapes_out
from vamper.api.dependencies import ArtsHere, CompositionsHere, ItemsHere, JobsHere, ShopHere, StylesHere
from vamper.api.places import SizeOut
from vamper.api.request_checks import Id, Number, in_turn
from vamper.api.request_checks import router as door_router
from vamper.core.edge.medium import COMPARED
from vamper.core.values.art import Preparation
from vamper.core.values.findings import BadInput
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.services.jobs.job_state import JobState
from vamper.services.shop.styles import EdgeStyle

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
    arts: ArtsHere,
    digest: str,
    px: int = 1200,
    page: Annotated[int, Query(ge=1, le=10_000)] = 1,
    lift: Annotated[float | None, Query(ge=0.5, le=60)] = None,
    crop: str | None = None,
    cut_off: bool = False,
    bend: Annotated[float | None, Query(ge=-300, le=300)] = None,
    stretch: Annotated[float | None, Query(ge=0.2, le=5)] = None,
    ink: Annotated[float | None, Query(ge=0.1, le=1)] = None,
) -> Response:
    """The prepared picture, at most `px` at its longer side. Content never changes under the same address."""
    preparation = Preparation(
        page=page,
        lift_de=lift,
        crop=_crop(crop),
        cut_off=cut_off,
        bend_deg=bend,
        stretch=stretch,
        ink_share=ink,
    )
    return Response(
        arts.preview(digest, px, preparation),
        media_type="image/png",
        headers={"cache-control": "private, max-age=31536000, immutable"},
    )


@router.get("/art/{digest}/colours", tags=["art"])
async def art_colours(arts: ArtsHere, digest: str) -> list[str]:
    """The flat colours of an art, the most used first."""
    return await in_turn(lambda: list(arts.colours(digest)))


@router.get("/jobs/{job_id}/items/{number}/printed.png", tags=["design"], response_class=Response)
def printed(jobs: JobsHere, items: ItemsHere, job_id: Id, number: Number) -> Response:
    """The picture that a design prints, its bleed included."""
    return Response(
        items.printed(jobs.get(job_id), number),
        media_type="image/png",
        headers={"cache-control": "private, max-age=3600"},
    )


@router.post("/jobs/{job_id}/items/{number}/trial", tags=["design"])
def try_changes(
    jobs: JobsHere, compositions: CompositionsHere, items: ItemsHere, job_id: Id, number: Number, trial: EdgeTrial
) -> ItemOut:
    """The design as it would be with some fields changed; nothing is saved."""
    state = jobs.get(job_id)
    item = items.tried(state, number, trial.changes)
    return item_out(item, "", compositions.notes({item.spec.art})[item.spec.art])


@router.get("/jobs/{job_id}/items/{number}/shapes", tags=["design"])
def get_shapes(jobs: JobsHere, items: ItemsHere, job_id: Id, number: Number) -> ShapesOut:
    """Shapes that the border could have, with the stock each takes, and which manner is proposed."""
    return shapes_out(items.shapes(jobs.get(job_id), number))


@router.get("/jobs/{job_id}/items/{number}/wanted", tags=["design"])
async def get_wanted(jobs: JobsHere, items: ItemsHere, shop: ShopHere, job_id: Id, number: Number) -> list[WantedOut]:
    """From which size on each kind of stock holds the drawing, cut on its own outline."""

    def find() -> list[WantedOut]:
        stocks = tuple(STOCK_BY_KEY[key] for key in COMPARED)
        there = shop.stocks.all()
        return [
            WantedOut(stock=one.stock.key, name=one.stock.name, from_mm=one.from_mm, holds=one.holds)
            for one in items.wanted(jobs.get(job_id), number, stocks)
            if one.stock.key in there
        ]

    return await in_turn(find)


@router.get("/jobs/{job_id}/items/{number}/from-afar", tags=["design"])
def get_from_afar(
    jobs: JobsHere, items: ItemsHere, job_id: Id, number: Number, distance_m: Annotated[float, Query(gt=0, le=200)]
) -> FromAfarOut:
    """From how far a design's letters are read as it is, and its size for being read from so far."""
    legible, (width, height) = items.legibility(jobs.get(job_id), number)
    larger = legible.grown_for(distance_m)
    return FromAfarOut(
        letters_mm=legible.letters_mm,
        as_whole=legible.as_whole,
        from_m=legible.from_m,
        wanted=SizeOut(width_mm=larger * width, height_mm=larger * height),
    )


@router.get("/jobs/{job_id}/items/{number}/groups", tags=["design"])
def get_groups(
    jobs: JobsHere,
    items: ItemsHere,
    job_id: Id,
    number: Number,
    apart_mm: Annotated[float | None, Query(gt=0, le=3000)] = None,
) -> GroupsOut:
    """The drawings in the picture that lie more than `apart_mm` from each other."""
    return groups_out(*items.groups(jobs.get(job_id), number, apart_mm))


@router.post("/jobs/{job_id}/items/{number}/tiles", tags=["design"])
def make_in_tiles(jobs: JobsHere, items: ItemsHere, job_id: Id, number: Number, overlap: Overlap) -> JobState:
    """A piece that is too large made in parts that lie over each other, each a design of its own."""
    return items.in_tiles(jobs.get(job_id), number, overlap.overlap_mm)


@router.post("/jobs/{job_id}/items/{number}/split", tags=["design"])
def split(jobs: JobsHere, items: ItemsHere, job_id: Id, number: Number, apart: Apart) -> JobState:
    """Each drawing in the picture a design of its own."""
    return items.split(jobs.get(job_id), number, apart.apart_mm)


@router.post("/jobs/{job_id}/cover-blank", tags=["design"])
async def cover_blank(jobs: JobsHere, items: ItemsHere, job_id: Id, asked: CoverBlank) -> JobState:
    """Pictures set to a blank's size, cropped to its shape."""
    return await in_turn(lambda: items.cover_blank(jobs.get(job_id), asked.item_numbers, asked.blank))


@router.post("/jobs/{job_id}/items/{number}/hole", tags=["design"])
def turn_hole(jobs: JobsHere, items: ItemsHere, job_id: Id, number: Number, hole: HoleAt) -> JobState:
    """Fill one hole that is open, or open one that is filled; all others stay as they are."""
    return items.turn_hole(jobs.get(job_id), number, hole.at)


@router.get("/edge-styles", tags=["design"])
def list_styles(styles: StylesHere) -> list[EdgeStyle]:
    return styles.all()


@router.put("/edge-styles", tags=["design"], status_code=204)
def save_style(styles: StylesHere, style: NewEdgeStyle) -> None:
    styles.save(style.name, style.edge)


@router.delete("/edge-styles/{name}", tags=["design"], status_code=204)
def remove_style(styles: StylesHere, name: str) -> None:
    styles.remove(name)
