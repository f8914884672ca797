"""Contours of the foreground, to a fraction of a pixel.

How far every pixel's colour is from the ground's (ΔE) is one field; a thing ends where that field is half as high as
just inside its own rim.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import contourpy
import cv2
import numpy as np
import numpy.typing as npt
from shapely import affinity
from shapely.geometry import Polygon

from vamper.core.values.findings import BadInput
from vamper.core.vision.reference import Pixels

Lab = npt.NDArray[np.float32]
Field = npt.NDArray[np.float32]

_FULL = 255
_LEAST_AREA_MM2 = 20.0
_GROUND_SIGMAS = 6.0
_LEAST_APART_DE = 6.0
_ROUGH_DE = 12.0
_SOFT_PX = 0.7
# A shadow makes its ground no darker than by so much (L*).
_SHADOW_L = 30.0


@dataclass(frozen=True)
class Background:
    """The background that things lie on: its colour (CIE L*a*b*), and how far its pixels usually are from that (ΔE)."""

    lab: npt.NDArray[np.float64]
    usual_de: float

    @property
    def least_de(self) -> float:
        """The least difference (ΔE) of a pixel that does not belong to the background."""
        return max(_LEAST_APART_DE, _GROUND_SIGMAS * self.usual_de)

    @property
    def lighter(self) -> npt.NDArray[np.float64]:
        """The way a colour goes in more light, as a unit vector."""
        return np.asarray(self.lab / max(float(np.linalg.norm(self.lab)), 1e-6))

    def shade_of(self, apart: npt.NDArray[Any]) -> npt.NDArray[Any]:
        """How much of a difference from the ground, shape (..., 3), may be a shadow on it: 0 or less."""
        along = apart @ self.lighter.astype(apart.dtype)
        return np.where((along < 0) & (along > -_SHADOW_L), along, 0)

    @property
    def is_rough(self) -> bool:
        return self.usual_de > _ROUGH_DE


def lab_image(picture: Pixels) -> Lab:
    """A picture, shape (h, w, 3), in CIE L*a*b*."""
    return np.asarray(cv2.cvtColor(picture.astype(np.float32) / np.float32(_FULL), cv2.COLOR_RGB2LAB))


def background_of(pixels: Lab) -> Background:
    """The ground by some of its pixels, shape (n, 3)."""
    middle = np.median(pixels, axis=0).astype(float)
    return Background(middle, float(np.median(np.sqrt(((pixels - middle) ** 2).sum(axis=-1)))))


def distance_from(lab: Lab, ground: Background, shaded: bool = False) -> Field:
    """How far each pixel is from the ground (ΔE), a little softened; `shaded` ground counts as ground: a shadow takes
    all of a colour's L*, a* and b* down together.
    """
    apart = lab - ground.lab.astype(np.float32)
    if shaded:
        apart -= ground.shade_of(apart)[..., None] * ground.lighter.astype(np.float32)
    return np.asarray(cv2.GaussianBlur(np.sqrt(np.einsum("hwc,hwc->hw", apart, apart)), (0, 0), _SOFT_PX))


def foreground_contours(picture: Pixels, px_a_mm: float) -> list[Polygon]:
    """The contours of everything that lies on a plain background, as the picture's rim shows it.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w, 3)
        A flat scan or photo, RGB.
    px_a_mm : float
        Its resolution.

    Returns
    -------
    list of Polygon
        Contours in mm from the picture's top left, without holes.

    Raises
    ------
    BadInput
        If the ground is not plain.
    """
    lab = lab_image(picture)
    rim = max(3, round(2 * px_a_mm))
    sides = (lab[:rim], lab[-rim:], lab[:, :rim], lab[:, -rim:])
    ground = background_of(np.concatenate([side.reshape(-1, 3) for side in sides]))
    if ground.is_rough:
        raise BadInput(
            "the background is not plain enough to tell the pieces from it; use one of a single colour", "picture"
        )
    away = distance_from(lab, ground)
    return [outline for outline, _ in contours_of(away, ground.least_de, px_a_mm)]


def contours_of(away: Field, least_de: float, px_a_mm: float) -> Iterator[tuple[Polygon, float]]:
    """The contours in a field of colour distances.

    Parameters
    ----------
    away : ndarray, shape (h, w)
        ΔE of each pixel from the background.
    least_de : float
        Pixels nearer than this belong to the background.

    Yields
    ------
    tuple of (Polygon, float)
        The contour, mm, where ΔE is half of what it is just inside the rim; and that ΔE.
    """
    count, found, stats, _ = cv2.connectedComponentsWithStats((away > least_de).astype(np.uint8), connectivity=8)
    labels = np.asarray(found, dtype=np.int32)
    for number in range(1, count):
        x, y, w, h, area = stats[number][:5]
        if area < _LEAST_AREA_MM2 * px_a_mm**2:
            continue
        x0, y0 = max(0, x - 3), max(0, y - 3)
        part = away[y0 : y + h + 3, x0 : x + w + 3]
        own = labels[y0 : y + h + 3, x0 : x + w + 3]
        outline, rim = _outline(part, own, number, least_de)
        if outline is not None:
            to_mm = (1 / px_a_mm, 0, 0, 1 / px_a_mm, x0 / px_a_mm, y0 / px_a_mm)
            yield affinity.affine_transform(outline, to_mm), rim


def _outline(away: Field, labels: npt.NDArray[np.int32], number: int, least_de: float) -> tuple[Polygon | None, float]:
    """The outer rim of one thing in pixels: where it lies half way between the ground and its own rim."""
    inside = cv2.erode((labels == number).astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    band = inside & (cv2.erode(inside.astype(np.uint8), np.ones((5, 5), np.uint8)) == 0)
    rim = float(np.median(away[band])) if band.any() else 2 * least_de
    field = np.where((labels == number) | (labels == 0), away, 0.0)
    # What is inside belongs to it whatever its colour.
    whole = _filled_in(labels == number)
    field = np.where(cv2.erode(whole.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0, np.maximum(field, rim), field)
    lines = contourpy.contour_generator(z=np.pad(field, 1)).lines(rim / 2)
    rings = [Polygon(line - 0.5) for line in lines if len(line) > 8]
    return max(rings, key=lambda ring: ring.area, default=None), rim


def _filled_in(mask: npt.NDArray[np.bool_]) -> npt.NDArray[np.bool_]:
    found, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    whole = np.zeros(mask.shape, np.uint8)
    cv2.drawContours(whole, found, -1, 1, cv2.FILLED)
    return whole > 0
