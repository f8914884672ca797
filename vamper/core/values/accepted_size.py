"""What a machine's own program grants of a paper: the largest picture it takes, as far as its maker has found out.

Each side has an interval: what was taken, and the least that was refused. An answer narrows it; where a later answer
contradicts an earlier one, the later one holds. Nothing of it is ever shipped: programs change, and differ by paper.
"""

import math
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Gt, Le

from vamper.core.values.limits import STRICT, Length
from vamper.core.values.paper import Paper

# Closer than this nobody needs to know.
KNOWN_TO_MM = 1.0
# Without anything taken, this share of what was refused is tried next; without anything refused, this much more.
_LESS, _MORE = 0.95, 1.05
# Papers are the same where their sides are this near.
_SAME_MM = 0.5


class PaperSide(StrEnum):
    """A side of a sheet as it lies before the maker."""

    WIDTH = "width"
    HEIGHT = "height"


@dataclass(frozen=True, slots=True)
class SizeBounds:
    """The bounds known of one side, mm: the greatest size that was taken, and the least that was refused."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    taken: Annotated[float, Gt(0), Le(2000)] | None = None
    refused: Annotated[float, Gt(0), Le(2000)] | None = None

    def __post_init__(self) -> None:
        if self.taken is not None and self.refused is not None and self.refused <= self.taken:
            raise ValueError("what was refused must be more than what was taken")

    def after(self, size_mm: float, taken: bool) -> "SizeBounds":
        """After one more answer; what contradicts it is forgotten."""
        if taken:
            refused = self.refused if self.refused is not None and self.refused > size_mm else None
            return SizeBounds(max(size_mm, self.taken or 0.0), refused)
        kept = self.taken if self.taken is not None and self.taken < size_mm else None
        return SizeBounds(kept, min(size_mm, self.refused or size_mm))

    def next_try(self, most_mm: float) -> float | None:
        """The size to try next, whole mm and at most `most_mm`; None where enough is known.

        Between what was taken and what was refused it halves the interval.
        """
        if self.taken is None:
            wanted = most_mm if self.refused is None else self.refused * _LESS
        elif self.refused is None:
            wanted = self.taken * _MORE
        else:
            wanted = (self.taken + self.refused) / 2
        wanted = float(math.floor(min(wanted, most_mm)))
        if wanted <= 0 or (self.taken is not None and wanted < self.taken + KNOWN_TO_MM):
            return None
        return wanted

    def most(self, most_mm: float) -> float:
        """The greatest size to lay out on: never more than was taken; before anything was, the size to try first."""
        if self.taken is not None:
            return min(self.taken, most_mm)
        return self.next_try(most_mm) or most_mm


@dataclass(frozen=True, slots=True)
class AcceptedSize:
    """The bounds known of one paper, by its size."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    paper_width: Length
    paper_height: Length
    width: SizeBounds = SizeBounds()
    height: SizeBounds = SizeBounds()

    def __post_init__(self) -> None:
        for belief, side in ((self.width, self.paper_width), (self.height, self.paper_height)):
            if belief.taken is not None and belief.taken > side:
                raise ValueError("a granted size must not be larger than its paper")

    def is_for(self, paper: Paper) -> bool:
        return abs(paper.width_mm - self.paper_width) < _SAME_MM and abs(paper.height_mm - self.paper_height) < _SAME_MM

    def of(self, side: PaperSide) -> SizeBounds:
        return self.width if side is PaperSide.WIDTH else self.height

    def after(self, side: PaperSide, size_mm: float, taken: bool) -> "AcceptedSize":
        after = self.of(side).after(size_mm, taken)
        return replace(self, width=after) if side is PaperSide.WIDTH else replace(self, height=after)
