"""What all attempts of one search share: the pieces as the engine is given them, the best layout so far, the clock."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from shapely.geometry import MultiPolygon, Polygon

from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.lay.free_space import filled_up
from vamper.core.sheet.lay.turns import best_turn
from vamper.core.sheet.layout import THROUGH_GAP_MM, Layout, Piece, Unplaced, WhyNot, gap_between
from vamper.core.sheet.pack.area_bound import AreaBound
from vamper.core.sheet.pack.lattice import Lattice
from vamper.core.sheet.pack.nesting import (
    SLACK_MM,
    Attempt,
    Nester,
    NestRequest,
    NestShape,
    NestSolution,
    nest_points,
    window,
)
from vamper.core.sheet.pack.problem import PackProblem, Rank, Watch, fits_alone
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.sheet.pack.search.promise import Progress, likely_fill
from vamper.core.sheet.pack.sheet_region import SheetRegion, region_of, space_on
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import grow, hole_polygons
from vamper.core.values.placement import Placement, Sheet

# Share of a sheet's room that irregular pieces fill quickly, and that nobody has seen them exceed.
EASY_FILL = 0.72
HOPELESS_FILL = 0.93
# Of the time that is left, what one attempt may take.
ATTEMPT_SHARE = 0.6
LEAST_ATTEMPT_S = 0.25
# What parts the seeds of one search.
ODD = 7919


class SearchRun:
    """One run of the search."""

    def __init__(self, problem: PackProblem, nester: Nester, watch: Watch) -> None:
        self.problem = problem
        self.nester = nester
        self.watch = watch
        spec = problem.spec
        held = problem.held_counts
        fitting = {p.item for p in problem.pieces if fits_alone(p, problem.live, spec.turn) or held[p.item]}
        self.pieces = tuple(p for p in problem.pieces if p.quantity and p.item in fitting)
        self.too_big = tuple(p for p in problem.pieces if p.quantity and p.item not in fitting)
        self.by_item = {piece.item: piece for piece in self.pieces}
        self.wanted = Counter({p.item: p.quantity for p in self.pieces})
        self.free = Counter({p.item: max(0, p.quantity - held[p.item]) for p in self.pieces})
        # The engine knows one separation; what needs more goes in grown.
        self.separation = min((gap_between(piece, piece, spec.gap_mm) for piece in self.pieces), default=spec.gap_mm)
        self.points = {piece.item: nest_points(piece.edge, self.growth(piece)) for piece in self.pieces}
        self.outlines = {item: np.asarray(points) for item, points in self.points.items()}
        self.room = grow(problem.live, self.separation / 2).area
        self.areas = {item: grow(Polygon(points), self.separation / 2).area for item, points in self.points.items()}
        # Into the hole of a ring go other pieces.
        self.solid_areas = {
            piece.item: self.areas[piece.item]
            - sum(grow(hole, -self.separation / 2).area for hole in hole_polygons(piece.edge))
            for piece in self.pieces
        }
        self.grounds = [region_of(problem, n) for n in range(max(problem.held_sheets, problem.first_live is not None))]
        self.plain = region_of(replace(problem, held=(), first_live=None), 0)
        self.lattices: dict[tuple[int, tuple[float, ...]], Lattice | None] = {}
        self.best: Layout | None = None
        self.best_rank: Rank = ()
        self.clocked = False

    def growth(self, piece: Piece) -> float:
        """How much a piece is grown to keep what it needs beyond the separation.

        Bleeds add up, so each piece brings its own over half of the separation. The web beside a through cut is
        brought by halves among through cuts, and whole by it where there are kiss cuts, which bring none.
        """
        web = 0.0
        if piece.cut is Cut.THROUGH:
            mixed = any(other.cut is Cut.KISS for other in self.pieces)
            web = (THROUGH_GAP_MM - self.separation) * (1.0 if mixed else 0.5)
        return max(0.0, web, piece.bleed_mm - self.separation / 2)

    def is_complete(self, layout: Layout) -> bool:
        return not any(unplaced.reason is WhyNot.NO_ROOM for unplaced in layout.unplaced)

    def improvable(self, bound: AreaBound) -> bool:
        """Whether areas leave room for fewer sheets or more pieces than the best layout has."""
        assert self.best is not None
        return not self.is_complete(self.best) or len(self.best.sheets) > bound.sheets_at_least

    def hopeless(self, sheets: int, fill: float = HOPELESS_FILL) -> bool:
        """Whether all pieces would fill so many sheets more than is ever seen."""
        total = sum(self.solid_areas[piece.item] * piece.quantity for piece in self.pieces)
        return total > fill * self.room * sheets

    def slice(self, share: float = ATTEMPT_SHARE) -> float:
        left = self.watch.seconds_left()
        return left if left < 2 * LEAST_ATTEMPT_S else max(LEAST_ATTEMPT_S, share * left)

    def largest_first(self, counts: Counter[int]) -> list[int]:
        return sorted(counts.elements(), key=lambda item: (-self.areas[item], item))

    def load_of(self, items: Sequence[int]) -> float:
        return sum(self.areas[item] for item in items)

    def solid_load_of(self, items: Sequence[int]) -> float:
        return sum(self.solid_areas[item] for item in items)

    def fullness(self, items: Sequence[int]) -> tuple[int, float]:
        """How full a sheet is with these: more pieces first, then more of their area."""
        return len(items), round(self.solid_load_of(items), 3)

    def likely_fill(self, counts: Counter[int], in_s: float) -> float:
        """The share of a sheet's room that pieces like these are likely to fill in so many seconds."""
        half = self.separation / 2
        return likely_fill([(grow(Polygon(self.points[item]), half), n) for item, n in counts.items() if n], in_s)

    def easy_count(self, order: list[int]) -> int:
        loads = np.cumsum([self.areas[item] for item in order])
        return max(1, int(np.searchsorted(loads, EASY_FILL * self.room)))

    def topped_up(self, ground: SheetRegion, sheet: Sheet, rest: Counter[int]) -> Sheet:
        """`sheet` with as many of `rest` in its free space as go in, the largest first."""
        used = self.solid_load_of([one.item for one in (*ground.held, *sheet)])
        room = HOPELESS_FILL * grow(ground.live, self.separation / 2).area - used
        order = [item for item in self.largest_first(+rest) if self.solid_areas[item] <= room]
        if not order or self.given_up():
            return sheet
        space = space_on(self.problem, ground, sheet)
        added, _ = filled_up(space, [self.by_item[item] for item in order], self.given_up)
        return (*sheet, *added)

    def nested(
        self,
        group: Counter[int],
        ground: SheetRegion,
        seconds: float,
        before: list[Sheet] | None,
        whole: Progress | None = None,
        seed: int = 0,
    ) -> Sheet:
        """The most of `group` that the engine laid inside one sheet's room. Ends as soon as that is all of it; where
        its progress is noted in `whole`, also as soon as all of it is out of reach.

        Better layouts are shown on the way, after the sheets `before`; with None they are not.
        """
        request = self.request(group, ground)
        request = replace(request, seed=(request.seed + ODD * seed) % 2**31)
        found: list[Sheet] = [()]
        begun_with_s = self.watch.seconds_left()

        def look(solution: NestSolution) -> bool:
            if whole is not None:
                whole.reached(solution.stretch, begun_with_s - self.watch.seconds_left())
            if self.lies(request, solution) <= len(found[0]):
                return self.given_up()
            sheet = self.accepted(request, solution)
            if len(sheet) > len(found[0]):
                found[0] = sheet
                if ground.is_bare and before is not None:
                    rest = self.wanted - Counter(p.item for s in (*before, sheet) for p in s)
                    self.offer((*before, sheet, *self.in_rows(rest, len(before) + 1)))
            return len(found[0]) == group.total() or self.given_up()

        def tired() -> bool:
            after_s = begun_with_s - self.watch.seconds_left()
            return whole is not None and (whole.out_of_reach(after_s) or whole.is_stale(after_s))

        if seconds > 0 and request.shapes:
            self.nester.race(
                [iter([Attempt(request, seconds, look, self.nester.cores, tired, self.watch.lost)])], self.given_up
            )
        return found[0]

    def given_up(self) -> bool:
        return self.watch.seconds_left() <= 0

    def request(self, group: Counter[int], ground: SheetRegion) -> NestRequest:
        left, top, right, bottom = ground.room.bounds
        turn = self.problem.spec.turn
        shapes = tuple(
            NestShape(item, self.points[item], group[item], self.by_item[item].turn or turn)
            for item in sorted(group)
            if group[item] and self.fits_room(item, ground.room)
        )
        return NestRequest(shapes, left, top, right - left, bottom - top, self.separation, self.problem.seed)

    def fits_room(self, item: int, room: Polygon) -> bool:
        """Whether an item as the engine is given it fits a rectangle: the engine breaks off where one does not."""
        left, top, right, bottom = room.bounds
        size = right - left - 2 * SLACK_MM, bottom - top - 2 * SLACK_MM
        outline = MultiPolygon([Polygon(self.points[item])])
        return best_turn(outline, size, self.by_item[item].turn or self.problem.spec.turn)[1] <= 0

    def accepted(self, request: NestRequest, solution: NestSolution) -> Sheet:
        """The placements of a solution that lie on the sheet and keep every rule, checked on the edges themselves."""
        return self.kept(window(request, solution, self.outlines))

    def lies(self, request: NestRequest, solution: NestSolution) -> int:
        """How many of a solution lie on the sheet, before they are checked exactly."""
        return len(window(request, solution, self.outlines))

    def kept(self, placements: Sequence[Placement]) -> Sheet:
        # The engine's own rounding can leave a pair a hair too near; what breaks a rule is not kept.
        sheet = list(placements)
        while broken := breaches(sheet, self.by_item, self.problem.live, self.problem.spec.gap_mm):
            worst = Counter(n for breach in broken for n in (breach.first, breach.second) if n is not None)
            del sheet[worst.most_common(1)[0][0]]
        return tuple(sheet)

    def in_rows(self, rest: Counter[int], used_sheets: int) -> tuple[Sheet, ...]:
        limit = self.problem.spec.max_sheets
        if not rest.total() or (limit is not None and used_sheets >= limit):
            return ()
        pieces = [replace(self.by_item[item], quantity=count) for item, count in rest.items() if count]
        spec = self.problem.spec
        return rows_of_boxes(
            pieces, self.plain.room, spec.gap_mm, spec.turn, None if limit is None else limit - used_sheets
        )

    def offer(self, sheets: tuple[Sheet, ...]) -> None:
        """Keep and show these sheets if they beat the best so far."""
        layout = self.layout(sheets, time_limited=True)
        rank = self.problem.rank(layout)
        if self.best is None or rank > self.best_rank:
            self.best, self.best_rank = layout, rank
            self.watch.better(layout)

    def layout(self, sheets: tuple[Sheet, ...], time_limited: bool) -> Layout:
        placed = Counter(placement.item for sheet in sheets for placement in sheet)
        unplaced = [Unplaced(piece.item, piece.quantity, WhyNot.TOO_BIG) for piece in self.too_big]
        unplaced += [
            Unplaced(piece.item, piece.quantity - placed[piece.item], WhyNot.NO_ROOM)
            for piece in self.pieces
            if placed[piece.item] < piece.quantity
        ]
        return Layout(sheets, tuple(sorted(unplaced, key=lambda u: u.item)), time_limited)

    def settle(self, sheets: tuple[Sheet, ...]) -> Layout:
        """A layout that needs no search to be the best."""
        layout = self.layout(sheets, time_limited=False)
        self.watch.better(layout)
        return layout

    def finished(self) -> Layout:
        assert self.best is not None
        layout = self.layout(self.best.sheets, time_limited=self.clocked)
        self.watch.better(layout)
        return layout

    def sheets_of_best(self) -> int:
        assert self.best is not None
        complete = self.is_complete(self.best)
        return len(self.best.sheets) - 1 if complete else (self.problem.spec.max_sheets or len(self.best.sheets))
