"""How exact outlines, edges and files are, held against what can be known by formula or read back."""

import io
import math
from xml.etree import ElementTree

import ezdxf
import numpy as np
import pypdfium2
import shapely
from scipy import ndimage
from shapely.geometry import Point, Polygon, box

from tests.bench.table import Row
from tests.conftest import disc_alpha, disc_png, picture_of
from vamper.core.art.outline import Outline, outline_at, trace
from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import derive_edge
from vamper.core.plan import cut_of
from vamper.core.values.art import SizeSpec
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import ItemSpec, Turn
from vamper.core.values.job import Job
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.demo.art_files import ART
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.handoff.files import sheet_file
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import plan_job

PX_600 = 600 / 25.4


def outlines() -> list[Row]:
    """A disc of 20 mm at 600 ppi, over many places of its centre within a pixel."""
    area_error = radius_error = 0.0
    radius = 10 * PX_600
    size = int(2 * radius) + 8
    for dx in np.linspace(-0.5, 0.5, 5):
        tracing = trace(picture_of(disc_alpha(size, radius, (size / 2 + dx, size / 2 - dx / 3))))
        # At its true scale, so that the size is measured and not set.
        mm = tracing.boxes_px[0]
        outline = outline_at(tracing, SizeSpec(width_mm=float(mm[2] - mm[0]) / PX_600))
        points = shapely.get_coordinates(outline.shape)
        centre = np.array(outline.size_mm) / 2
        area_error = max(area_error, abs(outline.shape.area / (math.pi * 100) - 1))
        radius_error = max(radius_error, float(np.abs(np.hypot(*(points - centre).T) - 10).max()))
    return [
        Row("outline of a 20 mm disc at 600 ppi: area off by", f"{area_error * 100:.3f} %", "0.2 %"),
        Row("outline of a 20 mm disc at 600 ppi: radius off by", f"{radius_error:.4f} mm", "0.03 mm"),
    ]


def _outline(shape: Polygon) -> Outline:
    return Outline(as_multi([shape]), 25.4 / 600, (0, 0), (1000, 1000), (), (), False)


def edges() -> list[Row]:
    """`follow` against analytic offsets, and the least border on all demo art."""
    turns = np.arange(10) * math.pi / 5
    radii = np.where(np.arange(10) % 2, 9, 20)
    shapes = {
        "disc": Point(0, 0).buffer(10, quad_segs=400),
        "square": box(0, 0, 20, 20),
        "star": Polygon(np.column_stack([radii * np.cos(turns), radii * np.sin(turns)])),
    }
    rows = []
    for name, shape in shapes.items():
        off = 0.0
        for distance in (0.5, 1, 3, 6, 10):
            edge = derive_edge(_outline(shape), EdgeSpec(distance_mm=distance, smooth_mm=2), 1.0).shape
            exact = shape.buffer(distance + 2, quad_segs=400).buffer(-2, quad_segs=400)
            off = max(off, edge.hausdorff_distance(exact))
        rows.append(Row(f"edge of a {name} against its analytic offset: off by", f"{off:.4f} mm", "0.02 mm"))
    designer = Designer()
    short = 0.0
    for name, draw in ART.items():
        art = ArtFile.of(name, draw())
        for distance in (1.0, 3.0):
            spec = ItemSpec(number=1, art=name, width_mm=50, edge=EdgeSpec(distance_mm=distance))
            short = max(short, distance - designer.design(spec, art, STOCK_BY_KEY["satin-vinyl"]).edge.least_border_mm)
    rows.append(Row(f"border lost on {len(ART)} demo arts at most", f"{short:.4f} mm", "0.02 mm"))
    return rows


def files(nester: ProcessNester) -> list[Row]:
    """A sheet's files rendered or parsed back."""
    items = tuple(
        ItemSpec(number=number, art="disc.png", width_mm=size, quantity=3) for number, size in ((1, 20), (2, 31))
    )
    stock = STOCK_BY_KEY["satin-vinyl"]
    # Upright: the renderer that is read here lays turned pictures up to 0.1 mm aside, which others do not.
    packing = PackingSpec(turn=Turn.UPRIGHT)
    job = Job(title="Bench", paper=Paper(120, 150), stock=stock, packing=packing, items=items)
    art = ArtFile.of("disc.png", disc_png(700))
    designer = Designer()
    plan = plan_job(job, [art, art], designer, nester, 3)

    def pixels_of(item: DesignedItem) -> Picture:
        return designer.picture_of(item, art)

    document = pypdfium2.PdfDocument(sheet_file(plan, 0, "print", pixels_of))
    pixels = document[0].render(scale=600 / 72, rev_byteorder=True).to_numpy()[:, :, :3].astype(int)
    document.close()
    marks = _off(_boxes(pixels.max(axis=2) < 60), [_corners(mark.rings[0]) for mark in plan.setup.marks])
    outlines = {item.number: item.outline.shape for item in plan.items}
    blue = (pixels[:, :, 2] > 120) & (pixels[:, :, 0] < 100)
    printed = _off(_boxes(blue), [p.of(outlines[p.item]).bounds for p in plan.layout.sheets[0]])
    wanted = [loop.points for loop in cut_of(plan, 0).loops]
    root = ElementTree.fromstring(sheet_file(plan, 0, "cut_svg", pixels_of))
    paths = root.findall(".//*[@id='kiss']/{http://www.w3.org/2000/svg}path")
    svg = [np.array(p.get("d", "").translate(str.maketrans("MLZ", "   ")).split(), float).reshape(-1, 2) for p in paths]
    drawing = ezdxf.read(io.StringIO(sheet_file(plan, 0, "cut_dxf", pixels_of).decode()))
    lines = drawing.modelspace().query('LWPOLYLINE[layer=="KISS"]')
    dxf = [np.array([(x, 150 - y) for x, y in line.get_points("xy")]) for line in lines]
    return [
        Row("PDF at 600 ppi: marks off by", f"{marks:.4f} mm", "0.05 mm"),
        Row("PDF at 600 ppi: art off by", f"{printed:.4f} mm", "0.05 mm"),
        Row("cut SVG parsed back: off by", f"{_loops_off(svg, wanted):.5f} mm", "0.02 mm"),
        Row("cut DXF parsed back: off by", f"{_loops_off(dxf, wanted):.5f} mm", "0.02 mm"),
    ]


def _corners(points: np.ndarray) -> tuple[float, float, float, float]:
    return (*points.min(axis=0), *points.max(axis=0))


def _boxes(mask: np.ndarray) -> list[tuple[float, float, float, float]]:
    found = ndimage.find_objects(ndimage.label(mask)[0])
    return [(c.start / PX_600, r.start / PX_600, c.stop / PX_600, r.stop / PX_600) for r, c in found]


def _off(found: list[tuple[float, float, float, float]], wanted: list[tuple[float, float, float, float]]) -> float:
    """How far the farthest side lies from where it should; infinite where something is missing."""
    if len(found) != len(wanted):
        return math.inf
    return float(np.abs(np.array(sorted(found)) - np.array(sorted(wanted))).max())


def _loops_off(found: list[np.ndarray], wanted: list[np.ndarray]) -> float:
    if [len(loop) for loop in found] != [len(loop) for loop in wanted]:
        return math.inf
    return max(float(np.abs(a - b).max()) for a, b in zip(found, wanted, strict=True))
