"""Playing a lesson: what each move does, what it costs, and what became of every sheet that was made.

A play is the list of its moves; everything else follows from that and its seed. What differs from sheet to sheet is one
of the runs of the twin, chosen by the seed and the number of the sheet, so that the same moves have the same results.
An order comes off one sheet, so that its pieces match: the fullest one counts. A sheet whose marks are not read is not
spoiled: it lies there, and is loaded again by the next move that makes one, unless that prints otherwise.
"""

from collections import Counter
from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any, Protocol

import numpy as np
import numpy.typing as npt

from vamper.core.ledger.diagnosis import Seen, diagnose
from vamper.core.trainer.lesson import ASK, Lesson, LessonMove, LookPicture, MoveKind
from vamper.core.trainer.made_sheet import MadeSheet, spoilt_pieces
from vamper.core.trainer.world import LessonWorld, world_after
from vamper.core.twin.simulate import SPOILINGS, Spoiling
from vamper.core.values.findings import BadInput

# So many runs of each sheet are known to a lesson.
RUNS = 200
# A sheet that only has to be loaded again takes this share of the time of one that is printed, too.
_LOAD_AGAIN = 0.4
_MOST_LIKELY = 3
_AS_IT_COMES = LessonMove("first", MoveKind.MAKE, "", 0, 1)
BORDER_HOLE, LETTERS_LOOSE = "border-hole", "letters-loose"


@dataclass(frozen=True)
class SheetOdds:
    """The results of a sheet on a bench as it stands, in `RUNS` runs.

    Parameters
    ----------
    read : array (runs,)
        Whether the marks were read.
    spoiled : array (runs, pieces)
        0 for a good piece, else the place of its spoiling in `SPOILINGS`, from 1.
    unwanted : mapping
        How many pieces are not as they are wanted, by what it is that they have.
    printed_as : hashable
        The same for sheets that are printed alike.
    """

    read: npt.NDArray[np.bool_]
    spoiled: npt.NDArray[np.uint8]
    unwanted: Mapping[str, int]
    printed_as: Hashable


class LessonBench(Protocol):
    """The maker of a lesson's sheets."""

    def odds(self, world: LessonWorld, possibility: int, looks: bool) -> SheetOdds:
        """The odds of a sheet where one of the lesson's possibilities is true."""


@dataclass(frozen=True, slots=True)
class OfferedMove:
    """A move that can be made now, with the minutes and sheets that it takes if it goes as it should."""

    code: str
    kind: MoveKind
    text: str
    minutes: float
    sheets: int


@dataclass(frozen=True, slots=True)
class PlayStep:
    """A move that was made, and what came of it.

    Parameters
    ----------
    code, text : str
        The move's code, and what it is in words.
    kind : MoveKind
        What kind of move it is.
    minutes, sheets : float, int
        What it took.
    told : str
        What it found, in a sentence.
    shows : tuple of LookPicture
        The pictures there are of it.
    made : tuple of MadeSheet
        The sheets that it made.
    sheets_used, minutes_used, good : int, float, int
        The play's sheets, minutes and good pieces after it.
    """

    code: str
    text: str
    kind: MoveKind
    minutes: float
    sheets: int
    told: str
    shows: tuple[LookPicture, ...]
    made: tuple[MadeSheet, ...]
    sheets_used: int
    minutes_used: float
    good: int


class PlayEnd(StrEnum):
    """How a play ends."""

    PASSED = "passed"
    NO_SHEETS = "no-sheets"
    NO_TIME = "no-time"
    GIVEN_UP = "given-up"


