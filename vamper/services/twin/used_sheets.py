"""A photo or scan of a used sheet, straightened by its corners: what of it is gone."""

import math

import numpy as np

from vamper.core.values.paper import Gone
from vamper.core.vision.rectify import rectify_by_corners
from vamper.core.vision.reference import Pixels, SheetReference
from vamper.core.vision.used_area import used_areas
from vamper.services.twin.photo_checks import Corners

_WHITE = (255, 255, 255)
# A usual sheet is looked at in this detail, a larger one in as much as so many pixels leave it.
_PX_A_MM, _MOST_PX = 4.0, 2_500_000


def gone_in(picture: Pixels, width_mm: float, height_mm: float, corners: Corners) -> tuple[Gone, ...]:
    """Rings round the parts that are gone, mm; `corners` are shares of the picture, top left first, clockwise.

    Raises
    ------
    BadInput
        If the corners cannot be those of a sheet, or no bare stock is to be seen.
    """
    sheet = SheetReference(width_mm, height_mm, _WHITE, (), (), (), mirror=False)
    lying = rectify_by_corners(picture, sheet, np.array(corners) * (picture.shape[1], picture.shape[0]))
    px_a_mm = min(_PX_A_MM, math.sqrt(_MOST_PX / (width_mm * height_mm)))
    return used_areas(lying.sheet_picture(picture, sheet, px_a_mm), px_a_mm)
