"""The lessons: how often the best way fills the order, what doing nothing does, and a learner who guesses.

A naive learner makes any move that is offered, hints left out, until the order is filled, as if sheets and time had no
end; their sheets are held against those of the best way.
"""

import random
import time
from dataclasses import replace

from tests.bench.table import Row
from vamper.core.trainer.coach import Coach
from vamper.core.trainer.lesson import LESSONS, Lesson, LookPicture, MoveKind
from vamper.core.trainer.play import LessonPlay, after_move
from vamper.core.trainer.world import LessonWorld
from vamper.services.design.designer import Designer
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.trainer.bench import TwinBench

SEEDS, NAIVE = 200, 60
_MOST_MOVES = 60


def lessons() -> list[Row]:
    """A row a lesson."""
    designer, nester = Designer(), ProcessNester()
    rows = []
    for lesson in LESSONS.values():
        bench = TwinBench(lesson, designer, nester)
        begun = time.perf_counter()
        coach = Coach(lesson, bench)
        plans = [coach.plan(seed) for seed in range(SEEDS)]
        seconds = time.perf_counter() - begun
        sheets = sum(one.sheets for one in plans) / SEEDS
        naive = sum(_naive(lesson, bench, seed) for seed in range(NAIVE)) / NAIVE
        begun = time.perf_counter()
        TwinBench(lesson, designer, nester).picture(LessonWorld(quantities=lesson.start), False, 3, LookPicture.SHEET)
        picture = time.perf_counter() - begun
        passed, idle = sum(one.passed for one in plans) / SEEDS, sum(_idle(lesson, bench, one) for one in range(SEEDS))
        rows.append(
            Row(
                f"{lesson.title}: best way fills; doing nothing; naive / best sheets; picture; best way found in",
                f"{passed:.1%}; {idle / SEEDS:.1%}; {naive / sheets:.1f}; {picture:.1f} s; {seconds:.0f} s",
                "≥ 95 %; ≤ 5 %; ≥ 2; ≤ 1.5 s",
            )
        )
    return rows


def _idle(lesson: Lesson, bench: TwinBench, seed: int) -> bool:
    play = LessonPlay(lesson, seed)
    while play.end is None:
        play = after_move(play, "make", bench)
    return play.passed


def _naive(lesson: Lesson, bench: TwinBench, seed: int) -> int:
    endless = replace(lesson, sheets=10_000, minutes=10**9)
    play, dice = LessonPlay(endless, seed), random.Random(seed)
    for _ in range(_MOST_MOVES):
        if play.end is not None:
            break
        move = dice.choice([one for one in play.offered() if one.kind is not MoveKind.HINT])
        if not move.all_left:
            play = after_move(play, move.code, bench)
            continue
        # As many as the lesson has.
        for _ in range(lesson.sheets):
            if play.end is None:
                play = after_move(play, "make", bench)
    return play.sheets_used


if __name__ == "__main__":
    for row in lessons():
        print(row.what, "|", row.figure, flush=True)
