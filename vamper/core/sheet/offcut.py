"""What is left of a sheet: the largest rectangle without a piece, upright, for the offcut drawer, and places in it.

The live area is looked at in cells; a cell that any piece (grown by the gap) touches is taken. The largest rectangle of
free cells comes from the classical sweep: per row the height of free cells above, per height the widest run. Rounding
to cells only ever makes the rectangle smaller.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.areas import cells_in
from vamper.core.values.geometry import grow, parts

CELL_MM = 1.0
_REACH_ERROR_MM = 0.02


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
    left, top, _, _ = live.bounds
    free = _free_cells(live, edges, CELL_MM, gap_mm)
    row, column, height, width = largest_run(free)
    return Rectangle(left + column * CELL_MM, top + row * CELL_MM, width * CELL_MM, height * CELL_MM)


def place_for(
    region: BaseGeometry, taken: Sequence[BaseGeometry], width_mm: float, height_mm: float, cell_mm: float = 0.5
) -> Rectangle | None:
    """Where an upright rectangle lies in a region clear of what is taken, as far down as it can; None for nowhere."""
    fits = _fits(region, taken, width_mm, height_mm, cell_mm)
    if not len(fits):
        return None
    row, column = fits[fits[:, 0] == fits[:, 0].max()][0]
    left, top, _, _ = region.bounds
    return Rectangle(left + float(column) * cell_mm, top + float(row) * cell_mm, width_mm, height_mm)


def places_near(
    region: BaseGeometry,
    taken: Sequence[BaseGeometry],
    width_mm: float,
    height_mm: float,
    at: tuple[float, float],
    cell_mm: float = 0.5,
) -> Iterator[Rectangle]:
    """Where an upright rectangle lies in a region clear of what is taken, the nearest to a point first."""
    fits = _fits(region, taken, width_mm, height_mm, cell_mm)
    left, top, _, _ = region.bounds
    x, y = left + fits[:, 1] * cell_mm, top + fits[:, 0] * cell_mm
    away = np.hypot(x + width_mm / 2 - at[0], y + height_mm / 2 - at[1])
    for place in np.argsort(away, kind="stable"):
        yield Rectangle(float(x[place]), float(y[place]), width_mm, height_mm)


def _fits(
    region: BaseGeometry, taken: Sequence[BaseGeometry], width_mm: float, height_mm: float, cell_mm: float
) -> npt.NDArray[np.int_]:
    """Rows and columns (n, 2) of the cells at which a rectangle of a size can begin."""
    free = _free_cells(region, taken, cell_mm)
    rows, columns = (int(np.ceil(side / cell_mm - 1e-9)) for side in (height_mm, width_mm))
    if rows > free.shape[0] or columns > free.shape[1]:
        return np.zeros((0, 2), dtype=int)
    # Sums over every window of so many rows and columns: where all of its cells are free, it is full.
    sums = np.zeros((free.shape[0] + 1, free.shape[1] + 1), dtype=int)
    sums[1:, 1:] = free.cumsum(axis=0).cumsum(axis=1)
    windows = sums[rows:, columns:] - sums[:-rows, columns:] - sums[rows:, :-columns] + sums[:-rows, :-columns]
    return np.argwhere(windows == rows * columns)


def _free_cells(
    region: BaseGeometry, taken: Sequence[BaseGeometry], cell_mm: float, gap_mm: float = 0.0
) -> npt.NDArray[np.bool_]:
    """Which cells of a region's box nothing comes nearer to than the gap."""
    left, top, right, bottom = region.bounds
    columns, rows = int((right - left + 1e-9) / cell_mm), int((bottom - top + 1e-9) / cell_mm)
    free = np.ones((rows, columns), dtype=bool)
    if free.size:
        gone = shapely.difference(shapely.box(*region.bounds), region)
        for part in parts(gone):
            _take(free, part, left, top, cell_mm, 0.0)
        for shape in taken:
            _take(free, shape, left, top, cell_mm, gap_mm)
    return free


def _take(
    free: npt.NDArray[np.bool_], shape: BaseGeometry, left: float, top: float, cell_mm: float, gap_mm: float
) -> None:
    """Mark the cells that a shape grown by the gap touches: cells whose middle lies within half a cell's diagonal."""
    if shape.is_empty:
        return
    # A hair less than half the diagonal, so that a cell that shares no more than its corner or side stays free.
    reached = grow(shape, gap_mm + cell_mm * math.sqrt(0.5) - 1e-6, _REACH_ERROR_MM)
    x0, y0, x1, y1 = reached.bounds
    first_row, first_column = max(0, int((y0 - top) / cell_mm) - 1), max(0, int((x0 - left) / cell_mm) - 1)
    rows = slice(first_row, max(first_row, int((y1 - top) / cell_mm) + 2))
    columns = slice(first_column, max(first_column, int((x1 - left) / cell_mm) + 2))
    window = free[rows, columns]
    if not window.size:
        return
    corner = left + cell_mm * first_column, top + cell_mm * first_row
    window &= ~cells_in(reached, *corner, (window.shape[0], window.shape[1]), cell_mm)


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
