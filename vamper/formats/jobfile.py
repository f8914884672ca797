"""The job file: a whole job as JSON, lengths in mm, read strictly.

The models here are also what the web interface sends, so that a field has one name, one range and one meaning.
Unknown fields are errors that name them. Paths of art stay inside the job file's folder.
"""

import json
from collections import Counter
from dataclasses import asdict, replace
from typing import Annotated, Any, Literal, Self

from pydantic import Field, ValidationError, field_validator, model_validator

from vamper.core.devices import Cutter, Feed, ForceRange, Margins, Printer, PrinterKind
from vamper.core.findings import BadInput
from vamper.core.job import (
    MOST_PIECES,
    Cut,
    EdgeKind,
    EdgeSpec,
    HeldPiece,
    ItemSpec,
    Job,
    MarkFamily,
    MarksSpec,
    PackingMode,
    PackingSpec,
    Paper,
    Pin,
    Preparation,
    Purpose,
    RingSpec,
    SizedOver,
    SizeSpec,
    Spent,
    Turn,
    filler_sizes,
    sized,
)
from vamper.core.plan import check_quantity
from vamper.core.sheet.papers import NAMED_PAPERS, name_of
from vamper.core.stocks import STOCK_BY_KEY
from vamper.formats.composition_model import ComposedModel
from vamper.formats.fields import (
    Colour,
    CropBox,
    Distance,
    Length,
    LiftTolerance,
    PageNumber,
    Share,
    Strict,
    inside_folder,
)
from vamper.formats.safe_text import ONE_LINE
from vamper.formats.sentences import sentence_of

FORMAT = "vamper-job"
VERSION = 1


class SpentModel(Strict):
    """The rectangle of a part-used first sheet that is gone, from its top left."""

    left_mm: Distance = 0.0
    top_mm: Distance = 0.0
    width_mm: Length
    height_mm: Length

    def to_core(self) -> Spent:
        return Spent(**self.model_dump())


class PaperModel(Strict):
    width_mm: Length
    height_mm: Length
    spent: SpentModel | None = None

    def to_core(self) -> Paper:
        return Paper(self.width_mm, self.height_mm, self.spent.to_core() if self.spent else None)


class MarginsModel(Strict):
    top: Distance = 3.0
    right: Distance = 3.0
    bottom: Distance = 5.0
    left: Distance = 3.0


class PrinterModel(Strict):
    kind: PrinterKind = PrinterKind.INKJET
    margins_mm: MarginsModel = MarginsModel()

    def to_core(self) -> Printer:
        m = self.margins_mm
        return Printer(self.kind, Margins(m.top, m.right, m.bottom, m.left))


class ReachModel(Strict):
    width: Length = 310.0
    height: Length = 420.0


class ForceModel(Strict):
    min: Annotated[float, Field(gt=0, le=5000)] = 20.0
    max: Annotated[float, Field(gt=0, le=5000)] = 380.0
    step: Annotated[float, Field(gt=0, le=500)] = 4.0

    @model_validator(mode="after")
    def _rising(self) -> Self:
        if self.max <= self.min:
            raise ValueError("max must be greater than min")
        return self


class MatModel(Strict):
    width: Length
    height: Length


class CutterModel(Strict):
    """`head_mm` and `tail_mm` are the strips under the rollers of a roller-fed cutter, `mat_mm` the window of the mat
    of a mat-fed one. `feed: hand` is no machine: guide lines and trim ticks are printed, and rows are straight.
    """

    feed: Feed = Feed.MAT
    reach_mm: ReachModel = ReachModel()
    force_gf: ForceModel = ForceModel()
    head_mm: Distance = 0.0
    tail_mm: Distance = 0.0
    mat_mm: MatModel | None = None
    acceleration_mm_s2: Annotated[float, Field(ge=100, le=100_000, allow_inf_nan=False)] = 3000.0
    """Bounds the speed round a bend."""

    def to_core(self) -> Cutter:
        f, mat = self.force_gf, self.mat_mm
        return Cutter(
            self.feed,
            self.reach_mm.width,
            self.reach_mm.height,
            ForceRange(f.min, f.max, f.step),
            acceleration_mm_s2=self.acceleration_mm_s2,
            head_mm=self.head_mm,
            tail_mm=self.tail_mm,
            mat_width_mm=mat.width if mat else None,
            mat_height_mm=mat.height if mat else None,
        )


