"""Pieces drawn in cells: which of them a turned piece takes and which surround it, and the spectra of both, kept for
spaces that are looked at one after the other.

A spectrum is as large as the grid that it is for, and soon had again from the cells. Of both the oldest are let go
where they take too much memory.
"""

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Generic, TypeVar

import numpy as np
import numpy.typing as npt
import scipy.fft

from vamper.core.sheet.layout import Piece
from vamper.core.values.areas import cells_in, widened
from vamper.core.values.geometry import grow, placed

Cells = npt.NDArray[np.bool_]
Spectrum = npt.NDArray[np.complex64]
Shape = tuple[int, int]
T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class InCells:
    """A turned piece in cells, with room for its surroundings.

    Parameters
    ----------
    item : int
        The piece's item.
    turn_deg, grown : float
        How it is turned, and how many cells larger it is drawn.
    left_mm, top_mm : float
        Where it begins in its own frame, turned.
    body, ring : array of bool, (rows, columns)
        What it takes, and what surrounds it.
    """

    item: int
    turn_deg: float
    grown: float
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
    return InCells(piece.item, turn_deg, grown, left, top, body, widened(body, rim) & ~widened(body, 1))


class DrawnPieces:
    """The turns of each item, its cells, and their spectra by the size of the grid.

    Parameters
    ----------
    most_bytes : int
        What the cells and the spectra may take, each.
    """

    def __init__(self, most_bytes: int = 32 * 2**20) -> None:
        self.turns: dict[int, list[float]] = {}
        self._cells: _Newest[InCells] = _Newest(most_bytes)
        self._spectra: _Newest[Spectrum] = _Newest(most_bytes)

    def cells(self, item: int, turn_deg: float, grown: float, draw: Callable[[], InCells]) -> InCells:
        """The cells of a turned item, drawn where they are not kept."""
        return self._cells.get((item, turn_deg, grown), draw, lambda made: made.body.nbytes + made.ring.nbytes)

    def spectrum(self, of: InCells, ring: bool, shape: Shape) -> Spectrum:
        """What a correlation takes of a piece's body, or of what surrounds it, in a grid of that size."""

        def made() -> Spectrum:
            cells = of.ring if ring else of.body
            return np.asarray(np.conj(scipy.fft.rfft2(cells.astype(np.float32), shape)))

        return self._spectra.get((shape, of.item, of.turn_deg, of.grown, ring), made, lambda spectrum: spectrum.nbytes)


class _Newest(Generic[T]):
    """What was made, by its key; the oldest is let go where all takes too much memory."""

    def __init__(self, most_bytes: int) -> None:
        self._most_bytes = most_bytes
        self._made: dict[Hashable, T] = {}
        self.bytes = 0

    def get(self, key: Hashable, make: Callable[[], T], nbytes: Callable[[T], int]) -> T:
        if key not in self._made:
            self._made[key] = make()
            self.bytes += nbytes(self._made[key])
            while self.bytes > self._most_bytes and len(self._made) > 1:
                self.bytes -= nbytes(self._made.pop(next(iter(self._made))))
        return self._made[key]
