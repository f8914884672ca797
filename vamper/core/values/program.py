"""What is known of a machine's own program: the marks it adds, its bleed and mirror, what it finds, its calibration.

Nothing of it is ever shipped: programs differ by machine and by their last update. Each fact is None until its maker
knows it. The largest picture it takes is kept with the cutter, paper by paper (`accepted_size`).
"""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le, Len

from vamper.core.values.limits import ONE_LINE, STRICT, Pattern

# What is taken for marks that nobody has measured; for their reading only, nothing is drawn by it.
USUAL_STROKE_MM, USUAL_RIM_MM = 1.0, 10.0
# Pixels an inch of the picture that a program gets.
PICTURE_PPI = 300
# What a program is taken to need on every side of a paper nobody has tried, beside the printer's margins.
CAUTIOUS_MM = 13.0
# Pieces lie this much farther apart than the bleeds of two of them.
_BESIDE_BLEED_MM = 0.1

Rim = Annotated[float, Ge(0), Le(200)]


@dataclass(frozen=True, slots=True)
class RimDistances:
    """How far the outer rim of a program's marks lies from each edge of the paper, as it is printed, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    top: Rim
    right: Rim
    bottom: Rim
    left: Rim


class ProgramFamily(StrEnum):
    """The families of a program's marks: a single frame round everything, or a mark in each corner."""

    FRAME = "frame"
    CORNER = "corner"


@dataclass(frozen=True, slots=True)
class ProgramMarks:
    """The marks that a program adds; `arm_mm` is how long the arms of corner marks are."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    family: ProgramFamily = ProgramFamily.FRAME
    stroke_mm: Annotated[float, Gt(0), Le(10)] = USUAL_STROKE_MM
    rim_mm: RimDistances | None = None
    arm_mm: Annotated[float, Gt(0), Le(100)] = 10.0


@dataclass(frozen=True, slots=True)
class ProgramBleed:
    """A program's bleed: whether it can be switched, and how far it carries colour past the cut."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    switch: bool = True
    width_mm: Annotated[float, Ge(0), Le(20)] = 1.5


@dataclass(frozen=True, slots=True)
class ProgramCalibration:
    """A calibration made with the program's own sheet: the day (year-month-day), with which version of it, and what was
    read off its two scales, as the program counts there.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    on: Annotated[str, Pattern(r"^\d{4}-\d{2}-\d{2}$")]
    version: Annotated[str, Len(0, 60), ONE_LINE] = ""
    across: Annotated[float, Ge(-1000), Le(1000)] | None = None
    along: Annotated[float, Ge(-1000), Le(1000)] | None = None


@dataclass(frozen=True, slots=True)
class Program:
    """The facts known of the program that drives a cutter; None where nobody has looked.

    Parameters
    ----------
    marks, bleed : ProgramMarks or None, ProgramBleed or None
        The marks that it draws itself, and the bleed that it adds.
    mirrors : bool or None
        Whether it can mirror.
    finds_holes : bool or None
        Whether it cuts holes, and not only the outside.
    tell_tale : bool or None
        Whether a test drop rides along in its pictures.
    calibrated : tuple of ProgramCalibration
        How it was set right, in order of time.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    marks: ProgramMarks | None = None
    bleed: ProgramBleed | None = None
    mirrors: bool | None = None
    finds_holes: bool | None = None
    tell_tale: bool | None = None
    calibrated: Annotated[tuple[ProgramCalibration, ...], Len(0, 100)] = ()

    @property
    def least_gap_mm(self) -> float:
        """How far apart pieces must lie, so that the bleeds of two do not meet."""
        if self.bleed is None or not self.bleed.switch or not self.bleed.width_mm:
            return 0.0
        return 2 * self.bleed.width_mm + _BESIDE_BLEED_MM


UNKNOWN_PROGRAM = Program()
