"""The holes of a drawing: which stay open, which a border fills, and which were to stay open but are closed by it.

A hole is named by a point in it, in shares of the drawing's box, so that it is found again at any size.
"""

from dataclasses import replace

import shapely
from shapely.geometry import MultiPolygon, Point, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.edge import MOST_KEPT_HOLES, EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import grow, hole_polygons, opening, parts
from vamper.core.values.limits import Point as Shares

_DIGITS = 5


def choosable_holes(outline: MultiPolygon) -> list[Polygon]:
    """The holes that can be open or filled one by one, the largest first.

    A hole with another part of the drawing in it cannot: that part would come loose.
    """
    inner = [part.representative_point() for part in outline.geoms] if len(outline.geoms) > 1 else []
    holes = [hole for hole in hole_polygons(outline) if not any(hole.covers(point) for point in inner)]
    return sorted(holes, key=lambda hole: -hole.area)


def kept_holes(outline: MultiPolygon, spec: EdgeSpec) -> list[Polygon]:
    """The drawing's holes that `spec.keep_holes` points at."""
    left, top, right, bottom = outline.bounds
    points = [Point(left + x * (right - left), top + y * (bottom - top)) for x, y in spec.keep_holes]
    if not points:
        return []
    return [hole for hole in choosable_holes(outline) if any(hole.covers(point) for point in points)]


def point_in(hole: Polygon, outline: MultiPolygon) -> Shares:
    """A point in a hole, in shares of the drawing's box."""
    left, top, right, bottom = outline.bounds
    inside = hole.representative_point()
    return (
        round((inside.x - left) / (right - left), _DIGITS),
        round((inside.y - top) / (bottom - top), _DIGITS),
    )


def is_open(hole: Polygon, edge: MultiPolygon) -> bool:
    """Whether the blade cuts a hole out."""
    return not edge.covers(hole.representative_point())


def hole_turned(outline: MultiPolygon, edge: MultiPolygon, spec: EdgeSpec, at: Shares) -> EdgeSpec:
    """The specification with one hole filled that was open, or open that was filled; all others stay as they are.

    Parameters
    ----------
    outline, edge : MultiPolygon
        The drawing and its edge as they are now, mm.
    at : tuple of float
        A point in the hole, in shares of the drawing's box.

    Raises
    ------
    BadInput
        If there is no such hole, or more stay open than are kept.
    """
    left, top, right, bottom = outline.bounds
    point = Point(left + at[0] * (right - left), top + at[1] * (bottom - top))
    holes = choosable_holes(outline)
    turned = next((hole for hole in holes if hole.covers(point)), None)
    if turned is None or not spec.uses("keep_holes"):
        raise BadInput("there is no hole here that can be opened or filled by itself", "keep_holes")
    kept = tuple(point_in(hole, outline) for hole in holes if is_open(hole, edge) != (hole is turned))
    if len(kept) > MOST_KEPT_HOLES:
        raise BadInput(
            f"more than {MOST_KEPT_HOLES} holes would stay open one by one; fill them all first, then open those that "
            "should show what lies behind",
            "keep_holes",
        )
    return replace(spec, fill_holes=True, keep_holes=kept)


def holes_along(
    outline: MultiPolygon, spec: EdgeSpec
) -> tuple[tuple[Polygon, ...], tuple[Polygon, ...], tuple[Polygon, ...]]:
    """The holes that a border encloses: openings to be kept, openings that are filled, and kept holes that it closes.

    Closing a border is opening what it encloses, and that is far less to work on than the whole drawing.
    """
    wanted = kept_holes(outline, spec)
    kept: list[Polygon] = []
    closed: list[Polygon] = []
    for hole in wanted:
        opened = parts(opening(grow(hole, -spec.reach_mm), spec.smooth_mm))
        (kept if opened else closed).extend(opened or [hole])
    ground: BaseGeometry = shapely.union_all([hole for hole in hole_polygons(outline) if hole not in wanted])
    if len(outline.geoms) > 1:
        ground = shapely.difference(ground, outline)
    return tuple(kept), tuple(parts(opening(grow(ground, -spec.reach_mm), spec.smooth_mm))), tuple(closed)
