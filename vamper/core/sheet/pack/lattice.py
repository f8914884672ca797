"""Many equal pieces in a rectangle: the best of all lattices of rows (see `lattice_rows`).

A way of laying a piece is a turn, whether rows run across or down, and whether a row is made of pairs, the second of
each turned by 180° and standing a little higher or lower. All ways in wide steps are tried by coarse profiles; the best
ones are then followed, by turning and moving a little as long as that helps, and drawn again with fine profiles.
"""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from vamper.core.sheet.lay.turns import best_turn
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.sheet.pack.lattice_rows import EXTRA_MM, Profile, Room, Rows, best_rows, cell_of, profile_of
from vamper.core.values.item import Turn
from vamper.core.values.placement import Placement


@dataclass(frozen=True, slots=True)
class Fineness:
    """How closely rims (mm, or a share of the piece where that is more) and shifts along the pitch are sampled."""

    step_mm: float
    share: float
    shifts: int


_COARSE = Fineness(0.3, 1 / 64, 24)
_QUICK = Fineness(0.3, 0.0, 48)
_FINE = Fineness(0.1, 0.0, 144)
_TURN_STEP_DEG = 15.0
_TWIN_SHARES = (-0.4, -0.2, 0.0, 0.2, 0.4)
_TWIN_STEP = 0.1
_FOLLOWED = 10
_DRAWN = 4
_HALVINGS = 4
_LIKELY = 2
_NOTHING = (0, -math.inf)


@dataclass(frozen=True, slots=True)
class LatticePattern:
    """A turn in degrees, whether rows run across, and how far down the twin stands, as a share of the height (None:
    no twins).
    """

    turn_deg: float
    across: bool
    twin: float | None


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


def best_lattice(
    piece: Piece, room: Room, gap_mm: float, turn: Turn, given_up: Callable[[], bool] = lambda: False
) -> Lattice | None:
    """The lattice with the most pieces in a room (width, height in mm), None where not one fits. Once it is given up,
    the best of what was tried.
    """
    ways = likely_ways(piece, room, gap_mm, turn, _DRAWN, given_up)
    return lattice_along(piece, room, gap_mm, ways, _FINE)


def likely_ways(
    piece: Piece,
    room: Room,
    gap_mm: float,
    turn: Turn,
    most: int = _LIKELY,
    given_up: Callable[[], bool] = lambda: False,
) -> list[LatticePattern]:
    """The few ways of laying a piece that hold the most of it, by a rough count."""
    tried = _Tried(piece, room, gap_mm, given_up)
    turn = piece.turn or turn
    begin = sorted(_ways(piece, room, turn), key=tried.worth, reverse=True)[:_FOLLOWED]
    turning = _TURN_STEP_DEG / 2 if turn is Turn.ANY and not _is_round(piece) else 0.0
    ways = dict.fromkeys(_followed(way, tried, turning) for way in begin)
    return sorted(ways, key=tried.worth, reverse=True)[:most]


def lattice_along(
    piece: Piece, room: Room, gap_mm: float, ways: Sequence[LatticePattern], fineness: Fineness = _QUICK
) -> Lattice | None:
    """The best lattice among given ways; many times faster than looking for the ways as well."""
    gap = gap_between(piece, piece, gap_mm)
    found = [
        (way, rows)
        for way in ways
        if (rows := _rows(_profile(piece, gap, way, fineness), room, gap, way, fineness)) is not None
    ]
    if not found:
        return None
    way, rows = max(found, key=lambda one: (one[1].count, -one[1].depth))
    margin = gap / 2 + EXTRA_MM
    places = [(x - margin, y - margin, which) for x, y, which in rows.places(_widened(room, gap, way))]
    return Lattice(
        rows.words,
        (way.turn_deg, way.turn_deg + 180.0),
        tuple(places if way.across else ((y, x, which) for x, y, which in places)),
    )


def _profile(piece: Piece, gap: float, way: LatticePattern, fineness: Fineness) -> Profile:
    left, top, right, bottom = piece.edge.bounds
    step = max(fineness.step_mm, fineness.share * max(right - left, bottom - top))
    return profile_of(piece.edge, gap, way.turn_deg, way.across, step)


def _rows(profile: Profile, room: Room, gap: float, way: LatticePattern, fineness: Fineness) -> Rows | None:
    return best_rows(cell_of(profile, way.twin), _widened(room, gap, way), fineness.shifts)


def _widened(room: Room, gap: float, way: LatticePattern) -> Room:
    """Along and down the rows. Grown by half the gap, the pieces may stick out of the room by as much."""
    along, down = room if way.across else room[::-1]
    return along + gap + 2 * EXTRA_MM, down + gap + 2 * EXTRA_MM


class _Tried:
    """Ways of one piece in one room by their rough worth, each worked out once: pieces first, then tightness. Once it
    is given up, further ways are worth nothing.
    """

    def __init__(self, piece: Piece, room: Room, gap_mm: float, given_up: Callable[[], bool]) -> None:
        self._piece, self._room, self._gap = piece, room, gap_between(piece, piece, gap_mm)
        self._given_up = given_up
        self._profiles: dict[LatticePattern, Profile] = {}
        self._worth: dict[LatticePattern, tuple[int, float]] = {}

    def worth(self, way: LatticePattern) -> tuple[int, float]:
        if way not in self._worth:
            if self._worth and self._given_up():
                return _NOTHING
            alone = replace(way, twin=None)
            if alone not in self._profiles:
                self._profiles[alone] = _profile(self._piece, self._gap, way, _COARSE)
            rows = _rows(self._profiles[alone], self._room, self._gap, way, _COARSE)
            self._worth[way] = _NOTHING if rows is None else (rows.count, -rows.tightest_mm2)
        return self._worth[way]


def _followed(way: LatticePattern, tried: _Tried, turning_deg: float) -> LatticePattern:
    """Where a way leads when it is turned, and its twins moved, by ever smaller steps that each help."""
    for halving in range(_HALVINGS):
        turn, twin = turning_deg / 2**halving, _TWIN_STEP / 2**halving
        near = [replace(way, turn_deg=way.turn_deg + by) for by in (turn, -turn) if turn]
        if way.twin is not None:
            near += [replace(way, twin=way.twin + by) for by in (twin, -twin)]
        way = max((way, *near), key=tried.worth)
    return way


def _ways(piece: Piece, room: Room, turn: Turn) -> Iterator[LatticePattern]:
    if turn in (Turn.UPRIGHT, Turn.HALF) or _is_round(piece):
        turns = [0.0]
    elif turn is Turn.QUARTER:
        turns = [0.0, 90.0]
    else:
        askew, _ = best_turn(piece.edge, room, turn)
        turns = sorted({*(n * _TURN_STEP_DEG for n in range(int(180 / _TURN_STEP_DEG))), askew})
    twins = (None,) if turn is Turn.UPRIGHT or _is_round(piece) else (None, *_TWIN_SHARES)
    for turn_deg in turns:
        for across in (True, False):
            for twin in twins:
                yield LatticePattern(turn_deg, across, twin)


def _is_round(piece: Piece) -> bool:
    """Whether the piece is the same in every turn, its box at least."""
    shape = piece.edge.convex_hull
    left, top, right, bottom = shape.bounds
    disc = math.pi * (right - left) * (bottom - top) / 4
    square = abs((right - left) - (bottom - top)) < 1e-3 * (right - left)
    return square and abs(shape.area - disc) < 5e-3 * disc and piece.edge.area > (1 - 5e-3) * disc
