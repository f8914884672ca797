"""Thin places of an edge, which tear or fray, and what would leave none: a size, or a border with its smoothing."""

import math
from dataclasses import replace

import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.art.outline import Outline, scaled
from vamper.core.edge.bends import EASY_RADIUS_MM
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import closing, grow, longest_side, opening, parts

# A miss is seen on a border of less than three times its width.

# Arcs and overlays leave slivers of this order.
_ROUNDING_MM = 0.02
_JUST_MM = 1e-3
# A wedge fills half of the box round it; longer than so many necks it is a strip that tears.
_WEDGE_SHARE, _CONVEX_SHARE, _TIP_LENGTH = 0.68, 0.7, 3.0
# Finer than this no stock is cut.
_LEAST_NECK_MM = 0.2
# Borders tried against thin places, in least necks.
_CURES = (0.55, 0.75, 1.0, 1.5, 2.0)
# Growths tried against thin places of a bare outline.
_GROWTHS = (1.1, 1.25, 1.5, 1.75, 2.0, 2.5, 3.0, 4.0)
MOST_GROWTH = _GROWTHS[-1]
# A drawing is traced anew at another size, so a neck may come out a little narrower than it grew.
_TO_SPARE = 1.05


def thin_places(shape: MultiPolygon, neck_mm: float) -> tuple[list[Polygon], list[Polygon]]:
    """Strips of an edge narrower than `neck_mm`, and slots in it as narrow.

    What an opening removes is thin, what a closing fills is a slot. Crumbs shorter than the neck, as every corner
    leaves them, do not count, nor do pointed tips: they run out in a point, and hold by their root.
    """

    def long_ones(shapes: BaseGeometry) -> list[Polygon]:
        least = neck_mm + _JUST_MM
        return [part for part in parts(shapes) if longest_side(part) > least and not _is_tip(part, neck_mm)]

    # What is just as wide is wide enough, whatever arithmetic says.
    radius = neck_mm / 2 - _JUST_MM
    necks = shapely.difference(shape, grow(opening(shape, radius), _ROUNDING_MM))
    slots = shapely.difference(closing(shape, radius), grow(shape, _ROUNDING_MM))
    return long_ones(necks), long_ones(slots)


def _is_tip(part: Polygon, neck_mm: float) -> bool:
    """Whether what is thin is but a point: a wedge, as wide as the neck at its root, and not long beside that."""
    around, hull = part.minimum_rotated_rectangle, part.convex_hull
    if longest_side(part) > _TIP_LENGTH * neck_mm or around.area <= 0 or hull.area <= 0:
        return False
    return bool(part.area <= _WEDGE_SHARE * around.area and part.area >= _CONVEX_SHARE * hull.area)


def holding_neck(shape: MultiPolygon, most_mm: float) -> float:
    """About the widest neck at which no place of an edge is thin, mm, to a twentieth; 0 where there is none."""
    low, high = _LEAST_NECK_MM, most_mm
    if any(thin_places(shape, low)):
        return 0.0
    if not any(thin_places(shape, high)):
        return high
    while high > 1.05 * low:
        middle = (low * high) ** 0.5
        low, high = (low, middle) if any(thin_places(shape, middle)) else (middle, high)
    return low


def least_growth(outline: Outline, spec: EdgeSpec, neck_mm: float, holding_mm: float) -> float | None:
    """The least growth tried at which no place of a bare outline, or an inset one, is thin; `holding_mm` is its holding
    neck. Whichever side is then named, in tenths, it holds for that.
    """

    def is_sound(growth: float) -> bool:
        if spec.distance_mm == 0:
            # Grown, its points would lie farther from the drawing than those that it is traced by at that size.
            return not any(any(thin_places(bare, neck_mm * share / growth)) for share in (1.0, _TO_SPARE))
        return not any(thin_places(derive_edge(scaled(outline, growth), spec, neck_mm).shape, neck_mm))

    bare, tried = derive_edge(outline, spec, neck_mm).shape, list(_GROWTHS)
    if spec.distance_mm == 0:
        if neck_mm > MOST_GROWTH * holding_mm:
            return None
        # A neck grows with its drawing, but what is a point at one size may be a strip at another.
        least = neck_mm / holding_mm
        nearly = (least * share for share in (_TO_SPARE, _TO_SPARE**2, _TO_SPARE**3))
        tried = sorted(growth for growth in (*nearly, *_GROWTHS) if least < growth <= MOST_GROWTH)
    return next(
        (growth for growth in tried if all(is_sound(side_grown(side, growth) / side) for side in outline.size_mm)), None
    )


def side_grown(side_mm: float, growth: float) -> float:
    """A side to ask for where it is to grow so much: in tenths, and no less, mm."""
    return math.ceil(side_mm * growth * 10) / 10


def gentlest_cure(outline: Outline, spec: EdgeSpec, neck_mm: float) -> tuple[float, float] | None:
    """The gentlest border and smoothing of those tried that leaves no thin place."""
    if not (spec.follows and spec.has_border) or spec.rings:
        return None
    for share in _CURES:
        distance = max(spec.distance_mm, round(share * neck_mm, 1))
        smooth = max(spec.smooth_mm, round(share * neck_mm, 1))
        trial = replace(spec, distance_mm=distance, smooth_mm=smooth)
        if not any(thin_places(derive_edge(outline, trial, neck_mm).shape, neck_mm)):
            return distance, smooth
    return None


def is_sound(trial: Edge, neck_mm: float) -> bool:
    """Whether an edge has neither thin places nor tight bends: no cure for what may not even be seen."""
    return trial.smallest_radius_mm >= EASY_RADIUS_MM and not any(thin_places(trial.shape, neck_mm))
