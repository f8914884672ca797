"""The print page as PDF: the page box is the paper, everything at true scale, pictures at their full resolution.

Each art is stored once as a form and shown as often as it has pieces. Files are the same for the same page.
"""

import io
from collections.abc import Callable

import numpy as np
from PIL import Image
from reportlab.lib.colors import HexColor
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas
from shapely.geometry.base import BaseGeometry

from vamper.core.art.picture import Picture
from vamper.core.printing.guides import GUIDE_WIDTH_MM, Guides
from vamper.core.printing.page import PrintPage
from vamper.core.printing.page_box import Page
from vamper.core.printing.proof import Bars, bars_drawing
from vamper.core.values.geometry import Points, parts, ring_points
from vamper.core.values.units import mm_to_points
from vamper.formats.out.drawing_pdf import begin_mm, draw, new_canvas, path_of

_CUT_LINE, _CUT_LINE_MM = "#A3261C", 0.2
# The format's name for this fill rule; the writer wants it as a number.
_EVEN_ODD = 0
_CLEAR_WHITE = np.array([255, 255, 255, 0], np.uint8).view(np.uint32)


def write_pdf(page: PrintPage, pictures: Callable[[int], Picture], title: str, bars: Bars | None = None) -> bytes:
    """One page, or two for a proof whose `bars` need one of their own.

    `pictures` gives the picture of an item on it; each is asked for once.
    """
    out = io.BytesIO()
    box = page.box or Page(page.paper.width_mm, page.paper.height_mm)
    canvas = new_canvas(out, box.width_mm, box.height_mm, title)
    for item in sorted({printed.item for printed in page.pictures}):
        _store_picture(canvas, item, pictures(item))
    begin_mm(canvas, box.height_mm)
    canvas.translate(box.left_mm, box.top_mm)
    canvas.saveState()
    middle = page.paper.width_mm / 2, page.paper.height_mm / 2
    canvas.translate(*middle)
    canvas.scale(1 / page.scale.x, 1 / page.scale.y)
    canvas.translate(-middle[0], -middle[1])
    for border in page.borders:
        canvas.setFillColor(HexColor(border.colour))
        canvas.drawPath(path_of(canvas, _rings(border.shape)), stroke=0, fill=1, fillMode=_EVEN_ODD)
    for printed in page.pictures:
        canvas.saveState()
        canvas.clipPath(path_of(canvas, _rings(printed.clip)), stroke=0, fill=0, fillMode=_EVEN_ODD)
        canvas.transform(*printed.matrix)
        canvas.doForm(_form_name(printed.item))
        canvas.restoreState()
    canvas.setFillGray(0)
    for mark in page.marks:
        canvas.drawPath(path_of(canvas, mark.rings), stroke=0, fill=1, fillMode=_EVEN_ODD)
    _draw_guides(canvas, page.guides)
    _draw_cut_lines(canvas, page.lines)
    for drawing in page.over:
        draw(canvas, drawing)
    canvas.restoreState()
    if bars is not None and bars.apart is not None:
        canvas.showPage()
        canvas.setPageSize((mm_to_points(bars.apart.width_mm), mm_to_points(bars.apart.height_mm)))
        begin_mm(canvas, bars.apart.height_mm)
    if bars is not None:
        draw(canvas, bars_drawing(bars, page.paper))
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw_guides(canvas: Canvas, guides: Guides) -> None:
    canvas.setLineWidth(GUIDE_WIDTH_MM)
    canvas.setStrokeGray(0.55)
    for ring in guides.lines:
        canvas.drawPath(path_of(canvas, (ring,)), stroke=1, fill=0)
    canvas.setStrokeGray(0)
    for (x0, y0), (x1, y1) in guides.ticks:
        canvas.line(x0, y0, x1, y1)


def _draw_cut_lines(canvas: Canvas, lines: tuple[Points, ...]) -> None:
    canvas.setLineWidth(_CUT_LINE_MM)
    canvas.setStrokeColor(HexColor(_CUT_LINE))
    for ring in lines:
        canvas.drawPath(path_of(canvas, (ring,)), stroke=1, fill=0)


def _form_name(item: int) -> str:
    return f"art{item}"


def _store_picture(canvas: Canvas, item: int, picture: Picture) -> None:
    """The picture as a form of one unit each way, y down."""
    image = Image.fromarray(_with_colour_under_transparency(picture.rgba))
    canvas.beginForm(_form_name(item), 0, 0, 1, 1)
    canvas.transform(1, 0, 0, -1, 0, 1)
    canvas.drawImage(ImageReader(image), 0, 0, 1, 1, mask=None if picture.is_opaque else "auto")
    canvas.endForm()


def _with_colour_under_transparency(
    rgba: np.ndarray[tuple[int, ...], np.dtype[np.uint8]],
) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    """White under fully transparent pixels, so that a printer's scaling never drags black into the rim."""
    clear = rgba[:, :, 3] == 0
    if not clear.any():
        return rgba
    # A pixel as one number: all four of its bytes are set at once.
    whole = np.ascontiguousarray(rgba).view(np.uint32)
    return np.where(clear[:, :, None], _CLEAR_WHITE, whole).view(np.uint8)


def _rings(shape: BaseGeometry) -> list[Points]:
    return [ring_points(ring) for part in parts(shape) for ring in (part.exterior, *part.interiors)]
