"""`plan.json`: everything that was planned for a job, for scripts and for the record. Lengths in mm, y down."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

from shapely.geometry.base import BaseGeometry

from vamper.core.bench_card import tell_tale_of
from vamper.core.cutting.drops import DROP_MM
from vamper.core.design import DesignedItem
from vamper.core.edge.handling import advise, candidates, handling_of
from vamper.core.inspect import item_findings
from vamper.core.marks.reading import REMEDIES
from vamper.core.plan import Plan, cut_of, timing_of
from vamper.core.printing.advice import advice_for
from vamper.core.printing.ink import InkUse
from vamper.core.printing.page_box import page_for
from vamper.core.values.art import Purpose
from vamper.core.values.findings import Finding, Severity, most_serious_first
from vamper.core.values.geometry import Points, parts, ring_points
from vamper.core.values.lengths import in_unit
from vamper.core.values.placement import Pin
from vamper.core.values.stock import Stock
from vamper.formats.out.drops_file import tell_tale_names
from vamper.formats.out.sheet_file import sheet_files

FORMAT = "vamper-plan"
VERSION = 1
# A tenth of a micrometre: finer than anything that follows, and stable to read.
_DECIMALS = 4


def _ring(points: Points) -> list[list[float]]:
    return [[round(float(x), _DECIMALS), round(float(y), _DECIMALS)] for x, y in points]


def shape_document(shape: BaseGeometry) -> list[dict[str, Any]]:
    """Polygons as shells with holes."""
    return [
        {
            "shell": _ring(ring_points(part.exterior)),
            "holes": [_ring(ring_points(hole)) for hole in part.interiors],
        }
        for part in parts(shape)
    ]


def finding_document(finding: Finding, places: Mapping[int, int]) -> dict[str, Any]:
    """A finding as data; `places` gives the place in the file of each design, by its number."""
    document: dict[str, Any] = {
        "code": finding.code,
        "severity": finding.severity.value,
        "title": finding.title,
        "text": finding.text,
        "figures": dict(finding.figures),
    }
    if finding.item is not None:
        document["item"] = places[finding.item]
    if finding.sheet is not None:
        document["sheet"] = finding.sheet + 1
    if finding.places:
        document["places"] = [
            {
                "x_mm": round(p.x_mm, 3),
                "y_mm": round(p.y_mm, 3),
                "width_mm": round(p.width_mm, 3),
                "height_mm": round(p.height_mm, 3),
            }
            for p in finding.places
        ]
    return document


def check_document(item: DesignedItem, purpose: Purpose, stock: Stock) -> dict[str, Any]:
    """Everything that can be said about one art at one size: its findings, its edge, and the shapes it could have."""
    advice, handling = advise(stock, purpose), handling_of(item.edge.shape)
    return {
        "format": "vamper-check",
        "version": 1,
        "art": item.spec.art,
        "size_mm": [round(side, 3) for side in item.outline.size_mm],
        "ppi": round(item.outline.ppi, 1),
        "edge_mm": [round(side, 3) for side in item.edge.size_mm],
        "least_border_mm": round(item.edge.least_border_mm, 3),
        "area_mm2": round(item.edge.shape.area, 1),
        "edge_length_mm": round(item.edge.length_mm, 1),
        "roughness": round(handling.roughness, 3),
        "fingers_mm": [round(length, 1) for length in handling.fingers_mm],
        "bleed_mm": round(item.bleed.width_mm, 3),
        "advice": {"manner": advice.manner.value, "why": advice.why},
        "shapes": [
            {
                "name": one.name,
                "area_mm2": round(one.edge.shape.area, 1),
                "roughness": round(one.handling.roughness, 3),
                "fingers": len(one.handling.fingers_mm),
            }
            for one in candidates(item.outline, item.spec.edge, stock.least_neck_mm)
        ],
        "findings": [
            finding_document(f, {item.number: 0}) for f in most_serious_first(item_findings(item, purpose, stock))
        ],
    }


def _cut(plan: Plan, number: int, places: Mapping[int, int]) -> dict[str, Any]:
    """The blade's way over one sheet (from 0): how long it takes, and every pass of every loop in order."""
    cut = cut_of(plan, number)
    timing = timing_of(plan, cut)
    return {
        "length_mm": round(timing.length_mm, 3),
        "travel_mm": round(timing.travel_mm, 3),
        "lifts": timing.lifts,
        "seconds": round(timing.seconds, 1),
        "parts": {name: round(seconds, 1) for name, seconds in timing.parts.items()},
        "order": [
            {
                "item": places[loop.item],
                "placement": loop.placement,
                "hole": loop.is_hole,
                "cut": loop.cut.value,
                "pass": number,
            }
            for loop in cut.loops
            for number in range(1, plan.settings[loop.cut].passes + 1)
        ],
    }


def _tell_tale(plan: Plan, number: int) -> dict[str, Any] | None:
    """Where the tell-tale of one sheet (from 0) lies, and its files; nothing where no waste is left for it."""
    place = tell_tale_of(plan, number)
    if place is None:
        return None
    x, y = place
    return {"x_mm": round(x, 3), "y_mm": round(y, 3), "size_mm": DROP_MM, "files": tell_tale_names(number)}


def _about_sheet(plan: Plan, number: int) -> dict[str, Any]:
    """What holds for one sheet only: its offcut, a live area of its own, the colour of its stock."""
    offcut = plan.sheets[number].offcut(plan.job.packing.gap_mm)
    about: dict[str, Any] = {
        "offcut_mm": {
            "x_mm": round(offcut.left_mm, 3),
            "y_mm": round(offcut.top_mm, 3),
            "width_mm": round(offcut.width_mm, 3),
            "height_mm": round(offcut.height_mm, 3),
        }
    }
    if number == 0 and plan.setup.first is not None:
        about["live_area_mm"] = shape_document(plan.setup.first.shape)
    colour = plan.sheet_colour(number)
    return {**about, "stock_colour": colour} if colour else about


