"""Print and cut files read back by other libraries and held against the plan."""

import io
import re
from dataclasses import replace
from xml.etree import ElementTree

import ezdxf
import numpy as np
import pypdfium2
import pytest
import shapely

from tests.conftest import disc_png
from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.inspect import findings_of
from vamper.core.plan import Plan, cut_of
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import Job
from vamper.core.values.paper import Paper
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.formats.plan_document import PlanDocument
from vamper.formats.plan_writing import plan_document
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.handoff.files import bundle, plan_files, sheet_file
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import plan_job

PPI = 600
PX = PPI / 25.4


DISC = ArtFile.of("disc.png", disc_png(400))
DESIGNER = Designer()


def planned(nester: ProcessNester, stock: str = "satin-vinyl", colour: str | None = None) -> Plan:
    edge = EdgeSpec(colour=colour)
    job = Job(
        title="Test",
        paper=Paper(120, 150),
        stock=STOCK_BY_KEY[stock],
        items=(
            ItemSpec(number=1, art="disc.png", width_mm=24, quantity=2, edge=edge),
            ItemSpec(number=2, art="disc.png", width_mm=12, cut=Cut.THROUGH, edge=edge),
        ),
    )
    return plan_job(job, [DISC, DISC], DESIGNER, nester, 2)


def pixels_of(item: DesignedItem) -> Picture:
    return DESIGNER.picture_of(item, DISC)


def rendered(pdf: bytes) -> np.ndarray:
    document = pypdfium2.PdfDocument(pdf)
    try:
        return document[0].render(scale=PPI / 72, rev_byteorder=True).to_numpy()[:, :, :3].astype(int)
    finally:
        document.close()


def boxes(mask: np.ndarray) -> list[tuple[float, float, float, float]]:
    """Boxes of the connected regions of a mask, mm."""
    from scipy import ndimage

    labels, _ = ndimage.label(mask)
    found = []
    for rows, columns in ndimage.find_objects(labels):
        found.append((columns.start / PX, rows.start / PX, columns.stop / PX, rows.stop / PX))
    return sorted(found)


def test_the_page_box_is_the_paper(nester: ProcessNester) -> None:
    document = pypdfium2.PdfDocument(sheet_file(planned(nester), 0, "print", pixels_of))
    width, height = document[0].get_size()
    assert (width / 72 * 25.4, height / 72 * 25.4) == pytest.approx((120, 150), abs=0.001)
    document.close()


@pytest.mark.parametrize("stock", ["satin-vinyl", "light-transfer"])
def test_marks_and_art_are_printed_within_a_twentieth_of_a_millimetre(nester: ProcessNester, stock: str) -> None:
    plan = planned(nester, stock)
    pixels = rendered(sheet_file(plan, 0, "print", pixels_of))
    black = boxes(pixels.max(axis=2) < 60)
    wanted = sorted(
        (box.x_mm, box.y_mm, box.x_mm + box.width_mm, box.y_mm + box.height_mm)
        for box in (mark.box_mm for mark in plan.setup.marks)
    )
    assert np.allclose(black, wanted, atol=0.05)
    blue = boxes((pixels[:, :, 2] > 120) & (pixels[:, :, 0] < 100))
    outlines = {item.number: item.outline.shape for item in plan.items}
    art = [placement.of(outlines[placement.item]).bounds for placement in plan.layout.sheets[0]]
    if plan.mirror:
        art = [(120 - x1, y0, 120 - x0, y1) for x0, y0, x1, y1 in art]
    assert np.allclose(blue, sorted(art), atol=0.05)


def test_a_coloured_border_lies_under_the_art_and_past_the_edge(nester: ProcessNester) -> None:
    plan = planned(nester, colour="#FF8800")
    pixels = rendered(sheet_file(plan, 0, "print", pixels_of))
    orange = (pixels[:, :, 0] > 230) & (pixels[:, :, 1] > 110) & (pixels[:, :, 2] < 40)
    edges = {item.number: item.edge.shape for item in plan.items}
    expected = sum(
        placement.of(edges[placement.item]).buffer(0.6).intersection(plan.setup.live.shape).area
        - plan.item(placement.item).outline.shape.area
        for placement in plan.layout.sheets[0]
    )
    assert orange.sum() / PX**2 == pytest.approx(expected, rel=0.02)


