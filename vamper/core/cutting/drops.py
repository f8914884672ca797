"""Test cuts: small drops with a slit across the belly, in the waste of a sheet or on an offcut.

A drop is 6 mm tall: round below, a sharp tip above, where card tears first; its slit shows whether the face parts. Six
of them at rising forces are a ladder; one alone, cut before anything else in the corner farthest from the marks, is the
tell-tale of a sheet.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.cutting.ladder import RUNGS
from vamper.core.sheet.offcut import Rectangle, places_near
from vamper.core.values.calibration import Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points, grow
from vamper.core.values.lengths import mm
from vamper.core.values.paper import Paper

DROP_MM = 6.0
_BELLY_MM = 2.1
CLEAR_MM = 2.0
# Odd, so that the lowest point is one of them.
_ARC = 41
# A cell that holds one drop.
CELL_MM = DROP_MM + CLEAR_MM
_COLUMNS = (6, 3, 2, 1)


@dataclass(frozen=True, slots=True)
class Drop:
    """One drop, its box at (x, y) mm: what it is cut with, and its number in its ladder from 1."""

    x_mm: float
    y_mm: float
    force_gf: float
    passes: int
    number: int = 1

    @property
    def loop(self) -> Points:
        """Its outline, shape (n, 2), clockwise on screen, beginning at the tip."""
        return _at(drop_outline(), self.x_mm, self.y_mm)

    @property
    def slit(self) -> Points:
        """Across its belly, shape (2, 2)."""
        return _at(drop_slit(), self.x_mm, self.y_mm)


@dataclass(frozen=True, slots=True)
class TestCut:
    """The test cuts of one sheet.

    Parameters
    ----------
    paper : Paper
        The sheet.
    cut : Cut
        How every drop is cut.
    speed_mm_s : float
        The blade's speed.
    drops : tuple of Drop
        In cutting order, in the frame of the sheet's files.
    title : str
        What stands on the sheet.
    calibration : Calibration or None
        How this cutter misses, where that was measured; the files allow for it.
    """

    __test__ = False

    paper: Paper
    cut: Cut
    speed_mm_s: float
    drops: tuple[Drop, ...]
    title: str
    calibration: Calibration | None = None

    def lines(self, drop: Drop) -> tuple[Points, Points]:
        """Slit, then outline closed to its beginning, as they are sent."""
        closed = np.vstack([drop.loop, drop.loop[:1]])
        if self.calibration is None:
            return drop.slit, closed
        return self.calibration.corrected(drop.slit), self.calibration.corrected(closed)


def _at(points: Points, x: float, y: float) -> Points:
    moved: Points = points + np.array([x, y])
    return moved


def drop_outline() -> Points:
    """A drop in its own box of 6 mm: belly below, tip above."""
    middle, down = DROP_MM / 2, DROP_MM - _BELLY_MM
    # Tangents from the tip touch the belly where its radius is square to them.
    touch = float(np.arcsin(_BELLY_MM / down))
    angles = np.linspace(-touch, np.pi + touch, _ARC)
    belly = np.column_stack([middle + _BELLY_MM * np.cos(angles), down + _BELLY_MM * np.sin(angles)])
    return np.vstack([[(middle, 0.0)], belly])


def drop_slit() -> Points:
    middle, down = DROP_MM / 2, DROP_MM - _BELLY_MM
    return np.array([(middle - _BELLY_MM * 0.6, down), (middle + _BELLY_MM * 0.6, down)])


def farthest_corner(region: BaseGeometry, marks: Sequence[BaseGeometry]) -> tuple[float, float]:
    """The corner of a region's box that lies farthest from all marks; the bottom right corner where none is nearer."""
    left, top, right, bottom = region.bounds
    corners = [(right, bottom), (left, bottom), (right, top), (left, top)]
    if not marks:
        return corners[0]
    away = [min(shapely.distance(shapely.Point(corner), mark) for mark in marks) for corner in corners]
    return corners[int(np.argmax(np.round(away, 1)))]


def tell_tale_place(
    region: Polygon, taken: Sequence[BaseGeometry], marks: Sequence[BaseGeometry]
) -> tuple[float, float] | None:
    """Where the tell-tale of a sheet lies, its box's top left; None where no waste is left for it."""
    corner = farthest_corner(region, marks)
    found = next(places_near(region, _grown(taken), CELL_MM, CELL_MM, corner), None)
    return None if found is None else _inside(found)


def ladder_places(
    region: Polygon, taken: Sequence[BaseGeometry], marks: Sequence[BaseGeometry], before: int = 0
) -> list[tuple[float, float]] | None:
    """Where the six drops of a ladder lie: together if they can, else one by one; clear of the tell-tale and of so many
    ladders `before`. None where no waste is left for them.
    """
    corner = farthest_corner(region, marks)
    gone = _grown(taken)
    tell_tale = next(places_near(region, gone, CELL_MM, CELL_MM, corner), None)
    if tell_tale is not None:
        gone.append(_box(tell_tale))
    places: list[tuple[float, float]] | None = None
    for _ in range(before + 1):
        places = _six(region, gone, corner)
        if places is None:
            return None
        gone += [shapely.box(x - 1, y - 1, x + CELL_MM - 1, y + CELL_MM - 1) for x, y in places]
    return places


def _six(
    region: Polygon, gone: Sequence[BaseGeometry], corner: tuple[float, float]
) -> list[tuple[float, float]] | None:
    for columns in _COLUMNS[:-1]:
        rows = RUNGS // columns
        found = next(places_near(region, gone, columns * CELL_MM, rows * CELL_MM, corner), None)
        if found is not None:
            return [
                (x + column * CELL_MM, y + row * CELL_MM)
                for x, y in (_inside(found),)
                for row in range(rows)
                for column in range(columns)
            ]
    singles = list[tuple[float, float]]()
    taken = list(gone)
    while len(singles) < RUNGS:
        found = next(places_near(region, taken, CELL_MM, CELL_MM, corner), None)
        if found is None:
            return None
        singles.append(_inside(found))
        taken.append(_box(found))
    return sorted(singles)


def offcut_places(paper: Paper) -> list[tuple[float, float]]:
    """Where the six drops lie on an offcut of a size.

    Raises
    ------
    BadInput
        If it is too small for them.
    """
    places = _six(shapely.box(0, 0, paper.width_mm, paper.height_mm), [], (0.0, 0.0))
    if places is None:
        raise BadInput(
            f"an offcut for six drops must be at least {mm(6 * CELL_MM)} by {mm(CELL_MM)}, or {mm(3 * CELL_MM)} by "
            f"{mm(2 * CELL_MM)}",
            "width_mm",
        )
    return places


def _grown(taken: Sequence[BaseGeometry]) -> list[BaseGeometry]:
    return [grow(shape, CLEAR_MM / 2, 0.02) for shape in taken]


def _box(place: Rectangle) -> BaseGeometry:
    x, y = place.left_mm, place.top_mm
    return shapely.box(x, y, x + place.width_mm, y + place.height_mm)


def _inside(place: Rectangle) -> tuple[float, float]:
    return place.left_mm + CLEAR_MM / 2, place.top_mm + CLEAR_MM / 2
