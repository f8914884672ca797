"""One sheet that does not hold everything: as many pieces as go in, then as much area.

Most pieces count, so the smallest go first. How many of them go in is what the engine's own answers promise
(`promise.py`): the first attempt asks for as many as shapes like these usually lie, with all cores; what it has reached
after a moment says whether to go on, or how many to ask for instead. Once a number lies, one more is asked for, or
several where the promise is higher. Where one more cannot be had, it is asked for again from other seeds and with two
designs exchanged for each other, and every other time as many pieces as lie already, of more area. What an attempt laid
is kept from the stretch of its strip that holds most, and filled up with what is left over, so a failure may win too.
One core all the while lays pieces one by one, and empties and refills parts of the best sheet (`refill.py`), which the
next attempt has to beat.
It ends where nothing better came for as long again as it took to the last gain.
"""

from collections import Counter
from collections.abc import Generator
from dataclasses import dataclass, replace

import numpy as np

from vamper.core.sheet.pack.nesting import Attempt, Lane, NestSolution
from vamper.core.sheet.pack.search.hole_guests import HoleGuests
from vamper.core.sheet.pack.search.lattice_sheets import lattice_sheet
from vamper.core.sheet.pack.search.promise import GROWS_S, Progress
from vamper.core.sheet.pack.search.refill import Refill, laid_one_by_one
from vamper.core.sheet.pack.search.run import HOPELESS_FILL, LEAST_ATTEMPT_S, ODD, SearchRun
from vamper.core.values.placement import Sheet

# Fuller than this no mix has been seen.
LIKELY_FILL = 0.86
# What an attempt is promised to take of the time left, and what it may take where it asks for several pieces more.
_AIM_SHARE, _LEAP_SHARE = 0.5, 0.6
# What is kept of the time to fill up what the last attempt laid.
_FILLING_S = 0.4
# How much of the time is spent without the engine where there is but one core.
_BY_ITSELF_SHARE = 0.3
# From this many failures on, every other attempt is for area, and all where one piece more would be so much fuller
# than is likely; an exchange gains at least so much.
_PATIENCE, _FAR, _LEAST_GAIN_MM2 = 2, 1.03, 1.0


def max_fill(run: SearchRun, remaining: Counter[int], before: list[Sheet], seconds: float) -> Sheet:
    """The fullest bare sheet of `remaining` found in so many seconds; better ones are shown on the way."""
    climb = _Climb(run, remaining, before, run.watch.seconds_left() - seconds)
    run.nester.race([climb.lane()], climb.over, climb.by_itself)
    while climb.may_go_on() and climb.step():
        pass
    climb.fill(climb.best)
    run.clocked |= len(climb.best) < remaining.total()
    return climb.best


