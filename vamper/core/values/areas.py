"""Areas of pixels: how deep inside one a pixel lies, which pixels hang together, and areas made wider, whole or plain.

Pixels are neighbours by their sides, unless corners are asked for. Beyond the picture there is no area, unless it is
said that there is.
"""

from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import parts

Area = npt.NDArray[np.bool_]

_SIDES = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))


def depth_in(area: Area, beyond: bool = False) -> npt.NDArray[np.float32]:
    """How far the middle of each pixel is from that of the nearest one outside, pixels; 0 outside.

    With `beyond`, the area goes on beyond the picture.
    """
    rimmed = np.pad(area.astype(np.uint8), 1, constant_values=int(beyond))
    return np.asarray(cv2.distanceTransform(rimmed, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)[1:-1, 1:-1], np.float32)


def widened(area: Area, steps: int) -> Area:
    """The area with its neighbours, theirs, and so on."""
    return np.asarray(cv2.dilate(area.astype(np.uint8), _SIDES, iterations=steps), bool)


def opened(area: Area) -> Area:
    """The area without what is thinner than three pixels."""
    rimmed = np.pad(area.astype(np.uint8), 1)
    return cv2.morphologyEx(rimmed, cv2.MORPH_OPEN, _SIDES)[1:-1, 1:-1] > 0


def labelled(area: Area, corners: bool = False) -> npt.NDArray[np.int32]:
    """The area's parts numbered from 1; 0 outside. With `corners`, pixels that touch at a corner hang together."""
    _, labels = cv2.connectedComponents(area.astype(np.uint8), connectivity=8 if corners else 4)
    return np.asarray(labels, np.int32)


def without_holes(area: Area) -> Area:
    """The area and all that it encloses."""
    outside = labelled(np.pad(~area, 1, constant_values=True))
    return np.asarray(outside[1:-1, 1:-1] != outside[0, 0], bool)


def chosen(labels: npt.NDArray[np.int32], wanted: npt.NDArray[Any]) -> Area:
    """The parts whose numbers are wanted."""
    table = np.zeros(int(labels.max()) + 1, dtype=bool)
    table[wanted] = True
    table[0] = False
    return np.asarray(table[labels], bool)


def cells_in(shape: BaseGeometry, left_mm: float, top_mm: float, size: tuple[int, int], cell_mm: float) -> Area:
    """Which cells of a grid (rows, columns) from a corner on have their middle in a shape.

    A middle is inside where an odd number of rims is crossed on the way to it from the left: all crossings of all rows
    at once, so that the cost follows the rim and not the cells.
    """
    rows, columns = size
    rims = [shapely.get_coordinates(ring) for part in parts(shape) for ring in (part.exterior, *part.interiors)]
    if not rims or not rows or not columns:
        return np.zeros(size, bool)
    # In cells, counted from the middle of the first.
    scaled = [(rim - (left_mm, top_mm)) / cell_mm - 0.5 for rim in rims]
    x0, y0 = np.concatenate([rim[:-1] for rim in scaled]).T
    x1, y1 = np.concatenate([rim[1:] for rim in scaled]).T
    first = np.clip(np.ceil(np.minimum(y0, y1)), 0, rows).astype(int)
    after = np.clip(np.ceil(np.maximum(y0, y1)), 0, rows).astype(int)
    count = after - first
    side = np.repeat(np.arange(len(count)), count)
    row = np.arange(len(side)) - np.repeat(np.cumsum(count) - count, count) + first[side]
    x = x0[side] + (row - y0[side]) / (y1 - y0)[side] * (x1 - x0)[side]
    column = np.clip(np.ceil(x), 0, columns).astype(int)
    crossed = np.bincount(row * (columns + 1) + column, minlength=rows * (columns + 1))
    odd = (crossed % 2).astype(np.uint8).reshape(rows, columns + 1)
    return np.bitwise_xor.accumulate(odd, axis=1)[:, :columns] > 0