@dataclass(frozen=True)
class LessonPlay:
    """A play so far.

    Parameters
    ----------
    lesson : Lesson
        What is played.
    seed : int
        Of its random draws.
    steps, taken : tuple of PlayStep, tuple of LessonMove
        What came of each move, and the moves themselves.
    lies_printed : hashable
        How the sheet was printed that lies there unread; None where none lies there.
    count : int
        How many sheets were printed.
    document : hashable
        The learner's own job, where they work on it.
    given_up : bool
        Whether it was ended before its end; it counts as lost.
    """

    lesson: Lesson
    seed: int
    steps: tuple[PlayStep, ...] = ()
    taken: tuple[LessonMove, ...] = ()
    lies_printed: Hashable = None
    count: int = 0
    document: Hashable = None
    given_up: bool = False

    @property
    def sheets_used(self) -> int:
        return self.steps[-1].sheets_used if self.steps else 0

    @property
    def minutes_used(self) -> float:
        return self.steps[-1].minutes_used if self.steps else 0.0

    @property
    def good(self) -> int:
        return self.steps[-1].good if self.steps else 0

    @property
    def end(self) -> PlayEnd | None:
        """How it ended; None while it goes on."""
        if self.given_up:
            return PlayEnd.GIVEN_UP
        if self.minutes_used > self.lesson.minutes:
            return PlayEnd.NO_TIME
        if self.good >= self.lesson.pieces:
            return PlayEnd.PASSED
        if self.sheets_used >= self.lesson.sheets and self.lies_printed is None:
            return PlayEnd.NO_SHEETS
        return None

    @property
    def passed(self) -> bool:
        return self.end is PlayEnd.PASSED

    def cost(self, move: LessonMove) -> tuple[float, int]:
        """The minutes and sheets that a move takes now, if it goes as it should."""
        if move.kind is not MoveKind.MAKE:
            return move.minutes, 0
        many = max(1, self.sheets_left) if move.all_left else move.sheets
        return move.minutes * many, many

    @property
    def world(self) -> LessonWorld:
        return replace(world_after(self.lesson, self.taken), document=self.document)

    @property
    def sheets_left(self) -> int:
        return max(0, self.lesson.sheets - self.sheets_used)

    @property
    def minutes_left(self) -> float:
        return max(0.0, self.lesson.minutes - self.minutes_used)

    def priced(self) -> tuple[OfferedMove, ...]:
        """The moves that can be made now, with what they take."""
        return tuple(OfferedMove(one.code, one.kind, one.text, *self.cost(one)) for one in self.offered())

    def offered(self) -> tuple[LessonMove, ...]:
        """The moves that can be made now: what is done once is not offered again."""
        if self.end is not None:
            return ()
        done = Counter(one.code for one in self.taken)
        hints = len(self.lesson.hints)
        return tuple(
            one
            for one in self.lesson.moves
            if one.often
            or one.kind is MoveKind.MAKE
            or (done[one.code] < hints if one.kind is MoveKind.HINT else not done[one.code])
        )


def first_sheet(play: LessonPlay, bench: LessonBench) -> MadeSheet:
    """The spoilt sheet that a lesson begins with; it was not looked at before it was unloaded."""
    return _made(play, bench, LessonWorld(quantities=dict(play.lesson.start), document=play.document), _AS_IT_COMES, 0)[
        0
    ]


def after_move(play: LessonPlay, code: str, bench: LessonBench) -> LessonPlay:
    """A play with one move more.

    Raises
    ------
    BadInput
        If the play has ended, or the move is not offered.
    """
    if play.end is not None:
        raise BadInput("this lesson has ended; begin it again", code)
    move = next((one for one in play.offered() if one.code == code), None)
    if move is None:
        known = ", ".join(one.code for one in play.offered())
        raise BadInput(f"there is no such move now; there are {known}", code)
    if move.kind is MoveKind.MAKE:
        return _making(play, move, bench)
    told = ""
    if move.code == ASK:
        told = _likely(play)
    elif move.kind is MoveKind.HINT:
        told = play.lesson.hints[sum(one.code == move.code for one in play.taken)]
    elif move.kind is MoveKind.LOOK:
        told = move.yes if move.is_yes(play.lesson.truth.cause) else move.no
    return _with_step(play, move, move.minutes, 0, told, ())


def _likely(play: LessonPlay) -> str:
    """The causes that the network finds likely, from the symptoms seen and the checks made."""
    truth = play.lesson.truth.cause
    checked = {one.check: one.is_yes(truth) for one in play.taken if one.check}
    found = diagnose(Seen(play.lesson.seen, play.lesson.facts, checked)).suspects[:_MOST_LIKELY]
    causes = (f"{one.cause.text.rstrip('.')} ({round(one.chance * 100)} of 100)" for one in found)
    return f"Most likely: {'; '.join(causes)}."


def made_otherwise(play: LessonPlay, text: str, minutes: float) -> LessonPlay:
    """A play in which the learner changed the job itself."""
    move = LessonMove("changed", MoveKind.CHANGE, text, minutes)
    return _with_step(play, move, minutes, 0, "", ())


