"""How much ink a page takes.

A pixel's ink is C + M + Y + K after the grey part of its colour went into K: K = 1 − max(r, g, b), C = 1 − r − K and so
on, times its opacity. Summed over the page this is an area of full cover, cm² of each ink; `Printer.ml_per_cm2` makes a
volume of it.
"""

from dataclasses import astuple, dataclass

import numpy as np
import numpy.typing as npt

from vamper.core.values.units import MM_PER_INCH


@dataclass(frozen=True, slots=True)
class InkUse:
    """Areas of full cover, cm², and what they take in all, ml."""

    cyan_cm2: float
    magenta_cm2: float
    yellow_cm2: float
    black_cm2: float
    ml: float

    @property
    def cover_cm2(self) -> float:
        return self.cyan_cm2 + self.magenta_cm2 + self.yellow_cm2 + self.black_cm2

    def __add__(self, other: "InkUse") -> "InkUse":
        return InkUse(*(a + b for a, b in zip(astuple(self), astuple(other), strict=True)))

    def __mul__(self, count: int) -> "InkUse":
        return InkUse(*(one * count for one in astuple(self)))


NO_INK = InkUse(0.0, 0.0, 0.0, 0.0, 0.0)


def ink_of(rgba: npt.NDArray[np.uint8], ppi: float, ml_per_cm2: float) -> InkUse:
    """The ink of a page's pixels, shape (h, w, 4), transparent where nothing is printed."""
    printed = rgba[rgba[..., 3] > 0]
    share = printed[:, 3].astype(np.float64) / 255.0
    missing = 1.0 - printed[:, :3].astype(np.float64) / 255.0
    black = missing.min(axis=1) if len(missing) else np.zeros(0)
    colours = (missing - black[:, None]) * share[:, None]
    cm2_a_pixel = (MM_PER_INCH / 10 / ppi) ** 2
    cyan, magenta, yellow = (float(one) * cm2_a_pixel for one in colours.sum(axis=0))
    key = float((black * share).sum()) * cm2_a_pixel
    return InkUse(cyan, magenta, yellow, key, (cyan + magenta + yellow + key) * ml_per_cm2)


# More than this share of a sheet covered dries slower.
HEAVY_SHARE = 0.6


@dataclass(frozen=True, slots=True)
class SheetInk:
    """The ink of one sheet, the share of it that is covered, and whether it is so much (`is_heavy`) that it dries half
    as long again.
    """

    use: InkUse
    cover: float
    is_heavy: bool


def sheet_ink(use: InkUse, sheet_cm2: float) -> SheetInk:
    """The ink of a sheet of an area in cm²."""
    cover = use.cover_cm2 / sheet_cm2 if sheet_cm2 > 0 else 0.0
    return SheetInk(use, cover, cover > HEAVY_SHARE)
