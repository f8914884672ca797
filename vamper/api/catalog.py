"""The facts and choices that the interface shows, each known once and told from here."""

from functools import cache

from pydantic import BaseModel, TypeAdapter

from vamper.api.cut.schemas import OffcutIn
from vamper.api.request_checks import router as door_router
from vamper.api.sheet.schemas import ScaleToFill
from vamper.core.art.prepare import START_LIFT_DE
from vamper.core.cutting.neighbours import BASES
from vamper.core.edge.kind import KINDS, SLIDERS_MM
from vamper.core.finishing.chain import CUPS
from vamper.core.ledger.rest import FEED_ERROR_MM
from vamper.core.marks.mark import FAMILIES
from vamper.core.sheet.pack.mode import MODES
from vamper.core.values.art import Preparation, Purpose
from vamper.core.values.blade import Blade
from vamper.core.values.composition import NAME, BasePlate, BaseShape, Composition, FreeBox, TextLine
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Mat
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.finish import BlankSpec, HeatSpec
from vamper.core.values.glossary import TERMS, Term
from vamper.core.values.item import Tabs, Turn
from vamper.core.values.lengths import size_mm
from vamper.core.values.marks import MarksSpec
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import NAMED_PAPERS, USUAL_PAPER, Paper
from vamper.core.values.printer import Ink, PageBox, Printer, PrinterKind, TrayFace
from vamper.core.values.reading import (
    BLACK_WORDS,
    ROOM_WORDS,
    ROOMS,
    SENSOR_WORDS,
    SENSORS,
    Black,
    RoomLight,
    Sensor,
    SensorWord,
)
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.stock import GROUP_OF, Tack
from vamper.core.values.tried import MOST_PASSES
from vamper.core.values.wrap import WrapSpec
from vamper.formats.art_in.art_file import MOST_BYTES, endings
from vamper.formats.art_in.raster import MOST_PIXELS
from vamper.services.brief.phrases.purpose import hint
from vamper.services.brief.words import (
    CALIBRATION_SCHOOL_WORDS,
    CUT_HINTS,
    FEED_WORDS,
    GROUND_WORDS,
    NARROW_SIDE_WORDS,
    OUTCOME_WORDS,
    PAGE_BOX_WORDS,
    PURPOSE_PHRASES,
    STOCK_CLASS_WORDS,
    TRAY_FACE_WORDS,
    TURN_PHRASES,
)
from vamper.services.shop.makes import FIRST_JOBS, Makes
from vamper.services.shop.measured import MACHINE_CHANGE_WORDS, CalibrationSchool
from vamper.services.shop.regions import REGIONS, Regions

router = door_router()

NUDGE_MM = 0.5
FAR_NUDGE_MM = 5.0
# What a new ring, and the window of a mat that is first measured, start with.
_START_RING = RingSpec(1.0, "#22303A")
_START_MAT = Mat(305.0, 305.0)
_START_SHRINK = ShrinkSpec(Bar(100.0, 25.0), Bar(45.0, 11.5))
_START_BLANK = BlankSpec(95.0, 95.0)
_START_IRON = HeatSpec(iron=True, width_mm=200.0, height_mm=110.0)
_START_COMPOSITION = Composition(
    BasePlate(BaseShape.ROUNDED, 60.0, 30.0, "#DCE8EA", 5.0), lines=(TextLine(NAME, 9.0, 30.0, 15.0, bold=True),)
)
# Added to a base, in shares of its sides.
_START_LINE = TextLine("your text", 5.0, 0.5, 0.8)
_START_ARC_MM = 25.0
_START_BOX = FreeBox(0.1, 0.6, 0.8, 0.25)
_GROUPS = {"edge": EdgeSpec, "prepare": Preparation, "packing": PackingSpec, "marks": MarksSpec, "tabs": Tabs}


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
    follows: bool
    has_border: bool


class RoomOut(NamedOut):
    """A light of the room in a word, and as a figure."""

    light: float


