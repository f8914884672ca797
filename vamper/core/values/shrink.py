"""How a film shrinks in the oven, told by a test bar measured before and after."""

from dataclasses import dataclass
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Gt, Le

from vamper.core.values.limits import STRICT

Side = Annotated[float, Gt(0), Le(3000)]
# What is left of a length where it can be told from a slip of the rule.
LEAST_LEFT = 0.05
# Less between the axes than this is a slip of the rule on a bar of 100 mm.
_EVEN_SHARE = 0.005


@dataclass(frozen=True, slots=True)
class Bar:
    """A test bar, or a thing: width and height, mm."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    width_mm: Side
    height_mm: Side


def not_shrunk(before: Bar, after: Bar) -> str:
    """Why a test bar tells nothing of how a film shrinks, "" where it does."""
    left = (("wide", after.width_mm / before.width_mm), ("high", after.height_mm / before.height_mm))
    for name, factor in left:
        if not LEAST_LEFT <= factor <= 1.0:
            return (
                f"the bar is {factor:.2f} times as {name} afterwards, and shrink film gets smaller, to a third or a "
                "half; measure it before and after the oven, the same way round"
            )
    return ""


@dataclass(frozen=True, slots=True)
class ShrinkSpec:
    """How a film shrinks: a test bar before and after the oven, mm, the same way round, and how much of the ink is
    printed, since it gathers on less of an area.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    before: Bar
    after: Bar
    ink_share: Annotated[float, Ge(0.1), Le(1)] = 0.6

    def __post_init__(self) -> None:
        if wrong := not_shrunk(self.before, self.after):
            raise ValueError(f"after: {wrong}")

    @property
    def x(self) -> float:
        """The share of a width that is left."""
        return self.after.width_mm / self.before.width_mm

    @property
    def y(self) -> float:
        return self.after.height_mm / self.before.height_mm

    @property
    def mean(self) -> float:
        return (self.x + self.y) / 2

    @property
    def is_even(self) -> bool:
        """Whether it shrinks alike along both axes, as nearly as a bar can be measured."""
        return abs(self.x / self.y - 1) <= _EVEN_SHARE
