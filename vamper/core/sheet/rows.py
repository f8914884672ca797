"""Rows of boxes: the plain layout a maker would make with a ruler, and the first one shown.

Each piece is its bounding box, lying the way that makes the lower row if it may be turned. Boxes go in from the
tallest down, each into the first row it fits in (first fit by decreasing height). It takes milliseconds, always gives
the same result, and is what the nesting engine has to beat.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from shapely.geometry import Polygon

from vamper.core.geometry import placed
from vamper.core.job import Turn
from vamper.core.sheet.layout import Piece, Placement, gap_between
from vamper.core.sheet.turns import best_turn


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
    choices = []
    square = (0.0,) if turn is Turn.UPRIGHT else (0.0, 90.0)
    askew, _ = best_turn(piece.edge, room, turn)
    for turn_deg in (*square, askew):
        left, top, right, bottom = placed(piece.edge, 0, 0, turn_deg).bounds
        if right - left <= room[0] and bottom - top <= room[1]:
            choices.append(_Box(piece, turn_deg, left, top, right - left, bottom - top))
    # Askew comes last, and counts only where nothing square fits.
    straight = [box for box in choices if box.turn_deg in square]
    if as_it_is and straight:
        return straight[0]
    return min(straight or choices, key=lambda box: box.height, default=None)


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
    for box in boxes:
        if not any(_put(sheet, box, room, gap, (left, top)) for sheet in sheets):
            if max_sheets is not None and len(sheets) >= max_sheets:
                continue
            sheets.append(_Sheet())
            _put(sheets[-1], box, room, gap, (left, top))
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
