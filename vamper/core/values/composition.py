"""Composed pieces: a base shape of fixed outer size that carries arts and lines of text, one piece for each name.

Everything is in the base's frame: mm, origin at its top left, y down. A place is where the middle of an art or of a
line comes. `{name}` in a line stands for the piece's name. Free boxes are kept empty for handwriting. Where a blank is
to be covered, the frame is the blank's, and the base reaches past it on all sides. Without a base, arts and text are
cut round themselves.
"""

import math
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.art import LiftTolerance, PageNumber, Preparation
from vamper.core.values.cut import Cut
from vamper.core.values.fonts import DEFAULT_FAMILY
from vamper.core.values.item import MOST_PIECES
from vamper.core.values.limits import ONE_LINE, STRICT, ArtName, Box, Colour, Distance, Length

NAME = "{name}"
# Text keeps this far from the base's rim.
TEXT_RIM_MM = 2.0
MOST_PARTS = 20
LEAST_RADIUS_MM = 3.0
MOST_NAMES = 500
LONGEST_NAME = 80

OnBase = Annotated[float, Ge(-1000), Le(1000)]


class BaseShape(StrEnum):
    CIRCLE = "circle"
    ELLIPSE = "ellipse"
    RECTANGLE = "rectangle"
    ROUNDED = "rounded"
    NONE = "none"


class Centring(StrEnum):
    """The point of an art that comes to its place: the middle of its box, its inked area's centroid (the optical
    centre), or the middle of a part that was pointed at.
    """

    BOX = "box"
    EYE = "eye"
    PART = "part"


@dataclass(frozen=True, slots=True)
class BasePlate:
    """The plate that a composed design stands on.

    Parameters
    ----------
    shape : BaseShape
        Its shape.
    width_mm, height_mm : float, float or None
        A height that is left out is the width; a circle has none.
    colour : str
        #RRGGBB.
    corner_mm : float
        Radius of rounded corners; other shapes have none.
    allowance_mm : float
        How far it reaches past the blank that it covers.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    shape: BaseShape
    width_mm: Length
    height_mm: Length | None = None
    colour: Colour = "#FFFFFF"
    corner_mm: Distance = 3.0
    allowance_mm: Annotated[float, Ge(0), Le(50)] = 0.0

    @property
    def blank_mm(self) -> tuple[float, float]:
        """Width and height of what is covered."""
        height = None if self.shape is BaseShape.CIRCLE else self.height_mm
        return self.width_mm, height or self.width_mm

    @property
    def size_mm(self) -> tuple[float, float]:
        """Width and height of the base itself."""
        width, height = self.blank_mm
        return width + 2 * self.allowance_mm, height + 2 * self.allowance_mm

    def room_at(self, y_mm: float, height_mm: float) -> float:
        """How wide a line of that height may be when its middle is at `y_mm`."""
        width, height = self.blank_mm
        if self.shape is BaseShape.NONE:
            return math.inf
        if self.shape in (BaseShape.CIRCLE, BaseShape.ELLIPSE):
            away = max(abs(y_mm - height / 2 - height_mm / 2), abs(y_mm - height / 2 + height_mm / 2))
            share = min(1.0, away / (height / 2))
            width *= math.sqrt(1 - share**2)
        return max(0.0, width - 2 * TEXT_RIM_MM)


class LineCentring(StrEnum):
    """The height of a line that comes to its place: the middle of its capitals' height, that of its letters without
    accents, tails and signs, or that of all that is drawn.
    """

    CAPITALS = "capitals"
    LETTERS = "letters"
    INK = "ink"


@dataclass(frozen=True, slots=True)
class PlacedArt:
    """Art on a composed piece, its middle at a place.

    Parameters
    ----------
    art : str
        Its name or digest.
    width_mm, x_mm, y_mm, centring : float, float, float, Centring
        How wide it is, where its middle lies, and what counts as its middle.
    page, lift_de, crop : int, float or None, Box or None
        How it is prepared, as in `Preparation`.
    part : Box or None
        The part that was pointed at, in shares of the picture.
    cover : bool
        As large as covers the whole base, in its middle, whatever its width says.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    art: ArtName
    width_mm: Length
    x_mm: OnBase
    y_mm: OnBase
    centring: Centring = Centring.BOX
    page: PageNumber = 1
    lift_de: LiftTolerance | None = None
    crop: Box | None = None
    part: Box | None = None
    cover: bool = False

    @property
    def prepare(self) -> Preparation:
        return Preparation(page=self.page, lift_de=self.lift_de, crop=self.crop)


