"""The art's box, and the distance more."""

import shapely
from shapely.geometry import MultiPolygon

from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec


def rectangle(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    left, top, right, bottom = shape.bounds
    d = spec.reach_mm
    return Derived(shapely.box(left - d, top - d, right + d, bottom + d))


KIND = EdgeKind(
    "rectangle",
    4,
    "rectangle",
    "square corners, trims straight",
    rectangle,
    ("fillet_mm", "rings"),
    card="Rectangle",
)
