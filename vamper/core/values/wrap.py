"""What a design goes round: a cup, straight or on a taper."""

import math
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le

from vamper.core.values.limits import STRICT


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
    """The thing that a design goes round.

    Parameters
    ----------
    top_mm, bottom_mm : float
        Diameters at the upper and the lower rim.
    slant_mm : float
        The height along the wall.
    up_mm : float or None
        How far the art's middle lies above the lower rim, along the wall; None for half way.
    overlap_mm : float
        How far its ends lie over each other where it goes all round; negative where they lie apart.
    handle_mm : float
        What is kept free for a handle, opposite the art's middle.
    bent : bool
        Whether art is bent for a taper, rather than laid on it flat.
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
