"""Pieces drawn in cells: which of them a turned piece takes and which surround it, and the spectra of both, kept for
spaces that are looked at one after the other.

What is drawn is small and stays; a spectrum is as large as the grid that it is for, and soon had again from the cells,
so the oldest are let go where they take too much memory.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import scipy.fft

from vamper.core.sheet.layout import Piece
from vamper.core.values.areas import cells_in, widened
from vamper.core.values.geometry import grow, placed

Cells = npt.NDArray[np.bool_]
Spectrum = npt.NDArray[np.complex64]
Shape = tuple[int, int]


@dataclass(frozen=True, slots=True)
class InCells:
    """A turned piece in cells, with room for its surroundings.

    Parameters
    ----------
    turn_deg : float
        How it is turned.
    left_mm, top_mm : float
        Where it begins in its own frame, turned.
    body, ring : array of bool, (rows, columns)
        What it takes, and what surrounds it.
    """

    turn_deg: float
    left_mm: float
    top_mm: float
    body: Cells
    ring: Cells

    @property
    def rows(self) -> int:
        return int(self.body.shape[0])

    @property
    def columns(self) -> int:
        return int(self.body.shape[1])


def in_cells(piece: Piece, turn_deg: float, grown: float, cell_mm: float, rim: int) -> InCells:
    """A piece drawn `grown` cells larger than it is, with `rim` cells of surroundings."""
    shape = placed(piece.edge, 0.0, 0.0, turn_deg)
    left, top, right, bottom = shape.bounds
    rows = int(np.ceil((bottom - top) / cell_mm)) + 2 * rim
    columns = int(np.ceil((right - left) / cell_mm)) + 2 * rim
    inner = grow(shape, grown * cell_mm, 0.05)
    body = cells_in(
        inner if not inner.is_empty else shape, left - rim * cell_mm, top - rim * cell_mm, (rows, columns), cell_mm
    )
    if not body.any():
        body[rim:-rim, rim:-rim] = True
    return InCells(turn_deg, left, top, body, widened(body, rim) & ~widened(body, 1))


class DrawnPieces:
    """The turns of each item, its cells, and their spectra by the size of the grid.

    Parameters
    ----------
    most_bytes : int
        What the spectra may take.
    """

    def __init__(self, most_bytes: int = 32 * 2**20) -> None:
        self.turns: dict[int, list[float]] = {}
        self._most_bytes = most_bytes
        self._cells: dict[tuple[int, float, float], InCells] = {}
        self._spectra: dict[tuple[Shape, int], Spectrum] = {}
        self._bytes = 0

    def cells(self, item: int, turn_deg: float, grown: float, draw: Callable[[], InCells]) -> InCells:
        """The cells of a turned item, drawn where they are not kept."""
        key = item, turn_deg, grown
        if key not in self._cells:
            self._cells[key] = draw()
        return self._cells[key]

    def spectrum(self, cells: Cells, shape: Shape) -> Spectrum:
        """What a correlation takes of these cells, which are kept here, in a grid of that size."""
        key = shape, id(cells)
        if key not in self._spectra:
            made = np.asarray(np.conj(scipy.fft.rfft2(cells.astype(np.float32), shape)))
            self._spectra[key] = made
            self._bytes += made.nbytes
            while self._bytes > self._most_bytes and len(self._spectra) > 1:
                self._bytes -= self._spectra.pop(next(iter(self._spectra))).nbytes
        return self._spectra[key]
