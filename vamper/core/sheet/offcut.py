"""What is left of a sheet: the largest rectangle without a piece, upright, for the offcut drawer.

The live area is looked at in cells; a cell that any piece (grown by the gap) touches is taken. The largest rectangle of
free cells comes from the classical sweep: per row the height of free cells above, per height the widest run. Rounding
to cells only ever makes the rectangle smaller.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.geometry import grow

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
    columns, rows = int((right - left) / CELL_MM), int((bottom - top) / CELL_MM)
    if not columns or not rows:
        return NOTHING
    x = left + CELL_MM * np.arange(columns)
    y = top + CELL_MM * np.arange(rows)
    cells = shapely.box(x[None, :], y[:, None], x[None, :] + CELL_MM, y[:, None] + CELL_MM)
    if live.equals(shapely.box(*live.bounds)):
        free = np.ones((rows, columns), dtype=bool)
    else:
        # A sixteenth of a micrometre of slack: cells along the rim share it exactly.
        roomy = live.buffer(1e-6, join_style="mitre")
        shapely.prepare(roomy)
        free = shapely.covers(roomy, cells)
    for edge in edges:
        taken = grow(edge, gap_mm, 0.02)
        x0, y0, x1, y1 = taken.bounds
        window = (
            slice(max(0, int((y0 - top) / CELL_MM)), max(0, int((y1 - top) / CELL_MM) + 1)),
            slice(max(0, int((x0 - left) / CELL_MM)), max(0, int((x1 - left) / CELL_MM) + 1)),
        )
        shapely.prepare(taken)
        free[window] &= ~shapely.intersects(taken, cells[window])
    row, column, height, width = largest_run(free)
    return Rectangle(left + column * CELL_MM, top + row * CELL_MM, width * CELL_MM, height * CELL_MM)


def largest_run(free: npt.NDArray[np.bool_]) -> tuple[int, int, int, int]:
    """The largest rectangle of True: row, column, height, width. O(cells), with a stack for each row."""
    heights = np.zeros(free.shape[1] + 1, dtype=int)
    best, best_area = (0, 0, 0, 0), 0
    for row in range(free.shape[0]):
        heights[:-1] = (heights[:-1] + 1) * free[row]
        stack: list[tuple[int, int]] = []
        for column, height in enumerate(heights.tolist()):
            start = column
            while stack and stack[-1][1] >= height:
                start, tall = stack.pop()
                area = tall * (column - start)
                if area > best_area:
                    best, best_area = (row - tall + 1, start, tall, column - start), area
            stack.append((start, height))
    return best
