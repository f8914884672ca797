"""The print page of one sheet: which pictures lie where, the borders under them, the marks on top.

Everything is in the sheet frame at true scale. A picture is clipped to its edge, so that stray specks outside it do not
print on the waste. Where print reaches the edge, borders and picture are carried past it by the bleed, so that a cut
that misses by its usual amount shows no bare stock; never into a neighbour's half of the gap, and never into a mark's
clear zone. A ring of the border that is bare, or of the stock's own colour, is not printed.

A mirrored page turns art and edges about the sheet's upright middle line; the marks stay as they are.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge
from vamper.core.marks.mark import Mark
from vamper.core.printing.bleed import bleed_box_mm, is_printed
from vamper.core.printing.guides import NO_GUIDES, Guides, guides_for
from vamper.core.printing.page_box import Page
from vamper.core.sheet.laid import LaidSheet
from vamper.core.values.drawing import Drawing
from vamper.core.values.edge import RingSpec
from vamper.core.values.geometry import Points, Shape, grow, mirrored, placed
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement
from vamper.core.values.printer import TRUE_SCALE, PrintScale

Matrix = tuple[float, float, float, float, float, float]


@dataclass(frozen=True, slots=True)
class PrintItem:
    """The fields of one item that the page needs; `stack` is the border's rings from the drawing outwards."""

    outline: Outline
    edge: Edge
    stack: tuple[RingSpec, ...]
    bleed_mm: float = 0.0

    @property
    def picture_box_mm(self) -> tuple[float, float, float, float]:
        """Left, top, width, height of what prints, in the item frame: carried past the edge if it bleeds."""
        return bleed_box_mm(self.outline, self.edge, self.bleed_mm) if self.bleed_mm else self.outline.picture_box_mm


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
    """A page to print, mm, bottom to top: borders, pictures, marks, and what a proof or a job line draws over them.

    Parameters
    ----------
    paper, box : Paper, Page or None
        The sheet, and the page where that is not the sheet itself.
    borders, pictures, marks : tuples of PrintedBorder, PrintedPicture, Mark
        What lies on it.
    mirror : bool
        Whether it is printed in mirror image.
    guides : Guides
        Lines and ticks to cut by.
    scale : PrintScale
        The printer's own; the page is drawn by its inverse about the middle.
    lines : tuple of array (n, 2)
        Cut lines, which only a proof prints.
    over : tuple of Drawing
        What a proof or a job line draws over all.
    """

    paper: Paper
    borders: tuple[PrintedBorder, ...]
    pictures: tuple[PrintedPicture, ...]
    marks: tuple[Mark, ...]
    mirror: bool
    guides: Guides = NO_GUIDES
    box: Page | None = None
    scale: PrintScale = TRUE_SCALE
    lines: tuple[Points, ...] = ()
    over: tuple[Drawing, ...] = ()


def compose_page(
    paper: Paper,
    sheet: LaidSheet,
    items: Mapping[int, PrintItem],
    marks: Sequence[Mark],
    stock_colour: str,
    mirror: bool,
    by_hand: bool = False,
) -> PrintPage:
    """The page of one sheet, with guide lines where it is cut `by_hand`.

    Parameters
    ----------
    sheet : LaidSheet
        No bleed leaves its live area.
    stock_colour : str
        #RRGGBB; nothing of this colour is printed as a border.
    """
    edges, live = sheet.edges, sheet.live.shape
    borders, pictures = [], []
    for number, placement in enumerate(sheet.placements):
        item = items[placement.item]
        bleed = min(item.bleed_mm, _room(edges, number, 2 * item.bleed_mm) / 2)
        printed = shapely.intersection(grow(edges[number], bleed), live) if bleed else edges[number]
        borders += [
            PrintedBorder(_seen(shape, paper, mirror), colour)
            for shape, colour in _border(item, placement, printed, stock_colour)
        ]
        matrix = _picture_matrix(item, placement)
        pictures.append(
            PrintedPicture(placement.item, _mirrored_matrix(matrix, paper, mirror), _seen(printed, paper, mirror))
        )
    printed_live = _seen(live, paper, mirror)
    guides = guides_for([_seen(edge, paper, mirror) for edge in edges], printed_live) if by_hand else NO_GUIDES
    return PrintPage(paper, tuple(borders), tuple(pictures), tuple(marks), mirror, guides)


def _room(edges: Sequence[BaseGeometry], number: int, reach: float) -> float:
    """The distance to the nearest other edge, `reach` where none is as near."""
    others = [edge for n, edge in enumerate(edges) if n != number and _boxes_within(edge, edges[number], reach)]
    return float(min((shapely.distance(edges[number], other) for other in others), default=reach))


def _boxes_within(first: BaseGeometry, second: BaseGeometry, reach: float) -> bool:
    a, b = first.bounds, second.bounds
    return a[0] - reach < b[2] and b[0] - reach < a[2] and a[1] - reach < b[3] and b[1] - reach < a[3]


def _border(
    item: PrintItem, placement: Placement, printed: BaseGeometry, stock_colour: str
) -> list[tuple[BaseGeometry, str]]:
    """The rings that are printed, outermost first; each goes under what lies inside it, unless that is bare."""
    found: list[tuple[BaseGeometry, str]] = []
    last = len(item.stack) - 1
    for number in range(last, -1, -1):
        colour = item.stack[number].colour
        if colour is None or not is_printed(colour, stock_colour):
            continue
        shape = printed if number == last else placement.of(item.edge.rings[number])
        inner = item.stack[number - 1].colour if number else colour
        if number and not (inner is not None and is_printed(inner, stock_colour)):
            shape = shapely.difference(shape, placement.of(item.edge.rings[number - 1]))
        found.append((shape, colour))
    return found


def _seen(shape: Shape, paper: Paper, mirror: bool) -> Shape:
    return mirrored(shape, paper.width_mm) if mirror else shape


def _picture_matrix(item: PrintItem, placement: Placement) -> Matrix:
    """From the picture's unit square to the sheet: its box in the item frame, then the placement."""
    left, top, width, height = item.picture_box_mm
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
