"""The tightest bend of a ring.

A vertex that turns by more than `CORNER_DEG` is a corner, where a blade swivels anyway; everything else is a bend,
whose radius is length over turning within a short window.
"""

import math

import numpy as np

from vamper.core.values.geometry import Points

CORNER_DEG = 30.0
_WINDOW_MM = 0.6
_STEP_MM = 0.1


def tightest_mm(points: Points) -> float:
    """The smallest radius along a ring, shape (n, 2); infinite where there are only straights and corners."""
    legs = np.roll(points, -1, axis=0) - points
    lengths = np.hypot(*legs.T)
    before = np.roll(legs, 1, axis=0)
    cross = before[:, 0] * legs[:, 1] - before[:, 1] * legs[:, 0]
    dot = (before * legs).sum(axis=1)
    turning = np.degrees(np.arctan2(cross, dot))
    turning[np.abs(turning) > CORNER_DEG] = 0.0
    # Turning summed along the loop, read off at even steps: a window's turning is a difference of two readings.
    at = np.concatenate([[0.0], np.cumsum(lengths)])
    total = float(at[-1])
    if total < 2 * _WINDOW_MM:
        return total / (2 * math.pi)
    # Each vertex' turn is spread over half of its two legs, as on the arc that the polygon stands for.
    middles = (at[:-1] + at[1:]) / 2
    turned = np.cumsum(turning)
    around = float(turned[-1])
    stations = np.arange(0.0, total, _STEP_MM)
    xs = np.concatenate([[middles[-1] - total], middles, [middles[0] + total]])
    ys = np.concatenate([[turned[-1] - around], turned, [turned[0] + around]])
    wrapped = np.concatenate([stations, stations + total])
    readings = np.concatenate([np.interp(stations, xs, ys), np.interp(stations, xs, ys) + around])
    ahead = np.interp(stations + _WINDOW_MM, wrapped, readings)
    most = float(np.abs(ahead - readings[: len(stations)]).max())
    return _WINDOW_MM / math.radians(most) if most > 1e-6 else math.inf
