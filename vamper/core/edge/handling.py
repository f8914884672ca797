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
from vamper.core.edge.kind import KINDS, EdgeKind, along_with_kind
from vamper.core.values.art import Purpose
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import as_multi, grow, longest_side, opening, parts
from vamper.core.values.lengths import mm
from vamper.core.values.stock import Stock, StockClass

FINGER_RADIUS_MM = 3.0
LEAST_FINGER_MM = 4.0
CLOSE_SMOOTH_MM = 1.0
SMOOTH_MM = 5.0
_SMALL_MM = 0.02
_ROUNDING_MM = 0.02
# The kind that can be close or smooth.
_CLOSEST = "follow"


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


# From so rough on, how a piece is lifted and laid.
_EASE = (
    (0.0, "even all round: it lifts and lies easily"),
    (1.6, "some ins and outs: lift it slowly"),
    (3.0, "many ins and outs: hard to lift and to lay flat"),
)


def ease(handling: Handling) -> str:
    """How hard a piece is to handle, in words, with the fingers it has."""
    words = next(said for least, said in reversed(_EASE) if handling.roughness >= least)
    if not handling.fingers_mm:
        return words
    longest = mm(handling.fingers_mm[0], 0)
    if len(handling.fingers_mm) == 1:
        return f"{words}; one finger sticks out, {longest} long"
    return f"{words}; {len(handling.fingers_mm)} fingers stick out, the longest {longest}"


class Manner(StrEnum):
    CLOSE = "close"
    SMOOTH = "smooth"


@dataclass(frozen=True, slots=True)
class HandlingAdvice:
    manner: Manner
    why: str


_HOT_OR_SHRINKING = {
    StockClass.TRANSFER: "fingers of a hot transfer lift first, on the press and in the wash",
    StockClass.SHRINK: "thin parts curl and stick together while they shrink",
}
_OUTDOORS = (Purpose.VEHICLE, Purpose.WINDOW)
_WASHED = (Purpose.DRINKWARE, Purpose.BLANK)


def advise(stock: Stock, purpose: Purpose, coated: bool = False) -> HandlingAdvice:
    """Close or smooth, by what becomes of the rim: whether a coat makes it vanish, whether it stays in sight, whether
    it is felt. The reason is half a sentence.
    """
    if coated:
        return HandlingAdvice(
            Manner.SMOOTH, "the coat makes the rim vanish, and a smooth piece is easier to lift and to place"
        )
    if stock.stock_class in _HOT_OR_SHRINKING:
        return HandlingAdvice(Manner.SMOOTH, _HOT_OR_SHRINKING[stock.stock_class])
    if stock.stock_class is StockClass.FLEX:
        return HandlingAdvice(Manner.CLOSE, "stiff film is felt, and close looks better; its tips come out rounded")
    if stock.stock_class is StockClass.WATER_SLIDE:
        if purpose is Purpose.GLASS:
            return HandlingAdvice(
                Manner.CLOSE,
                "on clear ware the rim stays in sight; wet, its fingers fold over easily, so print a spare or two",
            )
        return HandlingAdvice(
            Manner.SMOOTH, "on opaque ware the rim hardly shows, and a smooth piece slides into place"
        )
    if stock.is_clear:
        return HandlingAdvice(Manner.CLOSE, "on clear film the rim shows, and the less of it the better")
    if purpose in _OUTDOORS:
        return HandlingAdvice(Manner.SMOOTH, "outdoors every finger is a corner that lifts first")
    if purpose in _WASHED:
        return HandlingAdvice(Manner.SMOOTH, "it will be washed, and fingers lift first")
    return HandlingAdvice(Manner.SMOOTH, "easier to lift and to place, and there is no reason to go close")


@dataclass(frozen=True, slots=True)
class Candidate:
    """One shape an edge could have: its name, the edge it makes, and the spec that asks for it.

    `chosen` where it is the one there is now, or the nearest to it.
    """

    name: str
    spec: EdgeSpec
    edge: Edge
    handling: Handling
    chosen: bool = False


def drawn_small(outline: Outline) -> Outline:
    """An outline with fewer points, for shapes to choose from: they are derived several times faster, and their areas
    are right to a few in a thousand.
    """
    return replace(outline, shape=as_multi(parts(outline.shape.simplify(_SMALL_MM))))


def candidates(outline: Outline, spec: EdgeSpec, least_neck_mm: float) -> tuple[Candidate, ...]:
    """Every shape this drawing's edge could have: along it, close and smooth; on it; whole, least stock first."""
    follow = _of_kind(spec, KINDS[_CLOSEST])
    along = {
        CLOSE_SMOOTH_MM: _candidate(outline, "Close", replace(follow, smooth_mm=CLOSE_SMOOTH_MM), least_neck_mm),
        SMOOTH_MM: _candidate(outline, "Smooth", replace(follow, smooth_mm=SMOOTH_MM), least_neck_mm),
    }
    others = [
        _candidate(outline, kind.card, _of_kind(spec, kind), least_neck_mm) for kind in KINDS if kind.key != _CLOSEST
    ]
    found = (*along.values(), *sorted(others, key=lambda one: (one.spec.has_border, one.edge.shape.area)))
    nearest = min(along, key=lambda smooth: abs(smooth - spec.smooth_mm))
    return tuple(
        replace(one, chosen=spec.kind == one.spec.kind and (spec.kind != _CLOSEST or one is along[nearest]))
        for one in found
    )


def _of_kind(spec: EdgeSpec, kind: EdgeKind) -> EdgeSpec:
    return replace(spec, kind=kind.key, **along_with_kind(spec, kind))  # type: ignore[arg-type]


def _candidate(outline: Outline, name: str, spec: EdgeSpec, neck: float) -> Candidate:
    edge = derive_edge(outline, spec, neck)
    return Candidate(name, spec, edge, handling_of(edge.shape))
