"""Print on the wire: settings to choose, what a proof measures, ink."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vamper.core.printing.advice import PrintSchool
from vamper.core.values.limits import ONE_LINE
from vamper.services.brief.printing import DialogLine

Unit = Literal["mm", "cm", "in"]
Measured = Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]
Words = Annotated[str, Field(max_length=120), ONE_LINE]


class PrintingOut(BaseModel):
    """The choices for a stock on a printer, and what to expect; empty for a stock that is not printed."""

    lines: list[DialogLine]
    source: str
    look: str
    mirror_words: str
    schools: list[PrintSchool]
    school: str
    label: str
    own: str
    dry_minutes: int
    scale_x: float
    scale_y: float
    page_width_mm: float
    page_height_mm: float
    sheet_left_mm: float


class PrintChoiceIn(BaseModel):
    """A print choice to remember from now on; a field that is left out stays."""

    model_config = ConfigDict(extra="forbid")

    label: Words | None = None
    own: Words | None = None
    school: Words | None = None


class ProofIn(BaseModel):
    """The measured bars of a proof: across the sheet, and along its height."""

    across: Measured
    down: Measured
    unit: Unit = "mm"
    sure: bool = False


class ProofOut(BaseModel):
    scale_x: float
    scale_y: float
