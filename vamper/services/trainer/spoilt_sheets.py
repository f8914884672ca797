"""Spoilt sheets of free play: drawn by the twin, and how a learner did with each."""

from dataclasses import dataclass

from sqlalchemy import select

from vamper.core.sheet.pack.nesting import Nester
from vamper.core.trainer.lesson import LESSONS, Lesson, LookPicture, Possibility
from vamper.core.trainer.play import RUNS
from vamper.core.trainer.puzzles import Puzzle, PuzzleLevel, best_checks, puzzle_of
from vamper.core.trainer.world import LessonWorld
from vamper.core.values.findings import BadInput
from vamper.formats.out.picture_files import write_jpeg
from vamper.services.design.designer import Designer
from vamper.services.trainer.bench import TwinBench
from vamper.services.work.cache import Cache
from vamper.store.database import Sessions
from vamper.store.tables import PuzzleRow

# Jobs to spoil, by whether their stock shines.
_SHINY, _DULL = ("lamp",), ("torn-points", "flying-pieces", "too-deep", "new-holder")
_KEPT = 8
_PPI = 110


@dataclass(frozen=True, slots=True)
class PuzzleScore:
    """How a learner did at one level: how many sheets, how many causes were right, and the checks beside the best."""

    level: PuzzleLevel
    done: int
    right: int
    checks: int
    best_checks: int


class SpoiltSheets:
    """Free play of one workshop."""

    def __init__(self, sessions: Sessions, designer: Designer, nester: Nester) -> None:
        self._sessions = sessions
        self._designer = designer
        self._nester = nester
        self._pictures: Cache[bytes] = Cache(_KEPT)

    def picture(self, level: PuzzleLevel, seed: int, what: LookPicture) -> bytes:
        """The spoilt sheet, or a mark or a drop of it, JPEG."""

        def make() -> bytes:
            puzzle = puzzle_of(level, seed)
            bench = TwinBench(lesson_of_puzzle(puzzle), self._designer, self._nester)
            return write_jpeg(bench.picture(LessonWorld(), False, seed % RUNS, what), _PPI)

        return self._pictures.get((level, seed, what), make)

    def solved(self, learner: str, level: PuzzleLevel, seed: int, checks: tuple[str, ...], cause: str) -> bool:
        """Keep what a learner took for the cause after some checks; whether it is.

        Raises
        ------
        BadInput
            If there is no such check.
        """
        puzzle = puzzle_of(level, seed)
        for one in checks:
            puzzle.says(one)
        if len(set(checks)) < len(checks):
            raise BadInput("a check is told twice", "checks")
        right = cause == puzzle.cause
        with self._sessions.begin() as session:
            session.add(
                PuzzleRow(
                    learner=learner,
                    level=level,
                    seed=seed,
                    right=right,
                    checks=len(checks),
                    best_checks=len(best_checks(puzzle)),
                )
            )
        return right

    def scores(self, learner: str) -> list[PuzzleScore]:
        """How a learner did, level by level."""
        with self._sessions() as session:
            rows = session.scalars(select(PuzzleRow).where(PuzzleRow.learner == learner)).all()
            return [
                PuzzleScore(
                    level,
                    len(mine),
                    sum(row.right for row in mine),
                    sum(row.checks for row in mine),
                    sum(row.best_checks for row in mine),
                )
                for level in PuzzleLevel
                for mine in [[row for row in rows if row.level == level]]
            ]


def lesson_of_puzzle(puzzle: Puzzle) -> Lesson:
    """A lesson's job with the devices of a puzzle, for its pictures."""
    keys = _SHINY if puzzle.shown.gloss else _DULL
    base = LESSONS[keys[puzzle.seed % len(keys)]]
    truth = Possibility(puzzle.cause, twin={"faults": [str(one) for one in puzzle.shown.faults]})
    return Lesson(
        key="puzzle",
        title=base.title,
        aim="",
        station=base.station,
        told="",
        keep="",
        sheets=1,
        minutes=1,
        pieces=base.pieces,
        bench=base.bench,
        job=base.job,
        might=(truth,),
        moves=(),
        hints=(),
        twin=base.twin,
    )
