"""A rectangle with round corners, grown where a corner would otherwise come too near.

A right angle rounded by r loses (√2 − 1)·r of border, so no more than that is ever added.
"""

import math

import numpy as np
import shapely
from shapely.geometry import MultiPolygon

from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import hull_points, quarter_segments

# A corner rounder than this is round; below it arithmetic has nothing left to hold on to.
_SHARP_MM = 1e-3


def rounded(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    left, top, right, bottom = shape.bounds
    centre = np.array([(left + right) / 2, (top + bottom) / 2])
    half = np.array([(right - left) / 2, (bottom - top) / 2])
    inked = np.abs(hull_points(shape) - centre)

    def corner(margin: float) -> float:
        return float(min(spec.corner_mm, *(half + margin)))

    def border_at(margin: float) -> float:
        # Distance to a rounded box from inside it.
        beyond = inked - (half + margin - corner(margin))
        outside = np.hypot(*np.maximum(beyond, 0).T)
        return float((corner(margin) - outside - np.minimum(beyond.max(axis=1), 0)).min())

    low, high = spec.reach_mm, spec.reach_mm + (math.sqrt(2) - 1) * spec.corner_mm
    if border_at(low) >= spec.reach_mm:
        high = low
    while high - low > 1e-4:
        middle = (low + high) / 2
        low, high = (low, middle) if border_at(middle) >= spec.reach_mm else (middle, high)
    radius = corner(high)
    inner = half + high - radius
    core = shapely.box(*(centre - inner), *(centre + inner))
    if radius < _SHARP_MM:
        return Derived(core)
    return Derived(core.buffer(radius, quad_segs=quarter_segments(radius)))


KIND = EdgeKind(
    "rounded",
    5,
    "rounded rectangle",
    "corners that do not lift",
    rounded,
    ("corner_mm", "rings"),
    card="Rounded rectangle",
)