class MarksModel(Strict):
    family: MarkFamily = MarkFamily.CORNER
    count: Literal[3, 4] = 4
    size_mm: Annotated[float, Field(gt=0, le=100)] = 10.0
    stroke_mm: Annotated[float, Field(gt=0, le=10)] = 0.8
    inset_mm: Annotated[float, Field(ge=0, le=200)] = 8.0
    clear_mm: Annotated[float, Field(ge=0, le=50)] = 2.0

    @model_validator(mode="after")
    def _arms_hold_stroke(self) -> Self:
        if self.stroke_mm >= self.size_mm:
            raise ValueError("stroke_mm must be less than size_mm")
        return self

    def to_core(self) -> MarksSpec:
        return MarksSpec(**self.model_dump())


HolePoint = Annotated[tuple[Share, ...], Field(min_length=2, max_length=2)]


class RingModel(Strict):
    width_mm: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)]
    colour: Colour | None = None


class EdgeModel(Strict):
    """How the edge is derived. `distance_mm` is 0 or less for `bare`, 0 or more for every other kind."""

    kind: EdgeKind = EdgeKind.FOLLOW
    distance_mm: Annotated[float, Field(ge=-20, le=50, allow_inf_nan=False)] = 3.0
    smooth_mm: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 2.0
    fill_holes: bool = True
    join: bool = True
    corner_mm: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 3.0
    colour: Colour | None = None
    blunt_mm: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 0.0
    keep_holes: Annotated[tuple[HolePoint, ...], Field(max_length=200)] = ()
    rings: Annotated[tuple[RingModel, ...], Field(max_length=6)] = ()

    @model_validator(mode="before")
    @classmethod
    def _bare_has_no_border(cls, data: Any) -> Any:
        """`bare` alone means on the outline."""
        if isinstance(data, dict) and data.get("kind") == EdgeKind.BARE and "distance_mm" not in data:
            return {**data, "distance_mm": 0.0}
        return data

    @model_validator(mode="after")
    def _distance_suits_kind(self) -> Self:
        if self.kind is EdgeKind.BARE and (self.distance_mm > 0 or self.rings):
            raise ValueError("bare runs on the outline or inside it: give a distance_mm of 0 or less, and no rings")
        if self.kind is not EdgeKind.BARE and self.distance_mm < 0:
            raise ValueError("only bare takes a negative distance_mm")
        return self

    def to_core(self) -> EdgeSpec:
        rings = tuple(RingSpec(ring.width_mm, ring.colour) for ring in self.rings)
        return EdgeSpec(**{**self.model_dump(exclude={"rings"}), "rings": rings})


class PrepareModel(Strict):
    """What is done to the picture before its outline is taken."""

    page: PageNumber = 1
    threshold: Annotated[float, Field(ge=0.05, le=0.95, allow_inf_nan=False)] = 0.5
    lift_de: LiftTolerance | None = None
    crop: CropBox | None = None

    @model_validator(mode="after")
    def _crop_has_room(self) -> Self:
        if self.crop and (self.crop[0] >= self.crop[2] or self.crop[1] >= self.crop[3]):
            raise ValueError("crop is left, top, right, bottom: right and bottom must be the greater ones")
        return self

    def to_core(self) -> Preparation:
        return Preparation(**self.model_dump())


class PackingModel(Strict):
    gap_mm: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 2.0
    turn: Turn = Turn.ANY
    mode: PackingMode = PackingMode.MIXED
    fill: bool = False
    max_sheets: Annotated[int, Field(ge=1, le=1000)] | None = None

    def to_core(self) -> PackingSpec:
        return PackingSpec(self.gap_mm, self.turn, self.max_sheets, self.mode, self.fill)


