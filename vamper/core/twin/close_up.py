"""Close-ups from the practice bench: a vernier sheet that was printed and cut, test drops, a ruler along a bar.

They are drawn as they came out, to be judged by eye: nothing in them says what they mean.
"""

import math
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely

from vamper.core.cutting.depth import bands_of
from vamper.core.cutting.drops import DROP_MM, drop_outline, drop_slit
from vamper.core.marks.vernier import VernierSheet
from vamper.core.twin.cutter import RandomDraws, lands_on
from vamper.core.twin.devices import Devices
from vamper.core.twin.printer import PrintedRaster, after, at, from_nominal, page_to_pixels, printings
from vamper.core.values.colour import rgb_of
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import Points
from vamper.core.values.pixels import filled
from vamper.core.values.stock import Stock
from vamper.core.values.tried import Outcome
from vamper.core.values.units import MM_PER_INCH

Pixels = npt.NDArray[np.uint8]
Image = npt.NDArray[Any]

_SCORE_MM, _SCORE = 0.09, (120, 116, 110)
_BACKING, _SLIT, _GROOVE, _SHADOW = (238, 231, 216), (52, 46, 38), (176, 164, 140), 0.35
_STEEL, _ETCHED = (196, 200, 203), (38, 40, 44)
_RULER_TALL_MM, _PICTURE_TALL_MM = 12.0, 12.5
# Of every so many half millimetres a tick of a length, the rarest first; numbers stand below.
_TICKS, _NUMBERS_MM = ((20, 3.4), (10, 2.6), (2, 2.0), (1, 1.3)), 6.0


def vernier_scan(
    sheet: VernierSheet,
    page: PrintedRaster,
    devices: Devices,
    luck: RandomDraws,
    stock: Stock,
    ppi: float,
    read_mm: float,
) -> Pixels:
    """A vernier sheet after it was printed and cut, as a scan; the cuts show as fine lines.

    Parameters
    ----------
    page : Page
        Its print file.
    luck : Luck
        How this one sheet lay and was read.
    """
    px, random = ppi / MM_PER_INCH, np.random.default_rng(3)
    size = (round(page.paper.height_mm * px), round(page.paper.width_mm * px))
    image: Image = np.empty((*size, 3), np.float32)
    image[:] = rgb_of(stock.colour)
    lying = printings(devices.printer, page.paper, luck.shift, luck.askew)
    print_map = after(from_nominal(page), lying)[0]
    moved = page_to_pixels(page, print_map, px)
    ink = cv2.warpAffine(page.rgba, moved, (size[1], size[0]), flags=cv2.INTER_AREA)
    share = ink[..., 3:] / np.float32(255)
    image *= 1 - share
    image += ink[..., :3] * share
    shift = luck.read[0, 0] * read_mm
    for points in (*sheet.lines, np.vstack([sheet.disc, sheet.disc[:1]])):
        landed = at(print_map, lands_on(devices.cutter, page.paper, points)) + shift
        _score(image, landed, px)
    image *= np.float32(0.97)
    image += random.standard_normal(size, dtype=np.float32)[..., None] * np.float32(1.6)
    return np.asarray(np.clip(image, 0, 255, out=image), dtype=np.uint8)


def _score(image: Image, points: Points, px: float) -> None:
    """A cut seen from above: a fine dark line with a light rim."""
    left, top = np.maximum(np.floor(points.min(axis=0) * px).astype(int) - 4, 0)
    right, bottom = np.ceil(points.max(axis=0) * px).astype(int) + 5
    part = image[top:bottom, left:right]
    if not part.size:
        return
    mask = np.zeros(part.shape[:2], np.uint8)
    scaled = np.round(((points * px) - (left, top) - 0.5) * 16).astype(np.int32)
    cv2.polylines(mask, [scaled], False, 255, max(1, round(_SCORE_MM * px)), cv2.LINE_AA, 4)
    cover = (mask / 255 * 0.8)[..., None]
    part[:] = part * (1 - cover) + np.array(_SCORE) * cover


def outcome_at(stock: Stock, cut: Cut, depth_um: float) -> Outcome:
    """The outcome of a drop that was cut so deep."""
    return next(one for one, low, high in bands_of(stock, cut).outcomes if low <= depth_um < high)


