"""A composed piece as an SVG drawing that keeps to itself: base, arts as embedded pictures, text in shipped fonts.

It is art like any other from then on: rendered at its size, cut on its outline, which is the base.
"""

import base64
from collections.abc import Sequence
from functools import lru_cache
from xml.etree import ElementTree

from PIL import ImageFont

from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture
from vamper.core.values.composition import Base, BaseShape, Centring, Composition, PlacedArt, TextLine
from vamper.core.values.findings import BadInput
from vamper.core.values.fonts import FONTS
from vamper.formats.art_in.raster import png_bytes
from vamper.formats.fonts import FOLDER

_NAMESPACE = "http://www.w3.org/2000/svg"
_MEASURE_PX = 200
_FIGURES = 4
# A transparent rim, so that the base's own rim is drawn soft and found exactly.
_MARGIN_MM = 1.0


def write_composed(composition: Composition, arts: Sequence[tuple[Picture, Outline]], title: str) -> bytes:
    """The drawing of a composition. `arts` goes with its arts one by one: picture, and outline at the placed width."""
    width, height = composition.base.size_mm
    svg = ElementTree.Element(
        "svg",
        {
            "xmlns": _NAMESPACE,
            "width": f"{width + 2 * _MARGIN_MM:g}mm",
            "height": f"{height + 2 * _MARGIN_MM:g}mm",
            "viewBox": f"{-_MARGIN_MM:g} {-_MARGIN_MM:g} {width + 2 * _MARGIN_MM:g} {height + 2 * _MARGIN_MM:g}",
        },
    )
    ElementTree.SubElement(svg, "title").text = title
    _draw_base(svg, composition.base)
    for box in composition.free:
        ElementTree.SubElement(
            svg,
            "rect",
            {
                "x": _n(box.x_mm),
                "y": _n(box.y_mm),
                "width": _n(box.width_mm),
                "height": _n(box.height_mm),
                "rx": _n(min(1.5, box.height_mm / 4)),
                "fill": box.colour,
            },
        )
    for placed, (picture, outline) in zip(composition.arts, arts, strict=True):
        _draw_art(svg, placed, picture, outline)
    for line in composition.lines:
        _draw_line(svg, line, composition.base)
    text: bytes = ElementTree.tostring(svg, encoding="utf-8", xml_declaration=True)
    return text


def _n(value: float) -> str:
    return f"{value:.{_FIGURES}f}"


def _draw_base(svg: ElementTree.Element, base: Base) -> None:
    width, height = base.size_mm
    if base.shape in (BaseShape.CIRCLE, BaseShape.ELLIPSE):
        middle = {"cx": _n(width / 2), "cy": _n(height / 2), "rx": _n(width / 2), "ry": _n(height / 2)}
        ElementTree.SubElement(svg, "ellipse", {**middle, "fill": base.colour})
        return
    corner = min(base.corner_mm, width / 2, height / 2) if base.shape is BaseShape.ROUNDED else 0.0
    ElementTree.SubElement(
        svg, "rect", {"width": _n(width), "height": _n(height), "rx": _n(corner), "fill": base.colour}
    )


def _draw_art(svg: ElementTree.Element, placed: PlacedArt, picture: Picture, outline: Outline) -> None:
    """The whole picture, so that the chosen middle of its inked area lies at its place."""
    left, top, width, height = outline.picture_box_mm
    across, down = outline.size_mm
    middle = (across / 2, down / 2)
    if placed.centring is Centring.EYE:
        centroid = outline.shape.centroid
        middle = (centroid.x, centroid.y)
    data = base64.b64encode(png_bytes(picture)).decode("ascii")
    ElementTree.SubElement(
        svg,
        "image",
        {
            "x": _n(placed.x_mm - middle[0] + left),
            "y": _n(placed.y_mm - middle[1] + top),
            "width": _n(width),
            "height": _n(height),
            "preserveAspectRatio": "none",
            "href": f"data:image/png;base64,{data}",
        },
    )


def _draw_line(svg: ElementTree.Element, line: TextLine, base: Base) -> None:
    if not line.text.strip():
        return
    size = min(line.size_mm, _fitting_size(line, base))
    # A line's middle is that of its capitals, which are about 0.7 of its size high.
    attributes = {
        "x": _n(line.x_mm),
        "y": _n(line.y_mm + 0.35 * size),
        "font-family": line.family,
        "font-size": _n(size),
        "font-weight": "700" if line.bold else "400",
        "text-anchor": "middle",
        "fill": line.colour,
    }
    ElementTree.SubElement(svg, "text", attributes).text = line.text


def _fitting_size(line: TextLine, base: Base) -> float:
    """The size at which the line is as wide as the base has room for."""
    font = _font(line.family, line.bold)
    # The box of what is drawn, since handwriting reaches beyond its advances.
    left, _, right, _ = font.getbbox(line.text)
    share = max(font.getlength(line.text), right - left) / _MEASURE_PX
    room = base.room_at(line.y_mm, line.size_mm)
    return room / share if share else line.size_mm


@lru_cache(maxsize=16)
def _font(family: str, bold: bool) -> ImageFont.FreeTypeFont:
    for font in FONTS:
        if font.family == family:
            return ImageFont.truetype(str(FOLDER / font.files[-1 if bold else 0]), _MEASURE_PX)
    raise BadInput(f"no font is called “{family[:40]}”; known are {', '.join(font.family for font in FONTS)}", "family")
