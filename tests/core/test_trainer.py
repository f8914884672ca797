"""Lessons: what moves do and cost, what a good hand would do, when a lesson comes back, and sheets of free play."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vamper.core.ledger.diagnosis import CAUSE_BY_KEY, CHECKS, FACTS, SYMPTOMS
from vamper.core.trainer.coach import Coach
from vamper.core.trainer.lesson import LESSONS, CareNeed, Lesson, LessonMove, MoveKind, Possibility, lesson_of
from vamper.core.trainer.play import (
    RUNS,
    LessonPlay,
    PlayEnd,
    SheetOdds,
    after_move,
    chance_uncared,
    first_sheet,
    made_otherwise,
)
from vamper.core.trainer.puzzles import MOST_CHECKS, SHOWN, SURE, PuzzleLevel, alike, best_checks, puzzle_of
from vamper.core.trainer.sheet_words import spoiling_text
from vamper.core.trainer.spacing import INTERVALS_DAYS, days_until
from vamper.core.trainer.world import LessonWorld
from vamper.core.twin.simulate import SPOILINGS, Spoiling
from vamper.core.values.findings import BadInput

_PIECES = 4
_TORN = SPOILINGS.index(Spoiling.TORN) + 1


class PaperBench:
    """A bench by a rule: pieces are torn unless the true cause's remedy was taken; counts what it was asked."""

    def __init__(self, lesson: Lesson, mends: dict[int, str], unread: set[str] | None = None) -> None:
        self.lesson, self.mends, self.unread, self.asked = lesson, mends, unread or set(), 0

    def odds(self, world: LessonWorld, possibility: int, looks: bool) -> SheetOdds:  # noqa: ARG002
        self.asked += 1
        mended = self.mends[possibility] in world.remedies
        spoiled = np.zeros((RUNS, _PIECES), np.uint8)
        if not mended:
            spoiled[:, 0] = _TORN
        read = np.full(RUNS, not (self.unread and not self.unread & set(world.remedies)))
        return SheetOdds(read, spoiled, {}, repr(world.job))


def a_lesson(**changes: object) -> Lesson:
    moves = (
        LessonMove("look", MoveKind.LOOK, "Look at the tip", 1, yes_for=("tuft-on-tip",)),
        LessonMove("wipe", MoveKind.MEND, "Wipe it", 2, remedies=("clean-tip",)),
        LessonMove("blade", MoveKind.MEND, "New blade", 9, remedies=("new-blade",)),
        LessonMove("harder", MoveKind.MEND, "Press harder", 1, breaks=()),
        LessonMove("redraw", MoveKind.CHANGE, "Redraw", 1, job={"items.*.width_mm": 9.0}),
        LessonMove("make", MoveKind.MAKE, "Make", 10, sheets=1),
        LessonMove("all", MoveKind.MAKE, "Make all", 8, sheets=1, all_left=True),
        LessonMove("hint", MoveKind.HINT, "Hint", 5),
    )
    lesson = Lesson(
        key="paper", title="", aim="", station="cut", told="", keep="", sheets=3, minutes=100, pieces=_PIECES,
        bench="files", job={}, might=(Possibility("tuft-on-tip"), Possibility("blunt-blade")), moves=moves,
        hints=("first", "second"), seen=("corners-torn",),
    )  # fmt: skip
    return replace(lesson, **changes)  # type: ignore[arg-type]


def played(lesson: Lesson, bench: PaperBench, *codes: str, seed: int = 1) -> LessonPlay:
    play = LessonPlay(lesson, seed)
    for code in codes:
        play = after_move(play, code, bench)
    return play


def test_moves_cost_what_they_say_and_an_order_comes_off_one_sheet() -> None:
    lesson = a_lesson()
    bench = PaperBench(lesson, {0: "clean-tip", 1: "new-blade"})
    play = played(lesson, bench, "make", "look", "hint", "hint")
    assert (play.sheets_used, play.minutes_used, play.good) == (1, 10 + 1 + 5 + 5, _PIECES - 1)
    assert [one.told for one in play.steps[1:]] == ["Yes.", "first", "second"]
    assert play.end is None
    # Three of four on each sheet never make four.
    assert played(lesson, bench, "make", "make", "make").end is PlayEnd.NO_SHEETS
    done = played(lesson, bench, "wipe", "make")
    assert done.passed
    assert done.steps[-1].made[0].spoiled == ()
    with pytest.raises(BadInput, match="has ended"):
        after_move(done, "make", bench)
    everything = played(lesson, bench, "all")
    assert (everything.sheets_used, everything.minutes_used) == (3, 24.0)
    assert played(replace(lesson, minutes=15), bench, "make", "look", "hint").end is PlayEnd.NO_TIME


def test_what_is_done_once_is_not_offered_again_and_what_is_unknown_is_named() -> None:
    lesson = a_lesson()
    bench = PaperBench(lesson, {0: "clean-tip", 1: "new-blade"})
    play = played(lesson, bench, "wipe", "hint", "hint")
    assert {one.code for one in play.offered()} == {"look", "blade", "harder", "redraw", "make", "all"}
    with pytest.raises(BadInput, match="look, blade"):
        after_move(play, "wipe", bench)
    assert made_otherwise(play, "You changed the job", 3).minutes_used == play.minutes_used + 3