def drop_close_up(outcome: Outcome, stock: Stock, side_px: int, seed: int) -> Pixels:
    """One drop, bent a little so that what parted gapes; beside it the backing with the drop taken off."""
    random = np.random.default_rng(seed)
    px = side_px / (DROP_MM + 2.5)
    wide = side_px * 2
    image = np.empty((side_px, wide, 3), np.float64)
    face = np.array(rgb_of(stock.colour), float)
    image[:] = face * 0.985
    image[:, side_px:] = _BACKING if stock.has_backing else (134, 150, 146)
    grain = cv2.GaussianBlur(random.normal(0, 1, (side_px, wide)), (0, 0), 1.4)
    image += (grain * 3.5)[..., None]
    middle = np.array([1.25, 1.25])
    drop, slit = drop_outline() + middle, drop_slit() + middle
    closed = np.vstack([drop, drop[:1]])
    parted = outcome is not Outcome.NOT_THROUGH
    if not parted:
        for line in (closed, slit):
            _stroke(image, line, px, (150, 148, 144), 0.10, 0.55)
        # Nothing came off: the backing beside it is as it was, the face still on.
        image[:, side_px:] = image[:, :side_px]
    else:
        gap = 0.30 if outcome is Outcome.CLEAN else 0.34
        _shape(image, _shifted(drop, gap * 0.6, gap * 0.6), px, tuple(float(one) * 0.62 for one in _BACKING), 0.9)
        _shape(image, drop, px, tuple(face), 1.0)
        _stroke(image, closed, px, (96, 92, 86), 0.07, 0.5)
        _stroke(image, slit, px, (70, 66, 60), 0.16, 0.8)
        beside = np.array([side_px / px, 0.0])
        if outcome is Outcome.BACKING_MARKED:
            for line in (closed + beside, slit + beside):
                _stroke(image, line, px, _GROOVE, 0.16, 0.9)
        elif outcome is Outcome.BACKING_THROUGH:
            for line in (closed + beside, slit + beside):
                _stroke(image, line, px, _SLIT, 0.22, 0.95)
        elif stock.has_backing:
            _stroke(image, closed + beside, px, (228, 221, 206), 0.08, 0.6)
        else:
            _shape(image, drop + beside, px, (104, 118, 114), 1.0)
    image[:, side_px - 1 : side_px + 1] = (214, 208, 198)
    image = cv2.GaussianBlur(image, (0, 0), 0.6) + random.normal(0, 1.2, image.shape[:2])[..., None]
    y, x = np.mgrid[0:side_px, 0:wide]
    light = 1.0 - 0.10 * (x / wide) * (y / side_px)
    return np.asarray(np.clip(image * light[..., None], 0, 255), dtype=np.uint8)


def _shifted(points: Points, dx: float, dy: float) -> Points:
    return np.asarray(points + np.array([dx, dy]))


def _stroke(
    image: Image, points: Points, px: float, colour: tuple[float, float, float], width_mm: float, share: float
) -> None:
    mask = np.zeros(image.shape[:2], np.uint8)
    scaled = np.round(points * px * 16).astype(np.int32)
    cv2.polylines(mask, [scaled], False, 255, max(1, round(width_mm * px)), cv2.LINE_AA, 4)
    cover = (mask / 255 * share)[..., None]
    image[:] = image * (1 - cover) + np.array(colour) * cover


def _shape(image: Image, points: Points, px: float, colour: tuple[float, ...], share: float) -> None:
    cover = (filled(shapely.Polygon(points * px), image.shape) * share)[..., None]
    image[:] = image * (1 - cover) + np.array(colour) * cover


def ruler_close_up(length_mm: float, from_mm: float, to_mm: float, px: float, seed: int) -> Pixels:
    """The end of a printed bar with a steel ruler along it, its zero at the bar's beginning: millimetres and halves."""
    random = np.random.default_rng(seed)
    tall, wide = round(_PICTURE_TALL_MM * px), round((to_mm - from_mm) * px)
    image = np.empty((tall, wide, 3), np.float64)
    image[:] = (246, 245, 242)
    image += (cv2.GaussianBlur(random.normal(0, 1, (tall, wide)), (0, 0), 1.0) * 3)[..., None]
    top = 5.0
    bar = shapely.box(-5 - from_mm, top - 2.4, length_mm - from_mm, top - 1.0)
    _shape(image, shapely.get_coordinates(bar), px, (28, 28, 30), 1.0)
    ruler = shapely.box(-1, top, to_mm - from_mm + 1, top + _RULER_TALL_MM)
    shade = filled(shapely.transform(ruler, lambda points: (points + 0.5) * px), (tall, wide))[..., None]
    image *= 1 - cv2.GaussianBlur(shade, (0, 0), 0.5 * px)[..., None] * _SHADOW
    _shape(image, shapely.get_coordinates(ruler), px, _STEEL, 1.0)
    for half in range(math.ceil(from_mm * 2), math.floor(to_mm * 2) + 1):
        at_mm, long = half / 2 - from_mm, next(long for every, long in _TICKS if half % every == 0)
        _stroke(image, np.array([(at_mm, top), (at_mm, top + long)]), px, _ETCHED, 0.1, 1.0)
    image += random.normal(0, 1.2, (tall, wide))[..., None]
    seen = np.asarray(np.clip(image, 0, 255), dtype=np.uint8)
    for whole in range(5 * math.ceil(from_mm / 5), math.floor(to_mm) + 1, 5):
        size = 0.055 * px
        at_px = (round((whole - from_mm - 1.1) * px), round((top + _NUMBERS_MM) * px))
        thick = max(1, round(size * 2))
        cv2.putText(seen, str(whole), at_px, cv2.FONT_HERSHEY_SIMPLEX, size, _ETCHED, thick, cv2.LINE_AA)
    return seen
