"""The printer and the cutter as the planner sees them: what they can reach, and with how much force."""

from dataclasses import dataclass
from enum import StrEnum


class PrinterKind(StrEnum):
    INKJET = "inkjet"
    LASER = "laser"


class Feed(StrEnum):
    """How the cutter moves the stock: on a carrier mat, or between rollers; `hand` is no machine but scissors."""

    MAT = "mat"
    ROLLER = "roller"
    HAND = "hand"


# What scissors go round without a slip.
HAND_RADIUS_MM = 4.0


@dataclass(frozen=True, slots=True)
class Margins:
    """The strips along the paper's sides that a printer leaves blank, mm."""

    top_mm: float
    right_mm: float
    bottom_mm: float
    left_mm: float


@dataclass(frozen=True, slots=True)
class Printer:
    kind: PrinterKind
    margins: Margins


@dataclass(frozen=True, slots=True)
class ForceRange:
    """What the blade can be pressed with, gf; `step` is the machine's own resolution."""

    min_gf: float
    max_gf: float
    step_gf: float

    def settle(self, force_gf: float) -> float:
        """The nearest force the machine can be set to."""
        steps = round((force_gf - self.min_gf) / self.step_gf)
        most = int((self.max_gf - self.min_gf) / self.step_gf + 1e-9)
        return self.min_gf + min(max(steps, 0), most) * self.step_gf


@dataclass(frozen=True, slots=True)
class Cutter:
    """`reach` is measured from the sheet's top left; `acceleration` bounds the speed round a bend (mm/s²).

    `head` and `tail` are the strips under the rollers, `mat` is the window of the mat that the stock may lie in.
    """

    feed: Feed
    reach_width_mm: float
    reach_height_mm: float
    force: ForceRange
    acceleration_mm_s2: float = 3000.0
    head_mm: float = 0.0
    tail_mm: float = 0.0
    mat_width_mm: float | None = None
    mat_height_mm: float | None = None

    @property
    def is_machine(self) -> bool:
        return self.feed is not Feed.HAND
