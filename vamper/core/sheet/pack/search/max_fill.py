"""One sheet that does not hold everything: as many pieces as go in, then as much area.

Lanes climb side by side. One takes the smallest pieces first, since most pieces count; one takes whole sets in turn,
since a mix nests better than what is alike, in leaps of several sets while they go in; and where everything could just
go in, one asks for all of it. A lane begins with what is easy and asks for one piece more than the best sheet has. What
an attempt lays is filled up with what is left over, strip and gaps alike. Where one more cannot be had, it is asked for
again, longer, from another seed and with two designs exchanged for each other; the second lane then also tries as many
pieces of more area.
"""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace

from vamper.core.sheet.pack.nesting import Attempt, Lane, NestSolution
from vamper.core.sheet.pack.search.lattice_sheets import lattice_sheet
from vamper.core.sheet.pack.search.run import HOPELESS_FILL, LEAST_ATTEMPT_S, SearchRun
from vamper.core.values.placement import Sheet

# Fuller than this no mix has been seen; below it, all of it is worth a lane of its own.
LIKELY_FILL = 0.86
_FIRST_S = 2.0
# As full as this a mix lies in a moment.
_EASY_FILL = 0.76
# How long a leap of several sets may take, and what share of the time left the one that would be the last.
_LEAP_S = 3.0
_SHARE = 0.8
# From this many failures on, the lane of sets tries for area now and then.
_PATIENCE = 2
_ODD = 7919


def max_fill(run: SearchRun, remaining: Counter[int], before: list[Sheet], seconds: float) -> Sheet:
    """The fullest bare sheet of `remaining` found in so many seconds; better ones are shown on the way."""
    climb = _Climb(run, remaining, before, run.watch.seconds_left() - seconds)
    small_first = sorted(remaining.elements(), key=lambda item: (run.areas[item], item))
    likely = run.load_of(small_first) <= LIKELY_FILL * run.room
    whole = climb.of_all(small_first) if likely else climb.upward(small_first, seed=0)
    sets = climb.in_sets(_in_turn(run, remaining), len(remaining), for_area=not likely)
    # The engine works on the first lane while the second one begins with what needs none.
    run.nester.race([sets, climb.after_lattice(small_first, whole)], climb.over)
    run.clocked |= len(climb.best) < remaining.total()
    return climb.best


def _in_turn(run: SearchRun, remaining: Counter[int]) -> list[int]:
    """Whole sets: one of each design, smallest first, then the next of each."""
    order: list[int] = []
    left = remaining.copy()
    while left := +left:
        order += sorted(left, key=lambda item: (run.areas[item], item))
        left = Counter({item: count - 1 for item, count in left.items()})
    return order


