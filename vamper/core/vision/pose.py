"""Bring a design's edge onto an outline that was seen: which turn and place lay both together best.

First coarsely over all turns; then step by step to the nearest points (iterative closest point, Besl and McKay 1992),
and to the lines through them (Chen and Medioni 1992), which ends nearer to the truth where sides are long and straight.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import Points, parts, placed
from vamper.core.vision.reference import ItemReference

Floats = npt.NDArray[np.float64]

_AREA_ALIKE = (0.75, 1.3)
_TURNS = 72
_OUTLINE_POINTS = 360
_STEPS, _LINE_STEPS = 16, 8
# So much of an outline is surely the piece's own where something may touch it.
_SURE_SHARE = 0.8
_FEWEST_POINTS = 60
# A thing whose outline lies farther from a design's than this, in the mean, is another thing.
_SAME_MM = 0.9
# Outlines that differ less than this are alike, and so are turns.
ALIKE_MM, _SAME_TURN_DEG = 0.12, 6.0


@dataclass(frozen=True, slots=True)
class Pose:
    """Where something lies: turned (clockwise, degrees) about its frame's origin, then moved, mm."""

    x_mm: float
    y_mm: float
    turn_deg: float

    def of(self, shape: BaseGeometry) -> BaseGeometry:
        return placed(shape, self.x_mm, self.y_mm, self.turn_deg)


def _resampled(ring: Any, count: int = _OUTLINE_POINTS) -> Points:
    """Points evenly along a ring."""
    along = np.linspace(0, ring.length, count, endpoint=False)
    return shapely.get_coordinates(shapely.line_interpolate_point(ring, along))


class _Target:
    """A contour that was seen: points along it in a k-d tree, and the normal at each."""

    def __init__(self, ring: Any, within: BaseGeometry | None = None) -> None:
        points = _resampled(ring, 2 * _OUTLINE_POINTS)
        along = np.roll(points, -1, axis=0) - np.roll(points, 1, axis=0)
        normals = np.column_stack([along[:, 1], -along[:, 0]]) / np.hypot(*along.T)[:, None]
        keep = slice(None) if within is None else shapely.contains_xy(within, points)
        self.normals, self.tree = normals[keep], cKDTree(points[keep])


def outer_ring(shape: BaseGeometry) -> Polygon:
    """The largest part of a shape, without its holes."""
    return Polygon(max(parts(shape), key=lambda part: part.area).exterior)


def candidate_poses(thing: Polygon, item: ItemReference) -> list[tuple[float, Pose]]:
    """The poses in which a design's edge fits a contour, the best first.

    Parameters
    ----------
    thing : Polygon
        The contour as it was seen, mm.
    item : ItemReference
        The design whose edge is laid on it.

    Returns
    -------
    list of (float, Pose)
        The mean residual, mm, and the pose from the design's own frame to that of the contour; several where the edge
        looks the same in several turns, none where it is another shape.
    """
    edge = outer_ring(item.edge)
    low, high = _AREA_ALIKE
    if not low <= thing.area / max(edge.area, 1e-9) <= high:
        return []
    seen, own = _Target(thing.exterior), _resampled(edge.exterior)
    middle = np.array(edge.centroid.coords[0])
    there = np.array(thing.centroid.coords[0])
    turns = np.radians(np.arange(_TURNS) * 360 / _TURNS)
    few = own[::6] - middle
    coarse = []
    for turn in turns:
        moved = few @ rotation_matrix(turn).T + there
        coarse.append(float(seen.tree.query(moved)[0].mean()))
    settled = list[tuple[float, Pose]]()
    # The likeliest turns, and where the outline is as good in any, turns all round.
    order = np.argsort(coarse)
    near = [int(one) for one in order if coarse[one] <= coarse[order[0]] + ALIKE_MM][:: max(1, _TURNS // 24)]
    for start in dict.fromkeys([*(int(one) for one in order[:4]), *near]):
        away, pose = _icp(own, seen, middle, there, float(turns[start]))
        if away <= _SAME_MM:
            settled.append((away, pose))
    settled.sort(key=lambda one: one[0])
    best = [one for one in settled if one[0] <= settled[0][0] + ALIKE_MM]
    return [(away, pose) for number, (away, pose) in enumerate(best) if _is_new(pose, best[:number])]


def _is_new(pose: Pose, before: Sequence[tuple[float, Pose]]) -> bool:
    return all(abs((pose.turn_deg - one.turn_deg + 180) % 360 - 180) > _SAME_TURN_DEG for _, one in before)


def rotation_matrix(turn: float) -> Floats:
    """The matrix (2, 2) of a turn, radians, clockwise where y points down."""
    return np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])


