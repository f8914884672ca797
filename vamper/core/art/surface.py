"""What the inked area looks like, beyond its boundary: a soft rim, white parts, a border that is already there.

All of it is measured on the picture thinned out to `STEP_MM`, which is finer than anything asked of it.
"""

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture
from vamper.core.values.areas import chosen, depth_in, labelled, opened, without_holes
from vamper.core.values.colour import Rgb, difference, lab_of, lab_of_one
from vamper.core.values.miss import STARTER_MISS_MM

STEP_MM = 0.12
BAND_MM = 1.0
SOFT_ALPHA = (0.05, 0.95)
WHITE_DE = 8.0
FLAT_DE = 8.0
EVEN_SPREAD = 0.2
FLAT_RIM_SHARE = 0.95
# From this lightness on a rim is as good as white; so much lighter or busier is seen at once.
NEAR_WHITE_L = 88.0
LIGHTER_BY = 10.0
BUSY_DE = 15.0
# A border goes round a drawing that covers at least this share of the piece.
LEAST_DRAWING_SHARE = 0.3
# The narrowest place, but for stray pixels.
_LEAST_SHARE = 0.02
_MOST_PX = 800


@dataclass(frozen=True, slots=True)
class WhiteBase:
    """A border that is already drawn: its least width, its colour, and whether it can be nothing else."""

    least_mm: float
    rgb: Rgb
    sure: bool


@dataclass(frozen=True, slots=True)
class Surface:
    """Shares: `fringe` of the boundary band that is half transparent, `white` of the inked area that is white."""

    fringe: float
    white: float
    base: WhiteBase | None


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
    away = depth_in(inked) + depth_in(~inked, beyond=True)
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
) -> WhiteBase | None:
    """A flat border along the whole rim, whatever its width, if there is one."""
    whole = without_holes(inked)
    depth = depth_in(whole) * step_mm
    rim = inked & (depth > 0.2) & (depth <= 0.5)
    if rim.sum() < 20:
        return None
    red, green, blue = (int(value) for value in np.median(rgba[rim][:, :3], axis=0))
    # A glow is of one colour too, but no border.
    flat = (difference(lab, lab_of_one((red, green, blue))) <= FLAT_DE) & (rgba[:, :, 3] > SOFT_ALPHA[1] * 255)
    if flat[rim].mean() < FLAT_RIM_SHARE:
        return None
    # What is not flat, or not joined to the rim by flat ground, is the drawing inside.
    ground = labelled(flat & whole)
    drawing = whole & ~chosen(ground, ground[rim]) & (depth > 0.5)
    # Soft seams between colours are no drawing of their own.
    drawing = opened(drawing)
    if drawing.sum() < 50:
        return None
    # From pixel to pixel on both sides: the rims themselves lie half a pixel nearer each.
    across = depth_in(~drawing, beyond=True) * step_mm + depth - step_mm
    widths = across[whole & (depth <= 1.5 * step_mm)]
    least = float(np.quantile(widths, _LEAST_SHARE))
    if least <= STARTER_MISS_MM:
        return None
    band, enclosed = lab_of_one((red, green, blue)), lab[drawing & inked]
    sure = _is_sure(float(band[0]), enclosed, least, float(drawing.sum() / whole.sum()), float(np.std(widths)) / least)
    return None if sure is None else WhiteBase(least, (red, green, blue), sure)


def _is_sure(
    lightness: float, enclosed: npt.NDArray[np.float32], least_mm: float, share: float, spread: float
) -> bool | None:
    """Whether a flat rim is certainly a border, or only perhaps; None for the contour or the ground of a drawing.

    Makers' borders are light and enclose most of the piece. A dark rim is the drawing's own contour, unless it is as
    wide as a border has to be; a coloured one is a border where it is even or encloses something much darker or busier.
    """
    if enclosed.size == 0:
        return None
    inside, busy = float(enclosed[:, 0].mean()), float(enclosed.std(axis=0).max())
    if lightness >= NEAR_WHITE_L:
        return share >= LEAST_DRAWING_SHARE
    if lightness < inside - LIGHTER_BY:
        return False if least_mm >= 3 * STARTER_MISS_MM and share >= LEAST_DRAWING_SHARE else None
    if share < LEAST_DRAWING_SHARE:
        return None
    return spread < EVEN_SPREAD or lightness > inside + LIGHTER_BY or busy > BUSY_DE
