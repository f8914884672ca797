"""Pictures as people take them: a sheet photographed from not quite above, in uneven light; cut pieces on a table."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely import affinity

from vamper.core.twin.cut_out import CutPiece
from vamper.core.values.pixels import filled

Pixels = npt.NDArray[np.uint8]
Floats = npt.NDArray[np.float64]

_TABLE = (112, 88, 66)
_FAR = 2.6
_GROUND = (58, 74, 96)


@dataclass(frozen=True, slots=True)
class Camera:
    """How a picture is taken.

    Parameters
    ----------
    tilt_deg, towards_deg : float
        How far the camera leans, and which way.
    turn_deg : float
        How the sheet lies in the picture.
    fills : float
        How much of the picture the sheet fills, 0 to 1.
    uneven : float
        How uneven the light is, 0 to 1.
    warmth : float
        How yellow the light is, 0 to 1.
    noise : float
        σ in grey values of 255.
    """

    tilt_deg: float = 0.0
    towards_deg: float = 0.0
    turn_deg: float = 0.0
    fills: float = 0.86
    uneven: float = 0.0
    warmth: float = 0.0
    noise: float = 2.0


def photographed(scan: Pixels, camera: Camera, longest_px: int, seed: int) -> tuple[Pixels, Floats]:
    """A photo of what a scan shows, and the map (3, 3) from the scan's pixels to the photo's."""
    random = np.random.default_rng(seed)
    height, width = scan.shape[:2]
    corners = np.array([(0, 0), (width, 0), (width, height), (0, height)], dtype=float)
    middle = np.array([width, height]) / 2
    turn, way = math.radians(camera.turn_deg), math.radians(camera.towards_deg)
    cos, sin = math.cos(turn), math.sin(turn)
    flat = (corners - middle) @ np.array([[cos, sin], [-sin, cos]]) / max(width, height)
    # The sheet leans about an axis across the way the camera does; what comes nearer looks larger.
    along = flat @ np.array([math.cos(way), math.sin(way)])
    depth = _FAR + along * math.sin(math.radians(camera.tilt_deg))
    squeezed = flat - np.outer(along * (1 - math.cos(math.radians(camera.tilt_deg))), [math.cos(way), math.sin(way)])
    seen = squeezed * (_FAR / depth)[:, None]
    low, high = seen.min(axis=0), seen.max(axis=0)
    size = high - low
    scale = longest_px * camera.fills / float(size.max())
    out_w = round(longest_px * float(size[0] / size.max()) / 1 + longest_px * (1 - camera.fills) * 0.4)
    out_h = round(longest_px * float(size[1] / size.max()) / 1 + longest_px * (1 - camera.fills) * 0.4)
    placed = (seen - (low + high) / 2) * scale + np.array([out_w, out_h]) / 2
    to_photo = cv2.getPerspectiveTransform(corners.astype(np.float32), placed.astype(np.float32))
    table = random.normal(0, 1, (out_h, out_w)).astype(np.float32)
    image: npt.NDArray[Any] = np.empty((out_h, out_w, 3), np.float32)
    image[:] = _TABLE
    image += (cv2.GaussianBlur(table, (0, 0), sigmaX=14, sigmaY=1.2) * 60)[..., None]
    laid = cv2.warpPerspective(scan, to_photo, (out_w, out_h), flags=cv2.INTER_AREA)
    whole = np.full(scan.shape[:2], 255, np.uint8)
    cover = cv2.warpPerspective(whole, to_photo, (out_w, out_h), flags=cv2.INTER_LINEAR).astype(np.float32) / 255
    shade = cv2.GaussianBlur(np.roll(cover, (6, 6), axis=(0, 1)), (0, 0), 7) * (1 - cover) * 0.5
    image *= ((1 - shade) * (1 - cover))[..., None]
    image += laid * cover[..., None]
    x, y = (np.arange(side, dtype=np.float32) / side - np.float32(0.5) for side in (out_w, out_h))
    angle = random.uniform(0, 2 * math.pi)
    fall = x * np.float32(math.cos(angle)) + (y * np.float32(math.sin(angle)))[:, None]
    light = 1 - np.float32(camera.uneven) * (0.28 + 0.5 * fall + 0.35 * (fall + 0.2) ** 2)
    tint = np.array([1 + camera.warmth * 0.06, 1.0, 1 - camera.warmth * 0.09], np.float32)
    image *= light[..., None]
    image *= tint
    grain = random.standard_normal(image.shape, np.float32) * np.float32(camera.noise)
    image = cv2.GaussianBlur(image, (0, 0), 0.6) + grain
    return np.asarray(np.clip(image, 0, 255), dtype=np.uint8), np.asarray(to_photo, dtype=float)


@dataclass(frozen=True, slots=True)
class LaidPiece:
    """A cut piece on a table: which one it is, and the map (2, 3) from the sheet (mm) to the table (mm)."""

    placement: int
    item: int
    to_table: Floats


def on_table(
    scan: Pixels, px_a_mm: float, pieces: Sequence[CutPiece], seed: int, ground: tuple[int, int, int] = _GROUND
) -> tuple[Pixels, list[LaidPiece]]:
    """Cut pieces of a sheet laid on a plain ground, each turned as it fell, as a scan; and where each lies."""
    random = np.random.default_rng(seed)
    gap, laid = 6.0, list[LaidPiece]()
    spots, x, y, tall, wide = list[tuple[CutPiece, float, float, float]](), gap, gap, 0.0, 190.0
    for piece in pieces:
        left, top, right, bottom = piece.region.bounds
        across = math.hypot(right - left, bottom - top)
        if x + across + gap > wide:
            x, y, tall = gap, y + tall + gap, 0.0
        spots.append((piece, x + across / 2, y + across / 2, float(random.uniform(0, 360))))
        x, tall = x + across + gap, max(tall, across)
    size = (round((y + tall + gap) * px_a_mm), round(wide * px_a_mm))
    image: npt.NDArray[Any] = np.empty((*size, 3), np.float32)
    image[:] = ground
    image += random.normal(0, 1.5, (*size, 1)).astype(np.float32)
    for piece, cx, cy, turn_deg in spots:
        turn = math.radians(turn_deg)
        linear = np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])
        middle = np.array(shapely.box(*piece.region.bounds).centroid.coords[0])
        offset = np.array([cx, cy]) - linear @ middle
        moved = np.column_stack([linear, offset])
        half = np.array([0.5, 0.5])
        pixels = np.column_stack([linear, linear @ half + offset * px_a_mm - half])
        (a, b), (c, d) = (linear * px_a_mm).tolist()
        region = affinity.affine_transform(piece.region, (a, b, c, d, *(offset * px_a_mm).tolist()))
        # Of the whole picture, only where it comes to lie is touched.
        x0, y0, x1, y1 = (int(side) for side in region.buffer(2).bounds)
        window = image[max(0, y0) : y1, max(0, x0) : x1]
        corner = (max(0, x0), max(0, y0))
        pixels[:, 2] -= corner
        seen = cv2.warpAffine(scan, pixels, window.shape[1::-1], flags=cv2.INTER_LINEAR)
        cover = filled(affinity.translate(region, -corner[0], -corner[1]), window.shape[:2])[..., None]
        window *= 1 - cover
        window += seen * cover
        laid.append(LaidPiece(piece.facts.placement, piece.facts.item, moved))
    return np.asarray(np.clip(cv2.GaussianBlur(image, (0, 0), 0.5), 0, 255), dtype=np.uint8), laid
