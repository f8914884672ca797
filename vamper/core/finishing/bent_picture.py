"""A picture bent to stand straight on a tapering cup: its pixels, and the outline of what is inked, by the same map.

The map is smooth, so it is worked out on a coarse grid and drawn finer in between; pixels are taken bilinearly, their
colours weighed by how much of them is there, so that nothing transparent mixes in.
"""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.finishing.round_things import Bend

Pixels = npt.NDArray[np.uint8]

_EVERY_PX = 8
_FULL = 255.0


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
    # Places of a coarse grid of the bent picture in the flat one, grown to every pixel.
    coarse = (-(-size[0] // _EVERY_PX) + 1, -(-size[1] // _EVERY_PX) + 1)
    x, y = np.meshgrid(np.arange(coarse[0]) * _EVERY_PX, np.arange(coarse[1]) * _EVERY_PX)
    places = np.column_stack([x.ravel(), y.ravel()]).astype(float) + 0.5
    bent_at = np.asarray(places * mm_per_px + (left, top), dtype=np.float64)
    there = bend.flat(bent_at) / mm_per_px + corner - 0.5
    field = there.reshape(coarse[1], coarse[0], 2).astype(np.float32)
    rows = (np.arange(size[1], dtype=np.float32) / _EVERY_PX)[:, None].repeat(size[0], axis=1)
    columns = (np.arange(size[0], dtype=np.float32) / _EVERY_PX)[None].repeat(size[1], axis=0)
    taken = cv2.remap(field, columns, rows, cv2.INTER_LINEAR)
    weighed = rgba.copy()
    alpha = rgba[..., 3]
    if int(alpha.min()) < int(_FULL):
        weighed[..., :3] = (rgba[..., :3].astype(np.uint16) * alpha[..., None] // 255).astype(np.uint8)
    drawn = cv2.remap(
        weighed,
        taken,
        None,
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=(0, 0, 0, 0),  # type: ignore[call-overload]
    )
    bent = np.asarray(drawn, dtype=np.uint8)
    if int(alpha.min()) < int(_FULL):
        share = np.maximum(bent[..., 3:].astype(np.uint16), 1)
        bent[..., :3] = np.minimum(bent[..., :3].astype(np.uint16) * 255 // share, 255).astype(np.uint8)
    return BentPicture(bent, float(left), float(top), mm_per_px)


def bent_edge(outline: BaseGeometry, distance_mm: float, bend: Bend) -> BaseGeometry:
    """The edge of bent art: its outline grown, without holes, bent."""
    grown = outline.buffer(distance_mm, quad_segs=32) if distance_mm else outline
    filled = shapely.union_all([shapely.Polygon(part.exterior) for part in getattr(grown, "geoms", [grown])])
    return bend.shape(filled)
