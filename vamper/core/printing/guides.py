"""What is printed for cutting without a machine: a thin line outside each edge, and ticks at the rim for a guillotine.

The line lies just outside the edge, so that cutting along its inner side takes it away. A tick stands at both ends of
every straight line that crosses the whole sheet without meeting a piece: the gaps between rows, and between columns
where rows share them.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import Points, grow, parts, ring_points

GUIDE_OUTSIDE_MM = 0.25
GUIDE_WIDTH_MM = 0.15
TICK_MM = 5.0

Segment = tuple[tuple[float, float], tuple[float, float]]


@dataclass(frozen=True, slots=True)
class Guides:
    """Closed thin lines round the pieces, and straight ticks; sheet frame, mm."""

    lines: tuple[Points, ...] = ()
    ticks: tuple[Segment, ...] = ()


NO_GUIDES = Guides()


def guides_for(edges: Sequence[BaseGeometry], live: Polygon) -> Guides:
    """Guides for the placed edges of one sheet."""
    lines = [
        ring_points(ring)
        for edge in edges
        for part in parts(grow(edge, GUIDE_OUTSIDE_MM))
        for ring in (part.exterior, *part.interiors)
    ]
    return Guides(tuple(lines), tuple(_ticks(edges, live)))


def _ticks(edges: Sequence[BaseGeometry], live: Polygon) -> list[Segment]:
    if not edges:
        return []
    left, top, right, bottom = live.bounds
    boxes = shapely.bounds(edges)
    found: list[Segment] = []
    for y in free_lines(boxes[:, 1].tolist(), boxes[:, 3].tolist()):
        found += [((left, y), (left + TICK_MM, y)), ((right - TICK_MM, y), (right, y))]
    for x in free_lines(boxes[:, 0].tolist(), boxes[:, 2].tolist()):
        found += [((x, top), (x, top + TICK_MM)), ((x, bottom - TICK_MM), (x, bottom))]
    return [tick for tick in found if not any(edge.intersects(shapely.LineString(tick)) for edge in edges)]


def free_lines(starts: Sequence[float], ends: Sequence[float]) -> list[float]:
    """Middles of the gaps that no span from a start to its end reaches into."""
    spans = sorted(zip(starts, ends, strict=True))
    found, reached = [], spans[0][1]
    for start, end in spans[1:]:
        if start > reached:
            found.append((start + reached) / 2)
        reached = max(reached, end)
    return found
