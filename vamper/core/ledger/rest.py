"""What is left of a sheet that was made: the sheet with what was printed and cut on it gone.

Its marks are gone as well: where new ones were printed over old ones a sensor would see both.
"""

from collections.abc import Iterator

import shapely
from shapely.geometry import Polygon

from vamper.core.plan import Plan
from vamper.core.values.geometry import mirrored, parts, ring_points
from vamper.core.values.paper import MOST_CORNERS, Gone, Paper

# How far a printer draws a sheet in differently from one time to the next, mm; a starter.
FEED_ERROR_MM = 1.5
_ROUGH_MM, _CLOSED_MM = 0.2, 1.5


def rest_of(plan: Plan, sheet: int, margin_mm: float = FEED_ERROR_MM) -> Paper:
    """The paper that is left of a sheet (from 0), in the frame in which it is loaded."""
    before, laid = plan.job.paper, plan.sheets[sheet]
    bleed = {item.number: item.bleed.width_mm for item in plan.items}
    shapes = [
        edge.buffer(bleed[one.item]) if bleed[one.item] else edge
        for one, edge in zip(laid.placements, laid.edges, strict=True)
    ]
    # Between neighbours nothing can be made; together they are fewer shapes.
    used = shapely.union_all(shapes).buffer(_CLOSED_MM).buffer(-_CLOSED_MM)
    if plan.mirror:
        used = mirrored(used, before.width_mm)
    pieces = [Polygon(part.exterior) for part in parts(used)]
    marks = [part for mark in plan.setup.marks for whole in parts(mark.shape) for part in _without_holes(whole)]
    rings = [_ring(part) for part in (*pieces, *marks)]
    kept = before.gone if sheet == 0 else ()
    spent = before.spent if sheet == 0 else None
    return Paper(before.width_mm, before.height_mm, spent, (*kept, *rings), margin_mm)


def _without_holes(part: Polygon) -> Iterator[Polygon]:
    """The same in parts that have no hole: what lies inside a frame is not gone."""
    if not part.interiors:
        yield part
        return
    left, top, right, bottom = part.bounds
    middle = part.interiors[0].centroid.x
    for box in (shapely.box(left, top, middle, bottom), shapely.box(middle, top, right, bottom)):
        for half in parts(shapely.intersection(part, box)):
            yield from _without_holes(half)


def _ring(part: Polygon) -> Gone:
    """The outer ring of a part, as finely as a paper can hold it."""
    rough, outer = _ROUGH_MM, part.exterior.simplify(_ROUGH_MM)
    while len(outer.coords) > MOST_CORNERS:
        rough *= 2
        outer = part.exterior.simplify(rough)
    return tuple(round(float(side), 2) for corner in ring_points(outer) for side in corner)
