"""The job file: a whole job as JSON, lengths in mm, read strictly.

The models here are also what the web interface sends, so that a field has one name, one range and one meaning.
Unknown fields are errors that name them. Paths of art stay inside the job file's folder.
"""

import json
from typing import Annotated, Any, Literal, Self

from pydantic import Field, ValidationError, field_validator, model_validator

from vamper.core.devices import Cutter, Feed, ForceRange, Margins, Printer, PrinterKind
from vamper.core.findings import BadInput
from vamper.core.job import (
    MOST_PIECES,
    Cut,
    EdgeKind,
    EdgeSpec,
    ItemSpec,
    Job,
    MarkFamily,
    MarksSpec,
    PackingSpec,
    Paper,
    Preparation,
    Purpose,
    RingSpec,
    SizedOver,
    SizeSpec,
    Turn,
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

FORMAT = "vamper-job"
VERSION = 1


class PaperModel(Strict):
    width_mm: Length
    height_mm: Length

    def to_core(self) -> Paper:
        return Paper(self.width_mm, self.height_mm)


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


class CutterModel(Strict):
    feed: Feed = Feed.MAT
    reach_mm: ReachModel = ReachModel()
    force_gf: ForceModel = ForceModel()

    def to_core(self) -> Cutter:
        f = self.force_gf
        return Cutter(self.feed, self.reach_mm.width, self.reach_mm.height, ForceRange(f.min, f.max, f.step))


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
    mode: Literal["mixed"] = "mixed"
    fill: Literal[False] = False
    max_sheets: Annotated[int, Field(ge=1, le=1000)] | None = None

    def to_core(self) -> PackingSpec:
        return PackingSpec(self.gap_mm, self.turn, self.max_sheets)


class SizedModel(Strict):
    """Width, height or longest side of the inked area (or of the piece with its border), exactly one of them."""

    width_mm: Length | None = None
    height_mm: Length | None = None
    longest_mm: Length | None = None
    size_over: SizedOver = SizedOver.INK
    quantity: Annotated[int, Field(ge=1, le=MOST_PIECES)] = 1
    cut: Cut = Cut.KISS
    edge: EdgeModel = EdgeModel()
    prepare: PrepareModel = PrepareModel()
    loose: bool = False
    bleed_mm: Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)] | None = None

    @model_validator(mode="after")
    def _one_size(self) -> Self:
        if sum(side is not None for side in (self.width_mm, self.height_mm, self.longest_mm)) != 1:
            raise ValueError("give either width_mm or height_mm or longest_mm, exactly one of them")
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
        )


class ItemModel(SizedModel):
    art: Annotated[str, Field(min_length=1, max_length=500)]

    @field_validator("art")
    @classmethod
    def _stays_inside(cls, value: str) -> str:
        return inside_folder(value)


class JobFile(Strict):
    """A job as it is written to a file."""

    format: Literal["vamper-job"]
    version: Literal[1]
    title: Annotated[str, Field(max_length=200)] = "Untitled job"
    paper: PaperModel
    printer: PrinterModel = PrinterModel()
    cutter: CutterModel = CutterModel()
    marks: MarksModel = MarksModel()
    stock: str
    purpose: Purpose = Purpose.VEHICLE
    packing: PackingModel = PackingModel()
    items: Annotated[tuple[ItemModel, ...], Field(max_length=1000)] = ()
    composed: Annotated[tuple[ComposedModel, ...], Field(max_length=100)] = ()

    @model_validator(mode="after")
    def _holds_something(self) -> Self:
        if not self.items and not self.composed:
            raise ValueError("items: needs at least one entry")
        return self

    @field_validator("paper", mode="before")
    @classmethod
    def _named_paper(cls, value: Any) -> Any:
        if isinstance(value, str):
            paper = NAMED_PAPERS.get(value.lower())
            if paper is None:
                raise ValueError(f"no paper is called “{value}”; known are {', '.join(NAMED_PAPERS)}")
            return PaperModel(width_mm=paper.width_mm, height_mm=paper.height_mm)
        return value

    @field_validator("stock")
    @classmethod
    def _known_stock(cls, value: str) -> str:
        if value not in STOCK_BY_KEY:
            raise ValueError(f"no stock is called “{value}”; known are {', '.join(STOCK_BY_KEY)}")
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
            items=tuple(item.spec(item.art) for item in self.items),
            composed=tuple(composed.to_core() for composed in self.composed),
        )


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


def sentence_of(error: ValidationError) -> BadInput:
    """The first thing wrong, as one sentence that names its field."""
    first = error.errors(include_url=False, include_context=True)[0]
    where = ".".join(str(part) for part in first["loc"])
    kind, context = first["type"], first.get("ctx", {})
    sentences = {
        "extra_forbidden": "this field is unknown; check its spelling or leave it out",
        "missing": "this field is missing",
        "greater_than": f"must be greater than {context.get('gt')}",
        "greater_than_equal": f"must be at least {context.get('ge')}",
        "less_than_equal": f"must be at most {context.get('le')}",
        "enum": f"must be one of {context.get('expected')}",
        "literal_error": f"must be {context.get('expected')}",
        "too_short": "needs at least one entry",
        "finite_number": "must be a finite number",
        "string_pattern_mismatch": "must look like #RRGGBB",
    }
    message = sentences.get(kind) or str(context.get("error") or first["msg"])
    return BadInput(message, where)


def job_document(job: Job) -> dict[str, Any]:
    """A job as the data of a job file; the inverse of `read_job`."""
    paper: Any = name_of(job.paper) or {"width_mm": job.paper.width_mm, "height_mm": job.paper.height_mm}
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
            "mode": "mixed",
            "fill": False,
            "max_sheets": job.packing.max_sheets,
        },
        "items": [_item_document(item) for item in job.items],
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
    }


def write_job(job: Job) -> bytes:
    return json.dumps(job_document(job), indent=2, ensure_ascii=False).encode() + b"\n"


def job_schema() -> dict[str, Any]:
    """The JSON Schema of a job file, published with the documentation."""
    return JobFile.model_json_schema()
