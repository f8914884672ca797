"""Planar geometry shared by all stations, in millimetres with y down.

Shapes are shapely polygons. Growing and shrinking use round joins; an arc is drawn with enough segments that the
polygon stays within `ARC_ERROR_MM` of the true circle, whatever its radius. `closing` and `opening` are the two
morphological pairs: a closing rounds notches and ties what is near, an opening removes what is thin.
"""

import math
from collections.abc import Iterable
from typing import TypeVar

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

Shape = TypeVar("Shape", bound=BaseGeometry)
Points = npt.NDArray[np.float64]

ARC_ERROR_MM = 0.004
_NOTHING_MM = 1e-9


def quarter_segments(radius_mm: float, error_mm: float = ARC_ERROR_MM) -> int:
    """Segments a quarter circle for a sagitta of at most `error_mm`: r(1 − cos(π/4n)) ≤ error.

    At least 8; 16 at 3 mm would err by 0.004 mm, which is what `ARC_ERROR_MM` asks for.
    """
    if radius_mm <= error_mm:
        return 8
    return max(8, math.ceil(math.pi / 4 / math.acos(1 - error_mm / radius_mm)))


def grow(shape: BaseGeometry, radius_mm: float, error_mm: float = ARC_ERROR_MM) -> BaseGeometry:
    """`shape` grown (or, with a negative radius, shrunk) by a disc."""
    # An offset by next to nothing leaves nothing at all.
    if abs(radius_mm) < _NOTHING_MM:
        return shape
    return shape.buffer(radius_mm, quad_segs=quarter_segments(abs(radius_mm), error_mm))


def grow_far(shape: BaseGeometry, radius_mm: float) -> BaseGeometry:
    """`shape` grown by a radius that is large beside its detail, several times faster than `grow`.

    The cost of an offset rises steeply with the crossings of its raw curve, and the crossings with the detail that the
    disc will swallow anyway. So a detailed shape is first grown by a little, which rounds its detail away, and thinned
    out, before the long way is gone. Off by at most 0.012 mm (simplifications 0.003 + 0.004 + 0.004, arcs below 0.003),
    never outward by more than `ARC_ERROR_MM`.
    """
    stages = (0.1, 0.4)
    if radius_mm <= 2 * sum(stages) or shapely.get_num_coordinates(shape) < 600:
        return grow(shape, radius_mm)
    grown = shape.simplify(0.003)
    for stage in stages:
        grown = grow(grown, stage, 0.001).simplify(0.004)
    return grow(grown, radius_mm - sum(stages), 0.003)


def closing(shape: BaseGeometry, radius_mm: float, error_mm: float = ARC_ERROR_MM) -> BaseGeometry:
    """Grown and shrunk again: notches narrower than twice the radius are filled."""
    if radius_mm <= 0:
        return shape
    return grow(grow(shape, radius_mm, error_mm), -radius_mm, error_mm)


def opening(shape: BaseGeometry, radius_mm: float, error_mm: float = ARC_ERROR_MM) -> BaseGeometry:
    """Shrunk and grown again: parts thinner than twice the radius are removed."""
    if radius_mm <= 0:
        return shape
    return grow(grow(shape, -radius_mm, error_mm), radius_mm, error_mm)


def parts(shape: BaseGeometry) -> list[Polygon]:
    """The polygons of any geometry; lines and points left over by an overlay are dropped."""
    if shape.is_empty:
        return []
    if isinstance(shape, Polygon):
        return [shape]
    return [part for part in shapely.get_parts(shape).tolist() if isinstance(part, Polygon) and part.area > 0]


def as_multi(polygons: Iterable[Polygon]) -> MultiPolygon:
    """Polygons bundled in reading order (top to bottom, then left to right), for a stable result."""
    ordered: list[Polygon] = list(polygons)
    ordered.sort(key=lambda part: (round(part.bounds[1], 3), round(part.bounds[0], 3)))
    return MultiPolygon(ordered)


def without_holes(shape: BaseGeometry) -> BaseGeometry:
    """Every hole filled. Parts lying in another's hole are swallowed by it."""
    return shapely.union_all([Polygon(part.exterior) for part in parts(shape)])


def hole_polygons(shape: BaseGeometry) -> list[Polygon]:
    """The holes of all parts, each as a polygon of its own."""
    return [Polygon(ring) for part in parts(shape) for ring in part.interiors]


def simplified(shape: BaseGeometry, tolerance_mm: float) -> BaseGeometry:
    """Fewer points, never off by more than `tolerance_mm`, never self-touching.

    The fast simplification may pinch a ring; where it did, the topology-keeping simplification is used instead.
    """
    fast = shape.simplify(tolerance_mm, preserve_topology=False)
    if fast.is_valid and len(parts(fast)) == len(parts(shape)):
        return fast
    return shape.simplify(tolerance_mm, preserve_topology=True)


def clockwise_on_screen(polygon: Polygon) -> Polygon:
    """The shell clockwise as seen on screen (y down), holes the other way round."""
    # With y down, shapely's counter-clockwise (sign +1) is what the eye sees as clockwise.
    return shapely.geometry.polygon.orient(polygon, sign=1.0)


def placed(shape: BaseGeometry, x_mm: float, y_mm: float, turn_deg: float) -> BaseGeometry:
    """`shape` turned about its frame's origin (clockwise on screen), then moved.

    X = x + u·cos t − v·sin t, Y = y + u·sin t + v·cos t (the placement of the job file).
    """
    turn = math.radians(turn_deg)
    cos, sin = math.cos(turn), math.sin(turn)
    return shapely.affinity.affine_transform(shape, [cos, -sin, sin, cos, x_mm, y_mm])


def mirrored(shape: Shape, width_mm: float) -> Shape:
    """`shape` as seen from behind a sheet `width_mm` wide: x becomes width − x."""
    turned: Shape = shapely.affinity.affine_transform(shape, [-1, 0, 0, 1, width_mm, 0])
    return turned


def longest_side(part: BaseGeometry) -> float:
    """The longer side of the smallest rectangle round a part, turned as it likes."""
    corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(part))
    return float(np.hypot(*np.diff(corners, axis=0).T).max(initial=0.0))


def ring_points(ring: BaseGeometry) -> Points:
    """The points of a ring, shape (n, 2), the first not repeated at the end."""
    return shapely.get_coordinates(ring)[:-1]


def hull_points(shape: MultiPolygon) -> Points:
    """The corners of the convex hull, shape (n, 2): all that a convex kind needs to clear."""
    return shapely.get_coordinates(shape.convex_hull)
