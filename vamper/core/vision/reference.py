"""What a picture is held against: a sheet as it was planned, taken from its plan or read back from a file.

Everything is in the frame of the print file: a mirrored sheet is mirrored. `print_rgba` is the page in pixels, where it
is at hand; without it only outlines are known, and no colours.
"""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from shapely.geometry.base import BaseGeometry

from vamper.core.plan import Plan
from vamper.core.values.colour import rgb_of
from vamper.core.values.geometry import Points, mirrored, placed

Pixels = npt.NDArray[np.uint8]


@dataclass(frozen=True)
class PieceReference:
    """A planned piece that photos and scans are compared with.

    Parameters
    ----------
    placement, item : int
        Its place on the sheet, and the design's number.
    x_mm, y_mm, turn_deg : float
        How it lies, as in `Placement`.
    outline, edge : shapely geometry
        Where they lie on the sheet as it is loaded, mm: turned, and mirrored where the print is.
    """

    placement: int
    item: int
    x_mm: float
    y_mm: float
    turn_deg: float
    outline: BaseGeometry
    edge: BaseGeometry


@dataclass(frozen=True)
class ItemReference:
    """A design in its own frame."""

    item: int
    outline: BaseGeometry
    edge: BaseGeometry


@dataclass(frozen=True)
class MarkReference:
    """A printed mark: its rings, filled even-odd, shape (n, 2) each."""

    rings: tuple[Points, ...]


@dataclass(frozen=True)
class SheetReference:
    """A planned sheet that photos and scans are compared with.

    Parameters
    ----------
    width_mm, height_mm : float
        Its size.
    stock_rgb : (int, int, int)
        The bare stock's colour.
    marks, pieces, items : tuple
        Where marks and pieces lie, and what each design looks like.
    mirror : bool
        Whether it is printed mirrored.
    print_rgba : array, shape (h, w, 4), or None
        The print as it was meant.
    print_px_a_mm : float
        The resolution of that picture.
    """

    width_mm: float
    height_mm: float
    stock_rgb: tuple[int, int, int]
    marks: tuple[MarkReference, ...]
    pieces: tuple[PieceReference, ...]
    items: tuple[ItemReference, ...]
    mirror: bool
    print_rgba: Pixels | None = None
    print_px_a_mm: float = 0.0


def reference_of(
    plan: Plan, sheet: int, print_rgba: Pixels | None = None, print_px_a_mm: float = 0.0
) -> SheetReference:
    """One sheet (from 0) of a plan, with its page in pixels where it is at hand."""
    paper = plan.job.paper
    items = tuple(ItemReference(one.number, one.outline.shape, one.edge.shape) for one in plan.items)
    shapes = {one.item: (one.outline, one.edge) for one in items}
    colour = plan.sheet_colour(sheet) or plan.job.stock.colour
    marks = tuple(MarkReference(tuple(mark.rings)) for mark in plan.setup.marks)
    mirror_mm = paper.width_mm if plan.mirror else None
    pieces = tuple(
        piece_reference(number, one.item, (one.x_mm, one.y_mm, one.turn_deg), shapes[one.item], mirror_mm)
        for number, one in enumerate(plan.layout.sheets[sheet])
    )
    return SheetReference(
        width_mm=paper.width_mm,
        height_mm=paper.height_mm,
        stock_rgb=rgb_of(colour),
        marks=marks,
        pieces=pieces,
        items=items,
        mirror=plan.mirror,
        print_rgba=print_rgba,
        print_px_a_mm=print_px_a_mm,
    )


def piece_reference(
    placement: int,
    item: int,
    pose: tuple[float, float, float],
    shapes: tuple[BaseGeometry, BaseGeometry],
    mirror_mm: float | None,
) -> PieceReference:
    """A piece at its place; `pose` is x, y (mm) and turn (degrees), `shapes` are outline and edge in the item's own
    frame, `mirror_mm` is the width of the sheet where it is mirrored.
    """
    outline, edge = (placed(shape, *pose) for shape in shapes)
    if mirror_mm is not None:
        outline, edge = mirrored(outline, mirror_mm), mirrored(edge, mirror_mm)
    return PieceReference(placement, item, *pose, outline, edge)