def ink_document(ink: InkUse) -> dict[str, float]:
    return {name: round(value, 3) for name, value in asdict(ink).items()}


def _reading(plan: Plan) -> dict[str, Any] | None:
    reading = plan.reading
    if reading is None:
        return None
    return {
        "chance": reading.chance,
        "marks": list(reading.marks),
        "cause": reading.cause.value,
        "remedies": [
            {"key": one.remedy.value, "text": REMEDIES[one.remedy].text, "chance": one.chance}
            for one in reading.remedies
        ],
    }


def _printing(plan: Plan) -> dict[str, Any] | None:
    if not plan.job.stock.printable:
        return None
    advice = asdict(advice_for(plan.job.stock, plan.job.printer))
    return {**advice, "schools": list(advice["schools"])}


def _placements(plan: Plan, number: int, places: Mapping[int, int]) -> list[dict[str, Any]]:
    misses = plan.misses_mm(number).tolist()
    return [
        {
            "item": places[placement.item],
            "x_mm": round(placement.x_mm, 6),
            "y_mm": round(placement.y_mm, 6),
            "turn_deg": round(placement.turn_deg, 6),
            "miss_mm": round(miss, 4),
            **({"pin": placement.pin.value} if placement.pin is not Pin.FREE else {}),
        }
        for placement, miss in zip(plan.layout.sheets[number], misses, strict=True)
    ]


def _page(plan: Plan) -> dict[str, float]:
    """The page of the print files, where the sheet's top left lies on it, and the scale that it was compensated for."""
    page, scale = page_for(plan.job.paper, plan.job.printer), plan.job.printer.scale
    return {**asdict(page), "scale_x": scale.x, "scale_y": scale.y}


def _finished(plan: Plan, item: DesignedItem) -> dict[str, list[float]]:
    """How large a design is in the end, where its film shrinks."""
    shrink = plan.job.stock.shrink
    if shrink is None:
        return {}
    width, height = item.outline.size_mm
    return {"finished_mm": [round(width * shrink.x, 3), round(height * shrink.y, 3)]}


def plan_document(plan: Plan, findings: Sequence[Finding], inks: Sequence[InkUse] = ()) -> dict[str, Any]:
    """The data of `plan.json`; designs go by their place. `inks` are those of its sheets, where they are known."""
    places = {item.number: place for place, item in enumerate(plan.items)}
    return {
        "format": FORMAT,
        "version": VERSION,
        "title": plan.job.title,
        "copies": plan.job.copies,
        "paper_mm": [plan.job.paper.width_mm, plan.job.paper.height_mm],
        "page": _page(plan),
        "stock": {"key": plan.job.stock.key, "name": plan.job.stock.name, "colour": plan.job.stock.colour},
        "live_area_mm": _ring(ring_points(plan.setup.live.shape.exterior)),
        "marks": [
            {
                "family": mark.family,
                "x_mm": round(mark.x_mm, _DECIMALS),
                "y_mm": round(mark.y_mm, _DECIMALS),
                "shape": [_ring(ring) for ring in mark.rings],
            }
            for mark in plan.setup.marks
        ],
        "items": [
            {
                "index": places[item.number],
                "art": item.spec.art,
                "size_mm": [round(side, 3) for side in item.outline.size_mm],
                "ppi": round(item.outline.ppi, 1),
                "cut": item.spec.cut.value,
                **_finished(plan, item),
                "outline": shape_document(item.outline.shape),
                "edge": shape_document(item.edge.shape),
            }
            for item in plan.items
        ],
        "sheets": [
            {
                "number": number + 1,
                "used": round(plan.sheets[number].used_share, 4),
                "placements": _placements(plan, number, places),
                "files": sheet_files(number, plan.job),
                **({"ink": ink_document(inks[number])} if inks else {}),
                **(
                    {"cut": _cut(plan, number, places), "tell_tale": _tell_tale(plan, number)}
                    if plan.job.cutter.is_machine
                    else {}
                ),
                **_about_sheet(plan, number),
            }
            for number in range(len(plan.layout.sheets))
        ],
        "unplaced": [
            {"item": places[unplaced.item], "quantity": unplaced.quantity, "reason": unplaced.reason.value}
            for unplaced in plan.layout.unplaced
        ],
        "bound": {
            "pieces_at_most": plan.bound.pieces_at_most,
            "sheets_at_least": plan.bound.sheets_at_least,
            "basis": "area",
        },
        "time_limited": plan.layout.time_limited,
        "settings": {
            cut.value: {
                "blade": setting.blade.value,
                "force_gf": setting.force_gf,
                "passes": setting.passes,
                "speed_mm_s": setting.speed_mm_s,
                "mat": setting.mat.value,
                "exposure_mm": setting.exposure_mm,
                "chance": round(setting.chance, 4),
                "why": list(setting.why),
            }
            for cut, setting in plan.settings.items()
        },
        "reading": _reading(plan),
        "printing": _printing(plan),
        "mirror": plan.mirror,
        "stopped": any(finding.severity is Severity.STOP for finding in findings),
        "findings": [finding_document(finding, places) for finding in findings],
    }


def write_plan(plan: Plan, findings: Sequence[Finding], inks: Sequence[InkUse] = ()) -> bytes:
    text = json.dumps(plan_document(plan, findings, inks), indent=1, ensure_ascii=False)
    return in_unit(text).encode() + b"\n"
