"""Small numbers that fronts and backs of double-sided blanks share, so that the right back meets its front.

They are printed in the rim of the print that reaches past the blank, and so do not show on it. The paper reads the
right way round for whoever tapes it on, also where the print itself is mirrored.
"""

import math
from collections.abc import Mapping, Sequence

import numpy as np

from vamper.core.values.drawing import Anchor, Drawing, Filled, Words, rectangle
from vamper.core.values.geometry import Points
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement

# Letters fill so much of the rim, and a digit is so wide beside its height.
_OF_RIM, _DIGIT = 0.7, 0.62


def pair_numbers(
    paper: Paper,
    placements: Sequence[Placement],
    before: Mapping[int, int],
    boxes: Mapping[int, tuple[float, float, float, float]],
    rim_mm: float,
    mirror: bool,
) -> Drawing:
    """The numbers of one sheet.

    Parameters
    ----------
    before : mapping
        How many pieces of each design lie on the sheets before.
    boxes : mapping
        The print's box (left, top, right, bottom; mm, item frame) of each design that is one of a pair.
    rim_mm : float
        How far the print reaches past its blank.
    """
    count = dict(before)
    fills, words = list[Filled](), list[Words]()
    height = rim_mm * _OF_RIM
    for one in placements:
        if one.item not in boxes:
            continue
        count[one.item] = count.get(one.item, 0) + 1
        text = str(count[one.item])
        left, _, right, bottom = boxes[one.item]
        wide = (len(text) + 0.6) * height * _DIGIT
        x, y = (left + right) / 2, bottom - rim_mm / 2
        corners = rectangle(x - wide / 2, y - height / 2, wide, height)
        base = np.array([(x, y + height / 2 * 0.9)])
        box, at = (_printed(points, one, paper, mirror) for points in (corners, base))
        fills.append(Filled((box,), "#FFFFFF"))
        turn = -one.turn_deg if mirror else one.turn_deg
        words.append(Words(float(at[0, 0]), float(at[0, 1]), text, height * 0.9, Anchor.MIDDLE, turn))
    return Drawing(paper, "pair numbers", tuple(fills), (), tuple(words))


def _printed(points: Points, one: Placement, paper: Paper, mirror: bool) -> Points:
    """Points of a piece as they lie on the printed page."""
    turn = math.radians(one.turn_deg)
    x = one.x_mm + points[:, 0] * math.cos(turn) - points[:, 1] * math.sin(turn)
    y = one.y_mm + points[:, 0] * math.sin(turn) + points[:, 1] * math.cos(turn)
    return np.column_stack([paper.width_mm - x if mirror else x, y])
