"""Plays and spoilt sheets as the page shows them."""

from collections.abc import Sequence
from datetime import datetime

from vamper.api.trainer.schemas import (
    AfterwardsOut,
    AskedOut,
    BestOut,
    CheckOut,
    KnownWords,
    LessonOut,
    MadeOut,
    MoveOut,
    PlayOut,
    PlayStepOut,
    PuzzleAnswerOut,
    PuzzleOut,
    SpoiledOut,
)
from vamper.core.ledger.diagnosis import CAUSE_BY_KEY, CHECKS, FACTS, SYMPTOMS
from vamper.core.trainer.lesson import LESSONS, LookPicture
from vamper.core.trainer.play import LessonPlay, MadeSheet, PlayStep
from vamper.core.trainer.puzzles import Puzzle, best_checks
from vamper.core.trainer.sheet_words import spoiling_text
from vamper.core.trainer.spacing import INTERVALS_DAYS
from vamper.core.twin.simulate import Spoiling
from vamper.services.trainer.plays import LessonProgress, LivePlay

# Causes and checks that are offered for a spoilt sheet, the likeliest first.
_MOST_CAUSES = 12


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
        sheets_left=max(0, lesson.sheets - play.sheets_used),
        minutes_left=max(0.0, lesson.minutes - play.minutes_used),
        good=play.good,
        end=play.end,
        seen=[SYMPTOMS[one] for one in lesson.seen],
        symptoms=list(lesson.seen),
        first=_made(live.first),
        first_shows=_pictures_of(live.first),
        steps=[_step(one) for one in play.steps],
        moves=_moves(play),
        lies_printed=play.lies_printed is not None,
        afterwards=_afterwards(live) if play.end is not None else None,
    )


def _afterwards(live: LivePlay) -> AfterwardsOut:
    lesson, best = live.play.lesson, live.best
    return AfterwardsOut(
        hidden=lesson.hidden_words,
        keep=lesson.keep,
        back_in_days=None if live.play.passed else INTERVALS_DAYS[0],
        best=None
        if best is None
        else BestOut(sheets=best.sheets, minutes=best.minutes, steps=[*map(_step, best.steps)]),
        problem=live.problem,
        tried=live.sheets_tried,
    )


def _moves(play: LessonPlay) -> list[MoveOut]:
    found = []
    for one in play.offered():
        minutes, sheets = play.cost(one)
        found.append(MoveOut(code=one.code, kind=one.kind, text=one.text, minutes=minutes, sheets=sheets))
    return found


def _step(step: PlayStep) -> PlayStepOut:
    shows = [step.shows] if step.shows is not None else []
    if step.made:
        shows = _pictures_of(step.made[-1])
    return PlayStepOut(
        code=step.code,
        kind=step.kind,
        text=step.text,
        minutes=step.minutes,
        sheets=step.sheets,
        told=step.told,
        shows=shows,
        made=[_made(one) for one in step.made],
        minutes_used=step.minutes_used,
        sheets_used=step.sheets_used,
    )


def _pictures_of(made: MadeSheet) -> list[LookPicture]:
    if not made.read:
        return [LookPicture.SHEET, LookPicture.MARK]
    seen = {what for what, _ in made.spoiled}
    shows = [LookPicture.SHEET]
    if seen & set(Spoiling):
        shows.append(LookPicture.PIECE)
    if seen & {Spoiling.NOT_THROUGH, Spoiling.BACKING_CUT}:
        shows.append(LookPicture.DROP)
    return shows


def _made(made: MadeSheet) -> MadeOut:
    spoiled = [SpoiledOut(code=what, text=spoiling_text(what), pieces=many) for what, many in made.spoiled]
    return MadeOut(marks_read=made.read, pieces=made.pieces, good=made.good, spoiled=spoiled)


def puzzle_out(puzzle: Puzzle, checked: Sequence[str]) -> PuzzleOut:
    """A spoilt sheet after some checks."""
    suspects = [one.cause for one in puzzle.diagnosed(tuple(checked)).suspects if one.cause.check][:_MOST_CAUSES]
    # In the order of the list, not of the chances: that would give the way out away.
    names = sorted({one.check for one in suspects} - set(checked))
    return PuzzleOut(
        level=puzzle.level,
        seed=puzzle.seed,
        seen=[KnownWords(key=one, words=SYMPTOMS[one]) for one in puzzle.symptoms],
        known=[KnownWords(key=one, words=FACTS[one]) for one in puzzle.facts],
        shows=puzzle_pictures(puzzle),
        asked=[_asked(puzzle, one) for one in checked],
        checks=[CheckOut(key=one, ask=CHECKS[one].ask, minutes=CHECKS[one].minutes) for one in names],
        causes=[KnownWords(key=one.key, words=one.text) for one in sorted(suspects, key=lambda one: one.key)],
    )


def puzzle_pictures(puzzle: Puzzle) -> list[LookPicture]:
    """What there is to look at."""
    if "marks-not-found" in puzzle.symptoms:
        return [LookPicture.SHEET, LookPicture.MARK]
    depth = {"not-through", "backing-cut", "not-through-places"}
    return [LookPicture.SHEET, LookPicture.PIECE, *([LookPicture.DROP] if depth & set(puzzle.symptoms) else [])]


def puzzle_answer_out(puzzle: Puzzle, right: bool) -> PuzzleAnswerOut:
    """What it was, and what a good hand would have checked."""
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
