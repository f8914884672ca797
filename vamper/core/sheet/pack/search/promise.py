"""What an engine's answers promise: how full a sheet can get in the time that is left.

An engine lays a group in a strip and makes the strip shorter. Its fill, the load over the length that it has reached,
is nearly the same for any group of one mix after the same time, whether the group goes in or not; from one second to
ten it grows by about 4 % with each e-fold of time, and hardly more after that. So a short look at a group a little too
large or too small tells how many go in. Before the first look the shapes must do: what fills its hull and its box well
lies dense.

The figures were fitted to twelve mixes (`tests.bench.fullest`), whose fill after ten seconds they give within 0.05.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from shapely.geometry.base import BaseGeometry

# The fill after `_KNOWN_S`, from the shares that shapes take of their hulls and of their tightest boxes.
_BASE, _OF_HULL, _OF_BOX = 0.35, 0.25, 0.30
_KNOWN_S = 8.0
# An attempt is judged after so long, or after such a share of its time; sooner than `_SETTLED_S` a fill still leaps,
# and counts as one of then.
_PROBE_S, _PROBE_SHARE, _SETTLED_S = 1.5, 0.15, 1.0
# It is out of reach where it promises so much less than it was asked for, at once or when it no longer grows.
_SHORT_BY, _SHORT_AT_LAST = 0.03, 0.004
_NEARLY = 0.03
# It is stale where its fill has not grown for so long, or for such a share of its time.
_STALE_S, _STALE_SHARE = 3.0, 0.4
# The growth of the fill with the logarithm of the time, and until when it goes on.
_GROWTH, GROWS_S = 0.042, 12.0


def promised(fill: float, after_s: float, in_s: float) -> float:
    """The fill to expect in so many seconds, from a fill that was reached after some."""
    return fill * (1 + _GROWTH * math.log(max(1.0, min(in_s, GROWS_S) / after_s)))


def likely_fill(shapes: Iterable[tuple[BaseGeometry, int]], in_s: float) -> float:
    """The fill to expect of shapes, each so many times, before anything was tried."""
    area = hulls = boxes = 0.0
    for shape, count in shapes:
        area += count * shape.area
        hulls += count * shape.convex_hull.area
        boxes += count * shape.minimum_rotated_rectangle.area
    known = _BASE + _OF_HULL * area / max(hulls, 1e-9) + _OF_BOX * area / max(boxes, 1e-9)
    return promised(known, _KNOWN_S, in_s)


@dataclass
class Progress:
    """How far one attempt has got.

    Parameters
    ----------
    load : float
        What was asked for, as a share of the sheet's room.
    seconds : float
        How long it may take.
    patience : float
        How many times as far below what was asked for a promise may be.
    fill, after_s : float
        The best fill of its strip so far, and when it was reached.
    """

    load: float
    seconds: float
    patience: float = 1.0
    fill: float = 0.0
    after_s: float = 0.0

    def reached(self, stretch: float, after_s: float) -> None:
        """Note an answer: a strip so many times as long as the sheet."""
        if (fill := self.load / stretch) > self.fill:
            self.fill, self.after_s = fill, max(_SETTLED_S, after_s)

    def promises(self, in_s: float) -> float:
        """The fill that an attempt of so many seconds would reach."""
        return promised(self.fill, self.after_s, in_s) if self.fill else 0.0

    def is_judged(self, after_s: float) -> bool:
        """Whether it has gone on for long enough to be judged."""
        return bool(self.fill) and after_s >= max(_PROBE_S, _PROBE_SHARE * min(GROWS_S, self.seconds))

    def out_of_reach(self, after_s: float) -> bool:
        """Whether less is promised than was asked for."""
        short = self.patience * max(_SHORT_AT_LAST, _SHORT_BY * (1 - after_s / GROWS_S))
        return self.is_judged(after_s) and self.promises(self.seconds) < self.load * (1 - short)

    def is_near(self) -> bool:
        """Whether all that was asked for is nearly laid."""
        return self.fill > self.load * (1 - _NEARLY)

    def is_stale(self, after_s: float) -> bool:
        """Whether nothing better has come for long."""
        return self.is_judged(after_s) and after_s - self.after_s > max(_STALE_S, _STALE_SHARE * after_s)
