"""What the nesting engine is asked, and how its answers are read.

The engine packs outlines into a strip of fixed height and makes the strip short. A sheet is a strip whose fixed side is
the live area's long one (it finds more that way) and whose length may not exceed the short one. The engine keeps its
separation from the strip's rim too, so the strip is given that much larger and the result moved back; it errs by about
a hundredth of a millimetre, so it is asked for `SLACK_MM` more than is needed.

Edges go in with few points, simplified outward: grown by a little and thinned by as much, so that what the engine
keeps apart is truly apart.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Protocol

import numpy as np
import numpy.typing as npt
import shapely
import spyrrow
from shapely.geometry import Polygon

from vamper.core.values.geometry import Points, grow, parts, ring_points
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement

OUTWARD_MM = 0.05
SLACK_MM = 0.03
# The engine would end by the clock; whoever asked ends it, by the time that it had, so it is told of more.
_LONGER = 3.0
# What rounding may leave a piece over its window, mm; every layout is checked exactly afterwards.
_HAIR = 1e-6

_ORIENTATIONS: dict[Turn, list[float] | None] = {
    Turn.UPRIGHT: [0.0],
    Turn.HALF: [0.0, 180.0],
    Turn.QUARTER: [0.0, 90.0, 180.0, 270.0],
    Turn.ANY: None,
}


@dataclass(frozen=True, slots=True)
class NestShape:
    """One item for the engine: its points (item frame, mm), how many of it, and which turns it may take."""

    item: int
    points: tuple[tuple[float, float], ...]
    quantity: int
    turn: Turn


@dataclass(frozen=True, slots=True)
class NestRequest:
    """A request to the engine: the pieces to pack into a rectangle.

    Parameters
    ----------
    shapes : tuple of NestShape
        The outlines, each as often as it is wanted.
    left_mm, top_mm, width_mm, height_mm : float
        The rectangle.
    separation_mm : float
        Least distance between pieces.
    seed : int
        Of the engine's random draws.
    """

    shapes: tuple[NestShape, ...]
    left_mm: float
    top_mm: float
    width_mm: float
    height_mm: float
    separation_mm: float
    seed: int


@dataclass(frozen=True, slots=True)
class NestSolution:
    """Placements in the sheet frame; some may lie beyond the rectangle while the engine is still improving.

    Parameters
    ----------
    placements : tuple of Placement
        Where each shape lies.
    stretch : float
        The strip's length over what the rectangle has; all lie inside it up to 1.
    """

    placements: tuple[Placement, ...]
    stretch: float

    @property
    def complete(self) -> bool:
        return self.stretch <= 1


def never() -> bool:
    """Lets an attempt go on for its whole time."""
    return False


def nothing_back(_seconds: float) -> float:
    """Ends an attempt by the clock, whatever kept it from working."""
    return 0.0


@dataclass(frozen=True, slots=True)
class Attempt:
    """One request of the engine.

    Parameters
    ----------
    request : NestRequest
        What is to lie where.
    seconds : float
        How long it may take at most.
    on_solution : callable
        Sees each better solution; returns True to end the attempt.
    workers : int
        How many work on it, a core each.
    tired : callable
        Asked now and then; returns True to end the attempt.
    on_lost : callable
        Told the seconds for which the engine was kept from working; returns how many of them it may have besides.
    """

    request: NestRequest
    seconds: float
    on_solution: Callable[[NestSolution], bool]
    workers: int = 1
    tired: Callable[[], bool] = never
    on_lost: Callable[[float], float] = nothing_back


# One attempt after the other, each made when the one before it has ended.
Lane = Iterator[Attempt]


class Nester(Protocol):
    """Runs the engine for several lanes at once; `given_up` is asked now and then, and ends all when it returns True.
    While the engine works and says nothing, `meanwhile` is called, which should not take long, and returns False where
    it has nothing to do.

    Everything in the lanes is called from the caller's thread, one thing at a time. `cores` says how many workers an
    attempt may have.
    """

    @property
    def cores(self) -> int: ...

    def race(
        self, lanes: Sequence[Lane], given_up: Callable[[], bool], meanwhile: Callable[[], bool] | None = None
    ) -> None: ...


def nest_points(edge: shapely.MultiPolygon, extra_mm: float = 0.0) -> tuple[tuple[float, float], ...]:
    """One ring that covers all of `edge` and `extra_mm` more, with few points.

    Loose parts of one piece travel together, so they go in as their common hull.
    """
    shells = parts(edge)
    whole = Polygon(shells[0].exterior) if len(shells) == 1 else edge.convex_hull
    outward = grow(whole, OUTWARD_MM + extra_mm, 0.02).simplify(OUTWARD_MM)
    ring = max(parts(outward), key=lambda part: part.area).exterior
    return tuple((float(x), float(y)) for x, y in ring_points(ring))


def _turned(request: NestRequest) -> bool:
    """Whether the strip's fixed height is the sheet's width (the sheet is wider than it is tall)."""
    return request.width_mm > request.height_mm


def instance_of(request: NestRequest) -> Any:
    """The engine's own instance for a request."""
    turned = _turned(request)
    fixed = (request.width_mm if turned else request.height_mm) - 2 * SLACK_MM
    rim = 2 * (request.separation_mm + SLACK_MM)
    items = [
        spyrrow.Item(
            str(shape.item),
            [(y, x) for x, y in shape.points] if turned else list(shape.points),
            shape.quantity,
            _ORIENTATIONS[shape.turn],
        )
        for shape in request.shapes
    ]
    return spyrrow.StripPackingInstance("sheet", fixed + rim, items)


