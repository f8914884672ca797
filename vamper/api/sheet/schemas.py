"""Sheets on the wire: what they have in common, a layout as numbers, and what can be asked of it."""

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from vamper.api.places import SizeOut
from vamper.api.request_checks import Id, Number
from vamper.core.values.accepted_size import PaperSide
from vamper.core.values.findings import Place
from vamper.core.values.limits import ONE_LINE
from vamper.core.values.placement import Pin
from vamper.services.jobs.variants import PriorityMove
from vamper.services.packing.named import Origin
from vamper.services.packing.scaling import ScaleState


class BoundOut(BaseModel):
    name: str
    reason: str
    left_mm: float
    top_mm: float
    right_mm: float
    bottom_mm: float
    path: str


class MarkOut(BaseModel):
    family: str
    x_mm: float
    y_mm: float
    path: str


class StockOut(BaseModel):
    key: str
    name: str
    stock_class: str
    face_um: float
    backing_um: float
    face_words: str
    colour: str
    printable: bool
    mirrored: bool
    shows_white: bool
    """Whether white shows white on it; where it does not, the stock shows through the print."""
    clear_once: str
    """What is done to it after which its white backing is gone and it is clear; empty where it never is."""


class UnplacedOut(BaseModel):
    item_number: int
    quantity: int
    reason: str


class SheetOut(BaseModel):
    pieces: list[float]
    """Five numbers a piece: its design, x, y (mm), turn (degrees), and how firmly it lies (in the order of `pins`)."""
    used: float
    cut_length_mm: float
    live_path: str
    """The live area of this very sheet; the first one may be used up in part."""
    colour: str | None
    """The colour of the stock that this sheet is cut from, where drawings are cut one colour a sheet."""
    guides: str
    """Guide lines and trim ticks, where the sheet is cut by hand."""


class GrantedSideOut(BaseModel):
    """The size that the machine's own program is known to grant of one side of the paper, and the size to try next."""

    side: PaperSide
    taken_mm: float | None
    refused_mm: float | None
    try_mm: float | None


class FileOut(BaseModel):
    """A file that each sheet is handed over as: what its name ends in, and what it is."""

    ending: str
    words: str


class SheetPart(BaseModel):
    """The setup that all sheets of a job have in common."""

    revision: str
    width_mm: float
    height_mm: float
    live_path: str
    live_size: SizeOut
    bounds: list[BoundOut]
    marks: list[MarkOut]
    stock: StockOut
    mirror: bool
    files: list[FileOut]
    granted: list[GrantedSideOut]
    """For a sheet that may go to the machine's own program; empty for others."""
    miss_mm: float
    """What 95 of 100 pieces miss by less than, wherever they come to lie; and from which border on that is not seen."""
    even_border_mm: float
    corrected: bool
    """Cut files are drawn by the inverse of a calibration; what is shown stays nominal."""
    by_program: bool
    """The machine's own program prints and cuts it: one picture is handed over, and no file."""
    by_hand: bool
    """No machine cuts it: rows are straight, guide lines are printed."""
    practice: bool
    """Its printer or its cutter is a simulated one of the practice bench."""


class LayoutPart(BaseModel):
    """A job's layout: what lies where."""

    revision: str
    pins: list[Pin]
    sheets: list[SheetOut]
    placed: dict[int, int]
    """How many pieces of each design lie on sheets."""
    unplaced: list[UnplacedOut]
    extra_pieces: int


class FiguresPart(BaseModel):
    """How good a layout is: figures that are looked at, and nothing is drawn from. They have the layout's revision."""

    revision: str
    pieces_at_most: int
    sheets_at_least: int
    row_sheets: int
    row_pieces: int
    """What plain rows of boxes hold on as many sheets as the layout has."""
    nearest_mm: list[float | None]
    """The least distance between two pieces of each sheet."""
    offcut: Place
    """The largest free rectangle of the last sheet."""


class LayoutName(BaseModel):
    name: Annotated[str, Field(min_length=1, max_length=60), ONE_LINE]


class ComparedOut(BaseModel):
    """One layout of a job with its figures; `broken` counts rules that it would break by now."""

    name: str
    origin: Origin
    sheets: list[list[float]]
    """Five numbers a piece, as in `LayoutPart`."""
    pins: list[Pin]
    pieces: int
    used: float
    cut_length_mm: float
    cost_a_piece: str
    """In the workshop's currency; empty while no price is known."""
    broken: int
    saved_at: datetime | None


class ScaleToFill(BaseModel):
    sheets: Annotated[int, Field(ge=1, le=50)]


class ScalingOut(BaseModel):
    """`share` is how much of the search is done, `fits` the largest scale that fits so far."""

    state: ScaleState
    sheets: int
    fits: float | None
    trying: float | None
    share: float
    problem: str


class Wish(BaseModel):
    move: PriorityMove


class FillWith(BaseModel):
    job_id: Id
    number: Number
    least_mm: Annotated[float, Field(ge=5, le=500)]
    most_mm: Annotated[float, Field(ge=5, le=500)]
