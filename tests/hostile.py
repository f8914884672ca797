"""Art that would hurt whoever reads it without care, made by formula; shared by tests and bench."""

import base64
import io
import struct
import zlib
from collections.abc import Callable

import numpy as np
from PIL import Image
from reportlab.pdfgen.canvas import Canvas

CIRCLE = '<circle cx="50" cy="50" r="40"/>'
SQUARE_PAGE = 'width="100" height="100" viewBox="0 0 100 100"'


def svg(body: str, page: str = SQUARE_PAGE) -> bytes:
    return f'<svg xmlns="http://www.w3.org/2000/svg" {page}>{body}</svg>'.encode()


def png_that_claims(width: int, height: int) -> bytes:
    """A PNG of a few bytes whose header says that it is very large."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 6, 0, 0, 0))
    return b"\x89PNG\r\n\x1a\n" + header + chunk(b"IDAT", zlib.compress(bytes(100))) + chunk(b"IEND", b"")


def embedding(picture: bytes, kind: str = "png") -> bytes:
    data = base64.b64encode(picture).decode()
    return svg(f'<image width="90" height="90" href="data:image/{kind};base64,{data}"/>')


def copies_of_copies(powers: int) -> bytes:
    levels = "".join(
        f'<g id="a{n}">{f"<use href={chr(34)}#a{n - 1}{chr(34)}/>" * 10}</g>' for n in range(1, powers + 1)
    )
    return svg(f'<defs><circle id="a0" r="1"/>{levels}</defs><use href="#a{powers}"/>')


def filtered(effect: str, region: str = "") -> bytes:
    return svg(f'<filter id="f" {region}>{effect}</filter><g filter="url(#f)">{CIRCLE}</g>')


def noise_png(size_px: int) -> bytes:
    pixels = np.random.default_rng(1).integers(0, 256, (size_px, size_px, 4), dtype=np.uint8)
    return encoded(Image.fromarray(pixels), "PNG", compress_level=1)


def plain_png(megapixels: float) -> bytes:
    side = int((megapixels * 1e6) ** 0.5)
    return encoded(Image.new("RGB", (side, side), (40, 90, 160)), "PNG", compress_level=1)


def photo(megapixels: float, seed: int = 0) -> bytes:
    """A JPEG with shades and some grain, as a phone makes them."""
    side = int((megapixels * 1e6) ** 0.5)
    across = np.linspace(0, 255, side)
    pixels = np.stack([across[None, :] + 0 * across[:, None], across[:, None] + 0 * across[None, :]], axis=-1)
    grain = np.random.default_rng(seed).normal(0, 9, (side, side, 1))
    rgb = np.concatenate([pixels, np.full((side, side, 1), 90.0)], axis=-1) + grain
    return encoded(Image.fromarray(rgb.clip(0, 255).astype(np.uint8)), "JPEG", quality=88)


def many_segments(count: int) -> bytes:
    turns = np.arange(count) / count * 2 * np.pi
    radii = 40 * (1 - 0.1 * (np.arange(count) % 2))
    points = np.column_stack([50 + radii * np.sin(turns), 50 - radii * np.cos(turns)])
    return svg(f'<path d="M{" ".join(f"{x:.4f} {y:.4f}" for x, y in points)}z"/>')


def encoded(image: Image.Image, kind: str, **options: object) -> bytes:
    out = io.BytesIO()
    image.save(out, format=kind, **options)
    return out.getvalue()


def endless_pdf(levels: int = 9) -> bytes:
    """A page that shows a form that shows a form ten times, and so on: 10^levels discs."""
    objects = [
        b"<</Type/Catalog/Pages 2 0 R>>",
        b"<</Type/Pages/Kids[3 0 R]/Count 1>>",
        b"<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Contents 4 0 R/Resources<</XObject<</F 5 0 R>>>>>>",
    ]

    def stream(extra: bytes, data: bytes) -> bytes:
        return b"<<%s/Length %d>>stream\n%s\nendstream" % (extra, len(data), data)

    form = b"/Type/XObject/Subtype/Form/BBox[0 0 200 200]"
    objects.append(stream(b"", b"/F Do"))
    for level in range(levels):
        resources = b"/Resources<</XObject<</F %d 0 R>>>>" % (6 + level)
        objects.append(stream(form + resources, b"/F Do " * 10))
    objects.append(stream(form, b"0.5 g 20 20 m 180 20 l 100 180 l f"))
    out = io.BytesIO(b"%PDF-1.4\n")
    out.seek(0, io.SEEK_END)
    starts = []
    for number, body in enumerate(objects, 1):
        starts.append(out.tell())
        out.write(b"%d 0 obj\n%s\nendobj\n" % (number, body))
    table = out.tell()
    out.write(b"xref\n0 %d\n0000000000 65535 f \n" % (len(objects) + 1))
    for start in starts:
        out.write(b"%010d 00000 n \n" % start)
    out.write(b"trailer<</Size %d/Root 1 0 R>>\nstartxref\n%d\n%%%%EOF\n" % (len(objects) + 1, table))
    return out.getvalue()


def pages_pdf(count: int) -> bytes:
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(200, 200), invariant=1)
    for _ in range(count):
        canvas.circle(100, 100, 60, fill=1)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


# Each with a word of the sentence that it gets; drawn when it is asked for.
REFUSED: dict[str, tuple[Callable[[], bytes], str]] = {
    "groups.svg": (lambda: svg("<g>" * 500 + CIRCLE + "</g>" * 500), "nests"),
    "deep.svg": (lambda: svg("<g>" * 90_000 + CIRCLE + "</g>" * 90_000), "nests"),
    "claims.svg": (lambda: embedding(png_that_claims(300_000, 300_000)), "embedded"),
    "claims-little.svg": (lambda: embedding(png_that_claims(9000, 9000), "gif"), "embedded"),
    "thin.svg": (lambda: svg('<rect width="1" height="1000000"/>', 'width="1" height="1000000"'), "times as long"),
    "thin-box.svg": (lambda: svg('<rect width="1" height="10000"/>', 'viewBox="0 0 1 10000"'), "times as long"),
    "thin-mm.svg": (lambda: svg('<rect width="1" height="10000"/>', 'width="1mm" height="100in"'), "times as long"),
    "thick-lines.svg": (lambda: filtered('<feMorphology operator="dilate" radius="50"/>'), "filter"),
    "blurred.svg": (lambda: filtered('<feGaussianBlur stdDeviation="100000"/>'), "filter"),
    "far.svg": (lambda: filtered('<feFlood flood-color="red"/>', 'x="-1000000" width="2000000"'), "filter"),
    "copies.svg": (lambda: copies_of_copies(6), "draws more than"),
    "itself.svg": (lambda: svg(f'<g id="a"><use href="#a"/>{CIRCLE}</g>'), "into itself"),
    "noise.png": (lambda: noise_png(2000), "noise"),
    "claims.png": (lambda: png_that_claims(300_000, 300_000), "megapixel"),
}
