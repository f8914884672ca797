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
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt
import scipy.fft
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.lay.clearance import Clearance, Moved
from vamper.core.sheet.lay.drawn_pieces import DrawnPieces, InCells, Spectrum, in_cells
from vamper.core.sheet.lay.turns import best_turn, distinct
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.values.areas import cells_in
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import grow
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement

_FREE_TURNS = 16
TOUCH_MM = 3.0
_TRIED_PLACES = 6
# A place counts for less the farther down the sheet it is, so that what is left stays in one piece.
_DOWNWARD, _ALONG = 0.35, 0.1

Grid = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class _Place:
    score: float
    drawn: InCells
    row: int
    column: int


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
                settled = self._settled(piece, self._placement(place))
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
        drawn = self._in_cells(piece, turn_deg, grown)
        rows, columns = self._shape[0] - drawn.rows + 1, self._shape[1] - drawn.columns + 1
        if rows <= 0 or columns <= 0:
            return []
        spectrum = self._spectrum(piece)
        if np.count_nonzero(drawn.body) > self._free[piece.cut, piece.bleed_mm]:
            return []
        free = np.flatnonzero(self._overlap(spectrum, drawn, False) < 0.5)
        if not free.size:
            return []
        touched = self._overlap(spectrum, drawn, True).ravel()[free]
        worse = _far_down(rows, columns)[free] - touched / max(1, int(np.count_nonzero(drawn.ring)))
        if worse.size > _TRIED_PLACES:
            best = np.argpartition(worse, _TRIED_PLACES - 1)[:_TRIED_PLACES]
            free, worse = free[best], worse[best]
        return [_Place(-float(worse[one]), drawn, *divmod(int(free[one]), columns)) for one in np.argsort(worse)]

    def _placement(self, place: _Place) -> Placement:
        drawn = place.drawn
        x = self._origin[0] + (place.column + self._rim) * self._cell - drawn.left_mm
        y = self._origin[1] + (place.row + self._rim) * self._cell - drawn.top_mm
        return Placement(drawn.item, x, y, drawn.turn_deg)

    def _in_cells(self, piece: Piece, turn_deg: float, grown: float) -> InCells:
        return self._drawn.cells(
            piece.item, turn_deg, grown, lambda: in_cells(piece, turn_deg, grown, self._cell, self._rim)
        )

    def _overlap(self, spectrum: Spectrum, drawn: InCells, ring: bool) -> Grid:
        """How many cells of a piece, or of what surrounds it, lie on taken ones, for each place; (rows, columns)."""
        rows, columns = self._shape[0] - drawn.rows + 1, self._shape[1] - drawn.columns + 1
        spectrum = spectrum * self._drawn.spectrum(drawn, ring, self._shape)
        upright = scipy.fft.ifft(spectrum, axis=0, overwrite_x=True)[:rows]
        return np.asarray(scipy.fft.irfft(upright, self._shape[1], axis=1, overwrite_x=True)[:, :columns])

    def _spectrum(self, piece: Piece) -> Spectrum:
        key = (piece.cut, piece.bleed_mm)
        if key not in self._grids:
            grid = self._outside.astype(np.float32)
            for other, shape in self._standing:
                self._take(key, grid, other, shape)
            self._grids[key] = grid
        if key not in self._spectra:
            self._spectra[key] = scipy.fft.rfft2(self._grids[key])
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


@lru_cache(maxsize=64)
def _far_down(rows: int, columns: int) -> Grid:
    """What each place, row by row, counts for less."""
    down = _DOWNWARD * (np.arange(rows) / rows)
    along = _ALONG * (np.arange(columns) / columns)
    return np.asarray((down[:, None] + along).ravel(), dtype=np.float32)


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