class StartsOut(BaseModel):
    """The values that a new thing of each sort starts with, and those that windows first ask about."""

    edge: EdgeSpec
    ring: RingSpec
    printer: Printer
    cutter: Cutter
    mat: Mat
    composition: Composition
    line: TextLine
    free_box: FreeBox
    arc_mm: float
    count_size_mm: float
    filler_mm: tuple[float, float]
    tabs: Tabs
    shrink: ShrinkSpec
    blank: BlankSpec
    iron: HeatSpec
    press: HeatSpec
    offcut: OffcutIn


class RangeOut(BaseModel):
    """The least and the greatest value of a number; sliders may end sooner."""

    least: float
    most: float


class Limits(BaseModel):
    """Limits of art, and of every number that may be typed: by type and field, least and most."""

    most_megabytes: int
    most_megapixels: int
    endings: list[str]


class CupOut(BaseModel):
    """A thing to wrap, to begin with."""

    name: str
    wrap: WrapSpec


class CatalogOut(BaseModel):
    """The facts and choices the interface shows; known in one place, here."""

    edge_kinds: list[EdgeKindOut]
    cuts: list[NamedOut]
    turns: list[NamedOut]
    modes: list[NamedOut]
    feeds: list[NamedOut]
    printer_kinds: list[NamedOut]
    papers: list[NamedOut]
    usual_paper: Paper
    feed_error_mm: float
    nudge_mm: float
    far_nudge_mm: float
    mark_families: list[NamedOut]
    purposes: list[NamedOut]
    sensors: list[NamedOut]
    rooms: list[RoomOut]
    blacks: list[NamedOut]
    inks: list[NamedOut]
    page_boxes: list[NamedOut]
    tray_faces: list[NamedOut]
    makes: list[NamedOut]
    calibration_schools: list[NamedOut]
    machine_changes: list[NamedOut]
    outcomes: list[NamedOut]
    stock_classes: list[NamedOut]
    grounds: list[NamedOut]
    narrow_sides: list[NamedOut]
    tacks: list[NamedOut]
    blade_angles: list[NamedOut]
    paper_bases: list[NamedOut]
    most_passes: int
    sensor_figures: dict[str, Sensor]
    most_room: float
    start_lift_de: float
    cups: list[CupOut]
    start: StartsOut
    ranges: dict[str, RangeOut]
    """By field, dotted as in changes."""
    limits: Limits
    regions: Regions
    terms: tuple[Term, ...]
    """Words of the craft, explained wherever they stand."""


def _ranges() -> dict[str, RangeOut]:
    """The limits of numbers as the schemas have them; sliders of an edge go as far as is of use."""
    found = {}
    for prefix, kind in _GROUPS.items():
        schema = TypeAdapter(kind).json_schema()
        for name, field in schema["properties"].items():
            for one in field.get("anyOf", [field]):
                least = one.get("minimum", one.get("exclusiveMinimum"))
                if least is not None and "maximum" in one:
                    found[f"{prefix}.{name}"] = RangeOut(least=least, most=one["maximum"])
    for name, most in SLIDERS_MM.items():
        found[f"edge.{name}"] = RangeOut(least=0.0, most=most)
    sheets = TypeAdapter(ScaleToFill).json_schema()["properties"]["sheets"]
    return {**found, "scale.sheets": RangeOut(least=sheets["minimum"], most=sheets["maximum"])}


