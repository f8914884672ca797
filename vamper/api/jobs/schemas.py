"""Jobs on the wire: lists, changes, the brief, the rail, findings, and the parts of a view."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from vamper.api.art.schemas import ItemOut
from vamper.api.cut.schemas import CutPart
from vamper.api.request_checks import Number
from vamper.api.sheet.schemas import LayoutPart, SheetPart
from vamper.core.values.findings import Fix, FixTarget, Place, Severity, Station
from vamper.core.values.job import MOST_ITEMS
from vamper.core.values.limits import ONE_LINE
from vamper.formats.art_in.art_zip import ZippedPicture
from vamper.services.brief.brief import Phrase
from vamper.services.brief.rail import StationFigure
from vamper.services.jobs.job_state import JobState
from vamper.services.packing.packing_service import PackingState


class ShelfIn(BaseModel):
    """Where a job stands on the shelf: put aside, and whether others are begun from it; what is not said stays."""

    model_config = ConfigDict(extra="forbid")

    archived: bool | None = None
    is_template: bool | None = None


class GlanceShape(BaseModel):
    """A design as a list of jobs shows it, in its own frame."""

    number: int
    path: str
    picture: str
    picture_box: Place


class GlanceOut(BaseModel):
    """A job at a glance: its fullest sheet, how many sheets there are and how often all of them are made."""

    width_mm: float
    height_mm: float
    colour: str
    sheets: int
    copies: int
    shapes: list[GlanceShape]
    pieces: list[float]
    """Four numbers a piece: its design, x, y (mm), and turn (degrees)."""


class NewJob(BaseModel):
    """Without a title, a job is named after the first art that comes into it."""

    title: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE] | None = None


class JobId(BaseModel):
    id: int


class KnownParts(BaseModel):
    """The revisions of the parts of a view that the asker has already: these parts are not drawn again."""

    sheet: Annotated[str, Field(max_length=64)] = ""
    layout: Annotated[str, Field(max_length=64)] = ""
    cut: Annotated[str, Field(max_length=64)] = ""
    designs: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=2 * MOST_ITEMS)] = []


NOTHING_KNOWN = KnownParts()


class Change(BaseModel):
    """Fields to set, dotted where nested: on the job, or on the items that `numbers` names; with fields of the job, the
    fields `each` of every item.
    """

    label: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE]
    numbers: Annotated[list[Number], Field(max_length=1000)] | None = None
    changes: Annotated[dict[str, Any], Field(max_length=100)]
    each: Annotated[dict[str, Any], Field(max_length=100)] = {}
    known: KnownParts = NOTHING_KNOWN


class FixIn(BaseModel):
    """A fix that a finding offers, as it was offered, and the design that the finding is about."""

    label: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE]
    target: FixTarget
    changes: Annotated[dict[str, Any], Field(max_length=100)]
    item_number: Number | None = None
    known: KnownParts = NOTHING_KNOWN


class FixOfDesign(BaseModel):
    """The fields that a fix sets on one design."""

    item_number: Number
    changes: Annotated[dict[str, Any], Field(max_length=100)]


class FixEachIn(BaseModel):
    """A fix taken for some designs at once; with `keep`, for designs that come in later too. Where
    `fix_is_meant`, taking it answers the finding.
    """

    label: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE]
    code: Annotated[str, Field(min_length=1, max_length=40), ONE_LINE]
    each: Annotated[list[FixOfDesign], Field(min_length=1, max_length=1000)]
    keep: bool = False
    fix_is_meant: bool = False
    known: KnownParts = NOTHING_KNOWN


class AnswerIn(BaseModel):
    """“I mean it” to a finding, or its taking back: of some designs, or of the job where none are named."""

    code: Annotated[str, Field(min_length=1, max_length=40), ONE_LINE]
    item_numbers: Annotated[list[Number], Field(min_length=1, max_length=1000)] | None = None
    meant: bool = True
    keep: bool = False
    known: KnownParts = NOTHING_KNOWN


class ArtZipOut(BaseModel):
    """A zip that came in: its pictures, and the names of what is none."""

    number: int
    pictures: list[ZippedPicture]
    left_out: list[str]


class ItemNumbers(BaseModel):
    numbers: Annotated[list[Number], Field(min_length=1, max_length=1000)]


class FindingOut(BaseModel):
    code: str
    severity: Severity
    station: Station
    title: str
    text: str
    figures: dict[str, float]
    item_number: int | None
    sheet: int | None
    places: tuple[Place, ...]
    fixes: list[Fix]
    answer: str | None
    """What is said where it is meant so; None where it cannot be answered."""
    meant: bool


class PackingOut(BaseModel):
    state: PackingState
    seconds_left: float
    seconds: float
    better_ago_s: float
    version: int
    layout: str
    """Names this layout; whoever moves a piece says which one they saw."""
    time_limited: bool
    held: int
    """Pieces that lie where a maker put them, or were kept since."""


class AddedArt(BaseModel):
    number: int
    name: str


class PackingEvent(BaseModel):
    """Sent whenever a job's packing moved on."""

    kind: Literal["packing"] = "packing"
    state: PackingState
    seconds_left: float
    version: int


class PartsOut(BaseModel):
    """The revisions of the parts of a view, and the parts that the asker did not have."""

    sheet: str
    designs: dict[int, str]
    """By the designs' numbers, in the job's order."""
    layout: str
    cut: str
    packing: PackingOut
    program_bleed: str | None
    """What the machine's own program does about bleed, and why; None where Vamper carries colour past the cut."""
    new_sheet: SheetPart | None
    new_layout: LayoutPart | None
    new_cut: CutPart | None
    new_designs: list[ItemOut]


class ViewOut(BaseModel):
    """A job as the screen shows it. `problem` is the sentence that says why there is no plan."""

    job: JobState
    brief: list[Phrase]
    stations: list[StationFigure]
    findings: list[FindingOut]
    problem: str | None
    parts: PartsOut | None