@dataclass
class _Climb:
    """What the lanes of one sheet share: the best sheet so far, and how long there is."""

    run: SearchRun
    remaining: Counter[int]
    before: list[Sheet]
    stop_at: float
    best: Sheet = ()

    def left(self) -> float:
        return self.run.watch.seconds_left() - self.stop_at

    def over(self) -> bool:
        return self.left() <= 0 or self.run.given_up() or len(self.best) == self.remaining.total()

    def offer(self, sheet: Sheet) -> None:
        """Keep and show a sheet that holds more pieces, or as many of more area."""
        run = self.run
        if (len(sheet), self._load(sheet)) <= (len(self.best), self._load(self.best)):
            return
        self.best = sheet
        rest = self.remaining - Counter(one.item for one in sheet)
        run.offer((*self.before, sheet, *run.in_rows(rest, len(self.before) + 1)))

    def _load(self, sheet: Sheet) -> float:
        return round(self.run.load_of([one.item for one in sheet]), 3)

    def of_all(self, order: list[int]) -> Lane:
        """Everything at once, from one seed after the other."""
        for seed in range(_ODD):
            if self.left() < LEAST_ATTEMPT_S:
                return
            yield from self._attempt(Counter(order), seed, self.left() if seed else max(_FIRST_S, self.left() / 2))

    def after_lattice(self, order: list[int], lane: Lane) -> Lane:
        """A lattice of what is alike, or whatever goes in one by one; then the lane."""
        self.offer(lattice_sheet(self.run, order, self.run.plain.room))
        if not self.best:
            self.offer(self.run.topped_up(self.run.plain, (), self.remaining))
        yield from lane

    def in_sets(self, order: list[int], designs: int, for_area: bool) -> Lane:
        """Whole sets in leaps, longer ones as long as they go in; then one piece more at a time."""
        leap = 1
        while self.left() >= LEAST_ATTEMPT_S:
            done = max(len(self.best), self.run.easy_count(order) - designs) // designs
            while leap > 1 and self.run.load_of(order[: (done + leap) * designs]) > _EASY_FILL * self.run.room:
                leap //= 2
            count = min(len(order), (done + leap) * designs)
            group = Counter(order[:count])
            hopeless = self.run.load_of(order[:count]) > HOPELESS_FILL * self.run.room
            if count <= len(self.best):
                return
            if not hopeless:
                yield from self._attempt(group, 0, min(self.left(), _LEAP_S if leap > 1 else self.left() * _SHARE))
            if len(self.best) >= count:
                leap *= 2
            elif leap > 1:
                leap = 1
            else:
                break
        yield from self.upward(order, seed=1, for_area=for_area)

    def upward(self, order: list[int], seed: int, for_area: bool = False) -> Lane:
        """One piece more than the best, as long as it goes on; `order` says which pieces come first."""
        tries, count = 0, self.run.easy_count(order)
        while self.left() >= LEAST_ATTEMPT_S:
            if (more := max(count, len(self.best) + 1)) > count:
                tries, count = 0, more
            if count > len(order):
                return
            group = Counter(order[:count])
            if for_area and tries > _PATIENCE and tries % 2:
                group = self._with_more_area(tries)
            elif tries:
                group = self._exchanged(group, tries)
            if self.run.load_of(list(group.elements())) > HOPELESS_FILL * self.run.room:
                return
            seconds = min(self.left(), _FIRST_S * 2 ** min(tries, 3))
            yield from self._attempt(group, seed + 2 * tries, seconds)
            tries += 1

    def _attempt(self, group: Counter[int], seed: int, seconds: float) -> Iterator[Attempt]:
        """The engine on one group; then what it laid, filled up with what is left over."""
        run, found = self.run, [()]  # type: tuple[SearchRun, list[Sheet]]
        request = run.request(group, run.plain)
        request = replace(request, seed=(request.seed + _ODD * seed) % 2**31)

        def look(solution: NestSolution) -> bool:
            sheet = run.accepted(request, solution)
            if len(sheet) > len(found[0]):
                found[0] = sheet
                self.offer(sheet)
            return len(sheet) == group.total() or group.total() <= len(self.best) or self.over()

        if request.shapes:
            yield Attempt(request, max(1.0, seconds), look)
        self.offer(run.topped_up(run.plain, found[0], self.remaining - Counter(one.item for one in found[0])))

    def _exchanged(self, group: Counter[int], tries: int) -> Counter[int]:
        """The group with one piece exchanged for another design's, the nearest in area first."""
        pairs = self._exchanges(group)
        if not pairs:
            return group
        out, into = sorted(pairs, key=lambda pair: abs(self._gain(pair)))[(tries - 1) % len(pairs)]
        return group - Counter([out]) + Counter([into])

    def _with_more_area(self, tries: int) -> Counter[int]:
        """As many pieces as the best, one of them larger."""
        group = Counter(one.item for one in self.best)
        larger = sorted((p for p in self._exchanges(group) if self._gain(p) > 0), key=self._gain)
        if not larger:
            return group
        out, into = larger[(tries // 2) % len(larger)]
        return group - Counter([out]) + Counter([into])

    def _exchanges(self, group: Counter[int]) -> list[tuple[int, int]]:
        spare = self.remaining - group
        return [(out, into) for out in sorted(group) for into in sorted(spare) if out != into]

    def _gain(self, pair: tuple[int, int]) -> float:
        return self.run.areas[pair[1]] - self.run.areas[pair[0]]
