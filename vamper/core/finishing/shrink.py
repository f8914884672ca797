"""Things that shrink in the oven: how large to print, how large to punch, how much ink.

A test bar measured before and after gives the factors sx and sy, which differ. What is wanted of the finished thing is
divided by them; a hole is punched by their mean; thickness grows by 1/(sx·sy). The same ink gathers on sx·sy of the
area and deepens, so less of it is printed: a starter of 60 %, to be tuned with a swatch.
"""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Gt, Le

from vamper.core.values.findings import BadInput
from vamper.core.values.limits import STRICT

INK_SHARE = 0.6
Side = Annotated[float, Gt(0), Le(3000)]


@dataclass(frozen=True, slots=True)
class Bar:
    """A test bar, or a thing: width and height, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Side
    height_mm: Side


@dataclass(frozen=True, slots=True)
class Shrink:
    """What is left of a length across and down, as a share of what it was."""

    x: float
    y: float

    @property
    def mean(self) -> float:
        return (self.x + self.y) / 2

    @property
    def thickness(self) -> float:
        """How much thicker it gets."""
        return 1 / (self.x * self.y)

    def printed(self, wanted: Bar) -> Bar:
        """How large to print what shall be so large in the end."""
        return Bar(wanted.width_mm / self.x, wanted.height_mm / self.y)

    def finished(self, printed: Bar) -> Bar:
        return Bar(printed.width_mm * self.x, printed.height_mm * self.y)

    def punch_mm(self, hole_mm: float) -> float:
        """How wide to punch a hole that shall be so wide in the end."""
        return hole_mm / self.mean


def shrink_of(before: Bar, after: Bar) -> Shrink:
    """The factors by a test bar.

    Raises
    ------
    BadInput
        If it did not shrink.
    """
    found = Shrink(after.width_mm / before.width_mm, after.height_mm / before.height_mm)
    for name, factor in (("wide", found.x), ("high", found.y)):
        if not 0.05 <= factor <= 1.0:
            raise BadInput(
                f"the bar is {factor:.2f} times as {name} afterwards, and shrink film gets smaller, to a third or a "
                "half; measure it before and after the oven, the same way round",
                "after",
            )
    return found
