"""Many equal pieces in a rectangle: rows, staggered rows, and pairs turned by 180°.

A row repeats a cell at an even pitch; the cell is one piece, or a piece and its half-turned twin a little up or down.
Rows repeat downwards, each shifted along the one before it. What decides how near rows come is their profile: how far
down the upper one reaches at every point along the row, and how far up the lower one. So the edge, grown by half the
gap, is sampled into columns once for each turn, and every shift of every pitch is then a matter of subtracting arrays.

Pitches wider than need be are tried too, as wide as the row's room allows with the same number of pieces: discs a
little apart let the next row sink in deeper. (28 mm discs on 172 × 243 mm: straight rows hold 48, staggered rows at
the least pitch 50, spread out ones 53.)

Profiles leave pockets in a piece's side unused, so the result is safe and, for such pieces, not the best there is.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.geometry import grow, placed
from vamper.core.job import Turn
from vamper.core.sheet.layout import Piece, Placement, gap_between
from vamper.core.sheet.turns import best_turn

# Profiles are taken a hair outside the shape, and cells span their whole width.
_EXTRA_MM = 0.01
_FINE_MM = 0.1
_COARSE_COLUMNS = 64
_DRAWN_FINE = 6
_LIKELY = 2
_QUICK_MM = 0.3
_TURN_STEP_DEG = 15.0
_TWIN_OFFSETS = 5
_SHIFTS_TRIED = 48

Line = npt.NDArray[np.float64]
Room = tuple[float, float]
Span = tuple[float, float, float, float]
Way = tuple[float, bool, bool]


@dataclass(frozen=True, slots=True)
class Lattice:
    """Places of equal pieces in a room whose corner is the origin; `words` names the kind."""

    words: str
    turns: tuple[float, ...]
    places: tuple[tuple[float, float, int], ...]
    """x, y of the frame's origin, and which of the turns; row after row, so that any number of them is compact."""

    @property
    def count(self) -> int:
        return len(self.places)

    def placements(self, item: int, left: float, top: float, most: int) -> list[Placement]:
        return [
            Placement(item, left + x, top + y, self.turns[which] % 360.0) for x, y, which in self.places[: max(0, most)]
        ]


@dataclass(frozen=True, slots=True)
class _Profile:
    """A shape between its left and right end in even columns: its upper and lower rim (y down), and its sides in even
    rows. NaN-free: columns without a point reach nowhere (upper +inf, lower −inf).
    """

    left: float
    width: float
    top: float
    height: float
    upper: Line
    lower: Line
    step: float


@dataclass(frozen=True, slots=True)
class _Cell:
    """What a row repeats: shapes' turns and offsets, the row's own profile over one pitch, its extent."""

    turns: tuple[float, ...]
    offsets: tuple[tuple[float, float], ...]
    least_pitch: float
    paired: bool


def best_lattice(piece: Piece, room: Room, gap_mm: float, turn: Turn) -> Lattice | None:
    """The lattice with the most pieces in a room (width, height in mm), None where not one fits."""
    lattices = [one for one in _lattices(piece, room, gap_mm, piece.turn or turn) if one.count]
    # Of equals the one that needs the least depth.
    return max(lattices, key=lambda one: (one.count, -_depth(one)), default=None)


def likely_ways(piece: Piece, room: Room, gap_mm: float, turn: Turn) -> list[Way]:
    """The few ways of laying a piece that hold the most of it by a rough count."""
    gap = gap_between(piece, piece, gap_mm)
    return [way for _, way in _by_rough_count(piece, room, gap, piece.turn or turn)[:_LIKELY]]


def lattice_along(piece: Piece, room: Room, gap_mm: float, ways: Sequence[Way]) -> Lattice | None:
    """The best lattice among given ways; several times faster than looking for the ways as well."""
    gap = gap_between(piece, piece, gap_mm)
    lattices = [one for way in ways for one in _tried(piece, room, gap, *way, _QUICK_MM, True) if one.count]
    return max(lattices, key=lambda one: (one.count, -_depth(one)), default=None)


