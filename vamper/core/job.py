"""A job: everything a maker decides, and nothing that is computed from it.

These are the names of the job file. The stations take the parts they need.
"""

from dataclasses import dataclass, field
from enum import StrEnum

from vamper.core.devices import Cutter, Printer
from vamper.core.stocks import Stock

MOST_PIECES = 10_000


class Purpose(StrEnum):
    """What a piece is for; it decides from how far it is looked at."""

    PLANNER = "planner"
    DRINKWARE = "drinkware"
    LAPTOP = "laptop"
    WINDOW = "window"
    VEHICLE = "vehicle"


class EdgeKind(StrEnum):
    FOLLOW = "follow"
    CIRCLE = "circle"
    RECTANGLE = "rectangle"
    ROUNDED = "rounded"


class Cut(StrEnum):
    """Through the face only, or through face and backing."""

    KISS = "kiss"
    THROUGH = "through"


class Turn(StrEnum):
    """Which turns packing may give a piece."""

    UPRIGHT = "upright"
    QUARTER = "quarter"
    ANY = "any"


class MarkFamily(StrEnum):
    CORNER = "corner"
    FRAME = "frame"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Paper:
    width_mm: float
    height_mm: float


@dataclass(frozen=True, slots=True)
class EdgeSpec:
    """How the edge is derived from the outline. `colour` is the border's (#RRGGBB), None for bare stock."""

    kind: EdgeKind = EdgeKind.FOLLOW
    distance_mm: float = 3.0
    smooth_mm: float = 2.0
    fill_holes: bool = True
    join: bool = True
    corner_mm: float = 3.0
    colour: str | None = None


@dataclass(frozen=True, slots=True)
class SizeSpec:
    """The inked area's wanted width or height, exactly one of them."""

    width_mm: float | None = None
    height_mm: float | None = None

    def of(self, width_px: float, height_px: float) -> float:
        """Millimetres a pixel for an inked area of this many pixels."""
        if self.width_mm is not None:
            return self.width_mm / width_px
        assert self.height_mm is not None
        return self.height_mm / height_px


@dataclass(frozen=True, slots=True)
class ItemSpec:
    """One design: its art (by name or content hash), its size, how many, and how it is cut."""

    art: str
    size: SizeSpec
    quantity: int = 1
    cut: Cut = Cut.KISS
    edge: EdgeSpec = field(default_factory=EdgeSpec)


@dataclass(frozen=True, slots=True)
class PackingSpec:
    gap_mm: float = 2.0
    turn: Turn = Turn.ANY
    max_sheets: int | None = None


@dataclass(frozen=True, slots=True)
class MarksSpec:
    """`inset` is from the paper's edge to the mark's outer rim; `clear` stays unprinted round it."""

    family: MarkFamily = MarkFamily.CORNER
    count: int = 4
    size_mm: float = 10.0
    stroke_mm: float = 0.8
    inset_mm: float = 8.0
    clear_mm: float = 2.0


@dataclass(frozen=True, slots=True)
class Job:
    title: str
    paper: Paper
    printer: Printer
    cutter: Cutter
    marks: MarksSpec
    stock: Stock
    purpose: Purpose
    packing: PackingSpec
    items: tuple[ItemSpec, ...]
