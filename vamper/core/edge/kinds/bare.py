"""The outline itself, or so far inside it; then opened by the smoothing (a closing could leave the inset)."""

import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.edge.holes import kept_holes
from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import grow, hole_polygons, opening, parts, without_holes

_DEEPEST_MM = 5.0


def bare(shape: MultiPolygon, spec: EdgeSpec, _neck_mm: float) -> Derived:
    whole, filled = (shape, ()) if not spec.fill_holes else _filled(shape, spec)
    if spec.distance_mm == 0:
        return Derived(whole, filled=filled)
    inset = _inset(whole, spec)
    if parts(inset):
        # Where nothing would be left beside opened holes, there is nothing to open.
        return Derived(inset, filled=filled if parts(_inset(shape, spec)) else ())
    deepest = max(shapely.maximum_inscribed_circle(part, tolerance=0.01).length for part in parts(whole))
    return Derived(whole, filled=filled, deepest_mm=float(deepest))


def _inset(shape: BaseGeometry, spec: EdgeSpec) -> BaseGeometry:
    return opening(grow(shape, spec.distance_mm), spec.smooth_mm)


def _filled(shape: MultiPolygon, spec: EdgeSpec) -> tuple[BaseGeometry, tuple[Polygon, ...]]:
    """The drawing without its holes, but for the holes that are to stay open; and the holes that are gone."""
    kept = kept_holes(shape, spec)
    whole = shapely.difference(without_holes(shape), shapely.union_all(kept)) if kept else without_holes(shape)
    return whole, tuple(hole for hole in hole_polygons(shape) if hole not in kept)


KIND = EdgeKind(
    "bare",
    7,
    "bare outline",
    "on the outline, or inside it",
    bare,
    ("smooth_mm", "fill_holes", "keep_holes", "fillet_mm"),
    card="Outline itself",
    follows=True,
    has_border=False,
    range_mm=(-_DEEPEST_MM, 0.0),
    start_mm=0.0,
    rule="bare runs on the outline or inside it: give a distance_mm of 0 or less, and no rings",
)
