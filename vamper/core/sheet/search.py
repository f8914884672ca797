"""The search for a mixed layout: all wanted pieces on the fewest sheets, or as many as go on the sheets allowed.

The first layout is plain rows of boxes, there at once; where all pieces are equal, a lattice joins it. If areas prove
that no fewer sheets can do, only the last sheet is still made compact. Otherwise the nesting engine tries all pieces on
fewer sheets; where that fails it fills sheet after sheet: each is offered a little more than it will hold, what lies
inside the sheet is kept, single pieces are put into what is left, and the rest moves on. Sheets with held pieces,
notches or used-up parts come first: the engine packs their largest empty rectangle, and what is left of them is filled
piece by piece. Every layout is checked exactly before it counts, and every better one is shown.

The search ends by itself where the fewest sheets are proven or reached by the engine's own first answers; those are
the same from run to run. Where it had to be ended by the clock or by a person, the layout says so (`time_limited`).
"""

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from vamper.core.geometry import grow
from vamper.core.job import Cut
from vamper.core.sheet.bound import AreaBound, area_bound
from vamper.core.sheet.free_space import filled_up
from vamper.core.sheet.ground import Ground, ground_of, space_on
from vamper.core.sheet.lattice import Lattice, best_lattice
from vamper.core.sheet.layout import (
    THROUGH_GAP_MM,
    Layout,
    Piece,
    Placement,
    Unplaced,
    WhyNot,
    breaches,
    gap_between,
)
from vamper.core.sheet.nesting import SLACK_MM, Nester, NestRequest, NestShape, NestSolution, inside, nest_points
from vamper.core.sheet.problem import PackProblem, Rank, Sheet, Watch, fits_alone, strip_left
from vamper.core.sheet.rows import rows_of_boxes
from vamper.core.sheet.turns import best_turn

# Share of a sheet's room that irregular pieces fill quickly, and that nobody has seen them exceed.
EASY_FILL = 0.72
HOPELESS_FILL = 0.93
# Of the time that is left, what one attempt may take.
_ATTEMPT_SHARE = 0.6
# A lattice may take this much of what time there is.
_LATTICE_SHARE = 0.4
_LAST_SHARE = 0.94
# From so many sheets on they are dealt out at once: this full, in this share of the time.
_MANY_SHEETS = 3
_DEALT_FILL = 0.76
_DEAL_SHARE = 0.6
_DEALT_S = 2.0
_LEAST_DEALT_S = 0.8
_LEAST_ATTEMPT_S = 0.25
# A last sheet is made compact where this share of it could be had; and for no longer than this.
_WORTH_SHARE = 0.2
_COMPACT_S = 4.0
# A rectangle smaller than this share of what is free on a sheet is not worth the engine's time.
_WORTH_NESTING = 0.35


