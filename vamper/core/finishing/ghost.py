"""Placing ghosts: true-size paper templates that are laid on the thing before the piece is.

A ghost shows the piece's edge and its drawing, a hinge edge above it for the tape, a level line and the axis that the
maker chose, both drawn past the piece so that they can be lined up with a fold, a seam or a rim. Its number and its
measures stand beside. A ghost that is larger than the paper goes over several pages, with crosses to lay them together.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from vamper.core.values.drawing import Anchor, Drawing, Stroke, Words, line, outline, rectangle
from vamper.core.values.geometry import Points
from vamper.core.values.paper import Paper

RIM_MM = 12.0
PAST_MM = 12.0
_HEAD_MM = 16.0
_LETTER_MM = 3.0
_CROSS_MM = 6.0
_RULER_MM = 50.0
_SOFT = "#777777"
# Pages of one ghost beyond which a wall, not a desk, is covered.
MOST_PAGES = 60


@dataclass(frozen=True, slots=True)
class Ghost:
    """A piece to be placed, as it is drawn for the bench.

    Parameters
    ----------
    name : str
        Its design's name with the piece's number.
    edge, drawing : tuple of array, shape (n, 2)
        Rings of the piece and of its drawing, mm, y down.
    level, axis : array, shape (n, 2)
        Lines that come to lie level and upright; on a piece bent for a cup, an arc and a spoke.
    measures : tuple of str
        Its measures in words.
    slits : tuple of array, shape (n, 2)
        Lines to be cut in its mask.
    """

    name: str
    edge: tuple[Points, ...]
    drawing: tuple[Points, ...]
    level: Points
    axis: Points
    measures: tuple[str, ...] = ()
    slits: tuple[Points, ...] = ()


def ghost_pages(ghost: Ghost, paper: Paper) -> tuple[Drawing, ...]:
    """The pages of one ghost on this paper."""
    every = np.concatenate(ghost.edge)
    low, high = every.min(axis=0), every.max(axis=0)
    whole = _drawn(ghost, low, high)
    head = _HEAD_MM + (1.4 * _LETTER_MM) * len(ghost.measures)
    left, top = low[0] - PAST_MM, low[1] - PAST_MM - head
    width, height = high[0] - low[0] + 2 * PAST_MM, high[1] - low[1] + 2 * PAST_MM + head
    room = (paper.width_mm - 2 * RIM_MM, paper.height_mm - 2 * RIM_MM)
    columns, rows = math.ceil(width / room[0] - 1e-9), math.ceil(height / room[1] - 1e-9)
    if (columns, rows) == (1, 1):
        return (_page(whole, paper, left, top, ghost.name),)
    pages = [
        _page(whole, paper, left + column * room[0], top + row * room[1], ghost.name, f"{row + 1}.{column + 1}")
        for row in range(rows)
        for column in range(columns)
    ]
    return tuple(pages[:MOST_PAGES])


def _drawn(ghost: Ghost, low: Points, high: Points) -> Drawing:
    hinge = float(low[1]) - PAST_MM / 2
    left, right = float(low[0]) - PAST_MM, float(high[0]) + PAST_MM
    top = float(low[1]) - PAST_MM
    strokes = [
        *(outline(ring, 0.4) for ring in ghost.edge),
        *(outline(ring, 0.2, colour=_SOFT) for ring in ghost.drawing),
        replace(line(left, hinge, right, hinge, 0.5), dashed=True),
        Stroke(ghost.level, 0.2, _SOFT),
        Stroke(ghost.axis, 0.3),
        *(Stroke(slit, 0.4, dashed=True) for slit in ghost.slits),
    ]
    head = top - _HEAD_MM - 1.4 * _LETTER_MM * len(ghost.measures) + _LETTER_MM
    words = [Words(left, head + _LETTER_MM, ghost.name, _LETTER_MM * 1.3)]
    words += [
        Words(left, head + _LETTER_MM * (2.6 + 1.4 * number), text, _LETTER_MM * 0.8)
        for number, text in enumerate(ghost.measures)
    ]
    words += [
        Words(right, hinge - 1.2, "hinge: tape here", 2.2, Anchor.END, colour=_SOFT),
        Words(float(ghost.level[-1, 0]), float(ghost.level[-1, 1]) - 1.2, "level", 2.2, Anchor.END, colour=_SOFT),
    ]
    return Drawing(Paper(100, 100), ghost.name, (), tuple(strokes), tuple(words))


def _page(whole: Drawing, paper: Paper, left: float, top: float, name: str, part: str = "") -> Drawing:
    """A window of the whole on one page, its top left at (left, top), with a ruler to check the printer by."""
    by = np.array([RIM_MM - left, RIM_MM - top])
    box = rectangle(RIM_MM, RIM_MM, paper.width_mm - 2 * RIM_MM, paper.height_mm - 2 * RIM_MM)
    strokes = [replace(one, points=one.points + by) for one in whole.strokes]
    words = [replace(one, x_mm=one.x_mm + by[0], y_mm=one.y_mm + by[1]) for one in whole.words]
    foot = paper.height_mm - RIM_MM / 2
    strokes += list(_ruler(RIM_MM, foot))
    words.append(Words(RIM_MM + _RULER_MM + 2, foot + 0.8, "50 mm: measure it before you trust the page", 2.2))
    if part:
        strokes += [_cross(x, y) for x, y in box.tolist() for _cross in (_upright, _lying)]
        words.append(Words(paper.width_mm - RIM_MM, foot + 0.8, f"{name}, part {part}", 2.2, Anchor.END))
    return Drawing(paper, f"Placing: {name}", (), tuple(strokes), tuple(words))


def _upright(x: float, y: float) -> Stroke:
    return line(x, y - _CROSS_MM / 2, x, y + _CROSS_MM / 2)


def _lying(x: float, y: float) -> Stroke:
    return line(x - _CROSS_MM / 2, y, x + _CROSS_MM / 2, y)


def _ruler(x: float, y: float) -> Iterator[Stroke]:
    yield line(x, y, x + _RULER_MM, y, 0.3)
    for at in (0.0, _RULER_MM):
        yield line(x + at, y - 1.5, x + at, y + 1.5, 0.3)


def all_pages(ghosts: Sequence[Ghost], paper: Paper) -> tuple[Drawing, ...]:
    """The pages of all ghosts, one after the other."""
    return tuple(page for ghost in ghosts for page in ghost_pages(ghost, paper))
