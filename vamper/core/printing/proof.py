"""What is printed beside the pieces: the two bars of a proof, and the line of facts in the waste of a sheet.

A bar is black, 100 mm long and 1 mm thick, one along each side of the sheet. It touches nothing else, and is drawn at
its true size whatever scale is compensated, so that what it measures is the printer's own scale.
"""

from dataclasses import dataclass

import shapely
from shapely import affinity
from shapely.geometry.base import BaseGeometry

from vamper.core.printing.page import PrintPage
from vamper.core.sheet.offcut import Rectangle, place_for
from vamper.core.values.drawing import Anchor, Drawing, Filled, Words, rectangle
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import grow
from vamper.core.values.lengths import mm
from vamper.core.values.paper import PAPER_BY_KEY, Paper
from vamper.core.values.printer import TRUE_SCALE, Margins, PrintScale

BAR_MM = 100.0
BAR_THICK_MM = 1.0
_CLEAR_MM = 1.5
_INSIDE_MM = 10.0
_LINE_MM = 3.0
_LETTER_MM = 2.2
_LETTER_WIDE = 0.58
# Farther off than this a measured bar is a slip of the pen, unless the maker says that it is not.
_LIKELY = (0.9, 1.1)
_POSSIBLE = (0.8, 1.25)


@dataclass(frozen=True, slots=True)
class Bars:
    """The bars of a proof: along the sheet's width, and along its height. `apart` is a page of their own, where the
    sheet has no room for them.
    """

    across: Rectangle
    down: Rectangle
    apart: Paper | None = None


def bars_for(page: PrintPage, margins: Margins) -> Bars:
    """Where the bars of a proof lie."""
    paper = page.paper
    printable = _printable(paper, margins)
    taken = [grow(shape, _CLEAR_MM, 0.02) for shape in _printed(page)]
    # Away from the rim first, where they are easier to measure.
    for region in (grow(printable, -_INSIDE_MM), printable):
        across = None if region.is_empty else place_for(region, taken, BAR_MM, BAR_THICK_MM)
        if across is None:
            continue
        beside = [*taken, grow(_box(across), _CLEAR_MM, 0.02)]
        down = place_for(region, beside, BAR_THICK_MM, BAR_MM)
        if down is not None:
            return Bars(across, down)
    own = paper if min(paper.width_mm, paper.height_mm) > BAR_MM + 40 else PAPER_BY_KEY["letter"]
    return Bars(Rectangle(30, 20, BAR_MM, BAR_THICK_MM), Rectangle(20, 30, BAR_THICK_MM, BAR_MM), own)


def _printable(paper: Paper, margins: Margins) -> BaseGeometry:
    right, bottom = paper.width_mm - margins.right, paper.height_mm - margins.bottom
    if right <= margins.left or bottom <= margins.top:
        return shapely.Polygon()
    return shapely.box(margins.left, margins.top, right, bottom)


def _box(one: Rectangle) -> BaseGeometry:
    return shapely.box(one.left_mm, one.top_mm, one.left_mm + one.width_mm, one.top_mm + one.height_mm)


def _printed(page: PrintPage) -> list[BaseGeometry]:
    """Everything on a page, where it is printed: larger or smaller by what the scale compensates."""
    shapes = [one.clip for one in page.pictures] + [one.shape for one in page.borders]
    shapes += [mark.shape for mark in page.marks]
    shapes += [shapely.LinearRing(line) for line in (*page.lines, *page.guides.lines)]
    shapes += [shapely.LineString(tick) for tick in page.guides.ticks]
    return [_scaled(shape, page) for shape in shapes]


def _scaled(shape: BaseGeometry, page: PrintPage) -> BaseGeometry:
    if page.scale == TRUE_SCALE:
        return shape
    middle = (page.paper.width_mm / 2, page.paper.height_mm / 2)
    return affinity.scale(shape, 1 / page.scale.x, 1 / page.scale.y, origin=middle)


def bars_drawing(bars: Bars, paper: Paper) -> Drawing:
    fills = tuple(
        Filled((rectangle(one.left_mm, one.top_mm, one.width_mm, one.height_mm),)) for one in (bars.across, bars.down)
    )
    return Drawing(bars.apart or paper, "bars", fills)


def job_line(page: PrintPage, live: BaseGeometry, text: str) -> Drawing | None:
    """A line of facts with a bar of 100 mm, where the live area leaves room outside the pieces; as much of it as goes.

    Parameters
    ----------
    live : geometry
        The live area as it is printed.
    """
    taken = [grow(one.clip, _CLEAR_MM, 0.02) for one in page.pictures]
    words_mm = len(text) * _LETTER_MM * _LETTER_WIDE + 3
    for shown, width in ((text, BAR_MM + words_mm), ("", BAR_MM)):
        place = place_for(live, taken, width, _LINE_MM)
        if place is not None:
            return _line(page.paper, place, shown)
    return None


def _line(paper: Paper, place: Rectangle, text: str) -> Drawing:
    left, middle = place.left_mm, place.top_mm + _LINE_MM / 2
    bar = Filled((rectangle(left, middle - 0.25, BAR_MM, 0.5),))
    ends = [Filled((rectangle(left + x, place.top_mm + 0.4, 0.3, _LINE_MM - 0.8),)) for x in (0.0, BAR_MM - 0.3)]
    words = (Words(left + BAR_MM + 2, middle + _LETTER_MM * 0.35, text, _LETTER_MM, Anchor.START),) if text else ()
    return Drawing(paper, "job line", (bar, *ends), (), words)


def scale_of(across_mm: float, down_mm: float, sure: bool = False) -> PrintScale:
    """The printer's scale, from what the two bars of a proof measure.

    Raises
    ------
    BadInput
        If a bar is so far from 100 mm that it is most likely a slip of the pen, unless the maker is `sure`; and if no
        printer could print it so.
    """
    for name, measured in (("across", across_mm), ("down", down_mm)):
        share = measured / BAR_MM
        if not _POSSIBLE[0] <= share <= _POSSIBLE[1]:
            raise BadInput(
                f"the bar {name} is {mm(BAR_MM)} long on the page and was measured as {mm(measured)}; no printer is so "
                "far off: look whether it is a slip of the pen, or another unit, and measure once more",
                name,
            )
        if not sure and not _LIKELY[0] <= share <= _LIKELY[1]:
            raise BadInput(
                f"the bar {name} was measured as {mm(measured)} of {mm(BAR_MM)}; if that is no slip of the pen, say "
                "that you are sure",
                name,
            )
    return PrintScale(round(across_mm / BAR_MM, 6), round(down_mm / BAR_MM, 6))
