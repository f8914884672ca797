"""PDF pages, deep and profiled pictures, palettes, fonts of drawings."""

import io
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest
from PIL import Image, ImageCms
from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas

from tests.formats.test_art_files import RGBA, encoded
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.picture import Conversion, Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_file import page_count, read_art, read_sketch

SIZE = SizeSpec(width_mm=20)


def pdf(*sizes: float, password: str | None = None) -> bytes:
    """One disc a page, of these diameters in points; 0 leaves a page empty."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(200, 300), invariant=1, encrypt=password)
    for size in sizes:
        if size:
            canvas.setFillColor(HexColor("#2F6F86"))
            canvas.circle(100, 150, size / 2, stroke=0, fill=1)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def test_a_pdf_page_is_rendered_at_600_ppi_of_its_inked_size() -> None:
    picture = read_art(pdf(120), "a.pdf", SIZE)
    outline = outline_at(trace(picture), SIZE)
    assert picture.is_vector
    assert outline.ppi == pytest.approx(600, rel=0.01)
    assert outline.shape.area == pytest.approx(np.pi * 100, rel=0.005)
    middle = picture.rgba[picture.height_px // 2, picture.width_px // 2]
    assert middle.tolist() == [0x2F, 0x6F, 0x86, 255]
    assert picture.rgba[0, 0, 3] == 0


def test_the_page_can_be_chosen() -> None:
    data = pdf(60, 180)
    assert page_count(data, "a.pdf") == 2
    sketches = [read_sketch(data, "a.pdf", 300, page) for page in (1, 2)]
    inked = [int((sketch.rgba[..., 3] > 0).sum()) for sketch in sketches if sketch]
    assert inked[1] > 8 * inked[0]
    with pytest.raises(BadInput, match="2 pages, there is no page 3"):
        read_art(data, "a.pdf", SIZE, 3)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (pdf(60)[:150], "damaged"),
        (pdf(0), "draws nothing"),
        (pdf(60, password="secret"), "password"),
        (b"%PDF-1.4 nothing", "damaged"),
    ],
)
def test_bad_pdfs_get_a_sentence(data: bytes, words: str) -> None:
    with pytest.raises(BadInput, match=words):
        read_art(data, "a.pdf", SIZE)


def test_a_deep_picture_in_colour_is_told() -> None:
    import struct
    import zlib

    pixels = np.full((4, 5, 3), 40000, ">u2")
    rows = b"".join(b"\0" + row.tobytes() for row in pixels)

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    header = struct.pack(">IIBBBBB", 5, 4, 16, 2, 0, 0, 0)
    png = b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b"")
    read = read_art(png, "deep.png", SIZE)
    assert Conversion.DEEP in read.conversions
    assert abs(int(read.rgba[0, 0, 0]) - 156) <= 1


def test_a_profile_is_followed_and_told_and_srgb_is_not_news() -> None:
    red = Image.new("RGB", (8, 8), (200, 60, 40))
    srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    assert read_art(encoded(red, "PNG", icc_profile=srgb), "a.png", SIZE).conversions == ()
    lab_like = ImageCms.ImageCmsProfile(ImageCms.createProfile("XYZ")).tobytes()
    odd = read_art(encoded(red, "PNG", icc_profile=lab_like), "a.png", SIZE)
    assert odd.rgba.shape == (8, 8, 4)
    damaged = read_art(encoded(red, "PNG", icc_profile=b"no profile"), "a.png", SIZE)
    assert damaged.rgba[0, 0].tolist() == [200, 60, 40, 255]


def lettered(style: str, sheet: str = "") -> Picture:
    """A word in a drawing of its own."""
    text = f'<style>{sheet}</style><text class="word" x="5" y="30" {style}>Ada</text>'
    return read_art(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 40">{text}</svg>'.encode(), "a.svg", SIZE
    )


@pytest.mark.parametrize(
    ("style", "sheet", "as_in"),
    [
        ('font-family="cursive"', "", "Caveat"),
        ('font-family="Gannet Script, cursive"', "", "Caveat"),
        ('font-family="handwritten"', "", "Caveat"),
        ("style=\"font-family: 'Caveat', serif\"", "", "Caveat"),
        ("style=\"font: 16px 'Gannet Script', fantasy\"", "", "Bricolage Grotesque"),
        ("", ".word { font-family: fantasy !important; fill: black }", "Bricolage Grotesque"),
        ('font-family="Gannet Stencil"', "", "Atkinson Hyperlegible"),
        ('font-family="inherit"', "", "Atkinson Hyperlegible"),
        ("", "", "Atkinson Hyperlegible"),
    ],
)
def test_text_is_drawn_in_the_shipped_font_that_stands_for_what_it_asks_for(style: str, sheet: str, as_in: str) -> None:
    wanted = lettered(f'font-family="{as_in}"').rgba
    assert np.array_equal(lettered(style, sheet).rgba, wanted)
    assert wanted[..., 3].any()


def test_drawings_are_read_in_any_thread() -> None:
    with ThreadPoolExecutor(2) as threads:
        first, second = (one.result() for one in [threads.submit(lettered, "") for _ in range(2)])
    assert np.array_equal(first.rgba, second.rgba)
    assert np.array_equal(lettered("").rgba, first.rgba)


def test_palettes_keep_their_transparency() -> None:
    clear = RGBA.copy()
    clear.paste((0, 0, 0, 0), (0, 0, 20, 40))
    read = read_art(encoded(clear.quantize(8), "PNG"), "a.png", SIZE)
    assert Conversion.PALETTE in read.conversions
    assert read.rgba[5, 5, 3] == 0
    assert read.rgba[5, 50, 3] == 255


@pytest.mark.parametrize(
    ("style", "fonts"),
    [
        ('font-family="Gannet Stencil"', ("Gannet Stencil",)),
        ("style=\"font: bold 12px 'Reach Serif', serif\"", ("Reach Serif",)),
        ('font-family="Caveat"', ()),
        ('font-family="sans-serif"', ()),
    ],
)
def test_fonts_that_are_not_shipped_are_told(style: str, fonts: tuple[str, ...]) -> None:
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 40"><text x="5" y="30" {style}>Ada</text></svg>'
    assert read_art(svg.encode(), "a.svg", SIZE).other_fonts == fonts
