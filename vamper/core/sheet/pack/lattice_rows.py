"""Rows of a repeated cell: how near they come to each other, and how many pieces a room takes.

A row repeats a cell at an even pitch; the cell is one piece, or a piece and its half-turned twin beside it, a little up
or down. What decides how near rows come is their profile: how far down the upper one reaches at every point along the
row, and how far up the lower one. The piece is sampled into columns once, and the distance of two rows at every shift
is then a matter of subtracting arrays. Rows either swing (each second one is shifted) or lean (each is shifted a little
more than the one before it, as in any lattice of two directions).

Pitches wider than need be are tried too, as wide as the room allows with the same number of pieces: discs a little
apart let the next row sink in deeper. (28 mm discs on 172 × 243 mm: straight rows hold 48, staggered rows at the least
pitch 50, spread out ones 53.)

Profiles leave pockets in a piece's side unused, so the result is safe and, for such pieces, not the best there is.
"""

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import grow, placed

Line = npt.NDArray[np.float64]
Room = tuple[float, float]
Span = tuple[float, float, float, float]

# Profiles are taken a hair outside the shape, and cells span their whole width.
EXTRA_MM = 0.01
_SIMPLER_MM = 0.005
# A leaning row is measured against so many before it; what reaches deeper is kept off by its whole height.
_LEANS_OVER = 6
_CLOSE_MM = 1e-9


@dataclass(frozen=True, slots=True)
class Profile:
    """A turned piece, grown by half the gap, as its rims; where nothing is, a rim is the infinity that never touches.

    Parameters
    ----------
    left, top, width, height : float
        Its box, mm.
    upper, lower : array, shape (columns,)
        How far up and down it reaches, y down, at even columns from `left`.
    sides : pair of array, shape (rows,)
        How far left and right it reaches at even rows from `top`.
    twin_sides : pair of array, shape (rows,)
        The same of its twin (turned by 180°), whose box is laid over the piece's.
    step : float
        Between columns and between rows, mm.
    """

    left: float
    top: float
    width: float
    height: float
    upper: Line
    lower: Line
    sides: tuple[Line, Line]
    twin_sides: tuple[Line, Line]
    step: float


@dataclass(frozen=True, slots=True)
class Cell:
    """The unit that a row repeats: where its shapes stand (a piece, and perhaps its twin), and how near two cells may
    come.
    """

    profile: Profile
    offsets: tuple[tuple[float, float], ...]
    least_pitch: float

    @property
    def spans(self) -> list[Span]:
        """Left, right, top and bottom of each shape."""
        profile = self.profile
        corners = [(profile.left, profile.top), (-profile.left - profile.width, -profile.top - profile.height)]
        return [
            (left + x, left + x + profile.width, top + y, top + y + profile.height)
            for (left, top), (x, y) in zip(corners, self.offsets, strict=False)
        ]


@dataclass(frozen=True, slots=True)
class Rows:
    """Rows of a piece in a room whose corner is the origin.

    Parameters
    ----------
    cell : Cell
        What is repeated along a row.
    pitch : float
        From one cell to the next, mm.
    along, down : array, shape (rows,)
        How far each row is shifted, and how far down it lies, mm.
    count : int
        Pieces in all.
    depth : float
        How far down the last row reaches, mm.
    tightest_mm2 : float
        The least area a piece that any rows of this cell took, even if others fill this room as well.
    words : str
        How they lie, in words.
    """

    cell: Cell
    pitch: float
    along: Line
    down: Line
    count: int
    depth: float
    tightest_mm2: float
    words: str

    def places(self, room: Room) -> list[tuple[float, float, int]]:
        """x, y of each piece's frame, and which of the cell's shapes it is; row after row."""
        spans = self.cell.spans
        first, top = min(span[0] for span in spans), min(span[2] for span in spans)
        rows: list[list[tuple[float, float, int]]] = [[] for _ in self.along]
        for which, ((x, y), span) in enumerate(zip(self.cell.offsets, spans, strict=True)):
            ends = _between(span, first, self.along, self.pitch, room[0])
            for row, along, down, low, high in zip(rows, self.along, self.down, *ends, strict=True):
                if down - top + span[3] <= room[1] + _CLOSE_MM:
                    row += [
                        (float(along - first + n * self.pitch + x), float(down - top + y), which)
                        for n in range(low, high + 1)
                    ]
        return [place for row in rows for place in sorted(row)]


def profile_of(edge: BaseGeometry, gap_mm: float, turn_deg: float, across: bool, step_mm: float) -> Profile:
    """The profile of an edge turned so. Where rows do not run `across` but down, x and y change places."""
    turned = placed(edge, 0, 0, turn_deg)
    if not across:
        turned = _transposed(turned)
    margin = gap_mm / 2 + EXTRA_MM
    shape = grow(turned, margin, _SIMPLER_MM)
    # A drawn arc stays a little inside the true one; the box must not.
    x0, y0, x1, y1 = turned.bounds
    left, top, right, bottom = x0 - margin, y0 - margin, x1 + margin, y1 + margin
    upper, lower = _rims(shape, left, right, step_mm)
    twin = shapely.affinity.translate(placed(shape, 0, 0, 180.0), 0, top + bottom)
    sides, twin_sides = (_rims(_transposed(one), top, bottom, step_mm) for one in (shape, twin))
    return Profile(
        left=left,
        top=top,
        width=right - left,
        height=bottom - top,
        upper=upper,
        lower=lower,
        sides=sides,
        twin_sides=twin_sides,
        step=step_mm,
    )


