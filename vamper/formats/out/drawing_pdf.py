"""A drawing as PDF, at true size; letters come from a font that ships, so that it looks the same everywhere."""

import io
from collections.abc import Sequence
from dataclasses import replace
from functools import cache

from reportlab import rl_config
from reportlab.lib.colors import HexColor
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from vamper.core.printing.page_box import Page
from vamper.core.values.drawing import CAP_SHARE, Anchor, Drawing, Words
from vamper.core.values.geometry import Points
from vamper.core.values.lengths import Unit, in_unit
from vamper.core.values.units import MM_PER_POINT, mm_to_points
from vamper.formats.fonts import FOLDER

_EVEN_ODD = 0
# Streams as they are, not as letters: a quarter smaller, and half of the time to write a page of pictures.
rl_config.useA85 = 0


@cache
def plain_font() -> str:
    return _registered("vamper-plain", "AtkinsonHyperlegible-Regular.ttf")


@cache
def bold_font() -> str:
    return _registered("vamper-bold", "AtkinsonHyperlegible-Bold.ttf")


def _registered(name: str, file: str) -> str:
    pdfmetrics.registerFont(TTFont(name, str(FOLDER / file)))
    return name


def write_drawing_pdf(drawing: Drawing, scale: tuple[float, float] = (1.0, 1.0), box: Page | None = None) -> bytes:
    """One page; drawn by the inverse of the printer's own `scale` about its middle. The page is the sheet, or the `box`
    that the printer takes for it.
    """
    out = io.BytesIO()
    paper = drawing.paper
    page = box or Page(paper.width_mm, paper.height_mm)
    canvas = new_canvas(out, page.width_mm, page.height_mm, drawing.title)
    begin_mm(canvas, page.height_mm)
    canvas.translate(page.left_mm, page.top_mm)
    canvas.translate(paper.width_mm / 2, paper.height_mm / 2)
    canvas.scale(1 / scale[0], 1 / scale[1])
    canvas.translate(-paper.width_mm / 2, -paper.height_mm / 2)
    draw(canvas, drawing)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def write_drawings_pdf(drawings: Sequence[Drawing], unit: Unit = Unit.MM) -> bytes:
    """One page a drawing, at true size, lengths in the unit that is asked for."""
    out = io.BytesIO()
    first = drawings[0]
    canvas = new_canvas(out, first.paper.width_mm, first.paper.height_mm, first.title)
    for drawing in drawings:
        canvas.setPageSize((mm_to_points(drawing.paper.width_mm), mm_to_points(drawing.paper.height_mm)))
        begin_mm(canvas, drawing.paper.height_mm)
        words = tuple(replace(one, text=in_unit(one.text, unit)) for one in drawing.words)
        draw(canvas, replace(drawing, words=words))
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def new_canvas(out: io.BytesIO, width_mm: float, height_mm: float, title: str) -> Canvas:
    size = (mm_to_points(width_mm), mm_to_points(height_mm))
    canvas = Canvas(out, pagesize=size, invariant=1, pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("Vamper")
    return canvas


def begin_mm(canvas: Canvas, height_mm: float) -> None:
    """From here on: millimetres, y down, from the page's top left."""
    canvas.transform(1 / MM_PER_POINT, 0, 0, -1 / MM_PER_POINT, 0, mm_to_points(height_mm))


def draw(canvas: Canvas, drawing: Drawing) -> None:
    """A drawing on a canvas in millimetres, y down."""
    for fill in drawing.fills:
        canvas.setFillColor(HexColor(fill.colour))
        canvas.drawPath(path_of(canvas, fill.rings), stroke=0, fill=1, fillMode=_EVEN_ODD)
    for stroke in drawing.strokes:
        canvas.setLineWidth(stroke.width_mm)
        canvas.setStrokeColor(HexColor(stroke.colour))
        canvas.setDash([1.5, 1.0] if stroke.dashed else [])
        canvas.drawPath(path_of(canvas, (stroke.points,), stroke.closed), stroke=1, fill=0)
    canvas.setDash([])
    for words in drawing.words:
        _write(canvas, words)


def _write(canvas: Canvas, words: Words) -> None:
    canvas.saveState()
    canvas.translate(words.x_mm, words.y_mm)
    canvas.rotate(words.turn_deg)
    canvas.scale(1, -1)
    canvas.setFont(plain_font(), words.height_mm / CAP_SHARE)
    canvas.setFillColor(HexColor(words.colour))
    write = {
        Anchor.START: canvas.drawString,
        Anchor.MIDDLE: canvas.drawCentredString,
        Anchor.END: canvas.drawRightString,
    }[words.anchor]
    write(0, 0, words.text)
    canvas.restoreState()


def path_of(canvas: Canvas, rings: tuple[Points, ...] | list[Points], closed: bool = True) -> PDFPathObject:
    """Rings, or open lines, as one path."""
    path = canvas.beginPath()
    for ring in rings:
        path.moveTo(*map(float, ring[0]))
        for x, y in ring[1:]:
            path.lineTo(float(x), float(y))
        if closed:
            path.close()
    return path
