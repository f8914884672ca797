"""A picture bent to stand straight on a tapering cup: its pixels, and the outline of what is inked, by the same map.

The map is smooth, so it is worked out on a coarse grid and drawn finer in between; pixels are taken bilinearly, their
colours weighed by how much of them is there, so that nothing transparent mixes in.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.finishing.round_things import Bend
from vamper.core.values.geometry import Points

Pixels = npt.NDArray[np.uint8]

_EVERY_PX = 8
_OPAQUE = 255


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
    weighed = _weighed(rgba) if rgba[..., 3].min() < _OPAQUE else rgba
    drawn = cv2.remap(weighed, taken[..., 0], taken[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
    bent = _straight(drawn)
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


def _weighed(rgba: Pixels) -> Pixels:
    """Colours weighed by how much of them is there (premultiplied)."""
    colours = cv2.multiply(rgba[..., :3], cv2.merge([rgba[..., 3]] * 3), scale=1 / _OPAQUE)
    return np.asarray(cv2.merge([*cv2.split(colours), rgba[..., 3]]), dtype=np.uint8)


def _straight(rgba: npt.NDArray[Any]) -> Pixels:
    """The same the other way round."""
    colours = cv2.divide(rgba[..., :3], cv2.merge([rgba[..., 3]] * 3), scale=_OPAQUE)
    return np.asarray(cv2.merge([*cv2.split(colours), rgba[..., 3]]), dtype=np.uint8)


def bent_edge(outline: BaseGeometry, distance_mm: float, bend: Bend) -> BaseGeometry:
    """The edge of bent art: its outline grown, without holes, bent."""
    grown = outline.buffer(distance_mm, quad_segs=32) if distance_mm else outline
    filled = shapely.union_all([shapely.Polygon(part.exterior) for part in getattr(grown, "geoms", [grown])])
    return bend.shape(filled)
