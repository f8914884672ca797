"""Places for one more piece in what is left of a sheet, whatever its shape.

The sheet is a grid of cells, taken or free. A piece is a mask of cells for each turn it may have; where the mask lies
on no taken cell, it fits. All places are looked at together, as a correlation by fast Fourier transform, and so is how
much of the piece's surroundings is taken there: the place that touches most is the snuggest. Cells are coarse, so the
mask is drawn a little too small, or to be safe too large, and every place is settled exactly on the edges themselves
(`Clearance.slide`).

This is the plain, robust way to lay pieces round others: held pieces, notched corners and used-up parts of a sheet are
just taken cells. The nesting engine is better at an empty rectangle and cannot do any of these.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import scipy.fft
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.lay.clearance import Clearance, Moved
from vamper.core.sheet.lay.turns import best_turn, distinct
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.values.areas import cells_in, widened
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import grow, placed
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement

_FREE_TURNS = 16
TOUCH_MM = 3.0
_TRIED_PLACES = 6
# A place counts for less the farther down the sheet it is, so that what is left stays in one piece.
_DOWNWARD = 0.35

Grid = npt.NDArray[np.float32]
Spectrum = npt.NDArray[np.complex64]


@dataclass(frozen=True, slots=True)
class _Mask:
    """A turned piece in cells: the spectra of its body and of its surroundings, as a correlation takes them, how many
    cells they have, and where its frame's origin is.
    """

    turn_deg: float
    rows: int
    columns: int
    left_mm: float
    top_mm: float
    both: Spectrum
    cells: int
    ring_cells: float


@dataclass(frozen=True, slots=True)
class _Place:
    score: float
    placement: Placement


def turns_tried(piece: Piece, turn: Turn, room: tuple[float, float]) -> list[float]:
    """The turns that are looked at: all allowed ones, or for any turn some of them and the turn with the least box. Of
    turns in which the piece is the same, only the first.
    """
    if turn is Turn.UPRIGHT:
        return [0.0]
    if turn is Turn.HALF:
        return distinct(piece.edge, [0.0, 180.0])
    if turn is Turn.QUARTER:
        return distinct(piece.edge, [0.0, 90.0, 180.0, 270.0])
    askew, _ = best_turn(piece.edge, room, turn)
    even = [360.0 / _FREE_TURNS * n for n in range(_FREE_TURNS)]
    return distinct(piece.edge, sorted({*even, askew, (askew + 180.0) % 360.0}))


_MaskKey = tuple[tuple[int, int], int, float, float]


class DrawnPieces:
    """Pieces as they were drawn in cells, for spaces that are looked at one after the other: the turns of each item,
    and its masks by the size of the grid, the oldest of which are let go where they take too much memory.
    """

    def __init__(self, most_bytes: int = 64 * 2**20) -> None:
        self.turns: dict[int, list[float]] = {}
        self._most_bytes = most_bytes
        self._masks: dict[_MaskKey, _Mask] = {}
        self._bytes = 0

    def mask(self, key: _MaskKey, draw: Callable[[], _Mask]) -> _Mask:
        """The mask of that name, drawn where it is not kept."""
        if key not in self._masks:
            self._masks[key] = draw()
            self._bytes += self._masks[key].both.nbytes
            while self._bytes > self._most_bytes and len(self._masks) > 1:
                self._bytes -= self._masks.pop(next(iter(self._masks))).both.nbytes
        return self._masks[key]


class FreeSpace:
    """One sheet with the pieces that are on it already; `drawn` is shared with other spaces of the same pieces and
    cells, and turns are then those that suit the first of them.
    """

    def __init__(
        self, live: Polygon, gap_mm: float, turn: Turn, cell_mm: float = 1.0, drawn: DrawnPieces | None = None
    ) -> None:
        self.clearance = Clearance(live, gap_mm)
        self._live, self._gap, self._turn, self._cell = live, gap_mm, turn, cell_mm
        left, top, right, bottom = live.bounds
        self._rim = int(np.ceil(TOUCH_MM / cell_mm))
        rows, columns = (int(np.ceil((side - 1e-9) / cell_mm)) for side in (bottom - top, right - left))
        self._shape = (
            scipy.fft.next_fast_len(rows + 2 * self._rim, real=True),
            scipy.fft.next_fast_len(columns + 2 * self._rim, real=True),
        )
        self._origin = (left - self._rim * cell_mm, top - self._rim * cell_mm)
        outside = np.ones(self._shape, dtype=bool)
        self._write(outside, live, 0)
        self._outside = outside
        # Pieces of one cut and bleed keep the same distances, so they share a grid and its spectrum.
        self._grids: dict[tuple[Cut, float], Grid] = {}
        self._spectra: dict[tuple[Cut, float], Spectrum] = {}
        self._free: dict[tuple[Cut, float], int] = {}
        self._standing: list[tuple[Piece, BaseGeometry]] = []
        self._drawn = drawn or DrawnPieces()

    def add(self, piece: Piece, placement: Placement) -> None:
        """Lay a piece down."""
        shape = placement.of(piece.edge)
        self.clearance.add(piece, shape)
        self._standing.append((piece, shape))
        for key, grid in self._grids.items():
            self._take(key, grid, piece, shape)
        self._spectra.clear()

    def place(self, piece: Piece) -> Placement | None:
        """The snuggest place for one more of `piece`, None where there is none; it is not laid down yet."""
        turns = self._turns_of(piece)
        # A mask drawn small finds the tight places, one drawn large those that are free for certain.
        for grown in (-0.5, 0.71):
            found = [place for turn_deg in turns for place in self._places(piece, turn_deg, grown)]
            for place in sorted(found, key=lambda one: -one.score)[: 2 * _TRIED_PLACES]:
                settled = self._settled(piece, place.placement)
                if settled is not None:
                    return settled
        return None

    def put(self, piece: Piece) -> Placement | None:
        """As `place`, and laid down."""
        placement = self.place(piece)
        if placement is not None:
            self.add(piece, placement)
        return placement

    def _turns_of(self, piece: Piece) -> list[float]:
        turns = self._drawn.turns
        if piece.item not in turns:
            left, top, right, bottom = self._live.bounds
            turns[piece.item] = turns_tried(piece, piece.turn or self._turn, (right - left, bottom - top))
        return turns[piece.item]

    def _settled(self, piece: Piece, placement: Placement) -> Placement | None:
        shape = placement.of(piece.edge)
        by = self.clearance.slide([Moved(piece, shape)], 2 * self._cell)
        if by is None:
            return None
        return Placement(piece.item, placement.x_mm + by[0], placement.y_mm + by[1], placement.turn_deg)

    def _places(self, piece: Piece, turn_deg: float, grown: float) -> list[_Place]:
        """The best places of one turn, by how much of the piece's surroundings is taken there.

        The piece is drawn `grown` cells larger than it is.
        """
        mask = self._mask(piece, turn_deg, grown)
        rows, columns = self._shape[0] - mask.rows + 1, self._shape[1] - mask.columns + 1
        if rows <= 0 or columns <= 0:
            return []
        spectrum = self._spectrum(piece)
        if mask.cells > self._free[piece.cut, piece.bleed_mm]:
            return []
        # Body and surroundings were put into one transform, as real and imaginary part.
        both = _first_of(spectrum * mask.both, rows, columns)
        row, column = np.divmod(np.flatnonzero(both.real < 0.5), columns)
        if not row.size:
            return []
        touching = -both.imag[row, column] / mask.ring_cells
        score = touching - _DOWNWARD * (row / rows) - 0.1 * (column / columns)
        if score.size > _TRIED_PLACES:
            best = np.argpartition(-score, _TRIED_PLACES - 1)[:_TRIED_PLACES]
            row, column, score = row[best], column[best], score[best]
        return [
            _Place(float(score[one]), self._placement(piece, mask, int(row[one]), int(column[one])))
            for one in np.argsort(-score)
        ]

    def _placement(self, piece: Piece, mask: _Mask, row: int, column: int) -> Placement:
        x = self._origin[0] + (column + self._rim) * self._cell - mask.left_mm
        y = self._origin[1] + (row + self._rim) * self._cell - mask.top_mm
        return Placement(piece.item, x, y, mask.turn_deg)

    def _mask(self, piece: Piece, turn_deg: float, grown: float) -> _Mask:
        key = self._shape, piece.item, turn_deg, grown
        return self._drawn.mask(key, lambda: self._in_cells(piece, turn_deg, grown))

    def _in_cells(self, piece: Piece, turn_deg: float, grown: float) -> _Mask:
        """The piece in cells, with `_rim` empty ones round it."""
        shape = placed(piece.edge, 0.0, 0.0, turn_deg)
        left, top, right, bottom = shape.bounds
        rim, cell = self._rim, self._cell
        rows = int(np.ceil((bottom - top) / cell)) + 2 * rim
        columns = int(np.ceil((right - left) / cell)) + 2 * rim
        inner = grow(shape, grown * cell, 0.05)
        body = cells_in(
            inner if not inner.is_empty else shape, left - rim * cell, top - rim * cell, (rows, columns), cell
        )
        if not body.any():
            body[rim:-rim, rim:-rim] = True
        ring = widened(body, rim) & ~widened(body, 1)
        padded = np.zeros(self._shape, dtype=np.complex64)
        if rows <= self._shape[0] and columns <= self._shape[1]:
            padded[:rows, :columns] = body + 1j * ring
        both = np.conj(scipy.fft.fft2(padded))
        return _Mask(turn_deg, rows, columns, left, top, both, int(body.sum()), float(max(1, ring.sum())))

    def _spectrum(self, piece: Piece) -> Spectrum:
        key = (piece.cut, piece.bleed_mm)
        if key not in self._grids:
            grid = self._outside.astype(np.float32)
            for other, shape in self._standing:
                self._take(key, grid, other, shape)
            self._grids[key] = grid
        if key not in self._spectra:
            self._spectra[key] = scipy.fft.fft2(self._grids[key])
            self._free[key] = int(np.count_nonzero(self._grids[key] < 0.5))
        return self._spectra[key]

    def _take(self, key: tuple[Cut, float], grid: Grid, piece: Piece, shape: BaseGeometry) -> None:
        newcomer = Piece(-1, piece.edge, 0, key[0], key[1])
        self._write(grid, grow(shape, gap_between(newcomer, piece, self._gap), 0.05), 1)

    def _write(self, grid: npt.NDArray[Any], shape: BaseGeometry, value: int) -> None:
        """Set the cells whose middles lie in `shape`."""
        left, top, right, bottom = shape.bounds
        x0, y0, cell = *self._origin, self._cell
        c0, c1 = max(0, int((left - x0) / cell)), min(grid.shape[1], int((right - x0) / cell) + 2)
        r0, r1 = max(0, int((top - y0) / cell)), min(grid.shape[0], int((bottom - y0) / cell) + 2)
        if c1 <= c0 or r1 <= r0:
            return
        inside = cells_in(shape, x0 + c0 * cell, y0 + r0 * cell, (r1 - r0, c1 - c0), cell)
        grid[r0:r1, c0:c1][inside] = value


def _first_of(spectrum: Spectrum, rows: int, columns: int) -> Spectrum:
    """The first rows and columns of what a spectrum is of."""
    upright = scipy.fft.ifft(spectrum, axis=0, overwrite_x=True)[:rows]
    return np.asarray(scipy.fft.ifft(upright, axis=1, overwrite_x=True)[:, :columns])


def cell_for(pieces: Iterable[Piece]) -> float:
    """Cells small enough for the smallest piece, and no smaller than needed: 0.5 to 1 mm."""
    narrowest = min((min(_sides(piece.edge)) for piece in pieces), default=24.0)
    return float(min(1.0, max(0.5, narrowest / 24)))


def _sides(shape: BaseGeometry) -> tuple[float, float]:
    left, top, right, bottom = shape.bounds
    return right - left, bottom - top


def filled_up(
    space: FreeSpace, wanted: Sequence[Piece], given_up: Callable[[], bool] = lambda: False
) -> tuple[list[Placement], list[Piece]]:
    """Lay down as many of `wanted` (one entry a copy) as go in, in their order; returns placements and the rest.

    A piece that found no place is not tried again for its further copies: the space only shrinks.
    `given_up` is asked before each piece.
    """
    placements: list[Placement] = []
    rest: list[Piece] = []
    hopeless: set[int] = set()
    for piece in wanted:
        placement = None if piece.item in hopeless or given_up() else space.put(piece)
        if placement is None:
            hopeless.add(piece.item)
            rest.append(piece)
        else:
            placements.append(placement)
    return placements, rest
