"""A composed piece as an SVG drawing that keeps to itself: base, arts as embedded pictures, text as outlines.

It is art like any other art from then on: rendered at its size, cut on its outline, which is the base, or, without one,
what is on it.
"""

import base64
from collections.abc import Sequence
from dataclasses import dataclass
from xml.etree import ElementTree

import shapely
import shapely.affinity

from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture
from vamper.core.values.composition import (
    TEXT_RIM_MM,
    BasePlate,
    BaseShape,
    Centring,
    Composition,
    FreeBox,
    PlacedArt,
    TextLine,
)
from vamper.core.values.findings import BadInput
from vamper.formats.art_in.raster import png_bytes
from vamper.formats.lettering import (
    FontData,
    Lettered,
    corners,
    font_of,
    largest_arc_size,
    lettered,
    shaped,
    width_share,
)

_NAMESPACE = "http://www.w3.org/2000/svg"
_FIGURES = 4
# A transparent rim, so that the base's own rim is drawn soft and found exactly.
_MARGIN_MM = 1.0
_CLIP = "base"
# Along an arc there is no formula for the size that fits: it is halved towards.
_HALVINGS = 12
_ROUND_SEGMENTS = 32

# Left, top, right, bottom, mm in the base's frame.
Sides = tuple[float, float, float, float]
Art = tuple[Picture, Outline]


@dataclass(frozen=True, slots=True)
class Places:
    """Where everything lies: the whole drawing, and each of its parts."""

    frame: Sides
    arts: tuple[Sides, ...]
    lines: tuple[Sides, ...]
    free: tuple[Sides, ...]


def no_own_fonts(_family: str) -> bytes | None:
    return None


def width_of(placed: PlacedArt, base: BasePlate, outline: Outline) -> float:
    """How wide an art's inked area is drawn; `outline` may be at any size."""
    if not placed.cover:
        return placed.width_mm
    across, down = outline.size_mm
    width, height = base.size_mm
    return across * max(width / across, height / down)


def places_of(composition: Composition, arts: Sequence[Art], own: FontData = no_own_fonts) -> Places:
    """Where the parts of a composition lie; `arts` as for `write_composed`."""
    lines = tuple(_lettered(line, composition.base, own) for line in composition.lines)
    return _places(composition, arts, lines)


def write_composed(composition: Composition, arts: Sequence[Art], title: str, own: FontData = no_own_fonts) -> bytes:
    """The drawing of a composition.

    Parameters
    ----------
    arts : sequence
        Goes with its arts one by one: picture, and outline as wide as `width_of` says.
    own : callable
        The file of one of the maker's own fonts by its family, None for others.

    Raises
    ------
    BadInput
        For a font that is not there, a part that points at nothing, or a piece with nothing on it.
    """
    lines = tuple(_lettered(line, composition.base, own) for line in composition.lines)
    places = _places(composition, arts, lines)
    left, top, right, bottom = places.frame
    svg = ElementTree.Element(
        "svg",
        {
            "xmlns": _NAMESPACE,
            "width": f"{right - left:g}mm",
            "height": f"{bottom - top:g}mm",
            "viewBox": f"{left:g} {top:g} {right - left:g} {bottom - top:g}",
        },
    )
    ElementTree.SubElement(svg, "title").text = title
    content = _on_base(svg, composition.base)
    for box in composition.free:
        _draw_free(content, box)
    for placed, (picture, outline) in zip(composition.arts, arts, strict=True):
        _draw_art(content, placed, composition.base, picture, outline)
    for line, letters in zip(composition.lines, lines, strict=True):
        if letters.path:
            ElementTree.SubElement(content, "path", {"d": letters.path, "fill": line.colour})
    text: bytes = ElementTree.tostring(svg, encoding="utf-8", xml_declaration=True)
    return text


def _n(value: float) -> str:
    return f"{value:.{_FIGURES}f}"


def _places(composition: Composition, arts: Sequence[Art], lines: Sequence[Lettered]) -> Places:
    placed_arts = tuple(
        _art_box(placed, composition.base, outline) for placed, (_, outline) in zip(composition.arts, arts, strict=True)
    )
    free = tuple((box.x_mm, box.y_mm, box.x_mm + box.width_mm, box.y_mm + box.height_mm) for box in composition.free)
    drawn = tuple(line.box for line in lines)
    base = composition.base
    if base.shape is not BaseShape.NONE:
        width, height = base.blank_mm
        out = base.allowance_mm + _MARGIN_MM
        return Places((-out, -out, width + out, height + out), placed_arts, drawn, free)
    everything = [*placed_arts, *(line.box for line in lines if line.path), *free]
    if not everything:
        raise BadInput("there is nothing on this piece yet; add a line of text or a picture", "composition")
    left, top, right, bottom = shapely.union_all([corners(box) for box in everything]).bounds
    frame = left - _MARGIN_MM, top - _MARGIN_MM, right + _MARGIN_MM, bottom + _MARGIN_MM
    return Places(frame, placed_arts, drawn, free)


def _on_base(svg: ElementTree.Element, base: BasePlate) -> ElementTree.Element:
    """Draws the base; returns the group that everything on it goes into, which ends where the base does."""
    if base.shape is BaseShape.NONE:
        return svg
    shape, attributes = _base(base)
    ElementTree.SubElement(svg, shape, {**attributes, "fill": base.colour})
    clip = ElementTree.SubElement(ElementTree.SubElement(svg, "defs"), "clipPath", {"id": _CLIP})
    ElementTree.SubElement(clip, shape, attributes)
    return ElementTree.SubElement(svg, "g", {"clip-path": f"url(#{_CLIP})"})


