"""The outline itself, or so far inside it; then opened by the smoothing (a closing could leave the inset)."""

import shapely
from shapely.geometry import MultiPolygon

from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import grow, hole_polygons, opening, parts, without_holes

_DEEPEST_MM = 5.0


def bare(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    whole = without_holes(shape) if spec.fill_holes else shape
    filled = tuple(hole_polygons(shape)) if spec.fill_holes else ()
    if spec.distance_mm == 0:
        return Derived(whole, filled=filled)
    inset = opening(grow(whole, spec.distance_mm), spec.smooth_mm)
    if parts(inset):
        return Derived(inset, filled=filled)
    deepest = max(shapely.maximum_inscribed_circle(part, tolerance=0.01).length for part in parts(whole))
    return Derived(whole, filled=filled, deepest_mm=float(deepest))


KIND = EdgeKind(
    "bare",
    7,
    "bare outline",
    "on the outline, or inside it",
    bare,
    ("smooth_mm", "fill_holes", "blunt_mm"),
    card="Outline itself",
    follows=True,
    has_border=False,
    range_mm=(-_DEEPEST_MM, 0.0),
    start_mm=0.0,
    rule="bare runs on the outline or inside it: give a distance_mm of 0 or less, and no rings",
)
