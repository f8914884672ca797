"""What one piece keeps or breaks among the pieces of a sheet: distances, and the nearest place that is free.

Every pair of pieces keeps its own least distance (`gap_between`), and no piece leaves the live area. `Clearance` holds
the pieces that stay where they are; whoever is moved, dropped or added is asked about. `slide` tries places on rings
round the wanted one, all places of a ring at once and with a thinned shape; the first that the exact shapes accept is
then drawn back towards where it was wanted, as near as the rules allow.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt
import shapely
from shapely.affinity import translate
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.breaches import OVERLAP_MM2, ROUNDING_MM
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import grow, parts
from vamper.core.values.placement import Placement

SLIDE_MM = 10.0
# Neighbours nearer than this are told of while a piece moves.
NEAR_MM = 15.0
_RING_MM = 0.25
_STEP_MM = 0.7
_TOGETHER = 4
_THIN_MM = 0.05
_DRAWN_BACK_MM = 0.005


@dataclass(frozen=True, slots=True)
class Distance:
    """How far a moved piece is from a neighbour (`other`, its number among the pieces that stay) or, with None, from
    the live area's rim: negative where it sticks out. `ends` are the two nearest points, sheet frame.
    """

    other: int | None
    mm: float
    needed_mm: float
    ends: tuple[tuple[float, float], tuple[float, float]]

    @property
    def is_broken(self) -> bool:
        return self.mm < self.needed_mm - ROUNDING_MM


@dataclass(frozen=True, slots=True)
class Moved:
    """A piece in hand: its edge where it is on the sheet."""

    piece: Piece
    shape: BaseGeometry


class Clearance:
    """The pieces that stay on a sheet, and the rules they set for any other."""

    def __init__(
        self, live: Polygon, gap_mm: float, staying: Sequence[Placement] = (), pieces: Mapping[int, Piece] | None = None
    ) -> None:
        self.live = live
        self.gap_mm = gap_mm
        self._whats: list[Piece] = [(pieces or {})[placement.item] for placement in staying]
        self._shapes: list[BaseGeometry] = [
            placement.of(piece.edge) for placement, piece in zip(staying, self._whats, strict=True)
        ]
        self._reach = live.buffer(ROUNDING_MM, join_style="mitre")
        shapely.prepare(self._reach)
        self._is_box = live.equals(shapely.box(*live.bounds))
        # Who stays is grown once for each distance that somebody keeps, however many are slid past.
        self._grown: dict[tuple[int, float], BaseGeometry] = {}
        self._needs: dict[tuple[Cut, float], npt.NDArray[np.float64]] = {}
        self._index()

    def _index(self) -> None:
        self._staying = np.array(self._shapes, dtype=object)
        shapely.prepare(self._staying)
        self._tree = shapely.STRtree(self._shapes)

    def add(self, piece: Piece, shape: BaseGeometry) -> None:
        """From now on `shape` stays, too."""
        self._whats.append(piece)
        self._shapes.append(shape)
        self._index()

    def allows(self, piece: Piece, shape: BaseGeometry) -> bool:
        """Whether a piece may lie there, exactly."""
        if not self._reach.covers(shape):
            return False
        if not self._shapes:
            return True
        needed = self._needed(piece)
        left, top, right, bottom = shape.bounds
        widest = float(needed.max())
        near = self._tree.query(shapely.box(left - widest, top - widest, right + widest, bottom + widest))
        if not near.size:
            return True
        stays, kept = self._staying[near], needed[near] - ROUNDING_MM
        for mm in np.unique(kept):
            others = stays[kept == mm]
            # Where nothing is kept between two edges they may touch, and no more.
            broken = (
                shapely.dwithin(others, shape, float(mm))
                if mm > 0
                else shapely.area(shapely.intersection(others, shape)) > OVERLAP_MM2
            )
            if broken.any():
                return False
        return True

    def distances(self, piece: Piece, shape: BaseGeometry, reach_mm: float = NEAR_MM) -> list[Distance]:
        """Neighbours and rims within reach, the nearest first."""
        found = []
        for number in self._near(shape, reach_mm):
            needed = gap_between(piece, self._whats[number], self.gap_mm)
            mm, ends = _between(self._shapes[number], shape)
            found.append(Distance(number, mm, needed, ends))
        rim = self._rim(shape)
        if rim.mm <= reach_mm:
            found.append(rim)
        return sorted(found, key=lambda distance: distance.mm - distance.needed_mm)

    def slide(self, moved: Sequence[Moved], reach_mm: float = SLIDE_MM) -> tuple[float, float] | None:
        """The least movement that brings all of `moved` together to where they break no rule, None if none within
        reach does.
        """
        if self._all_allowed(moved, (0.0, 0.0)):
            return 0.0, 0.0
        thinned = [_thinned(one.shape) for one in moved]
        barriers = [self._barrier(one.piece, one.shape, reach_mm) for one in moved]
        # A few rings are looked at together: each look costs as much as several places.
        count = math.floor(reach_mm / _RING_MM + 0.5)
        for first in range(0, count, _TOGETHER):
            offsets = np.concatenate([_ring(number) for number in range(first, min(first + _TOGETHER, count))])
            free = np.ones(len(offsets), dtype=bool)
            for rings, barrier in zip(thinned, barriers, strict=True):
                free &= self._free(rings, offsets, barrier)
            for offset in offsets[free]:
                if self._all_allowed(moved, (float(offset[0]), float(offset[1]))):
                    radius = float(np.hypot(*offset))
                    return self._drawn_back(moved, offset, max(0.0, radius - _RING_MM) / radius)
        return None

    def _drawn_back(self, moved: Sequence[Moved], offset: npt.NDArray[np.float64], least: float) -> tuple[float, float]:
        """The nearest allowed place on the straight way back, to a few micrometres."""
        low, high = least, 1.0
        length = float(np.hypot(*offset))
        while (high - low) * length > _DRAWN_BACK_MM:
            middle = (low + high) / 2
            x, y = offset * middle
            if self._all_allowed(moved, (float(x), float(y))):
                high = middle
            else:
                low = middle
        return float(offset[0] * high), float(offset[1] * high)

    def _all_allowed(self, moved: Sequence[Moved], by: tuple[float, float]) -> bool:
        return all(
            self.allows(one.piece, translate(one.shape, *by) if by != (0.0, 0.0) else one.shape) for one in moved
        )

    def _near(self, shape: BaseGeometry, reach_mm: float) -> list[int]:
        if not self._shapes:
            return []
        return sorted(self._tree.query(shape, predicate="dwithin", distance=reach_mm).tolist())

    def _widest(self, piece: Piece) -> float:
        return float(self._needed(piece).max(initial=self.gap_mm))

    def _needed(self, piece: Piece) -> npt.NDArray[np.float64]:
        """What a piece keeps from each that stays, mm."""
        needed = self._needs.get((piece.cut, piece.bleed_mm))
        if needed is None or len(needed) < len(self._whats):
            needed = np.array([gap_between(piece, other, self.gap_mm) for other in self._whats])
            self._needs[piece.cut, piece.bleed_mm] = needed
        return needed

    def _barrier(self, piece: Piece, shape: BaseGeometry, reach_mm: float) -> BaseGeometry:
        """Where no point of the piece may come: every neighbour grown by what it keeps."""
        near = self._near(shape, reach_mm + self._widest(piece))
        barrier = shapely.union_all([self._keeps_off(piece, n) for n in near])
        shapely.prepare(barrier)
        return barrier

    def _keeps_off(self, piece: Piece, number: int) -> BaseGeometry:
        mm = gap_between(piece, self._whats[number], self.gap_mm) - 2 * ROUNDING_MM
        if (number, mm) not in self._grown:
            self._grown[number, mm] = grow(self._shapes[number], mm, 0.02)
        return self._grown[number, mm]

    def _free(
        self, rings: Sequence[npt.NDArray[np.float64]], offsets: npt.NDArray[np.float64], barrier: BaseGeometry
    ) -> npt.NDArray[np.bool_]:
        free = np.ones(len(offsets), dtype=bool)
        left, top, right, bottom = self.live.bounds
        for ring in rings:
            low, high = ring.min(axis=0) + offsets, ring.max(axis=0) + offsets
            free &= (low >= (left, top)).all(axis=1) & (high <= (right, bottom)).all(axis=1)
            where = np.flatnonzero(free)
            if not len(where):
                return free
            polygons = shapely.polygons(ring[None, :, :] + offsets[where, None, :])
            free[where] &= ~shapely.intersects(barrier, polygons)
            if not self._is_box:
                free[where] &= shapely.covers(self._reach, polygons)
        return free

    def _rim(self, shape: BaseGeometry) -> Distance:
        """The distance to the live area's rim; where the piece sticks out, how far, as a negative distance."""
        boundary = self.live.exterior if not self.live.interiors else self.live.boundary
        if self._reach.covers(shape):
            mm, ends = _between(boundary, shape)
            return Distance(None, mm, 0.0, ends)
        points = shapely.get_coordinates(shape)
        out = shapely.distance(shapely.points(points), self.live)
        farthest = shapely.Point(points[int(out.argmax())])
        ends = _ends(shapely.shortest_line(self.live, farthest))
        return Distance(None, -float(out.max()), 0.0, ends)


