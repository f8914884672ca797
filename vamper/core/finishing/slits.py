"""Slits in a mask that goes onto something round both ways, such as a helmet: where they lie and how deep they reach.

A flat disc laid on a ball has too much of itself: at a way `s` from its middle, along the surface, the ball is
`2πR·sin(s/R)` round and the mask `2πs`. The share that is too much, about (s/R)²/6, is taken up by the film itself up
to what it yields; beyond that it folds. Slits therefore run from the rim to there, straight at the middle, and lie so
near each other that what is between two of them does not fold either. They are cut in the mask alone and end before
they come to the piece.
"""

import math

import numpy as np
import shapely
from shapely.geometry import LineString, MultiPolygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import Points

# What film and mask yield before they fold (a starter).
YIELD_SHARE = 0.01
# A mask reaches so far past its piece, and a slit ends so far before that, mm.
MASK_PAST_MM = 10.0
_CLEAR_MM = 2.0
_LEAST_MM = 3.0
_TRIES = 24


def flat_radius_mm(ball_mm: float) -> float:
    """How far from its middle a flat film lies on a ball of this diameter without a fold."""
    return ball_mm / 2 * math.sqrt(6 * YIELD_SHARE)


def slits(piece: MultiPolygon, ball_mm: float) -> tuple[Points, ...]:
    """The slits in the mask of one piece on a ball, each from the rim inward, (2, 2) in mm; none where it lies flat.

    They are turned together to where the piece leaves most of them.
    """
    left, top, right, bottom = piece.bounds
    mask = shapely.box(left - MASK_PAST_MM, top - MASK_PAST_MM, right + MASK_PAST_MM, bottom + MASK_PAST_MM)
    middle = np.array([(left + right) / 2, (top + bottom) / 2])
    flat = flat_radius_mm(ball_mm)
    reach = math.hypot(right - left + 2 * MASK_PAST_MM, bottom - top + 2 * MASK_PAST_MM) / 2
    if reach <= flat:
        return ()
    kept_clear = piece.buffer(_CLEAR_MM)
    count = max(4, math.ceil(math.pi * reach / flat))
    step = 2 * math.pi / count
    tried = ([_slit(mask, kept_clear, middle, flat, turn + step * n) for n in range(count)] for turn in _turns(step))
    best = max(tried, key=lambda found: round(math.fsum(_length(one) for one in found if one is not None), 6))
    return tuple(one for one in best if one is not None)


def _turns(step: float) -> list[float]:
    return [step * n / _TRIES for n in range(_TRIES)]


def _slit(mask: shapely.Polygon, clear: BaseGeometry, middle: Points, flat: float, turn: float) -> Points | None:
    """One slit from the rim toward the middle, up to where the film lies flat or the piece begins."""
    way = np.array([math.cos(turn), math.sin(turn)])
    ray = mask.intersection(LineString([middle, middle + way * 10 * math.sqrt(mask.area)]))
    rim = float(np.hypot(*(np.asarray(ray.coords[-1]) - middle)))
    if rim <= flat:
        return None
    met = clear.intersection(LineString([middle + way * flat, middle + way * rim]))
    begins = flat if met.is_empty else float(np.hypot(*(shapely.get_coordinates(met) - middle).T).max())
    return None if rim - begins < _LEAST_MM else np.array([middle + way * rim, middle + way * begins])


def _length(slit: Points) -> float:
    return float(np.hypot(*(slit[0] - slit[1])))
