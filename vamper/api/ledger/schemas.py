"""What is told of runs, recipes and causes, and what may be asked."""

from datetime import datetime
from typing import Annotated

from annotated_types import Ge, Le, Len
from pydantic import BaseModel, ConfigDict

from vamper.api.was_set import ProposedOut, WasSetIn
from vamper.core.ledger.cost import Rates
from vamper.core.ledger.diagnosis import Check
from vamper.core.ledger.recipe import RecipeKind
from vamper.core.ledger.run import CameOut, LaterKind, Note, Sheets, Spoilt, SpoiltPiece, Words
from vamper.core.ledger.supply import Thing
from vamper.core.values.findings import Place
from vamper.core.values.paper import Gone, Paper
from vamper.core.values.run_seen import MarksSeen

Code = Annotated[str, Len(1, 60)]


class SpoiltWordOut(BaseModel):
    key: Spoilt
    words: str


class LaidPieceOut(BaseModel):
    """One piece as it lies on the sheet, mm, as an SVG path; its picture is put there by x, y and the turn."""

    placement: int
    design: int
    name: str
    path: str
    x_mm: float
    y_mm: float
    turn_deg: float


class LaidDesignOut(BaseModel):
    """The picture of a design, in its own frame, mm."""

    picture: str
    box: Place


class LaidSheetOut(BaseModel):
    number: int
    pieces: list[LaidPieceOut]
    logged: int | None
    """The run that was logged of it since it was handed off."""


class CameOutQuestion(BaseModel):
    """The question that a hand-off still has to be asked: how each of its sheets came out."""

    handed_off_at: datetime | None
    words: str
    width_mm: float
    height_mm: float
    copies: int
    """How often each sheet is made."""
    lots: list[str]
    """The lots of its stock that were bought, the newest first."""
    simulated: bool
    designs: dict[int, LaidDesignOut]
    sheets: list[LaidSheetOut]
    spoilt: list[SpoiltWordOut]
    proposed: list[ProposedOut]
    """What was to be set on the machine, for each of its cuts; empty where nothing is set."""
    asks_read: bool
    """Whether a sensor looked for marks, so that it is asked whether they were read."""


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
    was_set: WasSetIn = None
    """What was set on the machine; nothing is learnt of force where that is not said."""
    read: MarksSeen | None = None
    """Whether the marks were read, and at which try."""


class SpoiltInPicture(BaseModel):
    """The spoilt pieces that a picture of the sheet shows, to be looked over."""

    words: str
    spoilt: list[SpoiltPiece]


class NewId(BaseModel):
    id: int


class MadeAgainIn(BaseModel):
    """Make a run's job once more, on so many sheets."""

    model_config = ConfigDict(extra="forbid")

    sheets: Sheets


class LaterOut(BaseModel):
    kind: LaterKind
    words: str
    due: datetime
    is_due: bool
    held: bool | None


class RunOut(BaseModel):
    id: int
    job_id: int | None
    again: bool
    """Whether it can be made again exactly."""
    settings_held: bool
    """Whether its settings would be kept then: they cut as they should."""
    made_at: datetime
    title: str
    customer: str
    lot: str
    sheet: int
    sheets: int
    pieces: int
    good: int
    came_out: CameOut
    came_out_words: str
    stock: str
    cutter: str
    settings: str
    spoilt: str
    cause: str | None
    simulated: bool
    later: list[LaterOut]
    note: str


class RecipeOut(BaseModel):
    """How often a way went well: shares 0..1, the interval holds 90 of 100 beliefs."""

    kind: RecipeKind
    stock: str
    machine: str
    what: str
    """What of the machine: a cut and its blade."""
    setting: str
    simulated: bool
    runs: int
    share: float
    low: float
    high: float
    lately: float
    drifted: bool
    words: str
    source: str
    """What the setting that stands is known from: the starter, ladders, runs."""
    next_setting: str | None
    why: str


class SharePoint(BaseModel):
    """The share of good pieces in one run, and when it was."""

    at: datetime
    share: float


class OverTimeOut(BaseModel):
    """How the runs on a stock and machine came out, the oldest first."""

    stock: str
    cutter: str
    simulated: bool
    runs: list[SharePoint]


class MachineMissesOut(BaseModel):
    """The misses of pieces on one machine, right and down, mm, the newest last."""

    cutter: str
    simulated: bool
    misses: list[list[float]]


class LedgerOut(BaseModel):
    runs: list[RunOut]
    total: int
    recipes: list[RecipeOut]
    due: list[int]
    machines: list[MachineMissesOut]
    over_time: list[OverTimeOut]


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


class StoredOut(BaseModel):
    """Something else on the shelf, in its own unit; `words` say how much of it is left."""

    thing: Thing
    name: str
    words: str
    share_left: float
    low: bool
    price: str
    newest: int


class InMachineOut(BaseModel):
    """A blade or a mat that is in use, and what it went through."""

    what: str
    name: str
    machine: str
    words: str
    share_left: float | None
    low: bool


class ThingOut(BaseModel):
    """Something that can be bought, and what it is bought by."""

    key: Thing
    name: str
    bought_by: str
    unit: str


class PriceOut(BaseModel):
    """A price of the workshop: as it was typed, and as it is reckoned with."""

    key: str
    words: str
    typed: float
    used: float


class SuppliesOut(BaseModel):
    stocks: list[ShelfOut]
    things: list[StoredOut]
    in_machines: list[InMachineOut]
    can_buy: list[SentenceOut]
    can_buy_things: list[ThingOut]
    rates: Rates
    prices: list[PriceOut]
    shares: list[SentenceOut]


class RatesIn(BaseModel):
    """Prices and rates to set; a field that is left out stays."""

    model_config = ConfigDict(extra="forbid")

    rates: dict[Code, float | str]


class OffcutOut(BaseModel):
    """An offcut on the shelf, with what is gone of it as an SVG path; `room` says what is left in one piece."""

    id: int
    name: str
    stock: str
    stock_name: str
    kept_at: datetime
    paper: Paper
    path: str
    room: str


class RestIn(BaseModel):
    """The rest of a sheet of a run, or of a hand-off that was not run yet."""

    model_config = ConfigDict(extra="forbid")

    run: int
    name: Annotated[str, Len(1, 120)]


class GoneOut(BaseModel):
    """The part of a used sheet that is gone, read off a picture of it."""

    gone: list[Gone]
    words: str


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
    on_shelf: int
    """Packs, things and offcuts that came onto the shelf."""


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


class SuspectOut(BaseModel):
    key: str
    text: str
    chance: float
    why: list[str]
    remedy: str
    keep: str
    check: Check | None


class DiagnosisOut(BaseModel):
    suspects: list[SuspectOut]
    next_check: Check | None
    asked: list[SentenceOut]
    """The checks that were answered, with their words."""
