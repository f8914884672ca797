"""The cut plan of one sheet: every loop the blade runs, in the order it runs them.

Inner loops before outer, kiss cuts before through cuts, so that nothing moves before it is done; within each the way
between loops is made short. Every loop runs clockwise on screen, begins at a sharp corner or a straight stretch, and
runs on a little past its beginning (overcut) so that it closes; a loop with tabs is cut as its stretches between them.
Passes are repeated a loop at a time. A mirrored sheet is cut mirrored, as it was printed.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from vamper.core.cutting.path import good_start, shortest_way
from vamper.core.edge.bends import CORNER_DEG
from vamper.core.sheet.laid import LaidSheet
from vamper.core.values.geometry import Points, mirrored, ring_points
from vamper.core.values.item import Cut, Tabs
from vamper.core.values.paper import Paper

# What a machine needs beside the cutting itself: to lift and set down, to slow down for a corner, to find its marks.
LIFT_SECONDS = 0.25
CORNER_SECONDS = 0.06
TRAVEL_MM_S = 200.0
MARKS_SECONDS = 15.0


@dataclass(frozen=True, slots=True)
class CutLoop:
    """One closed run of the blade: points of shape (n, 2) in the sheet frame, the first not repeated.

    `placement` is the piece's place on its sheet, from 0; `tabs` are bridges that stay.
    """

    item: int
    cut: Cut
    points: Points
    is_hole: bool
    placement: int = 0
    tabs: Tabs | None = None

    @property
    def length_mm(self) -> float:
        return float(np.hypot(*(np.roll(self.points, -1, axis=0) - self.points).T).sum())

    @property
    def corners(self) -> int:
        """Turns that a machine slows down for."""
        legs = np.roll(self.points, -1, axis=0) - self.points
        before = np.roll(legs, 1, axis=0)
        cross = before[:, 0] * legs[:, 1] - before[:, 1] * legs[:, 0]
        turning = np.degrees(np.abs(np.arctan2(cross, (before * legs).sum(axis=1))))
        return int((turning > CORNER_DEG).sum())

    def runs(self, overcut_mm: float) -> list[Points]:
        """What the blade runs down in one go, each (n, 2): the loop and its overcut, or its stretches between tabs."""
        closed = np.vstack([self.points, self.points[:1]])
        along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
        total = float(along[-1])
        if self.tabs is None or self.tabs.count * self.tabs.width_mm >= total:
            past = _stretch(closed, along, 0.0, min(overcut_mm, total)) if overcut_mm > 0 else closed[:1]
            return [np.vstack([closed, past[1:]])]
        each, half = total / self.tabs.count, self.tabs.width_mm / 2
        twice = np.vstack([closed, closed[1:]])
        far = np.concatenate([along, along[1:] + total])
        return [
            _stretch(twice, far, number * each + half, (number + 1) * each - half) for number in range(self.tabs.count)
        ]


def _stretch(points: Points, along: Points, start: float, end: float) -> Points:
    """The part of a line between two lengths along it."""
    inside = (along > start) & (along < end)
    ends = [[np.interp(at, along, points[:, axis]) for axis in (0, 1)] for at in (start, end)]
    return np.vstack([ends[0], points[inside], ends[1]])


@dataclass(frozen=True, slots=True)
class Run:
    """One time that the blade goes down: which loop, which pass (from 1), and where it goes."""

    loop: CutLoop
    number: int
    points: Points


@dataclass(frozen=True, slots=True)
class Timing:
    """What a sheet takes at the machine. Travel is from the sheet's top left through all runs, not home."""

    length_mm: float
    travel_mm: float
    lifts: int
    seconds: float


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

    def runs(self, passes: Mapping[Cut, int], overcut_mm: float) -> Iterator[Run]:
        """Every time that the blade goes down, in order."""
        for loop in self.loops:
            stretches = loop.runs(overcut_mm)
            for number in range(1, passes[loop.cut] + 1):
                for points in stretches:
                    yield Run(loop, number, points)

    def timing(
        self, passes: Mapping[Cut, int], speeds_mm_s: Mapping[Cut, float], overcut_mm: float, marks: int
    ) -> Timing:
        """How long the sheet takes: length over speed in every pass, corners, lifts, travel, and reading the marks."""
        at, travel, length, seconds, lifts = np.zeros(2), 0.0, 0.0, MARKS_SECONDS if marks else 0.0, 0
        for run in self.runs(passes, overcut_mm):
            one = float(np.hypot(*np.diff(run.points, axis=0).T).sum())
            travel += float(np.hypot(*(run.points[0] - at)))
            at, lifts = run.points[-1], lifts + 1
            length += one if run.number == 1 else 0.0
            seconds += one / speeds_mm_s[run.loop.cut] + LIFT_SECONDS
        corners = sum(loop.corners * passes[loop.cut] for loop in self.loops)
        return Timing(length, travel, lifts, seconds + corners * CORNER_SECONDS + travel / TRAVEL_MM_S)


def plan_cut(
    paper: Paper,
    sheet: LaidSheet,
    cuts: Mapping[int, Cut],
    mirror: bool = False,
    tabs: Mapping[int, Tabs | None] | None = None,
) -> CutPlan:
    """The loops of one sheet in cutting order; `cuts` and `tabs` are those of the designs by their numbers."""
    loops: list[CutLoop] = []
    for place, (placement, laid) in enumerate(zip(sheet.placements, sheet.edges, strict=True)):
        edge = mirrored(laid, paper.width_mm) if mirror else laid
        cut = cuts[placement.item]
        held = (tabs or {}).get(placement.item) if cut is Cut.THROUGH else None
        for part in edge.geoms:
            loops += [
                CutLoop(placement.item, cut, _clockwise(ring_points(ring)), True, place) for ring in part.interiors
            ]
            loops.append(CutLoop(placement.item, cut, _clockwise(ring_points(part.exterior)), False, place, held))
    ordered: list[CutLoop] = []
    blade_at = np.zeros(2)
    for cut in (Cut.KISS, Cut.THROUGH):
        for holes in (True, False):
            group = [_begun(loop, blade_at) for loop in loops if loop.cut is cut and loop.is_hole is holes]
            if not group:
                continue
            order = shortest_way(np.array([loop.points[0] for loop in group]), blade_at)
            ordered += [group[number] for number in order]
            blade_at = ordered[-1].points[0]
    return CutPlan(paper, tuple(ordered))


def _clockwise(points: Points) -> Points:
    """A ring that runs clockwise on screen (y down)."""
    x, y = points.T
    area = float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())
    return points if area > 0 else points[::-1]


def _begun(loop: CutLoop, at: Points) -> CutLoop:
    """The loop from a good place to begin at."""
    return replace(loop, points=np.roll(loop.points, -good_start(loop.points, at), axis=0))
