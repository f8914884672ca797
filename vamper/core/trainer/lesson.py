"""Lessons: a bench with something hidden, an order to fill, and the moves that a maker has, all of it data.

A lesson begins with one spoilt sheet. What may be the matter is a short list of possibilities, the first of which is
true: each changes figures of the twin's devices, or asks for care after the cut, and is one cause of the network of
causes, whose checks are then answered by it. `lessons/` holds a table a lesson, `moves.toml` the moves that several
have; a move that is named like a check of the network or a remedy of the twin takes its words from there.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from vamper.core.ledger.diagnosis import CAUSE_BY_KEY, CHECKS, Seen, answers_yes, diagnose
from vamper.core.twin.remedies import remedy_text
from vamper.core.values.findings import Station
from vamper.core.values.tables import row, table
from vamper.core.values.twin import FaultKey


class MoveKind(StrEnum):
    """The kinds of moves, in the order in which they are offered."""

    LOOK = "look"
    MEND = "mend"
    CHANGE = "change"
    WAIT = "wait"
    MAKE = "make"
    HINT = "hint"


class LookPicture(StrEnum):
    """The things that can be looked at closely, drawn by the twin as they really are."""

    SHEET = "sheet"
    PIECE = "piece"
    MARK = "mark"
    DROP = "drop"
    RULER = "ruler"


@dataclass(frozen=True, slots=True)
class LessonMove:
    """A move with its cost.

    Parameters
    ----------
    code, kind, text : str, MoveKind, str
        Its code, what kind of move it is, and what it is in words.
    often : bool
        Whether it may be made more than once.
    minutes, sheets : float, int
        What it takes; a move that makes sheets with `all_left` takes all that are left.
    check : str
        The check of the network of causes that it is, for one that looks.
    yes, no, yes_for : str, str, tuple of str
        What is seen, where the network has no such check; yes for these causes.
    shows : LookPicture or None
        The picture that it shows.
    remedies : tuple of str
        Remedies of the twin that it takes.
    breaks : tuple of FaultKey
        What a wrong hand spoils by it.
    job : mapping
        Dotted fields of the job with their values; `items.*` are all designs.
    sets, adds : mapping
        Quantities of the work after the cut.
    looks : bool
        Whether the sheet is looked at before it is unloaded, and cut once more where it is not through.
    blind : bool
        Whether it is cut without its marks, and so beside them.
    """

    code: str
    kind: MoveKind
    text: str
    minutes: float
    sheets: int = 0
    all_left: bool = False
    check: str = ""
    yes: str = "Yes."
    no: str = "No."
    yes_for: tuple[str, ...] = ()
    shows: LookPicture | None = None
    remedies: tuple[str, ...] = ()
    breaks: tuple[FaultKey, ...] = ()
    job: Mapping[str, Any] = field(default_factory=dict)
    sets: Mapping[str, float] = field(default_factory=dict)
    adds: Mapping[str, float] = field(default_factory=dict)
    looks: bool = False
    blind: bool = False
    often: bool = False

    def is_yes(self, cause: str) -> bool:
        """The answer of a look where a cause is at work."""
        return answers_yes(self.check, cause) if self.check else cause in self.yes_for


@dataclass(frozen=True, slots=True)
class CareNeed:
    """A need of the work after the cut, without which something is spoilt; figures are assumptions, near what labels
    say.

    Parameters
    ----------
    spoils : str
        The code of what goes wrong.
    quantity : str
        What is measured.
    at_least, at_most : float or None
        The limits of it, in its own unit.
    spread : float
        σ of the limit's logarithm, since sheets differ.
    share : float
        The share of pieces that is spoilt, 0 to 1.
    """

    spoils: str
    quantity: str
    at_least: float | None = None
    at_most: float | None = None
    spread: float = 0.1
    share: float = 1.0


@dataclass(frozen=True, slots=True)
class Possibility:
    """A cause that may be at work: a cause of the network, or a cause of the lesson's own; `twin` as in a job file."""

    cause: str
    text: str = ""
    twin: Mapping[str, Any] = field(default_factory=dict)
    needs: tuple[CareNeed, ...] = ()

    @property
    def words(self) -> str:
        return self.text or CAUSE_BY_KEY[self.cause].text


