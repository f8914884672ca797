"""Smooth or close? How hard a piece is to handle, which of the two is proposed, and what each shape takes of the stock.

A close edge shows the least rim; a smooth one is easier to lift, soak and place, and does not fold over.
"""

import math
from dataclasses import dataclass, replace
from enum import StrEnum

import shapely
from shapely.geometry import MultiPolygon

from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.geometry import grow, longest_side, opening, parts
from vamper.core.job import EdgeKind, EdgeSpec, Purpose
from vamper.core.stocks import Stock, StockClass

FINGER_RADIUS_MM = 3.0
LEAST_FINGER_MM = 4.0
CLOSE_SMOOTH_MM = 1.0
SMOOTH_MM = 5.0
_ROUNDING_MM = 0.02


@dataclass(frozen=True, slots=True)
class Handling:
    """`roughness` is edge length² / (4π · area): 1 for a disc, more the harder a piece is to lift and place.

    `fingers` are parts that an opening by 3 mm removes and that are longer than 4 mm, each by its length.
    """

    roughness: float
    fingers_mm: tuple[float, ...]


def handling_of(shape: MultiPolygon) -> Handling:
    """How hard a piece with this edge is to handle."""
    removed = shapely.difference(shape, grow(opening(shape, FINGER_RADIUS_MM), _ROUNDING_MM))
    lengths = sorted((longest_side(part) for part in parts(removed)), reverse=True)
    rough = float(shape.length**2 / (4 * math.pi * shape.area)) if shape.area else math.inf
    return Handling(rough, tuple(length for length in lengths if length > LEAST_FINGER_MM))


class Manner(StrEnum):
    CLOSE = "close"
    SMOOTH = "smooth"


@dataclass(frozen=True, slots=True)
class Advice:
    manner: Manner
    why: str


_WET_OR_HOT = {
    StockClass.WATER_SLIDE: "a wet decal with fingers folds over when it is slid into place",
    StockClass.TRANSFER: "fingers of a hot transfer lift first, on the press and in the wash",
    StockClass.FLEX: "fingers of a heat film lift first, on the press and in the wash",
    StockClass.SHRINK: "thin parts curl and stick together while they shrink",
}


def advise(stock: Stock, purpose: Purpose) -> Advice:
    """Close or smooth for a stock and a purpose, with the reason."""
    if stock.stock_class in _WET_OR_HOT:
        return Advice(Manner.SMOOTH, _WET_OR_HOT[stock.stock_class])
    if stock.ground == "clear":
        return Advice(Manner.CLOSE, "on clear film the rim shows, and the less of it the better")
    if purpose in (Purpose.VEHICLE, Purpose.WINDOW):
        return Advice(Manner.SMOOTH, "outdoors every finger is a corner that lifts first")
    if purpose is Purpose.DRINKWARE:
        return Advice(Manner.SMOOTH, "it will be washed, and fingers lift first")
    return Advice(Manner.SMOOTH, "easier to lift and to place, and there is no reason to go close")


@dataclass(frozen=True, slots=True)
class Candidate:
    """One shape a border could have: its name, the edge it makes, and the spec that asks for it."""

    name: str
    spec: EdgeSpec
    edge: Edge
    handling: Handling


def candidates(outline: Outline, spec: EdgeSpec, least_neck_mm: float) -> tuple[Candidate, ...]:
    """Close, smooth and hull, then the other whole shapes by the stock they take, least first."""
    reach = max(spec.reach_mm, 0.0)
    plain = replace(spec, kind=EdgeKind.FOLLOW, distance_mm=reach if not spec.rings else spec.distance_mm)
    named = (
        ("Close", replace(plain, smooth_mm=CLOSE_SMOOTH_MM)),
        ("Smooth", replace(plain, smooth_mm=SMOOTH_MM)),
        ("Hull", replace(plain, kind=EdgeKind.HULL)),
    )
    whole = (
        ("Rounded rectangle", replace(plain, kind=EdgeKind.ROUNDED)),
        ("Ellipse", replace(plain, kind=EdgeKind.ELLIPSE)),
        ("Circle", replace(plain, kind=EdgeKind.CIRCLE)),
    )
    others = sorted((_candidate(outline, *one, least_neck_mm) for one in whole), key=lambda c: c.edge.shape.area)
    return (*(_candidate(outline, *one, least_neck_mm) for one in named), *others)


def _candidate(outline: Outline, name: str, spec: EdgeSpec, neck: float) -> Candidate:
    edge = derive_edge(outline, spec, neck)
    return Candidate(name, spec, edge, handling_of(edge.shape))