class PlacedModel(Strict):
    """One piece that lies where it is; the others are packed round it. `sheet` counts from 1, and the placement is
    that of a plan. `kept` ones are let go when everything is packed again, `hand` and `locked` ones stay.
    """

    item: Annotated[int, Field(ge=0)]
    sheet: Annotated[int, Field(ge=1, le=1000)] = 1
    x_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    y_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    turn_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    pin: Literal[Pin.KEPT, Pin.HAND, Pin.LOCKED] = Pin.HAND

    def to_core(self) -> HeldPiece:
        return HeldPiece(self.item, self.sheet - 1, self.x_mm, self.y_mm, self.turn_deg, self.pin)


class SizedModel(Strict):
    """Width, height or longest side of the inked area (or of the piece with its border), exactly one of them."""

    width_mm: Length | None = None
    height_mm: Length | None = None
    longest_mm: Length | None = None
    size_over: SizedOver = SizedOver.INK
    quantity: Annotated[int, Field(ge=0, le=MOST_PIECES)] = 1
    cut: Cut = Cut.KISS
    edge: EdgeModel = EdgeModel()
    prepare: PrepareModel = PrepareModel()
    loose: bool = False
    bleed_mm: Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)] | None = None
    turn: Turn | None = None
    """Overrides the job's turn rule."""
    wish: Annotated[int, Field(ge=1, le=1000)] | None = None
    """More copies are fine where `packing.fill` finds room: 1 is the most wanted."""
    sheet_colour: Colour | None = None
    """It lies on sheets of this colour only."""

    @model_validator(mode="after")
    def _one_size(self) -> Self:
        if sum(side is not None for side in (self.width_mm, self.height_mm, self.longest_mm)) != 1:
            raise ValueError("give either width_mm or height_mm or longest_mm, exactly one of them")
        return self

    @model_validator(mode="after")
    def _is_wanted(self) -> Self:
        if self.quantity == 0 and self.wish is None:
            raise ValueError("quantity: must be at least 1, or 0 with a wish for extra copies")
        return self

    def spec(self, art: str) -> ItemSpec:
        return ItemSpec(
            art=art,
            size=SizeSpec(self.width_mm, self.height_mm, self.longest_mm, self.size_over),
            quantity=self.quantity,
            cut=self.cut,
            edge=self.edge.to_core(),
            prepare=self.prepare.to_core(),
            loose=self.loose,
            bleed_mm=self.bleed_mm,
            turn=self.turn,
            wish=self.wish,
            sheet_colour=self.sheet_colour,
        )


class ItemModel(SizedModel):
    art: Annotated[str, Field(min_length=1, max_length=500)]
    back_of: Annotated[int, Field(ge=0)] | None = None
    """The item (by its place in `items`) whose back this is; it is cut to that one's mirrored edge."""
    sizes_mm: tuple[Length, Length] | None = None
    """A filler: any longest side between these; offered large to small, its own size is not used."""

    @field_validator("art")
    @classmethod
    def _stays_inside(cls, value: str) -> str:
        return inside_folder(value)


