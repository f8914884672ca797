"""One design of a job: its art, its size, how many, and how it is cut."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.answers import OF_DESIGN, Codes, check_codes
from vamper.core.values.art import Preparation, SizedOver, SizeSpec
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.limits import ONE_LINE, STRICT, ArtName, Colour, Length
from vamper.core.values.wrap import WrapSpec

MOST_PIECES = 10_000
DesignNumber = Annotated[int, Ge(1), Le(1_000_000)]
_SAME_TURN_DEG = 0.01
_USUAL_EDGE = EdgeSpec()
_AS_IT_CAME = Preparation()
Quantity = Annotated[int, Ge(0), Le(MOST_PIECES)]


class Turn(StrEnum):
    """Which turns packing may give a piece, each allowing all that the ones before it do."""

    UPRIGHT = "upright"
    HALF = "half"
    """Upright or upside down: a width stays a width."""
    QUARTER = "quarter"
    ANY = "any"

    def within(self, most: "Turn") -> "Turn":
        """This rule where no more than `most` is allowed."""
        return min(self, most, key=list(Turn).index)

    def allows(self, turn_deg: float) -> bool:
        """Whether a piece may lie so."""
        step = {Turn.UPRIGHT: 360.0, Turn.HALF: 180.0, Turn.QUARTER: 90.0}.get(self)
        return step is None or abs((turn_deg + step / 2) % step - step / 2) < _SAME_TURN_DEG


@dataclass(frozen=True, slots=True)
class Tile:
    """A window on a piece that is made in several parts: its sides as shares of the drawing's box, from the left and
    from the top. Sides at 0 and 1 are open, so that the border there belongs to it.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    left: Annotated[float, Ge(0), Le(1)]
    top: Annotated[float, Ge(0), Le(1)]
    right: Annotated[float, Ge(0), Le(1)]
    bottom: Annotated[float, Ge(0), Le(1)]

    def __post_init__(self) -> None:
        if self.left >= self.right or self.top >= self.bottom:
            raise ValueError("tile: right and bottom must be the greater ones")


@dataclass(frozen=True, slots=True)
class Tabs:
    """Bridges that hold a piece that is cut through: how many, and how wide, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    count: Annotated[int, Ge(1), Le(40)]
    width_mm: Annotated[float, Gt(0), Le(10)]


@dataclass(frozen=True, slots=True, kw_only=True)
class ItemSpec:
    """One design.

    Parameters
    ----------
    number : int
        Names it within its job.
    name, art : str
        What the maker calls it; a file's name, or the digest of its art in the workshop.
    width_mm, height_mm, longest_mm : float or None
        Its size: exactly one of the three is given. `size_over` says of what: the inked area, or the piece with border.
    quantity : int
        How many are wanted; 0 only for a design that just fills what is left.
    cut, edge, prepare : Cut, EdgeSpec, Preparation
        How it is cut, how its edge is derived, and what is done to its picture first.
    loose : bool
        Its parts are meant to come off separately.
    bleed_mm : float or None
        Overrides the computed bleed; 0 for none.
    turn : Turn or None
        Overrides the job's rule of turning.
    fill_priority : int or None
        More copies are welcome where there is room; 1 is wanted most.
    back_of : int or None
        The design whose back this is; it is cut to the mirror image of that edge.
    sheet_colour : Colour or None
        Keeps it on sheets of that colour, for drawings that are cut one colour a sheet.
    layer_of : int or None
        The same number for all layers of a drawing, which are changed together.
    keyed : bool
        A layer that bears the two keys by which layers are brought into register.
    tile : Tile or None
        Makes it a part of a piece that is too large for a sheet; its size is that of the whole piece.
    tabs : Tabs or None
        Bridges that hold it in the sheet where it is cut through.
    wrap : WrapSpec or None
        The cup or bottle that it goes round; on a taper the art is bent so that it stands straight there.
    meant : tuple of str
        Codes of findings about this design that the maker has answered.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    number: DesignNumber
    name: Annotated[str, Len(1, 200), ONE_LINE] = "design"
    art: ArtName
    width_mm: Length | None = None
    height_mm: Length | None = None
    longest_mm: Length | None = None
    size_over: SizedOver = SizedOver.INK
    quantity: Quantity = 1
    cut: Cut = Cut.KISS
    edge: EdgeSpec = _USUAL_EDGE
    prepare: Preparation = _AS_IT_CAME
    loose: bool = False
    bleed_mm: Annotated[float, Ge(0), Le(10)] | None = None
    turn: Turn | None = None
    fill_priority: Annotated[int, Ge(1), Le(1000)] | None = None
    back_of: DesignNumber | None = None
    sheet_colour: Colour | None = None
    layer_of: DesignNumber | None = None
    keyed: bool = False
    tile: Tile | None = None
    tabs: Tabs | None = None
    wrap: WrapSpec | None = None
    meant: Codes = ()

    def __post_init__(self) -> None:
        check_codes(self.meant, OF_DESIGN)
        # That exactly one side is given is the size's own rule.
        SizeSpec(self.width_mm, self.height_mm, self.longest_mm)
        if self.quantity == 0 and self.fill_priority is None:
            raise ValueError("quantity: must be at least 1, or 0 where the design only fills what is left of a sheet")

    @property
    def size(self) -> SizeSpec:
        return SizeSpec(self.width_mm, self.height_mm, self.longest_mm, self.size_over)


def sized(item: ItemSpec, size: SizeSpec) -> ItemSpec:
    """The item at another size."""
    return replace(
        item,
        width_mm=size.width_mm,
        height_mm=size.height_mm,
        longest_mm=size.longest_mm,
        size_over=size.size_over,
    )


def filler_sizes(least_mm: float, most_mm: float) -> tuple[float, ...]:
    """The sizes in which a filler is offered: the largest, two between, the smallest; whole tenths, each once."""
    low, high = sorted((least_mm, most_mm))
    return tuple(sorted({round(high - (high - low) * n / 3, 1) for n in range(4)}, reverse=True))
