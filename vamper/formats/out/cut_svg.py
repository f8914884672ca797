"""The cut plan as SVG in millimetres: groups `kiss`, `through` and `marks`, one closed path a loop, no transforms."""

from collections.abc import Sequence
from xml.etree import ElementTree

from vamper.core.cutting.plan import CutPlan
from vamper.core.marks.mark import Mark
from vamper.core.values.cut import Cut
from vamper.core.values.paper import Paper
from vamper.formats.svg_path import closed_path, open_path

_NAMESPACE = "http://www.w3.org/2000/svg"
_COLOURS = {Cut.KISS.value: "#0F6E84", Cut.THROUGH.value: "#A3261C", "marks": "#22262E"}


def write_svg(plan: CutPlan, marks: Sequence[Mark], title: str) -> bytes:
    """One sheet's loops in cutting order, and its marks for reference."""
    svg = new_svg(plan.paper, title)
    groups = {
        name: ElementTree.SubElement(svg, "g", {"id": name, "fill": "none", "stroke": colour, "stroke-width": "0.1"})
        for name, colour in _COLOURS.items()
    }
    for stroke in plan.strokes:
        ElementTree.SubElement(groups[plan.strokes_cut.value], "path", {"d": open_path(stroke)})
    for loop in plan.loops:
        paths = [closed_path(loop.points)] if loop.tabs is None else [open_path(run) for run in loop.runs(0.0)]
        for path in paths:
            ElementTree.SubElement(groups[loop.cut.value], "path", {"d": path})
    for mark in marks:
        for ring in mark.rings:
            ElementTree.SubElement(groups["marks"], "path", {"d": closed_path(ring)})
    return svg_bytes(svg)


def new_svg(paper: Paper, title: str) -> ElementTree.Element:
    """An empty drawing of a sheet's size in millimetres."""
    width, height = f"{paper.width_mm:g}", f"{paper.height_mm:g}"
    svg = ElementTree.Element(
        "svg",
        {"xmlns": _NAMESPACE, "width": f"{width}mm", "height": f"{height}mm", "viewBox": f"0 0 {width} {height}"},
    )
    ElementTree.SubElement(svg, "title").text = title
    return svg


def svg_bytes(svg: ElementTree.Element) -> bytes:
    ElementTree.indent(svg)
    text: bytes = ElementTree.tostring(svg, encoding="utf-8", xml_declaration=True)
    return text
