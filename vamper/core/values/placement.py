"""Where a piece lies, and how firmly."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import placed
from vamper.core.values.item import DesignNumber
from vamper.core.values.limits import STRICT

FARTHEST_MM = 3000


class Pin(StrEnum):
    """How firmly a piece lies where it lies, the loosest first.

    Free pieces are moved by every packing; kept pieces stay until the next time everything is packed again; pieces
    placed by hand stay then too; locked pieces are not even moved by hand.
    """

    FREE = "free"
    KEPT = "kept"
    HAND = "hand"
    LOCKED = "locked"

    @property
    def firmness(self) -> int:
        return list(Pin).index(self)


TurnDeg = Annotated[float, Ge(-360), Le(360)]
OnSheet = Annotated[float, Ge(-FARTHEST_MM), Le(FARTHEST_MM)]


@dataclass(frozen=True, slots=True)
class Placement:
    """Where a piece lies: X = x + u·cos t − v·sin t, Y = y + u·sin t + v·cos t, with (u, v) in the item frame.

    Parameters
    ----------
    item : int
        The design's number.
    x_mm, y_mm : float
        Where the item frame's origin lies on the sheet.
    turn_deg : float
        t, clockwise on screen.
    pin : Pin
        How firmly the piece lies there.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    item: DesignNumber
    x_mm: OnSheet
    y_mm: OnSheet
    turn_deg: TurnDeg = 0.0
    pin: Pin = Pin.FREE

    def of(self, shape: BaseGeometry) -> BaseGeometry:
        """A shape of the item's frame where this placement puts it on the sheet."""
        return placed(shape, self.x_mm, self.y_mm, self.turn_deg)


Sheet = tuple[Placement, ...]


def without_gaps(sheets: tuple[Sheet, ...]) -> tuple[Sheet, ...]:
    """The sheets on which something lies."""
    return tuple(sheet for sheet in sheets if sheet)