def test_a_sheet_that_is_not_read_is_loaded_again_unless_it_is_printed_otherwise() -> None:
    lesson = a_lesson()
    bench = PaperBench(lesson, {0: "clean-tip", 1: "new-blade"}, unread={"clean-tip"})
    play = played(lesson, bench, "make")
    assert (play.sheets_used, play.good) == (1, 0)
    assert not play.steps[0].made[0].marks_read
    again = played(lesson, bench, "make", "wipe", "make")
    assert again.passed
    assert again.sheets_used == 1
    assert again.minutes_used == 10 + 2 + 4
    assert played(lesson, bench, "make", "redraw", "make").sheets_used == 2
    # The last sheet lies there: the lesson goes on.
    last = played(replace(lesson, sheets=1), bench, "make")
    assert last.end is None
    assert after_move(after_move(last, "wipe", bench), "make", bench).passed


@given(
    st.lists(st.sampled_from(["look", "wipe", "blade", "redraw", "make", "all", "hint"]), max_size=9),
    st.integers(0, 500),
)
@settings(max_examples=60, deadline=None)
def test_the_same_moves_have_the_same_results_and_sums_only_grow(codes: list[str], seed: int) -> None:
    lesson = a_lesson()
    bench = PaperBench(lesson, {0: "clean-tip", 1: "new-blade"}, unread={"new-blade"})

    def run() -> LessonPlay:
        play = LessonPlay(lesson, seed)
        for code in codes:
            if any(one.code == code for one in play.offered()):
                try:
                    play = after_move(play, code, bench)
                except BadInput:
                    continue
        return play

    one, other = run(), run()
    assert one.steps == other.steps
    sums = [(step.sheets_used, step.minutes_used, step.good) for step in one.steps]
    assert sums == sorted(sums, key=lambda s: s[1])
    assert all(a <= b for a, b in zip([s[0] for s in sums], [s[0] for s in sums][1:], strict=False))
    assert one.sheets_used <= lesson.sheets


def test_a_good_hand_looks_where_a_look_is_cheap_and_never_breaks_anything() -> None:
    lesson = a_lesson()
    best = Coach(lesson, PaperBench(lesson, {0: "clean-tip", 1: "new-blade"})).plan(1)
    assert [one.code for one in best.steps] == ["look", "wipe", "make"]
    assert best.passed
    # The other cause is true: the look says no, and the blade is changed.
    turned = replace(lesson, might=(lesson.might[1], lesson.might[0]))
    best = Coach(turned, PaperBench(turned, {0: "new-blade", 1: "clean-tip"})).plan(1)
    assert [one.code for one in best.steps] == ["look", "blade", "make"]
    # A look that costs more than to mend both is left.
    dear = replace(lesson.moves[0], minutes=30.0)
    lesson = replace(lesson, moves=(dear, *lesson.moves[1:]))
    best = Coach(lesson, PaperBench(lesson, {0: "clean-tip", 1: "new-blade"})).plan(1)
    assert [one.code for one in best.steps] == ["wipe", "blade", "make"]


def test_what_nothing_mends_ends_without_a_plan() -> None:
    lesson = a_lesson()
    best = Coach(lesson, PaperBench(lesson, {0: "nothing", 1: "nothing"})).plan(1)
    assert not best.passed
    assert best.sheets <= lesson.sheets


@given(st.floats(1, 100), st.floats(1, 100), st.floats(0.01, 0.5))
def test_care_is_missed_more_often_the_less_there_is(limit: float, has: float, spread: float) -> None:
    need = CareNeed("ink-smears", "wait", at_least=limit, spread=spread)
    chance = chance_uncared([need], {"wait": has})
    assert 0 <= chance <= 1
    assert chance_uncared([need], {"wait": has * 1.5}) <= chance + 1e-12
    assert chance_uncared([need], {"wait": limit}) == pytest.approx(0.5)
    most = CareNeed("film-torn", "wait", at_most=limit, spread=spread)
    assert chance_uncared([most], {"wait": has}) == pytest.approx(1 - chance, abs=1e-9)


@pytest.mark.parametrize("lesson", LESSONS.values(), ids=lambda one: one.key)
def test_a_lesson_is_whole(lesson: Lesson) -> None:
    """Every word of it is known, its way out is among its moves, and nothing in it gives the cause away beforehand."""
    assert lesson.title
    assert lesson.aim
    assert lesson.told.endswith(".")
    assert lesson.keep.endswith(".")
    assert lesson.hints
    assert set(lesson.seen) <= set(SYMPTOMS)
    assert set(lesson.facts) <= set(FACTS)
    assert len({one.code for one in lesson.moves}) == len(lesson.moves)
    for one in lesson.moves:
        assert one.text, one.code
        assert one.minutes > 0, one.code
        assert set(one.yes_for) <= {might.cause for might in lesson.might} | set(CAUSE_BY_KEY)
    for might in lesson.might:
        assert might.words
        for need in might.needs:
            assert spoiling_text(need.spoils)
            assert need.quantity in lesson.start
    looks = [one for one in lesson.moves if one.kind is MoveKind.LOOK]
    assert any(one.is_yes(lesson.truth.cause) for one in looks), "nothing tells the cause"
    assert lesson.hidden_words not in (lesson.told, lesson.aim)
    assert sum(lesson.weights) == pytest.approx(1)


