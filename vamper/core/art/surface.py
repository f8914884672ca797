"""What the inked area looks like, beyond its boundary: a soft rim, white parts, a border that is already there.

All of it is measured on the picture thinned out to `STEP_MM`, which is finer than anything asked of it.
"""

import math
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from vamper.core.art.outline import Outline
from vamper.core.art.own_border import SOLID_ALPHA, WhiteBase, own_border
from vamper.core.art.picture import Picture
from vamper.core.values.areas import depth_in
from vamper.core.values.colour import difference, lab_of, lab_of_one

STEP_MM = 0.12
BAND_MM = 1.0
SOFT_ALPHA = (0.05, SOLID_ALPHA)
WHITE_DE = 8.0
_MOST_PX = 800
_LEAST_POINTS = 500


@dataclass(frozen=True, slots=True)
class Surface:
    """Shares: `fringe` of the boundary band that is half transparent, `white` of the inked area that is white. `grain`
    is how much its lightness changes from point to point, in the median: much in glitter and noise, little in all else.
    """

    fringe: float
    white: float
    base: WhiteBase | None
    grain: float = field(default=0.0, repr=False)


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
        grain=_grain(lab[:, :, 0], inked),
        base=None if picture.is_opaque else own_border(rgba, lab, inked, step_mm),
    )


def _grain(lightness: npt.NDArray[np.float32], inked: npt.NDArray[np.bool_]) -> float:
    """The median change of lightness between neighbours that are both inked."""
    both = inked[:, 1:] & inked[:, :-1]
    if both.sum() < _LEAST_POINTS:
        return 0.0
    return float(np.median(np.abs(np.diff(lightness, axis=1))[both]))


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