@cache
def _catalog() -> CatalogOut:
    return CatalogOut(
        edge_kinds=[
            EdgeKindOut(
                key=kind.key,
                name=kind.phrase,
                hint=kind.hint,
                uses=list(kind.uses),
                least_mm=kind.range_mm[0],
                most_mm=kind.range_mm[1],
                start_mm=kind.start_mm,
                follows=kind.follows,
                has_border=kind.has_border,
            )
            for kind in KINDS
        ],
        cuts=[NamedOut(key=c, name=f"{c} cut", hint=CUT_HINTS[c]) for c in Cut],
        turns=[NamedOut(key=t, name=TURN_PHRASES[t], hint="") for t in Turn],
        modes=[NamedOut(key=mode.key, name=mode.name, hint=mode.hint) for mode in MODES],
        feeds=[NamedOut(key=f, name=name, hint=hint) for f, (name, hint) in FEED_WORDS.items()],
        printer_kinds=[NamedOut(key=k, name=k.value, hint="") for k in PrinterKind],
        papers=[
            NamedOut(key=size.key, name=size.words, hint=size_mm(size.paper.width_mm, size.paper.height_mm))
            for size in NAMED_PAPERS
        ],
        nudge_mm=NUDGE_MM,
        far_nudge_mm=FAR_NUDGE_MM,
        usual_paper=USUAL_PAPER,
        feed_error_mm=FEED_ERROR_MM,
        mark_families=[NamedOut(key=f.key, name=f.name, hint=f.hint) for f in FAMILIES],
        purposes=[NamedOut(key=p, name=PURPOSE_PHRASES[p], hint=hint(p)) for p in Purpose],
        sensors=[NamedOut(key=one, name=one, hint=SENSOR_WORDS[one].partition(": ")[2]) for one in SensorWord],
        rooms=[
            RoomOut(key=one, name=one, hint=ROOM_WORDS[one].partition(": ")[2], light=ROOMS[one]) for one in RoomLight
        ],
        blacks=[NamedOut(key=one, name=one, hint=BLACK_WORDS[one].partition(": ")[2]) for one in Black],
        inks=[NamedOut(key=one, name=one, hint="") for one in Ink],
        page_boxes=[NamedOut(key=one, name=PAGE_BOX_WORDS[one], hint="") for one in PageBox],
        makes=[NamedOut(key=one, name=FIRST_JOBS[one].name, hint="") for one in Makes],
        tray_faces=[NamedOut(key=one, name=TRAY_FACE_WORDS[one], hint="") for one in TrayFace],
        calibration_schools=[
            NamedOut(key=one, name=CALIBRATION_SCHOOL_WORDS[one], hint="") for one in CalibrationSchool
        ],
        machine_changes=[NamedOut(key=one, name=words, hint="") for one, words in MACHINE_CHANGE_WORDS.items()],
        outcomes=[NamedOut(key=one, name=name, hint=hint) for one, (name, hint) in OUTCOME_WORDS.items()],
        stock_classes=[NamedOut(key=one, name=words, hint=GROUP_OF[one]) for one, words in STOCK_CLASS_WORDS.items()],
        grounds=[NamedOut(key=one, name=words, hint="") for one, words in GROUND_WORDS.items()],
        narrow_sides=[NamedOut(key=one, name=words, hint="") for one, words in NARROW_SIDE_WORDS.items()],
        tacks=[NamedOut(key=one, name=one, hint="") for one in Tack],
        blade_angles=[NamedOut(key=one, name=f"{one}°", hint="") for one in Blade],
        paper_bases=[NamedOut(key=one.key, name=one.name, hint="") for one in BASES.values()],
        most_passes=MOST_PASSES,
        sensor_figures={word.value: sensor for word, sensor in SENSORS.items()},
        most_room=1.5,
        start_lift_de=START_LIFT_DE,
        cups=[CupOut(name=name, wrap=cup) for name, cup in CUPS.items()],
        start=StartsOut(
            edge=EdgeSpec(),
            ring=_START_RING,
            printer=Printer(),
            cutter=Cutter(),
            mat=_START_MAT,
            composition=_START_COMPOSITION,
            line=_START_LINE,
            free_box=_START_BOX,
            arc_mm=_START_ARC_MM,
            count_size_mm=50.0,
            filler_mm=(20.0, 30.0),
            tabs=Tabs(3, 0.6),
            shrink=_START_SHRINK,
            blank=_START_BLANK,
            iron=_START_IRON,
            press=HeatSpec(),
            offcut=OffcutIn(width_mm=60.0, height_mm=30.0),
        ),
        ranges=_ranges(),
        limits=Limits(
            most_megabytes=MOST_BYTES // 2**20, most_megapixels=MOST_PIXELS // 1_000_000, endings=list(endings())
        ),
        regions=REGIONS,
        terms=TERMS,
    )


@router.get("/catalog", tags=["catalog"])
def catalog() -> CatalogOut:
    return _catalog()
