"""Areas of pixels: how deep inside one a pixel lies, which pixels hang together, and areas made wider, whole or plain.

Pixels are neighbours by their sides, unless corners are asked for. Beyond the picture there is no area, unless it is
said that there is.
"""

from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

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
