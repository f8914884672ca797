"""One sheet before it is packed: its live area, what lies on it already, and its largest empty rectangle.

Rows, lattices and the nesting engine know rectangles only. On a bare sheet without notches that is the live area
itself; on any other it is the largest rectangle that is free, and the rest is for `FreeSpace`.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from shapely.geometry import Polygon, box

from vamper.core.sheet.lay.free_space import FreeSpace, cell_for
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.sheet.offcut import largest_offcut
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.placement import Placement


@dataclass(frozen=True, slots=True)
class SheetRegion:
    """`room` is the largest empty rectangle; `is_bare` says that it is the whole live area."""

    live: Polygon
    held: tuple[Placement, ...]
    room: Polygon
    is_bare: bool


def region_of(problem: PackProblem, sheet: int) -> SheetRegion:
    live, held = problem.live_of(sheet), problem.held_on(sheet)
    if not held and live.equals(box(*live.bounds)):
        return SheetRegion(live, held, live, True)
    by_item = problem.by_item
    widest = max((_widest(piece, problem.spec.gap_mm) for piece in problem.pieces), default=problem.spec.gap_mm)
    free = largest_offcut(live, [one.of(by_item[one.item].edge) for one in held], widest)
    room = box(free.left_mm, free.top_mm, free.left_mm + free.width_mm, free.top_mm + free.height_mm)
    return SheetRegion(live, held, room if free.area_mm2 else Polygon(), False)


def _widest(piece: Piece, gap_mm: float) -> float:
    return gap_between(piece, piece, gap_mm)


def space_on(problem: PackProblem, ground: SheetRegion, lying: tuple[Placement, ...] = ()) -> FreeSpace:
    """The free space of a sheet with its held pieces and those already laid on it."""
    by_item: Mapping[int, Piece] = problem.by_item
    space = FreeSpace(ground.live, problem.spec.gap_mm, problem.spec.turn, cell_for(problem.pieces))
    for placement in (*ground.held, *lying):
        space.add(by_item[placement.item], placement)
    return space
