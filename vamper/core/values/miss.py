"""The miss: how far a cut lies from where it should be. Borders and bleed are measured by it.

Errors are normal along either axis. Where both have the same σ, the length of a miss is Rayleigh distributed, and 95 of
100 stay under σ · √(−2 ln 0.05) = 2.448 σ.
"""

import math
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le

from vamper.core.values.limits import STRICT

NINETEEN_OF_TWENTY = 2.448
# An axis, before any run was measured, and how many runs that belief is worth.
STARTER_SIGMA_MM = 0.25
STARTER_RUNS = 5
STARTER_MISS_MM = round(NINETEEN_OF_TWENTY * STARTER_SIGMA_MM, 3)


@dataclass(frozen=True, slots=True)
class LoggedMiss:
    """How far off a piece was cut, or that pieces were not visibly off.

    Parameters
    ----------
    dx_mm, dy_mm : float
        Right and down.
    run : int or None
        The same for all pieces of one sheet.
    within_mm : float or None
        For pieces that came out well and were not measured: what no piece that looks good is off by.
    pieces : int
        The number of these pieces; 1 for a measured piece.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    dx_mm: Annotated[float, Ge(-20), Le(20)]
    dy_mm: Annotated[float, Ge(-20), Le(20)]
    run: Annotated[int, Ge(0)] | None = None
    within_mm: Annotated[float, Gt(0), Le(20)] | None = None
    pieces: Annotated[int, Ge(1), Le(10_000)] = 1


def miss_on_sheet(off_mm: tuple[float, float], turn_deg: float) -> LoggedMiss:
    """A miss in a design's own frame, as the design lies on the sheet, turned clockwise on screen."""
    turn, (dx, dy) = math.radians(turn_deg), off_mm
    return LoggedMiss(
        round(dx * math.cos(turn) - dy * math.sin(turn), 3), round(dx * math.sin(turn) + dy * math.cos(turn), 3)
    )
