"""The convex hull, grown by the distance."""

from shapely.geometry import MultiPolygon

from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import grow


def hull(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    return Derived(grow(shape.convex_hull, spec.reach_mm))


KIND = EdgeKind("hull", 6, "hull", "a tight band round it, no notches", hull, ("fillet_mm", "rings"), card="Hull")