def rings_of_svg(data: bytes) -> dict[str, list[np.ndarray]]:
    root = ElementTree.fromstring(data)
    space = {"s": "http://www.w3.org/2000/svg"}
    assert "transform" not in data.decode()
    return {
        group.get("id") or "": [
            np.array(re.findall(r"[-\d.]+", path.get("d") or ""), float).reshape(-1, 2)
            for path in group.findall("s:path", space)
        ]
        for group in root.findall("s:g", space)
    }


def test_cut_svg_is_the_plan_in_millimetres(nester: ProcessNester) -> None:
    plan = planned(nester)
    data = sheet_file(plan, 0, "cut_svg", pixels_of)
    root = ElementTree.fromstring(data)
    assert (root.get("width"), root.get("height"), root.get("viewBox")) == ("120mm", "150mm", "0 0 120 150")
    groups = rings_of_svg(data)
    assert {name: len(rings) for name, rings in groups.items()} == {"kiss": 2, "through": 1, "marks": 4}
    for loop, ring in zip(cut_of(plan, 0).loops, groups["kiss"] + groups["through"], strict=True):
        assert np.abs(loop.points - ring).max() < 0.001


def test_cut_dxf_is_the_plan_with_y_up(nester: ProcessNester) -> None:
    plan = planned(nester)
    document = ezdxf.read(io.StringIO(sheet_file(plan, 0, "cut_dxf", pixels_of).decode()))
    assert document.header["$INSUNITS"] == 4
    assert not document.audit().has_errors
    lines = list(document.modelspace().query("LWPOLYLINE"))
    assert all(line.closed for line in lines)
    by_layer = {name: [line for line in lines if line.dxf.layer == name] for name in ("KISS", "THROUGH", "MARKS")}
    assert [len(rings) for rings in by_layer.values()] == [2, 1, 4]
    for loop, line in zip(cut_of(plan, 0).loops, by_layer["KISS"] + by_layer["THROUGH"], strict=True):
        points = np.array([(x, 150 - y) for x, y in line.get_points("xy")])
        assert np.abs(loop.points - points).max() < 0.001


def test_mirrored_files_keep_their_marks_and_turn_their_loops(nester: ProcessNester) -> None:
    plan = planned(nester, "light-transfer")
    assert plan.mirror
    groups = rings_of_svg(sheet_file(plan, 0, "cut_svg", pixels_of))
    straight = replace(plan, job=replace(plan.job, stock=STOCK_BY_KEY["satin-vinyl"]))
    plain = rings_of_svg(sheet_file(straight, 0, "cut_svg", pixels_of))
    mirrored = shapely.union_all([shapely.Polygon(ring * (-1, 1) + (120, 0)) for ring in plain["kiss"]])
    assert (
        shapely.union_all([shapely.Polygon(ring) for ring in groups["kiss"]]).symmetric_difference(mirrored).area < 1e-3
    )
    for ours, theirs in zip(groups["marks"], plain["marks"], strict=True):
        assert np.array_equal(ours, theirs)


@pytest.mark.parametrize("stock", ["satin-vinyl", "dye-paper"])
def test_a_written_plan_is_what_the_published_schema_says(nester: ProcessNester, stock: str) -> None:
    plan = planned(nester, stock)
    read = PlanDocument.read(plan_document(plan, findings_of(plan)).write())
    assert len(read.sheets[0].placements) == plan.layout.pieces
    assert read.mirror == plan.mirror


def test_the_same_plan_makes_the_same_files(nester: ProcessNester) -> None:
    plan = planned(nester)
    assert plan_files(plan, findings_of(plan), pixels_of) == plan_files(plan, findings_of(plan), pixels_of)
    assert bundle(plan, findings_of(plan), {"disc.png": b"x"}, pixels_of) == bundle(
        plan, findings_of(plan), {"disc.png": b"x"}, pixels_of
    )
