"""Marks on the wire: what the sensor sees, where cuts land, a calibration and its readings."""

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vamper.core.marks.reading import ReadingCause
from vamper.core.marks.vernier import NarrowSide, VernierScale
from vamper.core.values.calibration import Thickness
from vamper.core.values.limits import ONE_LINE
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.reading import Remedy
from vamper.services.shop.measured import CalibrationSchool, MachineChange

Point = list[float]


class RemedyOut(BaseModel):
    """A remedy, and the chance of the sheet with it; of a remedy that is taken, the chance without it."""

    key: Remedy
    name: str
    text: str
    chance: float
    words: str
    taken: bool


class SceneOut(BaseModel):
    """The figures behind a reading."""

    lamp: float
    room: float
    light: float
    face: float
    ink: float
    gloss: float
    n0: float
    k: float
    t: float
    signal: float
    noise: float
    threshold: float


class SeenOut(BaseModel):
    """A mark as the sensor sees it: `grey` row by row, 0 to 255, and the trace across the stroke, 0 to 1."""

    side_px: int
    grey: list[int]
    left_mm: float
    top_mm: float
    side_mm: float
    from_mm: Point
    to_mm: Point
    at_mm: list[float]
    mean: list[float]
    one_pass: list[float]
    sigma: float
    threshold: float


class ReadingOut(BaseModel):
    chance: float
    words: str
    short: str
    marks: list[float]
    cause: ReadingCause
    cause_words: str
    remedies: list[RemedyOut]
    scene: SceneOut
    seen: SeenOut
    by_runs: str
    """What the maker's own runs say beside the model; empty where none was told."""


class MissPieceOut(BaseModel):
    """The miss that 95 of 100 such pieces stay under, in the order of the sheet's pieces."""

    sheets: list[list[float]]
    worst_mm: float
    even_from_mm: float
    starter: bool
    """Nothing was measured yet."""
    parts: list["MissPart"]
    with_three_mm: float | None
    with_four_mm: float | None
    columns: int
    rows: int
    map_mm: list[float]
    """Row by row over the whole sheet, from its top left."""
    bias_mm: Point
    runs: int


class MissPart(BaseModel):
    """One part of the budget at the worst place, σ an axis."""

    name: str
    sigma_mm: float


class RecordOut(BaseModel):
    """One calibration of the history."""

    id: int
    made_at: datetime
    thickness: Thickness
    holds: bool
    """It is the one that cut files are corrected by now."""
    words: str
    offset_x_mm: float
    offset_y_mm: float
    residual_mm: float | None
    versions: str
    paper: str
    check: NarrowSide


class ArrowOut(BaseModel):
    x_mm: float
    y_mm: float
    dx_mm: float
    dy_mm: float


class CalibrationOut(BaseModel):
    """Everything known of a job's machines: what holds, what was before, whether a new calibration is due."""

    thickness: Thickness
    due: str
    school: CalibrationSchool
    problem: str | None
    """Why there is no vernier sheet for this job."""
    scales: list[VernierScale]
    most_tick: int
    coarse_mm: list[float]
    """The places on the comb that can be told apart."""
    miss_mm: list[list[float | None]]
    """What each tick (from the least on) says with each place on the comb; None where they cannot be together."""
    printed_pitch_mm: float
    cut_pitch_mm: float
    cut_ticks: int
    sides: list[NarrowSide]
    history: list[RecordOut]
    misses: list[LoggedMiss]


class ScaleReading(BaseModel):
    """One scale as it was read: the printed tick that a cut one meets, and where the cut line lies on the comb."""

    scale: Annotated[int, Field(ge=0, le=100)]
    tick: Annotated[int, Field(ge=-100, le=100)]
    coarse_mm: Annotated[float, Field(ge=-100, le=100, allow_inf_nan=False)] = 0.0


class ReadSheet(BaseModel):
    readings: Annotated[list[ScaleReading], Field(max_length=100)]


class FitOut(BaseModel):
    """The calibration that readings come to, before anything is kept."""

    words: str
    residual_mm: float | None
    worst_scale: int | None
    worst_by_mm: float | None
    suspicious: bool
    """One reading lies so far from what the others foretell that its tick was most likely misread."""
    expected: NarrowSide
    arrows: list[ArrowOut]


class KeepCalibration(ReadSheet):
    """`check` is where the ring of the check figure is narrow."""

    check: NarrowSide
    versions: Annotated[str, Field(max_length=200), ONE_LINE] = ""


class MissesIn(BaseModel):
    misses: Annotated[list[LoggedMiss], Field(min_length=1, max_length=4)]


class SchoolIn(BaseModel):
    school: CalibrationSchool


class ChangeIn(BaseModel):
    what: MachineChange


class HelperOut(BaseModel):
    """A helper as it lies on the sheet; `problem` says why it cannot be drawn."""

    key: str
    name: str
    what: str
    paths: list[str]
    size_words: str
    problem: str | None
