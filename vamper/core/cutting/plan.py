"""The cut plan of one sheet: every loop the blade runs, in the order it runs them.

Inner loops before outer, kiss cuts before through cuts, so that nothing moves before it is done; within each, always
the nearest loop next. A mirrored sheet is cut mirrored, as it was printed.

`smallest_radius` looks for the tightest bend of a loop. A vertex that turns by more than `CORNER_DEG` is a corner,
where the blade swivels anyway; everything else is a bend, whose radius is length over turning within a short window.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from vamper.core.edge.edge import Edge
from vamper.core.sheet.laid import LaidSheet
from vamper.core.values.geometry import Points, mirrored, ring_points
from vamper.core.values.item import Cut
from vamper.core.values.paper import Paper

CORNER_DEG = 30.0
_WINDOW_MM = 0.6
_STEP_MM = 0.1


@dataclass(frozen=True, slots=True)
class CutLoop:
    """One closed run of the blade: points of shape (n, 2) in the sheet frame, the first not repeated."""

    item: int
    cut: Cut
    points: Points
    is_hole: bool

    @property
    def length_mm(self) -> float:
        return float(np.hypot(*(np.roll(self.points, -1, axis=0) - self.points).T).sum())


@dataclass(frozen=True, slots=True)
class CutPlan:
    """All loops of a sheet, in order; `strokes` are open lines (n, 2), cut before them as kiss cuts."""

    paper: Paper
    loops: tuple[CutLoop, ...]
    strokes: tuple[Points, ...] = ()

    def moved(self, move: Callable[[Points], Points]) -> "CutPlan":
        """The same with every point moved."""
        loops = tuple(replace(loop, points=move(loop.points)) for loop in self.loops)
        return replace(self, loops=loops, strokes=tuple(move(points) for points in self.strokes))

    @property
    def length_mm(self) -> float:
        return sum(loop.length_mm for loop in self.loops)


def plan_cut(paper: Paper, sheet: LaidSheet, cuts: Mapping[int, Cut], mirror: bool = False) -> CutPlan:
    """The loops of one sheet in cutting order; `cuts` are those of the designs by their numbers."""
    loops: list[CutLoop] = []
    for placement, laid in zip(sheet.placements, sheet.edges, strict=True):
        edge = mirrored(laid, paper.width_mm) if mirror else laid
        cut = cuts[placement.item]
        for part in edge.geoms:
            loops += [CutLoop(placement.item, cut, ring_points(ring), True) for ring in part.interiors]
            loops.append(CutLoop(placement.item, cut, ring_points(part.exterior), False))
    ordered: list[CutLoop] = []
    blade_at = np.zeros(2)
    for cut in (Cut.KISS, Cut.THROUGH):
        for holes in (True, False):
            group = [loop for loop in loops if loop.cut is cut and loop.is_hole is holes]
            nearest = _nearest_next(group, blade_at)
            if nearest:
                blade_at = nearest[-1].points[0]
            ordered += nearest
    return CutPlan(paper, tuple(ordered))


def _nearest_next(group: list[CutLoop], start: Points) -> list[CutLoop]:
    """The group's loops, each time the one whose first point is nearest to where the blade is."""
    if not group:
        return []
    firsts = np.array([loop.points[0] for loop in group])
    waiting = np.ones(len(group), dtype=bool)
    at, order = start, []
    for _ in group:
        distances = np.where(waiting, ((firsts - at) ** 2).sum(axis=1), math.inf)
        chosen = int(distances.argmin())
        waiting[chosen] = False
        at = firsts[chosen]
        order.append(group[chosen])
    return order


def smallest_radius(edge: Edge) -> float:
    """The tightest bend of all loops of an edge, mm; infinite where there are only straights and corners."""
    rings = [ring for part in edge.shape.geoms for ring in (part.exterior, *part.interiors)]
    return min((_ring_radius(ring_points(ring)) for ring in rings), default=math.inf)


def _ring_radius(points: Points) -> float:
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
