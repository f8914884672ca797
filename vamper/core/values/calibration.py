"""A calibration: where a cutter's blade lands beside the print of a printer, and how far that is trusted.

`map` ((a, b, c), (d, e, f)) says that a cut meant for (x, y) lands on (a·x + b·y + c, d·x + e·y + f), sheet frame, mm.
Cut files are drawn by its inverse; the plan stays nominal.
"""

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

import numpy as np
import numpy.typing as npt
from annotated_types import Ge, Le, Len

from vamper.core.values.geometry import Points
from vamper.core.values.limits import STRICT

Row = Annotated[tuple[Annotated[float, Ge(-1000), Le(1000)], ...], Len(3, 3)]
AffineMap = Annotated[tuple[Row, ...], Len(2, 2)]
NO_CHANGE: AffineMap = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0))
# A sheet is never farther from itself than this in size, or turned farther (as sine).
_MOST_STRETCH = 0.2
_MOST_TURN = 0.2
# Nor is its corner farther off than this, mm: no sheet comes to lie so far from where it belongs.
_MOST_OFF_MM = 60.0


class Thickness(StrEnum):
    """How thick a stock is, face and backing: thicker ones bend and slip otherwise, so each has its calibration."""

    THIN = "thin"
    MEDIUM = "medium"
    THICK = "thick"


_THICK_FROM_UM = ((Thickness.THICK, 300.0), (Thickness.MEDIUM, 180.0))


def thickness_of(thickness_um: float) -> Thickness:
    return next((one for one, least in _THICK_FROM_UM if thickness_um >= least), Thickness.THIN)


@dataclass(frozen=True, slots=True)
class Calibration:
    """A printer with a cutter, as measured.

    Parameters
    ----------
    map : AffineMap
        Where the blade goes for a place on the sheet.
    residual_mm : float or None
        What the fit left over (σ); None where no reading was left to check the others by.
    read_mm : float
        How far the reading of marks differs from sheet to sheet, an axis (σ).
    stretch_left : float
        The share of a distance that may still be wrong.
    slip_mm : float
        What a pass moves the stock.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    map: AffineMap = NO_CHANGE
    residual_mm: Annotated[float, Ge(0), Le(10)] | None = 0.0
    read_mm: Annotated[float, Ge(0), Le(10)] = 0.1
    stretch_left: Annotated[float, Ge(0), Le(0.1)] = 0.0
    slip_mm: Annotated[float, Ge(0), Le(10)] = 0.1

    def __post_init__(self) -> None:
        if len(self.map) != 2 or any(len(row) != 3 for row in self.map):
            return  # said by the field itself
        (a, b, c), (d, e, f) = self.map
        straight = abs(a - 1) <= _MOST_STRETCH and abs(e - 1) <= _MOST_STRETCH
        if not (straight and abs(b) <= _MOST_TURN and abs(d) <= _MOST_TURN):
            raise ValueError("map must leave the sheet about as it is: no stretch over 20 %, no turn over 11°")
        if max(abs(c), abs(f)) > _MOST_OFF_MM:
            raise ValueError(
                f"map must leave the sheet about where it is: its corner lands no more than {_MOST_OFF_MM:g} mm off"
            )

    @property
    def matrix(self) -> npt.NDArray[np.float64]:
        """The map as a matrix, shape (2, 3)."""
        return np.array(self.map, dtype=float)

    def landing(self, points: Points) -> Points:
        """Where cuts meant for `points` (n, 2) land."""
        return landing(self.matrix, points)

    def corrected(self, points: Points) -> Points:
        """The places to send to the cutter so that cuts land on `points` (n, 2)."""
        matrix = self.matrix
        back: Points = (points - matrix[:, 2]) @ np.linalg.inv(matrix[:, :2]).T
        return back


def landing(matrix: npt.NDArray[np.float64], points: Points) -> Points:
    """Points (n, 2) under an affine map, shape (2, 3)."""
    found: Points = points @ matrix[:, :2].T + matrix[:, 2]
    return found


def turns_deg(matrix: npt.NDArray[np.float64]) -> tuple[float, float]:
    """How far a map turns either axis, clockwise on screen."""
    (a, b), (d, e) = matrix[:, :2]
    return math.degrees(math.atan2(d, a)), math.degrees(math.atan2(-b, e))
