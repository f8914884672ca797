"""Several drawings in one picture: parts that lie far apart belong to different stickers.

Parts nearer than a distance form a group; groups are put in reading order. Whether a picture is proposed for splitting
depends on its own scale: the gaps must be wide beside the picture, and no group a mere crumb beside the largest.
"""

from dataclasses import dataclass

import numpy as np
import shapely
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from shapely.geometry import MultiPolygon

from vamper.core.art.lettering import CRUMB_SHARE, belonging
from vamper.core.art.outline import Outline

# Of the longer side of all that is inked.
APART_SHARE = 0.06
_ROW_SHARE = 0.5
# Soft rims reach a little beyond the outline.
_RIM_PX = 3


@dataclass(frozen=True, slots=True)
class Group:
    """One drawing: its parts, and the box that keeps it alone, in shares of the picture's sides."""

    shape: MultiPolygon
    crop: tuple[float, float, float, float]


def start_apart_mm(outline: Outline) -> float:
    """How far apart parts must be to count as several drawings, unless a person says otherwise."""
    return APART_SHARE * max(outline.size_mm)


def groups_of(outline: Outline, apart_mm: float, together: bool = False) -> tuple[Group, ...]:
    """The drawings in a picture, in reading order; parts farther apart than `apart_mm` are different drawings. What
    belongs `together` is one drawing though: lines of lettering, a caption with its picture, dots and accents.
    """
    members = list(outline.shape.geoms)
    first, second = shapely.STRtree(members).query(members, predicate="dwithin", distance=apart_mm)
    graph = coo_array((np.ones(len(first)), (first, second)), shape=(len(members), len(members)))
    _, labels = connected_components(graph, directed=False)
    shapes = [
        MultiPolygon([part for part, label in zip(members, labels, strict=True) if label == n])
        for n in range(int(labels.max()) + 1)
    ]
    found = _in_order(outline, shapes)
    return together_in(outline, found) if together else found


def together_in(outline: Outline, groups: tuple[Group, ...]) -> tuple[Group, ...]:
    """The groups of a picture, with groups that belong together merged."""
    return _in_order(outline, belonging([group.shape for group in groups]))


def _in_order(outline: Outline, shapes: list[MultiPolygon]) -> tuple[Group, ...]:
    return tuple(Group(shape, _crop(outline, shape)) for shape in _reading_order(shapes))


def are_several(groups: tuple[Group, ...]) -> bool:
    """Whether the groups look like stickers of their own rather than a single sticker with crumbs round it."""
    areas = [group.shape.area for group in groups]
    return len(areas) > 1 and min(areas) >= CRUMB_SHARE * max(areas)


def _reading_order(shapes: list[MultiPolygon]) -> list[MultiPolygon]:
    """Row by row from the top, each row from the left; a row is what overlaps its first member by half its height."""
    waiting = sorted(shapes, key=lambda shape: shape.bounds[1])
    ordered: list[MultiPolygon] = []
    while waiting:
        _, top, _, bottom = waiting[0].bounds
        limit = top + _ROW_SHARE * (bottom - top)
        row = [shape for shape in waiting if shape.bounds[1] <= limit]
        ordered += sorted(row, key=lambda shape: shape.bounds[0])
        waiting = [shape for shape in waiting if shape.bounds[1] > limit]
    return ordered


def _crop(outline: Outline, shape: MultiPolygon) -> tuple[float, float, float, float]:
    """The box round a group in shares of the picture, a soft rim included."""
    width, height = outline.picture_px
    left, top, right, bottom = (value / outline.mm_per_px for value in shape.bounds)
    x, y = outline.origin_px
    return (
        max(0.0, (x + left - _RIM_PX) / width),
        max(0.0, (y + top - _RIM_PX) / height),
        min(1.0, (x + right + _RIM_PX) / width),
        min(1.0, (y + bottom + _RIM_PX) / height),
    )
