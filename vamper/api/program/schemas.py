"""What is handed to a machine's own program, on the wire: the picture's size, what to choose, what is not known yet."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vamper.core.program.choices import Switch
from vamper.core.values.cutter import Route
from vamper.core.values.program import Program, ProgramCalibration


class ProgramPicture(BaseModel):
    """The picture of one sheet (from 1), with its place on the sheet as it is printed."""

    sheet: int
    width_mm: float
    height_mm: float
    width_px: int
    height_px: int
    left_mm: float
    top_mm: float
    drop: bool
    """Whether the test drop rides along."""


class TrimOut(BaseModel):
    """The largest laminate inside the marks."""

    width_mm: float
    height_mm: float


class ProgramOut(BaseModel):
    """All that is chosen in the machine's own program for one job."""

    pictures: list[ProgramPicture]
    bleed: Switch
    mirror: Switch
    why: list[str]
    asks_bleed: bool
    """The bleed switch matters for this job, and nobody said yet whether there is one."""
    paper: str
    copies: int
    measured: bool
    """Whether the places of its marks are known."""
    trim: TrimOut | None
    facts: Program
    calibration_due: str
    """Why the program's own calibration is due, in a sentence; empty where it is not."""


class RouteIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    route: Route


class ProgramIn(BaseModel):
    """Facts of a program, all at once; a calibration is added by itself."""

    model_config = ConfigDict(extra="forbid")

    facts: Program


class CalibratedIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    made: Annotated[ProgramCalibration, Field()]
