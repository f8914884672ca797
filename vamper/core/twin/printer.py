"""The simulated printer: where the page that it was sent comes to lie on the sheet, and what becomes of its ink.

It gets the pixels of the print file and nothing else. Each printing lays the sheet a little otherwise: a place r of the
page comes to q = turn(fit · (m + scale · (r − m))) + shift, m being the sheet's middle. Ink arrives with a density;
lines may be missing where a nozzle is clogged, a whole picture where the file was too much for the printer.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from scipy import ndimage
from shapely.geometry.base import BaseGeometry

from vamper.core.twin.devices import TwinPrinter
from vamper.core.values.colour import BRIGHTNESS
from vamper.core.values.geometry import Points
from vamper.core.values.paper import Paper
from vamper.core.values.pixels import filled
from vamper.core.values.printer import PrintScale
from vamper.core.values.units import MM_PER_INCH

Floats = npt.NDArray[np.float64]
Pixels = npt.NDArray[np.uint8]

# A clogged nozzle leaves a line so wide; ink on the wrong side spreads so far.
_LINE_MM = 0.25
_SPREAD_MM = 0.35
_OPAQUE = 255
# What a program takes for bare paper.
_NEARLY_WHITE = 235


@dataclass(frozen=True, slots=True)
class PrintedRaster:
    """A print file as pixels of the sheet that is loaded, shape (h, w, 4), transparent where nothing is printed.
    `drawn_by` is the scale that it was compensated for. Where it is only a part of the page, `corner` is where in the
    whole its first pixel is (x, y).
    """

    rgba: Pixels
    ppi: float
    paper: Paper
    drawn_by: PrintScale
    corner: tuple[int, int] = (0, 0)

    @property
    def px_a_mm(self) -> float:
        return self.ppi / MM_PER_INCH

    @property
    def darkness(self) -> npt.NDArray[np.float32]:
        """How much of the light each pixel's ink takes away, 0..1, as a sensor sees it."""
        light = self.rgba[..., :3].astype(np.float32) @ (BRIGHTNESS / _OPAQUE)
        found = (1 - light) * self.rgba[..., 3].astype(np.float32) / _OPAQUE
        return np.asarray(found, dtype=np.float32)


def with_ink(
    page: PrintedRaster, printer: TwinPrinter, pictures: Sequence[BaseGeometry], lost: Sequence[int]
) -> PrintedRaster:
    """The page with the faults of its ink; `lost` are the pictures among `pictures`, as they are printed, that are
    missing on it.
    """
    rgba, margins = page.rgba, printer.margins
    if printer.bleeds_mm:
        rgba = _bled_over(page, printer.bleeds_mm, pictures)
    alpha = rgba[..., 3].astype(np.float32)
    if lost:
        for number in lost:
            clip = shapely.transform(pictures[number], lambda points: points * page.px_a_mm - page.corner)
            alpha = np.where(filled(clip, alpha.shape) > 0, 0, alpha)
    if printer.density < 1:
        spread = _SPREAD_MM * (1 - printer.density) * page.px_a_mm
        alpha = cv2.GaussianBlur(alpha, (0, 0), max(spread, 0.3)) * np.float32(printer.density)
    if printer.lines_mm:
        rows = (np.arange(alpha.shape[0]) + page.corner[1]) / page.px_a_mm
        alpha[(rows % printer.lines_mm) < _LINE_MM] *= 0.15
    height, width = alpha.shape
    down = _reached(page, page.corner[1] + np.arange(height), page.paper.height_mm, margins.top, margins.bottom)
    across = _reached(page, page.corner[0] + np.arange(width), page.paper.width_mm, margins.left, margins.right)
    alpha *= down[:, None] & across
    return replace(page, rgba=np.dstack([rgba[..., :3], np.round(alpha).astype(np.uint8)]))


