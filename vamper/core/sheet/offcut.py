"""What is left of a sheet: the largest rectangle without a piece, upright, for the offcut drawer.

The live area is looked at in cells; a cell that any piece (grown by the gap) touches is taken. The largest rectangle of
free cells comes from the classical sweep: per row the height of free cells above, per height the widest run. Rounding
to cells only ever makes the rectangle smaller.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import grow, parts

CELL_MM = 1.0


@dataclass(frozen=True, slots=True)
class Rectangle:
    """Upright, mm, sheet frame."""

    left_mm: float
    top_mm: float
    width_mm: float
    height_mm: float

    @property
    def area_mm2(self) -> float:
        return self.width_mm * self.height_mm


NOTHING = Rectangle(0.0, 0.0, 0.0, 0.0)


def largest_offcut(live: Polygon, edges: Sequence[BaseGeometry], gap_mm: float) -> Rectangle:
    """The largest free rectangle of a sheet whose pieces have these edges (placed)."""
    left, top, right, bottom = live.bounds
    columns, rows = int((right - left + 1e-9) / CELL_MM), int((bottom - top + 1e-9) / CELL_MM)
    if not columns or not rows:
        return NOTHING
    free = np.ones((rows, columns), dtype=bool)
    gone = shapely.difference(shapely.box(*live.bounds), live)
    for shape in (*parts(gone), *(grow(edge, gap_mm, 0.02) for edge in edges)):
        _take(free, shape, left, top)
    row, column, height, width = largest_run(free)
    return Rectangle(left + column * CELL_MM, top + row * CELL_MM, width * CELL_MM, height * CELL_MM)


def _take(free: npt.NDArray[np.bool_], shape: BaseGeometry, left: float, top: float) -> None:
    """Mark the cells that a shape touches: those whose middle lies within half a cell's diagonal of it."""
    x0, y0, x1, y1 = shape.bounds
    first_row, first_column = max(0, int((y0 - top) / CELL_MM) - 1), max(0, int((x0 - left) / CELL_MM) - 1)
    rows = slice(first_row, max(first_row, int((y1 - top) / CELL_MM) + 2))
    columns = slice(first_column, max(first_column, int((x1 - left) / CELL_MM) + 2))
    window = free[rows, columns]
    if not window.size:
        return
    x = left + CELL_MM * (first_column + 0.5 + np.arange(window.shape[1]))
    y = top + CELL_MM * (first_row + 0.5 + np.arange(window.shape[0]))
    # A hair less than half the diagonal, so that a cell that shares no more than its corner or side stays free.
    reached = grow(shape, CELL_MM * math.sqrt(0.5) - 1e-6, 0.02)
    shapely.prepare(reached)
    window &= ~shapely.contains_xy(reached, *np.meshgrid(x, y))


def largest_run(free: npt.NDArray[np.bool_]) -> tuple[int, int, int, int]:
    """The largest rectangle of True: row, column, height, width.

    Neighbouring columns of the same height are handled as one, so that the cost follows the outline of what is free.
    """
    heights = np.zeros(free.shape[1], dtype=int)
    best, best_area = (0, 0, 0, 0), 0
    for row in range(free.shape[0]):
        heights = (heights + 1) * free[row]
        starts = np.concatenate([[0], np.flatnonzero(np.diff(heights)) + 1])
        stack: list[tuple[int, int]] = []
        for column, height in (*zip(starts.tolist(), heights[starts].tolist(), strict=True), (len(heights), 0)):
            start = column
            while stack and stack[-1][1] >= height:
                start, tall = stack.pop()
                area = tall * (column - start)
                if area > best_area:
                    best, best_area = (row - tall + 1, start, tall, column - start), area
            stack.append((start, height))
    return best
