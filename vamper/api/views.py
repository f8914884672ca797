"""From plans and jobs to what goes over the wire."""

from collections import Counter
from collections.abc import Mapping
from hashlib import sha256
from typing import Any
from urllib.parse import urlencode

import numpy as np

from vamper.api.schemas import (
    BoundOut,
    CandidateOut,
    FindingOut,
    FixOut,
    GroupsOut,
    HoleOut,
    ItemOut,
    JobOut,
    MarkOut,
    PackingOut,
    PhraseOut,
    PlacementOut,
    PlaceOut,
    PlanOut,
    RingOut,
    SettingOut,
    ShapesOut,
    SheetOut,
    SizeOut,
    StationOut,
    StockOut,
    UnplacedOut,
    ViewOut,
)
from vamper.core.art.groups import Group
from vamper.core.cutting.setting import CutSetting, depth_um, effective_cut, force_for
from vamper.core.findings import BadInput, Finding, Place
from vamper.core.geometry import grow, hole_polygons
from vamper.core.job import Preparation
from vamper.core.plan import DesignedItem, Plan, cut_of, pack_problem
from vamper.core.sheet.layout import nearest_mm
from vamper.core.sheet.rows import rows_of_boxes
from vamper.formats.svg_path import closed_path, shape_path
from vamper.services.document import ItemDocument
from vamper.services.items import Shapes, printed_box
from vamper.services.jobs import JobState
from vamper.services.overview import brief, empty_stations, station_of, stations
from vamper.services.packing_desk import Packing
from vamper.services.workshop import Workshop
from vamper.store.models import StockRow

# A hundredth of a millimetre is finer than a screen can show.
_DECIMALS = 2
_MOST_HOLES = 100


def job_out(state: JobState) -> JobOut:
    return JobOut(
        id=state.id,
        document=state.document,
        changed_at=state.changed_at,
        handed_off_at=state.handed_off_at,
        undo=state.undo,
        redo=state.redo,
    )


def view(workshop: Workshop, state: JobState) -> ViewOut:
    """The whole job; where it cannot be planned, the sentence that says why."""
    document = state.document
    stock, printer, cutter = workshop.names(document)
    phrases = [PhraseOut(text=p.text, key=p.key) for p in brief(document, stock, printer, cutter)]
    try:
        plan, packing = workshop.plan(state)
    except BadInput as bad:
        rail = [StationOut(**_fields(figure)) for figure in empty_stations()]
        return ViewOut(job=job_out(state), brief=phrases, stations=rail, findings=[], problem=bad.sentence, plan=None)
    return ViewOut(
        job=job_out(state),
        brief=phrases,
        stations=[StationOut(**_fields(figure)) for figure in stations(plan)],
        findings=[finding_out(finding, document.items) for finding in plan.findings],
        problem=None,
        plan=plan_out(plan, packing, document.items, {i.art: workshop.arts.pages(i.art) for i in document.items}),
    )


def _fields(value: Any) -> dict[str, Any]:
    return {name: getattr(value, name) for name in value.__slots__}


def _place(place: Place) -> PlaceOut:
    return PlaceOut(x_mm=place.x_mm, y_mm=place.y_mm, width_mm=place.width_mm, height_mm=place.height_mm)


def _size(sides: tuple[float, float]) -> SizeOut:
    return SizeOut(width_mm=sides[0], height_mm=sides[1])


def finding_out(finding: Finding, items: tuple[ItemDocument, ...]) -> FindingOut:
    return FindingOut(
        code=finding.code,
        severity=finding.severity,
        station=station_of(finding),
        title=finding.title,
        text=finding.text,
        figures=dict(finding.figures),
        item_number=None if finding.item is None else items[finding.item].number,
        sheet=finding.sheet,
        places=[_place(place) for place in finding.places],
        fixes=[
            FixOut(label=fix.label, effect=fix.effect, target=fix.target, changes=dict(fix.changes))
            for fix in finding.fixes
        ],
    )


def plan_out(plan: Plan, packing: Packing, items: tuple[ItemDocument, ...], pages: Mapping[str, int]) -> PlanOut:
    numbers = [item.number for item in items]
    placed = Counter(placement.item for sheet in plan.layout.sheets for placement in sheet)
    problem = pack_problem(plan.job, plan.setup, plan.items)
    rows = rows_of_boxes(problem.pieces, problem.live, problem.spec.gap_mm, problem.spec.turn, None)
    used = {effective_cut(plan.job.stock, item.spec.cut) for item in plan.items}
    return PlanOut(
        width_mm=plan.job.paper.width_mm,
        height_mm=plan.job.paper.height_mm,
        live_path=shape_path(plan.setup.live.shape, _DECIMALS),
        live_size=_size(plan.setup.live.size_mm),
        bounds=[
            BoundOut(name=b.name, reason=b.reason, left_mm=x0, top_mm=y0, right_mm=x1, bottom_mm=y1)
            for b in plan.setup.live.bounds
            for x0, y0, x1, y1 in [b.region.bounds]
        ],
        marks=[
            MarkOut(
                family=mark.family,
                x_mm=mark.x_mm,
                y_mm=mark.y_mm,
                path=" ".join(closed_path(ring, _DECIMALS) for ring in mark.rings),
            )
            for mark in plan.setup.marks
        ],
        items=[item_out(item, items[item.index], placed[item.index], pages[item.spec.art]) for item in plan.items],
        sheets=[_sheet(plan, number, numbers) for number in range(len(plan.layout.sheets))],
        unplaced=[
            UnplacedOut(item_number=numbers[u.item], quantity=u.quantity, reason=u.reason) for u in plan.layout.unplaced
        ],
        pieces_at_most=plan.bound.pieces_at_most,
        sheets_at_least=plan.bound.sheets_at_least,
        row_sheets=len(rows),
        settings=[_setting(plan, setting, setting.cut in used) for setting in plan.settings.values()],
        stock=stock_out(plan.job.stock),
        mirror=plan.mirror,
        packing=PackingOut(state=packing.state, seconds_left=packing.seconds_left, version=packing.version),
    )


