"""How much room a shape has inside another before a shift takes it out: what a cut may miss by, and in which direction.

For each point of the inner shape the nearest place on the outer one's rim is looked up: its distance b and direction n.
A shift v of the rim passes that point when b + v · n < 0. Only the nearest few in each direction are kept, so many
shifts can be tried at once. It is exact where the rim is straight over the length of the shift.
"""

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import Points, parts, ring_points

Floats = npt.NDArray[np.float64]

NO_ROOM: Floats = np.zeros((0, 3))
_DIRECTIONS = 48
_MOST_POINTS = 600
_THIN_MM = 0.01
_TOUCHING_MM = 1e-3


def shift_margins(inner: BaseGeometry, outer: BaseGeometry) -> tuple[Floats, Points]:
    """Rows (b, nx, ny) for points of both rims, shape (n, 3), with the points themselves on the inner one (n, 2)."""
    if inner.is_empty or outer.is_empty:
        return NO_ROOM, np.zeros((0, 2))
    rim, drawn = outer.boundary, shapely.simplify(inner, _THIN_MM).boundary
    points = _spread(shapely.get_coordinates(drawn))
    legs = shapely.get_coordinates(shapely.shortest_line(shapely.points(points), rim)).reshape(-1, 2, 2)
    shapely.prepare(outer)
    within = shapely.intersects_xy(outer, points[:, 0], points[:, 1])
    rows, at = _rows(legs[:, 1] - legs[:, 0], np.where(within, 1.0, -1.0)), points
    kept = np.abs(rows[:, 0]) > _TOUCHING_MM
    corners, outward = _normals(outer)
    back = shapely.get_coordinates(shapely.shortest_line(shapely.points(corners), drawn)).reshape(-1, 2, 2)
    shapely.prepare(inner)
    bitten = shapely.contains_xy(inner, corners[:, 0], corners[:, 1])
    others = _rows(back[:, 0] - back[:, 1], np.where(bitten, -1.0, 1.0))
    touching = np.abs(others[:, 0]) <= _TOUCHING_MM
    others[touching, 1:] = outward[touching]
    return np.vstack([rows[kept], others]), np.vstack([at[kept], back[:, 1]])


def nearest_only(rows: Floats) -> Floats:
    """Of each direction the row with the least room."""
    if not len(rows):
        return NO_ROOM
    sector = (np.arctan2(rows[:, 2], rows[:, 1]) / (2 * np.pi) * _DIRECTIONS).round().astype(int) % _DIRECTIONS
    order = np.lexsort((rows[:, 0], sector))
    first = np.unique(sector[order], return_index=True)[1]
    return rows[order[first]]


def turned(rows: Floats, turn_deg: float, mirror: bool) -> Floats:
    """The same room for a piece that lies turned (clockwise on screen), seen from behind if mirrored."""
    turn = np.radians(turn_deg)
    cos, sin = np.cos(turn), np.sin(turn)
    x, y = rows[:, 1] * cos - rows[:, 2] * sin, rows[:, 1] * sin + rows[:, 2] * cos
    return np.column_stack([rows[:, 0], -x if mirror else x, y])


def is_passed(rows: Floats, shifts: Floats, spare_mm: float = 0.0) -> npt.NDArray[np.bool_]:
    """Whether shifts (runs, 2) of the outer rim take more than the room and what is to spare."""
    if not len(rows):
        return np.zeros(len(shifts), bool)
    passed = rows[:, 0] + spare_mm + shifts @ rows[:, 1:].T < 0
    return np.asarray(passed.any(axis=1))


def _rows(away: Floats, sign: Floats) -> Floats:
    length = np.hypot(*away.T)
    way = away / np.maximum(length, 1e-9)[:, None]
    return np.column_stack([length * sign, way * sign[:, None]])


def _spread(points: Points) -> Points:
    step = max(1, len(points) // _MOST_POINTS)
    return points[::step]


def _normals(shape: BaseGeometry) -> tuple[Points, Points]:
    """Points of all rings of a shape, and which way is out there."""
    points, outward = [], []
    for part in parts(shape):
        for ring, hole in [(part.exterior, False), *((one, True) for one in part.interiors)]:
            mine = ring_points(ring)
            along = np.roll(mine, -1, axis=0) - np.roll(mine, 1, axis=0)
            area = float((mine[:, 0] * np.roll(mine[:, 1], -1) - np.roll(mine[:, 0], -1) * mine[:, 1]).sum())
            way = np.column_stack([along[:, 1], -along[:, 0]]) * (1 if (area > 0) is not hole else -1)
            points.append(mine)
            outward.append(way / np.maximum(np.hypot(*way.T), 1e-9)[:, None])
    every, ways = np.vstack(points), np.vstack(outward)
    step = max(1, len(every) // _MOST_POINTS)
    return every[::step], ways[::step]
