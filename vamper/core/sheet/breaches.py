"""Broken rules of a layout, checked exactly on the edges themselves; only hands break one."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.laid import placed_edges
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.values.placement import Placement

# Overlay and rotation rounding; far below what a cutter resolves.
ROUNDING_MM = 1e-6
# Pieces that may touch overlap by rounding along their common side.
OVERLAP_MM2 = 1e-3


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
    """Every place where pieces on a sheet break the gap or leave the live area."""
    shapes = placed_edges(sheet, {number: piece.edge for number, piece in pieces.items()})
    return breaches_among(shapes, sheet, pieces, live, gap_mm)


def breaches_among(
    shapes: Sequence[BaseGeometry],
    sheet: Sequence[Placement],
    pieces: Mapping[int, Piece],
    live: Polygon,
    gap_mm: float,
) -> list[Breach]:
    """The same for edges that are placed already."""
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
    pairs = np.column_stack([first, second])[first < second]
    placed = np.array(shapes, dtype=object)
    distances = shapely.distance(placed[pairs[:, 0]], placed[pairs[:, 1]])
    for (a, b), distance in zip(pairs.tolist(), distances.tolist(), strict=True):
        needed = gap_between(whats[a], whats[b], gap_mm)
        overlapping = distance == 0 and shapely.intersection(shapes[a], shapes[b]).area > OVERLAP_MM2
        if distance < needed - ROUNDING_MM or overlapping:
            found.append(Breach(a, b, distance, needed))
    return found


def _overhang(shape: BaseGeometry, live: Polygon) -> float:
    """How far the farthest point of `shape` lies outside `live`."""
    return float(shapely.distance(shapely.points(shapely.get_coordinates(shape)), live).max())
