"""The cut plan of one sheet: every loop the blade runs, in the order it runs them.

Kiss cuts before through cuts, and what lies deepest inside others first, whoever's it is: a hole before its piece, and
a piece that lies in another's hole before that hole, so that nothing is cut from what is loose already. Within each
depth the way between loops is made short. Every loop runs clockwise on screen, begins at a sharp corner or a straight
stretch, and runs on a little past its beginning (overcut) so that it closes; a loop with tabs is cut as its stretches
between them. Passes are repeated a loop at a time. A mirrored sheet is cut mirrored, as it was printed.
"""

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
import shapely

from vamper.core.cutting.path import good_start, shortest_way
from vamper.core.cutting.tabs import tab_middles
from vamper.core.edge.bends import corners_of
from vamper.core.sheet.laid import LaidSheet
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import Points, mirrored, ring_points
from vamper.core.values.item import Tabs
from vamper.core.values.paper import Paper

# What a machine needs beside the cutting itself: to lift and set down, to slow down for a corner, to find its marks.
LIFT_SECONDS = 0.25
CORNER_SECONDS = 0.06
TRAVEL_MM_S = 200.0
MARKS_SECONDS = 15.0


@dataclass(frozen=True, slots=True)
class CutLoop:
    """One closed run of the blade.

    Parameters
    ----------
    item : int
        The design's number.
    cut : Cut
        How deep it goes.
    points : array, shape (n, 2)
        mm in the sheet frame; the first point is not repeated.
    is_hole : bool
        Whether it is the rim of a hole.
    placement : int
        The piece's place on its sheet, from 0.
    tabs : Tabs or None
        The bridges that stay.
    radius_mm : float
        Its tightest bend.
    """

    item: int
    cut: Cut
    points: Points
    is_hole: bool
    placement: int = 0
    tabs: Tabs | None = None
    radius_mm: float = math.inf

    @property
    def length_mm(self) -> float:
        return float(np.hypot(*(np.roll(self.points, -1, axis=0) - self.points).T).sum())

    @property
    def corners(self) -> int:
        """Turns that a machine slows down for."""
        return len(corners_of(self.points))

    def runs(self, overcut_mm: float) -> list[Points]:
        """What the blade runs down in one go, each (n, 2): the loop and its overcut, or its stretches between tabs."""
        closed = np.vstack([self.points, self.points[:1]])
        along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
        total = float(along[-1])
        middles = tab_middles(self.points, self.tabs) if self.tabs is not None else []
        if not middles:
            past = _stretch(closed, along, 0.0, min(overcut_mm, total)) if overcut_mm > 0 else closed[:1]
            return [np.vstack([closed, past[1:]])]
        half = self.tabs.width_mm / 2 if self.tabs is not None else 0.0
        twice = np.vstack([closed, closed[1:]])
        far = np.concatenate([along, along[1:] + total])
        return [
            _stretch(twice, far, middle + half, after - half)
            for middle, after in pairwise([*middles, middles[0] + total])
        ]


def _stretch(points: Points, along: Points, start: float, end: float) -> Points:
    """The part of a line between two lengths along it."""
    inside = (along > start) & (along < end)
    ends = [[np.interp(at, along, points[:, axis]) for axis in (0, 1)] for at in (start, end)]
    return np.vstack([ends[0], points[inside], ends[1]])


@dataclass(frozen=True, slots=True)
class BladeRun:
    """One time that the blade goes down: which loop, which pass (from 1), and where it goes; `is_first` of its pass."""

    loop: CutLoop
    number: int
    points: Points
    is_first: bool = True


@dataclass(frozen=True, slots=True)
class Timed:
    """A run with its speed, and when it begins and ends, seconds from the start; `from_mm` is where the blade came
    from.
    """

    run: BladeRun
    speed_mm_s: float
    from_mm: tuple[float, float]
    begins: float
    ends: float


