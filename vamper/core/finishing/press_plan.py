"""The press plan: where the plate or the iron is set down, in which order, and for how long altogether.

An iron is smaller than most motifs: it is set down in patches that lie over each other by a third, row by row and back
again. A press that holds the motif is closed once. A label gives its time for a spot under the plate, or for the whole
motif: patches multiply the first and never the second. A second, short round comes only where a corner stays behind.
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
    """One set-down: its top left and sides in the motif's frame, mm."""

    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float


@dataclass(frozen=True, slots=True)
class PressPlan:
    """The patches in their order, `MOST_PATCHES` at most of the `count` there are; `said_s` is the label's time, None
    while it is not known: for every spot where it is `for_spot`, else for the whole motif.
    """

    patches: tuple[Patch, ...]
    count: int
    said_s: float | None
    for_spot: bool

    @property
    def seconds(self) -> float | None:
        """For all of it."""
        return None if self.said_s is None else self.said_s * (self.count if self.for_spot else 1)

    @property
    def seconds_each(self) -> float | None:
        """On one spot."""
        return None if self.seconds is None else self.seconds / self.count


def press_plan(
    width_mm: float, height_mm: float, heat: HeatSpec, said_s: float | None, for_spot: bool = False
) -> PressPlan:
    """How a motif is pressed by the label's time."""
    every = _patches(width_mm, height_mm, heat.width_mm, heat.height_mm)
    count = patch_count(width_mm, height_mm, heat)
    return PressPlan(tuple(islice(every, MOST_PATCHES)), count, said_s, for_spot)


def patch_count(width_mm: float, height_mm: float, heat: HeatSpec) -> int:
    """How often a motif is pressed."""
    return _many(width_mm, heat.width_mm) * _many(height_mm, heat.height_mm)


def _patches(width: float, height: float, sole_width: float, sole_height: float) -> Iterator[Patch]:
    columns, rows = _starts(width, sole_width), _starts(height, sole_height)
    for row, y in enumerate(rows):
        for x in columns if row % 2 == 0 else columns[::-1]:
            yield Patch(x, y, sole_width, sole_height)


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
