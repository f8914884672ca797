"""The edge: the closed line the blade follows, derived from an outline by one of several kinds.

For every kind `distance` is the least border: no inked point lies nearer to the edge. `derive_edge` is the one way
in; it looks the kind up in a table. `follow` has a module of its own.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Point, Polygon

from vamper.core.art.outline import Outline
from vamper.core.edge.follow import Followed, follow
from vamper.core.geometry import Points, as_multi, clockwise_on_screen, parts, quarter_segments
from vamper.core.job import EdgeKind, EdgeSpec

# A corner rounder than this is round; below it arithmetic has nothing left to hold on to.
_SHARP_MM = 1e-3


@dataclass(frozen=True, slots=True)
class Edge:
    """The blade's line in the item frame, one polygon for each loose part (mm, clockwise on screen).

    `least_border_mm` is measured, not assumed. `tied` counts the parts that joining held together, `bridges` how
    many of the ties are bridges of their own; `filled` are the holes that filling closed.
    """

    shape: MultiPolygon
    least_border_mm: float
    tied: int
    bridges: tuple[Polygon, ...]
    filled: tuple[Polygon, ...]

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
    followed = _KINDS[spec.kind](outline.shape, spec, least_neck_mm)
    shape = as_multi(clockwise_on_screen(part) for part in parts(followed.shape))
    return Edge(
        shape=shape,
        least_border_mm=float(shapely.distance(shape.boundary, outline.shape)),
        tied=followed.tied,
        bridges=followed.bridges,
        filled=followed.filled,
    )


def _circle(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    """The smallest circle round the art, and `distance` more."""
    centre: Point = shapely.minimum_bounding_circle(shape).centroid
    radius = float(np.hypot(*(_hull_points(shape) - (centre.x, centre.y)).T).max()) + spec.distance_mm
    segments = 4 * quarter_segments(radius)
    turns = np.arange(segments) * (2 * math.pi / segments)
    rim = np.column_stack([centre.x + radius * np.cos(turns), centre.y + radius * np.sin(turns)])
    return Followed(Polygon(rim))


def _rectangle(shape: MultiPolygon, spec: EdgeSpec, _neck: float) -> Followed:
    left, top, right, bottom = shape.bounds
    d = spec.distance_mm
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

    def least_border(margin: float) -> float:
        # Distance to a rounded box from inside it.
        beyond = inked - (half + margin - corner(margin))
        outside = np.hypot(*np.maximum(beyond, 0).T)
        return float((corner(margin) - outside - np.minimum(beyond.max(axis=1), 0)).min())

    low, high = spec.distance_mm, spec.distance_mm + (math.sqrt(2) - 1) * spec.corner_mm
    if least_border(low) >= spec.distance_mm:
        high = low
    while high - low > 1e-4:
        middle = (low + high) / 2
        low, high = (low, middle) if least_border(middle) >= spec.distance_mm else (middle, high)
    radius = corner(high)
    inner = half + high - radius
    core = shapely.box(*(centre - inner), *(centre + inner))
    if radius < _SHARP_MM:
        return Followed(core)
    return Followed(core.buffer(radius, quad_segs=quarter_segments(radius)))


def _hull_points(shape: MultiPolygon) -> Points:
    """The corners of the convex hull, shape (n, 2): all that a convex kind needs to clear."""
    return shapely.get_coordinates(shape.convex_hull)


_KINDS: dict[EdgeKind, Callable[[MultiPolygon, EdgeSpec, float], Followed]] = {
    EdgeKind.FOLLOW: follow,
    EdgeKind.CIRCLE: _circle,
    EdgeKind.RECTANGLE: _rectangle,
    EdgeKind.ROUNDED: _rounded,
}
