"""Bleed: print carried past the edge, so that a cut that misses by its usual amount shows no bare stock.

It is computed, not asked: walk the edge, look at what is printed 0.3 mm inside it; where that differs from the stock
(ΔE over 10) on more than 2 % of the length, bleed is on, as wide as the miss that 95 of 100 pieces stay under, and at
least 0.5 mm. Its pixels are the nearest printed ones inside the edge. A person can set the width, or 0 for none.
"""

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
import numpy.typing as npt
import shapely
from scipy import ndimage
from shapely.geometry.base import BaseGeometry

from vamper.core.art.outline import Outline
from vamper.core.art.picture import Picture, Pixels
from vamper.core.edge.edge import Edge
from vamper.core.values.colour import difference, lab_of, lab_of_one, rgb_of
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import grow, parts
from vamper.core.values.miss import STARTER_MISS_MM

LEAST_BLEED_MM = 0.5
LOOK_INSIDE_MM = 0.3
DIFFERS_DE = 10.0
DIFFERS_SHARE = 0.02
# Colours this near to the stock are not printed: the stock shows them already.
SAME_DE = 2.0
_STEP_MM = 0.25


@dataclass(frozen=True, slots=True)
class Bleed:
    """`share` is the part of the edge where print differs from the stock; `width_mm` is 0 where there is no bleed."""

    share: float
    width_mm: float
    by_hand: bool = False

    def for_miss(self, miss_mm: float) -> "Bleed":
        """The bleed where 95 of 100 pieces miss by less than `miss_mm`; a width that was set by hand stays."""
        if self.by_hand or self.share <= DIFFERS_SHARE:
            return self
        return replace(self, width_mm=max(LEAST_BLEED_MM, miss_mm))


def bleed_for(
    picture: Picture, outline: Outline, edge: Edge, spec: EdgeSpec, stock_colour: str, override_mm: float | None
) -> Bleed:
    """Whether print reaches the edge, and the bleed that follows."""
    share = _differing_share(picture, outline, edge, spec, stock_colour)
    if override_mm is not None:
        return Bleed(share, override_mm, by_hand=True)
    return Bleed(share, 0.0).for_miss(STARTER_MISS_MM)


def is_printed(colour: str | None, stock_colour: str) -> bool:
    """Whether a border of this colour is printed at all: not where it is bare or the stock's own colour."""
    if colour is None:
        return False
    return float(difference(lab_of_one(rgb_of(colour)), lab_of_one(rgb_of(stock_colour)))) > SAME_DE


def _differing_share(picture: Picture, outline: Outline, edge: Edge, spec: EdgeSpec, stock_colour: str) -> float:
    inside = grow(edge.shape, -LOOK_INSIDE_MM)
    points = _along(inside)
    if not len(points):
        return 0.0
    stock = rgb_of(stock_colour)
    # Innermost first: the first ring that holds a point is the one it lies in.
    grounds = np.tile(np.array(stock, dtype=np.uint8), (len(points), 1))
    settled = np.zeros(len(points), dtype=bool)
    where = shapely.points(points)
    for ring, shape in zip(spec.stack, edge.rings, strict=False):
        shapely.prepare(shape)
        here = shapely.covers(shape, where) & ~settled
        settled |= here
        if ring.colour is not None:
            grounds[here] = rgb_of(ring.colour)
    seen = _over_each(_pixels_at(picture, outline, points), grounds)
    return float((difference(lab_of(seen), lab_of_one(stock)) > DIFFERS_DE).mean())


def _along(shape: BaseGeometry) -> npt.NDArray[np.float64]:
    """Points every quarter of a millimetre along all rings, shape (n, 2)."""
    found = [np.empty((0, 2))]
    for ring in (ring for part in parts(shape) for ring in (part.exterior, *part.interiors)):
        corners = shapely.get_coordinates(ring)
        at = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(corners, axis=0).T))])
        stations = np.arange(0.0, at[-1], _STEP_MM)
        found.append(np.column_stack([np.interp(stations, at, corners[:, axis]) for axis in (0, 1)]))
    return np.concatenate(found)


def _pixels_at(picture: Picture, outline: Outline, points: npt.NDArray[np.float64]) -> Pixels:
    """The picture's pixels at points of the item frame; transparent outside the picture."""
    at = np.floor(points / outline.mm_per_px + np.array(outline.origin_px)).astype(int)
    columns, rows = at[:, 0], at[:, 1]
    inside = (columns >= 0) & (rows >= 0) & (columns < picture.width_px) & (rows < picture.height_px)
    found = np.zeros((len(points), 4), dtype=np.uint8)
    found[inside] = picture.rgba[rows[inside], columns[inside]]
    return found


