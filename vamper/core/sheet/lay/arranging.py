"""Moving pieces by hand, as rules of the job: turned about their middles, aligned, spaced evenly, exchanged.

Each function takes pieces where they lie and says where they would lie; nothing here decides whether they may. A turn
is about the middle of a piece's box as it lies, so that it stays in its place, and follows the piece's turn rule:
steps of 15°, quarters, or none.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from vamper.core.sheet.lay.turns import turned_box
from vamper.core.sheet.layout import Piece
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement

TURN_STEP_DEG: dict[Turn, float] = {Turn.ANY: 15.0, Turn.QUARTER: 90.0, Turn.HALF: 180.0, Turn.UPRIGHT: 0.0}


class AlignedBy(StrEnum):
    """The side or middle that pieces are aligned by."""

    LEFT = "left"
    MIDDLE = "middle"
    RIGHT = "right"
    TOP = "top"
    CENTRE = "centre"
    BOTTOM = "bottom"


class SpacedAlong(StrEnum):
    """Along which pieces are spaced evenly."""

    ACROSS = "across"
    DOWN = "down"


@dataclass(frozen=True, slots=True)
class PieceBox:
    """The box of a piece as it lies, mm."""

    left: float
    top: float
    right: float
    bottom: float

    @property
    def middle(self) -> tuple[float, float]:
        return (self.left + self.right) / 2, (self.top + self.bottom) / 2


def box_of(placement: Placement, pieces: Mapping[int, Piece]) -> PieceBox:
    left, top, right, bottom = turned_box(pieces[placement.item].edge.convex_hull, placement.turn_deg)
    x, y = placement.x_mm, placement.y_mm
    return PieceBox(left + x, top + y, right + x, bottom + y)


def moved(placement: Placement, dx: float, dy: float) -> Placement:
    return replace(placement, x_mm=placement.x_mm + dx, y_mm=placement.y_mm + dy)


def turned(placement: Placement, by_deg: float, pieces: Mapping[int, Piece]) -> Placement:
    """Turned about the middle of its hull's points, which no turn moves."""
    hull = np.asarray(pieces[placement.item].edge.convex_hull.centroid.coords[0])
    after = replace(placement, turn_deg=(placement.turn_deg + by_deg) % 360.0)
    before_at, after_at = _at(placement, hull), _at(after, hull)
    return moved(after, before_at[0] - after_at[0], before_at[1] - after_at[1])


def _at(placement: Placement, point: np.ndarray[tuple[int, ...], np.dtype[np.float64]]) -> tuple[float, float]:
    t = math.radians(placement.turn_deg)
    u, v = float(point[0]), float(point[1])
    return (
        placement.x_mm + u * math.cos(t) - v * math.sin(t),
        placement.y_mm + u * math.sin(t) + v * math.cos(t),
    )


def turn_step(piece: Piece, turn: Turn) -> float:
    """How far one turn of a piece goes, degrees; 0 where it must stay upright."""
    return TURN_STEP_DEG[piece.turn or turn]


def exchanged(first: Placement, second: Placement, pieces: Mapping[int, Piece]) -> tuple[Placement, Placement]:
    """Each with its middle where the other's was."""
    (ax, ay), (bx, by) = box_of(first, pieces).middle, box_of(second, pieces).middle
    return moved(first, bx - ax, by - ay), moved(second, ax - bx, ay - by)


_ALIGN: dict[AlignedBy, Callable[[PieceBox, PieceBox], tuple[float, float]]] = {
    AlignedBy.LEFT: lambda one, whole: (whole.left - one.left, 0.0),
    AlignedBy.MIDDLE: lambda one, whole: (whole.middle[0] - one.middle[0], 0.0),
    AlignedBy.RIGHT: lambda one, whole: (whole.right - one.right, 0.0),
    AlignedBy.TOP: lambda one, whole: (0.0, whole.top - one.top),
    AlignedBy.CENTRE: lambda one, whole: (0.0, whole.middle[1] - one.middle[1]),
    AlignedBy.BOTTOM: lambda one, whole: (0.0, whole.bottom - one.bottom),
}


def aligned(placements: Sequence[Placement], side: AlignedBy, pieces: Mapping[int, Piece]) -> list[Placement]:
    """All by one side, or the middle, of the box round all of them."""
    boxes = [box_of(placement, pieces) for placement in placements]
    whole = PieceBox(
        min(box.left for box in boxes),
        min(box.top for box in boxes),
        max(box.right for box in boxes),
        max(box.bottom for box in boxes),
    )
    return [moved(one, *_ALIGN[side](box, whole)) for one, box in zip(placements, boxes, strict=True)]


def spaced(placements: Sequence[Placement], way: SpacedAlong, pieces: Mapping[int, Piece]) -> list[Placement]:
    """Equal gaps between the boxes from the first to the last, which stay."""
    boxes = [box_of(placement, pieces) for placement in placements]
    spans = [(box.left, box.right) if way is SpacedAlong.ACROSS else (box.top, box.bottom) for box in boxes]
    order = sorted(range(len(spans)), key=lambda n: sum(spans[n]))
    taken = sum(end - start for start, end in spans)
    gap = (spans[order[-1]][1] - spans[order[0]][0] - taken) / max(1, len(order) - 1)
    at, result = spans[order[0]][0], list(placements)
    for n in order:
        start, end = spans[n]
        by = at - start
        result[n] = moved(placements[n], by, 0.0) if way is SpacedAlong.ACROSS else moved(placements[n], 0.0, by)
        at += end - start + gap
    return result
