"""What pictures are held against, from files: a sheet of a written plan, and the pixels of its print file."""

import math
from collections.abc import Callable

import cv2
import numpy as np
import numpy.typing as npt

from vamper.core.values.colour import rgb_of
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.units import MM_PER_INCH
from vamper.core.vision.reference import ItemReference, MarkReference, SheetReference, piece_reference
from vamper.formats.out.page_png import page_in
from vamper.formats.plan_document import PageEntry, PlanDocument, page_entry, shape_in

Pixels = npt.NDArray[np.uint8]

# The renderer lays pictures up to a pixel aside, so pages are drawn finer than they are kept.
PRINT_PPI, _FINER = 200, 2


def reference_in(plan: PlanDocument, sheet: int, print_file: Callable[[str], bytes | None]) -> SheetReference:
    """One sheet (from 1) of a written plan; `print_file` gives its print file by name, None where it is not at hand.

    Raises
    ------
    BadInput
        If the plan has no such sheet.
    """
    if not 1 <= sheet <= len(plan.sheets):
        raise BadInput(f"this plan has {len(plan.sheets)} sheets; there is no sheet {sheet}", "--sheet")
    laid, (width, height) = plan.sheets[sheet - 1], plan.paper_mm
    items = tuple(ItemReference(item.index, shape_in(item.outline), shape_in(item.edge)) for item in plan.items)
    shapes = {item.item: (item.outline, item.edge) for item in items}
    pieces = tuple(
        piece_reference(
            number, one.item, (one.x_mm, one.y_mm, one.turn_deg), shapes[one.item], width if plan.mirror else None
        )
        for number, one in enumerate(laid.placements)
    )
    name = laid.files.get("print")
    data = print_file(name) if name else None
    return SheetReference(
        width_mm=width,
        height_mm=height,
        stock_rgb=rgb_of(laid.stock_colour or plan.stock.colour),
        marks=tuple(MarkReference(tuple(np.array(ring) for ring in mark.shape)) for mark in plan.marks),
        pieces=pieces,
        items=items,
        mirror=plan.mirror,
        print_rgba=None if data is None else _nominal(_pixels(data), plan.page, (width, height)),
        print_px_a_mm=PRINT_PPI / MM_PER_INCH,
    )


def print_pixels(data: bytes, job: Job) -> Pixels:
    """A print file (PDF) of a job as pixels of the sheet as it is meant, at `PRINT_PPI`."""
    return _nominal(_pixels(data), page_entry(job), (job.paper.width_mm, job.paper.height_mm))


def _pixels(data: bytes) -> Pixels:
    return page_in(data, PRINT_PPI, _FINER)


def _nominal(rgba: Pixels, page: PageEntry, size_mm: tuple[float, float]) -> Pixels:
    """The pixels of the sheet as it is meant: its part of the page, without what makes up for the printer's scale."""
    px = PRINT_PPI / MM_PER_INCH
    width, height = (math.ceil(side * px) for side in size_mm)
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
