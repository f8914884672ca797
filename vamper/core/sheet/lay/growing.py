"""One piece grown into its gap: how much larger it may be before it comes too near a neighbour, moving aside for it.

Its edge is grown as a whole. A border keeps its width while its drawing grows, so the piece comes out a little smaller
than that; an inset keeps its depth, which makes it larger, and is allowed for. Where it cannot grow about its middle it
slides to where it can, but no farther than that it still covers the middle it had: the gap is that round its place.
"""

from dataclasses import dataclass

import shapely
from shapely.affinity import scale, translate
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.lay.clearance import Clearance, Moved
from vamper.core.values.geometry import grow

MOST_GROWTH = 6.0
# To so small a share about a middle, and while it slides.
_NEAR, _NEAR_SLIDING = 0.002, 0.02
# The first step that is tried while it slides, and how far it slides for one, as a share of its smaller side.
_STEP, _SLID = 1.3, 0.35


@dataclass(frozen=True, slots=True)
class Growth:
    """By which factor (1 to `MOST_GROWTH`) a piece may grow, and how far its middle moves for it, mm."""

    by: float
    shift_mm: tuple[float, float]


def growth_of(clearance: Clearance, held: Moved, reach_mm: float) -> Growth:
    """The largest growth that was found for a piece whose edge lies `reach_mm` outside its drawing; by 1 where none."""
    middle = held.shape.centroid
    shift = (0.0, 0.0)

    def grown(by: float) -> BaseGeometry:
        larger = scale(held.shape, by, by, origin=middle)
        return translate(grow(larger, -reach_mm * (by - 1)) if reach_mm < 0 else larger, *shift)

    def about_its_middle(low: float, high: float) -> float:
        if clearance.allows(held.piece, grown(high)):
            return high
        while high - low > _NEAR:
            tried = (low + high) / 2
            low, high = (tried, high) if clearance.allows(held.piece, grown(tried)) else (low, tried)
        return low

    low, high = about_its_middle(1.0, MOST_GROWTH), MOST_GROWTH
    left, top, right, bottom = held.shape.bounds
    while high - low > _NEAR_SLIDING:
        by = min(low * _STEP, (low + high) / 2)
        slid = _slid(clearance, Moved(held.piece, grown(by)), _SLID * min(right - left, bottom - top), middle)
        if slid is None:
            high = by
        else:
            shift = (shift[0] + slid[0], shift[1] + slid[1])
            low = about_its_middle(by, high)
    return Growth(low, shift)


def _slid(clearance: Clearance, grown: Moved, reach_mm: float, middle: shapely.Point) -> tuple[float, float] | None:
    """The way to where a grown piece lies free over the middle that it had."""
    by = clearance.slide([grown], reach_mm)
    if by is None or not translate(grown.shape, *by).convex_hull.covers(middle):
        return None
    return by
