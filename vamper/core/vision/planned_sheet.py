"""What a picture is held against: a sheet as it was planned, whichever way the plan came here.

Everything is in the frame of the print file: a mirrored sheet is mirrored. `print_rgba` is the page in pixels, where it
is at hand; without it only outlines are known, and no colours.
"""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import Points

Pixels = npt.NDArray[np.uint8]


@dataclass(frozen=True)
class PlannedPiece:
    """One piece: its place on its sheet, its design, and how that lies: x, y (mm) and turn (degrees), as in a plan."""

    placement: int
    item: int
    x_mm: float
    y_mm: float
    turn_deg: float
    outline: BaseGeometry
    edge: BaseGeometry


@dataclass(frozen=True)
class PlannedItem:
    """A design in its own frame."""

    item: int
    outline: BaseGeometry
    edge: BaseGeometry


@dataclass(frozen=True)
class PlannedMark:
    """A printed mark: its rings, filled even-odd, shape (n, 2) each."""

    rings: tuple[Points, ...]


@dataclass(frozen=True)
class PlannedSheet:
    """A sheet with its marks and pieces. `print_px_a_mm` is the resolution of `print_rgba`."""

    width_mm: float
    height_mm: float
    stock_rgb: tuple[int, int, int]
    marks: tuple[PlannedMark, ...]
    pieces: tuple[PlannedPiece, ...]
    items: tuple[PlannedItem, ...]
    mirror: bool
    print_rgba: Pixels | None = None
    print_px_a_mm: float = 0.0
