"""A run: one sheet, or several alike, that was really made, with everything that was set, and how each piece came out.

It is kept by value. What it was made of is named as it was then, so that it stays readable when a stock is renamed, a
blade is thrown away or the job goes on.
"""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.ledger.diagnosis import CAUSE_BY_KEY
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import LabelFigure
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.run_seen import MarksSeen
from vamper.core.values.sheen import Sheen
from vamper.core.values.tried import Gf, Outcome, Passes, Pressure

Words = Annotated[str, Len(0, 200), ONE_LINE]
Note = Annotated[str, Len(0, 2000)]
Sheets = Annotated[int, Ge(1), Le(1000)]


class CameOut(StrEnum):
    """How a sheet came out."""

    GOOD = "good"
    SPOILED = "spoiled"
    NOT_RUN = "not-run"


class Spoilt(StrEnum):
    """The ways a piece can be spoilt."""

    NOT_THROUGH = "not-through"
    BACKING_THROUGH = "backing-through"
    TORN = "torn"
    OFF = "off"
    PRINT_FAULT = "print-fault"
    LIFTED = "lifted"


SPOILT_WORDS: dict[Spoilt, str] = {
    Spoilt.NOT_THROUGH: "not through",
    Spoilt.BACKING_THROUGH: "backing cut through",
    Spoilt.TORN: "torn",
    Spoilt.OFF: "cut off its place",
    Spoilt.PRINT_FAULT: "print fault",
    Spoilt.LIFTED: "lifted while it cut",
}
# What is seen first of a piece that came out so, in the words of the diagnosis.
SYMPTOM_OF: dict[Spoilt, str] = {
    Spoilt.NOT_THROUGH: "not-through-places",
    Spoilt.BACKING_THROUGH: "backing-cut",
    Spoilt.TORN: "corners-torn",
    Spoilt.OFF: "cut-off-even",
    Spoilt.PRINT_FAULT: "print-missing",
    Spoilt.LIFTED: "pieces-lifted",
}
# Where every piece is so, it is another thing that is seen.
SYMPTOM_OF_ALL: dict[Spoilt, str] = SYMPTOM_OF | {Spoilt.NOT_THROUGH: "not-through"}
_AS_OUTCOME: dict[Spoilt, Outcome] = {
    Spoilt.NOT_THROUGH: Outcome.NOT_THROUGH,
    Spoilt.BACKING_THROUGH: Outcome.BACKING_THROUGH,
    Spoilt.TORN: Outcome.TORN,
}


@dataclass(frozen=True, slots=True)
class SpoiltPiece:
    """One piece of a sheet that is no good: its place on it (from 0) and what happened; `off` is how far its cut lies
    from its print.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    placement: Annotated[int, Ge(0), Le(10_000)]
    what: Spoilt
    off: LoggedMiss | None = None

    def __post_init__(self) -> None:
        if self.off is not None and self.what is not Spoilt.OFF:
            raise ValueError("off: only a piece that is cut off its place is off by something")


@dataclass(frozen=True, slots=True)
class UsedSetting:
    """The setting that a cut was made with: a force, or a setting of the machine's own list, or neither where nobody
    remembers.

    Parameters
    ----------
    cut : Cut
        How deep it was meant to go.
    force_gf : float or None
        The pressure, gf.
    passes : int
        How often the blade went over every line.
    speed_mm_s : float
        The blade's speed.
    blade : str
        Which blade it was.
    setting : str
        The machine's own name of the setting; empty where a force was set.
    pressure : Pressure or None
        What was chosen with that setting.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    cut: Cut
    force_gf: Gf | None
    passes: Passes
    speed_mm_s: Annotated[float, Gt(0), Le(5000)]
    blade: Words
    setting: Words = ""
    pressure: Pressure | None = None

    def __post_init__(self) -> None:
        if self.setting and self.force_gf is not None:
            raise ValueError("a cut is made with a force or with a setting of the machine's own, not with both")


Amount = Annotated[float, Ge(0), Le(1e6)]


