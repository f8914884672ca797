"""One piece grown into its gap: how much larger it may be, about its middle, before it comes too near a neighbour.

Its edge is grown as a whole. A border keeps its width while its drawing grows, so the piece comes out a little smaller
than that; an inset keeps its depth, which makes it larger, and is allowed for.
"""

import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.lay.clearance import Clearance, Moved
from vamper.core.values.geometry import grow

MOST_GROWTH = 6.0
# To so small a share.
_NEAR = 0.002


def growth_of(clearance: Clearance, held: Moved, reach_mm: float) -> float:
    """The largest factor (1 to `MOST_GROWTH`) by which a piece may grow about its middle; 1 where it may not. Its edge
    lies `reach_mm` outside its drawing.
    """
    low, high = 1.0, MOST_GROWTH
    if clearance.allows(held.piece, _grown(held, high, reach_mm)):
        return high
    while high - low > _NEAR:
        middle = (low + high) / 2
        low, high = (middle, high) if clearance.allows(held.piece, _grown(held, middle, reach_mm)) else (low, middle)
    return low


def _grown(held: Moved, by: float, reach_mm: float) -> BaseGeometry:
    larger = shapely.affinity.scale(held.shape, by, by, origin=held.shape.centroid)
    return grow(larger, -reach_mm * (by - 1)) if reach_mm < 0 else larger
