"""How a job is finished after the cut, where that is not left to what follows from its stock and its use."""

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.limits import ONE_LINE, STRICT


class ProcessVariant(StrEnum):
    """Where makers do it in two ways."""

    A = "A"
    B = "B"


class Target(StrEnum):
    """What a piece goes on, finer than its purpose: it decides how it is finished and what it must stand."""

    PLANNER = "planner"
    LAPTOP = "laptop"
    MUG = "mug"
    CUP = "cup"
    BOTTLE = "bottle"
    GLASS = "glass"
    SHIRT = "shirt"
    DARK_SHIRT = "dark-shirt"
    BAG = "bag"
    BLANK = "blank"
    KEY_RING = "key-ring"
    WINDOW = "window"
    VEHICLE = "vehicle"
    BOAT = "boat"


class Fibre(StrEnum):
    """What a cloth is woven of."""

    COTTON = "cotton"
    BLEND = "blend"
    POLYESTER = "polyester"


Panel = Annotated[float, Gt(0), Le(2000)]
Plate = Annotated[float, Ge(20), Le(2000)]


@dataclass(frozen=True, slots=True)
class ClothSpec:
    """What a motif is pressed on: its fibre, whether it is dark, and the panel it goes on, measured across, mm.
    `centre` is the part of the art that comes to lie on the fold line, as a share of its width from the left.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    fibre: Fibre = Fibre.COTTON
    dark: bool = False
    panel_mm: Panel | None = None
    centre: Annotated[float, Ge(0), Le(1)] = 0.5


@dataclass(frozen=True, slots=True)
class HeatSpec:
    """What presses: the plate of a press, or the sole of an `iron`, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    iron: bool = False
    width_mm: Plate = 380.0
    height_mm: Plate = 380.0


@dataclass(frozen=True, slots=True)
class BlankSpec:
    """A blank that is printed all over: its sides, mm, and how far the print reaches past it all round."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Panel
    height_mm: Panel
    past_mm: Annotated[float, Ge(0), Le(20)] = 2.0


@dataclass(frozen=True, slots=True)
class AddedStep:
    """A step by hand that a process does not have of itself, done after one that it has: pens, metallic paint."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    do: Annotated[str, Len(1, 80), ONE_LINE]
    minutes: Annotated[int, Ge(1), Le(600)]
    after: Annotated[str, Len(1, 40), ONE_LINE]


@dataclass(frozen=True, slots=True)
class LabelFigure:
    """A figure that the label of a product says, by its key in the table of labels."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    key: Annotated[str, Len(1, 40), ONE_LINE]
    value: Annotated[float, Ge(0), Le(100_000)]


Side = Annotated[float, Gt(0), Le(3000)]
# What is left of a length where it can be told from a slip of the rule.
LEAST_LEFT = 0.05
# Less between the axes than this is a slip of the rule on a bar of 100 mm.
_EVEN_SHARE = 0.005


@dataclass(frozen=True, slots=True)
class Bar:
    """A test bar, or a thing: width and height, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Side
    height_mm: Side


def not_shrunk(before: Bar, after: Bar) -> str:
    """Why a test bar tells nothing of how a film shrinks, "" where it does."""
    left = (("wide", after.width_mm / before.width_mm), ("high", after.height_mm / before.height_mm))
    for name, factor in left:
        if not LEAST_LEFT <= factor <= 1.0:
            return (
                f"the bar is {factor:.2f} times as {name} afterwards, and shrink film gets smaller, to a third or a "
                "half; measure it before and after the oven, the same way round"
            )
    return ""


_PRESS = HeatSpec()


@dataclass(frozen=True, slots=True)
class FinishSpec:
    """`process` is a key of the table of processes, `coats` their number where the label says otherwise, `plate` how
    many pieces the press or the oven holds at once, `label` what has been read on the labels of what is used, `record`
    how long the maker's own runs waited.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    process: Annotated[str, Len(1, 40), ONE_LINE] | None = None
    school: ProcessVariant | None = None
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    plate: Annotated[int, Ge(1), Le(1000)] = 6
    cloth: ClothSpec | None = None
    heat: HeatSpec = _PRESS
    blank: BlankSpec | None = None
    added: Annotated[tuple[AddedStep, ...], Len(0, 12)] = ()
    label: Annotated[tuple[LabelFigure, ...], Len(0, 40)] = ()
    record: Annotated[tuple[LabelFigure, ...], Len(0, 40)] = ()


@dataclass(frozen=True, slots=True)
class ShrinkSpec:
    """How a film shrinks: a test bar before and after the oven, mm, the same way round, and how much of the ink is
    printed, since it gathers on less of an area.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    before: Bar
    after: Bar
    ink_share: Annotated[float, Ge(0.1), Le(1)] = 0.6

    def __post_init__(self) -> None:
        if wrong := not_shrunk(self.before, self.after):
            raise ValueError(f"after: {wrong}")

    @property
    def x(self) -> float:
        """What is left of a width, as a share of what it was."""
        return self.after.width_mm / self.before.width_mm

    @property
    def y(self) -> float:
        return self.after.height_mm / self.before.height_mm

    @property
    def mean(self) -> float:
        return (self.x + self.y) / 2

    @property
    def is_even(self) -> bool:
        """Whether it shrinks alike along both axes, as nearly as a bar can be measured."""
        return abs(self.x / self.y - 1) <= _EVEN_SHARE


def too_short(top_mm: float, bottom_mm: float, slant_mm: float) -> str:
    """Why a wall cannot be so short, "" where it can."""
    half = abs(top_mm - bottom_mm) / 2
    if slant_mm > half:
        return ""
    return (
        f"a slant of {slant_mm:g} mm is too short for these diameters: it must be more than half their difference, "
        f"{half:g} mm; measure it along the wall"
    )


# Less of a way round than this holds nothing.
LEAST_AROUND_MM = 1.0
Diameter = Annotated[float, Gt(0), Le(2000)]


@dataclass(frozen=True, slots=True)
class WrapSpec:
    """What a design goes round: its diameters at the upper and the lower rim, and the height along its wall, mm.
    `up_mm` is how far the art's middle lies above the lower rim, along the wall (else half way); its ends lie
    `overlap_mm` over each other where it goes all round, or that far apart where that is negative. `handle_mm` is kept
    free for a handle, opposite the art's middle; where art is not `bent`, it is laid on a taper as flat as it is.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    top_mm: Diameter
    bottom_mm: Diameter
    slant_mm: Diameter
    up_mm: Annotated[float, Gt(0), Le(2000)] | None = None
    overlap_mm: Annotated[float, Ge(-500), Le(500)] = 3.0
    handle_mm: Annotated[float, Ge(0), Le(500)] = 0.0
    bent: bool = True

    def __post_init__(self) -> None:
        if short := too_short(self.top_mm, self.bottom_mm, self.slant_mm):
            raise ValueError(short)
        if self.up_mm is not None and self.up_mm >= self.slant_mm:
            raise ValueError(f"its middle, {self.up_mm:g} mm up, lies above the wall of {self.slant_mm:g} mm")
        narrow = math.pi * min(self.top_mm, self.bottom_mm)
        if narrow + self.overlap_mm < LEAST_AROUND_MM:
            raise ValueError(f"a gap of {-self.overlap_mm:g} mm leaves nothing of the way round; make it smaller")
        if narrow - self.handle_mm < LEAST_AROUND_MM:
            raise ValueError(f"a handle of {self.handle_mm:g} mm leaves nothing of the way round; make it smaller")
