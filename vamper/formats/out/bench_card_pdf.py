"""The bench card as PDF: one page of the job's paper size or larger, the loading picture on its right.

Text is set as large as all of it still fits on the page.
"""

import io
from collections.abc import Sequence
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Frame, KeepInFrame, Paragraph
from reportlab.platypus.flowables import Flowable

from vamper.core.bench_step import BenchStep
from vamper.core.values.drawing import Drawing
from vamper.core.values.lengths import Unit, in_unit
from vamper.core.values.paper import Paper
from vamper.core.values.units import mm_to_points
from vamper.formats.out.drawing_pdf import begin_mm, bold_font, draw, new_canvas, plain_font

_LEAST = Paper(190.0, 250.0)
_RIM_MM, _GUTTER_MM = 12.0, 8.0
_INK, _SOFT = HexColor("#22262E"), HexColor("#5B616E")
# Sizes of text that are tried, points.
_SIZES = (12.0, 11.0, 10.0, 9.0, 8.0, 7.0)


def write_bench_card(
    steps: Sequence[BenchStep], picture: Drawing, paper: Paper, title: str, about: str, unit: Unit = Unit.MM
) -> bytes:
    """One page with all steps."""
    width, height = max(paper.width_mm, _LEAST.width_mm), max(paper.height_mm, _LEAST.height_mm)
    out = io.BytesIO()
    canvas = new_canvas(out, width, height, f"Bench card: {title}")
    side = picture.paper.width_mm
    text_width = mm_to_points(width - 2 * _RIM_MM - _GUTTER_MM - side)
    text_height = mm_to_points(height - 2 * _RIM_MM)
    story = next(
        (
            flow
            for size in _SIZES
            if _height(flow := _story(steps, title, about, size, unit), text_width) <= text_height
        ),
        _story(steps, title, about, _SIZES[-1], unit),
    )
    frame = Frame(mm_to_points(_RIM_MM), mm_to_points(_RIM_MM), text_width, text_height, 0, 0, 0, 0, showBoundary=0)
    frame.addFromList([KeepInFrame(text_width, text_height, story, mode="shrink")], canvas)
    begin_mm(canvas, height)
    canvas.translate(width - _RIM_MM - side, _RIM_MM)
    draw(canvas, picture)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _height(story: Sequence[Flowable], width: float) -> float:
    return sum(one.wrap(width, 1e6)[1] + one.getSpaceBefore() for one in story)


def _story(steps: Sequence[BenchStep], title: str, about: str, size: float, unit: Unit) -> list[Flowable]:
    def style(share: float, bold: bool = False, before: float = 0.0, left: float = 0.0) -> ParagraphStyle:
        return ParagraphStyle(
            "",
            fontName=bold_font() if bold else plain_font(),
            fontSize=size * share,
            leading=size * share * 1.25,
            spaceBefore=size * before,
            leftIndent=size * left,
            bulletIndent=size * left * 0.4,
            textColor=_INK,
        )

    def said(text: str) -> str:
        return escape(in_unit(text, unit))

    story: list[Flowable] = [Paragraph(said(title), style(1.6, True)), Paragraph(said(about), style(1.0))]
    for number, step in enumerate(steps, 1):
        story.append(Paragraph(f"{number}. {said(step.do)}", style(1.15, True, 0.7)))
        story += [Paragraph(said(figure), style(1.1, True, left=1.4)) for figure in step.figures]
        story += [Paragraph(said(line), style(1.0, left=1.4), bulletText="•") for line in step.lines]
    return story
