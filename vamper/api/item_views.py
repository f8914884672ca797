"""One design on the wire: its shapes, rings, holes, bleed, and the shapes it could have."""

from dataclasses import dataclass
from hashlib import sha256
from urllib.parse import urlencode

from vamper.api.schemas import (
    CandidateOut,
    GroupsOut,
    HoleOut,
    ItemOut,
    PlaceOut,
    RingOut,
    ShapesOut,
    SizeOut,
)
from vamper.core.art.groups import Group
from vamper.core.findings import Place
from vamper.core.geometry import grow, hole_polygons
from vamper.core.job import Cut, Preparation
from vamper.core.plan import DesignedItem
from vamper.formats.svg_path import shape_path
from vamper.services.document import ItemDocument
from vamper.services.items import Shapes, printed_box
from vamper.services.workshop import Workshop

# A hundredth of a millimetre is finer than a screen can show.
DECIMALS = 2
_MOST_HOLES = 100


def place_out(place: Place) -> PlaceOut:
    return PlaceOut(x_mm=place.x_mm, y_mm=place.y_mm, width_mm=place.width_mm, height_mm=place.height_mm)


def size_out(sides: tuple[float, float]) -> SizeOut:
    return SizeOut(width_mm=sides[0], height_mm=sides[1])


@dataclass(frozen=True, slots=True)
class ArtNotes:
    """What the screen needs to know of an art file beside its picture."""

    pages: int
    composed: bool


def art_notes(workshop: Workshop, digests: set[str]) -> dict[str, ArtNotes]:
    composed = workshop.compositions.composed_among(digests)
    return {digest: ArtNotes(workshop.arts.pages(digest), digest in composed) for digest in digests}


def picture_address(digest: str, prepare: Preparation) -> str:
    """Where the prepared picture is to be had."""
    query: dict[str, object] = {"page": prepare.page}
    if prepare.lift_de is not None:
        query["lift"] = prepare.lift_de
    if prepare.crop is not None:
        query["crop"] = ",".join(f"{side:g}" for side in prepare.crop)
    return f"/api/art/{digest}.png?{urlencode(query)}"


def item_out(item: DesignedItem, document: ItemDocument, cut: Cut, placed: int, art: ArtNotes) -> ItemOut:
    edge, bleed_mm = item.edge, item.bleed.width_mm
    stack = item.spec.edge.stack
    return ItemOut(
        number=document.number,
        name=document.name,
        art=document.art,
        cut=cut,
        size=size_out(item.outline.size_mm),
        edge_size=size_out(edge.size_mm),
        edge_box=_box(edge.shape.bounds),
        picture_box=place_out(Place(*item.outline.picture_box_mm)),
        ppi=item.outline.ppi,
        is_vector=item.facts.is_vector,
        picture=picture_address(document.art, item.spec.prepare),
        pages=art.pages,
        composed=art.composed,
        rings=[
            RingOut(path=shape_path(shape, DECIMALS), colour=ring.colour)
            for shape, ring in reversed(list(zip(edge.rings, stack, strict=True)))
        ],
        holes=_holes(item),
        bleed_mm=bleed_mm,
        bleed_path=shape_path(grow(edge.shape, bleed_mm), DECIMALS) if bleed_mm else "",
        printed_box=place_out(Place(*printed_box(item))) if bleed_mm else None,
        look=sha256(repr((document.art, item.spec, item.bleed)).encode()).hexdigest()[:12],
        least_border_mm=edge.least_border_mm,
        edge_length_mm=edge.length_mm,
        area_cm2=edge.shape.area / 100,
        outline_path=shape_path(item.outline.shape, DECIMALS),
        edge_path=shape_path(edge.shape, DECIMALS),
        parts=len(edge.shape.geoms),
        placed=placed,
        wanted=item.spec.quantity,
    )


def _holes(item: DesignedItem) -> list[HoleOut]:
    """The drawing's holes, largest first, each with what opens or fills it."""
    width, height = item.outline.size_mm
    holes = sorted(hole_polygons(item.outline.shape), key=lambda hole: -hole.area)[:_MOST_HOLES]
    middles = [hole.representative_point() for hole in holes]
    opened = [not item.edge.shape.covers(middle) for middle in middles]
    named = [[round(middle.x / width, 5), round(middle.y / height, 5)] for middle in middles]
    found = []
    for number, hole in enumerate(holes):
        # What is open now stays so, but for this one, which turns.
        kept = [named[n] for n, is_open in enumerate(opened) if is_open != (n == number)]
        found.append(
            HoleOut(
                path=shape_path(hole, DECIMALS),
                open=opened[number],
                toggle={"edge.fill_holes": True, "edge.keep_holes": kept},
            )
        )
    return found


def _box(bounds: tuple[float, float, float, float]) -> PlaceOut:
    left, top, right, bottom = bounds
    return PlaceOut(x_mm=left, y_mm=top, width_mm=right - left, height_mm=bottom - top)


def shapes_out(shapes: Shapes) -> ShapesOut:
    return ShapesOut(
        roughness=shapes.now.roughness,
        fingers_mm=list(shapes.now.fingers_mm),
        area_cm2=shapes.area_mm2 / 100,
        manner=shapes.advice.manner,
        why=shapes.advice.why,
        candidates=[
            CandidateOut(
                name=one.name,
                path=shape_path(one.edge.shape, DECIMALS),
                box=_box(one.edge.shape.bounds),
                area_cm2=one.edge.shape.area / 100,
                roughness=one.handling.roughness,
                fingers=len(one.handling.fingers_mm),
                changes={
                    "edge.kind": one.spec.kind.value,
                    "edge.distance_mm": one.spec.distance_mm,
                    "edge.smooth_mm": one.spec.smooth_mm,
                },
            )
            for one in shapes.candidates
        ],
    )


def groups_out(apart_mm: float, groups: tuple[Group, ...]) -> GroupsOut:
    return GroupsOut(apart_mm=apart_mm, boxes=[_box(group.shape.bounds) for group in groups])