@dataclass(frozen=True, slots=True)
class WantedPiece:
    """What every piece must be, counted in its edge: so many holes and parts; None where it does not matter."""

    holes: int | None = None
    parts: int | None = None


@dataclass(frozen=True, slots=True)
class Lesson:
    """A lesson; see above.

    Parameters
    ----------
    key, title, station : str, str, Station
        Its code, what it is called, and the station that it is of.
    aim, told, keep : str
        The order, what has happened so far, and the sentence to keep.
    sheets, minutes, pieces : int
        What there is to use up, and how many good pieces are asked for.
    might, moves, hints : tuple of Possibility, tuple of LessonMove, tuple of str
        What may be the matter, what the learner may do, and what is said when they ask.
    wanted, hidden : WantedPiece, str
        How a good piece must be, and what was the matter, where the possibility's own words do not say it.
    seen, facts : tuple of str
        Symptoms and facts, in the network's codes, with which the diagnosis begins.
    job : mapping
        A job file without its machines; `bench` names those.
    twin : mapping
        How the bench is, whatever else is the matter.
    start : mapping
        Quantities of the work after the cut, as they are usually done here.
    """

    key: str
    title: str
    aim: str
    station: Station
    told: str
    keep: str
    sheets: int
    minutes: int
    pieces: int
    bench: str
    job: Mapping[str, Any]
    might: tuple[Possibility, ...]
    moves: tuple[LessonMove, ...]
    hints: tuple[str, ...]
    seen: tuple[str, ...] = ()
    facts: tuple[str, ...] = ()
    twin: Mapping[str, Any] = field(default_factory=dict)
    start: Mapping[str, float] = field(default_factory=dict)
    wanted: WantedPiece = WantedPiece()
    hidden: str = ""

    @property
    def truth(self) -> Possibility:
        return self.might[0]

    @property
    def hidden_words(self) -> str:
        """The cause that was at work, told afterwards."""
        return self.hidden or self.truth.words

    def move(self, code: str) -> LessonMove | None:
        return next((one for one in self.moves if one.code == code), None)

    @property
    def weights(self) -> tuple[float, ...]:
        """How likely each possibility is by what is seen and known at the beginning."""
        if not self.seen:
            return tuple(1 / len(self.might) for _ in self.might)
        chances = {one.cause.key: one.chance for one in diagnose(Seen(self.seen, self.facts)).suspects}
        found = [max(chances.get(one.cause, 0.0), 0.02) for one in self.might]
        return tuple(one / sum(found) for one in found)


_PACKAGE = f"{__package__}.lessons"
# Asks the network of causes.
ASK = "ask"
_MOVES = table(__package__, "moves.toml")
BENCHES: Mapping[str, Mapping[str, Any]] = table(__package__, "benches.toml")


def lesson_of(key: str, data: Mapping[str, Any]) -> Lesson:
    """A lesson from its table; in each a hint can be asked for, and where something is seen, what may cause it."""
    own: Mapping[str, Mapping[str, Any]] = data.get("own", {})
    by_program = BENCHES[data["bench"]]["cutter"].get("route") == "program"
    moves = [
        _move(code, own.get(code, {}), by_program)
        for code in (*data["moves"], *([ASK] if data.get("seen") else []), "hint")
    ]
    return row(Lesson, {**{name: one for name, one in data.items() if name != "own"}, "key": key, "moves": moves})


def _move(code: str, own: Mapping[str, Any], by_program: bool) -> Mapping[str, Any]:
    found = {"code": code, **_MOVES.get(code, {}), **own}
    if code in CHECKS:
        found = {"kind": "look", "text": CHECKS[code].ask, "minutes": CHECKS[code].minutes, "check": code, **found}
    for one in found.get("remedies", ()):
        found.setdefault("text", remedy_text(one, by_program))
    return found


def _all() -> dict[str, Lesson]:
    order: list[str] = table(_PACKAGE, "order.toml")["order"]
    return {key: lesson_of(key, table(_PACKAGE, f"{key}.toml")) for key in order}


LESSONS: Mapping[str, Lesson] = _all()