def _transposed(shape: BaseGeometry) -> BaseGeometry:
    return shapely.affinity.affine_transform(shape, [0, 1, 1, 0, 0, 0])


def _rims(shape: BaseGeometry, left: float, right: float, step: float) -> tuple[Line, Line]:
    """How far up and down a shape reaches in each column, the whole of a column's width counted."""
    count = max(2, math.ceil((right - left) / step))
    upper, lower = np.full(count, np.inf), np.full(count, -np.inf)
    rings = [part.exterior for part in shapely.get_parts(shape).tolist()]
    points = shapely.get_coordinates(shapely.segmentize(rings, step / 2))
    column = np.clip(((points[:, 0] - left) / step).astype(int), 0, count - 1)
    np.minimum.at(upper, column, points[:, 1])
    np.maximum.at(lower, column, points[:, 1])
    # A point near a column's side also stands for the next column.
    return _smeared(upper, np.minimum), _smeared(lower, np.maximum)


def _smeared(rim: Line, reach: np.ufunc) -> Line:
    out = rim.copy()
    out[1:] = reach(out[1:], rim[:-1])
    out[:-1] = reach(out[:-1], rim[1:])
    return out


def cell_of(profile: Profile, share: float | None) -> Cell:
    """A cell of one piece, or with its twin moved down by a share of the piece's height (up, where it is negative)."""
    left, right = profile.sides
    alone = max(_clear(right, left, 0), profile.step)
    if share is None:
        return Cell(profile, ((0.0, 0.0),), alone)
    rows = round(share * profile.height / profile.step)
    twin_left, twin_right = profile.twin_sides
    to_twin = _clear(right, twin_left, rows)
    back = _clear(twin_right, left, -rows)
    if not math.isfinite(to_twin):
        to_twin = 2 * profile.left + profile.width
    level = 2 * profile.top + profile.height
    return Cell(profile, ((0.0, 0.0), (to_twin, level + rows * profile.step)), max(to_twin + back, alone))


def _clear(right: Line, left: Line, rows: int) -> float:
    """How far right a shape must be moved to lie right of another, when it is moved down by some rows; −inf where
    they pass above each other.
    """
    first, second = (right[rows:], left[: len(left) - rows]) if rows >= 0 else (right[:rows], left[-rows:])
    return float((first - second).max(initial=-np.inf))


