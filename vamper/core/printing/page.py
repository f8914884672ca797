"""The print page of one sheet: which pictures lie where, the borders under them, the marks on top.

Everything is in the sheet frame at true scale. A picture is clipped to its edge, so that stray specks outside it do not
print on the waste. A coloured border is carried `BORDER_BLEED_MM` past the edge, so that a cut that misses by its
usual amount shows no bare stock; never into a neighbour's half of the gap, and never into a mark's clear zone.

A mirrored page turns art and edges about the sheet's upright middle line; the marks stay as they are.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge
from vamper.core.edge.inspect import STARTER_MISS_MM
from vamper.core.geometry import grow, mirrored, placed
from vamper.core.job import Paper
from vamper.core.marks.families import Mark
from vamper.core.sheet.layout import Placement

BORDER_BLEED_MM = STARTER_MISS_MM

Matrix = tuple[float, float, float, float, float, float]


@dataclass(frozen=True, slots=True)
class PrintItem:
    """What the page needs of one item: its outline, its edge and the border's colour (#RRGGBB, None for bare)."""

    outline: Outline
    edge: Edge
    colour: str | None


@dataclass(frozen=True, slots=True)
class PrintedPicture:
    """One piece's picture. `matrix` (a, b, c, d, e, f) takes the picture's unit square, y down, to the sheet:
    X = a·u + c·v + e, Y = b·u + d·v + f. `clip` is the region it may print in, sheet frame.
    """

    item: int
    matrix: Matrix
    clip: BaseGeometry


@dataclass(frozen=True, slots=True)
class PrintedBorder:
    shape: BaseGeometry
    colour: str


@dataclass(frozen=True, slots=True)
class PrintPage:
    """One page, bottom to top: borders, pictures, marks."""

    paper: Paper
    borders: tuple[PrintedBorder, ...]
    pictures: tuple[PrintedPicture, ...]
    marks: tuple[Mark, ...]
    mirror: bool


def compose_page(
    paper: Paper,
    placements: Sequence[Placement],
    items: Mapping[int, PrintItem],
    marks: Sequence[Mark],
    live: BaseGeometry,
    gap_mm: float,
    mirror: bool,
) -> PrintPage:
    """The page of one sheet.

    Parameters
    ----------
    live : BaseGeometry
        The live area; no border's bleed leaves it.
    gap_mm : float
        Distance between edges; a bleed takes at most half of it.
    """
    bleed = min(BORDER_BLEED_MM, gap_mm / 2)
    borders, pictures = [], []
    for placement in placements:
        item = items[placement.item]
        edge = placement.of(item.edge.shape)
        if item.colour is not None:
            edge = shapely.intersection(grow(edge, bleed), live)
            borders.append(PrintedBorder(_seen(edge, paper, mirror), item.colour))
        matrix = _picture_matrix(item.outline, placement)
        pictures.append(
            PrintedPicture(placement.item, _mirrored_matrix(matrix, paper, mirror), _seen(edge, paper, mirror))
        )
    return PrintPage(paper, tuple(borders), tuple(pictures), tuple(marks), mirror)


def _seen(shape: BaseGeometry, paper: Paper, mirror: bool) -> BaseGeometry:
    return mirrored(shape, paper.width_mm) if mirror else shape


def _picture_matrix(outline: Outline, placement: Placement) -> Matrix:
    """From the picture's unit square to the sheet: its box in the item frame, then the placement."""
    left, top, width, height = outline.picture_box_mm
    corners = shapely.MultiPoint([(left, top), (left + width, top), (left, top + height)])
    origin, right, bottom = shapely.get_coordinates(placed(corners, placement.x_mm, placement.y_mm, placement.turn_deg))
    a, b = right - origin
    c, d = bottom - origin
    return float(a), float(b), float(c), float(d), float(origin[0]), float(origin[1])


def _mirrored_matrix(matrix: Matrix, paper: Paper, mirror: bool) -> Matrix:
    if not mirror:
        return matrix
    a, b, c, d, e, f = matrix
    return -a, b, -c, d, paper.width_mm - e, f
