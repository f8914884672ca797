"""Blades: the angle of the cutting edge, and how sharp a blade is after the metres that it has cut.

A metre counts as many times as what was cut is abrasive. Sharpness falls as e^(−metres / 600); the force that a cut
takes rises by its inverse.
"""

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le

from vamper.core.values.limits import STRICT

BLADE_METRES = 600.0
# Below this a blade is changed.
WORN_AT = 0.5

WornMetres = Annotated[float, Ge(0), Le(100_000)]


class Blade(StrEnum):
    """By the angle of its cutting edge to the stock, degrees."""

    GENERAL = "45"
    STEEP = "60"


def sharpness_of(metres: float) -> float:
    """How sharp a blade is that has cut so many metres (times the abrasion of what it cut); 1 is new."""
    return math.exp(-metres / BLADE_METRES)


@dataclass(frozen=True, slots=True)
class BladeIn:
    """The blade that is in the machine: `metres` times abrasion it has cut, and whether a tuft was seen on its tip."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    angle: Blade = Blade.GENERAL
    metres: WornMetres = 0.0
    tuft: bool = False

    @property
    def sharpness(self) -> float:
        return sharpness_of(self.metres)