class Search:
    """One run of the search; holds what all attempts share."""

    def __init__(self, problem: PackProblem, nester: Nester, watch: Watch) -> None:
        self.problem = problem
        self.nester = nester
        self.watch = watch
        spec = problem.spec
        held = Counter(one.item for one in problem.held)
        fitting = {p.item for p in problem.pieces if fits_alone(p, problem.live, spec.turn) or held[p.item]}
        self.pieces = tuple(p for p in problem.pieces if p.quantity and p.item in fitting)
        self.too_big = tuple(p for p in problem.pieces if p.quantity and p.item not in fitting)
        self.by_item = {piece.item: piece for piece in self.pieces}
        self.wanted = Counter({p.item: p.quantity for p in self.pieces})
        self.free = Counter({p.item: max(0, p.quantity - held[p.item]) for p in self.pieces})
        # The engine knows one separation; what needs more goes in grown.
        self.separation = min((gap_between(piece, piece, spec.gap_mm) for piece in self.pieces), default=spec.gap_mm)
        self.points = {piece.item: nest_points(piece.edge, self._growth(piece)) for piece in self.pieces}
        self.room = grow(problem.live, self.separation / 2).area
        self.areas = {item: grow(Polygon(points), self.separation / 2).area for item, points in self.points.items()}
        self.grounds = [ground_of(problem, n) for n in range(max(problem.held_sheets, problem.first_live is not None))]
        self.plain = ground_of(replace(problem, held=(), first_live=None), 0)
        self.lattices: dict[tuple[int, tuple[float, ...]], Lattice | None] = {}
        self.best: Layout | None = None
        self.best_rank: Rank = ()
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
        spec = self.problem.spec
        if not self.pieces:
            return self._settle(())
        if not self.free.total():
            return self._settle(tuple(ground.held for ground in self.grounds))
        first = self._rows_everywhere()
        self._offer(first)
        if self.grounds or not self.plain.is_bare:
            return self._round_what_lies()
        bound = area_bound(self.problem.live, self.pieces, spec.gap_mm)
        if self._improvable(bound):
            self._offer(self._latticed())
        if self._improvable(bound):
            self._improve(bound)
        self._compact()
        return self._finished()

    # Bare sheets

    def _improve(self, bound: AreaBound) -> None:
        assert self.best is not None
        if self.problem.spec.max_sheets is None and bound.sheets_at_least >= _MANY_SHEETS:
            self._improve_many(bound)
            return
        allowed = self.problem.spec.max_sheets or len(self.best.sheets) + 1
        tried = [
            count
            for count in range(bound.sheets_at_least, min(allowed, self._sheets_of_best()) + 1)
            if not self._hopeless(count)
        ]
        for count in tried:
            if not self._improvable(bound):
                continue
            # Where nothing else is to be tried, the engine has nearly all of the time.
            last = count == tried[-1] and self.problem.spec.max_sheets == count
            if self._all_on(count, _LAST_SHARE if last else _ATTEMPT_SHARE):
                return
            self.clocked = True
        self._fill_one_by_one(allowed, (), self.free.copy())

    def _improve_many(self, bound: AreaBound) -> None:
        """Many sheets: deal the pieces out as full as engines get quickly, then try with one sheet fewer each time."""
        assert self.best is not None
        self.clocked = True
        load = self._load(list(self.free.elements()))
        stop_at = self.watch.seconds_left() * (1 - _DEAL_SHARE)
        self._deal_and_carry(max(bound.sheets_at_least, math.ceil(load / (_DEALT_FILL * self.room))), stop_at)
        while self._improvable(bound) and not self._given_up():
            fewer = len(self.best.sheets) - 1
            if self._hopeless(fewer):
                return
            self._deal_and_carry(fewer, 0.0)
            if len(self.best.sheets) > fewer:
                return

    def _deal_and_carry(self, count: int, stop_at: float) -> None:
        """Deal the pieces to `count` sheets; what the engine leaves over goes on to the next sheet, and in the end to
        further ones. Ends when only `stop_at` seconds are left.
        """
        groups, pool, sheets = self._dealt(count), Counter[int](), list[Sheet]()
        while (groups or pool.total()) and self.watch.seconds_left() > stop_at:
            waiting = (groups.pop(0) if groups else Counter[int]()) + pool
            seconds = (self.watch.seconds_left() - stop_at) / (len(groups) + 1)
            group = self._loaded(waiting, _DEALT_FILL if seconds > _DEALT_S else EASY_FILL)
            sheet = self._nested(group, self.plain, max(_LEAST_DEALT_S, seconds), None)
            if not sheet or (len(sheet) < group.total() and seconds > _DEALT_S):
                sheet = self._topped_up(self.plain, sheet, group - Counter(one.item for one in sheet))
            if not sheet:
                break
            sheets.append(sheet)
            pool = waiting - Counter(one.item for one in sheet)
            left = self.wanted - Counter(one.item for done in sheets for one in done)
            self._offer((*sheets, *self._in_rows(left, len(sheets))))

    def _loaded(self, waiting: Counter[int], fill: float) -> Counter[int]:
        """What of `waiting` loads a sheet to a share of its room, each design in proportion to its number."""
        share = fill * self.room / max(1e-9, self._load(list(waiting.elements())))
        if share >= 1:
            return +waiting
        group = Counter({item: int(count * share) for item, count in waiting.items()})
        load = self._load(list(group.elements()))
        for item in self._largest_first(waiting - group):
            if load + self.areas[item] <= fill * self.room:
                group[item] += 1
                load += self.areas[item]
        return +group

    def _sheets_of_best(self) -> int:
        assert self.best is not None
        complete = self._is_complete(self.best)
        return len(self.best.sheets) - 1 if complete else (self.problem.spec.max_sheets or len(self.best.sheets))

    def _is_complete(self, layout: Layout) -> bool:
        return not any(unplaced.reason is WhyNot.NO_ROOM for unplaced in layout.unplaced)

    def _improvable(self, bound: AreaBound) -> bool:
        """Whether areas leave room for fewer sheets or more pieces than the best layout has."""
        assert self.best is not None
        return not self._is_complete(self.best) or len(self.best.sheets) > bound.sheets_at_least

    def _hopeless(self, sheets: int) -> bool:
        total = sum(self.areas[piece.item] * piece.quantity for piece in self.pieces)
        return total > HOPELESS_FILL * self.room * sheets

    def _slice(self, share: float = _ATTEMPT_SHARE) -> float:
        left = self.watch.seconds_left()
        return left if left < 2 * _LEAST_ATTEMPT_S else max(_LEAST_ATTEMPT_S, share * left)

    def _all_on(self, count: int, share: float) -> bool:
        """Try to lay everything on exactly `count` sheets, areas shared out evenly, in a share of the time."""
        sheets: list[Sheet] = []
        for number, group in enumerate(self._dealt(count)):
            if self._given_up():
                return False
            sheet = self._nested(group, self.plain, self._slice(share / (count - number)), sheets)
            if len(sheet) < group.total():
                sheet = self._topped_up(self.plain, sheet, group - Counter(one.item for one in sheet))
                if len(sheet) < group.total():
                    rest = self.wanted - Counter(one.item for done in (*sheets, sheet) for one in done)
                    self._offer((*sheets, sheet, *self._in_rows(rest, len(sheets) + 1)))
                    return False
            sheets.append(sheet)
        self._offer(tuple(sheets))
        return True

    def _dealt(self, count: int) -> list[Counter[int]]:
        """The pieces dealt to `count` sheets, largest first, each to the sheet with the most room."""
        loads = [0.0] * count
        groups: list[Counter[int]] = [Counter() for _ in range(count)]
        for item in self._largest_first(self.free):
            target = loads.index(min(loads))
            groups[target][item] += 1
            loads[target] += self.areas[item]
        return groups

    def _largest_first(self, counts: Counter[int]) -> list[int]:
        return sorted(counts.elements(), key=lambda item: (-self.areas[item], item))

    def _fill_one_by_one(self, allowed: int, before: tuple[Sheet, ...], remaining: Counter[int]) -> None:
        """Sheet after sheet as full as it gets; what is left over lies in rows of boxes on the next ones."""
        limited = self.problem.spec.max_sheets is not None
        sheets: list[Sheet] = list(before)
        while remaining.total() and len(sheets) < allowed and not self._given_up():
            order = self._largest_first(remaining)
            if limited:
                # With sheets short, most pieces count: the small ones first.
                order.reverse()
            ahead = max(1, min(allowed - len(sheets), round(self._load(order) / (EASY_FILL * self.room) + 0.5)))
            sheet = self._filled(order, sheets, self._slice(1.0 / ahead))
            if not sheet:
                break
            sheets.append(sheet)
            remaining = remaining - Counter(placement.item for placement in sheet)
            self._offer((*sheets, *self._in_rows(remaining, len(sheets))))
        if remaining.total():
            self.clocked = True

    def _filled(self, order: list[int], before: list[Sheet], seconds: float) -> Sheet:
        """One sheet filled from `order`: an easy load first, then one or two pieces more as long as they go in."""
        stop_at = self.watch.seconds_left() - seconds
        best = self._lattice_sheet(order, self.plain.room)
        count = max(len(best) + 1, self._easy_count(order))
        while count <= len(order):
            left = self.watch.seconds_left() - stop_at
            if left <= 0 or self._load(order[:count]) > HOPELESS_FILL * self.room:
                self.clocked = True
                break
            sheet = self._nested(
                Counter(order[:count]), self.plain, left if best else max(left, _LEAST_ATTEMPT_S), before
            )
            if len(sheet) > len(best):
                best = sheet
            if len(sheet) < count:
                self.clocked = True
                break
            count += 2 if self._load(order[: count + 2]) < EASY_FILL * self.room else 1
        return self._topped_up(self.plain, best, Counter(order) - Counter(one.item for one in best))

    def _load(self, items: Sequence[int]) -> float:
        return sum(self.areas[item] for item in items)

    def _easy_count(self, order: list[int]) -> int:
        loads = np.cumsum([self.areas[item] for item in order])
        return max(1, int(np.searchsorted(loads, EASY_FILL * self.room)))

    # Equal pieces

    def _lattice(self, item: int, room: Polygon) -> Lattice | None:
        if (item, room.bounds) not in self.lattices:
            left, top, right, bottom = room.bounds
            spec = self.problem.spec
            stop_at = self.watch.seconds_left() * (1 - _LATTICE_SHARE)

            def given_up() -> bool:
                return self.watch.seconds_left() <= stop_at

            self.lattices[item, room.bounds] = best_lattice(
                self.by_item[item], (right - left, bottom - top), spec.gap_mm, spec.turn, given_up
            )
            self.clocked |= given_up()
        return self.lattices[item, room.bounds]

    def _lattice_sheet(self, order: Sequence[int], room: Polygon) -> Sheet:
        """A rectangle full of a lattice, where all that is wanted is one item."""
        if len(set(order)) != 1:
            return ()
        lattice = self._lattice(order[0], room)
        if lattice is None:
            return ()
        left, top, _, _ = room.bounds
        return self._kept(lattice.placements(order[0], left, top, len(order)))

    def _latticed(self) -> tuple[Sheet, ...]:
        """All of one item on lattices, the rest of each sheet filled; nothing where there are several items."""
        remaining, sheets = self.free.copy(), list[Sheet]()
        limit = self.problem.spec.max_sheets
        if len(+remaining) != 1:
            return ()
        while remaining.total() and (limit is None or len(sheets) < limit):
            order = list(remaining.elements())
            sheet = self._lattice_sheet(order, self.plain.room)
            if not sheet:
                return ()
            sheet = self._topped_up(self.plain, sheet, remaining - Counter(one.item for one in sheet))
            full = remaining.total() // len(sheet)
            for _ in range(max(1, full if limit is None else min(full, limit - len(sheets)))):
                sheets.append(sheet)
                remaining = remaining - Counter(one.item for one in sheet)
        return tuple(sheets)

    # Sheets that are not empty rectangles

    def _round_what_lies(self) -> Layout:
        """Sheets with held pieces, notches or used-up parts, then further ones, each as full as it gets."""
        limit = self.problem.spec.max_sheets
        remaining, sheets = self.free.copy(), list[Sheet]()
        while len(sheets) < len(self.grounds) or (remaining.total() and (limit is None or len(sheets) < limit)):
            ground = self.grounds[len(sheets)] if len(sheets) < len(self.grounds) else self.plain
            if not remaining.total() or self._given_up():
                sheet: Sheet = ()
            elif len(sheets) >= len(self.grounds) and ground.is_bare:
                self._fill_one_by_one(limit or len(sheets) + remaining.total(), tuple(sheets), remaining)
                break
            else:
                sheet = self._packed_on(ground, remaining, sheets)
            if not sheet and not ground.held and len(sheets) >= len(self.grounds):
                break
            sheets.append((*ground.held, *sheet))
            remaining = remaining - Counter(one.item for one in sheet)
            self._offer((*sheets, *self._ground_rest(len(sheets), remaining)))
        return self._finished()

    def _packed_on(self, ground: Ground, remaining: Counter[int], before: list[Sheet]) -> Sheet:
        """The new pieces of one sheet: a lattice or the engine in its largest rectangle, or all piece by piece; the
        fullest one.
        """
        order = self._largest_first(remaining)
        whole = shapely.difference(
            ground.live, shapely.union_all([one.of(self.by_item[one.item].edge) for one in ground.held])
        ).area
        cap = HOPELESS_FILL * grow(ground.live, self.separation / 2).area
        loads = np.cumsum([self.areas[item] for item in order])
        offered = Counter(order[: max(1, int(np.searchsorted(loads, cap)) + 1)])
        choices = [self._topped_up(ground, (), remaining)]
        if len(choices[0]) == remaining.total():
            return choices[0]
        if not ground.room.is_empty and (sheet := self._lattice_sheet(order, ground.room)):
            rest = remaining - Counter(one.item for one in sheet)
            choices.append(self._topped_up(ground, sheet, rest))
        if not ground.room.is_empty and ground.room.area > _WORTH_NESTING * whole and not self._given_up():
            fit = EASY_FILL * grow(ground.room, self.separation / 2).area
            easy = Counter(order[: max(1, int(np.searchsorted(loads, fit)))]) & offered
            nested = self._nested(easy, ground, self._slice(0.5), before)
            choices.append(self._topped_up(ground, nested, remaining - Counter(one.item for one in nested)))
            self.clocked = True
        return max(choices, key=lambda sheet: (len(sheet), self._load([one.item for one in sheet])))

    def _topped_up(self, ground: Ground, sheet: Sheet, rest: Counter[int]) -> Sheet:
        """`sheet` with as many of `rest` in its free space as go in, the largest first."""
        used = self._load([one.item for one in (*ground.held, *sheet)])
        room = HOPELESS_FILL * grow(ground.live, self.separation / 2).area - used
        order = [item for item in self._largest_first(+rest) if self.areas[item] <= room]
        if not order or self._given_up():
            return sheet
        space = space_on(self.problem, ground, sheet)
        added, _ = filled_up(space, [self.by_item[item] for item in order], self._given_up)
        return (*sheet, *added)

    def _ground_rest(self, sheets: int, remaining: Counter[int]) -> tuple[Sheet, ...]:
        """Held pieces of the sheets that were not packed yet, and the rest in rows."""
        waiting = tuple(ground.held for ground in self.grounds[sheets:])
        return (*waiting, *self._in_rows(remaining, sheets + len(waiting)))

    def _rows_everywhere(self) -> tuple[Sheet, ...]:
        return self._ground_rest(0, self.free)

    # The last sheet

    def _compact(self) -> None:
        """Make the last sheet's pieces take less of it, where there is something to be had."""
        assert self.best is not None
        if not self.best.sheets or not self._is_complete(self.best) or not self.plain.is_bare:
            return
        last, before = self.best.sheets[-1], list(self.best.sheets[:-1])
        group = Counter(one.item for one in last)
        room = self.plain.room.area
        could = room - self._load([one.item for one in last]) / EASY_FILL
        if could - strip_left(last, self.by_item, self.plain.room) < _WORTH_SHARE * room:
            return
        self._offer((*before, self._topped_up(self.plain, (), group)))
        self._offer((*before, self._lattice_sheet(list(group.elements()), self.plain.room)))
        seconds = min(_COMPACT_S, self.watch.seconds_left())
        if seconds < _LEAST_ATTEMPT_S:
            self.clocked = True
            return
        ends_at = self.watch.seconds_left() - seconds
        request = self._request(group, self.plain)

        def look(solution: NestSolution) -> bool:
            sheet = self._accepted(request, solution)
            if len(sheet) == group.total():
                self._offer((*before, sheet))
            return self.watch.seconds_left() <= ends_at

        self.clocked = True
        self.nester.nest(request, seconds, look, lambda: self.watch.seconds_left() <= ends_at)

    # The engine

    def _nested(self, group: Counter[int], ground: Ground, seconds: float, before: list[Sheet] | None) -> Sheet:
        """The most of `group` that the engine laid inside one sheet's room; ends as soon as that is all of it.

        Better ones are shown on the way, after the sheets `before`; with None they are not.
        """
        request = self._request(group, ground)
        found: list[Sheet] = [()]

        def look(solution: NestSolution) -> bool:
            sheet = self._accepted(request, solution)
            if len(sheet) > len(found[0]):
                found[0] = sheet
                if ground.is_bare and before is not None:
                    rest = self.wanted - Counter(p.item for s in (*before, sheet) for p in s)
                    self._offer((*before, sheet, *self._in_rows(rest, len(before) + 1)))
            return len(found[0]) == group.total() or self._given_up()

        if seconds > 0 and request.shapes:
            self.nester.nest(request, seconds, look, self._given_up)
        return found[0]

    def _given_up(self) -> bool:
        return self.watch.seconds_left() <= 0

    def _request(self, group: Counter[int], ground: Ground) -> NestRequest:
        left, top, right, bottom = ground.room.bounds
        turn = self.problem.spec.turn
        shapes = tuple(
            NestShape(item, self.points[item], group[item], self.by_item[item].turn or turn)
            for item in sorted(group)
            if group[item] and self._fits_room(item, ground.room)
        )
        return NestRequest(shapes, left, top, right - left, bottom - top, self.separation, self.problem.seed)

    def _fits_room(self, item: int, room: Polygon) -> bool:
        """Whether an item as the engine is given it fits a rectangle: the engine breaks off where one does not."""
        left, top, right, bottom = room.bounds
        size = right - left - 2 * SLACK_MM, bottom - top - 2 * SLACK_MM
        outline = MultiPolygon([Polygon(self.points[item])])
        return best_turn(outline, size, self.by_item[item].turn or self.problem.spec.turn)[1] <= 0

    def _accepted(self, request: NestRequest, solution: NestSolution) -> Sheet:
        """The placements of a solution that lie on the sheet and keep every rule, checked on the edges themselves."""
        polygons = {item: Polygon(points) for item, points in self.points.items()}
        return self._kept([p for p in solution.placements if solution.complete or inside(request, p, polygons[p.item])])

    def _kept(self, placements: Sequence[Placement]) -> Sheet:
        # The engine's own rounding can leave a pair a hair too near; what breaks a rule is not kept.
        sheet = list(placements)
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
            pieces, self.plain.room, spec.gap_mm, spec.turn, None if limit is None else limit - used_sheets
        )

    # What is shown and kept

    def _offer(self, sheets: tuple[Sheet, ...]) -> None:
        """Keep and show these sheets if they beat the best so far."""
        layout = self._layout(sheets, time_limited=True)
        rank = self.problem.rank(layout)
        if self.best is None or rank > self.best_rank:
            self.best, self.best_rank = layout, rank
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