def stock_out(stock: Any) -> StockOut:
    """From a core stock or a row of the workshop; they have the same fields."""
    return StockOut(**{name: getattr(stock, name) for name in StockOut.model_fields})


def picture_address(digest: str, prepare: Preparation) -> str:
    """Where the prepared picture is to be had."""
    query: dict[str, object] = {"page": prepare.page}
    if prepare.lift_de is not None:
        query["lift"] = prepare.lift_de
    if prepare.crop is not None:
        query["crop"] = ",".join(f"{side:g}" for side in prepare.crop)
    return f"/api/art/{digest}.png?{urlencode(query)}"


def item_out(item: DesignedItem, document: ItemDocument, placed: int, pages: int) -> ItemOut:
    edge, bleed_mm = item.edge, item.bleed.width_mm
    stack = item.spec.edge.stack
    return ItemOut(
        number=document.number,
        name=document.name,
        art=document.art,
        cut=document.cut,
        size=_size(item.outline.size_mm),
        edge_size=_size(edge.size_mm),
        edge_box=_box(edge.shape.bounds),
        picture_box=_place(Place(*item.outline.picture_box_mm)),
        ppi=item.outline.ppi,
        is_vector=item.picture.is_vector,
        picture=picture_address(document.art, item.spec.prepare),
        pages=pages,
        rings=[
            RingOut(path=shape_path(shape, _DECIMALS), colour=ring.colour)
            for shape, ring in reversed(list(zip(edge.rings, stack, strict=True)))
        ],
        holes=_holes(item),
        bleed_mm=bleed_mm,
        bleed_path=shape_path(grow(edge.shape, bleed_mm), _DECIMALS) if bleed_mm else "",
        printed_box=_place(Place(*printed_box(item))) if bleed_mm else None,
        look=sha256(repr((document.art, item.spec, item.bleed)).encode()).hexdigest()[:12],
        least_border_mm=edge.least_border_mm,
        edge_length_mm=edge.length_mm,
        area_cm2=edge.shape.area / 100,
        outline_path=shape_path(item.outline.shape, _DECIMALS),
        edge_path=shape_path(edge.shape, _DECIMALS),
        parts=len(edge.shape.geoms),
        placed=placed,
        wanted=item.spec.quantity,
    )


def _holes(item: DesignedItem) -> list[HoleOut]:
    """The drawing's holes, largest first, each by a point in it."""
    width, height = item.outline.size_mm
    found = []
    for hole in sorted(hole_polygons(item.outline.shape), key=lambda hole: -hole.area)[:_MOST_HOLES]:
        point = hole.representative_point()
        found.append(
            HoleOut(
                x=round(point.x / width, 5),
                y=round(point.y / height, 5),
                path=shape_path(hole, _DECIMALS),
                open=not item.edge.shape.covers(point),
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
                path=shape_path(one.edge.shape, _DECIMALS),
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


def _sheet(plan: Plan, number: int, numbers: list[int]) -> SheetOut:
    placements = plan.layout.sheets[number]
    edges = {item.index: item.edge.shape for item in plan.items}
    cut = cut_of(plan, number)
    starts = np.array([loop.points[0] for loop in cut.loops])
    return SheetOut(
        placements=[
            PlacementOut(item_number=numbers[p.item], x_mm=p.x_mm, y_mm=p.y_mm, turn_deg=p.turn_deg) for p in placements
        ],
        used=plan.used_share(number),
        cut_length_mm=cut.length_mm,
        nearest_mm=nearest_mm([p.of(edges[p.item]) for p in placements]),
        path=" ".join(f"{x:.1f},{y:.1f}" for x, y in starts),
    )


def _setting(plan: Plan, setting: CutSetting, used: bool) -> SettingOut:
    stock, force = plan.job.stock, plan.job.cutter.force

    def needed(depth: float) -> float:
        return force_for(depth, setting.passes, stock, setting.blade)

    return SettingOut(
        cut=setting.cut,
        used=used,
        blade=setting.blade,
        force_gf=setting.force_gf,
        passes=setting.passes,
        speed_mm_s=setting.speed_mm_s,
        mat=setting.mat,
        exposure_mm=setting.exposure_mm,
        least_um=setting.band.least_um,
        target_um=setting.band.target_um,
        most_um=setting.band.most_um,
        reached_um=setting.reached_um,
        depth_per_pass_um=[depth_um(setting.force_gf, n, stock, setting.blade) for n in range(1, setting.passes + 1)],
        machine_min_gf=force.min_gf,
        machine_max_gf=force.max_gf,
        clean_from_gf=needed(setting.band.least_um),
        clean_to_gf=needed(setting.band.most_um),
        why=list(setting.why),
    )


def stock_rows_out(rows: list[StockRow]) -> list[StockOut]:
    return [stock_out(row) for row in rows]
