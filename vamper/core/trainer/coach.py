"""What a good hand would do: the fewest sheets that are to be expected, then the fewest minutes.

A good hand does not know what is hidden. They weigh the lesson's possibilities by what is seen, look where a look tells
them apart for less than a sheet, mend, and make. That is a search over beliefs: a look leaves the possibilities that
answer alike; a sheet that comes out spoiled leaves each by how often it spoils one. Costs are sheets first, minutes
second; after a lesson's last sheet it ends with a fine of three.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache

import numpy as np

from vamper.core.trainer.lesson import Lesson, LessonMove, MoveKind
from vamper.core.trainer.play import LessonBench, LessonPlay, PlayStep, after_move, chance_uncared
from vamper.core.trainer.world import LessonWorld, world_after

_SHEET, _FINE = 1000.0, 3.0
# A plan has so many moves between two sheets at most, and so many sheets.
_MOST_MOVES, _MOST_SHEETS = 5, 3
# What is hardly possible is not looked into.
_LEAST_WEIGHT = 0.02
Belief = tuple[tuple[int, float], ...]


@dataclass(frozen=True, slots=True)
class CoachPlan:
    """The moves of a good hand in one play, and what they come to."""

    steps: tuple[PlayStep, ...]
    sheets: int
    minutes: float
    passed: bool


class Coach:
    """The best policy of one lesson.

    Parameters
    ----------
    on_sheet : callable
        Called before each look at the bench; it may raise to end the search.
    """

    def __init__(self, lesson: Lesson, bench: LessonBench, on_sheet: Callable[[], None] = lambda: None) -> None:
        self._lesson = lesson
        self._bench = bench
        self._on_sheet = on_sheet
        self._moves = {one.code: one for one in lesson.moves if self._is_worth(one)}
        self._place = {code: place for place, code in enumerate(self._moves)}
        self._fills: dict[tuple[object, ...], float] = {}
        self._best = cache(self._best_of)

    def plan(self, seed: int) -> CoachPlan:
        """The moves that a good hand would have made in the play of a seed."""
        play = LessonPlay(self._lesson, seed)
        belief: Belief = tuple(enumerate(self._lesson.weights))
        while play.end is None:
            taken = self._ordered(one.code for one in play.taken if one.kind is not MoveKind.MAKE)
            left = min(_MOST_SHEETS, max(1, self._lesson.sheets - play.sheets_used))
            made = sum(one.kind is MoveKind.MAKE for one in play.taken)
            code = self._best(taken, belief, left, self._free(taken, made))[1]
            if code is None or len(play.steps) > 40:
                break
            move = self._moves[code]
            play = after_move(play, code, self._bench)
            belief = self._after(belief, move, taken, play)
        return CoachPlan(play.steps, play.sheets_used, play.minutes_used, play.passed)

    def _is_worth(self, move: LessonMove) -> bool:
        """Whether a good hand thinks of a move at all: it breaks nothing, and changes what comes out for some cause."""
        if move.kind is MoveKind.HINT or move.all_left or move.blind or move.breaks:
            return False
        if move.kind in (MoveKind.LOOK, MoveKind.MAKE) or not (move.job or move.remedies):
            return True
        before, after = world_after(self._lesson, ()), world_after(self._lesson, (move,))
        return any(self._differ(before, after, one) for one in range(len(self._lesson.might)))

    def _differ(self, before: LessonWorld, after: LessonWorld, possibility: int) -> bool:
        self._on_sheet()
        one, other = (self._bench.odds(world, possibility, False) for world in (before, after))
        return (
            one.unwanted != other.unwanted
            or one.spoiled.shape != other.spoiled.shape
            or not np.array_equal(one.read, other.read)
            or not np.array_equal(one.spoiled, other.spoiled)
        )

    def _free(self, taken: tuple[str, ...], made: int) -> int:
        """How many moves may still come before a sheet."""
        return max(0, _MOST_MOVES + 2 * made - len(taken))

    def _ordered(self, codes: object) -> tuple[str, ...]:
        return tuple(sorted(codes, key=lambda code: self._place[code]))  # type: ignore[call-overload]

    def _after(self, belief: Belief, move: LessonMove, taken: tuple[str, ...], play: LessonPlay) -> Belief:
        if move.kind is MoveKind.LOOK:
            answer = move.is_yes(self._lesson.truth.cause)
            return _weighed({one: part for one, part in belief if self._says(move, one) is answer})
        if move.kind is MoveKind.MAKE and not play.passed:
            return self._spoiled(belief, taken, move)
        return belief

    def _best_of(self, taken: tuple[str, ...], belief: Belief, left: int, free: int) -> tuple[float, str | None]:
        """The value still to be expected, and the move to make now."""
        if left == 0:
            return _FINE * _SHEET, None
        found: tuple[float, str | None] = (np.inf, None)
        for code, move in self._moves.items():
            if move.kind is MoveKind.MAKE:
                cost = self._making(taken, belief, left, move)
            elif free and (move.often or code not in taken) and taken.count(code) < 4:
                cost = self._looking(taken, belief, left, free, move)
            else:
                continue
            if cost < found[0] - 1e-9:
                found = cost, code
        return found

    def _making(self, taken: tuple[str, ...], belief: Belief, left: int, move: LessonMove) -> float:
        fills = sum(part * self._fills_order(taken, one, move) for one, part in belief)
        cost = _SHEET + move.minutes
        if fills > 1 - 1e-6:
            return cost
        then = self._best(taken, self._spoiled(belief, taken, move), left - 1, self._free(taken, 1) if left > 1 else 0)
        return cost + (1 - fills) * then[0]

    def _looking(self, taken: tuple[str, ...], belief: Belief, left: int, free: int, move: LessonMove) -> float:
        then = self._ordered((*taken, move.code))
        if move.kind is not MoveKind.LOOK:
            return move.minutes + self._best(then, belief, left, free - 1)[0]
        cost = move.minutes
        sides = [{one: part for one, part in belief if self._says(move, one) is answer} for answer in (True, False)]
        if not all(sides):
            return np.inf
        for side in sides:
            cost += sum(side.values()) * self._best(then, _weighed(side), left, free - 1)[0]
        return cost

    def _says(self, move: LessonMove, possibility: int) -> bool:
        return move.is_yes(self._lesson.might[possibility].cause)

    def _spoiled(self, belief: Belief, taken: tuple[str, ...], move: LessonMove) -> Belief:
        parts = {one: part * (1 - self._fills_order(taken, one, move)) for one, part in belief}
        return _weighed(parts) if sum(parts.values()) > 0 else belief

    def _fills_order(self, taken: tuple[str, ...], possibility: int, move: LessonMove) -> float:
        """The chance that one sheet is enough."""
        moves = [self._moves[code] for code in taken]
        world = world_after(self._lesson, moves)
        key = (repr(sorted(world.job.items())), world.remedies, world.broken, tuple(sorted(world.quantities.items())))
        full = (*key, possibility, move.looks)
        if full not in self._fills:
            self._fills[full] = self._enough(world, possibility, move.looks)
        return self._fills[full]

    def _enough(self, world: LessonWorld, possibility: int, looks: bool) -> float:
        self._on_sheet()
        odds = self._bench.odds(world, possibility, looks)
        good = (odds.spoiled == 0).sum(axis=1) - sum(odds.unwanted.values())
        cared = 1 - chance_uncared(self._lesson.might[possibility].needs, world.quantities)
        return float((odds.read & (good >= self._lesson.pieces)).mean()) * cared


def _weighed(parts: Mapping[int, float]) -> Belief:
    whole = sum(parts.values())
    shares = {one: part / whole for one, part in parts.items()}
    kept = {one: part for one, part in shares.items() if part >= _LEAST_WEIGHT} or shares
    return tuple((one, round(part / sum(kept.values()), 3)) for one, part in kept.items())
