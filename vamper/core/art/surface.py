"""What the inked area looks like, beyond its boundary: a soft rim, white parts, a border that is already there.

All of it is measured on the picture thinned out to `STEP_MM`, which is finer than anything asked of it.
"""

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture
from vamper.core.values.colour import Rgb, difference, lab_of, lab_of_one

STEP_MM = 0.12
BAND_MM = 1.0
SOFT_ALPHA = (0.05, 0.95)
WHITE_DE = 8.0
FLAT_DE = 8.0
EVEN_SPREAD = 0.15
LEAST_BASE_MM = 0.8
FLAT_RIM_SHARE = 0.95
_MOST_PX = 800


@dataclass(frozen=True, slots=True)
class Base:
    """A border that is already drawn: its mean width, how much the width varies (share of the mean), its colour."""

    width_mm: float
    spread: float
    rgb: Rgb


@dataclass(frozen=True, slots=True)
class Surface:
    """Shares: `fringe` of the boundary band that is half transparent, `white` of the inked area that is white."""

    fringe: float
    white: float
    base: Base | None


def survey(picture: Picture, outline: Outline, threshold: float) -> Surface:
    """Look over the inked area at its wanted size."""
    every = max(1, round(STEP_MM / outline.mm_per_px), math.ceil(max(outline.picture_px) / _MOST_PX))
    rgba = picture.rgba[every // 2 :: every, every // 2 :: every]
    step_mm = every * outline.mm_per_px
    alpha = rgba[:, :, 3]
    inked = alpha >= threshold * 255
    if not inked.any():
        return Surface(0.0, 0.0, None)
    lab = lab_of(rgba[:, :, :3])
    white = difference(lab, lab_of_one((255, 255, 255))) <= WHITE_DE
    return Surface(
        fringe=_fringe(alpha, inked, step_mm),
        white=float((white & inked).sum() / inked.sum()),
        base=None if picture.is_opaque else _base(rgba, lab, inked, step_mm),
    )


def _fringe(alpha: npt.NDArray[np.uint8], inked: npt.NDArray[np.bool_], step_mm: float) -> float:
    """Share of the band of `BAND_MM` along the boundary with alpha between the two soft limits.

    The one pixel that every drawn rim is soft by does not count.
    """
    if inked.all():
        return 0.0
    padded = np.pad(inked, 1)
    away = np.where(padded, ndimage.distance_transform_edt(padded), ndimage.distance_transform_edt(~padded))[1:-1, 1:-1]
    # Distances are to the nearest pixel of the other kind: the boundary itself lies half a pixel nearer.
    from_boundary = (away - 0.5) * step_mm
    band = from_boundary <= BAND_MM / 2
    soft = (alpha > SOFT_ALPHA[0] * 255) & (alpha < SOFT_ALPHA[1] * 255) & (away > 1)
    return float((soft & band).sum() / max(1, band.sum()))


def _base(
    rgba: npt.NDArray[np.uint8],
    lab: npt.NDArray[np.float32],
    inked: npt.NDArray[np.bool_],
    step_mm: float,
) -> Base | None:
    """A flat border of nearly constant width along the whole rim, if there is one."""
    whole = ndimage.binary_fill_holes(np.pad(inked, 1))[1:-1, 1:-1]
    depth = ndimage.distance_transform_edt(np.pad(whole, 1))[1:-1, 1:-1] * step_mm
    rim = inked & (depth > 0.2) & (depth <= 0.5)
    if rim.sum() < 20:
        return None
    red, green, blue = (int(value) for value in np.median(rgba[rim][:, :3], axis=0))
    flat = difference(lab, lab_of_one((red, green, blue))) <= FLAT_DE
    if flat[rim].mean() < FLAT_RIM_SHARE:
        return None
    # What is not flat, or not joined to the rim by flat ground, is the drawing inside.
    labels, _ = ndimage.label(flat & whole)
    at_rim = np.zeros(int(labels.max()) + 1, dtype=bool)
    at_rim[np.unique(labels[rim])] = True
    at_rim[0] = False
    drawing = whole & ~at_rim[labels] & (depth > 0.5)
    if drawing.sum() < 50:
        return None
    to_drawing = ndimage.distance_transform_edt(~drawing) * step_mm
    boundary = whole & (depth <= 1.5 * step_mm)
    widths = to_drawing[boundary]
    mean = float(widths.mean())
    spread = float(widths.std() / mean) if mean else math.inf
    if mean < LEAST_BASE_MM or spread >= EVEN_SPREAD:
        return None
    return Base(mean, spread, (red, green, blue))
