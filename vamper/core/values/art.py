"""What is asked of art: how large it is to be, what is done to it before its outline is taken, and what it is for."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le

from vamper.core.values.limits import STRICT, Box, Length

PageNumber = Annotated[int, Ge(1), Le(10_000)]
LiftTolerance = Annotated[float, Ge(0.5), Le(60)]


class Purpose(StrEnum):
    """The purpose of a piece; it decides from how far it is looked at."""

    PLANNER = "planner"
    DRINKWARE = "drinkware"
    GLASS = "glass"
    BLANK = "blank"
    LAPTOP = "laptop"
    CLOTH = "cloth"
    WINDOW = "window"
    VEHICLE = "vehicle"


class SizedOver(StrEnum):
    """The measure of a typed size: over the inked area, or over the piece with its border."""

    INK = "ink"
    BORDER = "border"


SIDES = ("width_mm", "height_mm", "longest_mm")


@dataclass(frozen=True, slots=True)
class SizeSpec:
    """A wanted width, height or longest side, exactly one of them."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Length | None = None
    height_mm: Length | None = None
    longest_mm: Length | None = None
    size_over: SizedOver = SizedOver.INK

    def __post_init__(self) -> None:
        if sum(side is not None for side in (self.width_mm, self.height_mm, self.longest_mm)) != 1:
            raise ValueError("give either width_mm or height_mm or longest_mm, exactly one of them")

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
    """The changes to a picture before its outline is taken.

    Parameters
    ----------
    page : int
        The page of a PDF, from 1.
    threshold : float
        The least alpha (0..1) that counts as inked.
    lift_de : float or None
        Lifts the background: everything joined to the rim whose colour is within this ΔE of the rim's.
    crop : Box or None
        Keeps a part of the picture: left, top, right, bottom in shares of its sides, and only what is drawn wholly
        inside.
    cut_off : bool
        Keeps also the inner part of what reaches out of the crop.
    bend_deg : float or None
        Bends it to stand straight on a cone: how far its inked width turns about the tip, negative where the narrow rim
        is the upper one. For a design that goes on a cup it follows from the cup.
    stretch, ink_share : float or None
        Makes it so much wider for its height, and prints it with so much of its ink; for a film that shrinks both
        follow from its test bar.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    page: PageNumber = 1
    threshold: Annotated[float, Ge(0.05), Le(0.95)] = 0.5
    lift_de: LiftTolerance | None = None
    crop: Box | None = None
    cut_off: bool = False
    bend_deg: Annotated[float, Ge(-300), Le(300)] | None = None
    stretch: Annotated[float, Ge(0.2), Le(5)] | None = None
    ink_share: Annotated[float, Ge(0.1), Le(1)] | None = None

    @property
    def changes(self) -> tuple[object, ...]:
        """The changes to its pixels; none for a picture that is used as it came."""
        found = (self.lift_de, self.crop, self.bend_deg, self.stretch, self.ink_share)
        return () if all(one is None for one in found) else (*found, self.cut_off)

    def __post_init__(self) -> None:
        if self.crop and (self.crop[0] >= self.crop[2] or self.crop[1] >= self.crop[3]):
            raise ValueError("crop is left, top, right, bottom: right and bottom must be the greater ones")