@dataclass(frozen=True, slots=True)
class TextLine:
    """A line of text, its middle at a place; it is set smaller where it would not fit the base.

    Parameters
    ----------
    text, colour, bold : str, Colour, bool
        What is written, and how.
    size_mm, width_mm : float, float or None
        The size of the type (its em); where a width is given, the size follows from that.
    x_mm, y_mm : float
        Where the middle of the line lies, from the top left of the base.
    family : str
        A font that ships, by its family or its words, or a font that the maker added.
    radius_mm : float or None
        Bends the line: over its middle like a rainbow where positive, under it like a smile where negative.
    centring : LineCentring
        What of the line lies in the middle.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    text: Annotated[str, Len(0, 200), ONE_LINE]
    size_mm: Annotated[float, Gt(0), Le(300)]
    x_mm: OnBase
    y_mm: OnBase
    family: Annotated[str, Len(1, 120), ONE_LINE] = DEFAULT_FAMILY
    colour: Colour = "#22303A"
    bold: bool = False
    radius_mm: Annotated[float, Ge(-1000), Le(1000)] | None = None
    centring: LineCentring = LineCentring.CAPITALS
    width_mm: Length | None = None

    def __post_init__(self) -> None:
        if self.radius_mm is not None and abs(self.radius_mm) < LEAST_RADIUS_MM:
            raise ValueError(f"radius_mm must be at least {LEAST_RADIUS_MM:g} either way")


@dataclass(frozen=True, slots=True)
class FreeBox:
    """A light box kept free for handwriting.

    Parameters
    ----------
    x_mm, y_mm : float
        Its top left corner on the base.
    width_mm, height_mm : float
        Its size.
    colour : str
        #RRGGBB.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    x_mm: OnBase
    y_mm: OnBase
    width_mm: Length
    height_mm: Length
    colour: Colour = "#FFFFFF"


@dataclass(frozen=True, slots=True)
class Composition:
    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    base: BasePlate
    arts: Annotated[tuple[PlacedArt, ...], Len(0, MOST_PARTS)] = ()
    lines: Annotated[tuple[TextLine, ...], Len(0, MOST_PARTS)] = ()
    free: Annotated[tuple[FreeBox, ...], Len(0, MOST_PARTS)] = ()

    def named(self, name: str) -> "Composition":
        """The composition for one name."""
        return replace(self, lines=tuple(replace(line, text=line.text.replace(NAME, name)) for line in self.lines))

    def curved_apart(self) -> "tuple[Composition, ...]":
        """The composition without the lines that run along an arc, and these lines by themselves, to be laid one after
        the other onto something curved; the composition alone where nothing would be left of either.
        """
        curved = tuple(line for line in self.lines if line.radius_mm is not None)
        straight = tuple(line for line in self.lines if line.radius_mm is None)
        bare = self.base.shape is BaseShape.NONE
        if not curved or (bare and not self.arts and not straight):
            return (self,)
        by_itself = replace(self, base=replace(self.base, shape=BaseShape.NONE), arts=(), lines=curved, free=())
        return (replace(self, lines=straight), by_itself)

    @property
    def takes_names(self) -> bool:
        return any(NAME in line.text for line in self.lines)


@dataclass(frozen=True, slots=True)
class ComposedSpec:
    """Composed pieces that are still to be drawn.

    Parameters
    ----------
    composition : Composition
        What is drawn.
    names : tuple of str
        A design is drawn for each; a single design where there are none.
    quantity : int
        Pieces of each design.
    cut : Cut
        How they are cut.
    curved_apart : bool
        Whether lines along an arc become designs of their own.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    composition: Composition
    names: Annotated[tuple[Annotated[str, Len(0, LONGEST_NAME), ONE_LINE], ...], Len(0, MOST_NAMES)] = ()
    quantity: Annotated[int, Ge(1), Le(MOST_PIECES)] = 1
    cut: Cut = Cut.KISS
    curved_apart: bool = False
