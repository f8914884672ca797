"""Blanks with a print on both sides: the back is cut to the front's edge, mirrored.

A blank is turned over about its upright middle line, so its back is the front's edge with left and right exchanged; a
symmetric blank is its own mirror image, and takes two equal prints. The back's own art is not mirrored: it reads the
right way, and lies where the front's art lies, seen from behind.
"""

import numpy as np
import shapely
from shapely.geometry import MultiPolygon

from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge, least_border
from vamper.core.values.geometry import as_multi, clockwise_on_screen, parts

# A blank that differs from its mirror image by less than this share of its area counts as symmetric.
SYMMETRIC_SHARE = 0.01


def turned_over(shape: MultiPolygon) -> MultiPolygon:
    """A shape as seen from behind, in its own box."""
    left, _, right, _ = shape.bounds
    flipped = shapely.affinity.affine_transform(shape, [-1, 0, 0, 1, left + right, 0])
    return as_multi(clockwise_on_screen(part) for part in parts(flipped))


def is_symmetric(edge: Edge) -> bool:
    """Whether front and back of a blank with this edge are cut alike."""
    off = shapely.symmetric_difference(edge.shape, turned_over(edge.shape)).area
    return bool(off < SYMMETRIC_SHARE * edge.shape.area)


def back_edge(front: Edge, drawn: Outline, back: Outline) -> Edge:
    """The edge of a back, in the frame of the back's own art.

    Parameters
    ----------
    front : Edge
        The front's edge, in the frame of `drawn`, its art.
    back : Outline
        The back's art; the middles of both arts lie on each other in the finished blank.
    """
    left, _, right, _ = front.shape.bounds
    middle = np.array(_middle(drawn.shape)) * (-1, 1) + (left + right, 0)
    across, down = np.array(_middle(back.shape)) - middle

    def moved(shape: MultiPolygon) -> MultiPolygon:
        flipped = shapely.affinity.affine_transform(shape, [-1, 0, 0, 1, left + right + across, down])
        return as_multi(clockwise_on_screen(part) for part in parts(flipped))

    shape = moved(front.shape)
    return Edge(
        shape=shape,
        least_border_mm=least_border(shape, back.shape),
        rings=(*(moved(ring) for ring in front.rings[:-1]), shape),
    )


def _middle(shape: MultiPolygon) -> tuple[float, float]:
    left, top, right, bottom = shape.bounds
    return (left + right) / 2, (top + bottom) / 2
