"""SVG drawings as art, rendered by resvg at the size they are wanted in, once `svg_check` has let them pass.

A drawing is rendered twice: small, to find how much of it is inked, and at `PPI` of the inked area's wanted size.
"""

import io
import math

import numpy as np
import resvg
from PIL import Image
from resvg import usvg

from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.fonts import DEFAULT_FAMILY
from vamper.core.values.units import pixels_at
from vamper.formats.art_in.embedded import embedded_px
from vamper.formats.art_in.raster import MOST_DRAWN_PX
from vamper.formats.art_in.svg_check import CheckedSvg, check_svg
from vamper.formats.art_in.svg_fonts import has_text, other_fonts, with_shipped_fonts
from vamper.formats.fonts import font_files

PPI = 600.0
_SCOUT_PX = 280
# A line far thinner than the scout's pixels is ink too.
_SCOUT_ALPHA = 32
# Grounds that lie on each other may take so much together; filters work on several copies, in finer steps.
_LAYER_BYTES = 600 * 2**20
_MOST_FILTERED_PX = 6_000_000


def read_svg(data: bytes, size: SizeSpec) -> Picture:
    """Render a drawing so that its inked area has `PPI` pixels an inch at the wanted size.

    Raises
    ------
    BadInput
        If it is not an SVG, refers outside itself, takes too much to draw, has no size, or draws nothing.
    """
    drawing = check_svg(data)
    svg = _text_of(data, drawing)
    scout = _render(svg, _across(drawing, _SCOUT_PX**2))
    inked = scout[:, :, 3] >= _SCOUT_ALPHA
    rows, columns = np.flatnonzero(inked.any(axis=1)), np.flatnonzero(inked.any(axis=0))
    if not rows.size:
        raise BadInput("the SVG draws nothing that would be printed")
    inked_width, inked_height = columns[-1] - columns[0] + 1, rows[-1] - rows[0] + 1
    width_mm = size.of(float(inked_width), float(inked_height)) * inked_width
    width_px = pixels_at(width_mm * scout.shape[1] / inked_width, PPI)
    pixels = _render(svg, min(width_px, _across(drawing, _most_px(drawing))))
    return Picture(
        pixels, is_vector=True, other_fonts=other_fonts(drawing.root), embedded=_embedded(drawing, pixels.shape[1])
    )


def sketch_svg(data: bytes, longest_px: int) -> Picture:
    """The whole drawing, its longer side about `longest_px`; rendered straight at that size, which is quick."""
    drawing = check_svg(data)
    svg = _text_of(data, drawing)
    width_px = max(1, round(longest_px * min(1.0, drawing.width / drawing.height)))
    pixels = _render(svg, min(width_px, _across(drawing, _most_px(drawing))))
    return Picture(pixels, is_vector=True, embedded=_embedded(drawing, pixels.shape[1]))


def _embedded(drawing: CheckedSvg, width_px: int) -> float | None:
    """Pixels of the coarsest picture inside to one of a rendering."""
    across = embedded_px(drawing.root, drawing.width, drawing.height)
    return None if across is None else across / width_px


def _text_of(data: bytes, drawing: CheckedSvg) -> str:
    """The drawing as it is rendered: as it came, unless it has text."""
    if has_text(drawing.root):
        return with_shipped_fonts(drawing.root)
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadInput("the SVG is not written in UTF-8; save it again as plain SVG") from None


def _across(drawing: CheckedSvg, pixels: int) -> int:
    """The width at which the drawing has so many pixels in all."""
    return max(1, int((pixels * drawing.width / drawing.height) ** 0.5))


def _most_px(drawing: CheckedSvg) -> int:
    most = min(MOST_DRAWN_PX, _LAYER_BYTES // (4 * (drawing.layers + 4)))
    return min(most, _MOST_FILTERED_PX) if drawing.is_filtered else most


def _render(svg: str, width_px: int) -> np.ndarray[tuple[int, int, int], np.dtype[np.uint8]]:
    try:
        tree = usvg.Tree.from_str(svg, _options())
        width, height = tree.int_size()
        size = width_px, max(1, math.ceil(width_px * height / width))
        # A transform's rows: across, down.
        png = resvg.render(tree, (size[0] / width, 0, 0, 0, size[1] / height, 0), bg_size=size)
    except ValueError:
        raise BadInput("the SVG cannot be drawn: it has no size or is damaged; save it again as plain SVG") from None
    with Image.open(io.BytesIO(png)) as image:
        return np.asarray(image.convert("RGBA"))


def _options() -> usvg.Options:
    """Made anew each time: they may not be used in another thread than the one that made them."""
    options = usvg.Options.default()
    # Without a resolution, drawings sized in mm are refused by the renderer.
    options.dpi = 96.0
    options.font_family = DEFAULT_FAMILY
    # What text is as large as where nothing is said (CSS: medium).
    options.font_size = 16.0
    for file in font_files():
        options.load_font_file(file)
    return options
