"""What a cutter is sent, stroke by stroke, and whose loop each stroke is.

A stroke is one time that the blade goes down, as the cut file says it. Nothing in a file names a piece: a stroke
belongs to the loop of the plan that it lies nearest to, if it lies near one at all, so that a file that cuts elsewhere
shows as pieces that nobody cut.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from vamper.core.cutting.plan import CutPlan
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import Points

# A stroke that lies farther from every loop is no piece's.
_OWN_MM = 3.0
_LOOKS = 9


@dataclass(frozen=True, slots=True)
class CutStroke:
    """`points` (n, 2) in the sheet frame, mm."""

    cut: Cut
    speed_mm_s: float
    force_gf: float
    points: Points


@dataclass(frozen=True, slots=True)
class OwnedLoop:
    """A loop of a plan with the strokes that cut it, by their places in the file, pass by pass."""

    placement: int
    cut: Cut
    is_hole: bool
    strokes: tuple[tuple[int, ...], ...]

    @property
    def passes(self) -> int:
        return len(self.strokes)


def owned(sent: CutPlan, strokes: Sequence[CutStroke]) -> tuple[list[OwnedLoop], list[int]]:
    """The loops of a plan as it is sent, with the strokes that are theirs; and the strokes that are nobody's."""
    lines = [shapely.LinearRing(loop.points) for loop in sent.loops]
    if not lines or not strokes:
        return [OwnedLoop(loop.placement, loop.cut, loop.is_hole, ()) for loop in sent.loops], list(range(len(strokes)))
    tree = shapely.STRtree(lines)
    of: dict[int, list[int]] = {}
    strange = []
    for number, stroke in enumerate(strokes):
        at = np.linspace(0, len(stroke.points) - 1, _LOOKS).astype(int)
        looks = shapely.points(stroke.points[at])
        near = np.unique(tree.query(looks, predicate="dwithin", distance=_OWN_MM)[1])
        away = [float(shapely.distance(looks, lines[one]).mean()) for one in near]
        if not away or min(away) > _OWN_MM:
            strange.append(number)
            continue
        of.setdefault(int(near[int(np.argmin(away))]), []).append(number)
    loops = []
    for place, loop in enumerate(sent.loops):
        mine = of.get(place, [])
        loops.append(OwnedLoop(loop.placement, loop.cut, loop.is_hole, _in_passes(mine, strokes)))
    return loops, strange


def _in_passes(mine: Sequence[int], strokes: Sequence[CutStroke]) -> tuple[tuple[int, ...], ...]:
    """Strokes of one loop by passes: a stroke that begins where an earlier stroke did begins the next pass."""
    passes: list[list[int]] = []
    starts: list[Points] = []
    for number in mine:
        start = strokes[number].points[0]
        if not passes or any(np.hypot(*(start - one)) < 1e-6 for one in starts):
            passes.append([])
            starts = []
        passes[-1].append(number)
        starts.append(start)
    return tuple(tuple(one) for one in passes)
