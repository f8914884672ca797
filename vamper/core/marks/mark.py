"""A printed registration mark, what a family of marks is, and what marks that sit in the corners share.

Each family is a module in `families`; adding one touches nothing else.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.values.findings import Place
from vamper.core.values.geometry import Points, quarter_segments, ring_points
from vamper.core.values.marks import MARK_FAMILIES, MarksSpec
from vamper.core.values.paper import Paper
from vamper.core.values.registry import Registry


@dataclass(frozen=True, slots=True)
class Mark:
    """One printed mark, its rings filled even-odd, mm.

    Where it is: the outer corner of an L, the outer top left of a frame, the centre of a dot, cross or ring.
    """

    family: str
    x_mm: float
    y_mm: float
    rings: tuple[Points, ...]

    @property
    def shape(self) -> BaseGeometry:
        """The inked shape, on the sheet."""
        shape: BaseGeometry = shapely.Polygon()
        for ring in self.rings:
            shape = shapely.symmetric_difference(shape, shapely.Polygon(ring))
        return shape

    @property
    def box_mm(self) -> Place:
        points = np.concatenate(self.rings)
        (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
        return Place(float(left), float(top), float(right - left), float(bottom - top))


def turned_over(mark: Mark, paper: Paper) -> Mark:
    """A mark as it is seen from behind the sheet."""
    width = paper.width_mm
    rings = tuple(np.column_stack([width - ring[:, 0], ring[:, 1]]) for ring in mark.rings)
    return replace(mark, x_mm=width - mark.x_mm, rings=rings)


@dataclass(frozen=True, slots=True)
class MarkFamily:
    """One family of marks.

    Parameters
    ----------
    key, place : str, int
        Its code, and where it stands in a list of all kinds.
    name, hint : str
        What it is called, and one line on what it looks like.
    draw : callable
        The marks of a sheet; it is large enough for them.
    takes_mm : callable
        How far a mark reaches in from its outer rim, for the least size of a sheet.
    along_the_rim : bool
        Whether its marks lie along the whole rim; the others take no more than their corner.
    of_strokes : bool
        Whether its marks are strokes, so that a thicker one is seen better.
    counted : str
        How several of them are counted: "{count} corners".
    """

    key: str
    place: int
    name: str
    hint: str
    draw: Callable[[Paper, MarksSpec], tuple[Mark, ...]]
    takes_mm: Callable[[MarksSpec], float] = lambda spec: spec.size_mm
    along_the_rim: bool = False
    of_strokes: bool = True
    counted: str = ""


FAMILIES: Registry[MarkFamily] = Registry(MARK_FAMILIES)


def centres(paper: Paper, spec: MarksSpec) -> list[tuple[float, float]]:
    """The centres of marks that sit in the corners; with three marks, the bottom right corner has none."""
    near, right = spec.inset_mm + spec.size_mm / 2, paper.width_mm - spec.inset_mm - spec.size_mm / 2
    bottom = paper.height_mm - spec.inset_mm - spec.size_mm / 2
    return [(near, near), (right, near), (near, bottom), (right, bottom)][: spec.count]


def disc(x: float, y: float, diameter: float) -> Points:
    circle = shapely.Point(x, y).buffer(diameter / 2, quad_segs=quarter_segments(diameter / 2))
    return ring_points(circle.exterior)
