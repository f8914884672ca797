"""`plan.json` as one model: what it says, how it is written and read back, and its published JSON Schema.

Lengths are in mm, y down; designs go by their place in `items`, sheets count from 1. A field that is not set is left
out of the file; one that is set to nothing is there, and empty.
"""

import json
from collections.abc import Sequence
from dataclasses import asdict
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.marks.reading import ReadingCause
from vamper.core.printing.advice import PrintAdvice
from vamper.core.printing.ink import InkUse
from vamper.core.printing.page_box import page_for
from vamper.core.program.choices import Switch
from vamper.core.sheet.layout import WhyNot
from vamper.core.values.blade import Blade
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput, Severity
from vamper.core.values.geometry import Points, parts, ring_points
from vamper.core.values.job import Job
from vamper.core.values.lengths import in_unit
from vamper.core.values.placement import Pin
from vamper.core.values.reading import Remedy
from vamper.core.values.stock import Tack
from vamper.core.values.tried import Pressure
from vamper.formats.json_object import object_in
from vamper.formats.sentences import read_as

FORMAT: Literal["vamper-plan"] = "vamper-plan"
VERSION: Literal[1] = 1
# A tenth of a micrometre: finer than anything that follows, and stable to read.
DECIMALS = 4


class Strict(BaseModel):
    """Refuses fields it does not know."""

    model_config = ConfigDict(extra="forbid", frozen=True)


Pair = tuple[float, float]
Ring = list[Pair]


def ring_entry(points: Points) -> Ring:
    """A ring, shape (n, 2), as it is written."""
    return [(round(float(x), DECIMALS), round(float(y), DECIMALS)) for x, y in points]


def shape_entry(shape: BaseGeometry) -> "list[ShapePart]":
    """Polygons as shells with holes."""
    return [
        ShapePart(
            shell=ring_entry(ring_points(part.exterior)),
            holes=[ring_entry(ring_points(hole)) for hole in part.interiors],
        )
        for part in parts(shape)
    ]


def shape_in(entry: "Sequence[ShapePart]") -> MultiPolygon:
    """The inverse of `shape_entry`."""
    return MultiPolygon([Polygon(part.shell, part.holes) for part in entry])


class ShapePart(Strict):
    shell: Ring
    holes: list[Ring]


class MarkEntry(Strict):
    family: str
    x_mm: float
    y_mm: float
    shape: list[Ring]
    """Rings, filled even-odd."""


class ItemEntry(Strict):
    """Item frame: origin at the top left of the inked area's box, y down."""

    index: int
    art: str
    size_mm: Pair
    ppi: float
    cut: Cut
    finished_mm: Pair | None = None
    """After the oven; only there for film that shrinks."""
    outline: list[ShapePart]
    edge: list[ShapePart]


class PlacementEntry(Strict):
    """X = x + u·cos t − v·sin t, Y = y + u·sin t + v·cos t."""

    item: int
    x_mm: float
    y_mm: float
    turn_deg: float
    miss_mm: float
    """The miss that 95 of 100 such pieces stay under at its farthest edge point."""
    pin: Literal[Pin.KEPT, Pin.HAND, Pin.LOCKED] | None = None
    """Where it was not packed but held."""


class RectangleEntry(Strict):
    """The largest rectangle of a sheet that no piece reaches into."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


class RemedyEntry(Strict):
    key: Remedy
    text: str
    chance: float
    """Of the sheet, once it is taken."""


class OffsetsEntry(Strict):
    """How far runs moved the chance of a sheet, in its logit: by what is said of the machine, and of the stock."""

    machine: float
    stock: float
    runs: int


class ReadingEntry(Strict):
    """Whether the marks will be read: all of them, and each."""

    chance: float
    marks: list[float]
    cause: ReadingCause
    remedies: list[RemedyEntry]
    offsets: OffsetsEntry | None = None
    """Left out where no run was told."""


class PassEntry(Strict):
    """One pass of one loop."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)

    item: int
    placement: int
    """Its place among the sheet's placements, from 0."""
    hole: bool
    cut: Cut
    number: Annotated[int, Field(alias="pass", ge=1)]


class CutEntry(Strict):
    """The times of the sheet at the machine; travel is from its top left through all runs, not home."""

    length_mm: float
    """Of one pass, overcut included."""
    travel_mm: float
    lifts: int
    seconds: float
    parts: dict[str, float]
    """Its seconds: reading marks, cutting, corners, lifts, travel."""
    order: list[PassEntry]


class PictureEntry(Strict):
    """The picture for the machine's own program: its size, and its top left on the sheet as it is printed."""

    width_mm: float
    height_mm: float
    width_px: int
    height_px: int
    ppi: int
    at_mm: Pair


