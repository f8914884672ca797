"""To practise: lessons that are played move by move, one's own spoilt runs, and free play."""

from datetime import UTC, datetime

from fastapi import Response

from vamper.api.dependencies import LessonsHere, PlaysHere, SpoiltSheetsHere
from vamper.api.request_checks import Id
from vamper.api.request_checks import router as checked_router
from vamper.api.trainer.schemas import (
    BeginIn,
    Learner,
    MoveIn,
    PlayId,
    PlayOut,
    PractiseOut,
    PuzzleAnswerIn,
    PuzzleAnswerOut,
    PuzzleIn,
    PuzzleOut,
    PuzzleSeed,
)
from vamper.api.trainer.views import lesson_out, play_out, puzzle_answer_out, puzzle_out
from vamper.core.trainer.lesson import LookPicture
from vamper.core.trainer.puzzles import PuzzleLevel, puzzle_of

router = checked_router("practise")

_JPEG = "image/jpeg"
# A picture of a step never changes.
_KEPT = {"Cache-Control": "private, max-age=86400"}


@router.get("/practise")
def get_practise(
    plays: PlaysHere, lessons: LessonsHere, sheets: SpoiltSheetsHere, learner: Learner = ""
) -> PractiseOut:
    """Everything there is to practise, and how a learner stands."""
    at = datetime.now(UTC)
    return PractiseOut(
        learner=learner,
        learners=plays.learners(),
        lessons=[lesson_out(one, at) for one in plays.progress(learner)],
        runs=lessons.of_runs(),
        scores=sheets.scores(learner),
    )


@router.post("/practise/plays", status_code=201)
def begin_play(plays: PlaysHere, asked: BeginIn) -> PlayId:
    """Begin a lesson on a practice job of its own."""
    return PlayId(id=plays.begin(asked.lesson, asked.learner))


@router.get("/practise/plays/{play_id}")
def get_play(plays: PlaysHere, play_id: Id) -> PlayOut:
    """A play as it stands; once it has ended, the best way is worked out and shown."""
    live = plays.get(play_id)
    return play_out(plays.best(play_id) if live.play.end is not None else live)


@router.post("/practise/plays/{play_id}/moves")
def make_move(plays: PlaysHere, play_id: Id, asked: MoveIn) -> PlayOut:
    """Make a move."""
    return play_out(plays.move(play_id, asked.code))


@router.post("/practise/plays/{play_id}/end")
def end_play(plays: PlaysHere, play_id: Id) -> PlayOut:
    """Give a lesson up, and see what it was."""
    return play_out(plays.give_up(play_id))


@router.get("/practise/plays/{play_id}/steps/{step}/{what}.jpg", response_class=Response)
def get_step_picture(plays: PlaysHere, play_id: Id, step: int, what: LookPicture) -> Response:
    """The picture that a step showed; step 0 is the spoilt sheet that the lesson began with."""
    return Response(plays.picture(play_id, step, what), media_type=_JPEG, headers=_KEPT)


@router.post("/practise/puzzles/look")
def look_at_puzzle(asked: PuzzleIn) -> PuzzleOut:
    """A spoilt sheet of free play after some checks."""
    return puzzle_out(puzzle_of(asked.level, asked.seed), asked.checked)


@router.get("/practise/puzzles/{level}/{seed}/{what}.jpg", response_class=Response)
def get_puzzle_picture(sheets: SpoiltSheetsHere, level: PuzzleLevel, seed: PuzzleSeed, what: LookPicture) -> Response:
    """The spoilt sheet, or a part of it seen closely."""
    return Response(sheets.picture(level, seed, what), media_type=_JPEG, headers=_KEPT)


@router.post("/practise/puzzles/answer")
def answer_puzzle(sheets: SpoiltSheetsHere, asked: PuzzleAnswerIn) -> PuzzleAnswerOut:
    """Say what it was."""
    right = sheets.solved(asked.learner, asked.level, asked.seed, tuple(asked.checked), asked.cause)
    return puzzle_answer_out(puzzle_of(asked.level, asked.seed), right)
