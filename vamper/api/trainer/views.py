"""Plays and spoilt sheets as the page shows them."""

from collections.abc import Sequence
from datetime import datetime

from vamper.api.trainer.schemas import (
    AfterwardsOut,
    AskedOut,
    KnownWords,
    LessonOut,
    PlayOut,
    PuzzleAnswerOut,
    PuzzleOut,
)
from vamper.core.ledger.diagnosis import CAUSE_BY_KEY, CHECKS, FACTS, SYMPTOMS
from vamper.core.trainer.lesson import LESSONS
from vamper.core.trainer.puzzles import Puzzle, best_checks
from vamper.core.trainer.spacing import INTERVALS_DAYS
from vamper.services.trainer.plays import LessonProgress, LivePlay


def lesson_out(progress: LessonProgress, at: datetime) -> LessonOut:
    """A lesson with how the learner stands with it."""
    lesson = LESSONS[progress.lesson]
    return LessonOut(
        key=lesson.key,
        title=lesson.title,
        aim=lesson.aim,
        station=lesson.station,
        sheets=lesson.sheets,
        minutes=lesson.minutes,
        played=progress.played,
        passed=progress.passed,
        last_passed=progress.last_passed,
        due=progress.due_at is not None and progress.due_at <= at,
        due_at=progress.due_at,
        open_play=progress.open_play,
    )


def play_out(live: LivePlay) -> PlayOut:
    """A play as it stands; what was hidden is told once it has ended."""
    play = live.play
    lesson = play.lesson
    return PlayOut(
        id=live.id,
        job_id=live.job_id,
        lesson=lesson.key,
        title=lesson.title,
        aim=lesson.aim,
        told=lesson.told,
        station=lesson.station,
        pieces=lesson.pieces,
        sheets=lesson.sheets,
        minutes=lesson.minutes,
        sheets_left=play.sheets_left,
        minutes_left=play.minutes_left,
        good=play.good,
        end=play.end,
        seen=[SYMPTOMS[one] for one in lesson.seen],
        symptoms=list(lesson.seen),
        first=live.first,
        first_shows=live.first.shows,
        steps=play.steps,
        moves=play.priced(),
        lies_printed=play.lies_printed is not None,
        afterwards=_afterwards(live) if play.end is not None else None,
    )


def _afterwards(live: LivePlay) -> AfterwardsOut:
    lesson = live.play.lesson
    return AfterwardsOut(
        hidden=lesson.hidden_words,
        keep=lesson.keep,
        back_in_days=None if live.play.passed else INTERVALS_DAYS[0],
        best=live.best,
        problem=live.problem,
        tried=live.sheets_tried,
    )


def puzzle_out(puzzle: Puzzle, checked: Sequence[str]) -> PuzzleOut:
    """A spoilt sheet after some checks."""
    causes, checks = puzzle.offered(checked)
    return PuzzleOut(
        level=puzzle.level,
        seed=puzzle.seed,
        seen=[KnownWords(key=one, words=SYMPTOMS[one]) for one in puzzle.symptoms],
        known=[KnownWords(key=one, words=FACTS[one]) for one in puzzle.facts],
        shows=puzzle.shows,
        asked=[_asked(puzzle, one) for one in checked],
        checks=checks,
        causes=[KnownWords(key=one.key, words=one.text) for one in causes],
    )


def puzzle_answer_out(puzzle: Puzzle, right: bool) -> PuzzleAnswerOut:
    """The cause of the spoilt sheet, and the checks that a good hand would have made."""
    cause = CAUSE_BY_KEY[puzzle.cause]
    return PuzzleAnswerOut(
        right=right,
        cause=cause.key,
        words=cause.text,
        remedy=cause.remedy,
        best=[_asked(puzzle, one) for one in best_checks(puzzle)],
    )


def _asked(puzzle: Puzzle, check: str) -> AskedOut:
    one = CHECKS[check]
    return AskedOut(key=check, words=one.ask, minutes=one.minutes, yes=puzzle.says(check))
