"""The smallest circle round the art, and the distance more."""

import math

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Point, Polygon

from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import hull_points, quarter_segments


def circle(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    centre: Point = shapely.minimum_bounding_circle(shape).centroid
    radius = float(np.hypot(*(hull_points(shape) - (centre.x, centre.y)).T).max()) + spec.reach_mm
    segments = 4 * quarter_segments(radius)
    turns = np.arange(segments) * (2 * math.pi / segments)
    rim = np.column_stack([centre.x + radius * np.cos(turns), centre.y + radius * np.sin(turns)])
    return Derived(Polygon(rim))


KIND = EdgeKind("circle", 2, "circle", "the smallest that clears it", circle, card="Circle")
