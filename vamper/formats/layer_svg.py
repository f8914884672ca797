"""One layer of a drawing as an SVG of its own: a single path in one colour, in millimetres."""

from xml.etree import ElementTree

from shapely.geometry import MultiPolygon

from vamper.formats.svg_path import shape_path

_DECIMALS = 3


def write_layer(shape: MultiPolygon, colour: str, title: str) -> bytes:
    left, top, right, bottom = shape.bounds
    svg = ElementTree.Element(
        "svg",
        {
            "xmlns": "http://www.w3.org/2000/svg",
            "width": f"{right - left:.3f}mm",
            "height": f"{bottom - top:.3f}mm",
            "viewBox": f"{left:.3f} {top:.3f} {right - left:.3f} {bottom - top:.3f}",
        },
    )
    ElementTree.SubElement(svg, "title").text = title
    ElementTree.SubElement(svg, "path", {"d": shape_path(shape, _DECIMALS), "fill": colour, "fill-rule": "evenodd"})
    text: bytes = ElementTree.tostring(svg, encoding="utf-8", xml_declaration=True)
    return text