def refine_pose(thing: Polygon, item: ItemReference, lying: Pose, sure: BaseGeometry) -> tuple[float, Pose]:
    """A pose made exact by the contour that was seen.

    Parameters
    ----------
    thing : Polygon
        The contour, mm.
    item : ItemReference
        The design whose edge is laid on it.
    lying : Pose
        About where the design lies.
    sure : BaseGeometry
        Where the contour is the piece's own. Outside of it a neighbour may have been seen; of what is inside, the
        worst fifth is left out in the end.

    Returns
    -------
    tuple of (float, Pose)
        The mean residual, mm, endless where too little of the contour is within `sure`; and the pose.
    """
    edge = outer_ring(item.edge)
    middle = np.array(edge.centroid.coords[0])
    own, seen = _resampled(edge.exterior), _Target(thing.exterior, sure)
    if seen.tree.n < _FEWEST_POINTS:
        return math.inf, lying
    there = np.array(lying.of(shapely.Point(middle)).coords[0])
    for count in (1.0, _SURE_SHARE):
        away, pose = _icp(own, seen, middle, there, math.radians(lying.turn_deg), count)
        there, lying = np.array(pose.of(shapely.Point(middle)).coords[0]), pose
    return away, pose


def _icp(
    own: Points, seen: _Target, middle: Floats, there: Floats, turn: float, count: float = 1.0
) -> tuple[float, Pose]:
    """Iterative closest point: to the nearest points first, then to the lines through them.

    Parameters
    ----------
    own : ndarray, shape (n, 2)
        Points of the edge, in the design's own frame.
    middle, there : ndarray, shape (2,)
        A point of the design, and where it lies to begin with.
    turn : float
        The turn to begin with, radians.
    count : float
        The share of the points, beginning with the smallest residuals, that is fitted.
    """
    linear, offset = rotation_matrix(turn), there - rotation_matrix(turn) @ middle
    away = math.inf
    for _ in range(_STEPS):
        moved = own @ linear.T + offset
        distance, nearest = seen.tree.query(moved)
        keep = distance <= np.quantile(distance, count)
        now = float(distance[keep].mean())
        if away - now < 1e-5:
            away = now
            break
        away = now
        target = seen.tree.data[nearest]
        from_middle, to_middle = own[keep].mean(axis=0), target[keep].mean(axis=0)
        a, b = own[keep] - from_middle, target[keep] - to_middle
        u, _, vt = np.linalg.svd(a.T @ b)
        flip = np.diag([1.0, np.linalg.det(vt.T @ u.T)])
        linear = vt.T @ flip @ u.T
        offset = to_middle - linear @ from_middle
    for _ in range(_LINE_STEPS):
        moved = own @ linear.T + offset
        distance, nearest = seen.tree.query(moved)
        keep = distance <= np.quantile(distance, count)
        facing, here = seen.normals[nearest][keep], moved[keep]
        centre = here.mean(axis=0)
        arm = here - centre
        rows = np.column_stack([facing, facing[:, 1] * arm[:, 0] - facing[:, 0] * arm[:, 1]])
        gaps = np.einsum("ij,ij->i", facing, seen.tree.data[nearest][keep] - here)
        # A round outline says nothing of its turn; the least step leaves it as it is.
        (dx, dy, turned), *_ = np.linalg.lstsq(rows, gaps, rcond=1e-3)
        linear, offset = (
            rotation_matrix(turned) @ linear,
            rotation_matrix(turned) @ (offset - centre) + centre + (dx, dy),
        )
        away = float(np.abs(gaps).mean())
    return away, Pose(float(offset[0]), float(offset[1]), math.degrees(math.atan2(linear[1, 0], linear[0, 0])))
