"""How many equal pieces a sheet holds at each of a range of sizes, before the art is final.

The answer for one size is the best lattice in the live area's largest rectangle, or rows of boxes where those hold
more. It is a number that can be had, not a bound; the packing proper may find a few more. Counts fall with the
size, so that the sizes at which one more fits are found by halving the interval between two sizes that differ.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from shapely.geometry import MultiPolygon, Polygon

from vamper.core.sheet.layout import Piece
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.sheet.pack.lattice import lattice_along, likely_ways
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.values.item import Turn

STEP_MM = 0.1
_SIZES = 7
_MOST_ROWS = 24


@dataclass(frozen=True, slots=True)
class SizeCount:
    """The largest size at which `pieces` go on a sheet, and the most that areas would allow."""

    size_mm: float
    pieces: int
    at_most: int


@dataclass(frozen=True, slots=True)
class CountRequest:
    """A room, the rules, and the edge at any size (mm of its drawing's longest side)."""

    piece: Piece
    edge_at: Callable[[float], MultiPolygon]
    room: Polygon
    gap_mm: float
    turn: Turn


class HowMany:
    """Counts for one question, each size worked out once; quick counts are of plain rows alone."""

    def __init__(self, question: CountRequest, typical_mm: float, quick: bool = False) -> None:
        self._question = question
        self._counts: dict[float, int] = {}
        self._edges: dict[float, MultiPolygon] = {}
        left, top, right, bottom = question.room.bounds
        self._room = right - left, bottom - top
        typical = self._piece(typical_mm)
        self._ways = () if quick else likely_ways(typical, self._room, question.gap_mm, question.turn)

    def _piece(self, size_mm: float) -> Piece:
        if size_mm not in self._edges:
            self._edges[size_mm] = self._question.edge_at(size_mm)
        return replace(self._question.piece, edge=self._edges[size_mm], quantity=10_000)

    def count(self, size_mm: float) -> int:
        """Pieces of one size on a sheet."""
        size_mm = round(size_mm, 1)
        if size_mm not in self._counts:
            piece, gap = self._piece(size_mm), self._question.gap_mm
            lattice = lattice_along(piece, self._room, gap, self._ways) if self._ways else None
            single = replace(piece, quantity=_bounded(piece, self._question.room, gap))
            rows = rows_of_boxes([single], self._question.room, gap, self._question.turn, 1)
            self._counts[size_mm] = max(lattice.count if lattice else 0, len(rows[0]) if rows else 0)
        return self._counts[size_mm]

    def table(self, least_mm: float, most_mm: float) -> Iterator[SizeCount]:
        """From large to small: each count with the largest size at which it goes."""
        sizes = sorted({round(float(size), 1) for size in np.linspace(least_mm, most_mm, _SIZES)})
        shown = 0
        best = -1
        for smaller, larger in reversed(list(pairwise(sizes))):
            for size in self._steps(smaller, larger):
                count = self.count(size)
                if count <= best:
                    continue
                best = count
                yield SizeCount(
                    size, count, _bounded(self._piece(round(size, 1)), self._question.room, self._question.gap_mm)
                )
                shown += 1
                if shown >= _MOST_ROWS:
                    return

    def _steps(self, smaller: float, larger: float) -> Iterator[float]:
        """Sizes from `larger` down to `smaller` at which the count may rise: the ends, and what halving finds."""
        yield larger
        high = larger
        while high - smaller > STEP_MM * 1.5 and self.count(smaller) > self.count(high):
            # The largest size below `high` that holds more than it does.
            low, top = smaller, high
            while top - low > STEP_MM * 1.5:
                middle = round((low + top) / 2, 1)
                if middle in (low, top):
                    break
                if self.count(middle) > self.count(high):
                    low = middle
                else:
                    top = middle
            yield low
            high = low
        yield smaller


def _bounded(piece: Piece, room: Polygon, gap_mm: float) -> int:
    return area_bound(room, [replace(piece, quantity=1)], gap_mm).pieces_at_most
