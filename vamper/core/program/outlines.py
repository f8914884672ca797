"""The outlines that a program finds in a picture: where what is opaque ends, between pixels."""

import numpy as np
import numpy.typing as npt
import shapely

from vamper.core.art.outline import trace
from vamper.core.art.picture import Picture
from vamper.core.values.program import PICTURE_PPI
from vamper.core.values.units import MM_PER_INCH

# Every pixel of the largest sheet there is.
_EVERY_PX = 2 * 10**8
# A pixel that is half covered is the rim.
_HALF = 0.5
_MM_A_PX = MM_PER_INCH / PICTURE_PPI


def outlines_in(picture: Picture) -> npt.NDArray[np.object_]:
    """Polygons with their holes, mm in the picture's own frame."""
    # What touches the picture's rim ends there, not in the middle of its last pixel.
    framed = Picture(np.pad(picture.rgba, ((1, 1), (1, 1), (0, 0))))
    found: npt.NDArray[np.object_] = shapely.transform(
        trace(framed, _HALF, _EVERY_PX).polygons, lambda points: (points - 1.0) * _MM_A_PX
    )
    return found
