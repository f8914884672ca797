"""Rows of boxes: the plain layout a maker would make with a ruler, and the first one shown.

Each piece is its bounding box, lying the way that makes the lower row if it may be turned. Boxes go in from the
tallest down, each into the first row it fits in (first fit by decreasing height). It takes milliseconds, always gives
the same result, and is what the nesting engine has to beat.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.lay.turns import best_turn, turned_box
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement


@dataclass(slots=True)
class _Row:
    top: float
    height: float
    right: float


@dataclass(slots=True)
class _Sheet:
    rows: list[_Row] = field(default_factory=list)
    placements: list[Placement] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class _Box:
    piece: Piece
    turn_deg: float
    left: float
    top: float
    width: float
    height: float


def _box(piece: Piece, turn: Turn, room: tuple[float, float], as_it_is: bool) -> _Box | None:
    """The piece's box in the better of its two ways round, or askew where only that fits; None if nothing does.

    The better way is the lower one, or, `as_it_is`, the one it was drawn in.
    """
    square = (0.0,) if turn in (Turn.UPRIGHT, Turn.HALF) else (0.0, 90.0)
    hull = piece.edge.convex_hull
    straight = [box for turn_deg in square if (box := _box_at(piece, hull, turn_deg, room))]
    if straight:
        return straight[0] if as_it_is else min(straight, key=lambda box: box.height)
    return _box_at(piece, hull, best_turn(piece.edge, room, turn)[0], room)


def _box_at(piece: Piece, hull: BaseGeometry, turn_deg: float, room: tuple[float, float]) -> _Box | None:
    left, top, right, bottom = turned_box(hull, turn_deg)
    fits = right - left <= room[0] and bottom - top <= room[1]
    return _Box(piece, turn_deg, left, top, right - left, bottom - top) if fits else None


def rows_of_boxes(
    pieces: Sequence[Piece], live: Polygon, gap_mm: float, turn: Turn, max_sheets: int | None, as_they_are: bool = False
) -> tuple[tuple[Placement, ...], ...]:
    """Sheets filled row by row. Pieces that fit no sheet, or for which no sheet is left, are not in them."""
    left, top, right, bottom = live.bounds
    room = right - left, bottom - top
    # All gaps are as wide as the widest pair needs; rows are the plain way, not the tight one.
    gap = max((gap_between(piece, piece, gap_mm) for piece in pieces), default=gap_mm)
    boxes = [
        box
        for piece in pieces
        if (box := _box(piece, piece.turn or turn, room, as_they_are))
        for _ in range(piece.quantity)
    ]
    boxes.sort(key=lambda box: (-box.height, -box.width, box.piece.item))
    sheets: list[_Sheet] = []
    # Sheets only fill up: one that had no room for a box has none for the same box later.
    first: dict[int, int] = {}
    for box in boxes:
        number = first.get(box.piece.item, 0)
        while number < len(sheets) and not _put(sheets[number], box, room, gap, (left, top)):
            number += 1
        if number == len(sheets) and (max_sheets is None or number < max_sheets):
            sheets.append(_Sheet())
            _put(sheets[-1], box, room, gap, (left, top))
        first[box.piece.item] = number
    return tuple(tuple(sheet.placements) for sheet in sheets)


def _put(sheet: _Sheet, box: _Box, room: tuple[float, float], gap: float, origin: tuple[float, float]) -> bool:
    """Lay the box into the first row with room for it, or open a new row below."""
    for row in sheet.rows:
        if row.right + gap + box.width <= room[0] and box.height <= row.height:
            x = row.right + gap
            break
    else:
        below = sheet.rows[-1].top + sheet.rows[-1].height + gap if sheet.rows else 0.0
        if below + box.height > room[1]:
            return False
        row, x = _Row(below, box.height, 0.0), 0.0
        sheet.rows.append(row)
    row.right = x + box.width
    sheet.placements.append(
        Placement(box.piece.item, origin[0] + x - box.left, origin[1] + row.top - box.top, box.turn_deg)
    )
    return True
