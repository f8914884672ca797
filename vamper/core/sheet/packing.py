"""Packing: all wanted pieces on the fewest sheets, or as many as possible on the sheets allowed.

The first layout is plain rows of boxes, there at once. If areas prove that no fewer sheets can do, that is the end.
Otherwise the nesting engine tries all pieces on fewer sheets; where that fails it fills sheet after sheet: each is
offered a little more than it will hold, what lies inside the sheet is kept, and the rest moves on. Every layout is
checked exactly before it counts, and every better one is shown.

The search ends by itself where the fewest sheets are proven or reached by the engine's own first answers; those are
the same from run to run. Where it had to be ended by the clock or by a person, the layout says so (`time_limited`).
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np
from shapely.geometry import Polygon

from vamper.core.geometry import grow
from vamper.core.job import Cut, PackingSpec, Turn
from vamper.core.sheet.bound import AreaBound, area_bound
from vamper.core.sheet.layout import THROUGH_GAP_MM, Layout, Piece, Placement, Unplaced, WhyNot, breaches, gap_between
from vamper.core.sheet.nesting import Nester, NestRequest, NestShape, NestSolution, inside, nest_points
from vamper.core.sheet.rows import rows_of_boxes
from vamper.core.sheet.turns import best_turn, boxes_at, turns_of

# Share of a sheet's room that irregular pieces fill quickly, and that nobody has seen them exceed.
EASY_FILL = 0.72
HOPELESS_FILL = 0.93
# Of the time that is left, what one attempt may take.
_ATTEMPT_SHARE = 0.6
_LEAST_ATTEMPT_S = 0.25

Sheet = tuple[Placement, ...]


class Watch(Protocol):
    """Whoever waits for the packing: how long it may still take, and what it has found so far."""

    def seconds_left(self) -> float: ...

    def better(self, layout: Layout) -> None: ...


@dataclass(frozen=True, slots=True)
class PackProblem:
    """Pieces for sheets that all have the same live area."""

    pieces: tuple[Piece, ...]
    live: Polygon
    spec: PackingSpec
    seed: int = 1

    @property
    def by_item(self) -> dict[int, Piece]:
        return {piece.item: piece for piece in self.pieces}

    def rank(self, layout: Layout) -> tuple[float, ...]:
        """Greater is better: most pieces, then most area, then fewest sheets, then the emptiest last sheet."""
        by_item = self.by_item
        areas = [sum(by_item[placement.item].area_mm2 for placement in sheet) for sheet in layout.sheets]
        return layout.pieces, round(sum(areas), 3), -len(areas), -(areas[-1] if areas else 0.0)


def pack(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
    """The best layout found; `watch` has seen it and every lesser one before it.

    See Also
    --------
    vamper.core.sheet.rows.rows_of_boxes : the first layout.
    vamper.core.sheet.nesting : what the engine is asked.
    """
    return _Search(problem, nester, watch).run()


def fits_alone(piece: Piece, live: Polygon, turn: Turn) -> bool:
    """Whether one piece fits the live area in some allowed turn."""
    left, top, right, bottom = live.bounds
    return best_turn(piece.edge, (right - left, bottom - top), turn)[1] <= 1e-6


def largest_fitting_scale(piece: Piece, live: Polygon, turn: Turn) -> float:
    """The scale (below 1 for a piece that is too big) at which the piece just fits in its best turn."""
    left, top, right, bottom = live.bounds
    room = np.array([right - left, bottom - top])
    return float((room / boxes_at(piece.edge, turns_of(turn))).min(axis=1).max())


class _Search:
    """One run of the search; holds what all attempts share."""

    def __init__(self, problem: PackProblem, nester: Nester, watch: Watch) -> None:
        self.problem = problem
        self.nester = nester
        self.watch = watch
        spec = problem.spec
        turn, gap = spec.turn, spec.gap_mm
        self.pieces = tuple(p for p in problem.pieces if p.quantity and fits_alone(p, problem.live, turn))
        self.too_big = tuple(p for p in problem.pieces if p.quantity and p not in self.pieces)
        self.by_item = {piece.item: piece for piece in self.pieces}
        # The engine knows one separation; what needs more goes in grown.
        self.separation = min((gap_between(piece, piece, gap) for piece in self.pieces), default=gap)
        self.points = {piece.item: nest_points(piece.edge, self._growth(piece)) for piece in self.pieces}
        self.room = grow(problem.live, self.separation / 2).area
        self.areas = {item: grow(Polygon(points), self.separation / 2).area for item, points in self.points.items()}
        self.best: Layout | None = None
        self.clocked = False

    def _growth(self, piece: Piece) -> float:
        """How much a piece is grown to keep what it needs beyond the separation.

        Bleeds add up, so each piece brings its own over half of the separation. The web beside a through cut is
        brought by halves among through cuts, and whole by it where there are kiss cuts, which bring none.
        """
        web = 0.0
        if piece.cut is Cut.THROUGH:
            mixed = any(other.cut is Cut.KISS for other in self.pieces)
            web = (THROUGH_GAP_MM - self.separation) * (1.0 if mixed else 0.5)
        return max(0.0, web, piece.bleed_mm - self.separation / 2)

    def run(self) -> Layout:
        problem, spec = self.problem, self.problem.spec
        if not self.pieces:
            return self._settle(())
        bound = area_bound(problem.live, self.pieces, spec.gap_mm)
        rows = rows_of_boxes(self.pieces, problem.live, spec.gap_mm, spec.turn, spec.max_sheets)
        self._offer(rows)
        if not self._improvable(bound):
            return self._settle(rows)
        allowed = spec.max_sheets or len(rows) + 1
        for count in range(bound.sheets_at_least, min(allowed, self._sheets_of_best()) + 1):
            if self._hopeless(count) or not self._improvable(bound):
                continue
            if self._all_on(count):
                return self._finished()
            self.clocked = True
        self._fill_one_by_one(allowed)
        return self._finished()

    def _wanted(self) -> Counter[int]:
        return Counter({piece.item: piece.quantity for piece in self.pieces})

    def _sheets_of_best(self) -> int:
        assert self.best is not None
        complete = self.best.pieces == self._wanted().total()
        return len(self.best.sheets) - 1 if complete else (self.problem.spec.max_sheets or len(self.best.sheets))

    def _improvable(self, bound: AreaBound) -> bool:
        """Whether areas leave room for fewer sheets or more pieces than the best layout has."""
        assert self.best is not None
        if self.best.pieces < self._wanted().total():
            return True
        return len(self.best.sheets) > bound.sheets_at_least

    def _hopeless(self, sheets: int) -> bool:
        total = sum(self.areas[piece.item] * piece.quantity for piece in self.pieces)
        return total > HOPELESS_FILL * self.room * sheets

    def _slice(self, share: float = _ATTEMPT_SHARE) -> float:
        left = self.watch.seconds_left()
        return left if left < 2 * _LEAST_ATTEMPT_S else max(_LEAST_ATTEMPT_S, share * left)

    def _all_on(self, count: int) -> bool:
        """Try to lay everything on exactly `count` sheets, areas shared out evenly."""
        sheets: list[Sheet] = []
        for number, group in enumerate(self._dealt(count)):
            if self.watch.seconds_left() <= 0:
                return False
            sheet = self._nested(group, self._slice(_ATTEMPT_SHARE / (count - number)), sheets)
            if len(sheet) < group.total():
                return False
            sheets.append(sheet)
        self._offer(tuple(sheets))
        return True

    def _dealt(self, count: int) -> list[Counter[int]]:
        """The pieces dealt to `count` sheets, largest first, each to the sheet with the most room."""
        loads = [0.0] * count
        groups: list[Counter[int]] = [Counter() for _ in range(count)]
        for item in self._largest_first(self._wanted()):
            target = loads.index(min(loads))
            groups[target][item] += 1
            loads[target] += self.areas[item]
        return groups

    def _largest_first(self, counts: Counter[int]) -> list[int]:
        return sorted(counts.elements(), key=lambda item: (-self.areas[item], item))

    def _fill_one_by_one(self, allowed: int) -> None:
        """Sheet after sheet as full as it gets; what is left over lies in rows of boxes on the next ones."""
        limited = self.problem.spec.max_sheets is not None
        remaining = self._wanted()
        sheets: list[Sheet] = []
        while remaining.total() and len(sheets) < allowed and self.watch.seconds_left() > 0:
            order = self._largest_first(remaining)
            if limited:
                # With sheets short, most pieces count: the small ones first.
                order.reverse()
            sheet = self._filled(order, sheets, self._slice(1.0 / (allowed - len(sheets))))
            if not sheet:
                break
            sheets.append(sheet)
            remaining -= Counter(placement.item for placement in sheet)
            self._offer((*sheets, *self._in_rows(remaining, len(sheets))))
        if remaining.total():
            self.clocked = True

    def _filled(self, order: list[int], before: list[Sheet], seconds: float) -> Sheet:
        """One sheet filled from `order`: an easy load first, then one or two pieces more as long as they go in."""
        stop_at = self.watch.seconds_left() - seconds
        count = self._easy_count(order)
        best: Sheet = ()
        while count <= len(order):
            left = self.watch.seconds_left() - stop_at
            if left <= 0 or self._load(order[:count]) > HOPELESS_FILL * self.room:
                self.clocked = True
                break
            sheet = self._nested(Counter(order[:count]), left if best else max(left, _LEAST_ATTEMPT_S), before)
            if len(sheet) > len(best):
                best = sheet
            if len(sheet) < count:
                self.clocked = True
                break
            count += 2 if self._load(order[: count + 2]) < EASY_FILL * self.room else 1
        return best

    def _load(self, items: Sequence[int]) -> float:
        return sum(self.areas[item] for item in items)

    def _easy_count(self, order: list[int]) -> int:
        loads = np.cumsum([self.areas[item] for item in order])
        return max(1, int(np.searchsorted(loads, EASY_FILL * self.room)))

    def _nested(self, group: Counter[int], seconds: float, before: list[Sheet]) -> Sheet:
        """The most of `group` that the engine laid inside one sheet; ends as soon as that is all of it."""
        request = self._request(group)
        found: list[Sheet] = [()]

        def look(solution: NestSolution) -> bool:
            sheet = self._accepted(request, solution)
            if len(sheet) > len(found[0]):
                found[0] = sheet
                rest = self._wanted() - Counter(p.item for s in (*before, sheet) for p in s)
                self._offer((*before, sheet, *self._in_rows(rest, len(before) + 1)))
            return len(found[0]) == group.total() or self._given_up()

        if seconds > 0:
            self.nester.nest(request, seconds, look, self._given_up)
        return found[0]

    def _given_up(self) -> bool:
        return self.watch.seconds_left() <= 0

    def _request(self, group: Counter[int]) -> NestRequest:
        left, top, right, bottom = self.problem.live.bounds
        shapes = tuple(NestShape(item, self.points[item], group[item]) for item in sorted(group) if group[item])
        return NestRequest(
            shapes,
            left,
            top,
            right - left,
            bottom - top,
            self.separation,
            self.problem.spec.turn,
            self.problem.seed,
        )

    def _accepted(self, request: NestRequest, solution: NestSolution) -> Sheet:
        """The placements of a solution that lie on the sheet and keep every rule, checked on the edges themselves."""
        polygons = {item: Polygon(points) for item, points in self.points.items()}
        sheet = [p for p in solution.placements if solution.complete or inside(request, p, polygons[p.item])]
        # The engine's own rounding can leave a pair a hair too near; what breaks a rule is not kept.
        while broken := breaches(sheet, self.by_item, self.problem.live, self.problem.spec.gap_mm):
            worst = Counter(n for breach in broken for n in (breach.first, breach.second) if n is not None)
            del sheet[worst.most_common(1)[0][0]]
        return tuple(sheet)

    def _in_rows(self, rest: Counter[int], used_sheets: int) -> tuple[Sheet, ...]:
        limit = self.problem.spec.max_sheets
        if not rest.total() or (limit is not None and used_sheets >= limit):
            return ()
        pieces = [replace(self.by_item[item], quantity=count) for item, count in rest.items() if count]
        spec = self.problem.spec
        return rows_of_boxes(
            pieces, self.problem.live, spec.gap_mm, spec.turn, None if limit is None else limit - used_sheets
        )

    def _offer(self, sheets: tuple[Sheet, ...]) -> None:
        """Keep and show these sheets if they beat the best so far."""
        layout = self._layout(sheets, time_limited=True)
        if self.best is None or self.problem.rank(layout) > self.problem.rank(self.best):
            self.best = layout
            self.watch.better(layout)

    def _layout(self, sheets: tuple[Sheet, ...], time_limited: bool) -> Layout:
        placed = Counter(placement.item for sheet in sheets for placement in sheet)
        unplaced = [Unplaced(piece.item, piece.quantity, WhyNot.TOO_BIG) for piece in self.too_big]
        unplaced += [
            Unplaced(piece.item, piece.quantity - placed[piece.item], WhyNot.NO_ROOM)
            for piece in self.pieces
            if placed[piece.item] < piece.quantity
        ]
        return Layout(sheets, tuple(sorted(unplaced, key=lambda u: u.item)), time_limited)

    def _settle(self, sheets: tuple[Sheet, ...]) -> Layout:
        """A layout that needs no search to be the best."""
        layout = self._layout(sheets, time_limited=False)
        self.watch.better(layout)
        return layout

    def _finished(self) -> Layout:
        assert self.best is not None
        layout = self._layout(self.best.sheets, time_limited=self.clocked)
        self.watch.better(layout)
        return layout