def _making(play: LessonPlay, move: LessonMove, bench: LessonBench) -> LessonPlay:
    left = play.lesson.sheets - play.sheets_used
    asked = max(left, 1) if move.all_left else move.sheets
    made, minutes, used, lies = list[MadeSheet](), 0.0, 0, play.lies_printed
    count = play.count
    for _ in range(asked):
        # The sheet that lies there has the luck that it had.
        sheet, printed_as = _made(play, bench, play.world, move, max(count, 1))
        again = lies is not None and lies == printed_as
        if not again:
            count += 1
            sheet, printed_as = _made(play, bench, play.world, move, count)
        if not again and used >= left:
            break
        used += 0 if again else 1
        minutes += move.minutes * (_LOAD_AGAIN if again else 1.0)
        made.append(sheet)
        lies = None if sheet.marks_read else printed_as
        if not sheet.marks_read:
            break
    if not made:
        raise BadInput("no sheet is left, and the one that lies there is printed otherwise", move.code)
    after = _with_step(play, move, minutes, used, _told(made), tuple(made))
    return replace(after, lies_printed=lies, count=count)


def _with_step(
    play: LessonPlay, move: LessonMove, minutes: float, sheets: int, told: str, made: tuple[MadeSheet, ...]
) -> LessonPlay:
    step = PlayStep(
        code=move.code,
        text=move.text,
        kind=move.kind,
        minutes=minutes,
        sheets=sheets,
        told=told,
        shows=made[-1].shows if made else () if move.shows is None else (move.shows,),
        made=made,
        sheets_used=play.sheets_used + sheets,
        minutes_used=play.minutes_used + minutes,
        good=max([play.good, *(one.good for one in made)]),
    )
    return replace(play, steps=(*play.steps, step), taken=(*play.taken, move))


def _made(
    play: LessonPlay, bench: LessonBench, world: LessonWorld, move: LessonMove, number: int
) -> tuple[MadeSheet, Hashable]:
    odds = bench.odds(world, 0, move.looks)
    run = run_of(play.seed, number)
    if move.blind:
        pieces = odds.spoiled.shape[1]
        return MadeSheet(run, True, pieces, 0, spoilt_pieces({Spoiling.BITTEN: pieces})), odds.printed_as
    if not odds.read[run]:
        unread = spoilt_pieces({Spoiling.MARKS_NOT_READ: 0})
        return MadeSheet(run, False, odds.spoiled.shape[1], 0, unread), odds.printed_as
    return _counted(play.lesson, odds, world, run, play.seed, number), odds.printed_as


def run_of(seed: int, number: int) -> int:
    """Which of the runs the sheet of a number is."""
    return (seed * 37 + number * 61) % RUNS


def _counted(lesson: Lesson, odds: SheetOdds, world: LessonWorld, run: int, seed: int, number: int) -> MadeSheet:
    spoiled = odds.spoiled[run]
    good: npt.NDArray[np.bool_] = spoiled == 0
    found = Counter[str](str(SPOILINGS[code - 1]) for code in spoiled[~good].tolist())
    for what, pieces in odds.unwanted.items():
        first = np.flatnonzero(good)[:pieces]
        good[first] = False
        found[what] += len(first)
    for what, lost in _uncared(lesson, world, good, seed, number):
        good &= ~lost
        found[what] += int(lost.sum())
    spoilt = spoilt_pieces({what: many for what, many in found.items() if many})
    return MadeSheet(run, True, len(good), int(good.sum()), spoilt)


def _uncared(
    lesson: Lesson, world: LessonWorld, good: npt.NDArray[np.bool_], seed: int, number: int
) -> list[tuple[str, npt.NDArray[np.bool_]]]:
    """The care that was missing after the cut, and the good pieces that this spoils."""
    random, found = np.random.default_rng((seed, number, 17)), list[tuple[str, npt.NDArray[np.bool_]]]()
    for need in lesson.truth.needs:
        factor, lots = float(np.exp(random.normal() * need.spread)), random.random(len(good))
        has = world.quantities.get(need.quantity, 0.0)
        short = need.at_least is not None and has < need.at_least * factor
        over = need.at_most is not None and has > need.at_most * factor
        if short or over:
            found.append((need.spoils, good & (lots < need.share)))
    return found


def chance_uncared(needs: Sequence[Any], quantities: Mapping[str, float]) -> float:
    """The share of pieces that care of these quantities spoils, over all sheets."""
    from scipy.special import ndtr

    good = 1.0
    for need in needs:
        has = max(quantities.get(need.quantity, 0.0), 1e-9)
        miss = 0.0
        if need.at_least is not None:
            miss = 1 - float(ndtr(np.log(has / need.at_least) / need.spread))
        if need.at_most is not None:
            miss = max(miss, float(ndtr(np.log(has / need.at_most) / need.spread)))
        good *= 1 - miss * need.share
    return 1 - good


def _told(made: Sequence[MadeSheet]) -> str:
    if not made[-1].marks_read:
        return "The marks were not found, so nothing was cut. The sheet can be loaded again."
    each = ", then ".join(f"{one.good} of {one.pieces}" for one in made)
    return f"{each} are good."