class SizeEntry(Strict):
    width: float
    height: float


class ProgramEntry(Strict):
    """The choices to make in the machine's own program, and why."""

    bleed: Switch
    mirror: Switch
    why: list[str]


class TellTaleEntry(Strict):
    """The drop that is cut before anything else: its box's top left, and its files."""

    x_mm: float
    y_mm: float
    size_mm: float
    files: dict[str, str]


class SheetEntry(Strict):
    number: Annotated[int, Field(ge=1)]
    used: float
    placements: list[PlacementEntry]
    files: dict[str, str]
    """The names of its files, by what they are (`print`, `cut_svg` …); what there is none of is left out."""
    ink: InkUse | None = None
    """Left out for stock that is not printed."""
    cut: CutEntry | None = None
    """Left out where no machine cuts."""
    tell_tale: TellTaleEntry | None = None
    """Left out where no machine cuts, nothing where no waste is left for it."""
    picture: PictureEntry | None = None
    """Left out where cut files lead the cut."""
    offcut_mm: RectangleEntry
    live_area_mm: list[ShapePart] | None = None
    """Of a first sheet that was used before; the job's own holds for all others."""
    stock_colour: str | None = None


class UnplacedEntry(Strict):
    item: int
    quantity: int
    reason: WhyNot


class BoundEntry(Strict):
    pieces_at_most: int
    sheets_at_least: int
    basis: Literal["area"]


class SettingEntry(Strict):
    blade: Blade
    force_gf: float | None = None
    """Left out where the machine's own program is set by names."""
    setting: str | None = None
    """The setting of the machine's own list, where it has one; nothing where none is typed yet, or left."""
    pressure: Pressure | None = None
    passes: int
    usable: float
    """The chance of a usable sheet with a look before it is unloaded."""
    at_first: float
    """The chance of a usable sheet without a second go."""
    speed_mm_s: float
    mat: Tack
    exposure_mm: float
    chance: float
    """Of a clean cut in a run, as far as is known."""
    why: list[str]


class PlaceEntry(Strict):
    """Where a finding is, in the frame of its design or its sheet."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


class FindingEntry(Strict):
    code: str
    severity: Severity
    title: str
    text: str
    figures: dict[str, float]
    item: int | None = None
    sheet: int | None = None
    places: tuple[PlaceEntry, ...] = ()
    can_be_meant: bool = False
    meant: bool = False


class PageEntry(Strict):
    """The page of the print files, where the sheet's top left lies on it, and the scale it was compensated for."""

    width_mm: float
    height_mm: float
    left_mm: float
    top_mm: float
    scale_x: float
    scale_y: float


def page_entry(job: Job) -> PageEntry:
    """The page of a job's print files."""
    page, scale = page_for(job.paper, job.printer), job.printer.scale
    return PageEntry(**asdict(page), scale_x=scale.x, scale_y=scale.y)


class StockEntry(Strict):
    key: str
    name: str
    colour: str


class PlanDocument(Strict):
    """A plan as it is written to a file."""

    format: Literal["vamper-plan"]
    version: Literal[1]
    title: str
    copies: int
    """How often its sheets are made."""
    paper_mm: Pair
    page: PageEntry
    stock: StockEntry
    live_area_mm: Ring
    marks: list[MarkEntry]
    items: list[ItemEntry]
    sheets: list[SheetEntry]
    unplaced: list[UnplacedEntry]
    bound: BoundEntry
    time_limited: bool
    settings: dict[Cut, SettingEntry]
    reading: ReadingEntry | None
    """Nothing where no sensor looks for marks."""
    program: ProgramEntry | None = None
    """Left out where cut files lead the cut, and the next too."""
    cover_trim_mm: SizeEntry | None = None
    """The largest laminate inside the program's marks; nothing where nobody measured them."""
    printing: PrintAdvice | None
    mirror: bool
    stopped: bool
    findings: list[FindingEntry]

    def write(self) -> bytes:
        """The file; lengths in sentences are written out in mm."""
        document = self.model_dump(mode="json", by_alias=True, exclude_unset=True)
        return in_unit(json.dumps(document, indent=1, ensure_ascii=False)).encode() + b"\n"

    @classmethod
    def read(cls, text: bytes) -> "PlanDocument":
        """A plan from the text of its file.

        Raises
        ------
        BadInput
            Names what cannot be used.
        """
        raw = object_in(text, "the plan")
        if raw.get("format") != FORMAT:
            raise BadInput("this is not a Vamper plan; take the plan.json of a hand-off", "format")
        return read_as(TypeAdapter(cls), raw)


def plan_schema() -> dict[str, Any]:
    """The JSON Schema of a plan."""
    return PlanDocument.model_json_schema()