def _base(base: BasePlate) -> tuple[str, dict[str, str]]:
    """The element that draws the base's shape."""
    width, height = base.blank_mm
    out = base.allowance_mm
    if base.shape in (BaseShape.CIRCLE, BaseShape.ELLIPSE):
        radii = {"rx": _n(width / 2 + out), "ry": _n(height / 2 + out)}
        return "ellipse", {"cx": _n(width / 2), "cy": _n(height / 2), **radii}
    corner = min(base.corner_mm, width / 2, height / 2) + out if base.shape is BaseShape.ROUNDED else 0.0
    across, down = base.size_mm
    return "rect", {"x": _n(-out), "y": _n(-out), "width": _n(across), "height": _n(down), "rx": _n(corner)}


def _draw_free(content: ElementTree.Element, box: FreeBox) -> None:
    places = {"x": _n(box.x_mm), "y": _n(box.y_mm), "width": _n(box.width_mm), "height": _n(box.height_mm)}
    corner = _n(min(1.5, box.height_mm / 4))
    ElementTree.SubElement(content, "rect", {**places, "rx": corner, "fill": box.colour})


def _origin(placed: PlacedArt, base: BasePlate, outline: Outline) -> tuple[float, float]:
    """Where the top left of an art's inked area lies."""
    across, down = outline.size_mm
    if placed.cover:
        width, height = base.blank_mm
        return (width - across) / 2, (height - down) / 2
    middle = (across / 2, down / 2)
    if placed.centring is Centring.EYE:
        centroid = outline.shape.centroid
        middle = (centroid.x, centroid.y)
    elif placed.centring is Centring.PART and placed.part is not None:
        left, top, width, height = outline.picture_box_mm
        shares = placed.part
        part = shapely.box(
            left + shares[0] * width, top + shares[1] * height, left + shares[2] * width, top + shares[3] * height
        )
        pointed = shapely.intersection(outline.shape, part)
        if pointed.is_empty:
            raise BadInput("nothing of the picture lies where it was pointed at; point at a part that is drawn", "part")
        x0, y0, x1, y1 = pointed.bounds
        middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    return placed.x_mm - middle[0], placed.y_mm - middle[1]


def _art_box(placed: PlacedArt, base: BasePlate, outline: Outline) -> Sides:
    x, y = _origin(placed, base, outline)
    across, down = outline.size_mm
    return x, y, x + across, y + down


def _draw_art(
    content: ElementTree.Element, placed: PlacedArt, base: BasePlate, picture: Picture, outline: Outline
) -> None:
    """The whole picture, so that the chosen middle of its inked area lies at its place."""
    left, top, width, height = outline.picture_box_mm
    x, y = _origin(placed, base, outline)
    data = base64.b64encode(png_bytes(picture)).decode("ascii")
    ElementTree.SubElement(
        content,
        "image",
        {
            "x": _n(x + left),
            "y": _n(y + top),
            "width": _n(width),
            "height": _n(height),
            "preserveAspectRatio": "none",
            "href": f"data:image/png;base64,{data}",
        },
    )


def _lettered(line: TextLine, base: BasePlate, own: FontData) -> Lettered:
    """A line at the size at which it fits the base."""
    if not line.text.strip():
        return Lettered("", (line.x_mm, line.y_mm, line.x_mm, line.y_mm))
    letters = shaped(line.text, font_of(line.family, line.bold, own))
    share = width_share(letters)
    wanted = line.size_mm if line.width_mm is None or not share else line.width_mm / share

    def at(size: float) -> Lettered:
        return lettered(letters, size, line.x_mm, line.y_mm, line.radius_mm, line.centring)

    if line.radius_mm is None:
        room = base.room_at(line.y_mm, wanted)
        return at(min(wanted, room / share if share else wanted))
    size = min(wanted, largest_arc_size(letters, line.radius_mm))
    room_inside = _inside(base)
    found = at(size)
    if room_inside is None or room_inside.covers(_points(found)):
        return found
    low, high = 0.0, size
    for _ in range(_HALVINGS):
        size = (low + high) / 2
        tried = at(size)
        if room_inside.covers(_points(tried)):
            low, found = size, tried
        else:
            high = size
    return found


def _points(line: Lettered) -> shapely.MultiPoint:
    numbers = [float(one) for one in line.path.translate(_NO_LETTERS).split()]
    return shapely.MultiPoint(list(zip(numbers[::2], numbers[1::2], strict=True)))


_NO_LETTERS = str.maketrans(dict.fromkeys("MLQCZ", " "))


def _inside(base: BasePlate) -> shapely.Polygon | None:
    """Where text may lie, None where there is no base."""
    if base.shape is BaseShape.NONE:
        return None
    width, height = base.blank_mm
    whole = shapely.box(0, 0, width, height)
    if base.shape in (BaseShape.CIRCLE, BaseShape.ELLIPSE):
        unit = shapely.Point(0, 0).buffer(1, quad_segs=_ROUND_SEGMENTS)
        whole = shapely.affinity.translate(shapely.affinity.scale(unit, width / 2, height / 2), width / 2, height / 2)
    inside = whole.buffer(-TEXT_RIM_MM)
    return inside if isinstance(inside, shapely.Polygon) else None
