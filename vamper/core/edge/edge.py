"""The edge: the closed line the blade follows, derived from an outline by one of several kinds.

For every kind `distance` is the least border: no inked point lies nearer to the edge (`bare` runs on the outline, or
inside it). `derive_edge` is the one way in; it looks the kind up in a table. `follow` has a module of its own.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Point, Polygon

from vamper.core.art.outline import Outline
from vamper.core.edge.follow import Followed, follow
from vamper.core.geometry import (
    Points,
    as_multi,
    clockwise_on_screen,
    grow,
    hole_polygons,
    opening,
    parts,
    quarter_segments,
    without_holes,
)
from vamper.core.job import EdgeKind, EdgeSpec

# A corner rounder than this is round; below it arithmetic has nothing left to hold on to.
_SHARP_MM = 1e-3
# Searches for a least growth end here; far below what a cutter resolves.
_ENOUGH_MM = 2e-3


@dataclass(frozen=True, slots=True)
class Edge:
    """The blade's line in the item frame, one polygon for each loose part (mm, clockwise on screen).

    `least_border_mm` is measured, not assumed; negative where the edge runs inside the drawing. `rings` are the
    border's rings from the drawing outwards, each with all that lies inside it; the last one is `shape`. `tied` counts
    the parts that joining held together, `bridges` its own ties; `filled` are the holes that filling closed, `closed`
    those that were to be kept but are narrower than the border. `deepest_mm` is set where an inset left nothing.
    """

    shape: MultiPolygon
    least_border_mm: float
    rings: tuple[MultiPolygon, ...]
    tied: int = 0
    bridges: tuple[Polygon, ...] = ()
    filled: tuple[Polygon, ...] = ()
    closed: tuple[Polygon, ...] = ()
    deepest_mm: float | None = None

    @property
    def size_mm(self) -> tuple[float, float]:
        left, top, right, bottom = self.shape.bounds
        return right - left, bottom - top

    @property
    def length_mm(self) -> float:
        """Length of every loop, holes included."""
        return float(self.shape.length)


def derive_edge(outline: Outline, spec: EdgeSpec, least_neck_mm: float) -> Edge:
    """The edge of `outline` as `spec` asks for it.

    Parameters
    ----------
    outline : Outline
        The inked area, mm.
    spec : EdgeSpec
    least_neck_mm : float
        The narrowest strip the stock holds; joints are at least this wide.

    See Also
    --------
    vamper.core.edge.follow.follow : the border round a drawing, step by step.
    """
    followed = _blunted(outline.shape, spec, least_neck_mm)
    shape = as_multi(clockwise_on_screen(part) for part in parts(followed.shape))
    return Edge(
        shape=shape,
        least_border_mm=least_border(shape, outline.shape),
        rings=(*_inner_rings(outline.shape, spec, least_neck_mm, shape), shape),
        tied=followed.tied,
        bridges=followed.bridges,
        filled=followed.filled,
        closed=followed.closed,
        deepest_mm=followed.deepest_mm,
    )


def least_border(edge: MultiPolygon, drawing: MultiPolygon) -> float:
    """The least distance of the edge from what is drawn inside it, mm; how far it cuts into it, negative."""
    if edge.covers(drawing):
        return float(shapely.distance(edge.boundary, drawing))
    outside = shapely.get_coordinates(shapely.difference(drawing, edge))
    return -float(shapely.distance(shapely.points(outside), edge).max(initial=0.0))


def _inner_rings(shape: MultiPolygon, spec: EdgeSpec, neck: float, edge: MultiPolygon) -> tuple[MultiPolygon, ...]:
    """All rings of the border but the outermost, each derived like the edge itself at its own distance.

    Joining can lay its ties differently at each distance, so every ring is kept inside the next one.
    """
    outer, rings = edge, []
    for count in range(len(spec.stack) - 1, 0, -1):
        reach = sum(ring.width_mm for ring in spec.stack[:count])
        derived = _blunted(shape, replace(spec, distance_mm=reach, rings=()), neck).shape
        outer = as_multi(parts(shapely.intersection(derived, outer)))
        rings.append(outer)
    return tuple(reversed(rings))


def _blunted(shape: MultiPolygon, spec: EdgeSpec, neck: float) -> Followed:
    """The edge with its corners rounded to `blunt_mm`, grown where the border would otherwise fall below what is asked.

    Opening by r takes up to (√2 − 1)·r at a right angle, and more at a sharper one.
    """
    derive, r = _KINDS[spec.kind], spec.blunt_mm
    followed = derive(shape, spec, neck)
    if r <= 0 or spec.kind is EdgeKind.ROUNDED:
        return followed
    rounded = opening(followed.shape, r)
    if not parts(rounded):
        return followed
    if spec.kind is EdgeKind.BARE or least_border(as_multi(parts(rounded)), shape) >= spec.reach_mm - _ENOUGH_MM:
        return replace(followed, shape=rounded)
    low, high = 0.0, 4 * r
    while high - low > _ENOUGH_MM:
        middle = (low + high) / 2
        rounded = opening(grow(followed.shape, middle), r)
        enough = least_border(as_multi(parts(rounded)), shape) >= spec.reach_mm - _ENOUGH_MM
        low, high = (low, middle) if enough else (middle, high)
    return replace(followed, shape=opening(grow(followed.shape, high), r))


def _circle(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    """The smallest circle round the art, and `distance` more."""
    centre: Point = shapely.minimum_bounding_circle(shape).centroid
    radius = float(np.hypot(*(_hull_points(shape) - (centre.x, centre.y)).T).max()) + spec.reach_mm
    segments = 4 * quarter_segments(radius)
    turns = np.arange(segments) * (2 * math.pi / segments)
    rim = np.column_stack([centre.x + radius * np.cos(turns), centre.y + radius * np.sin(turns)])
    return Followed(Polygon(rim))


def _rectangle(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    left, top, right, bottom = shape.bounds
    d = spec.reach_mm
    return Followed(shapely.box(left - d, top - d, right + d, bottom + d))


def _rounded(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    """A rectangle with round corners, grown where a corner would otherwise come too near.

    A right angle rounded by r loses (√2 − 1)·r of border, so no more than that is ever added.
    """
    left, top, right, bottom = shape.bounds
    centre = np.array([(left + right) / 2, (top + bottom) / 2])
    half = np.array([(right - left) / 2, (bottom - top) / 2])
    inked = np.abs(_hull_points(shape) - centre)

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
        return Followed(core)
    return Followed(core.buffer(radius, quad_segs=quarter_segments(radius)))


def _ellipse(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    """The smallest ellipse of the art's aspect, about the middle of its box, that leaves `distance` everywhere."""
    left, top, right, bottom = shape.bounds
    centre = np.array([(left + right) / 2, (top + bottom) / 2])
    half = np.array([right - left, bottom - top]) / 2
    points = shapely.points(_hull_points(shape))
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
    return Followed(at(high))


