"""What goes over the wire, units in the names. Shapes travel as SVG path data in mm, y down."""

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from vamper.api.door import Id, Number
from vamper.core.findings import FixTarget, Severity
from vamper.core.job import Cut, MarkFamily, Pin
from vamper.core.sheet.arranging import Side, Way
from vamper.formats.composition_model import CompositionModel
from vamper.formats.jobfile import EdgeModel
from vamper.formats.safe_text import ONE_LINE
from vamper.services.document import JobDocument
from vamper.services.layouts import Origin
from vamper.services.machines import CutterProfile, PrinterProfile
from vamper.services.overview import Station, StationState
from vamper.services.packing_desk import PackingState
from vamper.services.scaling import ScaleState


class JobSummaryOut(BaseModel):
    id: int
    title: str
    pieces: int
    designs: int
    stock: str
    changed_at: datetime
    handed_off_at: datetime | None
    arts: list[str]


class NewJob(BaseModel):
    title: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE] = "New job"


class JobId(BaseModel):
    id: int


class JobOut(BaseModel):
    id: int
    document: JobDocument
    changed_at: datetime
    handed_off_at: datetime | None
    undo: str | None
    redo: str | None


class Change(BaseModel):
    """Fields to set, dotted where nested: on the job, or on the items that `numbers` names."""

    label: Annotated[str, Field(min_length=1, max_length=200), ONE_LINE]
    numbers: Annotated[list[Number], Field(max_length=1000)] | None = None
    changes: Annotated[dict[str, Any], Field(max_length=100)]


class ItemNumbers(BaseModel):
    numbers: Annotated[list[Number], Field(min_length=1, max_length=1000)]


class PlaceOut(BaseModel):
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


class FixOut(BaseModel):
    label: str
    effect: str
    target: FixTarget
    changes: dict[str, Any]


class FindingOut(BaseModel):
    code: str
    severity: Severity
    station: Station
    title: str
    text: str
    figures: dict[str, float]
    item_number: int | None
    sheet: int | None
    places: list[PlaceOut]
    fixes: list[FixOut]


class PhraseOut(BaseModel):
    text: str
    key: str | None


class StationOut(BaseModel):
    station: Station
    figure: str
    detail: str
    state: StationState


class BoundOut(BaseModel):
    name: str
    reason: str
    left_mm: float
    top_mm: float
    right_mm: float
    bottom_mm: float
    path: str


class SizeOut(BaseModel):
    width_mm: float
    height_mm: float


class ItemOut(BaseModel):
    """One design as planned, item frame: origin at the top left of the inked area's box."""

    number: int
    name: str
    art: str
    cut: Cut
    size: SizeOut
    edge_size: SizeOut
    edge_box: PlaceOut
    picture_box: PlaceOut
    ppi: float
    is_vector: bool
    picture: str
    """Address of the prepared picture; `&px=` and a number of pixels may follow."""
    pages: int
    composed: bool
    rings: list["RingOut"]
    holes: list["HoleOut"]
    bleed_mm: float
    bleed_path: str
    printed_box: PlaceOut | None
    """Where the picture of what is printed, bleed included, lies; None where there is no bleed."""
    look: str
    """Changes whenever what is printed changes; may be added to the address of the printed picture."""
    least_border_mm: float
    edge_length_mm: float
    area_cm2: float
    outline_path: str
    edge_path: str
    parts: int
    placed: int
    wanted: int


class RingOut(BaseModel):
    """One ring of the border with all inside it, outermost first; `colour` None for bare stock."""

    path: str
    colour: str | None


class HoleOut(BaseModel):
    """A hole of the drawing: whether the blade cuts it out, and the fields that change that."""

    path: str
    open: bool
    toggle: dict[str, Any]


class PlacementOut(BaseModel):
    item_number: int
    x_mm: float
    y_mm: float
    turn_deg: float
    pin: Pin = Pin.FREE


class SheetOut(BaseModel):
    placements: list[PlacementOut]
    used: float
    cut_length_mm: float
    nearest_mm: float | None
    path: str
    """The blade's way from loop to loop, as points x,y."""
    live_path: str
    """The live area of this very sheet; the first one may be used up in part."""
    colour: str | None
    """The colour of the stock that this sheet is cut from, where drawings are cut one colour a sheet."""
    guides: str
    """Guide lines and trim ticks, where the sheet is cut by hand."""


class UnplacedOut(BaseModel):
    item_number: int
    quantity: int
    reason: str


