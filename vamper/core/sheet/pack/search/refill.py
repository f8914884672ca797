"""Ruin and refill: a part of a full sheet is emptied and laid anew, piece by piece, again and again.

The engine moves all pieces of a group together and knows a fixed group; it cannot say "this corner would take two small
ones instead of the large one". So a window of the sheet is emptied of the pieces that lie whole in it, and filled from
what was taken out and what is left over, in another order each time. What comes out is kept where it holds no less;
what holds as much is kept too, since it opens other ways. Now and then a worse one is taken, and the best is come back
to where that led nowhere.
"""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from shapely.geometry import Polygon, box

from vamper.core.sheet.lay.drawn_pieces import DrawnPieces
from vamper.core.sheet.lay.free_space import TOUCH_MM, FreeSpace, filled_up
from vamper.core.sheet.layout import gap_between
from vamper.core.sheet.pack.search.run import HOPELESS_FILL, SearchRun
from vamper.core.sheet.pack.sheet_region import space_on
from vamper.core.values.placement import Placement, Sheet

# Coarser than for laying what must go in: more tries are worth more, and every place is settled exactly.
_CELL_MM = 1.0
# A window's side over that of the square that a piece takes on average; so many tries of one size one after the other,
# since pieces are drawn anew for each.
_SIDES, _EACH_SIDE = (2.6, 3.4, 4.4), 12
# So many of each item that is left over may come into a window: two small ones for a large one, and one more.
_MORE_OF_EACH = 3
# How often the largest are laid first, and by how much their order is shaken.
_LARGEST_FIRST, _SHAKEN = 0.7, 0.5
# How often something worse is taken, and after how many tries without a gain the best is come back to.
_WORSE, _LOST_AFTER = 0.03, 40
# A sheet of fewer pieces is laid anew as a whole by everything else.
LEAST_PIECES = 4


def laid_one_by_one(run: SearchRun, wanted: Counter[int]) -> Iterator[Sheet]:
    """A bare sheet, the largest pieces first, after each piece that went in.

    Long thin pieces and letters lie better so than by the engine, and of all others it is a beginning.
    """
    space, laid, hopeless = space_on(run.problem, run.plain), list[Placement](), set[int]()
    room = HOPELESS_FILL * run.room
    for item in run.largest_first(wanted):
        if item in hopeless or run.solid_areas[item] > room:
            continue
        if (placement := space.put(run.by_item[item])) is None:
            # The space only shrinks.
            hopeless.add(item)
            continue
        laid.append(placement)
        room -= run.solid_areas[item]
        yield tuple(laid)


@dataclass
class Refill:
    """Tries on one bare sheet.

    Parameters
    ----------
    run : SearchRun
        What is searched.
    remaining : Counter of int
        What may lie on the sheet, by item.
    random : Generator
        Where the windows lie, and the orders.
    """

    run: SearchRun
    remaining: Counter[int]
    random: np.random.Generator

    def __post_init__(self) -> None:
        self._drawn = DrawnPieces()
        self._best: Sheet = ()
        self._now: Sheet = ()
        self._since_gain = 0
        self._tries = 0
        # How far from a window a piece may lie and still keep others off, or be touched.
        pieces, gap = self.run.pieces, self.run.problem.spec.gap_mm
        self._reach_mm = max(gap_between(one, other, gap) for one in pieces for other in pieces) + TOUCH_MM + _CELL_MM

    @staticmethod
    def may_help(best: Sheet) -> bool:
        """Whether there is enough on a sheet for a part of it to be laid anew."""
        return len(best) >= LEAST_PIECES

    def tried(self, best: Sheet) -> Sheet:
        """One try; the best sheet known then: `best`, or one that holds more pieces, or as many of more area."""
        if self._rank(best) > self._rank(self._best):
            self._best = self._now = best
            self._since_gain = 0
        if not self.may_help(self._best):
            return self._best
        if self._since_gain > _LOST_AFTER:
            self._now, self._since_gain = self._best, 0
        self._since_gain += 1
        self._tries += 1
        laid = self._laid_anew(self._now)
        worse = len(laid) >= LEAST_PIECES and self.random.random() < _WORSE
        if worse or self._rank(laid) >= self._rank(self._now):
            self._now = laid
        if self._rank(laid) > self._rank(self._best):
            self._best, self._since_gain = laid, 0
        return self._best

    def _rank(self, sheet: Sheet) -> tuple[int, float]:
        return self.run.fullness([one.item for one in sheet])

    def _laid_anew(self, sheet: Sheet) -> Sheet:
        """The sheet with a window of it emptied and filled again."""
        run, random = self.run, self.random
        left, top, right, bottom = run.problem.live.bounds
        side = _SIDES[self._tries // _EACH_SIDE % len(_SIDES)] * (run.room / len(sheet)) ** 0.5
        # Whole cells, and the same sizes again and again: pieces are drawn once for each.
        wide, tall = (min(round(side / 10) * 10.0, room) for room in (right - left, bottom - top))
        x, y = float(random.uniform(left, right - wide)), float(random.uniform(top, bottom - tall))
        # Half of the windows lie at a rim, or rims would be looked at least.
        x = (x, x, left, right - wide)[random.integers(4)]
        y = (y, y, top, bottom - tall)[random.integers(4)]
        window = box(x, y, x + wide, y + tall)
        shapes = [one.of(run.by_item[one.item].edge) for one in sheet]
        out = [window.covers(box(*shape.bounds)) for shape in shapes]
        kept = tuple(one for one, taken in zip(sheet, out, strict=True) if not taken)
        if len(kept) == len(sheet):
            return sheet
        live = run.problem.live.intersection(window)
        if not isinstance(live, Polygon):
            return sheet
        space = FreeSpace(live, run.problem.spec.gap_mm, run.problem.spec.turn, _CELL_MM, self._drawn)
        reach = self._reach_mm
        near = box(x - reach, y - reach, x + wide + reach, y + tall + reach)
        for one, shape, taken in zip(sheet, shapes, out, strict=True):
            if not taken and near.intersects(box(*shape.bounds)):
                space.add(run.by_item[one.item], one)
        added, _ = filled_up(space, [run.by_item[item] for item in self._order(sheet, kept)], run.given_up)
        return (*kept, *added)

    def _order(self, sheet: Sheet, kept: tuple[Placement, ...]) -> list[int]:
        """What is tried in the window: what was taken out, and some more of each item that is left over."""
        areas, random = self.run.areas, self.random
        out = Counter(one.item for one in sheet) - Counter(one.item for one in kept)
        rest = self.remaining - Counter(one.item for one in sheet)
        items = [*out.elements(), *(item for item, count in rest.items() for _ in range(min(count, _MORE_OF_EACH)))]
        sign = -1.0 if random.random() < _LARGEST_FIRST else 1.0
        shaken = {item: sign * areas[item] * random.uniform(1 - _SHAKEN, 1 + _SHAKEN) for item in sorted(set(items))}
        return sorted(items, key=lambda item: (shaken[item], item))
