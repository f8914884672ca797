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
from reportlab.pdfgen.pathobject import PDFPathObject
from shapely.geometry.base import BaseGeometry

from vamper.core.art.picture import Picture
from vamper.core.printing.guides import GUIDE_WIDTH_MM, Guides
from vamper.core.printing.page import PrintPage
from vamper.core.values.geometry import Points, parts, ring_points
from vamper.core.values.units import MM_PER_POINT, mm_to_points

# The format's name for this fill rule; the writer wants it as a number.
_EVEN_ODD = 0


def write_pdf(page: PrintPage, pictures: Callable[[int], Picture], title: str) -> bytes:
    """One page. `pictures` gives the picture of an item on it; each is asked for once."""
    out = io.BytesIO()
    width, height = mm_to_points(page.paper.width_mm), mm_to_points(page.paper.height_mm)
    canvas = Canvas(out, pagesize=(width, height), invariant=1, pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("Vamper")
    for item in sorted({printed.item for printed in page.pictures}):
        _store_picture(canvas, item, pictures(item))
    # From here on: millimetres, y down, from the paper's top left.
    canvas.transform(1 / MM_PER_POINT, 0, 0, -1 / MM_PER_POINT, 0, height)
    for border in page.borders:
        canvas.setFillColor(HexColor(border.colour))
        canvas.drawPath(_path(canvas, _rings(border.shape)), stroke=0, fill=1, fillMode=_EVEN_ODD)
    for printed in page.pictures:
        canvas.saveState()
        canvas.clipPath(_path(canvas, _rings(printed.clip)), stroke=0, fill=0, fillMode=_EVEN_ODD)
        canvas.transform(*printed.matrix)
        canvas.doForm(_form_name(printed.item))
        canvas.restoreState()
    canvas.setFillGray(0)
    for mark in page.marks:
        canvas.drawPath(_path(canvas, mark.rings), stroke=0, fill=1, fillMode=_EVEN_ODD)
    _draw_guides(canvas, page.guides)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw_guides(canvas: Canvas, guides: Guides) -> None:
    canvas.setLineWidth(GUIDE_WIDTH_MM)
    canvas.setStrokeGray(0.55)
    for ring in guides.lines:
        canvas.drawPath(_path(canvas, (ring,)), stroke=1, fill=0)
    canvas.setStrokeGray(0)
    for (x0, y0), (x1, y1) in guides.ticks:
        canvas.line(x0, y0, x1, y1)


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
    whitened = rgba.copy()
    whitened[clear] = (255, 255, 255, 0)
    return whitened


def _rings(shape: BaseGeometry) -> list[Points]:
    return [ring_points(ring) for part in parts(shape) for ring in (part.exterior, *part.interiors)]


def _path(canvas: Canvas, rings: list[Points] | tuple[Points, ...]) -> PDFPathObject:
    path = canvas.beginPath()
    for ring in rings:
        path.moveTo(*map(float, ring[0]))
        for x, y in ring[1:]:
            path.lineTo(float(x), float(y))
        path.close()
    return path
