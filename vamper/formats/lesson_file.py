"""A lesson as data: what a learner sees of it, and what became of a list of moves."""

import json
from dataclasses import asdict
from typing import Any

from vamper.core.ledger.diagnosis import SYMPTOMS
from vamper.core.trainer.coach import CoachPlan
from vamper.core.trainer.lesson import BENCHES, LESSONS, Lesson
from vamper.core.trainer.play import LessonPlay, OfferedMove, PlayStep
from vamper.core.values.findings import BadInput

MOST_MOVES = 200


def lesson_named(key: str) -> Lesson:
    """A lesson by its key.

    Raises
    ------
    BadInput
        If there is none of that name.
    """
    if key not in LESSONS:
        raise BadInput(f"no lesson is called “{key[:40]}”; `vamper lesson --list` names them", "lesson")
    return LESSONS[key]


def lessons_document() -> list[dict[str, Any]]:
    """All lessons, in the order of the work."""
    return [{"key": one.key, "title": one.title, "aim": one.aim, "station": one.station} for one in LESSONS.values()]


def read_moves(text: bytes) -> list[str]:
    """The codes of a list of moves.

    Raises
    ------
    BadInput
        If it is no list of words.
    """
    try:
        found = json.loads(text)
    except ValueError:
        raise BadInput('is not JSON; it holds a list of codes, as in ["tip-clean", "make"]', "--moves") from None
    if not isinstance(found, list) or not all(isinstance(one, str) for one in found):
        raise BadInput('must be a list of codes, as in ["tip-clean", "make"]', "--moves")
    if len(found) > MOST_MOVES:
        raise BadInput(f"holds more than {MOST_MOVES} moves; leave some out", "--moves")
    return found


def lesson_document(play: LessonPlay) -> dict[str, Any]:
    """The play as it stands, as a learner sees it."""
    lesson = play.lesson
    return {
        "format": "vamper-lesson",
        "version": 1,
        "key": lesson.key,
        "seed": play.seed,
        "title": lesson.title,
        "aim": lesson.aim,
        "told": lesson.told,
        "bench": {
            "route": BENCHES[lesson.bench]["cutter"].get("route", "files"),
            "stock": lesson.job["stock"],
            "pieces": lesson.pieces,
        },
        "sheets_left": max(0, lesson.sheets - play.sheets_used),
        "minutes_left": round(max(0.0, lesson.minutes - play.minutes_used), 1),
        "seen": [{"code": code, "text": SYMPTOMS[code]} for code in lesson.seen],
        "moves": [_move(one) for one in play.priced()],
    }


def _move(move: OfferedMove) -> dict[str, Any]:
    return {"code": move.code, "text": move.text, "minutes": move.minutes, "sheets": move.sheets}


def replay_document(play: LessonPlay, best: CoachPlan) -> dict[str, Any]:
    """The results of a play's moves, step by step, and the moves that a good hand would have made."""
    return (
        lesson_document(play)
        | {
            "steps": [_step(one) for one in play.steps],
            "end": play.end,
            "passed": play.passed,
            "sheets_used": play.sheets_used,
            "minutes_used": round(play.minutes_used, 1),
            "best": {
                "sheets": best.sheets,
                "minutes": round(best.minutes, 1),
                "moves": [one.code for one in best.steps],
            },
        }
        | ({"hidden": play.lesson.hidden_words, "keep": play.lesson.keep} if play.end is not None else {})
    )


def _step(step: PlayStep) -> dict[str, Any]:
    return {
        "code": step.code,
        "text": step.text,
        "minutes": round(step.minutes, 1),
        "sheets": step.sheets,
        "told": step.told,
        "made": [
            {
                "marks_read": one.marks_read,
                "pieces": one.pieces,
                "good": one.good,
                "spoiled": [asdict(spoilt) for spoilt in one.spoiled],
            }
            for one in step.made
        ],
        "sheets_used": step.sheets_used,
        "minutes_used": round(step.minutes_used, 1),
        "good": step.good,
    }
