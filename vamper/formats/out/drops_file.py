"""A ladder or a tell-tale as SVG, DXF and HP-GL: each drop by itself, named by its number and its force.

Programs that set the force by layer or colour find one layer a drop; HP-GL sets each force itself.
"""

from collections.abc import Callable, Iterator
from xml.etree import ElementTree

from vamper.core.cutting.drops import Drop, TestCut
from vamper.formats.out.cut_dxf import dxf_bytes, new_document
from vamper.formats.out.cut_hpgl import PenLine, write_hpgl
from vamper.formats.out.cut_svg import new_svg, svg_bytes
from vamper.formats.svg_path import open_path

# Told apart on the screen, one after the other.
_COLOURS = ("#0F6E84", "#9A5B12", "#436F37", "#A3261C", "#22262E", "#5B616E")


def _name(drop: Drop) -> str:
    times = f"-x{drop.passes}" if drop.passes > 1 else ""
    return f"drop-{drop.number}-{drop.force_gf:g}gf{times}"


def write_svg(test: TestCut) -> bytes:
    svg = new_svg(test.paper, test.title)
    for drop in test.drops:
        colour = _COLOURS[(drop.number - 1) % len(_COLOURS)]
        group = ElementTree.SubElement(
            svg, "g", {"id": _name(drop), "fill": "none", "stroke": colour, "stroke-width": "0.1"}
        )
        for points in test.lines(drop):
            ElementTree.SubElement(group, "path", {"d": open_path(points)})
    return svg_bytes(svg)


def write_dxf(test: TestCut) -> bytes:
    document = new_document({_name(drop).upper(): 1 + place for place, drop in enumerate(test.drops)})
    space = document.modelspace()
    for drop in test.drops:
        for points in test.lines(drop):
            flipped = [(round(float(x), 5), round(test.paper.height_mm - float(y), 5)) for x, y in points]
            space.add_lwpolyline(flipped, dxfattribs={"layer": _name(drop).upper()})
    return dxf_bytes(document, test.paper)


def write_plotter(test: TestCut) -> bytes:
    def lines() -> Iterator[PenLine]:
        for drop in test.drops:
            for points in test.lines(drop):
                for _ in range(drop.passes):
                    yield PenLine(test.cut, test.speed_mm_s, drop.force_gf, points)

    return write_hpgl(test.paper, lines())


TEST_CUT_FILES: dict[str, tuple[str, Callable[[TestCut], bytes]]] = {
    "svg": ("image/svg+xml", write_svg),
    "dxf": ("image/vnd.dxf", write_dxf),
    "hpgl": ("application/vnd.hp-hpgl", write_plotter),
}


def tell_tale_names(sheet: int) -> dict[str, str]:
    """The names of the files of the tell-tale of a sheet (from 0)."""
    return {kind: f"sheet-{sheet + 1:02d}-tell-tale.{kind}" for kind in TEST_CUT_FILES}