def test_there_are_lessons_for_every_station_and_both_routes() -> None:
    assert len(LESSONS) >= 16
    assert {str(one.station) for one in LESSONS.values()} == {"edge", "sheet", "print", "marks", "cut", "finish"}
    assert {one.bench for one in LESSONS.values()} == {"files", "program"}


def test_a_check_of_the_network_answers_by_its_cause_and_by_what_it_also_finds() -> None:
    lesson = lesson_of("x", {**_TABLE, "moves": ["blade-lens", "drop-more", "make"]})
    moves = {one.code: one for one in lesson.moves}
    assert moves["blade-lens"].text == CHECKS["blade-lens"].ask
    assert moves["blade-lens"].is_yes("blunt-blade")
    assert not moves["blade-lens"].is_yes("tuft-on-tip")
    assert moves["drop-more"].is_yes("blunt-blade")
    assert not moves["drop-more"].is_yes("tuft-on-tip")


_TABLE = {
    "title": "x", "aim": "x", "station": "cut", "told": "x", "keep": "x", "sheets": 1, "minutes": 1, "pieces": 1,
    "bench": "files", "job": {}, "might": [{"cause": "blunt-blade"}], "hints": [],
}  # fmt: skip


@pytest.mark.parametrize(
    ("passed", "days"),
    [
        ([], None), ([True], None), ([False], 1), ([False, True], 7), ([False, True, True], 30),
        ([False, True, True, True], None), ([False, True, False], 1), ([True, True, False, True], 7),
    ],
)  # fmt: skip
def test_a_lesson_comes_back_where_it_was_lost(passed: list[bool], days: int | None) -> None:
    assert days_until(passed) == days


@given(st.lists(st.booleans(), max_size=20))
def test_a_lesson_that_was_just_lost_is_due_the_next_day(passed: list[bool]) -> None:
    assert days_until([*passed, False]) == INTERVALS_DAYS[0]
    assert days_until([*passed, *[True] * len(INTERVALS_DAYS)]) is None


@pytest.mark.parametrize("level", PuzzleLevel)
def test_sheets_of_free_play_are_as_hard_as_they_say_and_can_be_found_out(level: PuzzleLevel) -> None:
    low, high = {"easy": (0, 3), "middle": (3, 6), "hard": (6, 99)}[level]
    for seed in range(25):
        puzzle = puzzle_of(level, seed)
        assert puzzle.cause in SHOWN
        assert puzzle.symptoms
        assert low <= alike(puzzle) <= high
        checks = best_checks(puzzle)
        assert len(checks) <= MOST_CHECKS
        assert len(set(checks)) == len(checks)
        found = puzzle.diagnosed(checks)
        assert found.suspects[0].chance >= SURE or found.next_check is None or len(checks) == MOST_CHECKS
    rights = [
        puzzle_of(level, one).cause
        == puzzle_of(level, one).diagnosed(best_checks(puzzle_of(level, one))).suspects[0].cause.key
        for one in range(25)
    ]
    assert sum(rights) >= 23


def test_a_check_that_is_none_is_refused() -> None:
    with pytest.raises(BadInput, match="no such check"):
        puzzle_of(PuzzleLevel.EASY, 1).says("nonsense")


def test_a_lesson_begins_with_a_spoilt_sheet() -> None:
    lesson = a_lesson()
    first = first_sheet(LessonPlay(lesson, 1), PaperBench(lesson, {0: "clean-tip", 1: "new-blade"}))
    assert first.good == _PIECES - 1
    assert [(one.code, one.pieces) for one in first.spoiled] == [("torn", 1)]


def test_what_went_wrong_can_be_asked_and_heeds_what_was_checked() -> None:
    lesson = LESSONS["torn-points"]
    bench = PaperBench(lesson, {0: "clean-tip", 1: "new-blade"})
    play = after_move(LessonPlay(lesson, 1), "ask", bench)
    assert play.steps[-1].told.startswith("Most likely: ")
    first = play.steps[-1].told
    play = after_move(after_move(play, "tip-clean", bench), "ask", bench)
    assert play.steps[-1].told.startswith(f"Most likely: {CAUSE_BY_KEY['tuft-on-tip'].text.removesuffix('.')} (")
    assert play.steps[-1].told != first
    assert play.minutes_used == 2 + 1 + 2
    # Where nothing that the network knows is seen, it cannot be asked.
    assert LESSONS["too-few"].move("ask") is None
