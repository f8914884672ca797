"""The press plan: where the plate or the iron is set down, in which order, and for how long altogether.

An iron is smaller than most motifs: it is set down in patches that lie over each other by a third, row by row and back
again, and a second time turned by a quarter, since the holes in its sole leave marks. A press that holds the motif is
closed once; one that is too small is set down like an iron, but not turned.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice

from vamper.core.finishing.targets import CLOTH
from vamper.core.values.finish import HeatSpec

# More patches than these are a sign that the sole was mistyped, and nobody looks at them.
MOST_PATCHES = 400


@dataclass(frozen=True, slots=True)
class Patch:
    """One set-down: its top left and sides in the motif's frame, mm, and in which round it comes (from 1)."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    round: int


@dataclass(frozen=True, slots=True)
class PressPlan:
    """The patches in their order, `MOST_PATCHES` at most of the `count` there are; `seconds` for all of them, None
    while the label's time is not known.
    """

    patches: tuple[Patch, ...]
    count: int
    rounds: int
    seconds_each: float | None

    @property
    def seconds(self) -> float | None:
        return None if self.seconds_each is None else self.seconds_each * self.count


def press_plan(width_mm: float, height_mm: float, heat: HeatSpec, seconds_each: float | None) -> PressPlan:
    """How a motif is pressed; `seconds_each` is the label's time for one place."""
    soles = _soles(heat)
    every = (patch for number, sole in enumerate(soles, 1) for patch in _round(width_mm, height_mm, *sole, number))
    count = patch_count(width_mm, height_mm, heat)
    return PressPlan(tuple(islice(every, MOST_PATCHES)), count, len(soles), seconds_each)


def patch_count(width_mm: float, height_mm: float, heat: HeatSpec) -> int:
    """How often a motif is pressed, all rounds together."""
    return sum(_many(width_mm, across) * _many(height_mm, down) for across, down in _soles(heat))


def _soles(heat: HeatSpec) -> tuple[tuple[float, float], ...]:
    """How plate or sole lie in each round, width and height."""
    sole = (heat.width_mm, heat.height_mm)
    return (sole, sole[::-1]) if heat.iron else (sole,)


def _round(width: float, height: float, sole_width: float, sole_height: float, number: int) -> Iterator[Patch]:
    columns, rows = _starts(width, sole_width), _starts(height, sole_height)
    for row, y in enumerate(rows):
        for x in columns if row % 2 == 0 else columns[::-1]:
            yield Patch(x, y, sole_width, sole_height, number)


def _starts(length: float, sole: float) -> list[float]:
    """Where patches begin along one side: evenly, over each other by the share or more, about the motif's middle."""
    count = _many(length, sole)
    if count == 1:
        return [(length - sole) / 2]
    return [(length - sole) * n / (count - 1) for n in range(count)]


def _many(length: float, sole: float) -> int:
    """How many patches a side takes."""
    if length <= sole:
        return 1
    return math.ceil((length - sole) / (sole * (1 - CLOTH.patch_overlap)) - 1e-9) + 1


def per_plate(width_mm: float, height_mm: float, heat: HeatSpec, gap_mm: float = 10.0) -> int:
    """How many blanks of a size lie on the plate at once, turned alike, with room to take hold of them."""

    def laid(width: float, height: float) -> int:
        across = math.floor((heat.width_mm + gap_mm) / (width + gap_mm))
        down = math.floor((heat.height_mm + gap_mm) / (height + gap_mm))
        return across * down

    return max(laid(width_mm, height_mm), laid(height_mm, width_mm))
