"""Where a sheet lies, refined by its print: the tilt that three marks cannot tell.

Marks give a map that takes a picture from straight above, or with four of them all in sight a tilted one. From aside
one mark is easily missed, and the map of the other three leaves pieces millimetres off their places. So the picture
that such a map straightens is slid and leant until it agrees best with the print as it should look (a homography by
enhanced correlation, Evangelidis & Psarakis 2008), coarse first, then fine.
"""

import contextlib
from collections.abc import Callable
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from vamper.core.vision.reference import SheetReference

Floats = npt.NDArray[np.float64]
Pixels = npt.NDArray[np.uint8]

# Pixels a millimetre, step by step, and how much of the detail is looked away from, in those pixels.
_STEPS = ((0.75, 7), (1.5, 5), (2.5, 3))
_ITERATIONS, _STILL = 60, 1e-5

# The straightened picture of a sheet through a map (3, 3) from mm to pixels, at so many pixels a millimetre.
Straightens = Callable[[Floats, float], Pixels]


def register_print(sheet: SheetReference, to_px: Floats, straighten: Straightens) -> Floats:
    """The map (3, 3) from mm of the sheet to pixels of a picture under which its print agrees best with the plan,
    beginning at a map that is nearly right; the same where the print is not known or agrees nowhere.
    """
    if sheet.print_rgba is None:
        return to_px
    for px_a_mm, blur in _STEPS:
        seen = cv2.cvtColor(straighten(to_px, px_a_mm), cv2.COLOR_RGB2GRAY)
        meant = _meant(sheet, seen.shape[1], seen.shape[0])
        found = np.eye(3, dtype=np.float32)
        until = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, _ITERATIONS, _STILL)
        # What has nothing in common with the plan finds no place at all.
        with contextlib.suppress(cv2.error):
            # The package's own types know only the first of its forms.
            find: Any = cv2.findTransformECC
            _, found = find(meant, seen, found, cv2.MOTION_HOMOGRAPHY, until, None, blur)
            half = np.array([[px_a_mm, 0, -0.5], [0, px_a_mm, -0.5], [0, 0, 1]])
            to_px = to_px @ np.linalg.inv(half) @ found.astype(float) @ half
            to_px = to_px / to_px[2, 2]
    return to_px


def _meant(sheet: SheetReference, width: int, height: int) -> Pixels:
    """The sheet as it should look, in grey."""
    assert sheet.print_rgba is not None
    page = cv2.resize(sheet.print_rgba.astype(np.float32), (width, height), interpolation=cv2.INTER_AREA)
    share = page[..., 3:] / 255
    look = page[..., :3] * share + np.array(sheet.stock_rgb, np.float32) * (1 - share)
    return np.asarray(cv2.cvtColor(np.clip(look, 0, 255).astype(np.uint8), cv2.COLOR_RGB2GRAY), dtype=np.uint8)
