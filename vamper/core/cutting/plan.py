"""The cut plan of one sheet: every loop the blade runs, in the order it runs them.

Inner loops before outer, kiss cuts before through cuts, so that nothing moves before it is done; within each, always
the nearest loop next. A mirrored sheet is cut mirrored, as it was printed.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from vamper.core.sheet.laid import LaidSheet
from vamper.core.values.geometry import Points, mirrored, ring_points
from vamper.core.values.item import Cut
from vamper.core.values.paper import Paper


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
