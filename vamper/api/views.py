"""From plans and jobs to what goes over the wire."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from shapely.geometry.base import BaseGeometry

from vamper.api.item_views import DECIMALS, ArtNotes, art_notes, item_out, place_out, size_out
from vamper.api.schemas import (
    BoundOut,
    FindingOut,
    FixOut,
    ItemOut,
    JobOut,
    MarkOut,
    PackingOut,
    PhraseOut,
    PlacementOut,
    PlaceOut,
    PlanOut,
    SettingOut,
    SheetOut,
    StationOut,
    StockOut,
    UnplacedOut,
    ViewOut,
)
from vamper.core.cutting.setting import CutSetting, depth_um, effective_cut, force_for
from vamper.core.findings import BadInput, Finding
from vamper.core.job import Pin
from vamper.core.plan import DesignedItem, Plan, cut_of, pack_problem
from vamper.core.printing.guides import guides_for
from vamper.core.sheet.layout import nearest_mm
from vamper.core.sheet.offcut import NOTHING
from vamper.core.sheet.packing import plain_rows
from vamper.formats.svg_path import closed_path, shape_path
from vamper.services.cache import Cache
from vamper.services.document import ItemDocument
from vamper.services.jobs import JobState
from vamper.services.overview import brief, empty_stations, station_of, stations
from vamper.services.packing_desk import Packing
from vamper.services.workshop import Workshop
from vamper.store.models import StockRow

_KEPT = 24
_KEPT_ITEMS = 200


def job_out(state: JobState) -> JobOut:
    return JobOut(
        id=state.id,
        document=state.document,
        changed_at=state.changed_at,
        handed_off_at=state.handed_off_at,
        undo=state.undo,
        redo=state.redo,
    )


@dataclass(frozen=True, slots=True)
class _Drawn:
    """What a plan looks like on the screen, all but how its search stands."""

    plan: PlanOut
    stations: list[StationOut]
    findings: list[FindingOut]


class Views:
    """Jobs as the screen shows them; what did not change since it was looked at is not drawn again."""

    def __init__(self, workshop: Workshop) -> None:
        self._workshop = workshop
        self._drawn: Cache[_Drawn] = Cache(_KEPT)
        self._items: Cache[ItemOut] = Cache(_KEPT_ITEMS)

    def view(self, state: JobState) -> ViewOut:
        """The whole job; where it cannot be planned, the sentence that says why."""
        workshop, document = self._workshop, state.document
        stock, printer, cutter = workshop.made_with(document)
        by_hand = not workshop.jobs.cutter(document).is_machine
        phrases = [PhraseOut(text=p.text, key=p.key) for p in brief(document, stock, printer, cutter, by_hand)]
        try:
            plan, packing = workshop.plan(state)
        except BadInput as bad:
            rail = [StationOut(**_fields(figure)) for figure in empty_stations()]
            return ViewOut(
                job=job_out(state), brief=phrases, stations=rail, findings=[], problem=bad.sentence, plan=None
            )
        names = tuple((item.number, item.name) for item in document.items)
        drawn = self._drawn.get((plan.job, packing.layout_id, names), lambda: self._draw(plan, packing, document.items))
        return ViewOut(
            job=job_out(state),
            brief=phrases,
            stations=drawn.stations,
            findings=drawn.findings,
            problem=None,
            plan=drawn.plan.model_copy(update={"packing": _packing_out(plan, packing)}),
        )

    def _draw(self, plan: Plan, packing: Packing, items: tuple[ItemDocument, ...]) -> _Drawn:
        notes = art_notes(self._workshop, {item.art for item in items})
        placed = Counter(placement.item for sheet in plan.layout.sheets for placement in sheet)
        return _Drawn(
            plan_out(plan, packing, items, [self._item(plan, one, items, placed, notes) for one in plan.items]),
            [StationOut(**_fields(figure)) for figure in stations(plan)],
            [finding_out(finding, items) for finding in plan.findings],
        )

    def _item(
        self,
        plan: Plan,
        item: DesignedItem,
        items: tuple[ItemDocument, ...],
        placed: Counter[int],
        notes: Mapping[str, ArtNotes],
    ) -> ItemOut:
        """One design; a better layout does not draw it again."""
        document, cut = items[item.index], effective_cut(plan.job.stock, item.spec.cut)
        edge = item.edge.shape.wkb
        key = (item.spec, document.number, document.name, cut, item.bleed, plan.job.stock, edge)
        drawn = self._items.get(key, lambda: item_out(item, document, cut, 0, notes[item.spec.art]))
        return drawn.model_copy(update={"placed": placed[item.index]})


def _fields(value: Any) -> dict[str, Any]:
    return {name: getattr(value, name) for name in value.__slots__}


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
        places=[place_out(place) for place in finding.places],
        fixes=[
            FixOut(label=fix.label, effect=fix.effect, target=fix.target, changes=dict(fix.changes))
            for fix in finding.fixes
        ],
    )


def plan_out(plan: Plan, packing: Packing, items: tuple[ItemDocument, ...], drawn: list[ItemOut]) -> PlanOut:
    numbers = [item.number for item in items]
    placed = Counter(placement.item for sheet in plan.layout.sheets for placement in sheet)
    problem = pack_problem(plan.job, plan.setup, plan.items)
    rows = plain_rows(problem)
    wanted = {item.index: item.spec.quantity for item in plan.items}
    offcut = plan.offcut(len(plan.layout.sheets) - 1) if plan.layout.sheets else NOTHING
    used = {effective_cut(plan.job.stock, item.spec.cut) for item in plan.items}
    return PlanOut(
        width_mm=plan.job.paper.width_mm,
        height_mm=plan.job.paper.height_mm,
        live_path=shape_path(plan.setup.live.shape, DECIMALS),
        live_size=size_out(plan.setup.live.size_mm),
        bounds=[
            BoundOut(
                name=b.name,
                reason=b.reason,
                left_mm=x0,
                top_mm=y0,
                right_mm=x1,
                bottom_mm=y1,
                path=shape_path(b.region, DECIMALS),
            )
            for b in plan.setup.live_of(0).bounds
            for x0, y0, x1, y1 in [b.region.bounds]
        ],
        marks=[
            MarkOut(
                family=mark.family,
                x_mm=mark.x_mm,
                y_mm=mark.y_mm,
                path=" ".join(closed_path(ring, DECIMALS) for ring in mark.rings),
            )
            for mark in plan.setup.marks_seen(plan.job)
        ],
        items=drawn,
        sheets=[_sheet(plan, number, numbers) for number in range(len(plan.layout.sheets))],
        unplaced=[
            UnplacedOut(item_number=numbers[u.item], quantity=u.quantity, reason=u.reason) for u in plan.layout.unplaced
        ],
        pieces_at_most=plan.bound.pieces_at_most,
        sheets_at_least=plan.bound.sheets_at_least,
        row_sheets=len(rows),
        row_pieces=sum(len(sheet) for sheet in rows[: len(plan.layout.sheets)]),
        extra_pieces=sum(max(0, count - wanted[index]) for index, count in placed.items()),
        offcut=PlaceOut(x_mm=offcut.left_mm, y_mm=offcut.top_mm, width_mm=offcut.width_mm, height_mm=offcut.height_mm),
        settings=[_setting(plan, setting, setting.cut in used) for setting in plan.settings.values()],
        stock=stock_out(plan.job.stock),
        mirror=plan.mirror,
        by_hand=not plan.job.cutter.is_machine,
        packing=_packing_out(plan, packing),
    )


def _packing_out(plan: Plan, packing: Packing) -> PackingOut:
    return PackingOut(
        state=packing.state,
        seconds_left=packing.seconds_left,
        seconds=packing.seconds,
        version=packing.version,
        layout=packing.layout_id,
        time_limited=plan.layout.time_limited,
        held=sum(one.pin is not Pin.FREE for sheet in plan.layout.sheets for one in sheet),
    )


def stock_out(stock: Any) -> StockOut:
    """From a core stock or a row of the workshop; they have the same fields."""
    return StockOut(**{name: getattr(stock, name) for name in StockOut.model_fields})


def _sheet(plan: Plan, number: int, numbers: list[int]) -> SheetOut:
    placements = plan.layout.sheets[number]
    edges = {item.index: item.edge.shape for item in plan.items}
    colours = {item.index: item.spec.sheet_colour for item in plan.items}
    cut = cut_of(plan, number)
    starts = np.array([loop.points[0] for loop in cut.loops])
    return SheetOut(
        placements=[
            PlacementOut(item_number=numbers[p.item], x_mm=p.x_mm, y_mm=p.y_mm, turn_deg=p.turn_deg, pin=p.pin)
            for p in placements
        ],
        used=plan.used_share(number),
        cut_length_mm=cut.length_mm,
        nearest_mm=nearest_mm([p.of(edges[p.item]) for p in placements]),
        path=" ".join(f"{x:.1f},{y:.1f}" for x, y in starts),
        live_path=shape_path(plan.setup.live_of(number).shape, DECIMALS),
        colour=next((colours[p.item] for p in placements if colours[p.item]), None),
        guides=_guides(plan, number, [p.of(edges[p.item]) for p in placements]),
    )


def _guides(plan: Plan, number: int, edges: list[BaseGeometry]) -> str:
    if plan.job.cutter.is_machine:
        return ""
    guides = guides_for(edges, plan.setup.live_of(number).shape)
    ticks = [f"M{x0:.2f} {y0:.2f}L{x1:.2f} {y1:.2f}" for (x0, y0), (x1, y1) in guides.ticks]
    return " ".join([*(closed_path(ring, DECIMALS) for ring in guides.lines), *ticks])


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
