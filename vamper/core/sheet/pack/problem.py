"""The packing problem, the one who watches a search while it works, and which of two layouts is better."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import reduce
from operator import and_
from typing import Protocol

import numpy as np
from shapely.geometry import Polygon

from vamper.core.sheet.lay.turns import best_turn, turned_box
from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.pack.mode import MODES
from vamper.core.values.item import Turn
from vamper.core.values.packing import PackingSpec
from vamper.core.values.placement import Placement, Sheet

Rank = tuple[float, ...]


class Watch(Protocol):
    """Whoever waits for the packing: how long it may still take, and what it has found so far."""

    def seconds_left(self) -> float: ...

    def more(self, seconds: float, /) -> bool:
        """Ask for so much more time, where something is nearly found; whether it is granted."""
        ...

    def lost(self, seconds: float, /) -> float:
        """Told where the engine was kept from working for so long; how much of it is given back."""
        ...

    def better(self, layout: Layout) -> None: ...


@dataclass(frozen=True, slots=True)
class PackProblem:
    """Pieces for sheets that all have the same live area.

    Parameters
    ----------
    pieces : tuple of Piece
        What is to lie, with its number.
    live : Polygon
        Where pieces may lie, mm, sheet frame.
    spec : PackingSpec
        Gap, turns and the most sheets.
    seed : int
        Of the search's random draws.
    first_live : Polygon or None
        The first sheet's live area, where that sheet was used before.
    held : tuple of Sheet
        Pieces that lie where they are; they count as pieces of their item.
    """

    pieces: tuple[Piece, ...]
    live: Polygon
    spec: PackingSpec
    seed: int = 1
    first_live: Polygon | None = None
    held: tuple[Sheet, ...] = ()

    @property
    def by_item(self) -> dict[int, Piece]:
        return {piece.item: piece for piece in self.pieces}

    @property
    def filling(self) -> bool:
        """Whether extra copies are wanted in what space is left."""
        return self.spec.fill and any(piece.fill_priority is not None for piece in self.pieces)

    def live_of(self, sheet: int) -> Polygon:
        """The live area of a sheet, counted from 0."""
        return self.first_live if sheet == 0 and self.first_live is not None else self.live

    def held_on(self, sheet: int) -> Sheet:
        return self.held[sheet] if sheet < len(self.held) else ()

    @property
    def held_sheets(self) -> int:
        """How many sheets the held pieces reach over."""
        return len(self.held)

    @property
    def held_counts(self) -> Counter[int]:
        """How many pieces of each item are held."""
        return Counter(one.item for sheet in self.held for one in sheet)

    def rank(self, layout: Layout) -> Rank:
        """Greater is better: equal sheets where kits are wanted, most wanted pieces, most of their area, fewest sheets,
        most area of extra copies, and the widest strip left on the last sheet.
        """
        by_item = self.by_item
        wanted = Counter({piece.item: piece.quantity for piece in self.pieces})
        placed_of = Counter(placement.item for sheet in layout.sheets for placement in sheet)
        got = wanted & placed_of
        area = sum(by_item[item].area_mm2 * count for item, count in got.items())
        extra = sum(by_item[item].area_mm2 * count for item, count in (placed_of - wanted).items())
        left = strip_left(layout.sheets[-1], by_item, self.live) if layout.sheets else 0.0
        even = MODES[self.spec.mode].even and _shared_out(layout) >= got.total()
        return even, got.total(), round(area, 3), -len(layout.sheets), round(extra, 3), round(left, 1)


def _shared_out(layout: Layout) -> int:
    """Pieces in the largest set that every sheet holds, on all sheets together."""
    kits = [Counter(one.item for one in sheet) for sheet in layout.sheets]
    return reduce(and_, kits).total() * len(kits) if kits else 0


def strip_left(sheet: Sequence[Placement], by_item: dict[int, Piece], live: Polygon) -> float:
    """The area of the widest strip, from side to side of the live area, that no piece reaches into."""
    left, top, right, bottom = live.bounds
    if not sheet:
        return (right - left) * (bottom - top)
    hulls = {number: by_item[number].edge.convex_hull for number in {one.item for one in sheet}}
    boxes = np.array([turned_box(hulls[one.item], one.turn_deg) for one in sheet])
    where = np.array([(one.x_mm, one.y_mm) for one in sheet])
    low, high = (boxes[:, :2] + where).min(axis=0), (boxes[:, 2:] + where).max(axis=0)
    across = max(low[0] - left, right - high[0]) * (bottom - top)
    down = max(low[1] - top, bottom - high[1]) * (right - left)
    return float(max(across, down, 0.0))


def fits_alone(piece: Piece, live: Polygon, turn: Turn) -> bool:
    """Whether one piece fits the live area's box in some allowed turn."""
    left, top, right, bottom = live.bounds
    west, north, east, south = piece.edge.bounds
    # Nearly everything fits as it was drawn; only the rest is turned about.
    as_it_is = east - west <= right - left and south - north <= bottom - top
    return as_it_is or best_turn(piece.edge, (right - left, bottom - top), piece.turn or turn)[1] <= 1e-6
