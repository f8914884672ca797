"""The order of loops with the least way between them, and where on a loop the blade sets down.

Nearest neighbour first, then 2-opt: as long as turning a stretch of the order round makes the way shorter, it is
turned. Loops are run from the place where they begin and end there, so the way between two is between their starts.
"""

import math

import numpy as np
import numpy.typing as npt

from vamper.core.edge.bends import corners_of
from vamper.core.values.geometry import Points

Floats = npt.NDArray[np.float64]

_MOST_SWEEPS = 30
_SHORTER_MM = 1e-9


def shortest_way(places: Points, at: Points) -> list[int]:
    """An order of places (n, 2) with a short way through them, from `at`; no way home."""
    if not len(places):
        return []
    order = _nearest_next(places, at)
    return _turned_round(places, at, order)


def way_mm(places: Points, at: Points, order: list[int]) -> float:
    """The length of a way from `at` through places in an order."""
    if not order:
        return 0.0
    points = np.vstack([at, places[order]])
    return float(np.hypot(*np.diff(points, axis=0).T).sum())


def _nearest_next(places: Points, at: Points) -> list[int]:
    waiting = np.ones(len(places), dtype=bool)
    order = []
    for _ in range(len(places)):
        chosen = int(np.where(waiting, ((places - at) ** 2).sum(axis=1), math.inf).argmin())
        waiting[chosen] = False
        at = places[chosen]
        order.append(chosen)
    return order


def _turned_round(places: Points, at: Points, order: list[int]) -> list[int]:
    """2-opt on an open way that begins at `at`."""
    count = len(order)
    if count < 3:
        return order
    points = np.vstack([at, places[order]])
    names = np.arange(-1, count)
    names[1:] = order
    for _ in range(_MOST_SWEEPS):
        better = False
        for first in range(1, count):
            before, here = points[first - 1], points[first]
            lasts = points[first + 1 :]
            after = np.vstack([points[first + 2 :], points[-1:]])
            # Turning first..last round swaps two legs; past the end there is no second one.
            leg = np.hypot(*(after - lasts).T)
            new_leg = np.hypot(*(after - here).T)
            leg[-1] = new_leg[-1] = 0.0
            gain = np.hypot(*(here - before)) + leg - np.hypot(*(lasts - before).T) - new_leg
            best = int(gain.argmax())
            if gain[best] > _SHORTER_MM:
                last = first + 1 + best
                points[first : last + 1] = points[first : last + 1][::-1].copy()
                names[first : last + 1] = names[first : last + 1][::-1].copy()
                better = True
        if not better:
            break
    return [int(name) for name in names[1:]]


def good_start(points: Points, at: Points) -> int:
    """The vertex of a ring (n, 2) to begin at: the sharp corner nearest to `at`, or, where there is none, where the
    longest straight stretch begins.
    """
    corners = corners_of(points)
    if len(corners):
        return int(corners[((points[corners] - at) ** 2).sum(axis=1).argmin()])
    legs = np.roll(points, -1, axis=0) - points
    return int((np.hypot(*legs.T)).argmax())
