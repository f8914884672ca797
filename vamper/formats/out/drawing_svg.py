"""A drawing as SVG in millimetres: groups `fills`, `lines` and `words`, no transforms but turns of a text."""

from xml.etree import ElementTree

from vamper.core.values.drawing import CAP_SHARE, Drawing
from vamper.formats.svg_path import closed_path, open_path

_NAMESPACE = "http://www.w3.org/2000/svg"


def write_drawing_svg(drawing: Drawing) -> bytes:
    width, height = drawing.paper.width_mm, drawing.paper.height_mm
    svg = ElementTree.Element(
        "svg",
        {
            "xmlns": _NAMESPACE,
            "width": f"{width:g}mm",
            "height": f"{height:g}mm",
            "viewBox": f"0 0 {width:g} {height:g}",
        },
    )
    ElementTree.SubElement(svg, "title").text = drawing.title
    fills, lines, words = (ElementTree.SubElement(svg, "g", {"id": name}) for name in ("fills", "lines", "words"))
    for fill in drawing.fills:
        path = " ".join(closed_path(ring) for ring in fill.rings)
        ElementTree.SubElement(fills, "path", {"d": path, "fill": fill.colour, "fill-rule": "evenodd"})
    for stroke in drawing.strokes:
        path = closed_path(stroke.points) if stroke.closed else open_path(stroke.points)
        look = {"d": path, "fill": "none", "stroke": stroke.colour, "stroke-width": f"{stroke.width_mm:g}"}
        ElementTree.SubElement(lines, "path", look | ({"stroke-dasharray": "1.5 1"} if stroke.dashed else {}))
    for one in drawing.words:
        look = {
            "x": f"{one.x_mm:g}",
            "y": f"{one.y_mm:g}",
            "font-size": f"{one.height_mm / CAP_SHARE:.3g}",
            "font-family": "Atkinson Hyperlegible, sans-serif",
            "text-anchor": one.anchor.value,
            "fill": one.colour,
        }
        if one.turn_deg:
            look["transform"] = f"rotate({one.turn_deg:g} {one.x_mm:g} {one.y_mm:g})"
        ElementTree.SubElement(words, "text", look).text = one.text
    ElementTree.indent(svg)
    text: bytes = ElementTree.tostring(svg, encoding="utf-8", xml_declaration=True)
    return text
