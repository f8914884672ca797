"""Pieces that go into the holes of others: the engine knows no holes, so they are left out of what it is asked."""

from collections import Counter

from shapely.geometry import Polygon

from vamper.core.sheet.lay.free_space import FreeSpace, cell_for, filled_up
from vamper.core.sheet.layout import Piece, gap_between
from vamper.core.sheet.pack.search.run import SearchRun
from vamper.core.values.geometry import grow, hole_polygons, parts


class HoleGuests:
    """Finds the pieces that the holes of a group take, the largest pieces first; each kind of hole is filled once."""

    def __init__(self, run: SearchRun) -> None:
        self._run = run
        self._holes = {item: hole_polygons(piece.edge) for item, piece in run.by_item.items()}
        self._known: dict[tuple[int, int, frozenset[int]], Counter[int]] = {}

    def of(self, group: Counter[int]) -> Counter[int]:
        """The pieces of a group that its own holes take."""
        guests: Counter[int] = Counter()
        for host in sorted(group, key=lambda item: -self._run.areas[item]):
            for number, hole in enumerate(self._holes[host]):
                for _ in range(group[host]):
                    waiting = group - guests
                    guests += self._in(host, number, hole, frozenset(waiting) - {host}) & waiting
        return guests

    def _in(self, host: int, number: int, hole: Polygon, waiting: frozenset[int]) -> Counter[int]:
        key = host, number, waiting
        if key not in self._known:
            run = self._run
            small = [run.by_item[item] for item in waiting if run.by_item[item].area_mm2 < hole.area]
            self._known[key] = self._filled(run.by_item[host], hole, sorted(small, key=lambda one: -one.area_mm2))
        return self._known[key]

    def _filled(self, host: Piece, hole: Polygon, pieces: list[Piece]) -> Counter[int]:
        spec = self._run.problem.spec
        guests: Counter[int] = Counter()
        gap = max((gap_between(host, piece, spec.gap_mm) for piece in pieces), default=0.0)
        for live in parts(grow(hole, -gap)) if pieces else []:
            space = FreeSpace(live, spec.gap_mm, spec.turn, cell_for(pieces))
            copies = [piece for piece in pieces for _ in range(int(live.area // piece.area_mm2))]
            guests.update(one.item for one in filled_up(space, copies)[0])
        return guests
