"""A layout: which piece lies where on which sheet, checked exactly against the edges themselves."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.geometry import placed
from vamper.core.job import Cut, Pin, Turn

THROUGH_GAP_MM = 3.0
# Overlay and rotation rounding; far below what a cutter resolves.
ROUNDING_MM = 1e-6
# Pieces that may touch overlap by rounding along their common side.
OVERLAP_MM2 = 1e-3


class WhyNot(StrEnum):
    """Why a piece is not on a sheet."""

    TOO_BIG = "too big"
    NO_ROOM = "no room"
    NOT_IN_KIT = "not in a kit"


@dataclass(frozen=True, slots=True)
class Piece:
    """What packing needs to know of an item.

    Its edge (item frame, mm), how many, how it is cut, its bleed, its turn rule (None: the job's), whether more copies
    are wished for (1 first), and the colour of the sheets it must lie on (None: any).
    """

    item: int
    edge: MultiPolygon
    quantity: int
    cut: Cut = Cut.KISS
    bleed_mm: float = 0.0
    turn: Turn | None = None
    wish: int | None = None
    sheet_colour: str | None = None

    @property
    def area_mm2(self) -> float:
        return float(self.edge.area)


@dataclass(frozen=True, slots=True)
class Placement:
    """X = x + u·cos t − v·sin t, Y = y + u·sin t + v·cos t; `turn_deg` is clockwise on screen.

    `pin` says how firmly the piece lies there.
    """

    item: int
    x_mm: float
    y_mm: float
    turn_deg: float
    pin: Pin = Pin.FREE

    def of(self, shape: BaseGeometry) -> BaseGeometry:
        """A shape of the item's frame where this placement puts it on the sheet."""
        return placed(shape, self.x_mm, self.y_mm, self.turn_deg)


@dataclass(frozen=True, slots=True)
class Unplaced:
    item: int
    quantity: int
    reason: WhyNot


@dataclass(frozen=True, slots=True)
class Layout:
    """Sheets with their placements, what found no place, and whether the search ended by itself."""

    sheets: tuple[tuple[Placement, ...], ...]
    unplaced: tuple[Unplaced, ...]
    time_limited: bool

    @property
    def pieces(self) -> int:
        return sum(len(sheet) for sheet in self.sheets)


def gap_between(first: Piece, second: Piece, gap_mm: float) -> float:
    """The least distance two edges keep: a web beside a through cut must hold on the mat, and bleeds must not meet."""
    web = THROUGH_GAP_MM if Cut.THROUGH in (first.cut, second.cut) else 0.0
    return max(gap_mm, web, first.bleed_mm + second.bleed_mm)


@dataclass(frozen=True, slots=True)
class Breach:
    """A broken rule of a layout, by the placements' numbers on their sheet.

    Two pieces closer than `needed_mm`; or, with `second` None, one that sticks `distance_mm` out of the live area.
    """

    first: int
    second: int | None
    distance_mm: float
    needed_mm: float


def breaches(sheet: Sequence[Placement], pieces: Mapping[int, Piece], live: Polygon, gap_mm: float) -> list[Breach]:
    """Every place where a sheet breaks the gap or leaves the live area."""
    shapes = [placement.of(pieces[placement.item].edge) for placement in sheet]
    whats = [pieces[placement.item] for placement in sheet]
    reach = live.buffer(ROUNDING_MM, join_style="mitre")
    found = [
        Breach(number, None, _overhang(shape, live), 0.0)
        for number, shape in enumerate(shapes)
        if not reach.covers(shape)
    ]
    if len(shapes) < 2:
        return found
    widest = max(gap_between(piece, piece, gap_mm) for piece in whats)
    first, second = shapely.STRtree(shapes).query(shapes, predicate="dwithin", distance=widest)
    for a, b in zip(first.tolist(), second.tolist(), strict=True):
        if a >= b:
            continue
        needed = gap_between(whats[a], whats[b], gap_mm)
        distance = float(shapely.distance(shapes[a], shapes[b]))
        overlapping = distance == 0 and shapely.intersection(shapes[a], shapes[b]).area > OVERLAP_MM2
        if distance < needed - ROUNDING_MM or overlapping:
            found.append(Breach(a, b, distance, needed))
    return found


def _overhang(shape: BaseGeometry, live: Polygon) -> float:
    """How far the farthest point of `shape` lies outside `live`."""
    return float(shapely.distance(shapely.points(shapely.get_coordinates(shape)), live).max())


def nearest_mm(shapes: Sequence[BaseGeometry]) -> float | None:
    """The least distance between two of `shapes` (placed edges), None for fewer than two.

    Looks near first and farther only as long as nobody is there: exact distances are dear, and few are needed.
    """
    if len(shapes) < 2:
        return None
    pieces = np.array(shapes, dtype=object)
    tree = shapely.STRtree(pieces)
    reach = 2 * THROUGH_GAP_MM
    while True:
        first, second = tree.query(pieces, predicate="dwithin", distance=reach)
        pairs = first < second
        if pairs.any():
            return float(shapely.distance(pieces[first[pairs]], pieces[second[pairs]]).min())
        reach *= 4
