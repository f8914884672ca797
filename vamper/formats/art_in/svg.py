"""SVG drawings as art, rendered by resvg at the size they are wanted in, once `svg_check` has let them pass.

A drawing is rendered twice: small, to find how much of it is inked, and at `PPI` of the inked area's wanted size.
"""

import io
import re
from xml.etree.ElementTree import Element

import numpy as np
import resvg_py
from PIL import Image

from vamper.core.art.picture import Picture
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.fonts import DEFAULT_FAMILY, FAMILIES, shipped_font
from vamper.core.values.units import pixels_at
from vamper.formats.art_in.raster import MOST_DRAWN_PX
from vamper.formats.art_in.svg_check import Checked, check_svg, kind_of
from vamper.formats.fonts import font_files

PPI = 600.0
_SCOUT_PX = 280
# A line far thinner than the scout's pixels is ink too.
_SCOUT_ALPHA = 32
# Grounds that lie on each other may take so much together; filters work on several copies, in finer steps.
_LAYER_BYTES = 600 * 2**20
_MOST_FILTERED_PX = 6_000_000
_FONT_FAMILY = re.compile(r"""font(?:-family)?\s*:\s*([^;}]+)""", re.IGNORECASE)
_SIZE_IN_SHORTHAND = re.compile(r"""^.*?\d[\w.%]*(?:/[\w.%]+)?\s+""")
_GENERIC = ("serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "inherit", "initial", "unset")


def read_svg(data: bytes, size: SizeSpec) -> Picture:
    """Render a drawing so that its inked area has `PPI` pixels an inch at the wanted size.

    Raises
    ------
    BadInput
        If it is not an SVG, refers outside itself, takes too much to draw, has no size, or draws nothing.
    """
    drawing = check_svg(data)
    data = _with_fonts_of_today(data, drawing.root)
    scout = _render(data, _across(drawing, _SCOUT_PX**2))
    inked = scout[:, :, 3] >= _SCOUT_ALPHA
    rows, columns = np.flatnonzero(inked.any(axis=1)), np.flatnonzero(inked.any(axis=0))
    if not rows.size:
        raise BadInput("the SVG draws nothing that would be printed")
    inked_width, inked_height = columns[-1] - columns[0] + 1, rows[-1] - rows[0] + 1
    width_mm = size.of(float(inked_width), float(inked_height)) * inked_width
    width_px = pixels_at(width_mm * scout.shape[1] / inked_width, PPI)
    pixels = _render(data, min(width_px, _across(drawing, _most_px(drawing))))
    return Picture(pixels, is_vector=True, other_fonts=_other_fonts(drawing.root))


def sketch_svg(data: bytes, longest_px: int) -> Picture:
    """The whole drawing, its longer side about `longest_px`; rendered straight at that size, which is quick."""
    drawing = check_svg(data)
    data = _with_fonts_of_today(data, drawing.root)
    width_px = max(1, round(longest_px * min(1.0, drawing.width / drawing.height)))
    return Picture(_render(data, min(width_px, _across(drawing, _most_px(drawing)))), is_vector=True)


def _across(drawing: Checked, pixels: int) -> int:
    """The width at which the drawing has so many pixels in all."""
    return max(1, int((pixels * drawing.width / drawing.height) ** 0.5))


def _most_px(drawing: Checked) -> int:
    most = min(MOST_DRAWN_PX, _LAYER_BYTES // (4 * (drawing.layers + 4)))
    return min(most, _MOST_FILTERED_PX) if drawing.is_filtered else most


def _other_fonts(root: Element) -> tuple[str, ...]:
    """Fonts that the drawing's text asks for first and that are not shipped."""
    known = {*_GENERIC, *(family.lower() for family in FAMILIES)}
    return tuple(family for family in _asked_for(root) if family.lower() not in known and shipped_font(family) is None)


def _asked_for(root: Element) -> list[str]:
    """The fonts that the drawing's text asks for first."""
    if not any(kind_of(element) in ("text", "tspan") for element in root.iter()):
        return []
    asked: set[str] = set()
    for element in root.iter():
        asked.update([element.get("font-family") or ""])
        styles = [element.get("style") or ""]
        if kind_of(element) == "style":
            styles.append(element.text or "")
        for style in styles:
            asked.update(_SIZE_IN_SHORTHAND.sub("", found) for found in _FONT_FAMILY.findall(style))
    firsts = {family.partition(",")[0].strip(" \t\n'\"") for family in asked}
    return sorted(firsts - {""})


def _with_fonts_of_today(data: bytes, root: Element) -> bytes:
    """The drawing with families that shipped once, or words for those that do, by the names they have today."""
    for family in _asked_for(root):
        font = shipped_font(family)
        if font is not None and font.family != family:
            for quote in (b'"', b"'"):
                data = data.replace(quote + family.encode() + quote, quote + font.family.encode() + quote)
    return data


def _render(data: bytes, width_px: int) -> np.ndarray[tuple[int, int, int], np.dtype[np.uint8]]:
    try:
        # Without a resolution, drawings sized in mm are refused by the renderer.
        png = resvg_py.svg_to_bytes(
            svg_string=data.decode("utf-8-sig"),
            width=width_px,
            dpi=96.0,
            skip_system_fonts=True,
            font_files=font_files(),
            font_family=DEFAULT_FAMILY,
            sans_serif_family=DEFAULT_FAMILY,
            serif_family=DEFAULT_FAMILY,
            monospace_family=DEFAULT_FAMILY,
            cursive_family="Caveat",
            fantasy_family="Bricolage Grotesque",
        )
    except UnicodeDecodeError:
        raise BadInput("the SVG is not written in UTF-8; save it again as plain SVG") from None
    except ValueError:
        raise BadInput("the SVG cannot be drawn: it has no size or is damaged; save it again as plain SVG") from None
    with Image.open(io.BytesIO(bytes(png))) as image:
        return np.asarray(image.convert("RGBA"))
