"""A laid sheet: its pieces with their edges where they lie, worked out once for everybody who asks.

The frame is that of the finished piece; whoever prints or cuts a mirrored sheet turns it over.
"""

from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.edge.edge import THIN_MM
from vamper.core.sheet.layout import THROUGH_GAP_MM, Layout
from vamper.core.sheet.live_area import LiveArea
from vamper.core.sheet.offcut import Rectangle, largest_offcut
from vamper.core.values.placement import Placement, Sheet

# The nearest pair is looked for within this distance first; so many are measured at most.
_FIRST_REACH_MM = THROUGH_GAP_MM / 2
_EXACT_PAIRS = 8


def placed_edges(sheet: Sequence[Placement], edges: Mapping[int, MultiPolygon]) -> tuple[MultiPolygon, ...]:
    """The edges of a sheet's pieces where they lie: all pieces of a design are turned and moved at once."""
    found = np.empty(len(sheet), dtype=object)
    items = np.array([one.item for one in sheet])
    where = np.array([(one.x_mm, one.y_mm) for one in sheet])
    turns = np.radians([one.turn_deg for one in sheet])
    for item in dict.fromkeys(items.tolist()):
        mine = np.flatnonzero(items == item)
        points = shapely.get_coordinates(edges[item])
        u, v = points[:, 0], points[:, 1]
        cos, sin = np.cos(turns[mine])[:, None], np.sin(turns[mine])[:, None]
        x = cos * u + -sin * v + where[mine, :1]
        y = sin * u + cos * v + where[mine, 1:]
        copies = np.repeat(np.array([edges[item]], dtype=object), len(mine))
        found[mine] = shapely.set_coordinates(copies, np.stack([x, y], axis=-1).reshape(-1, 2))
    return tuple(found.tolist())


@dataclass(frozen=True, eq=False)
class PlacedPieces:
    """Pieces with their edges where they lie, one by one, and what only depends on these. `designs` are the edges of
    their designs, `thin` the same with few points, for what need not be exact.
    """

    placements: Sheet
    edges: tuple[MultiPolygon, ...]
    designs: Mapping[int, MultiPolygon]
    thin: Mapping[int, MultiPolygon]
    _offcuts: dict[tuple[bytes, float], Rectangle] = field(default_factory=dict)

    def is_of(self, edges: Mapping[int, MultiPolygon]) -> bool:
        """Whether these very edges lie here."""
        return all(edges.get(number) is self.designs[number] for number in self.counts)

    def offcut(self, live: Polygon, gap_mm: float) -> Rectangle:
        """The largest rectangle of a live area that no piece reaches into."""
        key = (live.wkb, gap_mm)
        if key not in self._offcuts:
            thin = placed_edges(self.placements, self.thin)
            self._offcuts[key] = largest_offcut(live, thin, gap_mm + THIN_MM)
        return self._offcuts[key]

    @cached_property
    def counts(self) -> Counter[int]:
        return Counter(one.item for one in self.placements)

    @cached_property
    def area_mm2(self) -> float:
        return float(shapely.area(np.array(self.edges, dtype=object)).sum())

    @cached_property
    def nearest_mm(self) -> float | None:
        """The least distance between two pieces, None for fewer than two."""
        return nearest_mm(self.edges, placed_edges(self.placements, self.thin))


@dataclass(frozen=True, eq=False)
class LaidSheet:
    """One sheet of a layout. `number` counts from 0; equal sheets share what lies on them."""

    number: int
    lying: PlacedPieces
    live: LiveArea

    @property
    def placements(self) -> Sheet:
        return self.lying.placements

    @property
    def edges(self) -> tuple[MultiPolygon, ...]:
        return self.lying.edges

    @property
    def counts(self) -> Counter[int]:
        return self.lying.counts

    @property
    def used_share(self) -> float:
        """Share of the live area that the edges cover."""
        return self.lying.area_mm2 / self.live.area_mm2

    @property
    def nearest_mm(self) -> float | None:
        """The least distance between two pieces, None for fewer than two."""
        return self.lying.nearest_mm

    def offcut(self, gap_mm: float) -> Rectangle:
        """The largest rectangle that no piece reaches into."""
        return self.lying.offcut(self.live.shape, gap_mm)


def lay(
    layout: Layout,
    edges: Mapping[int, MultiPolygon],
    live_of: Callable[[int], LiveArea],
    thin: Mapping[int, MultiPolygon] | None = None,
    before: Iterable[LaidSheet] = (),
) -> tuple[LaidSheet, ...]:
    """All sheets of a layout. `thin` are the edges with few points, where they are known; what lies as it did `before`
    is not worked out again.
    """
    if thin is None:
        thin = {number: shapely.simplify(edge, THIN_MM) for number, edge in edges.items()}
    known = {sheet.placements: sheet.lying for sheet in before if sheet.lying.is_of(edges)}
    for sheet in dict.fromkeys(layout.sheets):
        if sheet not in known:
            known[sheet] = PlacedPieces(sheet, placed_edges(sheet, edges), edges, thin)
    return tuple(LaidSheet(number, known[sheet], live_of(number)) for number, sheet in enumerate(layout.sheets))


def nearest_mm(shapes: Sequence[BaseGeometry], thinned: Sequence[BaseGeometry]) -> float | None:
    """The least distance between two of `shapes` (placed edges), to a few hundredths; None for fewer than two.

    Exact distances are dear. The same shapes `thinned` out, off by less than `THIN_MM` each, tell which few pairs are
    worth one; they are looked for near first, and farther only as long as nobody is there.
    """
    if len(shapes) < 2:
        return None
    pieces, thin = np.array(shapes, dtype=object), np.array(thinned, dtype=object)
    tree = shapely.STRtree(thin)
    reach = _FIRST_REACH_MM
    while True:
        first, second = tree.query(thin, predicate="dwithin", distance=reach)
        pairs = np.column_stack([first, second])[first < second]
        if len(pairs):
            about = shapely.distance(thin[pairs[:, 0]], thin[pairs[:, 1]])
            order = np.argsort(about, kind="stable")[:_EXACT_PAIRS]
            # Others are farther however the thinned out shapes err.
            near = pairs[order[about[order] <= about[order[0]] + 4 * THIN_MM]]
            return float(shapely.distance(pieces[near[:, 0]], pieces[near[:, 1]]).min())
        reach *= 2
