"""`follow`: a border that goes round the drawing the way a careful hand would draw it.

Terms: `O` the outline, `d` the distance, `s` the smoothing radius. In order:

1. grow `O` by `d`;
2. close by `s`, so that no notch is tighter than `s` (convex corners already have radius `d` or more);
3. fill the holes, unless they are to be kept (all of them, or single ones: those come out `d` narrower all round);
4. join what is still apart: by the gentlest closing that ties everything with joints the stock can hold, of which only
   the pieces that touch two parts are kept; where none does, by the shortest bridges;
5. unite with the grown outline once more, so that no polygonal error eats the border, and thin out the points.

The same outline and figures always give the same edge.
"""

from collections.abc import Sequence

import numpy as np
import shapely
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components, minimum_spanning_tree
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.edge.holes import holes_along
from vamper.core.edge.kind import Derived, EdgeKind
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import (
    as_multi,
    closing,
    grow,
    grow_far,
    opening,
    parts,
    simplified,
    without_holes,
)

SIMPLIFY_MM = 0.005
LEAST_BRIDGE_MM = 3.0
_JOIN_STEPS = 12
# Joining is judged on coarser arcs than the edge is drawn with; it only decides which pieces are added.
_JUDGE_ERROR_MM = 0.03
# Overlays leave slivers and hair gaps of this order.
_TOUCH_MM = 1e-3


def follow(outline: MultiPolygon, spec: EdgeSpec, least_neck_mm: float) -> Derived:
    """The border of `spec.distance_mm` round `outline`; see the module's text for the steps.

    Afterwards every inked point lies at least d − 0.02 mm inside, and with `join` there is one ring.
    """
    d, s = spec.reach_mm, spec.smooth_mm
    # Filling first gives the same edge as filling last, with far fewer points to grow.
    source = without_holes(outline) if spec.fill_holes else outline
    grown = grow_far(source, d)
    border = closing(grown, s)
    if spec.fill_holes:
        border = without_holes(border)
    bridges: tuple[Polygon, ...] = ()
    apart = len(parts(border))
    if spec.join:
        border, bridges = _joined(border, grown, parts(source), max(d, s), s, least_neck_mm)
        if spec.fill_holes:
            border = without_holes(border)
    border = simplified(shapely.union(border, grown), SIMPLIFY_MM)
    border = as_multi(part for part in parts(border) if part.intersects(source))
    filled: tuple[Polygon, ...] = ()
    closed: tuple[Polygon, ...] = ()
    if spec.fill_holes:
        kept, filled, closed = holes_along(outline, spec)
        if kept:
            border = as_multi(parts(shapely.difference(border, shapely.union_all(kept))))
    drawn = len(parts(source))
    tied = drawn if drawn > len(border.geoms) else 0
    return Derived(border, tied, apart, bridges, filled, closed)


def _joined(
    border: BaseGeometry, grown: BaseGeometry, drawn: list[Polygon], reach: float, smooth: float, neck: float
) -> tuple[BaseGeometry, tuple[Polygon, ...]]:
    """`border` in one piece that hangs together by no thread, and the bridges it took.

    Parts that the border itself brought together are looked at too: where two barely meet, the joint is too thin.
    """
    groups = _held(border, drawn, neck)
    if len(groups) == 1:
        return border, ()
    tied, groups = _tied_by_closing(border, grown, drawn, max(smooth, 0.25), 3 * reach, neck)
    bridges: tuple[Polygon, ...] = ()
    if len(groups) > 1:
        bridges = _bridges(groups, max(neck, 2 * smooth, LEAST_BRIDGE_MM))
        tied = shapely.union_all([tied, *bridges])
    # Joining can leave new notches where a tie meets a part.
    tied = shapely.union(tied, _kept_additions(closing(tied, smooth), tied))
    return tied, bridges