class JobFile(Strict):
    """A job as it is written to a file."""

    format: Literal["vamper-job"]
    version: Literal[1]
    title: Annotated[str, Field(max_length=200), ONE_LINE] = "Untitled job"
    paper: PaperModel
    printer: PrinterModel = PrinterModel()
    cutter: CutterModel = CutterModel()
    marks: MarksModel = MarksModel()
    stock: str
    purpose: Purpose = Purpose.VEHICLE
    packing: PackingModel = PackingModel()
    items: Annotated[tuple[ItemModel, ...], Field(max_length=1000)] = ()
    composed: Annotated[tuple[ComposedModel, ...], Field(max_length=100)] = ()
    placed: Annotated[tuple[PlacedModel, ...], Field(max_length=MOST_PIECES)] = ()
    scale_to_fill: Annotated[int, Field(ge=1, le=50)] | None = None
    """All sizes are scaled together to the largest at which everything fits on so many sheets."""

    @model_validator(mode="after")
    def _holds_something(self) -> Self:
        if not self.items and not self.composed:
            raise ValueError("items: needs at least one entry")
        return self

    @model_validator(mode="after")
    def _names_its_items(self) -> Self:
        """What points at an item points at one that is there."""
        for number, item in enumerate(self.items):
            if item.back_of is None:
                continue
            if item.back_of >= len(self.items) or item.back_of == number:
                raise ValueError(f"items.{number}.back_of: names no other item")
            if self.items[item.back_of].back_of is not None:
                raise ValueError(f"items.{number}.back_of: names an item that is a back itself")
        counts = Counter(one.item for one in self.placed)
        for index, count in counts.items():
            if index >= len(self.items):
                raise ValueError(f"placed: there is no item {index}")
            if count > self.items[index].quantity:
                raise ValueError(
                    f"placed: {count} pieces of item {index} lie on sheets, its quantity is "
                    f"{self.items[index].quantity}; raise the quantity"
                )
        return self

    @field_validator("paper", mode="before")
    @classmethod
    def _named_paper(cls, value: Any) -> Any:
        if isinstance(value, str):
            paper = NAMED_PAPERS.get(value.lower())
            if paper is None:
                raise ValueError(f"no paper is called “{value[:40]}”; known are {', '.join(NAMED_PAPERS)}")
            return PaperModel(width_mm=paper.width_mm, height_mm=paper.height_mm)
        return value

    @field_validator("stock")
    @classmethod
    def _known_stock(cls, value: str) -> str:
        if value not in STOCK_BY_KEY:
            raise ValueError(f"no stock is called “{value[:40]}”; known are {', '.join(STOCK_BY_KEY)}")
        return value

    def to_core(self) -> Job:
        return Job(
            title=self.title,
            paper=self.paper.to_core(),
            printer=self.printer.to_core(),
            cutter=self.cutter.to_core(),
            marks=self.marks.to_core(),
            stock=STOCK_BY_KEY[self.stock],
            purpose=self.purpose,
            packing=self.packing.to_core(),
            items=self._specs(),
            composed=tuple(composed.to_core() for composed in self.composed),
            held=tuple(one.to_core() for one in self.placed),
            scale_to_fill=self.scale_to_fill,
        )

    def _specs(self) -> tuple[ItemSpec, ...]:
        """All items; fillers of a range of sizes come last, one for each size that is offered."""
        specs, fillers = [], []
        for item in self.items:
            specs.append(replace(item.spec(item.art), back_of=item.back_of))
            if item.sizes_mm is not None:
                sizes = filler_sizes(*item.sizes_mm)
                specs[-1] = sized(specs[-1], sizes[0])
                fillers += [replace(sized(specs[-1], size), quantity=0) for size in sizes[1:]]
        return (*specs, *fillers)