def config_of(request: NestRequest, seconds: float, workers: int) -> Any:
    """A fixed seed: with one worker the first solutions are then the same from run to run."""
    return spyrrow.StripPackingConfig(
        early_termination=True,
        min_items_separation=request.separation_mm + SLACK_MM,
        total_computation_time=None,
        exploration_time=max(1, round(_LONGER * seconds)),
        compression_time=1,
        num_workers=workers,
        seed=request.seed,
    )


def solution_of(
    request: NestRequest, width: float, placed_items: Sequence[tuple[str, float, float, float]]
) -> NestSolution:
    """The engine's answer (strip length; name, x, y, degrees of each piece) in the sheet frame."""
    turned = _turned(request)
    shift = SLACK_MM - (request.separation_mm + SLACK_MM)
    limit = (request.height_mm if turned else request.width_mm) - 2 * SLACK_MM
    stretch = (width - 2 * (request.separation_mm + SLACK_MM)) / limit
    placements = []
    for name, x, y, degrees in placed_items:
        # A sheet wider than tall was handed over mirrored about its diagonal, which turns angles round.
        across, down, turn = (y, x, -degrees) if turned else (x, y, degrees)
        placements.append(
            Placement(int(name), request.left_mm + across + shift, request.top_mm + down + shift, turn % 360.0)
        )
    return NestSolution(tuple(placements), stretch)


def window(request: NestRequest, solution: NestSolution, points: Mapping[int, Points]) -> tuple[Placement, ...]:
    """The most pieces of a strip that lie in one stretch of it as long as the rectangle, moved there.

    Parameters
    ----------
    points : mapping
        The outline of each item, (n, 2), item frame, mm.
    """
    low, high = _extents(request, solution.placements, points)
    origin, length = (request.top_mm, request.height_mm) if _turned(request) else (request.left_mm, request.width_mm)
    if solution.complete or not len(low):
        return solution.placements
    starts = np.unique([origin, *low])
    within = (low >= starts[:, None] - _HAIR) & (high <= starts[:, None] + length + _HAIR)
    best = int(np.argmax(within.sum(axis=1)))
    shift = origin - float(starts[best])
    across, down = (0.0, shift) if _turned(request) else (shift, 0.0)
    return tuple(
        replace(one, x_mm=one.x_mm + across, y_mm=one.y_mm + down)
        for one, kept in zip(solution.placements, within[best], strict=True)
        if kept
    )


def _extents(
    request: NestRequest, placements: Sequence[Placement], points: Mapping[int, Points]
) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """Where each piece begins and ends along the strip."""
    low, high = np.empty(len(placements)), np.empty(len(placements))
    for number, one in enumerate(placements):
        turn = np.deg2rad(one.turn_deg)
        along = (np.sin(turn), np.cos(turn)) if _turned(request) else (np.cos(turn), -np.sin(turn))
        reached = points[one.item] @ np.asarray(along) + (one.y_mm if _turned(request) else one.x_mm)
        low[number], high[number] = reached.min(), reached.max()
    return low, high