def _tied_by_closing(
    border: BaseGeometry, grown: BaseGeometry, drawn: list[Polygon], start: float, stop: float, neck: float
) -> tuple[BaseGeometry, list[BaseGeometry]]:
    """The gentlest closing that holds everything together, or the strongest one tried; and the groups it leaves.

    A radius that is enough does not make every larger one enough, so the search goes upward in steps. A closing spans
    no gap wider than twice its radius, so radii too small for the widest gap are left out.
    """
    loose = as_multi(parts(grown))
    widest = max((distance for _, _, distance in _spanning_tree(list(loose.geoms))), default=0.0)
    least = max(start, widest / 2)
    radii = np.geomspace(least, stop, _JOIN_STEPS) if least < stop else np.array([max(stop, start)])
    tied: BaseGeometry = border
    groups: list[BaseGeometry] = list(drawn)
    for radius in radii:
        closed = closing(loose, float(radius), _JUDGE_ERROR_MM)
        tied = shapely.union(border, _ties(closed, loose))
        groups = _held(tied, drawn, neck)
        if len(groups) == 1:
            break
    return tied, groups


def _ties(closed: BaseGeometry, loose: MultiPolygon) -> BaseGeometry:
    """Of what a closing adds, the pieces that touch two different parts."""
    added = parts(shapely.difference(closed, loose))
    if not added:
        return Polygon()
    tree = shapely.STRtree(list(loose.geoms))
    touching, _ = tree.query(added, predicate="dwithin", distance=_TOUCH_MM)
    counts = np.bincount(touching, minlength=len(added))
    # A hair of growth makes the tie overlap its parts instead of only touching them.
    return shapely.union_all([grow(piece, _TOUCH_MM) for piece, n in zip(added, counts, strict=True) if n >= 2])


def _kept_additions(closed: BaseGeometry, tied: BaseGeometry) -> BaseGeometry:
    """The areas that the last smoothing adds, without pieces that do not lie against the border."""
    added = [piece for piece in parts(shapely.difference(closed, tied)) if piece.distance(tied) <= _TOUCH_MM]
    return shapely.union_all([grow(piece, _TOUCH_MM) for piece in added])


def _held(border: BaseGeometry, drawn: list[Polygon], neck: float) -> list[BaseGeometry]:
    """The drawing's parts in groups whose border hangs together by more than a thread.

    A joint counts if it survives an opening by half the least neck.
    """
    if len(drawn) == 1:
        return list(drawn)
    # Just under half the neck, so that a joint of exactly the least neck survives the arcs' error.
    cores = parts(opening(border, 0.49 * neck, _JUDGE_ERROR_MM))
    part, core = shapely.STRtree(cores).query(drawn, predicate="intersects") if cores else ([], [])
    nodes = len(drawn) + len(cores)
    graph = coo_array((np.ones(len(part)), (part, np.asarray(core, dtype=int) + len(drawn))), shape=(nodes, nodes))
    labels = connected_components(graph, directed=False)[1][: len(drawn)]
    groups: dict[int, list[Polygon]] = {}
    for label, member in zip(labels.tolist(), drawn, strict=True):
        groups.setdefault(label, []).append(member)
    return [shapely.union_all(group) for group in groups.values()]


def _bridges(groups: list[BaseGeometry], width: float) -> tuple[Polygon, ...]:
    """The shortest bridges that tie all groups."""
    return tuple(_bridge(groups[a], groups[b], width) for a, b, _ in _spanning_tree(groups))


def _spanning_tree(shapes: Sequence[BaseGeometry]) -> list[tuple[int, int, float]]:
    """Pairs of shapes, with their distances, that connect all of them by the shortest way (minimum spanning tree)."""
    first, second = np.triu_indices(len(shapes), k=1)
    array = np.array(shapes, dtype=object)
    # A touching pair has distance 0, which a sparse graph would take for no connection.
    distances = shapely.distance(array[first], array[second]) + _TOUCH_MM
    graph = coo_array((distances, (first, second)), shape=(len(shapes), len(shapes)))
    tree = minimum_spanning_tree(graph.tocsr()).tocoo()
    return sorted(zip(tree.row.tolist(), tree.col.tolist(), tree.data.tolist(), strict=True))


def _bridge(a: BaseGeometry, b: BaseGeometry, width: float) -> Polygon:
    """A strip `width` wide along the shortest line from `a` to `b`, rooted in both."""
    line = shapely.shortest_line(a, b)
    (strip,) = parts(grow(line, width / 2))
    return strip


KIND = EdgeKind(
    "follow",
    1,
    "border",
    "goes round the drawing",
    follow,
    ("smooth_mm", "fill_holes", "keep_holes", "join", "fillet_mm", "rings"),
    follows=True,
)
