"""The edge: the closed line the blade follows, derived from an outline by one of several kinds.

For every kind `distance` is the least border: no inked point lies nearer to the edge (a kind without a border runs on
the outline, or inside it). `derive_edge` is the one way in; each kind is a module in `kinds`.
"""

import math
from dataclasses import dataclass, replace
from functools import cached_property

import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.art.outline import Outline
from vamper.core.edge.bends import tightest_mm
from vamper.core.edge.kind import Derived, kind_of
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import as_multi, clockwise_on_screen, grow, opening, parts, ring_points

# Searches for a least growth end here; far below what a cutter resolves.
_ENOUGH_MM = 2e-3


# How far an edge with few points may be from the edge itself, mm.
THIN_MM = 0.02


@dataclass(frozen=True)
class Edge:
    """The blade's line in the item frame, mm.

    Parameters
    ----------
    shape : MultiPolygon
        A polygon for each loose part, clockwise on screen.
    least_border_mm : float
        The narrowest border, measured; negative where the edge runs inside the drawing.
    rings : tuple of MultiPolygon
        The border's rings from the drawing outwards, each with all that lies inside it; the last is `shape`.
    tied, apart : int
        Parts that joining held together, and parts that there would be without it; `bridges` are its own ties.
    filled, closed : tuple of Polygon
        Holes that filling closed, and holes that were to be kept but are narrower than the border.
    deepest_mm : float or None
        How far in an inset could go, where it left nothing.
    """

    shape: MultiPolygon
    least_border_mm: float
    rings: tuple[MultiPolygon, ...]
    tied: int = 0
    apart: int = 1
    bridges: tuple[Polygon, ...] = ()
    filled: tuple[Polygon, ...] = ()
    closed: tuple[Polygon, ...] = ()
    deepest_mm: float | None = None

    @property
    def size_mm(self) -> tuple[float, float]:
        left, top, right, bottom = self.shape.bounds
        return right - left, bottom - top

    @cached_property
    def thin(self) -> MultiPolygon:
        """The shape with few points, for what need not be exact."""
        return as_multi(parts(shapely.simplify(self.shape, THIN_MM)))

    @cached_property
    def radii_mm(self) -> tuple[tuple[float, ...], ...]:
        """The tightest bend of each loop, part by part: its outer loop, then its holes."""
        return tuple(
            tuple(tightest_mm(ring_points(ring)) for ring in (part.exterior, *part.interiors))
            for part in self.shape.geoms
        )

    @property
    def smallest_radius_mm(self) -> float:
        """The tightest bend of all its loops; infinite where there are only straights and corners."""
        return min((radius for part in self.radii_mm for radius in part), default=math.inf)

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
    vamper.core.edge.kinds.follow : the border round a drawing, step by step.
    """
    followed = _filleted(outline.shape, spec, least_neck_mm)
    shape = as_multi(clockwise_on_screen(part) for part in parts(followed.shape))
    return Edge(
        shape=shape,
        least_border_mm=least_border(shape, outline.shape),
        rings=(*_inner_rings(outline.shape, spec, least_neck_mm, shape), shape),
        tied=followed.tied,
        apart=followed.apart,
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

    Joining can lay its ties differently at each distance, so every ring is kept inside the next.
    """
    outer, rings = edge, []
    for count in range(len(spec.stack) - 1, 0, -1):
        reach = sum(ring.width_mm for ring in spec.stack[:count])
        derived = _filleted(shape, replace(spec, distance_mm=reach, rings=()), neck).shape
        outer = as_multi(parts(shapely.intersection(derived, outer)))
        rings.append(outer)
    return tuple(reversed(rings))


def _filleted(shape: MultiPolygon, spec: EdgeSpec, neck: float) -> Derived:
    """The edge with its corners rounded to `fillet_mm`, grown where the border would otherwise be less than is asked.

    Opening by r takes up to (√2 − 1)·r at a right angle, and more at a sharper one.
    """
    kind, r = kind_of(spec), spec.fillet_mm
    followed = kind.derive(shape, spec, neck)
    if r <= 0 or "fillet_mm" not in kind.uses:
        return followed
    rounded = _round_parts(followed.shape, r)
    if not kind.has_border or least_border(rounded, shape) >= spec.reach_mm - _ENOUGH_MM:
        return replace(followed, shape=rounded)
    low, high = 0.0, 4 * r
    while high - low > _ENOUGH_MM:
        middle = (low + high) / 2
        rounded = _round_parts(grow(followed.shape, middle), r)
        enough = least_border(rounded, shape) >= spec.reach_mm - _ENOUGH_MM
        low, high = (low, middle) if enough else (middle, high)
    return replace(followed, shape=_round_parts(grow(followed.shape, high), r))


def _round_parts(shape: BaseGeometry, r: float) -> MultiPolygon:
    """Every part opened by r; a part that this would take away or break keeps its corners."""

    def rounded(part: Polygon) -> Polygon:
        left = parts(opening(part, r))
        return left[0] if len(left) == 1 else part

    return as_multi(rounded(part) for part in parts(shape))
