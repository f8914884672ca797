"""The shape of `plan.json` as models, for its published JSON Schema; tests hold every written plan against it."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from vamper.core.marks.reading import ReadingCause
from vamper.core.sheet.layout import WhyNot
from vamper.core.values.blade import Blade
from vamper.core.values.cut import Cut
from vamper.core.values.findings import Severity
from vamper.core.values.placement import Pin
from vamper.core.values.reading import Remedy
from vamper.core.values.stock import Tack


class Strict(BaseModel):
    """Refuses fields it does not know."""

    model_config = ConfigDict(extra="forbid", frozen=True)


Pair = tuple[float, float]
Ring = list[Pair]


class ShapePart(Strict):
    shell: Ring
    holes: list[Ring]


class PlannedMark(Strict):
    family: str
    x_mm: float
    y_mm: float
    shape: list[Ring]
    """Rings, filled even-odd."""


class PlannedItem(Strict):
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


class PlannedPlacement(Strict):
    """X = x + u·cos t − v·sin t, Y = y + u·sin t + v·cos t."""

    item: int
    x_mm: float
    y_mm: float
    turn_deg: float
    miss_mm: float
    """The miss that 95 of 100 such pieces stay under at its farthest edge point."""
    pin: Literal[Pin.KEPT, Pin.HAND, Pin.LOCKED] | None = None
    """Where it was not packed but held."""


class FreeRectangle(Strict):
    """The largest rectangle of a sheet that no piece reaches into."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


class SheetFiles(Strict):
    """`print` is left out for stock that is not printed."""

    print: str | None = None
    cut_svg: str
    cut_dxf: str
    cut_hpgl: str | None = None
    """Left out where no machine cuts."""
    whole: str | None = None
    """The sheet as one picture; only there for a machine whose own program adds the marks."""


class PlannedInk(Strict):
    """Areas of full cover, and their volume."""

    cyan_cm2: float
    magenta_cm2: float
    yellow_cm2: float
    black_cm2: float
    ml: float


class PlannedRemedy(Strict):
    key: Remedy
    text: str
    chance: float
    """Of the sheet, once it is taken."""


class PlannedReading(Strict):
    """Whether the marks will be read: all of them, and each."""

    chance: float
    marks: list[float]
    cause: ReadingCause
    remedies: list[PlannedRemedy]


class PlannedSchool(Strict):
    key: str
    name: str
    why: str


class PlannedPrinting(Strict):
    """What to choose in the printer's own dialog."""

    media: str
    quality: str
    side: str
    feed: str
    head: str
    dry_minutes: int
    ink: str
    look: str
    schools: list[PlannedSchool]
    companion: str
    not_mirrored: str
    source: str


class PlannedPass(Strict):
    """One pass of one loop."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)

    item: int
    placement: int
    """Its place among the sheet's placements, from 0."""
    hole: bool
    cut: Cut
    number: Annotated[int, Field(alias="pass", ge=1)]


class PlannedCut(Strict):
    """What the sheet takes at the machine; travel is from its top left through all runs, not home."""

    length_mm: float
    """Of one pass, overcut included."""
    travel_mm: float
    lifts: int
    seconds: float
    parts: dict[str, float]
    """Its seconds: reading marks, cutting, corners, lifts, travel."""
    order: list[PlannedPass]


class PlannedTellTale(Strict):
    """The drop that is cut before anything else: its box's top left, and its files."""

    x_mm: float
    y_mm: float
    size_mm: float
    files: dict[str, str]


class PlannedSheet(Strict):
    number: Annotated[int, Field(ge=1)]
    used: float
    placements: list[PlannedPlacement]
    files: SheetFiles
    ink: PlannedInk | None = None
    """Left out for stock that is not printed."""
    cut: PlannedCut | None = None
    """Left out where no machine cuts."""
    tell_tale: PlannedTellTale | None = None
    """Left out where no machine cuts, nothing where no waste is left for it."""
    offcut_mm: FreeRectangle
    live_area_mm: list[ShapePart] | None = None
    """Of a first sheet that was used before; the job's own holds for all others."""
    stock_colour: str | None = None


class PlannedUnplaced(Strict):
    item: int
    quantity: int
    reason: WhyNot


class PlannedBound(Strict):
    pieces_at_most: int
    sheets_at_least: int
    basis: Literal["area"]


class PlannedSetting(Strict):
    blade: Blade
    force_gf: float
    passes: int
    speed_mm_s: float
    mat: Tack
    exposure_mm: float
    chance: float
    """Of a clean cut in a run, as far as is known."""
    why: list[str]


class FoundPlace(Strict):
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


class FoundOutlines(Strict):
    code: str
    severity: Severity
    title: str
    text: str
    figures: dict[str, float]
    item: int | None = None
    sheet: int | None = None
    places: tuple[FoundPlace, ...] = ()


class PlannedPage(Strict):
    """The page of the print files, where the sheet's top left lies on it, and the scale it was compensated for."""

    width_mm: float
    height_mm: float
    left_mm: float
    top_mm: float
    scale_x: float
    scale_y: float


class PlannedStock(Strict):
    key: str
    name: str
    colour: str


class PlanFile(Strict):
    """A plan as it is written to a file; lengths in mm, y down."""

    format: Literal["vamper-plan"]
    version: Literal[1]
    title: str
    copies: int
    """How often its sheets are made."""
    paper_mm: Pair
    page: PlannedPage | None = None
    stock: PlannedStock | None = None
    live_area_mm: Ring
    marks: list[PlannedMark]
    items: list[PlannedItem]
    sheets: list[PlannedSheet]
    unplaced: list[PlannedUnplaced]
    bound: PlannedBound
    time_limited: bool
    settings: dict[Cut, PlannedSetting]
    reading: PlannedReading | None
    """Nothing where no sensor looks for marks."""
    printing: PlannedPrinting | None
    mirror: bool
    stopped: bool
    findings: list[FoundOutlines]


def plan_schema() -> dict[str, Any]:
    """The JSON Schema of a plan."""
    return PlanFile.model_json_schema()