def _depth(lattice: Lattice) -> float:
    return max(y for _, y, _ in lattice.places)


def _lattices(piece: Piece, room: Room, gap_mm: float, turn: Turn) -> Iterator[Lattice]:
    gap = gap_between(piece, piece, gap_mm)
    rough = _by_rough_count(piece, room, gap, turn)
    # Coarse columns lose a little; whatever comes near the best is drawn again with fine ones.
    for count, way in rough[:_DRAWN_FINE]:
        if count >= rough[0][0] * 0.9 - 1:
            yield from _tried(piece, room, gap, *way, _FINE_MM, True)


def _by_rough_count(piece: Piece, room: Room, gap: float, turn: Turn) -> list[tuple[int, Way]]:
    """Every way with its count by coarse columns, the most first."""
    left, top, right, bottom = piece.edge.bounds
    coarse = max(_FINE_MM, max(right - left, bottom - top) / _COARSE_COLUMNS)
    rough = [
        (max((one.count for one in _tried(piece, room, gap, *way, coarse, False)), default=0), way)
        for way in _ways(piece, room, turn)
    ]
    return sorted(rough, key=lambda found: -found[0])


def _ways(piece: Piece, room: Room, turn: Turn) -> Iterator[Way]:
    """Turn, whether rows run downwards, whether a cell is a pair."""
    if turn is Turn.UPRIGHT:
        turns = [0.0]
    elif turn is Turn.QUARTER:
        turns = [0.0, 90.0]
    elif _is_round(piece):
        turns = [0.0]
    else:
        askew, _ = best_turn(piece.edge, room, turn)
        turns = sorted({*(n * _TURN_STEP_DEG for n in range(int(180 / _TURN_STEP_DEG))), askew})
    for turn_deg in turns:
        for lying in (False, True):
            yield turn_deg, lying, False
            if turn is not Turn.UPRIGHT and not _is_round(piece):
                yield turn_deg, lying, True


def _is_round(piece: Piece) -> bool:
    """Whether the piece is the same in every turn, its box at least."""
    shape = piece.edge.convex_hull
    left, top, right, bottom = shape.bounds
    disc = math.pi * (right - left) * (bottom - top) / 4
    square = abs((right - left) - (bottom - top)) < 1e-3 * (right - left)
    return square and abs(shape.area - disc) < 5e-3 * disc and piece.edge.area > (1 - 5e-3) * disc


def _tried(
    piece: Piece, room: Room, gap: float, turn_deg: float, lying: bool, paired: bool, step: float, wider: bool
) -> list[Lattice]:
    bare = placed(piece.edge, 0, 0, turn_deg)
    if lying:
        bare = _transposed(bare)
    shape = grow(bare, gap / 2 + _EXTRA_MM, 0.005)
    width, height = (room[1], room[0]) if lying else room
    # Grown by half the gap, the pieces may stick out of the room by as much.
    room_across, room_down = width + gap + 2 * _EXTRA_MM, height + gap + 2 * _EXTRA_MM
    profile = _profile(shape, step)
    if profile.width > room_across or profile.height > room_down:
        return []
    found = []
    for cell in _cells(shape, profile, turn_deg, paired, step):
        for places in _rows(cell, profile, _spans(cell, bare, gap / 2 + _EXTRA_MM), room_across, room_down, wider):
            found.append(
                Lattice(
                    _words(places.shift, cell.paired),
                    cell.turns,
                    tuple(_back(places.places, gap / 2 + _EXTRA_MM, lying)),
                )
            )
    return found


def _words(shift: bool, paired: bool) -> str:
    kind = "staggered rows" if shift else "rows"
    return f"{kind} of pairs" if paired else kind


def _back(places: Sequence[tuple[float, float, int]], margin: float, lying: bool) -> list[tuple[float, float, int]]:
    shifted = [(x - margin, y - margin, which) for x, y, which in places]
    return [(y, x, which) for x, y, which in shifted] if lying else shifted


