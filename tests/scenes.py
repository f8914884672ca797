"""Whole plans made by formula, in core alone: what a test needs of a job, its art and its layout, and nothing read."""

import os
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from pydantic import TypeAdapter

from tests.conftest import disc_alpha, picture_of
from vamper.core.art.inspect import ArtFacts, look_over
from vamper.core.art.outline import Outline, outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.art.prepare import prepared
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.inspect import EdgeFacts, look_along
from vamper.core.edge.tile import tiled, tiles_of
from vamper.core.edge.two_sided import back_edge
from vamper.core.effective_job import effective_job
from vamper.core.finishing.on_cup import parts_round
from vamper.core.inspect import findings_of
from vamper.core.plan import Plan, complete, pack_problem, set_up_sheet
from vamper.core.printing.bleed import bleed_for
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.values.art import Preparation, SizeSpec
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Fix, FixTarget
from vamper.core.values.item import ItemSpec, Tile
from vamper.core.values.job import Job
from vamper.core.values.layers import in_step
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Pin, Placement
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.services.jobs.document import changed_item

PX = 400
DISC = picture_of(disc_alpha(PX, 170, (200, 200)))
_JOB = TypeAdapter(Job)


def masked(mask: np.ndarray, colour: tuple[int, int, int] = (40, 90, 160)) -> Picture:
    """A picture of one colour where a mask is true."""
    rgba = np.zeros((*mask.shape, 4), np.uint8)
    rgba[..., :3], rgba[..., 3] = colour, np.where(mask, 255, 0)
    return Picture(rgba)


def bars(*spans: tuple[int, int, int, int], size: tuple[int, int] = (PX, PX)) -> Picture:
    """Rectangles, each left, top, right, bottom in pixels."""
    mask = np.zeros(size, bool)
    for left, top, right, bottom in spans:
        mask[top:bottom, left:right] = True
    return masked(mask)


def item(number: int = 1, **fields: Any) -> ItemSpec:
    """A design 40 mm wide, unless it is said otherwise."""
    sides = {"width_mm", "height_mm", "longest_mm"} & fields.keys()
    return ItemSpec(number=number, art=f"{number}.png", **({} if sides else {"width_mm": 40.0}), **fields)


@dataclass(frozen=True)
class Scene:
    """A job with the pictures of its designs; `held` lies where it is, all else in rows."""

    job: Job
    pictures: Mapping[int, Picture] = field(default_factory=dict)

    def plan(self) -> Plan:
        """The plan with its pieces in plain rows."""
        job = effective_job(self.job)
        setup = set_up_sheet(job)
        found = {spec.number: self._designed(job, spec) for spec in job.items}
        items = [_back(job, found, one) if one.spec.back_of else one for one in found.values()]
        return complete(self.job, job, setup, items, self._layout(job, pack_problem(job, setup, items)))

    def findings(self) -> tuple[Finding, ...]:
        return findings_of(self.plan())

    def codes(self) -> set[str]:
        return {finding.code for finding in self.findings()}

    def one(self, code: str) -> Finding:
        """The only finding of that code."""
        (finding,) = (finding for finding in self.findings() if finding.code == code)
        return finding

    def with_fix(self, finding: Finding, fix: Fix) -> "Scene":
        """The scene after a fix was taken."""
        if fix.target is FixTarget.ITEM:
            number = finding.item or 0
            items = in_step(self.job.items, {number: changed_item(self.job.item(number), fix.changes)})
            return replace(self, job=replace(self.job, items=items))
        if fix.target is FixTarget.TILES:
            return self._in_tiles(finding.item, float(fix.changes["overlap_mm"]))  # type: ignore[arg-type]
        if fix.target is FixTarget.CUP:
            job = effective_job(self.job)
            return self._in_parts(job, finding.item, parts_round(self._designed(job, job.item(finding.item or 0))))
        assert fix.target is FixTarget.JOB
        # A job names its stock by its key only where it is kept.
        key = fix.changes.get("stock")
        made = self.job if key is None else replace(self.job, stock=STOCK_BY_KEY[str(key)])
        data = _JOB.dump_python(made, mode="json")
        for path, value in fix.changes.items():
            if path == "stock":
                continue
            *parents, last = path.split(".")
            target = data
            for name in parents:
                target = target[name]
            target[last] = value
        return replace(self, job=_JOB.validate_python(data))

    def _in_tiles(self, number: int | None, overlap_mm: float) -> "Scene":
        """One design made in parts, which stand where it stood."""
        job = effective_job(self.job)
        spec = job.item(number or 0)
        whole, room = self._designed(job, spec), set_up_sheet(job).live.room_mm
        tiles = tiles_of(whole.outline, whole.edge, room, spec.turn or job.packing.turn, overlap_mm)
        return self._in_parts(job, number, tiles)

    def _in_parts(self, job: Job, number: int | None, tiles: Sequence[Tile]) -> "Scene":
        spec = job.item(number or 0)
        first = 1 + max(one.number for one in job.items)
        parts = tuple(replace(spec, number=first + n, tile=tile) for n, tile in enumerate(tiles))
        others = tuple(one for one in self.job.items if one.number != number)
        picture = self.pictures.get(spec.number, DISC)
        pictures = {**self.pictures, **{part.number: picture for part in parts}}
        return replace(self, job=replace(self.job, items=(*others, *parts)), pictures=pictures)

    def _designed(self, job: Job, spec: ItemSpec) -> DesignedItem:
        picture, outline, facts = _looked_over(self.pictures.get(spec.number, DISC), spec.prepare, spec.size)
        neck = job.stock.least_neck_mm
        edge, along = _edged(outline, spec.edge, neck)
        if spec.tile is not None:
            outline, edge = tiled(outline, edge, spec.tile)
            facts = look_over(picture, outline, spec.prepare.threshold)
            along = look_along(outline, edge, spec.edge, neck)
        bleed = bleed_for(picture, outline, edge, spec.edge, job.stock.colour, spec.bleed_mm)
        return DesignedItem(spec, spec.size, outline, edge, facts, along, bleed)

    def _layout(self, job: Job, problem: Any) -> Layout:
        held = problem.held_counts
        if held and all(held[piece.item] >= piece.quantity for piece in problem.pieces):
            return Layout(job.held, (), time_limited=False)
        return in_rows(problem)


