"""Pictures inside drawings are judged at the size at which they are drawn, whatever moves and scales them there."""

import base64
import io
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from vamper.core.art.inspect import look_over
from vamper.core.art.outline import outline_at, trace
from vamper.core.values.art import SizeSpec
from vamper.formats.art_in.art_file import read_art

SIZE = SizeSpec(width_mm=80)


def png(width: int, height: int) -> bytes:
    out = io.BytesIO()
    Image.fromarray(np.full((height, width, 3), (60, 120, 140), np.uint8)).save(out, "PNG")
    return out.getvalue()


def drawing(inside: str, page: str = 'width="80mm" height="80mm" viewBox="0 0 80 80"') -> bytes:
    return f'<svg xmlns="http://www.w3.org/2000/svg" {page}>{inside}</svg>'.encode()


def image(places: str, width: int = 90, height: int = 90) -> str:
    return f'<image {places} href="data:image/png;base64,{base64.b64encode(png(width, height)).decode()}"/>'


def ppi_of(data: bytes, name: str = "a.svg", size: SizeSpec = SIZE) -> float | None:
    picture = read_art(data, name, size)
    outline = outline_at(trace(picture), size)
    return look_over(picture, outline, 0.5).ppi(outline)


def test_a_picture_that_covers_a_drawing_is_as_coarse_as_it_is() -> None:
    assert ppi_of(drawing(image('width="80" height="80"'))) == pytest.approx(90 / 80 * 25.4, rel=0.01)
    # Drawn twice as large on the sheet it is half as fine.
    twice = SizeSpec(width_mm=160)
    assert ppi_of(drawing(image('width="80" height="80"')), size=twice) == pytest.approx(90 / 160 * 25.4, rel=0.01)
    assert ppi_of(drawing('<rect width="80" height="80" fill="#246"/>')) is None


@given(st.floats(0.2, 5), st.floats(0, 360), st.floats(10, 60))
def test_scales_and_turns_are_followed(scale: float, turn: float, side: float) -> None:
    """The picture is drawn `side` mm wide, whatever it takes to get there."""
    inner = image(f'width="{side / scale}" height="{side / scale}"')
    ground = '<rect width="80" height="80" fill="#246"/>'
    moved = f'<g transform="translate(5 3) scale({scale})"><g transform="rotate({turn})">{inner}</g></g>'
    assert ppi_of(drawing(ground + moved)) == pytest.approx(90 / side * 25.4, rel=0.01)
    angle = math.radians(turn)
    rows = [scale * math.cos(angle), scale * math.sin(angle), -scale * math.sin(angle), scale * math.cos(angle)]
    matrix = f'<g transform="matrix({" ".join(f"{one:.9f}" for one in rows)} 5 3)">{inner}</g>'
    assert ppi_of(drawing(ground + matrix)) == pytest.approx(90 / side * 25.4, rel=0.01)


@pytest.mark.parametrize(
    ("places", "wide_mm"),
    [
        # A square picture in an oblong box: as large as fits, as large as covers, or pulled to its shape.
        ('width="80" height="40"', 40.0),
        ('width="80" height="40" preserveAspectRatio="xMidYMid slice"', 80.0),
        ('width="80" height="40" preserveAspectRatio="none"', 80.0),
    ],
)
def test_how_a_picture_fills_its_box_counts(places: str, wide_mm: float) -> None:
    ground = '<rect width="80" height="80" fill="#246"/>'
    assert ppi_of(drawing(ground + image(places))) == pytest.approx(90 / wide_mm * 25.4, rel=0.01)
    nested = f'<svg x="10" y="10" width="40" height="40" viewBox="0 0 80 80">{image(places)}</svg>'
    assert ppi_of(drawing(ground + nested)) == pytest.approx(90 / (wide_mm / 2) * 25.4, rel=0.01)


def test_the_coarsest_of_several_counts_in_a_pdf_too() -> None:
    coarse, fine = image('width="40" height="40"', 40, 40), image('x="40" width="40" height="40"', 900, 900)
    ground = '<rect width="80" height="80" fill="#246"/>'
    assert ppi_of(drawing(ground + coarse + fine)) == pytest.approx(25.4, rel=0.01)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(200, 200), invariant=1)
    canvas.drawImage(ImageReader(io.BytesIO(png(50, 50))), 0, 0, 200, 200)
    canvas.drawImage(ImageReader(io.BytesIO(png(500, 500))), 20, 20, 50, 50)
    canvas.save()
    assert ppi_of(out.getvalue(), "a.pdf") == pytest.approx(50 / 80 * 25.4, rel=0.02)
