"""Pictures and drawings in, good and bad; every bad one gets a sentence."""

import base64
import io
import struct
import zlib
from contextlib import suppress

import numpy as np
import pytest
from PIL import Image

from tests.conftest import disc_png
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.picture import Conversion
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.formats.art_in.art_file import read_art
from vamper.formats.art_in.svg import PPI

SIZE = SizeSpec(width_mm=20)


def encoded(image: Image.Image, kind: str, **options: object) -> bytes:
    out = io.BytesIO()
    image.save(out, format=kind, **options)
    return out.getvalue()


RGBA = Image.fromarray(np.dstack([np.full((40, 60, 3), 90, np.uint8), np.full((40, 60), 255, np.uint8)]))


@pytest.mark.parametrize(
    ("name", "data"),
    [
        ("a.png", encoded(RGBA, "PNG")),
        ("a.JPG", encoded(RGBA.convert("RGB"), "JPEG")),
        ("a.webp", encoded(RGBA, "WEBP")),
        ("grey.png", encoded(RGBA.convert("L"), "PNG")),
        ("palette.png", encoded(RGBA.convert("P"), "PNG")),
    ],
)
def test_every_raster_format_reads_as_rgba(name: str, data: bytes) -> None:
    assert read_art(data, name, SIZE).rgba.shape == (40, 60, 4)


def test_conversions_are_told() -> None:
    cmyk = read_art(encoded(RGBA.convert("CMYK"), "JPEG"), "a.jpg", SIZE)
    assert cmyk.conversions == (Conversion.CMYK,)
    deep = Image.fromarray(np.full((10, 10), 40000, np.uint16))
    read = read_art(encoded(deep, "PNG"), "a.png", SIZE)
    assert read.conversions == (Conversion.DEEP,)
    assert abs(int(read.rgba[0, 0, 0]) - 40000 / 257) <= 1
    exif = Image.Exif()
    exif[0x0112] = 6
    turned = read_art(encoded(RGBA.convert("RGB"), "JPEG", exif=exif), "a.jpg", SIZE)
    assert (turned.width_px, turned.height_px) == (40, 60)
    assert Conversion.TURNED in turned.conversions


def svg(body: str, attributes: str = 'width="50mm" height="50mm" viewBox="0 0 100 100"') -> bytes:
    links = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
    return f"<svg {links} {attributes}>{body}</svg>".encode()


@pytest.mark.parametrize("attributes", ['width="50mm" height="50mm" viewBox="0 0 100 100"', 'viewBox="0 0 100 100"'])
def test_a_drawing_is_rendered_at_600_ppi_of_its_inked_size(attributes: str) -> None:
    picture = read_art(svg('<circle cx="40" cy="50" r="20"/>', attributes), "a.svg", SIZE)
    outline = outline_at(trace(picture), SIZE)
    assert outline.ppi == pytest.approx(PPI, rel=0.01)
    assert outline.shape.area == pytest.approx(np.pi * 100, rel=0.002)


def test_text_gradients_clips_and_embedded_pictures_are_drawn() -> None:
    png = base64.b64encode(disc_png(40)).decode()
    body = (
        '<defs><linearGradient id="g"><stop stop-color="red"/></linearGradient>'
        '<clipPath id="c"><rect width="50" height="100"/></clipPath></defs>'
        '<rect width="60" height="20" fill="url(#g)" clip-path="url(#c)"/><text x="5" y="60" font-size="30">Hi</text>'
        f'<image y="70" width="30" height="30" xlink:href="data:image/png;base64,{png}"/>'
        '<a href="https://example.org"><rect x="60" y="60" width="9" height="9"/></a>'
    )
    alpha = read_art(svg(body), "a.svg", SIZE).alpha
    assert (alpha > 127).any()


BOMB = b'<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg"><text>&x;</text></svg>'


def huge_png() -> bytes:
    """A tiny file that claims 20,000 × 10,000 pixels."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    header = struct.pack(">IIBBBBB", 20000, 10000, 8, 6, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(b"\0")) + chunk(b"IEND", b"")


BAD = [
    ("empty.png", b"", "empty"),
    ("text.txt", b"hello", "bring a PNG"),
    ("cut.png", disc_png()[:400], "cut short or damaged"),
    ("named.jpg", disc_png(), "is a PNG inside"),
    ("noise.png", b"\x89PNG\r\n\x1a\n" + bytes(200), "damaged"),
    ("huge.png", huge_png(), "megapixels"),
    ("large.png", disc_png() + bytes(65 * 2**20), "65 MB"),
    ("entity.svg", BOMB, "entities"),
    ("link.svg", svg('<image href="https://example.org/a.png" width="9" height="9"/>'), "outside it"),
    ("file.svg", svg('<image xlink:href="/etc/passwd" width="9" height="9"/>'), "outside it"),
    ("use.svg", svg('<use href="other.svg#a"/>'), "outside it"),
    (
        "style.svg",
        svg("<style>@import url(https://example.org/a.css);</style><rect width='9' height='9'/>"),
        "outside it",
    ),
    ("fill.svg", svg('<rect width="9" height="9" style="fill:url(http://example.org/#a)"/>'), "outside it"),
    ("nothing.svg", svg(""), "draws nothing"),
    ("broken.svg", b'<svg xmlns="http://www.w3.org/2000/svg"><rect', "damaged"),
    ("page.svg", b"<html><!-- <svg --></html>", "not an SVG"),
]


@pytest.mark.parametrize(("name", "data", "words"), BAD, ids=[name for name, *_ in BAD])
def test_bad_art_is_refused_with_its_own_sentence(name: str, data: bytes, words: str) -> None:
    with pytest.raises(BadInput, match=words) as refused:
        read_art(data, name, SIZE)
    assert refused.value.where == name


def test_an_svg_within_an_svg_keeps_to_itself_too() -> None:
    inner = base64.b64encode(svg('<image href="/etc/passwd"/>')).decode()
    with pytest.raises(BadInput, match="outside it"):
        read_art(svg(f'<image width="9" height="9" href="data:image/svg+xml;base64,{inner}"/>'), "a.svg", SIZE)


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP"])
def test_truncated_and_mutated_pictures_never_crash(kind: str) -> None:
    whole = encoded(RGBA if kind != "JPEG" else RGBA.convert("RGB"), kind)
    generator = np.random.default_rng(3)
    for _ in range(40):
        data = bytearray(whole[: generator.integers(12, len(whole) + 1)])
        for place in generator.integers(12, len(data) + 1, 3):
            if place < len(data):
                data[place] = generator.integers(256)
        # Anything but a picture or a refusal would end the test.
        with suppress(BadInput):
            read_art(bytes(data), f"a.{kind.lower()}", SIZE)
