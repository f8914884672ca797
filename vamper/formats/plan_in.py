"""A plan read back, to hold something against it."""

import math
from collections.abc import Callable, Sequence

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import TypeAdapter
from shapely.geometry import MultiPolygon, Polygon

from vamper.core.values.colour import rgb_of
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import mirrored, placed
from vamper.core.values.units import MM_PER_INCH
from vamper.core.vision.planned_sheet import PlannedItem, PlannedMark, PlannedPiece, PlannedSheet
from vamper.formats.json_object import object_in
from vamper.formats.out.page_png import page_in
from vamper.formats.plan_schema import PlanFile, PlannedPage, ShapePart
from vamper.formats.sentences import read_as

Pixels = npt.NDArray[np.uint8]

_PLAN = TypeAdapter(PlanFile)
_WHITE = "#FFFFFF"
# The renderer lays pictures up to a pixel aside, so pages are drawn finer than they are kept.
_PRINT_PPI, _FINER = 200, 2


def read_plan(text: bytes) -> PlanFile:
    """A plan from the text of its file.

    Raises
    ------
    BadInput
        Names what cannot be used.
    """
    raw = object_in(text, "the plan")
    if raw.get("format") != "vamper-plan":
        raise BadInput("this is no plan of Vamper; take the plan.json of a hand-off", "format")
    return read_as(_PLAN, raw)


def planned_sheet(plan: PlanFile, sheet: int, print_file: Callable[[str], bytes | None]) -> PlannedSheet:
    """One sheet (from 1) of a plan; `print_file` gives its print file by name, None where it is not at hand.

    Raises
    ------
    BadInput
        If the plan has no such sheet.
    """
    if not 1 <= sheet <= len(plan.sheets):
        raise BadInput(f"this plan has {len(plan.sheets)} sheets; there is no sheet {sheet}", "--sheet")
    laid, (width, height) = plan.sheets[sheet - 1], plan.paper_mm
    outlines = {item.index: _shape(item.outline) for item in plan.items}
    edges = {item.index: _shape(item.edge) for item in plan.items}
    pieces = []
    for number, one in enumerate(laid.placements):
        shapes = [placed(found[one.item], one.x_mm, one.y_mm, one.turn_deg) for found in (outlines, edges)]
        if plan.mirror:
            shapes = [mirrored(shape, width) for shape in shapes]
        pieces.append(PlannedPiece(number, one.item, one.x_mm, one.y_mm, one.turn_deg, *shapes))
    items = tuple(PlannedItem(index, outlines[index], edges[index]) for index in outlines)
    colour = laid.stock_colour or (plan.stock.colour if plan.stock is not None else _WHITE)
    name = laid.files.print
    data = print_file(name) if name else None
    return PlannedSheet(
        width,
        height,
        rgb_of(colour),
        tuple(PlannedMark(tuple(np.array(ring) for ring in mark.shape)) for mark in plan.marks),
        tuple(pieces),
        items,
        plan.mirror,
        None if data is None else _nominal(page_in(data, _PRINT_PPI, _FINER), plan.page, (width, height)),
        _PRINT_PPI / MM_PER_INCH,
    )


def _shape(document: Sequence[ShapePart]) -> MultiPolygon:
    return MultiPolygon([Polygon(part.shell, part.holes) for part in document])


def _nominal(rgba: Pixels, page: PlannedPage | None, size_mm: tuple[float, float]) -> Pixels:
    """The pixels of the sheet as it is meant: its part of the page, without what makes up for the printer's scale."""
    px = _PRINT_PPI / MM_PER_INCH
    width, height = (math.ceil(side * px) for side in size_mm)
    if page is None:
        return rgba[:height, :width]
    middle = np.array(size_mm) / 2
    drawn = np.array([1 / page.scale_x, 1 / page.scale_y])
    offset = (np.array([page.left_mm, page.top_mm]) + middle - drawn * middle) * px
    if np.allclose(drawn, 1) and np.allclose(offset, 0):
        return rgba[:height, :width]
    # From pixels of the sheet to those of the page; a pixel's middle is half a pixel from its corner.
    start = np.column_stack([np.diag(drawn), offset + drawn * 0.5 - 0.5])
    flat = rgba.astype(np.float32)
    flat[..., :3] *= flat[..., 3:] / 255
    moved = cv2.warpAffine(flat, start, (width, height), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP)
    share = np.maximum(moved[..., 3:], 1e-3) / 255
    moved[..., :3] = moved[..., :3] / share
    return np.asarray(np.clip(moved, 0, 255), dtype=np.uint8)
