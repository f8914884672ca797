"""Dry runs on the wire: chances are said as so many in 100, sheets count from 1."""

from enum import StrEnum
from typing import Annotated

from annotated_types import Ge, Le
from pydantic import BaseModel, ConfigDict, Field

from vamper.core.twin.remedies import RemedyStep
from vamper.core.twin.simulate import Spoiling
from vamper.core.values.findings import Place, Station
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.twin import Device, FaultKey
from vamper.services.twin.dry_runs import MOST_RUNS


class PhotoKind(StrEnum):
    """The subject of a picture: a printed sheet, a weeded sheet, or cut pieces on a plain ground."""

    PRINT = "print"
    WEEDED = "weeded"
    PIECES = "pieces"


class PrintState(StrEnum):
    THERE = "there"
    MISSING = "missing"
    PALE = "pale"
    UNSEEN = "unseen"


class DryRunIn(BaseModel):
    """How a dry run is made; `unsure` draws what nobody knows yet anew for each run."""

    model_config = ConfigDict(extra="forbid")

    runs: Annotated[int, Ge(1), Le(MOST_RUNS)] = 200
    unsure: bool = True
    faults: list[FaultKey] = Field(default_factory=list, max_length=len(FaultKey))
    seed: Annotated[int, Ge(1), Le(1_000_000)] = 1


class TwinPieceOut(BaseModel):
    """A piece of a sheet: its results in all runs, and in the run that is shown (`spoiled`, None: good)."""

    placement: int
    item_number: int
    box: Place
    good: float
    bitten: float
    cut_clean: float
    miss_p95_mm: float | None
    spoiled: Spoiling | None
    path: str
    """Its edge as it was planned then, in the frame of the files; left empty where it came out good."""
    words: str


class TwinSheetOut(BaseModel):
    """A sheet; `run` is the run that its picture shows, in which the marks were `read` or not."""

    number: int
    run: int
    read: bool
    good: str
    pieces: list[TwinPieceOut]


class TwinCauseOut(BaseModel):
    cause: Spoiling
    name: str
    words: str
    share: float
    said: str
    pieces: int


class TwinRemedyOut(BaseModel):
    """A remedy, with the shares of good sheets and good pieces once it is taken."""

    key: str
    causes: list[Spoiling]
    text: str
    at: Station
    sheet_good: str
    pieces_good: str
    steps: list[RemedyStep]


class TwinOutcomeOut(BaseModel):
    """The result of a dry run. `fresh` says that the job is still as it was run."""

    fresh: bool
    number: int
    runs: int
    unsure: bool
    faults: list[FaultKey]
    marks_read: str
    sheet_good: str
    pieces_good: str
    miss_p50_mm: float | None
    miss_p95_mm: float | None
    verdict: str
    causes: list[TwinCauseOut]
    remedies: list[TwinRemedyOut]
    then: list[TwinRemedyOut]
    """What to take after the best remedy, one after the other; chances are those with all before."""
    sheets: list[TwinSheetOut]


class DryRunOut(BaseModel):
    """How a dry run stands, the result of the last finished run, and what to heed when the job is made for real."""

    running: bool
    share: float
    doing: str
    problem: str
    practice: bool
    asked: DryRunIn
    outcome: TwinOutcomeOut | None
    cautions: list[str]


class FaultOut(BaseModel):
    key: FaultKey
    device: Device
    name: str
    words: str


class CheckedPieceOut(BaseModel):
    """One planned piece in a picture of its sheet: is its print there; with its edge as it lies in the files."""

    placement: int
    item_number: int
    state: PrintState
    words: str
    path: str


class LooseOut(BaseModel):
    """One cut piece in a scan: its outline, where its edge should lie (mm in the scan), how far off it was cut."""

    item_number: int
    path: str
    edge_path: str
    words: str
    dx_mm: float | None
    dy_mm: float | None
    border_least_mm: float
    area_share: float


class PhotoCheckOut(BaseModel):
    """The findings of a picture. `width_mm` and `height_mm` are the size of the picture as it is shown."""

    number: int
    kind: PhotoKind
    sheet: int
    verdict: str
    lines: list[str]
    width_mm: float
    height_mm: float
    pieces: list[CheckedPieceOut]
    loose: list[LooseOut]
    unknown: int
    misses: list[LoggedMiss]
    """Misses of pieces that can be counted in: those of designs that all lie the same way."""


class SampleIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    kind: PhotoKind
