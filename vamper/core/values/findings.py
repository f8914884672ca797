"""What a station found: never an exception, always a sentence a person can act on.

A `Finding` has a code (`station.subject`), a severity, the figures behind it, the place it is about and,
where one action can help, a `Fix`: the change to make, as data, so that whoever shows it can apply it.
`BadInput` is for files and values that cannot be worked with at all; its message is shown as it stands.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Self

from vamper.core.values.answers import OF_DESIGN, OF_JOB, Answerable


class BadInput(ValueError):
    """A file or value that cannot be used. The message is one sentence for people.

    Parameters
    ----------
    sentence : str
        What is wrong and what to do about it.
    where : str
        The field or file it is about, "" where there is none.
    """

    def __init__(self, sentence: str, where: str = "") -> None:
        super().__init__(f"{where}: {sentence}" if where else sentence)
        self.sentence = sentence
        self.where = where


class Severity(StrEnum):
    """How much a finding matters, most serious first."""

    STOP = "stop"
    LOOK = "look"
    NOTE = "note"

    @property
    def rank(self) -> int:
        return list(Severity).index(self)


class Station(StrEnum):
    """Where something is decided, in the order of the work."""

    ART = "art"
    EDGE = "edge"
    SHEET = "sheet"
    MARKS = "marks"
    PRINT = "print"
    CUT = "cut"
    DRY_RUN = "dry-run"
    FINISH = "finish"


class FixTarget(StrEnum):
    """The thing that a fix changes: the item the finding is about, or the job; or that it splits the item into several
    designs, one for each drawing in it or one for each colour, or makes it in parts.
    """

    ITEM = "item"
    JOB = "job"
    SPLIT = "split"
    COLOURS = "colours"
    TILES = "tiles"
    CUP = "cup"


@dataclass(frozen=True, slots=True)
class Fix:
    """One action that answers a finding.

    `changes` holds the fields to set on the target, dotted where nested ("edge.distance_mm"); for a split, how far
    apart drawings are (`apart_mm`). What is found stays where a fix is `meant`: taking it is the answer to that.
    """

    label: str
    effect: str
    target: FixTarget
    changes: Mapping[str, object]
    meant: bool = field(default=False, repr=False)


@dataclass(frozen=True, slots=True)
class Place:
    """A box on an item (item frame) or a sheet (sheet frame), mm."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float

    @classmethod
    def of_bounds(cls, bounds: tuple[float, float, float, float]) -> Self:
        """The box with a least x and y and a greatest x and y, mm."""
        left, top, right, bottom = bounds
        return cls(left, top, right - left, bottom - top)


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing found at one place, with its figures.

    Parameters
    ----------
    code, severity : str, Severity
        What it is, as a code whose first part names a station, and how serious it is.
    title, text : str
        A heading, and a sentence that says what it is and what to do.
    figures : mapping of str to float
        The figures in the sentence.
    item, sheet : int or None
        The design's number, and the sheet counted from 0.
    places : tuple of Place
        Where it is.
    fixes : tuple of Fix
        What can be done about it at a press.
    station : Station
        Where it is answered: by default that of its code.
    meant : bool
        The maker has answered it: it is quiet and stops nothing.
    """

    code: str
    severity: Severity
    title: str
    text: str
    figures: Mapping[str, float] = field(default_factory=dict)
    item: int | None = None
    sheet: int | None = None
    places: tuple[Place, ...] = ()
    fixes: tuple[Fix, ...] = ()
    station: Station = None  # type: ignore[assignment]
    # Not of what was found, but of who looked at it.
    meant: bool = field(default=False, repr=False)

    def answer(self) -> Answerable | None:
        """How it can be answered; None for notes, and for what is no matter of taste or knowledge."""
        found = (OF_JOB if self.item is None else OF_DESIGN).get(self.code)
        if found is None or self.severity is Severity.NOTE or (self.severity is Severity.STOP and not found.stops):
            return None
        return found

    def stops(self) -> bool:
        """Whether the sheet would be spoiled, and nobody said that it is meant so."""
        return self.severity is Severity.STOP and not self.meant

    def __post_init__(self) -> None:
        if self.station is None:
            object.__setattr__(self, "station", Station(self.code.partition(".")[0]))


def most_serious_first(findings: Iterable[Finding]) -> list[Finding]:
    """The same findings in the order a person should read them, what was answered last; stable within a severity."""
    return sorted(findings, key=lambda finding: (finding.meant, finding.severity.rank))


def with_answers(
    findings: Iterable[Finding], of_designs: Mapping[int, Sequence[str]], of_job: Sequence[str]
) -> Iterator[Finding]:
    """The findings with those marked that were answered, by the codes of each design and of the job."""
    for finding in findings:
        said = of_job if finding.item is None else of_designs.get(finding.item, ())
        yield replace(finding, meant=True) if finding.code in said and finding.answer() is not None else finding
