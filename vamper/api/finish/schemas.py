"""What is told of finishing, and what may be asked of it."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated, Literal

from annotated_types import Ge, Gt, Le, Len
from pydantic import BaseModel, ConfigDict

from vamper.core.finishing.chain import ChainStage
from vamper.core.values.finish import CoverSpec, PressSpec, SetWay, TransferMask
from vamper.services.finish.evening_document import AwayTime


class LabelOut(BaseModel):
    """A figure that the product's label says; `value` None where nobody has read it yet."""

    key: str
    name: str
    unit: str
    ask: str
    least: float
    most: float
    value: float | None


class FinishStepOut(BaseModel):
    """One step of a job's chain."""

    key: str
    stage: ChainStage
    do: str
    minutes: int
    takes: str
    times: int
    hands_on: bool
    places: list[str]
    check: str
    labels: list[str]
    cautions: list[str]
    within: int | None
    watched: bool
    """It is hot: somebody stays near while it goes on by itself."""
    most: str | None
    """How long it may take at most, by the label."""
    own: bool
    """The maker put it in."""


class FinishChoiceOut(BaseModel):
    """One of a few ways; `limit` says what speaks against it."""

    key: str
    name: str
    limit: str = ""


class PracticeOut(BaseModel):
    """The smallest design of a sheet, of which one more is a practice piece."""

    number: int
    name: str
    quantity: int


class FinishOut(BaseModel):
    """How a job is finished, begun now and alone."""

    name: str
    words: str
    cover: CoverSpec | None
    """What lies over the print; nothing where nothing can."""
    coats: int | None
    masks: list[FinishChoiceOut]
    """What pieces can be carried by; empty where nothing is carried."""
    mask: TransferMask
    sets: list[FinishChoiceOut]
    """How a water-slide decal can be set; empty for all else."""
    set: SetWay | None
    press: PressSpec | None
    """What a label says of heat; nothing where nothing is pressed."""
    plate: int
    on_plate: bool
    outdoors: bool
    """It is hinged onto a place that is measured first."""
    letters: str
    ball_mm: float | None
    """How high letters are to be read from where they are looked at; "" where nobody said."""
    takes: str
    done_at: datetime
    hands_on: str
    steps: list[FinishStepOut]
    needs: list[str]
    later: list[str]
    practice: PracticeOut | None
    always: str
    labels: list[LabelOut]
    missing: list[str]
    tonight: bool


class LabelsIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    figures: dict[str, Annotated[float, Ge(0), Le(100_000)] | None]


class StepState(StrEnum):
    """How a step of the evening stands."""

    TO_COME = "to-come"
    RUNNING = "running"
    OVER = "over"
    """It has rested for as long as it should, and waits for its check."""
    PAUSED = "paused"
    """Hands are off it for a while."""
    DONE = "done"


class EveningStepOut(BaseModel):
    step: int
    name: str
    check: str
    cautions: list[str]
    labels: list[str]
    hands_on: bool
    places: list[str]
    starts: datetime
    ends: datetime
    state: StepState
    greatest: bool
    """Its end is the latest there may be, not the soonest."""
    watched: bool
    """It is hot: somebody stays near while it goes on by itself."""
    too_late: bool
    unread: list[LabelOut]
    """What the label must say before this is begun."""


class EveningBatchOut(BaseModel):
    number: int
    job_id: int | None
    name: str
    process: str
    steps: list[EveningStepOut]


class FiguresIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    figures: dict[str, Annotated[float, Ge(0), Le(100_000)]]


class NextOut(BaseModel):
    """The step that hands do next, or do now."""

    batch: int
    step: int


class EveningNoteOut(BaseModel):
    """Something to know of an evening; its code is that of a finding."""

    code: str
    text: str


class EveningOut(BaseModel):
    """The evening as it stands. `proven` says that no plan ends sooner."""

    begins: datetime | None
    done_by: datetime | None
    now: datetime
    starts: datetime
    ends: datetime | None
    proven: bool
    verdict: str
    notes: list[EveningNoteOut]
    places: dict[str, int]
    away: list[AwayTime]
    batches: list[EveningBatchOut]
    next: NextOut | None
    always: str


class EveningIn(BaseModel):
    """When it begins, the wish when it ends, what the places hold, when nobody is there; times without an offset are
    those of the workshop's clock.
    """

    model_config = ConfigDict(extra="forbid")

    begins: datetime | None = None
    done_by: datetime | None = None
    places: dict[str, Annotated[int, Ge(0), Le(100)]] | None = None
    away: Annotated[list[AwayTime], Len(0, 20)] | None = None


class StepDoing(StrEnum):
    BEGIN = "begin"
    PAUSE = "pause"
    END = "end"
    UNDO = "undo"


class FlatWallOut(BaseModel):
    """The wall laid flat, as SVG paths in mm: its rim, the piece as the sheet packs it, and two measures to show."""

    box: list[float]
    wall: str
    edge: str
    drawing: str
    handle: str
    around: str
    up: str


class OnCupOut(BaseModel):
    """A design on what it goes round. Rings are pairs of turn (degrees from its middle) and height (mm up the wall)."""

    kind: Literal["cylinder", "taper"]
    top_mm: float
    bottom_mm: float
    slant_mm: float
    upright_mm: float
    top_around_mm: float
    bottom_around_mm: float
    up_mm: float
    edge: list[list[list[float]]]
    drawing: list[list[list[float]]]
    handle: list[list[list[float]]]
    flat: FlatWallOut
    lines: list[str]


class SeamsIn(BaseModel):
    """Where a design is parted, mm from its middle to the right; where the least is drawn, if nothing is said."""

    model_config = ConfigDict(extra="forbid")

    seams_mm: Annotated[list[Annotated[float, Ge(-3000), Le(3000)]], Len(0, 11)] = []


class StripsIn(BaseModel):
    """The ways round that a paper strip measured; what was not measured stays."""

    model_config = ConfigDict(extra="forbid")

    top_around_mm: Annotated[float, Gt(0), Le(6000)] | None = None
    bottom_around_mm: Annotated[float, Gt(0), Le(6000)] | None = None