@dataclass
class _Climb:
    """The way up to one full sheet: the best so far, and how long there is."""

    run: SearchRun
    remaining: Counter[int]
    before: list[Sheet]
    stop_at: float
    best: Sheet = ()

    def __post_init__(self) -> None:
        run = self.run
        self._order = sorted(self.remaining.elements(), key=lambda item: (run.areas[item], item))
        self._guests = HoleGuests(run)
        self._laying = laid_one_by_one(run, self.remaining)
        self._refill = Refill(run, self.remaining, np.random.default_rng(run.problem.seed))
        self._by_itself_s = 0.0
        self._begun_with_s = self.left()
        self._gained_s = 0.0

    def left(self) -> float:
        return self.run.watch.seconds_left() - self.stop_at

    def over(self) -> bool:
        return self.left() <= _FILLING_S or self.run.given_up() or len(self.best) == self.remaining.total()

    def has_had_enough(self) -> bool:
        """Whether nothing better came for as long again as it took to the last gain, and as an attempt grows."""
        return self._spent() - self._gained_s > max(GROWS_S, self._gained_s)

    def may_go_on(self) -> bool:
        """Whether anything is to be had without the engine: room for one more, or something smaller than what lies."""
        if self.over() or self.has_had_enough():
            return False
        run, laid = self.run, [one.item for one in self.best]
        least = min(run.solid_areas[item] for item in self.remaining - Counter(laid))
        has_room = run.solid_load_of(laid) + least <= HOPELESS_FILL * run.room
        return not laid or has_room or least < max(run.solid_areas[item] for item in laid)

    def _spent(self) -> float:
        return self._begun_with_s - self.left()

    def offer(self, sheet: Sheet) -> None:
        """Keep and show a sheet that holds more pieces, or as many of more area."""
        run = self.run
        if self._fullness(sheet) <= self._fullness(self.best):
            return
        self.best, self._gained_s = sheet, self._spent()
        rest = self.remaining - Counter(one.item for one in sheet)
        run.offer((*self.before, sheet, *run.in_rows(rest, len(self.before) + 1)))

    def by_itself(self) -> bool:
        """A step beside the engine, which takes a core of its own; where there is but one the engine, which is the
        politer, is left its share. False where there was nothing to do.
        """
        begun = self._spent()
        shared = self.run.nester.cores < 2 and self._by_itself_s > _BY_ITSELF_SHARE * begun
        if shared or not self.step():
            return False
        self._by_itself_s += self._spent() - begun
        return True

    def step(self) -> bool:
        """One more of the pieces laid one by one, then a part of the best sheet refilled; False where neither helps."""
        if (laid := next(self._laying, None)) is not None:
            self.offer(laid)
            return True
        if self._refill.may_help(self.best):
            self.offer(self._refill.tried(self.best))
            return True
        return False

    def _fullness(self, sheet: Sheet) -> tuple[int, float]:
        return self.run.fullness([one.item for one in sheet])

    def lane(self) -> Lane:
        """A lattice of what is alike, else plain rows; then attempt after attempt."""
        run = self.run
        self.offer(lattice_sheet(run, self._order, run.plain.room))
        if not self.best:
            self.offer(next(iter(run.in_rows(self.remaining, len(self.before))), ()))
        likely, tries = self.run.likely_fill(self.remaining, _AIM_SHARE * self.left()), 0
        reach = self._count_for(likely)
        while self.left() >= LEAST_ATTEMPT_S and len(self.best) < len(self._order):
            if tries > _PATIENCE and self.has_had_enough():
                return
            one_more = len(self.best) + 1
            count = min(len(self._order), max(one_more, reach))
            tries = 0 if count > one_more else tries
            group = self._group(count, tries, likely)
            if self._engine_load(group) > HOPELESS_FILL:
                return
            way = yield from self._attempt(group, tries)
            tries += 1
            likely = way.promises(_AIM_SHARE * self.left())
            # What was out of reach is not asked for again but as one more than there is.
            reach = min(self._count_for(likely), len(self._order) if len(self.best) >= count else count - 1)

    def _count_for(self, fill: float) -> int:
        """How many of the smallest pieces lie at a fill; what goes into holes takes no room."""
        loads = np.cumsum([self.run.areas[item] for item in self._order])
        count = int(np.searchsorted(loads, fill * self.run.room, side="right"))
        while count < len(self._order) and self._engine_load(Counter(self._order[: count + 1])) <= fill:
            count += 1
        return count

    def _engine_load(self, group: Counter[int]) -> float:
        """The area of a group that the engine has to lay, as a share of the sheet's room."""
        return self.run.load_of(list((group - self._guests.of(group)).elements())) / self.run.room

    def _group(self, count: int, tries: int, likely: float) -> Counter[int]:
        """The group to ask for: so many pieces, or where that is out of reach or failed again and again, more area."""
        group = Counter(self._order[:count])
        far = self._engine_load(group) > likely * _FAR
        if count == len(self.best) + 1 and (tries % 2 if tries > _PATIENCE else far and tries):
            return self._with_more_area(tries, likely)
        return self._exchanged(group, tries) if tries else group

    def _attempt(self, group: Counter[int], seed: int) -> Generator[Attempt, None, Progress]:
        """The engine on one group; then what it laid, filled up with what is left over. Returns how far it got."""
        run = self.run
        asked = group - self._guests.of(group)
        request = run.request(asked, run.plain)
        request = replace(request, seed=(request.seed + ODD * seed) % 2**31)
        begun_with_s = self.left()
        way = Progress(run.load_of(list(asked.elements())) / run.room, begun_with_s)
        found: list[Sheet] = [()]

        def look(solution: NestSolution) -> bool:
            way.reached(solution.stretch, begun_with_s - self.left())
            if run.lies(request, solution) > len(found[0]):
                sheet = run.accepted(request, solution)
                if len(sheet) > len(found[0]):
                    found[0] = sheet
                    self.offer(sheet)
            return len(found[0]) == asked.total() or self.over()

        hoped = run.fullness(list(group.elements()))

        def tired() -> bool:
            after_s = begun_with_s - self.left()
            if hoped <= self._fullness(self.best):
                return True
            # One piece more is tried until nothing comes of it; anything else only while it is promised.
            one_more = group.total() <= len(self.best) + 1
            if one_more:
                return way.is_stale(after_s)
            return way.out_of_reach(after_s) or (after_s > _LEAP_SHARE * begun_with_s and not way.is_near())

        if request.shapes:
            workers = max(1, run.nester.cores - 1)
            yield Attempt(request, max(1.0, begun_with_s - _FILLING_S), look, workers, tired, run.watch.lost)
        if len(found[0]) < asked.total() or asked != group:
            self.fill(found[0])
        return way

    def fill(self, sheet: Sheet) -> None:
        """Offer a sheet with what is left over put into its gaps."""
        self.offer(self.run.topped_up(self.run.plain, sheet, self.remaining - Counter(one.item for one in sheet)))

    def _exchanged(self, group: Counter[int], tries: int) -> Counter[int]:
        """The group with one piece exchanged for another design's, the nearest in area first."""
        pairs = self._exchanges(group)
        if not pairs:
            return group
        out, into = sorted(pairs, key=lambda pair: abs(self._gain(pair)))[(tries - 1) % len(pairs)]
        return group - Counter([out]) + Counter([into])

    def _with_more_area(self, tries: int, likely: float) -> Counter[int]:
        """As many pieces as the best, some of them larger: as much area as is likely, one exchange at least."""
        group = Counter(one.item for one in self.best)
        room = likely * self.run.room - self.run.load_of(list(group.elements()))
        exchanged = False
        while larger := [pair for pair in self._exchanges(group) if self._gain(pair) > _LEAST_GAIN_MM2]:
            fitting = [pair for pair in larger if self._gain(pair) <= room]
            if not fitting and exchanged:
                break
            by_gain = sorted(larger, key=self._gain)
            out, into = max(fitting, key=self._gain) if fitting else by_gain[(tries // 2) % len(larger)]
            group, room, exchanged = group - Counter([out]) + Counter([into]), room - self._gain((out, into)), True
        return group

    def _exchanges(self, group: Counter[int]) -> list[tuple[int, int]]:
        spare = self.remaining - group
        return [(out, into) for out in sorted(group) for into in sorted(spare) if out != into]

    def _gain(self, pair: tuple[int, int]) -> float:
        return self.run.areas[pair[1]] - self.run.areas[pair[0]]
