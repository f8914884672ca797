"""How many pixels an inch a picture needs, from how far it is looked at.

The eye separates one arc minute, so two pixels must not be farther apart than that at the viewing distance:
needed ppi = 25.4 / (distance · tan(1/60°)). Never less than 100: people judge a piece in the hand first.
"""

import math

from vamper.core.values.art import Purpose
from vamper.core.values.lengths import figure
from vamper.core.values.units import MM_PER_INCH

LEAST_PPI = 100.0
SOFT_SHARE = 0.6

VIEWING_DISTANCE_MM = {
    Purpose.PLANNER: 300.0,
    Purpose.DRINKWARE: 400.0,
    Purpose.GLASS: 400.0,
    Purpose.BLANK: 400.0,
    Purpose.LAPTOP: 500.0,
    Purpose.CLOTH: 700.0,
    Purpose.WINDOW: 1000.0,
    Purpose.VEHICLE: 2000.0,
}
# Where the ground blurs more than the eye does, this share of the need is enough.
BLURRED_SHARE = {Purpose.CLOTH: 0.7}


def need_of(purpose: Purpose) -> float:
    """Pixels an inch that a purpose asks for."""
    return max(LEAST_PPI, BLURRED_SHARE.get(purpose, 1.0) * needed_ppi(VIEWING_DISTANCE_MM[purpose]))


def seen_from(purpose: Purpose) -> str:
    """From how far a piece is looked at."""
    distance = VIEWING_DISTANCE_MM[purpose]
    return figure(distance / 1000, "m") if distance >= 1000 else figure(distance / 10, "cm")


def needed_ppi(distance_mm: float) -> float:
    """Pixels an inch that the eye can tell apart at `distance_mm`, at least 100.

    >>> round(needed_ppi(300))
    291
    """
    return max(LEAST_PPI, MM_PER_INCH / (distance_mm * math.tan(math.radians(1 / 60))))


def largest_sharp_mm(pixels: float, needed: float) -> float:
    """The greatest length (mm) over which `pixels` still meet a need (ppi)."""
    return pixels * MM_PER_INCH / needed
