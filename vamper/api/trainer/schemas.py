"""Lessons, plays and spoilt sheets on the wire."""

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vamper.core.ledger.diagnosis import Check
from vamper.core.trainer.coach import CoachPlan
from vamper.core.trainer.lesson import LookPicture
from vamper.core.trainer.made_sheet import MadeSheet
from vamper.core.trainer.play import OfferedMove, PlayEnd, PlayStep
from vamper.core.trainer.puzzles import PuzzleLevel
from vamper.core.values.findings import Station
from vamper.core.values.limits import ONE_LINE
from vamper.services.trainer.lessons import RunToPractise
from vamper.services.trainer.spoilt_sheets import PuzzleScore

Learner = Annotated[str, Field(max_length=60), ONE_LINE]
LessonKey = Annotated[str, Field(max_length=60, pattern=r"^[a-z0-9-]+$")]
MoveCode = Annotated[str, Field(min_length=1, max_length=60)]
PuzzleSeed = Annotated[int, Field(ge=0, le=2**31)]


class LessonOut(BaseModel):
    """A lesson in the list, and how the learner stands with it."""

    key: str
    title: str
    aim: str
    station: Station
    sheets: int
    minutes: int
    played: int
    passed: int
    last_passed: bool | None
    due: bool
    due_at: datetime | None
    open_play: int | None


class PractiseOut(BaseModel):
    """Everything to practise: the lessons in the order of the work, one's own spoilt runs, and free play."""

    learner: str
    learners: list[str]
    lessons: list[LessonOut]
    runs: list[RunToPractise]
    scores: list[PuzzleScore]


class BeginIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    lesson: LessonKey
    learner: Learner = ""


class PlayId(BaseModel):
    id: int


class MoveIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    code: MoveCode


class AfterwardsOut(BaseModel):
    """The account of a lesson, told when it has ended."""

    hidden: str
    keep: str
    back_in_days: int | None
    best: CoachPlan | None
    """What a good hand would have done; None while it is worked out."""
    problem: str
    tried: int
    """How many sheets were looked at for the best way so far."""


class PlayOut(BaseModel):
    """A play as it stands."""

    id: int
    job_id: int
    lesson: str
    title: str
    aim: str
    told: str
    station: Station
    pieces: int
    sheets: int
    minutes: int
    sheets_left: int
    minutes_left: float
    good: int
    end: PlayEnd | None
    seen: list[str]
    symptoms: list[str]
    first: MadeSheet
    first_shows: tuple[LookPicture, ...]
    steps: tuple[PlayStep, ...]
    moves: tuple[OfferedMove, ...]
    lies_printed: bool
    """A printed sheet lies there that only has to be loaded again."""
    afterwards: AfterwardsOut | None


class KnownWords(BaseModel):
    key: str
    words: str


class AskedOut(BaseModel):
    key: str
    words: str
    minutes: float
    yes: bool


class PuzzleOut(BaseModel):
    """A spoilt sheet of free play as it stands; `checks` speak for a cause that is still thinkable."""

    level: PuzzleLevel
    seed: int
    seen: list[KnownWords]
    known: list[KnownWords]
    shows: tuple[LookPicture, ...]
    asked: list[AskedOut]
    checks: tuple[Check, ...]
    causes: list[KnownWords]


class PuzzleIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    level: PuzzleLevel
    seed: PuzzleSeed
    checked: Annotated[list[MoveCode], Field(max_length=60)] = []


class PuzzleAnswerIn(PuzzleIn):
    cause: MoveCode
    learner: Learner = ""


class PuzzleAnswerOut(BaseModel):
    """Whether it was right, what it was, and what the network would have checked."""

    right: bool
    cause: str
    words: str
    remedy: str
    best: list[AskedOut]
