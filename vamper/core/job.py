"""A job: everything a maker decides, and nothing that is computed from it.

These are the names of the job file. The stations take the parts they need.
"""

from dataclasses import dataclass, field, replace
from enum import StrEnum

from vamper.core.composition import Composition
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
    ELLIPSE = "ellipse"
    RECTANGLE = "rectangle"
    ROUNDED = "rounded"
    HULL = "hull"
    BARE = "bare"


class Cut(StrEnum):
    """Through the face only, or through face and backing."""

    KISS = "kiss"
    THROUGH = "through"


class Turn(StrEnum):
    """Which turns packing may give a piece."""

    UPRIGHT = "upright"
    QUARTER = "quarter"
    ANY = "any"


class PackingMode(StrEnum):
    """How pieces share sheets: the fewest sheets, one design a sheet, the same set on each, or straight rows."""

    MIXED = "mixed"
    ONE_PER_SHEET = "one-per-sheet"
    KITS = "kits"
    TIDY = "tidy"


class Pin(StrEnum):
    """How firmly a piece lies where it lies.

    Free ones are moved by every packing; kept ones stay until the next time everything is packed again; those placed
    by hand stay then too; locked ones are not even moved by hand.
    """

    FREE = "free"
    KEPT = "kept"
    HAND = "hand"
    LOCKED = "locked"


class MarkFamily(StrEnum):
    CORNER = "corner"
    FRAME = "frame"
    DOT = "dot"
    CROSS = "cross"
    RING = "ring"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Spent:
    """The rectangle of a part-used sheet that is gone, mm from the sheet's top left."""

    left_mm: float
    top_mm: float
    width_mm: float
    height_mm: float


@dataclass(frozen=True, slots=True)
class Paper:
    """A sheet's size. `spent` is what is gone of the first one, where it was used before."""

    width_mm: float
    height_mm: float
    spent: Spent | None = None


@dataclass(frozen=True, slots=True)
class RingSpec:
    """One ring of a border that is a stack; `colour` is #RRGGBB, None for bare stock."""

    width_mm: float
    colour: str | None = None


@dataclass(frozen=True, slots=True)
class EdgeSpec:
    """How the edge is derived from the outline. `colour` is the border's (#RRGGBB), None for bare stock.

    `corner_mm` is the corner radius of `rounded`, `blunt_mm` that of every other kind. `keep_holes` names holes that
    stay open though the others are filled, each by a point in it, in shares of the inked area's box. `rings` stack
    from the drawing outwards and stand in the place of `distance_mm` and `colour`.
    """

    kind: EdgeKind = EdgeKind.FOLLOW
    distance_mm: float = 3.0
    smooth_mm: float = 2.0
    fill_holes: bool = True
    join: bool = True
    corner_mm: float = 3.0
    colour: str | None = None
    blunt_mm: float = 0.0
    keep_holes: tuple[tuple[float, float], ...] = ()
    rings: tuple[RingSpec, ...] = ()

    @property
    def reach_mm(self) -> float:
        """From the drawing to the edge."""
        return sum(ring.width_mm for ring in self.rings) if self.rings else self.distance_mm

    @property
    def stack(self) -> tuple[RingSpec, ...]:
        """The border as rings, from the drawing outwards."""
        return self.rings or (RingSpec(max(0.0, self.distance_mm), self.colour),)


class SizedOver(StrEnum):
    """What a typed size measures: the inked area, or the piece with its border."""

    INK = "ink"
    BORDER = "border"


@dataclass(frozen=True, slots=True)
class SizeSpec:
    """A wanted width, height or longest side, exactly one of them."""

    width_mm: float | None = None
    height_mm: float | None = None
    longest_mm: float | None = None
    over: SizedOver = SizedOver.INK

    @property
    def wanted_mm(self) -> float:
        """The length that is asked for."""
        return next(side for side in (self.width_mm, self.height_mm, self.longest_mm) if side is not None)

    def side_of(self, width: float, height: float) -> float:
        """The side of a box that the wanted length is about."""
        if self.width_mm is not None:
            return width
        return height if self.height_mm is not None else max(width, height)

    def of(self, width_px: float, height_px: float) -> float:
        """Millimetres a pixel for an inked area of this many pixels."""
        return self.wanted_mm / self.side_of(width_px, height_px)

    def inked(self, wanted_mm: float) -> "SizeSpec":
        """The same side of the inked area, at another length."""
        return SizeSpec(
            wanted_mm if self.width_mm is not None else None,
            wanted_mm if self.height_mm is not None else None,
            wanted_mm if self.longest_mm is not None else None,
        )


@dataclass(frozen=True, slots=True)
class Preparation:
    """What is done to a picture before its outline is taken.

    `page` is that of a PDF, from 1. `threshold` is the least alpha (0..1) that counts as inked. `lift_de` lifts the
    background: everything joined to the rim whose colour is within this ΔE of the rim's. `crop` keeps one part of the
    picture: left, top, right, bottom in shares of its sides, and only what is drawn wholly inside.
    """

    page: int = 1
    threshold: float = 0.5
    lift_de: float | None = None
    crop: tuple[float, float, float, float] | None = None


@dataclass(frozen=True, slots=True)
class ItemSpec:
    """One design: its art (by name or content hash), its size, how many, and how it is cut.

    `loose` says that its parts are meant to come off one by one. `bleed_mm` overrides the computed bleed (0: none).
    `turn` overrides the job's turn rule. `wish` says that more copies are fine where there is room, 1 the most wanted.
    `back_of` names the item (by its place in the job) whose back this is: it is cut to that one's mirrored edge.
    `sheet_colour` (#RRGGBB) keeps it on sheets of that colour, for drawings that are cut one colour a sheet.
    """

    art: str
    size: SizeSpec
    quantity: int = 1
    cut: Cut = Cut.KISS
    edge: EdgeSpec = field(default_factory=EdgeSpec)
    prepare: Preparation = field(default_factory=Preparation)
    loose: bool = False
    bleed_mm: float | None = None
    turn: Turn | None = None
    wish: int | None = None
    back_of: int | None = None
    sheet_colour: str | None = None


def sized(item: ItemSpec, longest_mm: float) -> ItemSpec:
    """The item with its inked area's longest side of that length."""
    return replace(item, size=SizeSpec(longest_mm=longest_mm))


def filler_sizes(least_mm: float, most_mm: float) -> tuple[float, ...]:
    """The sizes in which a filler is offered: the largest, two between, the smallest; whole tenths, each once."""
    low, high = sorted((least_mm, most_mm))
    return tuple(sorted({round(high - (high - low) * n / 3, 1) for n in range(4)}, reverse=True))


@dataclass(frozen=True, slots=True)
class HeldPiece:
    """One piece that lies where it is: on which sheet (from 0), its placement, and how firmly."""

    item: int
    sheet: int
    x_mm: float
    y_mm: float
    turn_deg: float
    pin: Pin = Pin.HAND


@dataclass(frozen=True, slots=True)
class ComposedSpec:
    """Composed pieces that are still to be drawn: one design for each name, or a single one without names."""

    composition: Composition
    names: tuple[str, ...] = ()
    quantity: int = 1
    cut: Cut = Cut.KISS


@dataclass(frozen=True, slots=True)
class PackingSpec:
    gap_mm: float = 2.0
    turn: Turn = Turn.ANY
    max_sheets: int | None = None
    mode: PackingMode = PackingMode.MIXED
    fill: bool = False


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
    composed: tuple[ComposedSpec, ...] = ()
    held: tuple[HeldPiece, ...] = ()
    scale_to_fill: int | None = None
