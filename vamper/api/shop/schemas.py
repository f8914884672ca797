"""Printers and cutters on the wire."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vamper.core.values.accepted_size import PaperSide
from vamper.core.values.cutter import Cutter
from vamper.core.values.limits import ONE_LINE
from vamper.core.values.paper import Paper
from vamper.core.values.printer import Printer
from vamper.core.values.stock import Stock

Name = Annotated[str, Field(min_length=1, max_length=80), ONE_LINE]


class PrinterProfile(BaseModel):
    """A printer: what it is called, and the margins it leaves blank."""

    model_config = ConfigDict(extra="forbid")

    name: Name
    printer: Printer


class CutterProfile(BaseModel):
    """A cutter: what it is called, how it moves the stock, what it reaches, and its force."""

    model_config = ConfigDict(extra="forbid")

    name: Name
    cutter: Cutter


class PrinterOut(BaseModel):
    id: int
    revision: int
    profile: PrinterProfile


class CutterOut(BaseModel):
    id: int
    revision: int
    profile: CutterProfile


class GrantedAnswer(BaseModel):
    """The answer of the machine's own program to a picture of a size on a paper."""

    paper: Paper
    side: PaperSide
    size_mm: Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)]
    taken: bool


class StockOnShelf(BaseModel):
    """A stock of the workshop; an `own` stock can be changed."""

    key: str
    stock: Stock
    group: str
    own: bool
    hidden: bool


class StockKeyOut(BaseModel):
    key: str


class HiddenIn(BaseModel):
    model_config = ConfigDict(extra="forbid")

    hidden: bool
