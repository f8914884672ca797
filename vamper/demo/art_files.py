"""The club's art as files: pictures and drawings of every kind that can be read."""

import io
from collections.abc import Callable

import numpy as np
from PIL import Image
from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas

from vamper.core.values.art import SizeSpec
from vamper.demo import drawings
from vamper.formats.art_in.raster import png_bytes
from vamper.formats.art_in.svg import read_svg

# What prints sharp at the sizes the club's jobs ask for, and no more: a first start draws all of them.


_PICTURE_MM = 36.0


def _png(body: str) -> bytes:
    """A drawing as a PNG of a size that prints sharp."""
    return png_bytes(read_svg(drawings.svg(body), SizeSpec(width_mm=_PICTURE_MM)))


def _white_ground_jpeg(body: str) -> bytes:
    """A drawing on opaque white, as pictures from the web often come."""
    picture = Image.open(io.BytesIO(_png(body)))
    ground = Image.new("RGB", picture.size, "white")
    ground.paste(picture, mask=picture.getchannel("A"))
    out = io.BytesIO()
    ground.save(out, format="JPEG", quality=92)
    return out.getvalue()


def _printing_colours_jpeg(body: str) -> bytes:
    """A drawing in CMYK, as a print shop hands it over."""
    out = io.BytesIO()
    Image.open(io.BytesIO(_white_ground_jpeg(body))).convert("CMYK").save(out, format="JPEG", quality=92)
    return out.getvalue()


def _wide_margin(body: str) -> bytes:
    """A drawing small in a wide transparent margin."""
    picture = Image.open(io.BytesIO(_png(body)))
    wide = Image.new("RGBA", (2 * picture.width, 2 * picture.height))
    wide.paste(picture, (picture.width // 3, picture.height // 2))
    out = io.BytesIO()
    wide.save(out, format="PNG")
    return out.getvalue()


def _pages(*numbers: int) -> bytes:
    """Number plates as a PDF, a page each."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(200, 200), invariant=1)
    for number in numbers:
        canvas.setFillColor(HexColor("#2F6F86"))
        canvas.roundRect(20, 50, 160, 100, 18, stroke=0, fill=1)
        canvas.setFillColor(HexColor("#F6F1E6"))
        canvas.setFont("Helvetica-Bold", 74)
        canvas.drawCentredString(100, 74, str(number))
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _sunset() -> bytes:
    """A photo-like evening on the water, round, of far too few pixels."""
    size = 96
    y, x = np.mgrid[0:size, 0:size] / (size - 1)
    generator = np.random.default_rng(7)
    sky = np.stack([240 - 60 * y, 150 - 70 * y, 90 + 40 * y], axis=-1)
    glitter = (np.sin(60 * y + 3 * np.sin(9 * x)) > 0.4) & (np.abs(x - 0.5) < 0.08 + 0.25 * (y - 0.55))
    water = np.stack([60 + 0 * y, 80 + 30 * y, 110 + 20 * y], axis=-1) + 130 * glitter[..., None]
    colours = np.where((y > 0.55)[..., None], water, sky)
    sun = np.hypot(x - 0.5, y - 0.45) < 0.13
    colours = np.where((sun & (y <= 0.55))[..., None], [255, 226, 140], colours)
    colours += generator.normal(0, 5, colours.shape)
    alpha = np.clip((0.49 - np.hypot(x - 0.5, y - 0.5)) * size, 0, 1) * 255
    rgba = np.dstack([colours.clip(0, 255), alpha]).astype(np.uint8)
    out = io.BytesIO()
    Image.fromarray(rgba).save(out, format="PNG")
    return out.getvalue()


ART: dict[str, Callable[[], bytes]] = {
    "seabird.png": lambda: _png(drawings.seabird()),
    "lighthouse.svg": lambda: drawings.svg(drawings.lighthouse()),
    "life-buoy.png": lambda: _png(drawings.buoy()),
    "kelp.svg": lambda: drawings.svg(drawings.kelp()),
    "rope.png": lambda: _png(drawings.rope()),
    "reach-lettering.svg": lambda: drawings.svg(drawings.lettering()),
    "oyster.png": lambda: _png(drawings.oyster()),
    "paddles.png": lambda: _png(drawings.paddles()),
    "evening.png": _sunset,
    "seabird-on-white.jpg": lambda: _white_ground_jpeg(drawings.seabird()),
    "tide-label.svg": lambda: drawings.svg(drawings.tide_label()),
    "harbour-set.png": lambda: _png(drawings.harbour_set()),
    "lantern.png": lambda: _png(drawings.lantern()),
    "pennant.png": lambda: _png(drawings.pennant()),
    "bow-wave.png": lambda: _png(drawings.bow_wave()),
    "race-number.svg": lambda: drawings.svg(drawings.race_number(17)),
    "race-numbers.pdf": lambda: _pages(21, 22, 23),
    "oyster-for-the-printer.jpg": lambda: _printing_colours_jpeg(drawings.oyster()),
    "burgee.svg": lambda: drawings.svg(drawings.burgee()),
    "paddles-small.png": lambda: _wide_margin(drawings.paddles()),
}
