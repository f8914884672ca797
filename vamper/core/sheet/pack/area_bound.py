"""How good a layout could be at best, from areas alone.

No layout holds more than floor((live area grown by gap/2) / area of (edge grown by gap/2)) equal pieces: pieces a gap
apart stay disjoint when each is grown by half of it. For a mix the areas are summed: where all of it would go on one
sheet, more would go on in the same proportions; where not, no sheet holds more than the smallest pieces that fill it.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from shapely.geometry import Polygon

from vamper.core.sheet.layout import Piece
from vamper.core.values.geometry import grow


@dataclass(frozen=True, slots=True)
class AreaBound:
    """Pieces one sheet holds at most, and the sheets that all wanted pieces take at least."""

    pieces_at_most: int
    sheets_at_least: int


def grown_areas(pieces: Sequence[Piece], gap_mm: float) -> dict[int, float]:
    """The area of each piece grown by half the gap, by its design."""
    return {piece.item: grow(piece.edge, gap_mm / 2).area for piece in pieces}


def area_bound(
    live: Polygon, pieces: Sequence[Piece], gap_mm: float, grown: Mapping[int, float] | None = None
) -> AreaBound:
    """The bound for some pieces; `grown` are their `grown_areas`, where they are known."""
    room = grow(live, gap_mm / 2).area
    known = grown_areas(pieces, gap_mm) if grown is None else grown
    areas = np.array([known[piece.item] for piece in pieces])
    counts = np.array([piece.quantity for piece in pieces])
    total = float(areas @ counts)
    if total == 0:
        return AreaBound(0, 0)
    # A hair of slack, so that a sheet filled exactly is not called too full by rounding.
    if total <= room or len(pieces) == 1:
        at_most = math.floor(room * int(counts.sum()) / total + 1e-9)
    else:
        smallest_first = np.sort(np.repeat(areas, counts))
        at_most = int(np.searchsorted(np.cumsum(smallest_first), room + 1e-9 * room, side="right"))
    return AreaBound(at_most, math.ceil(total / room - 1e-9))
