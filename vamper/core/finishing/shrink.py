"""Things that shrink in the oven: how large to print, how large to punch, how much ink.

A test bar measured before and after gives the factors sx and sy, which differ. What is wanted of the finished thing is
divided by them; a hole is punched by their mean; thickness grows by 1/(sx·sy). The same ink gathers on sx·sy of the
area and deepens, so less of it is printed: a starter figure of 60 %, to be tuned with a swatch.
"""

from vamper.core.values.findings import BadInput
from vamper.core.values.shrink import Bar, ShrinkSpec, not_shrunk


def shrink_of(before: Bar, after: Bar) -> ShrinkSpec:
    """How a film shrinks, by a test bar.

    Raises
    ------
    BadInput
        If it did not shrink.
    """
    if wrong := not_shrunk(before, after):
        raise BadInput(wrong, "after")
    return ShrinkSpec(before, after)


def printed(shrink: ShrinkSpec, wanted: Bar) -> Bar:
    """How large to print what shall be so large in the end."""
    return Bar(wanted.width_mm / shrink.x, wanted.height_mm / shrink.y)


def finished(shrink: ShrinkSpec, printed_at: Bar) -> Bar:
    """How large it is in the end."""
    return Bar(printed_at.width_mm * shrink.x, printed_at.height_mm * shrink.y)


def punch_mm(shrink: ShrinkSpec, hole_mm: float) -> float:
    """How wide to punch a hole that shall be so wide in the end."""
    return hole_mm / shrink.mean


def thickness(shrink: ShrinkSpec) -> float:
    """How much thicker it gets."""
    return 1 / (shrink.x * shrink.y)
