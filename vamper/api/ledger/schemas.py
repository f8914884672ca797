"""What is told of runs, recipes and causes, and what may be asked."""

from datetime import datetime
from typing import Annotated

from annotated_types import Ge, Le, Len
from pydantic import BaseModel, ConfigDict

from vamper.core.ledger.cost import Part, Rates
from vamper.core.ledger.run import CameOut, LaterKind, Note, Sheets, Spoilt, SpoiltPiece, Words
from vamper.core.values.cut import Cut

Code = Annotated[str, Len(1, 60)]


class SpoiltWordOut(BaseModel):
    key: Spoilt
    words: str


class LaidPieceOut(BaseModel):
    """One piece as it lies on the sheet, mm, as an SVG path."""

    placement: int
    name: str
    path: str
    drawing: str


class LaidSheetOut(BaseModel):
    number: int
    pieces: list[LaidPieceOut]
    logged: int | None
    """The run that was logged of it since it was handed off."""


class CameOutQuestion(BaseModel):
    """What a hand-off still has to be asked: how each of its sheets came out."""

    handed_off_at: datetime | None
    words: str
    width_mm: float
    height_mm: float
    copies: int
    """How often each sheet is made."""
    sheets: list[LaidSheetOut]
    spoilt: list[SpoiltWordOut]


class CameOutIn(BaseModel):
    """How a sheet (from 1) came out."""

    model_config = ConfigDict(extra="forbid")

    sheet: Sheets
    sheets: Sheets = 1
    came_out: CameOut
    spoilt: Annotated[list[SpoiltPiece], Len(0, 10_000)] = []
    note: Note = ""
    minutes: Annotated[float, Ge(0), Le(100_000)] | None = None
    lot: Words = ""
    again: bool = False


class RunId(BaseModel):
    id: int


class LaterOut(BaseModel):
    kind: LaterKind
    due: datetime
    is_due: bool
    held: bool | None


class RunOut(BaseModel):
    id: int
    job_id: int | None
    made_at: datetime
    title: str
    sheet: int
    sheets: int
    pieces: int
    good: int
    came_out: CameOut
    stock: str
    cutter: str
    settings: str
    spoilt: str
    cause: str | None
    simulated: bool
    later: list[LaterOut]
    note: str


class RecipeOut(BaseModel):
    """How often a setting went well: shares 0..1, the interval holds 90 of 100 beliefs."""

    stock: str
    cutter: str
    cut: Cut
    blade: str
    setting: str
    simulated: bool
    runs: int
    share: float
    low: float
    high: float
    lately: float
    drifted: bool
    words: str
    next_setting: str | None
    why: str


class MachineMissesOut(BaseModel):
    """What pieces were off by on one machine, right and down, mm, the newest last."""

    cutter: str
    simulated: bool
    misses: list[list[float]]


class LedgerOut(BaseModel):
    runs: list[RunOut]
    total: int
    recipes: list[RecipeOut]
    due: list[int]
    machines: list[MachineMissesOut]


class SentenceOut(BaseModel):
    key: str
    words: str


class ShelfOut(BaseModel):
    """A stock on the shelf."""

    stock: str
    name: str
    bought: int
    spent: int
    left: int
    low: bool
    sheet_price: str
    newest_pack: int


class SuppliesOut(BaseModel):
    stocks: list[ShelfOut]
    can_buy: list[SentenceOut]
    rates: Rates


class RatesIn(BaseModel):
    """What to set of what things cost; what is not said stays."""

    model_config = ConfigDict(extra="forbid")

    rates: dict[Code, float | str]


class CostPartOut(BaseModel):
    part: Part
    cost: str
    share: float


class PieceCostOut(BaseModel):
    number: int
    name: str
    count: int
    cost: str
    by_margin: str
    by_hour: str
    parts: list[CostPartOut]


class CostOut(BaseModel):
    """What a job costs; nothing can be said while no price is known."""

    known: bool
    pieces: list[PieceCostOut]
    total: str
    lines: list[str]
    tax_line: str


class LaterIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    kind: LaterKind
    held: bool
    note: Note = ""


class FoundIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    cause: Code | None


class TakenOut(BaseModel):
    taken: int
    known: int


class DiagnosisStartOut(BaseModel):
    """All that can be ticked, and what is ticked already of a run."""

    symptoms: list[SentenceOut]
    facts: list[SentenceOut]
    seen: list[str]
    known: list[str]
    title: str | None


class DiagnosisIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    seen: Annotated[list[Code], Len(1, 40)]
    facts: Annotated[list[Code], Len(0, 40)] = []
    checked: dict[Code, bool] = {}


class CheckOut(BaseModel):
    key: str
    ask: str
    minutes: float


class SuspectOut(BaseModel):
    key: str
    text: str
    chance: float
    why: list[str]
    remedy: str
    keep: str
    check: CheckOut | None


class DiagnosisOut(BaseModel):
    suspects: list[SuspectOut]
    next_check: CheckOut | None
    asked: list[SentenceOut]
    """The checks that were answered, with their words."""
