"""The smallest ellipse of the art's aspect, about the middle of its box, that leaves the distance everywhere."""

import math

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import hull_points, quarter_segments

# A search for the least growth ends here; far below what a cutter resolves.
_ENOUGH_MM = 2e-3


def ellipse(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    left, top, right, bottom = shape.bounds
    centre = np.array([(left + right) / 2, (top + bottom) / 2])
    half = np.array([right - left, bottom - top]) / 2
    points = shapely.points(hull_points(shape))
    segments = 4 * quarter_segments(2 * float(half.max()) + spec.reach_mm)
    turns = np.arange(segments) * (2 * math.pi / segments)
    rim = np.column_stack([np.cos(turns), np.sin(turns)])

    def at(scale: float) -> Polygon:
        return Polygon(centre + rim * half * scale)

    def enough(scale: float) -> bool:
        ellipse = at(scale)
        if not shapely.covers(ellipse, points).all():
            return False
        return float(shapely.distance(ellipse.exterior, points).min()) >= spec.reach_mm

    low, high = 1.0, math.sqrt(2) + 2 * spec.reach_mm / float(half.min())
    while not enough(high):
        high *= 1.5
    while (high - low) * half.max() > _ENOUGH_MM:
        middle = (low + high) / 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    return Derived(at(high))


KIND = EdgeKind("ellipse", 3, "ellipse", "of the drawing's own proportions", ellipse, card="Ellipse")