def _hull(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    """The convex hull, grown by `distance`."""
    return Followed(grow(shape.convex_hull, spec.reach_mm))


def _bare(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    """The outline itself, or so far inside it; then opened by the smoothing (a closing could leave the inset)."""
    whole = without_holes(shape) if spec.fill_holes else shape
    filled = tuple(hole_polygons(shape)) if spec.fill_holes else ()
    if spec.distance_mm == 0:
        return Followed(whole, filled=filled)
    inset = opening(grow(whole, spec.distance_mm), spec.smooth_mm)
    if parts(inset):
        return Followed(inset, filled=filled)
    deepest = max(shapely.maximum_inscribed_circle(part, tolerance=0.01).length for part in parts(whole))
    return Followed(whole, filled=filled, deepest_mm=float(deepest))


def _hull_points(shape: MultiPolygon) -> Points:
    """The corners of the convex hull, shape (n, 2): all that a convex kind needs to clear."""
    return shapely.get_coordinates(shape.convex_hull)


_KINDS: dict[EdgeKind, Callable[[MultiPolygon, EdgeSpec, float], Followed]] = {
    EdgeKind.FOLLOW: follow,
    EdgeKind.CIRCLE: _circle,
    EdgeKind.ELLIPSE: _ellipse,
    EdgeKind.RECTANGLE: _rectangle,
    EdgeKind.ROUNDED: _rounded,
    EdgeKind.HULL: _hull,
    EdgeKind.BARE: _bare,
}

# Which fields of the spec each kind looks at, beyond its distance, rings and colours.
KIND_USES: dict[EdgeKind, tuple[str, ...]] = {
    EdgeKind.FOLLOW: ("smooth_mm", "fill_holes", "keep_holes", "join", "blunt_mm", "rings"),
    EdgeKind.CIRCLE: ("rings",),
    EdgeKind.ELLIPSE: ("rings",),
    EdgeKind.RECTANGLE: ("blunt_mm", "rings"),
    EdgeKind.ROUNDED: ("corner_mm", "rings"),
    EdgeKind.HULL: ("blunt_mm", "rings"),
    EdgeKind.BARE: ("smooth_mm", "fill_holes", "blunt_mm"),
}
