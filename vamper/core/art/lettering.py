"""What belongs together in a picture though it lies apart: lines of lettering, a caption under its picture, dots.

Letters are strokes: thin beside their height, of about one height, side by side. A line of them belongs to what lies
nearest above or below it; dots and accents belong to whatever they are nearest to. A row of stickers is none of this:
its parts are solid, or stand farther apart than letters do.
"""

from collections.abc import Sequence
from functools import partial
from itertools import pairwise

import numpy as np
import shapely
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import opening

# A picture of more parts than these is a texture, and no lettering is read in it: its cost grows with their square.
_MOST_PARTS = 400
# Fewer letters than this are no line.
LEAST_LETTERS = 3
# A stroke is thinner than this share of its letter's height, and little of a letter is thicker.
_STROKE_SHARE, _SOLID_SHARE = 0.34, 0.35
# Letters of one line: the lower is at least so high beside the higher, they overlap upright by this share of the lower,
# and stand no farther apart than this share of the higher.
_LOWER, _OVERLAP, _SPACED = 0.45, 0.5, 0.75
# A line belongs to what lies within so many of its heights, and over or under at least so much of its width.
_BESIDE_HEIGHTS, _BESIDE_SHARE = 1.6, 0.5
# Less than this share of the largest is a crumb.
CRUMB_SHARE = 0.1


def belonging(groups: Sequence[MultiPolygon]) -> list[MultiPolygon]:
    """Groups of parts, with groups that belong together merged; their order is not kept."""
    members = [part for group in groups for part in group.geoms]
    if len(groups) < 2 or len(members) > _MOST_PARTS:
        return list(groups)
    of_group = [place for place, group in enumerate(groups) for _ in group.geoms]
    lines = _lines(members)
    joined = [(of_group[one], of_group[other]) for line in lines for one, other in pairwise(line)]
    merged = _merged(list(groups), joined)
    written = [shapely.union_all([members[place] for place in line]) for line in lines]
    merged = _merged(merged, _captions(merged, written))
    return _merged(merged, _crumbs(merged))


def lines_of(shape: MultiPolygon) -> list[list[Polygon]]:
    """Lines of lettering among a drawing's parts, each its letters from left to right; none in a texture."""
    members = list(shape.geoms)
    return [] if len(members) > _MOST_PARTS else [[members[place] for place in line] for line in _lines(members)]


def _is_stroke(part: Polygon) -> bool:
    _, top, _, bottom = part.bounds
    solid = opening(part, (bottom - top) * _STROKE_SHARE / 2)
    # Of an upright stroke nothing is thinner than its own height; it is told by being narrow.
    left, _, right, _ = part.bounds
    return bool(solid.area <= _SOLID_SHARE * part.area) or right - left <= _STROKE_SHARE * (bottom - top)


def _lines(members: Sequence[Polygon]) -> list[list[int]]:
    """Lines of lettering, each its parts' places from left to right."""
    letters = [place for place, part in enumerate(members) if _is_stroke(part)]
    if len(letters) < LEAST_LETTERS:
        return []
    boxes = np.array([members[place].bounds for place in letters])
    left, top, right, bottom = boxes.T
    high = bottom - top
    higher, lower = np.maximum(high[:, None], high[None, :]), np.minimum(high[:, None], high[None, :])
    overlap = np.minimum(bottom[:, None], bottom[None, :]) - np.maximum(top[:, None], top[None, :])
    gap = np.maximum(left[:, None], left[None, :]) - np.minimum(right[:, None], right[None, :])
    near = (lower >= _LOWER * higher) & (overlap >= _OVERLAP * lower) & (gap <= _SPACED * higher)
    count, labels = connected_components(coo_array(near), directed=False)
    lines = [[letters[place] for place in np.flatnonzero(labels == n)] for n in range(count)]
    return [sorted(line, key=lambda place: members[place].bounds[0]) for line in lines if len(line) >= LEAST_LETTERS]


def _captions(groups: Sequence[MultiPolygon], lines: Sequence[BaseGeometry]) -> list[tuple[int, int]]:
    """Pairs of each line's group with the nearest other group over or under it."""
    found = list[tuple[int, int]]()
    for line in lines:
        own = next(place for place, group in enumerate(groups) if group.intersects(line))
        left, top, right, bottom = line.bounds
        tall = max(bottom - top, float(np.median([part.bounds[3] - part.bounds[1] for part in _parts(line)])))
        others = [
            (group.distance(line), place)
            for place, group in enumerate(groups)
            if place != own
            and min(right, group.bounds[2]) - max(left, group.bounds[0])
            >= _BESIDE_SHARE * min(right - left, group.bounds[2] - group.bounds[0])
        ]
        if others and min(others)[0] <= _BESIDE_HEIGHTS * tall:
            found.append((own, min(others)[1]))
    return found


def _crumbs(groups: Sequence[MultiPolygon]) -> list[tuple[int, int]]:
    """Each crumb with what it is nearest to."""
    largest = max(group.area for group in groups)
    crumbs = [place for place, group in enumerate(groups) if group.area < CRUMB_SHARE * largest]
    whole = [place for place in range(len(groups)) if place not in set(crumbs)]
    return [(one, min(whole, key=partial(_away, groups, one))) for one in crumbs]


def _away(groups: Sequence[MultiPolygon], one: int, other: int) -> float:
    return float(groups[one].distance(groups[other]))


def _parts(shape: BaseGeometry) -> list[Polygon]:
    return list(getattr(shape, "geoms", [shape]))


def _merged(groups: Sequence[MultiPolygon], pairs: Sequence[tuple[int, int]]) -> list[MultiPolygon]:
    """The groups, with the two groups of each pair merged."""
    if not pairs:
        return list(groups)
    first, second = zip(*pairs, strict=True)
    graph = coo_array((np.ones(len(pairs)), (first, second)), shape=(len(groups), len(groups)))
    count, labels = connected_components(graph, directed=False)
    return [
        MultiPolygon([part for place in np.flatnonzero(labels == n).tolist() for part in groups[place].geoms])
        for n in range(count)
    ]
