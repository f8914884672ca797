"""The bends of a ring: how tight the tightest is, and where it bends tighter than a blade goes round.

A vertex that turns by more than `CORNER_DEG` is a corner, where a blade swivels anyway; everything else is a bend,
whose radius is length over turning within a short window.
"""

import math

import numpy as np
import numpy.typing as npt

from vamper.core.values.geometry import Points

Floats = npt.NDArray[np.float64]

CORNER_DEG = 30.0
# Every blade goes round a bend of this radius.
EASY_RADIUS_MM = 0.7
_WINDOW_MM = 0.6
# Finer than any cutter's step, coarser than what arithmetic leaves behind.
_JOG_MM = 0.02
_STEP_MM = 0.1
# A bend as tight as the limit is none too tight, whatever rounding says.
_ROUNDING_MM = 0.02


def turning_deg(points: Points) -> Floats:
    """How far a ring, shape (n, 2), turns at each of its points, degrees; clockwise on screen positive."""
    legs = np.roll(points, -1, axis=0) - points
    before = np.roll(legs, 1, axis=0)
    cross = before[:, 0] * legs[:, 1] - before[:, 1] * legs[:, 0]
    return np.asarray(np.degrees(np.arctan2(cross, (before * legs).sum(axis=1))))


def corners_of(points: Points) -> npt.NDArray[np.intp]:
    """Which points of a ring, shape (n, 2), are corners.

    At a jog finer than any cutter's step the turns undo each other: what counts is what is left of them close by.
    """
    turning = turning_deg(points)
    sharp = np.flatnonzero(np.abs(turning) > CORNER_DEG)
    if not len(sharp):
        return sharp
    legs = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
    at = np.concatenate([[0.0], np.cumsum(legs)])
    total, at = float(at[-1]), at[:-1]
    # Read along three rounds, so that the ring's beginning is a place like any other.
    where = np.concatenate([at - total, at, at + total])
    summed = np.concatenate([[0.0], np.cumsum(np.tile(turning, 3))])
    first = np.searchsorted(where, at[sharp] - _JOG_MM)
    last = np.searchsorted(where, at[sharp] + _JOG_MM, side="right")
    corners = sharp[np.abs(summed[last] - summed[first]) > CORNER_DEG]
    # Points so near to each other are one corner.
    return np.asarray(corners[np.diff(at[corners], prepend=-math.inf) > _JOG_MM])


def tightest_mm(points: Points) -> float:
    """The smallest radius along a ring, shape (n, 2); infinite where there are only straights and corners."""
    return float(_radii(points)[1].min())


def tight_places(points: Points, limit_mm: float) -> list[Points]:
    """Where a ring bends tighter than a limit: each place as the points (m, 2) along it."""
    stations, radii = _radii(points)
    tight = np.flatnonzero(radii < limit_mm - _ROUNDING_MM)
    if not len(tight):
        return []
    if len(stations) == 1:
        return [points]
    # A window that is tight covers what lies ahead of its station.
    closed = np.vstack([points, points[:1]])
    at = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    middles = (stations[tight] + _WINDOW_MM / 2) % at[-1]
    places = np.column_stack([np.interp(middles, at, closed[:, axis]) for axis in (0, 1)])
    apart = round(_WINDOW_MM / _STEP_MM)
    groups = list(np.split(places, np.flatnonzero(np.diff(tight) > apart) + 1))
    if len(groups) > 1 and tight[0] + len(stations) - tight[-1] <= apart:
        # A bend across the ring's beginning is one.
        groups[0] = np.vstack([groups.pop(), groups[0]])
    return groups


def _radii(points: Points) -> tuple[Points, Points]:
    """Even stations along a ring (mm) and the radius of the bend in the window ahead of each."""
    lengths = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
    turning = turning_deg(points)
    turning[np.abs(turning) > CORNER_DEG] = 0.0
    # Turning summed along the loop, read off at even steps: a window's turning is a difference of two readings.
    at = np.concatenate([[0.0], np.cumsum(lengths)])
    total = float(at[-1])
    if total < 2 * _WINDOW_MM:
        return np.zeros(1), np.array([total / (2 * math.pi)])
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
    most = np.abs(ahead - readings[: len(stations)])
    return stations, np.where(most > 1e-6, _WINDOW_MM / np.radians(np.maximum(most, 1e-6)), math.inf)