# Every test comes by all that it needs: asked for where it is noted which lines a test comes by.
_EACH_ALONE = bool(os.environ.get("VAMPER_EACH_TEST_ALONE"))
# What a picture comes to at a size, once for all tests that have it; kept with the picture, whose place is its name.
_LOOKED_OVER: dict[tuple[int, Preparation, SizeSpec], tuple[Picture, Picture, Outline, ArtFacts]] = {}


def _looked_over(raw: Picture, prepare: Preparation, size: SizeSpec) -> tuple[Picture, Outline, ArtFacts]:
    key = (id(raw), prepare, size)
    if key not in _LOOKED_OVER or _EACH_ALONE:
        picture = prepared(raw, prepare)
        outline = outline_at(trace(picture, prepare.threshold), size)
        _LOOKED_OVER[key] = (raw, picture, outline, look_over(picture, outline, prepare.threshold))
    return _LOOKED_OVER[key][1:]


# An outline that was edged, with what came of it; the outline is kept, for its place is its name.
_EDGED: dict[tuple[int, EdgeSpec, float], tuple[Outline, Edge, EdgeFacts]] = {}


def _edged(outline: Outline, spec: EdgeSpec, neck_mm: float) -> tuple[Edge, EdgeFacts]:
    key = (id(outline), spec, neck_mm)
    if key not in _EDGED or _EACH_ALONE:
        edge = derive_edge(outline, spec, neck_mm)
        _EDGED[key] = (outline, edge, look_along(outline, edge, spec, neck_mm))
    return _EDGED[key][1:]


def _back(job: Job, found: Mapping[int, DesignedItem], one: DesignedItem) -> DesignedItem:
    front = found[one.spec.back_of or 0]
    edge = back_edge(front.edge, front.outline, one.outline)
    return replace(one, edge=edge, edge_facts=EdgeFacts(job.stock.least_neck_mm))


def scene(
    *items: ItemSpec, stock: str = "satin-vinyl", pictures: Mapping[int, Picture] | None = None, **job: Any
) -> Scene:
    """A scene on letter paper, of one plain disc where nothing else is said."""
    fields = {"paper": Paper(215.9, 279.4), "stock": STOCK_BY_KEY[stock], **job}
    return Scene(Job(items=items or (item(),), **fields), pictures or {})


def lying(*places: tuple[int, float, float], pin: Pin = Pin.HAND) -> tuple[tuple[Placement, ...], ...]:
    """One sheet with pieces where they were laid by hand: number, x, y."""
    return (tuple(Placement(number, x, y, 0.0, pin) for number, x, y in places),)