class SettingOut(BaseModel):
    cut: Cut
    used: bool
    blade: str
    force_gf: float
    passes: int
    speed_mm_s: float
    mat: str
    exposure_mm: float
    least_um: float
    target_um: float
    most_um: float
    reached_um: float
    depth_per_pass_um: list[float]
    machine_min_gf: float
    machine_max_gf: float
    clean_from_gf: float
    clean_to_gf: float
    why: list[str]


class StockOut(BaseModel):
    key: str
    name: str
    stock_class: str
    face_um: float
    backing_um: float
    faces: str
    colour: str
    printable: bool
    mirrored: bool


class MarkOut(BaseModel):
    family: MarkFamily
    x_mm: float
    y_mm: float
    path: str


class PackingOut(BaseModel):
    state: PackingState
    seconds_left: float
    seconds: float
    version: int
    layout: str
    """Names this layout; whoever moves a piece says which one they saw."""
    time_limited: bool
    held: int
    """Pieces that lie where a maker put them, or were kept since."""


class PlanOut(BaseModel):
    """Everything the screens show about a job that can be planned."""

    width_mm: float
    height_mm: float
    live_path: str
    live_size: SizeOut
    bounds: list[BoundOut]
    marks: list[MarkOut]
    items: list[ItemOut]
    sheets: list[SheetOut]
    unplaced: list[UnplacedOut]
    pieces_at_most: int
    sheets_at_least: int
    row_sheets: int
    row_pieces: int
    """What plain rows of boxes hold on as many sheets as the layout has."""
    extra_pieces: int
    offcut: PlaceOut
    """The largest free rectangle of the last sheet."""
    settings: list[SettingOut]
    stock: StockOut
    mirror: bool
    by_hand: bool
    """No machine cuts it: rows are straight, guide lines are printed."""
    packing: PackingOut


class ViewOut(BaseModel):
    """A job as the screen shows it. `problem` is the sentence that says why there is no plan."""

    job: JobOut
    brief: list[PhraseOut]
    stations: list[StationOut]
    findings: list[FindingOut]
    problem: str | None
    plan: PlanOut | None


class ChoiceOut(BaseModel):
    label: str
    consequence: str
    changes: dict[str, Any]
    chosen: bool
    proposed: bool


class AddedArt(BaseModel):
    number: int
    name: str


class NamedOut(BaseModel):
    """A choice in the catalog, with the words for it."""

    key: str
    name: str
    hint: str


class EdgeKindOut(NamedOut):
    """A kind of edge: the fields it uses beside its distance, and the range and start of that."""

    uses: list[str]
    least_mm: float
    most_mm: float
    start_mm: float


class Trial(BaseModel):
    """Fields of one design to try, dotted where nested."""

    changes: dict[str, Any]


class CandidateOut(BaseModel):
    name: str
    path: str
    box: PlaceOut
    area_cm2: float
    roughness: float
    fingers: int
    changes: dict[str, Any]


class ShapesOut(BaseModel):
    """What a border could be. `manner` is what Vamper proposes, close or smooth, and `why`."""

    roughness: float
    fingers_mm: list[float]
    area_cm2: float
    manner: str
    why: str
    candidates: list[CandidateOut]


class Apart(BaseModel):
    apart_mm: Annotated[float, Field(gt=0, le=3000)]


class GroupsOut(BaseModel):
    apart_mm: float
    boxes: list[PlaceOut]


class Composing(BaseModel):
    """A composition with the names as they were typed or read from a CSV file."""

    composition: CompositionModel
    names: Annotated[str, Field(max_length=100_000)] = ""
    title: Annotated[str, Field(min_length=1, max_length=80), ONE_LINE] = "label"
    quantity: Annotated[int, Field(ge=1, le=1000)] = 1
    cut: Cut = Cut.KISS


class OneComposed(BaseModel):
    """A composition for one name."""

    composition: CompositionModel
    name: Annotated[str, Field(max_length=80), ONE_LINE] = ""


class FontOut(BaseModel):
    family: str
    words: str


class NewEdgeStyle(BaseModel):
    name: Annotated[str, Field(min_length=1, max_length=60), ONE_LINE]
    edge: EdgeModel


class EdgeStyleOut(BaseModel):
    name: str
    edge: EdgeModel


class Limits(BaseModel):
    most_megabytes: int
    most_megapixels: int
    endings: list[str]


class CatalogOut(BaseModel):
    """The facts and choices the interface shows; known in one place, here."""

    edge_kinds: list[EdgeKindOut]
    cuts: list[NamedOut]
    turns: list[NamedOut]
    modes: list[NamedOut]
    feeds: list[NamedOut]
    printer_kinds: list[NamedOut]
    papers: list[NamedOut]
    nudge_mm: float
    far_nudge_mm: float
    mark_families: list[NamedOut]
    purposes: list[NamedOut]
    least_border_mm: float
    even_border_mm: float
    start_lift_de: float
    fonts: list[FontOut]
    limits: Limits


