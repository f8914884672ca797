"""Where a mark is looked for: round its middle, or round each corner of one too large to be seen at once."""

from dataclasses import dataclass

_LARGE_MM, _CORNER_MM = 40.0, 12.0
RIM_MM = 1.2

Bounds = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Spot:
    """A square of the sheet: its middle, and half its side, mm."""

    x_mm: float
    y_mm: float
    half_mm: float
    is_corner: bool


def spots_of(bounds: Bounds) -> tuple[Spot, ...]:
    """The spots of a mark that lies within left, top, right, bottom (mm); corners row by row."""
    left, top, right, bottom = bounds
    longest = max(right - left, bottom - top)
    if longest <= _LARGE_MM:
        return (Spot((left + right) / 2, (top + bottom) / 2, longest / 2 + RIM_MM, False),)
    return tuple(Spot(x, y, _CORNER_MM / 2, True) for y in (top, bottom) for x in (left, right))