@dataclass(frozen=True, slots=True)
class Took:
    """The ink and supplies that a run took beside its stock, on all its sheets together.

    Parameters
    ----------
    ink_ml : float
        Ink.
    metres : float
        Metres of the blade's life: the length cut, times the stock's abrasion.
    laminate_m2 : float
        Laminate.
    coats : float
        Coats, each over one sheet.
    blanks : float
        Blanks that pieces went on.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    ink_ml: Amount = 0.0
    metres: Amount = 0.0
    laminate_m2: Amount = 0.0
    coats: Amount = 0.0
    blanks: Amount = 0.0


class LaterKind(StrEnum):
    """When one looks again."""

    WEEK = "week"
    WASH = "wash"
    MONTH = "month"
    YEAR = "year"


_NOTHING_TAKEN = Took()
DAYS_LATER: dict[LaterKind, int] = {
    LaterKind.WASH: 2,
    LaterKind.WEEK: 7,
    LaterKind.MONTH: 30,
    LaterKind.YEAR: 365,
}


@dataclass(frozen=True, slots=True)
class LaterCheck:
    """A look at it later, so many days after the run: how it held, None until somebody looked."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    kind: LaterKind
    held: bool | None = None
    note: Note = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """A run of a sheet, as the ledger keeps it.

    Parameters
    ----------
    title, customer : str
        The job's.
    sheet, sheets, pieces : int
        The sheet's number from 1, how many were made alike, and how many pieces lie on each.
    came_out, spoilt : CameOut, tuple of SpoiltPiece
        How it came out, and which pieces were spoilt by what.
    stock, stock_name, lot : str
        The stock's key and name, and the package it came from.
    printer, cutter, blade, blade_metres, mat : str, str, str, float, str
        The machines, and the blade with how far it had cut before, m.
    settings : tuple of UsedSetting
        What was set, cut by cut.
    light, marks, read, remedies : str, str, MarksSeen or None, tuple of str
        In which light the marks were read, what they were, whether and at which try they were read, and what helped.
    media, quality, process : str
        The print settings, and what kind of work it was.
    cover, look, coats : str, Sheen or None, int or None
        The product over the print, how its face looks, and in how many coats.
    figures : tuple of LabelFigure
        What the labels said: heat and time of the press, waits between coats.
    took, from_offcut : Took, bool
        The material it took; from an offcut no new sheet was taken.
    minutes : float or None
        The hands' time.
    simulated : bool
        Made on the practice bench.
    cause : str or None
        What turned out to be at work where it came out badly.
    later, note : tuple of LaterCheck, str
        How it held later, and a word of the maker.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    title: Words
    sheet: Sheets
    sheets: Sheets = 1
    pieces: Annotated[int, Ge(0), Le(10_000)]
    came_out: CameOut
    spoilt: Annotated[tuple[SpoiltPiece, ...], Len(0, 10_000)] = ()
    stock: Words
    stock_name: Words
    lot: Words = ""
    printer: Words
    cutter: Words
    blade: Words = ""
    blade_metres: Annotated[float, Ge(0), Le(1e6)] = 0.0
    mat: Words = ""
    settings: Annotated[tuple[UsedSetting, ...], Len(0, 4)] = ()
    light: Words = ""
    marks: Words = ""
    read: MarksSeen | None = None
    remedies: Annotated[tuple[Words, ...], Len(0, 20)] = ()
    media: Words = ""
    quality: Words = ""
    process: Words = ""
    cover: Words = ""
    look: Sheen | None = None
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    figures: Annotated[tuple[LabelFigure, ...], Len(0, 40)] = ()
    customer: Words = ""
    took: Took = _NOTHING_TAKEN
    from_offcut: bool = False
    minutes: Annotated[float, Ge(0), Le(100_000)] | None = None
    simulated: bool = False
    cause: Words | None = None
    later: Annotated[tuple[LaterCheck, ...], Len(0, 10)] = ()
    note: Note = ""

    @property
    def good_pieces(self) -> int:
        """Pieces that came out well, on all its sheets."""
        # A piece with two faults is one piece.
        lost = len({one.placement for one in self.spoilt})
        return 0 if self.came_out is CameOut.NOT_RUN else max(0, self.pieces * self.sheets - lost)

    @property
    def made_pieces(self) -> int:
        return 0 if self.came_out is CameOut.NOT_RUN else self.pieces * self.sheets

    @property
    def cut_is_good(self) -> bool:
        """Whether the cut did what it should, whatever became of the print."""
        return not any(one.what in _AS_OUTCOME for one in self.spoilt)

    @property
    def sheets_spent(self) -> int:
        """Sheets that it took off the shelf."""
        taken = 0 if self.came_out is CameOut.NOT_RUN else self.sheets
        return max(0, taken - 1) if self.from_offcut else taken

    def has(self, what: Spoilt) -> bool:
        return any(one.what is what for one in self.spoilt)


def check_run(run: Run) -> None:
    """Refuse a run that nobody could have logged, from wherever it comes.

    Raises
    ------
    BadInput
        If what it says does not go together.
    """
    if any(one.placement >= run.pieces for one in run.spoilt):
        raise BadInput(f"a spoilt piece is named that does not lie on this sheet of {run.pieces}", "spoilt")
    if (run.came_out is CameOut.SPOILED) != bool(run.spoilt):
        raise BadInput(f"“{run.came_out.value}” and {len(run.spoilt)} spoilt pieces do not go together", "came_out")
    if run.cause is not None and run.cause not in CAUSE_BY_KEY:
        raise BadInput(f"there is no cause “{run.cause[:40]}”; `vamper diagnose --codes` lists them", "cause")
    kinds = [check.kind for check in run.later]
    if len(set(kinds)) < len(kinds):
        raise BadInput("a look at it later is named twice", "later")


def outcome_of(spoilt: Iterable[SpoiltPiece], pieces: int) -> Outcome:
    """The outcome of the cut of `pieces` on however many sheets: clean unless a third of them say otherwise.

    A force that is wrong is wrong for most of a sheet; a single piece has causes of its own.
    """
    counts = Counter(_AS_OUTCOME[one.what] for one in spoilt if one.what in _AS_OUTCOME)
    if not counts or pieces == 0:
        return Outcome.CLEAN
    outcome, many = counts.most_common(1)[0]
    return outcome if many * 3 >= pieces else Outcome.CLEAN


def symptoms_of(run: Run) -> tuple[str, ...]:
    """The symptoms seen on a run, in the words of the diagnosis, the commonest first."""
    counts = Counter(one.what for one in run.spoilt)
    whole = run.pieces * run.sheets
    return tuple((SYMPTOM_OF_ALL if many >= whole else SYMPTOM_OF)[what] for what, many in counts.most_common())