def _transposed(shape: BaseGeometry) -> BaseGeometry:
    return shapely.affinity.affine_transform(shape, [0, 1, 1, 0, 0, 0])


def _profile(shape: BaseGeometry, step: float) -> _Profile:
    left, top, right, bottom = shape.bounds
    upper, lower = _rims(shape, left, right, step)
    return _Profile(left, right - left, top, bottom - top, upper, lower, step)


def _rims(shape: BaseGeometry, left: float, right: float, step: float) -> tuple[Line, Line]:
    """How far up and down a shape reaches in each column, the whole of a column's width counted."""
    count = max(2, math.ceil((right - left) / step))
    upper, lower = np.full(count, np.inf), np.full(count, -np.inf)
    for part in shapely.get_parts(shape).tolist():
        points = shapely.get_coordinates(shapely.segmentize(part.exterior, step / 2))
        column = np.clip(((points[:, 0] - left) / step).astype(int), 0, count - 1)
        np.minimum.at(upper, column, points[:, 1])
        np.maximum.at(lower, column, points[:, 1])
    # A point near a column's side also stands for the next column.
    upper = np.minimum(upper, np.minimum(np.roll(upper, 1), np.roll(upper, -1)))
    lower = np.maximum(lower, np.maximum(np.roll(lower, 1), np.roll(lower, -1)))
    return upper, lower


def _least_pitch(first: BaseGeometry, second: BaseGeometry, step: float) -> float:
    """How far right of `first` the same-frame `second` must be shifted to lie clear of it, by their side profiles."""
    a, b = _transposed(first), _transposed(second)
    top = min(a.bounds[0], b.bounds[0])
    bottom = max(a.bounds[2], b.bounds[2])
    _, right_of_first = _rims(a, top, bottom, step)
    left_of_second, _ = _rims(b, top, bottom, step)
    both = right_of_first - left_of_second
    most = float(both[np.isfinite(both)].max(initial=0.0))
    return max(most, 0.0)


def _cells(shape: BaseGeometry, profile: _Profile, turn_deg: float, paired: bool, step: float) -> Iterator[_Cell]:
    if not paired:
        yield _Cell((turn_deg,), ((0.0, 0.0),), _least_pitch(shape, shape, step), False)
        return
    twin = placed(shape, 0, 0, 180.0)
    # The twin's box laid over the piece's, then moved up and down.
    level = profile.top - twin.bounds[1]
    for share in np.linspace(-0.45, 0.45, _TWIN_OFFSETS):
        down = level + share * profile.height
        moved = shapely.affinity.translate(twin, 0, down)
        to_twin = _least_pitch(shape, moved, step)
        back = _least_pitch(moved, shape, step)
        pitch = max(to_twin + back, _least_pitch(shape, shape, step))
        yield _Cell((turn_deg, turn_deg + 180.0), ((0.0, 0.0), (to_twin, down)), pitch, True)


@dataclass(frozen=True, slots=True)
class _Places:
    places: list[tuple[float, float, int]]
    shift: bool