def read_job(text: str | bytes) -> Job:
    """A job from the text of a job file.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    try:
        raw = json.loads(text)
    except (json.JSONDecodeError, UnicodeDecodeError) as error:
        at = f" in line {error.lineno}" if isinstance(error, json.JSONDecodeError) else ""
        raise BadInput(f"the job file is not valid JSON{at}") from None
    except RecursionError:
        raise BadInput("the job file is nested too deeply") from None
    if not isinstance(raw, dict):
        raise BadInput("the job file must hold one JSON object")
    try:
        job = JobFile.model_validate(raw).to_core()
    except ValidationError as error:
        raise sentence_of(error) from None
    check_quantity(job)
    return job


def read_item(raw: dict[str, Any]) -> ItemSpec:
    """One item from the data of a job file.

    Raises
    ------
    BadInput
        Names the field that cannot be used, and what it should be.
    """
    try:
        item = ItemModel.model_validate(raw)
    except ValidationError as error:
        raise sentence_of(error) from None
    return item.spec(item.art)


def job_document(job: Job) -> dict[str, Any]:
    """A job as the data of a job file; the inverse of `read_job`."""
    paper: Any = {"width_mm": job.paper.width_mm, "height_mm": job.paper.height_mm}
    if job.paper.spent is not None:
        paper["spent"] = asdict(job.paper.spent)
    elif (name := name_of(job.paper)) is not None:
        paper = name
    margins, force, marks = job.printer.margins, job.cutter.force, job.marks
    return {
        "format": FORMAT,
        "version": VERSION,
        "title": job.title,
        "paper": paper,
        "printer": {
            "kind": job.printer.kind.value,
            "margins_mm": {
                "top": margins.top_mm,
                "right": margins.right_mm,
                "bottom": margins.bottom_mm,
                "left": margins.left_mm,
            },
        },
        "cutter": {
            "feed": job.cutter.feed.value,
            "reach_mm": {"width": job.cutter.reach_width_mm, "height": job.cutter.reach_height_mm},
            "force_gf": {"min": force.min_gf, "max": force.max_gf, "step": force.step_gf},
            "head_mm": job.cutter.head_mm,
            "tail_mm": job.cutter.tail_mm,
            "acceleration_mm_s2": job.cutter.acceleration_mm_s2,
            "mat_mm": (
                {"width": job.cutter.mat_width_mm, "height": job.cutter.mat_height_mm}
                if job.cutter.mat_width_mm and job.cutter.mat_height_mm
                else None
            ),
        },
        "marks": {
            "family": marks.family.value,
            "count": marks.count,
            "size_mm": marks.size_mm,
            "stroke_mm": marks.stroke_mm,
            "inset_mm": marks.inset_mm,
            "clear_mm": marks.clear_mm,
        },
        "stock": job.stock.key,
        "purpose": job.purpose.value,
        "packing": {
            "gap_mm": job.packing.gap_mm,
            "turn": job.packing.turn.value,
            "mode": job.packing.mode.value,
            "fill": job.packing.fill,
            "max_sheets": job.packing.max_sheets,
        },
        "items": [_item_document(item) for item in job.items],
        "placed": [
            {
                "item": one.item,
                "sheet": one.sheet + 1,
                "x_mm": one.x_mm,
                "y_mm": one.y_mm,
                "turn_deg": one.turn_deg,
                "pin": one.pin.value,
            }
            for one in job.held
        ],
    }


def _item_document(item: ItemSpec) -> dict[str, Any]:
    size, edge, prepare = item.size, item.edge, item.prepare
    sides = {"width_mm": size.width_mm, "height_mm": size.height_mm, "longest_mm": size.longest_mm}
    return {
        "art": item.art,
        **{name: side for name, side in sides.items() if side is not None},
        "size_over": size.over.value,
        "quantity": item.quantity,
        "cut": item.cut.value,
        "edge": {
            "kind": edge.kind.value,
            "distance_mm": edge.distance_mm,
            "smooth_mm": edge.smooth_mm,
            "fill_holes": edge.fill_holes,
            "join": edge.join,
            "corner_mm": edge.corner_mm,
            "colour": edge.colour,
            "blunt_mm": edge.blunt_mm,
            "keep_holes": [list(point) for point in edge.keep_holes],
            "rings": [{"width_mm": ring.width_mm, "colour": ring.colour} for ring in edge.rings],
        },
        "prepare": {
            "page": prepare.page,
            "threshold": prepare.threshold,
            "lift_de": prepare.lift_de,
            "crop": list(prepare.crop) if prepare.crop else None,
        },
        "loose": item.loose,
        "bleed_mm": item.bleed_mm,
        "turn": item.turn.value if item.turn else None,
        "wish": item.wish,
        "sheet_colour": item.sheet_colour,
        "back_of": item.back_of,
    }


def write_job(job: Job) -> bytes:
    return json.dumps(job_document(job), indent=2, ensure_ascii=False).encode() + b"\n"


def job_schema() -> dict[str, Any]:
    """The JSON Schema of a job file, published with the documentation."""
    return JobFile.model_json_schema()
