"""How a job is finished after the cut, where that is not left to what follows from its stock and its use."""

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.limits import ONE_LINE, STRICT


class School(StrEnum):
    """Where makers do it in two ways."""

    A = "A"
    B = "B"


@dataclass(frozen=True, slots=True)
class FinishSpec:
    """`process` is a key of the table of processes, `coats` their number where the label says otherwise, `plate` how
    many pieces the press or the oven holds at once.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    process: Annotated[str, Len(1, 40), ONE_LINE] | None = None
    school: School | None = None
    coats: Annotated[int, Ge(0), Le(12)] | None = None
    plate: Annotated[int, Ge(1), Le(1000)] = 6


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
    `overlap_mm` over each other where it goes all round, or that far apart where that is negative.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    top_mm: Diameter
    bottom_mm: Diameter
    slant_mm: Diameter
    up_mm: Annotated[float, Gt(0), Le(2000)] | None = None
    overlap_mm: Annotated[float, Ge(-500), Le(500)] = 3.0

    def __post_init__(self) -> None:
        if short := too_short(self.top_mm, self.bottom_mm, self.slant_mm):
            raise ValueError(short)
        if self.up_mm is not None and self.up_mm >= self.slant_mm:
            raise ValueError(f"its middle, {self.up_mm:g} mm up, lies above the wall of {self.slant_mm:g} mm")
        if math.pi * min(self.top_mm, self.bottom_mm) + self.overlap_mm < LEAST_AROUND_MM:
            raise ValueError(f"a gap of {-self.overlap_mm:g} mm leaves nothing of the way round; make it smaller")