class PackingEvent(BaseModel):
    """Sent whenever a job's packing moved on."""

    kind: Literal["packing"] = "packing"
    state: PackingState
    seconds_left: float
    version: int


class HandPiece(BaseModel):
    """A piece in hand: which one of its sheet, and where it is."""

    index: Annotated[int, Field(ge=0)]
    x_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    y_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    turn_deg: Annotated[float, Field(ge=-3600, le=3600, allow_inf_nan=False)]


class HandCheck(BaseModel):
    """Pieces of `sheet` held over it."""

    layout: str
    sheet: Annotated[int, Field(ge=0)]
    pieces: Annotated[list[HandPiece], Field(min_length=1, max_length=200)]
    slide: bool = False


class DistanceOut(BaseModel):
    """From a neighbour (`other`) or, with None, the live area's rim to a piece in hand; the two nearest points."""

    other: int | None
    mm: float
    needed_mm: float
    broken: bool
    from_x_mm: float
    from_y_mm: float
    to_x_mm: float
    to_y_mm: float


class SlideOut(BaseModel):
    dx_mm: float
    dy_mm: float


class HandChecked(BaseModel):
    free: bool
    distances: list[DistanceOut]
    slide: SlideOut | None


class HandAction(BaseModel):
    """Something done to pieces of one sheet of the layout that was seen."""

    layout: str
    sheet: Annotated[int, Field(ge=0)]


class Drop(HandAction):
    action: Literal["drop"]
    pieces: Annotated[list[HandPiece], Field(min_length=1, max_length=200)]


class _OfPieces(HandAction):
    indexes: Annotated[list[Annotated[int, Field(ge=0)]], Field(min_length=1, max_length=1000)]


class Nudge(_OfPieces):
    action: Literal["nudge"]
    dx_mm: Annotated[float, Field(ge=-100, le=100)]
    dy_mm: Annotated[float, Field(ge=-100, le=100)]


class TurnPieces(_OfPieces):
    action: Literal["turn"]
    steps: Annotated[int, Field(ge=-24, le=24)]


class AlignPieces(_OfPieces):
    action: Literal["align"]
    side: Side


class SpacePieces(_OfPieces):
    action: Literal["space"]
    way: Way


class LockPieces(_OfPieces):
    action: Literal["lock"]
    locked: bool


class SendPieces(_OfPieces):
    action: Literal["send"]
    to_sheet: Annotated[int, Field(ge=0, lt=1000)]


class PlainAction(_OfPieces):
    action: Literal["swap", "duplicate", "take off"]


AnyAction = Annotated[
    Drop | Nudge | TurnPieces | AlignPieces | SpacePieces | LockPieces | SendPieces | PlainAction,
    Field(discriminator="action"),
]


class HandDone(BaseModel):
    """What came of it: where the pieces are now, and a sentence where that is not quite what was asked for."""

    job: JobOut
    sheet: int
    indexes: list[int]
    note: str


class SizeCountOut(BaseModel):
    """The largest size at which so many go on a sheet, and the most that areas would allow."""

    size_mm: float
    pieces: int
    at_most: int


class CountedOut(BaseModel):
    size_mm: float
    pieces: int
    rows: list[SizeCountOut]


class LayoutName(BaseModel):
    name: Annotated[str, Field(min_length=1, max_length=60), ONE_LINE]


class ComparedOut(BaseModel):
    """One layout of a job with its figures; `broken` counts rules that it would break by now."""

    name: str
    origin: Origin
    sheets: list[list[PlacementOut]]
    pieces: int
    used: float
    cut_length_mm: float
    broken: int
    saved_at: datetime | None


class ScaleToFill(BaseModel):
    sheets: Annotated[int, Field(ge=1, le=50)]


class ScalingOut(BaseModel):
    """`share` is how much of the search is done, `fits` the largest scale that fits so far."""

    state: ScaleState
    sheets: int
    fits: float | None
    trying: float | None
    share: float
    problem: str


class SourceOut(BaseModel):
    """A design that could fill what is left."""

    job_id: int
    job: str
    number: int
    name: str
    art: str
    own: bool


class FillWith(BaseModel):
    job_id: Id
    number: Number
    least_mm: Annotated[float, Field(ge=5, le=500)]
    most_mm: Annotated[float, Field(ge=5, le=500)]


class PrinterOut(BaseModel):
    id: int
    profile: PrinterProfile


class CutterOut(BaseModel):
    id: int
    profile: CutterProfile
