"""Shapes as pixels, and places between pixels: for drawing a plan into a picture, and for finding it there."""

import math
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.values.geometry import parts

Cover = npt.NDArray[np.float32]

# Shapes are drawn so many times finer; points to a sixteenth of a fine pixel.
_FINER, _SUB, _FULL = 4, 4, 255


def filled(shape: BaseGeometry, size: tuple[int, ...]) -> Cover:
    """How much of each pixel of a picture (height, width) a shape in pixels covers, 0..1."""
    cover = np.zeros(size[:2], np.float32)
    if shape.is_empty:
        return cover
    left, top, right, bottom = shape.bounds
    x0, y0 = max(0, math.floor(left)), max(0, math.floor(top))
    x1, y1 = min(size[1], math.ceil(right)), min(size[0], math.ceil(bottom))
    if x1 <= x0 or y1 <= y0:
        return cover
    fine = np.zeros(((y1 - y0) * _FINER, (x1 - x0) * _FINER), np.uint8)
    # What lies in a hole is drawn after the hole was cleared.
    for part in sorted(parts(shape), key=lambda one: -Polygon(one.exterior).area):
        for ring, value in [(part.exterior, _FULL), *((hole, 0) for hole in part.interiors)]:
            # A pixel's middle is half a pixel from its corner.
            points = (shapely.get_coordinates(ring) - (x0, y0)) * _FINER - 0.5
            cv2.fillPoly(fine, [np.round(points * 2**_SUB).astype(np.int32)], value, shift=_SUB)
    cover[y0:y1, x0:x1] = cv2.resize(fine, (x1 - x0, y1 - y0), interpolation=cv2.INTER_AREA) / np.float32(_FULL)
    return cover


def window_of(shape: BaseGeometry, x_mm: float, y_mm: float, half_mm: float, px_a_mm: float) -> Cover:
    """How much of each pixel a shape (mm) covers in a square round a place."""
    side = round(2 * half_mm * px_a_mm)
    moved = shapely.transform(shape, lambda points: (points - (x_mm - half_mm, y_mm - half_mm)) * px_a_mm)
    return filled(moved, (side, side))


def top_between(three: npt.NDArray[Any]) -> float:
    """How far from the middle of three neighbours, in steps, the top of the parabola through them lies."""
    if len(three) < 3:
        return 0.0
    a, b, c = (float(one) for one in three)
    bend = a - 2 * b + c
    return 0.0 if bend >= 0 else min(max((a - c) / 2 / bend, -0.5), 0.5)


def top_of(agreed: npt.NDArray[Any]) -> tuple[float, float, float]:
    """Where a field is greatest, between its pixels: column, row, and how great."""
    row, column = np.unravel_index(int(agreed.argmax()), agreed.shape)
    x = column + top_between(agreed[row, max(0, column - 1) : column + 2])
    y = row + top_between(agreed[max(0, row - 1) : row + 2, column])
    return float(x), float(y), float(agreed[row, column])