def _over_each(pixels: Pixels, grounds: Pixels) -> Pixels:
    alpha = pixels[:, 3:].astype(np.float32) / 255.0
    mixed: Pixels = np.round(pixels[:, :3] * alpha + grounds * (1 - alpha)).astype(np.uint8)
    return mixed


def bleed_box(outline: Outline, edge: Edge, width_mm: float) -> tuple[int, int, int, int]:
    """Left, top, right, bottom (pixels of the picture, may lie outside it) of all that an item with bleed prints."""
    left, top, right, bottom = edge.shape.bounds
    x, y = outline.origin_px
    rim = width_mm + outline.mm_per_px
    low = np.floor(np.array([left - rim, top - rim]) / outline.mm_per_px + (x, y)).astype(int)
    high = np.ceil(np.array([right + rim, bottom + rim]) / outline.mm_per_px + (x, y)).astype(int)
    return int(low[0]), int(low[1]), int(high[0]), int(high[1])


def bleed_box_mm(outline: Outline, edge: Edge, width_mm: float) -> tuple[float, float, float, float]:
    """Left, top, width, height of `bleed_box` in the item frame, mm."""
    left, top, right, bottom = bleed_box(outline, edge, width_mm)
    x, y = outline.origin_px
    mm = outline.mm_per_px
    return (left - x) * mm, (top - y) * mm, (right - left) * mm, (bottom - top) * mm


def carried_outward(picture: Picture, outline: Outline, edge: Edge, width_mm: float) -> Picture:
    """The picture with its pixels carried `width_mm` past the edge; it then covers `bleed_box`.

    Every pixel in the band takes the nearest pixel inside the edge; where that is bare, so is the bleed. A picture
    smaller than the traced picture, which shows all of it, covers the same box with fewer pixels.
    """
    left, top, right, bottom = bleed_box(outline, edge, width_mm)
    columns, step_across = _pixels_along(left, right, outline.picture_px[0], picture.width_px)
    rows, step_down = _pixels_along(top, bottom, outline.picture_px[1], picture.height_px)
    rgba = np.zeros((len(rows), len(columns), 4), dtype=np.uint8)
    there = np.ix_((rows >= 0) & (rows < picture.height_px), (columns >= 0) & (columns < picture.width_px))
    rgba[there] = picture.rgba[np.ix_(rows[there[0].ravel()], columns[there[1].ravel()])]
    inside = _mask(edge, outline, (left, top), (step_across, step_down), rgba.shape[:2])
    away, (nearest_rows, nearest_columns) = ndimage.distance_transform_edt(~inside, return_indices=True)
    pixel_mm = outline.mm_per_px * step_across
    band = ~inside & (away * pixel_mm <= width_mm + pixel_mm)
    rgba[band] = rgba[nearest_rows[band], nearest_columns[band]]
    return replace(picture, rgba=rgba)


def _pixels_along(low: int, high: int, traced_px: int, shown_px: int) -> tuple[npt.NDArray[np.int64], float]:
    """Which pixels of the picture lie from `low` to `high` of the traced one along a side, and how far they step."""
    share = shown_px / traced_px
    count = max(1, round((high - low) * share))
    step = (high - low) / count
    centres = low + (np.arange(count) + 0.5) * step
    return np.floor(centres * share).astype(np.int64), step


def _mask(
    edge: Edge, outline: Outline, corner: tuple[int, int], step: tuple[float, float], shape: tuple[int, ...]
) -> npt.NDArray[np.bool_]:
    """Which pixels of a box have their centre inside the edge, one scan line at a time.

    `corner` is the box's top left in pixels of the traced picture, `step` how many of these one pixel takes each way.
    """
    mask = np.zeros(shape, dtype=bool)
    rings = [ring for part in parts(edge.shape) for ring in (part.exterior, *part.interiors)]
    origin = np.asarray(outline.origin_px, dtype=np.float64) - corner
    for ring in rings:
        _toggle(mask, (shapely.get_coordinates(ring) / outline.mm_per_px + origin) / step)
    inside: npt.NDArray[np.bool_] = np.logical_xor.accumulate(mask, axis=1)
    return inside


def _toggle(mask: npt.NDArray[np.bool_], points: npt.NDArray[np.float64]) -> None:
    """Flip, in each row, the first pixel at or right of every crossing of a ring (even-odd scan conversion)."""
    height, width = mask.shape
    for (x0, y0), (x1, y1) in pairwise(points):
        if y0 == y1:
            continue
        low, high = (y0, y1) if y0 < y1 else (y1, y0)
        rows = np.arange(max(0, int(np.ceil(low - 0.5))), min(height, int(np.ceil(high - 0.5))))
        if not len(rows):
            continue
        crossing = x0 + (rows + 0.5 - y0) * (x1 - x0) / (y1 - y0)
        columns = np.clip(np.ceil(crossing - 0.5).astype(int), 0, width)
        inside = columns < width
        mask[rows[inside], columns[inside]] ^= True