def _bled_over(page: PrintedRaster, width_mm: float, pictures: Sequence[BaseGeometry]) -> Pixels:
    """The page as a program prints it that takes white for nothing: within the pictures, colour is carried outward."""
    inside = np.zeros(page.rgba.shape[:2], bool)
    for picture in pictures:
        shape = shapely.transform(picture, lambda points: points * page.px_a_mm - page.corner)
        inside |= filled(shape, inside.shape) > 0
    coloured = inside & (page.rgba[..., 3] > _OPAQUE // 2) & (page.rgba[..., :3].min(axis=2) < _NEARLY_WHITE)
    away, (rows, columns) = ndimage.distance_transform_edt(~coloured, return_indices=True)
    reached = inside & (away <= width_mm * page.px_a_mm)
    rgba = page.rgba.copy()
    rgba[reached] = page.rgba[rows, columns][reached]
    return rgba


def _reached(
    page: PrintedRaster, pixels: npt.NDArray[np.int_], side_mm: float, before_mm: float, behind_mm: float
) -> npt.NDArray[np.bool_]:
    """Which rows or columns of a page lie between the margins of a side."""
    first, last = round(before_mm * page.px_a_mm), round(side_mm * page.px_a_mm) - round(behind_mm * page.px_a_mm)
    return np.asarray((pixels >= first) & (pixels < last))


def printings(printer: TwinPrinter, paper: Paper, shifts: Floats, turns: Floats) -> Floats:
    """Where places of a page come to lie, shape (runs, 2, 3), for how far off (runs, 2) and askew (runs,) sheets lie in
    units of σ.
    """
    middle = np.array([paper.width_mm, paper.height_mm]) / 2
    turn = np.radians(printer.askew_deg + turns * printer.turn_deg)
    cos, sin = np.cos(turn), np.sin(turn)
    size = printer.fit * np.diag([printer.scale.x, printer.scale.y])
    rotate = np.stack([np.stack([cos, -sin], -1), np.stack([sin, cos], -1)], -2)
    linear = rotate @ size
    scaled_middle = printer.fit * middle
    # The page's middle, scaled about itself, shrunk towards the top left, turned about where it then lies.
    offset = scaled_middle - linear @ middle + shifts * printer.feed_mm
    return np.concatenate([linear, offset[..., None]], axis=-1)


def from_nominal(page: PrintedRaster) -> Floats:
    """The map from places of the plan to places of the page, shape (2, 3): the page was drawn by the inverse of a
    scale.
    """
    middle = np.array([page.paper.width_mm, page.paper.height_mm]) / 2
    inverse = np.array([1 / page.drawn_by.x, 1 / page.drawn_by.y])
    return np.column_stack([np.diag(inverse), middle - inverse * middle])


def after(first: Floats, then: Floats) -> Floats:
    """`first`, and `then` after it; affine maps of shape (…, 2, 3)."""
    linear = then[..., :2] @ first[..., :2]
    offset = (then[..., :2] @ first[..., 2:])[..., 0] + then[..., 2]
    return np.concatenate([linear, offset[..., None]], axis=-1)


def at(maps: Floats, points: Points) -> Floats:
    """Points (n, 2) under maps (…, 2, 3), shape (…, n, 2)."""
    found: Floats = points @ np.swapaxes(maps[..., :2], -1, -2) + maps[..., None, :, 2]
    return found


def page_to_pixels(page: PrintedRaster, printed: Floats, px: float) -> Floats:
    """The map from a page's pixels to pixels of a picture of the sheet, so many a millimetre, shape (2, 3). `printed`
    takes places of the plan to the sheet; the page is drawn by a scale about its middle.
    """
    middle = np.array([page.paper.width_mm, page.paper.height_mm]) / 2
    drawn = np.array([page.drawn_by.x, page.drawn_by.y])
    linear, offset = printed[:, :2] @ np.diag(drawn), printed[:, :2] @ (middle - drawn * middle)
    linear, offset = linear * px / page.px_a_mm, (offset + printed[:, 2]) * px
    # A pixel's middle is half a pixel from its corner.
    half = np.array([0.5, 0.5])
    return np.column_stack([linear, linear @ (half + page.corner) + offset - half])


def printed_scale(printer: TwinPrinter, page: PrintedRaster) -> tuple[float, float]:
    """Printed length / meant length, across and down, with what the page was compensated for."""
    return (
        printer.scale.x * printer.fit / page.drawn_by.x,
        printer.scale.y * printer.fit / page.drawn_by.y,
    )