@dataclass(frozen=True, slots=True)
class Timing:
    """The seconds of a sheet at the machine. Travel is from the sheet's top left through all runs, not home. `parts`
    are the seconds of reading marks, cutting, corners, lifts and travel.
    """

    length_mm: float
    travel_mm: float
    lifts: int
    seconds: float
    parts: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class CutPlan:
    """All loops of a sheet, in order; `strokes` are open lines (n, 2), cut before them, as `strokes_cut` says."""

    paper: Paper
    loops: tuple[CutLoop, ...]
    strokes: tuple[Points, ...] = ()
    strokes_cut: Cut = Cut.KISS

    def moved(self, move: Callable[[Points], Points]) -> "CutPlan":
        """The same with every point moved."""
        loops = tuple(replace(loop, points=move(loop.points)) for loop in self.loops)
        return replace(self, loops=loops, strokes=tuple(move(points) for points in self.strokes))

    @property
    def length_mm(self) -> float:
        return sum(loop.length_mm for loop in self.loops)

    def runs(self, passes: Mapping[Cut, int], overcut_mm: float) -> Iterator[BladeRun]:
        """Every time that the blade goes down, in order."""
        for loop in self.loops:
            stretches = loop.runs(overcut_mm)
            for number in range(1, passes[loop.cut] + 1):
                for place, points in enumerate(stretches):
                    yield BladeRun(loop, number, points, place == 0)

    def timed(
        self, passes: Mapping[Cut, int], speed_of: Callable[[CutLoop], float], overcut_mm: float, marks: int
    ) -> Iterator[Timed]:
        """Every run with the time at which it begins and ends: the machine reads its marks, travels, sets down, cuts,
        and slows down for corners.
        """
        at, clock = (0.0, 0.0), MARKS_SECONDS if marks else 0.0
        for run in self.runs(passes, overcut_mm):
            start, end = run.points[0], run.points[-1]
            speed = speed_of(run.loop)
            begins = clock + math.hypot(start[0] - at[0], start[1] - at[1]) / TRAVEL_MM_S + LIFT_SECONDS
            clock = begins + _length(run.points) / speed + _corners(run) * CORNER_SECONDS
            yield Timed(run, speed, at, begins, clock)
            at = (float(end[0]), float(end[1]))

    def timing(
        self, passes: Mapping[Cut, int], speed_of: Callable[[CutLoop], float], overcut_mm: float, marks: int
    ) -> Timing:
        """How long the sheet takes: length over speed in every pass, corners, lifts, travel, and reading the marks."""
        travel, length, lifts, cutting, corners = 0.0, 0.0, 0, 0.0, 0.0
        for one in self.timed(passes, speed_of, overcut_mm, marks):
            start, long = one.run.points[0], _length(one.run.points)
            travel += math.hypot(start[0] - one.from_mm[0], start[1] - one.from_mm[1])
            lifts += 1
            length += long if one.run.number == 1 else 0.0
            cutting += long / one.speed_mm_s
            corners += _corners(one.run) * CORNER_SECONDS
        parts = {
            "marks": MARKS_SECONDS if marks else 0.0,
            "cutting": cutting,
            "corners": corners,
            "lifts": lifts * LIFT_SECONDS,
            "travel": travel / TRAVEL_MM_S,
        }
        return Timing(length, travel, lifts, sum(parts.values()), parts)


def _length(points: Points) -> float:
    return float(np.hypot(*np.diff(points, axis=0).T).sum())


def _corners(run: BladeRun) -> int:
    """Corners of a loop are slowed down for once in a pass, whatever its tabs."""
    return run.loop.corners if run.is_first else 0


def plan_cut(
    paper: Paper,
    sheet: LaidSheet,
    cuts: Mapping[int, Cut],
    mirror: bool = False,
    tabs: Mapping[int, Tabs | None] | None = None,
    radii: Mapping[int, Sequence[Sequence[float]]] | None = None,
) -> CutPlan:
    """The loops of one sheet in cutting order; `cuts`, `tabs` and `radii` (see `Edge.radii_mm`) are those of the
    designs by their numbers.
    """
    loops: list[CutLoop] = []
    for place, (placement, laid) in enumerate(zip(sheet.placements, sheet.edges, strict=True)):
        edge = mirrored(laid, paper.width_mm) if mirror else laid
        cut = cuts[placement.item]
        held = (tabs or {}).get(placement.item) if cut is Cut.THROUGH else None
        known = (radii or {}).get(placement.item)
        for number, part in enumerate(edge.geoms):
            bends = known[number] if known is not None else (math.inf,) * (1 + len(part.interiors))
            for ring, bend in zip(part.interiors, bends[1:], strict=True):
                loops.append(CutLoop(placement.item, cut, _clockwise(ring_points(ring)), True, place, radius_mm=bend))
            outer = _clockwise(ring_points(part.exterior))
            loops.append(CutLoop(placement.item, cut, outer, False, place, held, bends[0]))
    ordered: list[CutLoop] = []
    blade_at = np.zeros(2)
    for cut in (Cut.KISS, Cut.THROUGH):
        mine = [loop for loop in loops if loop.cut is cut]
        depths = _depths_inside(mine)
        for depth in sorted(set(depths), reverse=True):
            group = [_begun(loop, blade_at) for loop, deep in zip(mine, depths, strict=True) if deep == depth]
            order = shortest_way(np.array([loop.points[0] for loop in group]), blade_at)
            ordered += [group[number] for number in order]
            blade_at = ordered[-1].points[0]
    return CutPlan(paper, tuple(ordered))


def _depths_inside(loops: Sequence[CutLoop]) -> list[int]:
    """In how many of the others each loop lies."""
    if not loops:
        return []
    around = shapely.STRtree([shapely.Polygon(loop.points) for loop in loops])
    places, rings = around.query(shapely.points([loop.points[0] for loop in loops]), predicate="within")
    inside = np.bincount(places[places != rings], minlength=len(loops))
    return [int(depth) for depth in inside]


def _clockwise(points: Points) -> Points:
    """A ring that runs clockwise on screen (y down)."""
    x, y = points.T
    area = float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())
    return points if area > 0 else points[::-1]


def _begun(loop: CutLoop, at: Points) -> CutLoop:
    """The loop from a good place to begin at."""
    return replace(loop, points=np.roll(loop.points, -good_start(loop.points, at), axis=0))
