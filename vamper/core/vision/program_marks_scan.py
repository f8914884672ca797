"""A program's marks read off a flat scan of one print: where their outer rims lie, and how thick their line is.

The scan shows the sheet from edge to edge. Along each side the darkness is summed over the lines of pixels: a frame is
one dark line that runs along most of the side, corner marks are dark only near its ends. The rim is where the line's
darkness first passes half its height, its thickness where it falls below again; both between pixels.
"""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from vamper.core.values.findings import BadInput
from vamper.core.values.program import ProgramFamily, ProgramMarks, RimDistances

Floats = npt.NDArray[np.float64]

# How far inside a mark may lie, and how much thinner or thicker its line may be, mm.
_DEEP_MM, _LEAST_LINE_MM, _MOST_LINE_MM = 40.0, 0.2, 5.0
# The shadow of a lid, or the sheet's own edge, lies within this of the picture's.
_RIM_MM = 1.0
# A line counts where so much of its length is dark; of corner marks only their part of it is looked at.
_DARK, _LENGTH = 0.35, 0.6
_ENDS, _END_LENGTH = 0.16, 0.3
# The sides of the picture and of the paper may differ by so much.
_SAME_SHAPE = 0.03
_TRY_AGAIN = "scan it flat, edge to edge, on a pale lid; or measure it with a ruler"


@dataclass(frozen=True, slots=True)
class _Line:
    """A line along one side: where it begins and how thick it is, mm."""

    rim_mm: float
    stroke_mm: float


def measured_marks(picture: npt.NDArray[np.uint8], width_mm: float, height_mm: float) -> ProgramMarks:
    """The marks in a scan.

    Parameters
    ----------
    picture : array (rows, columns, 3)
        The whole sheet, RGB.
    width_mm, height_mm : float
        The sheet.

    Raises
    ------
    BadInput
        If the picture has another shape than the sheet, or no marks are found on all four sides.
    """
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    rows, columns = grey.shape
    if abs(rows / columns / (height_mm / width_mm) - 1) > _SAME_SHAPE:
        raise BadInput(f"this picture has another shape than the sheet; {_TRY_AGAIN}", "file")
    white = float(np.percentile(grey, 90))
    dark: Floats = np.clip((white - grey.astype(np.float64)) / max(white, 1.0), 0.0, 1.0)
    px = columns / width_mm
    for family, part in ((ProgramFamily.FRAME, slice(None)), (ProgramFamily.CORNER, None)):
        sides = [_line(_profile(side, part, px), px) for side in (dark, dark.T[::-1], dark[::-1], dark.T)]
        if all(one is not None for one in sides):
            top, right, bottom, left = (one for one in sides if one is not None)
            strokes = [one.stroke_mm for one in (top, right, bottom, left)]
            rim = RimDistances(*(round(one.rim_mm, 1) for one in (top, right, bottom, left)))
            return ProgramMarks(family, round(float(np.median(strokes)), 1), rim)
    raise BadInput(f"no line was found on all four sides; {_TRY_AGAIN}", "file")


def _profile(side: Floats, part: slice | None, px: float) -> Floats:
    """How dark each line along the top of a picture is: the share of its length that is; of its ends alone where there
    is no `part`.
    """
    strip = side[: round(_DEEP_MM * px)] > _DARK
    if part is not None:
        return np.asarray(strip.mean(axis=1) / _LENGTH, np.float64)
    end = round(_ENDS * strip.shape[1])
    return np.asarray(np.maximum(strip[:, :end].mean(axis=1), strip[:, -end:].mean(axis=1)) / _END_LENGTH)


def _line(profile: Floats, px: float) -> _Line | None:
    """The outermost line of a profile that is as long as a mark, None where there is none."""
    start = round(_RIM_MM * px)
    above = np.flatnonzero(profile[start:] >= 1.0) + start
    if not len(above):
        return None
    first = int(above[0])
    gaps = np.flatnonzero(np.diff(above) > 1)
    last = int(above[gaps[0]] if len(gaps) else above[-1])
    thick = (last - first + 1) / px
    return _Line(first / px, thick) if _LEAST_LINE_MM <= thick <= _MOST_LINE_MM else None
