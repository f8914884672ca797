"""The box of a piece at every turn it may take, and the turn in which it fits a room best."""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
import shapely
import shapely.affinity
from shapely.geometry import MultiPolygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import placed
from vamper.core.values.item import Turn

_STEP_DEG = 0.25
# Turned shapes this little apart, on average along their rims, are the same for laying them.
_SAME_MM = 0.02


def turns_of(turn: Turn) -> npt.NDArray[np.float64]:
    """Turns that make different boxes: the square ones, or for any turn half a circle in quarter degrees."""
    choices = {Turn.UPRIGHT: [0.0], Turn.HALF: [0.0], Turn.QUARTER: [0.0, 90.0]}
    return np.array(choices[turn]) if turn in choices else np.arange(0.0, 180.0, _STEP_DEG)


def boxes_at(edge: MultiPolygon, degrees: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """Width and height of the piece's box at each turn, shape (n, 2)."""
    points = shapely.get_coordinates(edge.convex_hull)
    t = np.radians(degrees)
    across = np.outer(np.cos(t), points[:, 0]) - np.outer(np.sin(t), points[:, 1])
    down = np.outer(np.sin(t), points[:, 0]) + np.outer(np.cos(t), points[:, 1])
    return np.column_stack([np.ptp(across, axis=1), np.ptp(down, axis=1)])


def best_turn(edge: MultiPolygon, room: tuple[float, float], turn: Turn) -> tuple[float, float]:
    """The turn (degrees) that sticks out least, and by how much; 0 or less where the piece fits."""
    degrees = turns_of(turn)
    overhang = (boxes_at(edge, degrees) - room).max(axis=1)
    least = int(overhang.argmin())
    return float(degrees[least]), float(overhang[least])


def distinct(edge: MultiPolygon, degrees: Sequence[float]) -> list[float]:
    """The turns in which a piece is not the same as in an earlier turn: of a disc one turn, of a square one of
    four quarters, of an oblong two.

    Most turns differ in their boxes already; only what is left is laid on each other.
    """
    # Round its middle a box tells both how large a piece is and where the middle lies in it.
    centred = shapely.affinity.translate(edge, -edge.centroid.x, -edge.centroid.y)
    most_area = _SAME_MM * edge.length
    kept: list[tuple[float, BaseGeometry]] = []
    for turn_deg in degrees:
        turned = placed(centred, 0, 0, turn_deg)
        if not any(
            np.abs(np.subtract(turned.bounds, other.bounds)).max() < 2 * _SAME_MM
            and shapely.symmetric_difference(turned, other).area < most_area
            for _, other in kept
        ):
            kept.append((turn_deg, turned))
    return [turn_deg for turn_deg, _ in kept]


def turned_box(hull: BaseGeometry, turn_deg: float) -> tuple[float, float, float, float]:
    """The box of an edge, by its convex hull, turned about its frame's origin."""
    box: tuple[float, float, float, float] = placed(hull, 0, 0, turn_deg).bounds
    return box