def _between(
    first: BaseGeometry, second: BaseGeometry
) -> tuple[float, tuple[tuple[float, float], tuple[float, float]]]:
    line = shapely.shortest_line(first, second)
    return float(shapely.length(line)), _ends(line)


def _ends(line: BaseGeometry) -> tuple[tuple[float, float], tuple[float, float]]:
    (x0, y0), (x1, y1) = shapely.get_coordinates(line)[[0, -1]]
    return (float(x0), float(y0)), (float(x1), float(y1))


@cache
def _ring(number: int) -> npt.NDArray[np.float64]:
    """Places to try on one ring, the first nearest: their offsets, (n, 2), mm."""
    radius = _RING_MM * (number + 1)
    count = max(12, math.ceil(2 * math.pi * radius / _STEP_MM))
    angles = np.arange(count) * (2 * math.pi / count)
    return radius * np.column_stack([np.cos(angles), np.sin(angles)])


def _thinned(shape: BaseGeometry) -> list[npt.NDArray[np.float64]]:
    """The outer rings of a shape with few points; holes do not matter for a first look."""
    thin = shape.simplify(_THIN_MM)
    found: Sequence[Polygon] = parts(thin) or parts(shape)
    return [shapely.get_coordinates(part.exterior) for part in found]


def as_moved(piece: Piece, placement: Placement) -> Moved:
    """A piece in hand, lying as `placement` says."""
    shape = placement.of(piece.edge)
    assert isinstance(shape, MultiPolygon)
    return Moved(piece, shape)
