"""Pieces in hand on the wire."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from vamper.core.sheet.lay.arranging import AlignedBy, SpacedAlong
from vamper.services.jobs.job_state import JobState


class HandPiece(BaseModel):
    """A piece in hand: which one of its sheet, and where it is."""

    index: Annotated[int, Field(ge=0)]
    x_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    y_mm: Annotated[float, Field(ge=-3000, le=3000, allow_inf_nan=False)]
    turn_deg: Annotated[float, Field(ge=-3600, le=3600, allow_inf_nan=False)]


class HandCheck(BaseModel):
    """Pieces of `sheet` held over it."""

    layout: str
    sheet: Annotated[int, Field(ge=0)]
    pieces: Annotated[list[HandPiece], Field(min_length=1, max_length=200)]
    slide: bool = False


class DistanceOut(BaseModel):
    """From a neighbour (`other`) or, with None, the live area's rim to a piece in hand; the two nearest points."""

    other: int | None
    mm: float
    needed_mm: float
    broken: bool
    from_x_mm: float
    from_y_mm: float
    to_x_mm: float
    to_y_mm: float


class SlideOut(BaseModel):
    dx_mm: float
    dy_mm: float


class HandChecked(BaseModel):
    free: bool
    distances: list[DistanceOut]
    slide: SlideOut | None


class HandAction(BaseModel):
    """Something done to pieces of one sheet of the layout that was seen."""

    layout: str
    sheet: Annotated[int, Field(ge=0)]


class DropPieces(HandAction):
    action: Literal["drop"]
    pieces: Annotated[list[HandPiece], Field(min_length=1, max_length=200)]


class _OfPieces(HandAction):
    indexes: Annotated[list[Annotated[int, Field(ge=0)]], Field(min_length=1, max_length=1000)]


class Nudge(_OfPieces):
    action: Literal["nudge"]
    dx_mm: Annotated[float, Field(ge=-100, le=100)]
    dy_mm: Annotated[float, Field(ge=-100, le=100)]


class TurnPieces(_OfPieces):
    action: Literal["turn"]
    steps: Annotated[int, Field(ge=-24, le=24)]


class AlignPieces(_OfPieces):
    action: Literal["align"]
    side: AlignedBy


class SpacePieces(_OfPieces):
    action: Literal["space"]
    way: SpacedAlong


class LockPieces(_OfPieces):
    action: Literal["lock"]
    locked: bool


class SendPieces(_OfPieces):
    action: Literal["send"]
    to_sheet: Annotated[int, Field(ge=0, lt=1000)]


class PlainAction(_OfPieces):
    action: Literal["swap", "duplicate", "take off", "grow"]


AnyAction = Annotated[
    DropPieces | Nudge | TurnPieces | AlignPieces | SpacePieces | LockPieces | SendPieces | PlainAction,
    Field(discriminator="action"),
]


class HandDone(BaseModel):
    """The result of an action by hand: where the pieces are now, and a sentence where that is not quite as asked."""

    job: JobState
    sheet: int
    indexes: list[int]
    note: str