def _rows(
    cell: _Cell, profile: _Profile, spans: list[Span], across: float, down: float, wider: bool
) -> Iterator[_Places]:
    """Rows of a cell at several shifts and, if asked for, at wider pitches too."""
    left = min(low for low, _, _, _ in spans)
    right = max(high for _, high, _, _ in spans)
    top = min(low for _, _, low, _ in spans)
    bottom = max(high for _, _, _, high in spans)
    if bottom - top > down:
        return
    single = spans[0][1] - spans[0][0]
    fit = math.floor((across - (right - left)) / cell.least_pitch + 1e-9) + 1 if right - left <= across else 1
    pitches = {cell.least_pitch}
    for count in (fit, fit - 1) if wider or cell.least_pitch == single else ():
        if count > 1:
            pitches |= {
                pitch
                for pitch in ((across - single) / (count - 1), (across - single) / (count - 0.5))
                if pitch >= cell.least_pitch
            }
    for pitch in sorted(pitches):
        upper, lower = _row_profile(cell, profile, pitch)
        size = len(upper)
        straight = _drop(upper, lower, 0)
        for shift in sorted({0, size // 2, _deepest(upper, lower)}):
            there, back = _drop(upper, lower, shift), _drop(upper, lower, -shift)
            # Every second row lies straight below the one before the last.
            back = max(back, straight - there)
            yield _laid(cell, spans, (left, top, bottom), across, down, pitch, shift * pitch / size, (there, back))


def _spans(cell: _Cell, bare: BaseGeometry, margin: float) -> list[Span]:
    """Left, right, top, bottom of each of the cell's shapes, margin included."""
    found = []
    for turn, (x, y) in zip((0.0, 180.0), cell.offsets, strict=False):
        x0, y0, x1, y1 = placed(bare, x, y, turn).bounds
        found.append((x0 - margin, x1 + margin, y0 - margin, y1 + margin))
    return found


def _row_profile(cell: _Cell, profile: _Profile, pitch: float) -> tuple[Line, Line]:
    """Upper and lower rim of an endless row over one pitch."""
    size = max(8, round(pitch / profile.step))
    upper, lower = np.full(size, np.inf), np.full(size, -np.inf)
    for turn, (x, y) in zip((0.0, 180.0), cell.offsets, strict=False):
        if turn == 0.0:
            left, rim_up, rim_down = profile.left + x, profile.upper + y, profile.lower + y
        else:
            left = -(profile.left + profile.width) + x
            rim_up, rim_down = -profile.lower[::-1] + y, -profile.upper[::-1] + y
        centres = left + profile.step * (np.arange(len(rim_up)) + 0.5)
        column = np.floor(centres / pitch * size).astype(int)
        for near in (-1, 0, 1):
            np.minimum.at(upper, (column + near) % size, rim_up)
            np.maximum.at(lower, (column + near) % size, rim_down)
    return upper, lower


def _drop(upper: Line, lower: Line, shift: int) -> float:
    """How far below a row the same row lies when it is shifted right by some columns."""
    return max(0.0, float((lower - np.roll(upper, shift)).max()))


def _deepest(upper: Line, lower: Line) -> int:
    """The shift at which going there and back takes the least depth."""
    size = len(upper)
    tried = np.arange(0, size, max(1, size // _SHIFTS_TRIED))
    columns = np.arange(size)
    there = (lower - upper[(columns - tried[:, None]) % size]).max(axis=1)
    back = (lower - upper[(columns + tried[:, None]) % size]).max(axis=1)
    return int(tried[np.maximum(there + back, (lower - upper).max()).argmin()])


def _laid(
    cell: _Cell,
    spans: list[Span],
    corner: tuple[float, float, float],
    across: float,
    down: float,
    pitch: float,
    shift: float,
    drops: tuple[float, float],
) -> _Places:
    """Rows laid down the room until it is full, every second one shifted."""
    left, top, bottom = corner
    places: list[tuple[float, float, int]] = []
    y, row = -top, 0
    while y + bottom <= down + 1e-9 and row < 10_000:
        offset = shift if row % 2 else 0.0
        places += _row_places(cell, spans, left, across, pitch, offset, y)
        drop = drops[row % 2]
        if drop <= 1e-6:
            break
        y += drop
        row += 1
    return _Places(places, shift > 1e-9)


def _row_places(
    cell: _Cell,
    spans: list[Span],
    left: float,
    across: float,
    pitch: float,
    offset: float,
    y: float,
) -> list[tuple[float, float, int]]:
    """One row; of a cell that does not fit whole, the shapes that do."""
    first = -left + offset
    # A shifted row may have room for one more before its first.
    if first + left - pitch > 0:
        first -= pitch
    found = []
    for n in range(-1, math.ceil(across / pitch) + 1):
        for which, ((x, dy), (low, high, _, _)) in enumerate(zip(cell.offsets, spans, strict=True)):
            at = first + n * pitch
            if at + low >= -1e-9 and at + high <= across + 1e-9:
                found.append((at + x, y + dy, which))
    return found
