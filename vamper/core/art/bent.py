"""Art bent to stand straight on a tapering cup: its shape, and its pixels, by the same map.

A cup that tapers unrolls to an annular sector. A point of the flat art lies on the circle about the cone's tip that its
height along the wall says, turned by its distance from the art's middle over the radius there, so that widths hold
along the middle. The map of pixels is smooth, so it is worked out on a coarse grid and drawn finer in between; pixels
are taken bilinearly, their colours weighed by how much of them is there, so that nothing transparent mixes in.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.art.picture import Picture, Pixels
from vamper.core.values.geometry import Points

_EVERY_PX = 8
_OPAQUE = 255
_INKED = 128
# Points of a bent outline lie no farther apart than this, so that arcs stay round.
_STEP_MM = 0.5


@dataclass(frozen=True, slots=True)
class Bend:
    """A map from flat art to the sheet that a taper unrolls to. `middle` is the art's middle in its own frame (y down),
    `radius_mm` the radius there, `upward` says that the wider rim is the upper rim.
    """

    middle: tuple[float, float]
    radius_mm: float
    upward: bool

    def points(self, flat: Points) -> Points:
        """Points (n, 2) of the flat art, bent; the art's middle stays where it is."""
        sign = 1.0 if self.upward else -1.0
        angle = (flat[:, 0] - self.middle[0]) / self.radius_mm
        radius = self.radius_mm - sign * (flat[:, 1] - self.middle[1])
        x = radius * np.sin(angle)
        y = sign * (self.radius_mm - radius * np.cos(angle))
        return np.column_stack([x + self.middle[0], y + self.middle[1]])

    def flat(self, bent: Points) -> Points:
        """The points (n, 2) of the flat art that were bent to these."""
        sign = 1.0 if self.upward else -1.0
        x = bent[:, 0] - self.middle[0]
        y = self.radius_mm - sign * (bent[:, 1] - self.middle[1])
        radius, angle = np.hypot(x, y), np.arctan2(x, y)
        return np.column_stack(
            [angle * self.radius_mm + self.middle[0], sign * (self.radius_mm - radius) + self.middle[1]]
        )

    def shape(self, flat: BaseGeometry) -> BaseGeometry:
        """A shape, bent; long sides get points enough to be round."""
        return shapely.transform(shapely.segmentize(flat, _STEP_MM), self.points)


@dataclass(frozen=True)
class BentPicture:
    """`rgba` lies with its top left at (`left_mm`, `top_mm`) in the frame of the flat art."""

    rgba: Pixels
    left_mm: float
    top_mm: float
    mm_per_px: float


def bent_picture(rgba: Pixels, origin_px: tuple[float, float], mm_per_px: float, bend: Bend) -> BentPicture:
    """A picture, shape (h, w, 4), whose art frame begins at `origin_px`, bent."""
    height, width = rgba.shape[:2]
    corner = np.array(origin_px)
    rim = shapely.box(*((np.array([0, 0]) - corner) * mm_per_px), *((np.array([width, height]) - corner) * mm_per_px))
    left, top, right, bottom = bend.shape(rim).bounds
    size = (max(1, round((right - left) / mm_per_px)), max(1, round((bottom - top) / mm_per_px)))
    taken = _taken_from(size, lambda at: bend.flat(at * mm_per_px + (left, top)) / mm_per_px + corner - 0.5)
    flat = weighed(rgba) if rgba[..., 3].min() < _OPAQUE else rgba
    drawn = cv2.remap(flat, taken[..., 0], taken[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
    bent = straight(drawn)
    return BentPicture(bent, float(left), float(top), mm_per_px)


def _taken_from(size: tuple[int, int], of: Callable[[Points], Points]) -> npt.NDArray[np.float32]:
    """Where each pixel (width, height) of the bent picture is taken from: a coarse grid, drawn finer.

    A cell of the grid stands for the middle of its pixels; one more all round, so that its rim is drawn as truly.
    """
    cells = (-(-size[0] // _EVERY_PX) + 2, -(-size[1] // _EVERY_PX) + 2)
    x, y = np.meshgrid(*((np.arange(count) - 0.5) * _EVERY_PX for count in cells))
    there = of(np.column_stack([x.ravel(), y.ravel()])).reshape(cells[1], cells[0], 2).astype(np.float32)
    fine = cv2.resize(there, (cells[0] * _EVERY_PX, cells[1] * _EVERY_PX), interpolation=cv2.INTER_LINEAR)
    return np.asarray(fine[_EVERY_PX : _EVERY_PX + size[1], _EVERY_PX : _EVERY_PX + size[0]])


def weighed(rgba: Pixels) -> Pixels:
    """Colours weighed by how much of them is there (premultiplied)."""
    colours = cv2.multiply(rgba[..., :3], cv2.merge([rgba[..., 3]] * 3), scale=1 / _OPAQUE)
    return np.asarray(cv2.merge([*cv2.split(colours), rgba[..., 3]]), dtype=np.uint8)


def straight(rgba: npt.NDArray[Any]) -> Pixels:
    """The same the other way round."""
    colours = cv2.divide(rgba[..., :3], cv2.merge([rgba[..., 3]] * 3), scale=_OPAQUE)
    return np.asarray(cv2.merge([*cv2.split(colours), rgba[..., 3]]), dtype=np.uint8)


def bent(picture: Picture, bend_deg: float) -> Picture:
    """A picture whose inked width turns by so much about the tip of a cone."""
    inked = picture.alpha >= _INKED
    columns, rows = np.flatnonzero(inked.any(axis=0)), np.flatnonzero(inked.any(axis=1))
    if not len(columns) or not bend_deg:
        return picture
    left, right = float(columns[0]), float(columns[-1]) + 1
    middle = ((left + right) / 2, (float(rows[0]) + float(rows[-1]) + 1) / 2)
    radius = (right - left) / math.radians(abs(bend_deg))
    bend = Bend(middle, radius, bend_deg > 0)
    return replace(picture, rgba=bent_picture(picture.rgba, (0.0, 0.0), 1.0, bend).rgba, is_vector=picture.is_vector)
