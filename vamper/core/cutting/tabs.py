"""Where the bridges that hold a piece are left: spread along its loop, each on the straightest stretch of its share.

A bridge on a corner tears the corner off when it is snapped, so a loop is shared out evenly among its tabs, and within
its share each goes where the loop turns least. Tabs take half of a loop at most: beyond that a piece is not cut out.
"""

import numpy as np

from vamper.core.edge.bends import turning_deg
from vamper.core.values.geometry import Points
from vamper.core.values.item import Tabs

MOST_TABBED = 0.5
# Places that are tried in each share; what is kept straight on both sides of a tab, mm.
_TRIALS = 25
_BESIDE_MM = 1.0
# Turns that differ by less are the same; then the middle of the share is best.
_SAME_DEG = 2.0


def tabs_that_fit(length_mm: float, tabs: Tabs) -> int:
    """How many of the tabs a loop of some length takes."""
    return min(tabs.count, int(MOST_TABBED * length_mm / tabs.width_mm + 1e-9))


def tab_middles(points: Points, tabs: Tabs) -> list[float]:
    """The middles of the tabs on a ring (n, 2), as lengths along it from its first point, mm; ascending."""
    legs = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
    at = np.concatenate([[0.0], np.cumsum(legs)])
    total = float(at[-1])
    count = tabs_that_fit(total, tabs)
    if not count:
        return []
    share, half = total / count, tabs.width_mm / 2
    # Turning summed along three rounds, so that a window across the ring's beginning is read like any other.
    turns = np.tile(np.abs(turning_deg(points)), 3)
    where = np.concatenate([at[:-1] - total, at[:-1], at[:-1] + total])
    summed = np.concatenate([[0.0], np.cumsum(turns)])

    def turned(middle: float) -> float:
        reach = half + _BESIDE_MM
        first, last = np.searchsorted(where, [middle - reach, middle + reach])
        return float(summed[last] - summed[first])

    middles = []
    for number in range(count):
        tried = np.linspace(number * share + half, (number + 1) * share - half, _TRIALS)
        centre = (number + 0.5) * share
        middles.append(min(tried, key=lambda one: (round(turned(float(one)) / _SAME_DEG), abs(one - centre))))
    return [float(one) for one in middles]