def best_rows(cell: Cell, room: Room, shifts: int) -> Rows | None:
    """The rows that hold the most pieces, of equals the ones that need the least depth; None where not one fits.

    `room` is width and height in mm; `shifts` is how finely shifts along the pitch are tried.
    """
    across, down = room
    spans = cell.spans
    if cell.profile.width > across or cell.profile.height > down:
        return None
    best: Rows | None = None
    tightest = math.inf
    leans = np.repeat([False, True], shifts)[:, None]
    for pitch in _pitches(cell, across):
        drops = _drops(*_endless(cell, pitch, shifts), shifts)
        there, back = np.hstack([_swinging(drops), _leaning(drops, cell)])
        least = float((there + back).min())
        tightest = min(tightest, least * pitch / (2 * len(spans)))
        if best is not None and _most(cell, least, pitch, room) < best.count:
            continue
        number = np.arange(math.floor(2 * down / least) + 2)
        y = (number // 2) * (there + back)[:, None] + (number % 2) * there[:, None]
        along_at = np.tile(np.arange(shifts) * (pitch / shifts), 2)[:, None]
        x = np.where(leans, number, number % 2) * along_at
        count, depth, phase = _counted(spans, x, y, pitch, room)
        which = int(np.lexsort((depth, -count))[0])
        found = int(count[which]), -float(depth[which])
        if found[0] and (best is None or found > (best.count, -best.depth)):
            along = (x[which] + phase[which]) % pitch
            words = _words(bool(leans[which, 0]), which % shifts > 0, len(spans) > 1)
            best = Rows(
                cell=cell,
                pitch=pitch,
                along=along,
                down=y[which],
                count=found[0],
                depth=-found[1],
                tightest_mm2=0.0,
                words=words,
            )
    return None if best is None else replace(best, tightest_mm2=tightest)


def _most(cell: Cell, least: float, pitch: float, room: Room) -> int:
    """The most pieces that rows hold in which no two come nearer than `least` to each other's next but one."""
    across, down = room
    profile = cell.profile
    in_a_row = math.floor((across - profile.width) / pitch + _CLOSE_MM) + 1
    rows = 2 * math.floor((down - profile.height) / least + _CLOSE_MM) + 2
    return in_a_row * len(cell.offsets) * rows


def _words(leaning: bool, shifted: bool, paired: bool) -> str:
    kind = "rows" if not shifted else "leaning rows" if leaning else "staggered rows"
    return f"{kind} of pairs" if paired else kind


def _pitches(cell: Cell, across: float) -> list[float]:
    """The least pitch, and the pitches at which rows of as many cells, of one fewer or of a half more just fill the
    room.
    """
    spans = cell.spans
    single = cell.profile.width
    whole = max(span[1] for span in spans) - min(span[0] for span in spans)
    pitches = {cell.least_pitch}
    for extent in {single, whole}:
        fit = math.floor((across - extent) / cell.least_pitch + _CLOSE_MM) + 1
        for gaps in (fit - 2, fit - 1.5, fit - 1, fit - 0.5):
            if gaps > 0 and (across - extent) / gaps >= cell.least_pitch:
                pitches.add((across - extent) / gaps)
    return sorted(pitches)


def _endless(cell: Cell, pitch: float, shifts: int) -> tuple[Line, Line]:
    """Upper and lower rim of an endless row over one pitch, in a multiple of `shifts` columns."""
    profile = cell.profile
    size = shifts * max(1, round(pitch / profile.step / shifts))
    upper, lower = np.full(size, np.inf), np.full(size, -np.inf)
    # Columns of the row may be narrower than those of the profile.
    near = math.ceil(profile.step / pitch * size)
    for which, (x, y) in enumerate(cell.offsets):
        if which == 0:
            start, rim_up, rim_down = profile.left + x, profile.upper + y, profile.lower + y
        else:
            # The twin's columns begin at the far end, where the last of the piece's may stick out.
            start = x - profile.left - len(profile.upper) * profile.step
            rim_up, rim_down = -profile.lower[::-1] + y, -profile.upper[::-1] + y
        low = np.floor((start + profile.step * np.arange(len(rim_up))) / pitch * size).astype(int)
        for further in range(near + 1):
            np.minimum.at(upper, (low + further) % size, rim_up)
            np.maximum.at(lower, (low + further) % size, rim_down)
    return upper, lower


def _drops(upper: Line, lower: Line, shifts: int) -> Line:
    """How far below a row the same row lies, for each of the shifts to the right."""
    size = len(upper)
    drops: Line = np.maximum(0.0, (lower - upper[_shifted(size, shifts)]).max(axis=1))
    return drops


@lru_cache(maxsize=64)
def _shifted(size: int, shifts: int) -> npt.NDArray[np.int64]:
    """The columns that lie over the columns of a row of `size`, for each of the shifts to the right."""
    by = np.arange(shifts) * (size // shifts)
    return np.asarray((np.arange(size) - by[:, None]) % size)


def _swinging(drops: Line) -> Line:
    """There and back: every second row lies straight below the one before the last."""
    back = np.maximum(np.concatenate([drops[:1], drops[:0:-1]]), drops[0] - drops)
    return np.array([drops, back])


def _leaning(drops: Line, cell: Cell) -> Line:
    """On and on by the same shift: row k below the first lies at k times the shift."""
    number = np.arange(len(drops))
    reaches = [drops[(number * k) % len(drops)] / k for k in range(1, _LEANS_OVER + 1)]
    spans = cell.spans
    height = max(span[3] for span in spans) - min(span[2] for span in spans)
    drop = np.maximum(np.max(reaches, axis=0), height / (_LEANS_OVER + 1))
    return np.array([drop, drop])


def _counted(spans: list[Span], x: Line, y: Line, pitch: float, room: Room) -> tuple[npt.NDArray[np.int64], Line, Line]:
    """Pieces, depth and best start along, for each shift; `x` and `y` are places of rows, shape (shifts, rows)."""
    across, down = room
    first, top = min(span[0] for span in spans), min(span[2] for span in spans)
    whole = max(span[1] for span in spans) - first
    slack = (across - whole) % pitch
    phases = np.array(sorted({0.0, slack, pitch / 3, 2 * pitch / 3}))
    along = (x[:, None, :] + phases[:, None]) % pitch
    held = np.zeros(along.shape, dtype=np.int64)
    for span in spans:
        low, high = _between(span, first, along, pitch, across)
        fits = (y - top + span[3] <= down + _CLOSE_MM)[:, None, :]
        held += np.where(fits, np.maximum(0, high - low + 1), 0)
    counts = held.sum(axis=2)
    best = counts.argmax(axis=1)
    number = np.arange(len(counts))
    depth = np.where(held[number, best] > 0, y, 0.0).max(axis=1)
    return counts[number, best], depth, phases[best]


def _between(
    span: Span, first: float, along: Line, pitch: float, across: float
) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.int64]]:
    """The lowest and highest number of the cells in a row of which this shape lies in the room."""
    low = np.ceil((first - along - span[0]) / pitch - _CLOSE_MM).astype(np.int64)
    high = np.floor((across - span[1] - along + first) / pitch + _CLOSE_MM).astype(np.int64)
    return low, high
