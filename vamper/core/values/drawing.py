"""A drawing to print: filled shapes, lines and short texts on a page, in millimetres, y down.

What draws (a vernier sheet, a template, a swatch strip) knows no file format; what writes a format knows no drawing.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from vamper.core.values.geometry import Points
from vamper.core.values.paper import Paper

# The letters' height beside the size of their font.
CAP_SHARE = 0.7


class Anchor(StrEnum):
    START = "start"
    MIDDLE = "middle"
    END = "end"


@dataclass(frozen=True, slots=True)
class Filled:
    """A region, its rings filled even-odd, in one colour."""

    rings: tuple[Points, ...]
    colour: str = "#000000"


@dataclass(frozen=True, slots=True)
class Stroke:
    """A line along points (n, 2)."""

    points: Points
    width_mm: float = 0.2
    colour: str = "#000000"
    closed: bool = False
    dashed: bool = False


@dataclass(frozen=True, slots=True)
class Words:
    """A text in a drawing.

    Parameters
    ----------
    x_mm, y_mm : float
        Where its baseline starts, is centred or ends.
    text : str
        What it says.
    height_mm : float
        How tall its capitals are.
    anchor : Anchor
        Which point of the baseline lies at x, y.
    turn_deg : float
        Clockwise on screen.
    colour : str
        #RRGGBB.
    """

    x_mm: float
    y_mm: float
    text: str
    height_mm: float = 2.5
    anchor: Anchor = Anchor.START
    turn_deg: float = 0.0
    colour: str = "#000000"


@dataclass(frozen=True, slots=True)
class Drawing:
    """A page, bottom to top: fills, lines, words."""

    paper: Paper
    title: str
    fills: tuple[Filled, ...] = ()
    strokes: tuple[Stroke, ...] = ()
    words: tuple[Words, ...] = ()


def rectangle(left: float, top: float, width: float, height: float) -> Points:
    return np.array([(left, top), (left + width, top), (left + width, top + height), (left, top + height)], dtype=float)


def line(x0: float, y0: float, x1: float, y1: float, width_mm: float = 0.2, colour: str = "#000000") -> Stroke:
    return Stroke(np.array([(x0, y0), (x1, y1)], dtype=float), width_mm, colour)


def outline(points: Points, width_mm: float = 0.2, dashed: bool = False, colour: str = "#000000") -> Stroke:
    return Stroke(points, width_mm, colour, closed=True, dashed=dashed)


def joined(paper: Paper, title: str, drawings: Sequence[Drawing]) -> Drawing:
    """Several drawings on one page."""
    return Drawing(
        paper,
        title,
        tuple(one for drawing in drawings for one in drawing.fills),
        tuple(one for drawing in drawings for one in drawing.strokes),
        tuple(one for drawing in drawings for one in drawing.words),
    )
