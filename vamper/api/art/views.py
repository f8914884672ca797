"""One design on the wire: its shapes, rings, holes, bleed, and the shapes it could have."""

from urllib.parse import urlencode

from vamper.api.art.schemas import CandidateOut, GroupsOut, HoleOut, ItemOut, RingOut, ShapesOut
from vamper.api.places import size_out
from vamper.core.art.groups import Group
from vamper.core.design import DesignedItem
from vamper.core.edge.handling import ease
from vamper.core.edge.holes import choosable_holes, is_open, point_in
from vamper.core.values.art import Preparation
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Place
from vamper.core.values.geometry import grow
from vamper.formats.svg_path import DECIMALS, shape_path
from vamper.services.jobs.composing import ArtNotes
from vamper.services.jobs.items import Shapes, printed_box
from vamper.services.work.keys import digest_of

# More than anybody looks through.
_MOST_HOLES = 300


def picture_address(digest: str, prepare: Preparation) -> str:
    """Where the prepared picture is to be had."""
    query: dict[str, object] = {"page": prepare.page}
    if prepare.lift_de is not None:
        query["lift"] = prepare.lift_de
    if prepare.crop is not None:
        query["crop"] = ",".join(f"{side:g}" for side in prepare.crop)
    if prepare.cut_off:
        query["cut_off"] = "true"
    if prepare.bend_deg is not None:
        query["bend"] = prepare.bend_deg
    if prepare.stretch is not None:
        query["stretch"] = prepare.stretch
    if prepare.ink_share is not None:
        query["ink"] = prepare.ink_share
    return f"/api/art/{digest}.png?{urlencode(query)}"


def item_out(item: DesignedItem, revision: str, art: ArtNotes, bleeds: bool = True) -> ItemOut:
    edge, bleed_mm, spec = item.edge, item.bleed.width_mm if bleeds else 0.0, item.spec
    stack = spec.edge.stack
    return ItemOut(
        revision=revision,
        number=spec.number,
        name=spec.name,
        art=spec.art,
        cut=spec.cut,
        size=size_out(item.outline.size_mm),
        edge_size=size_out(edge.size_mm),
        edge_box=Place.of_bounds(edge.shape.bounds),
        picture_box=Place(*item.outline.picture_box_mm),
        ppi=item.facts.ppi(item.outline),
        picture=picture_address(spec.art, spec.prepare),
        pages=art.pages,
        composed=art.composed,
        rings=[
            RingOut(path=shape_path(shape, DECIMALS), colour=ring.colour)
            for shape, ring in reversed(list(zip(edge.rings, stack, strict=True)))
        ],
        holes=_holes(item),
        bleed_mm=bleed_mm,
        bleed_path=shape_path(grow(edge.shape, bleed_mm), DECIMALS) if bleed_mm else "",
        printed_box=Place(*printed_box(item)) if bleed_mm else None,
        look=digest_of("look", 1, spec, item.bleed),
        least_border_mm=edge.least_border_mm,
        edge_length_mm=edge.length_mm,
        area_cm2=edge.shape.area / 100,
        outline_path=shape_path(item.outline.shape, DECIMALS),
        edge_path=shape_path(edge.shape, DECIMALS),
        parts=len(edge.shape.geoms),
    )


def _holes(item: DesignedItem) -> list[HoleOut]:
    """The drawing's holes that can be opened and filled one by one, the largest first."""
    if not item.spec.edge.uses("keep_holes"):
        return []
    outline = item.outline.shape
    return [
        HoleOut(path=shape_path(hole, DECIMALS), open=is_open(hole, item.edge.shape), at=list(point_in(hole, outline)))
        for hole in choosable_holes(outline)[:_MOST_HOLES]
    ]


def _chosen(spec: EdgeSpec) -> dict[str, object]:
    """The fields that ask for a shape; fields that its kind brings along come by themselves."""
    close_or_smooth: dict[str, object] = {"edge.smooth_mm": spec.smooth_mm} if spec.follows and spec.has_border else {}
    return {"edge.kind": spec.kind, **close_or_smooth}


def shapes_out(shapes: Shapes) -> ShapesOut:
    return ShapesOut(
        ease=ease(shapes.now),
        area_cm2=shapes.area_mm2 / 100,
        manner=shapes.advice.manner,
        why=shapes.advice.why,
        candidates=[
            CandidateOut(
                name=one.name,
                path=shape_path(one.edge.shape, DECIMALS),
                box=Place.of_bounds(one.edge.shape.bounds),
                area_cm2=one.edge.shape.area / 100,
                chosen=one.chosen,
                fingers=len(one.handling.fingers_mm),
                changes=_chosen(one.spec),
            )
            for one in shapes.candidates
        ],
    )


def groups_out(apart_mm: float, groups: tuple[Group, ...]) -> GroupsOut:
    return GroupsOut(apart_mm=apart_mm, boxes=[Place.of_bounds(group.shape.bounds) for group in groups])
