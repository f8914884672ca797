"""A sheet as a scan shows it, after it was cut and weeded: what one run of the twin made of it.

From the bottom up: what the sheet lies on, its backing, its face with the print, each where it came to lie in this run.
Weeding takes the waste inside the marks off wherever the blade went through the face; where it did not, waste stays. A
slit in the backing shows dark. Light falls from the upper left: what stands on the backing throws a thin shadow, a
shining face a soft reflection. The pixels are those of the print file, cut along the strokes of the cut file.

A part of a sheet is drawn without the rest, and but for the grain of its pixels as in a picture of the whole.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.plan import Plan
from vamper.core.twin.cut_out import CutPiece, cut_pieces, strokes_in
from vamper.core.twin.devices import Devices
from vamper.core.twin.pieces import PieceFacts
from vamper.core.twin.printer import PrintedRaster, at, page_to_pixels
from vamper.core.twin.simulate import SimulationResult, Spoiling
from vamper.core.values.colour import rgb_of
from vamper.core.values.cut import Cut
from vamper.core.values.geometry import Points, mirrored
from vamper.core.values.pixels import filled
from vamper.core.values.reading import Black
from vamper.core.values.stock import Ground
from vamper.core.values.units import MM_PER_INCH

Pixels = npt.NDArray[np.uint8]
Image = npt.NDArray[Any]
Mask = npt.NDArray[Any]
BoxMm = tuple[float, float, float, float]

# Our own colours of what lies under a face: backing paper, and a mat with its lines.
_BACKING, _MAT, _MAT_LINE = (240, 234, 221), (134, 150, 146), (158, 171, 167)
_SLIT, _SCORE = (88, 78, 64), (150, 146, 140)
_MAT_LINE_MM = 10.0
_SHADOW_MM, _SHADOW_DEPTH = 0.35, 0.30
_CLEAR_LETS = 0.92
# The layers that have a grain of their own.
_FACE, _GROUND, _LIGHT = range(3)
# What stays of the waste round a piece that is not through.
_RAGGED_MM = 3.5
_TEAR_MM = 4.0
_LIFTED_MM, _LIFTED_DEG = 2.2, 7.0
_LINE_RIM_PX = 4
# What is this far outside of a part may still be seen in it: a piece that was pushed aside, a shadow.
BESIDE_MM = 8.0
# White paper under the lamp of a scanner is not the brightest there is.
_LAMP = 0.965
# How much lighter a weak black is, and a cut edge.
_GREY_BLACK, _RIM_LIGHT = 45.0, 8.0


@dataclass(frozen=True)
class _Table:
    """The picture while it is drawn: `px` pixels a millimetre, its `corner` (x, y) in pixels of the `whole` sheet
    (h, w). Left, top, right and bottom of what is `asked` for lie in it.
    """

    plan: Plan
    px: float
    whole: tuple[int, int]
    size: tuple[int, int]
    corner: tuple[int, int]
    asked: tuple[int, int, int, int]
    run: int

    @classmethod
    def of(cls, plan: Plan, ppi: float, run: int, box_mm: BoxMm | None = None) -> "_Table":
        """For a whole sheet, or for a box (left, top, width, height) with what is seen in it of its surroundings."""
        paper, px = plan.job.paper, ppi / MM_PER_INCH
        height, width = whole = max(1, round(paper.height_mm * px)), max(1, round(paper.width_mm * px))
        if box_mm is None:
            return cls(plan, px, whole, whole, (0, 0), (0, 0, width, height), run)
        left, top, right, bottom = asked = pixels_of(box_mm, ppi, whole)
        beside = math.ceil(BESIDE_MM * px)
        x0, y0 = max(0, left - beside), max(0, top - beside)
        size = min(height, bottom + beside) - y0, min(width, right + beside) - x0
        return cls(plan, px, whole, size, (x0, y0), asked, run)

    def cut_to(self, image: Pixels) -> Pixels:
        """The region that was asked for, without what was drawn beside it."""
        (x, y), (left, top, right, bottom) = self.corner, self.asked
        return np.ascontiguousarray(image[top - y : bottom - y, left - x : right - x])

    def here(self, points: Points) -> Points:
        """Places of the sheet, mm, in pixels of the picture."""
        found: Points = points * self.px - self.corner
        return found

    def random(self, piece: PieceFacts) -> np.random.Generator:
        """The random draws of a piece in this run, the same in every picture of it."""
        return np.random.default_rng((self.run, 7, piece.placement))

    def grain(self, layer: int) -> Image:
        """The grain of one layer of the picture."""
        return np.random.default_rng((self.run, 7, 0, layer)).standard_normal(self.size, dtype=np.float32)

    def mask(self, shape: BaseGeometry) -> Mask:
        """How much of each pixel a shape (mm) covers."""
        return filled(shapely.transform(shape, self.here), self.size)

    def sees(self, shape: BaseGeometry) -> bool:
        """Whether any of a shape (mm), or of what happened beside it, may be in the picture."""
        left, top, right, bottom = (side * self.px for side in shape.bounds)
        (x, y), (height, width), beside = self.corner, self.size, BESIDE_MM * self.px
        return left - beside < x + width and right + beside > x and top - beside < y + height and bottom + beside > y

    def line(self, image: Image, points: Points, colour: tuple[int, int, int], width_mm: float, share: float) -> None:
        """A line in the picture; only the part of it that the line crosses is touched."""
        here = self.here(points)
        left, top = np.maximum(np.floor(here.min(axis=0)).astype(int) - _LINE_RIM_PX, 0)
        right, bottom = np.maximum(np.ceil(here.max(axis=0)).astype(int) + _LINE_RIM_PX, 0)
        part = image[top:bottom, left:right]
        if not part.size:
            return
        mask = np.zeros(part.shape[:2], np.uint8)
        scaled = np.round((here - (left, top)) * 16).astype(np.int32)
        cv2.polylines(mask, [scaled], False, 255, max(1, round(width_mm * self.px)), cv2.LINE_AA, 4)
        cover = (mask.astype(np.float32) / 255 * np.float32(share))[..., None]
        part[:] = part * (1 - cover) + cover * np.array(colour, np.float32)


def pixels_of(box_mm: BoxMm, ppi: float, size: tuple[int, int]) -> tuple[int, int, int, int]:
    """Left, top, right and bottom of a box in a picture of so many rows and columns, at least one pixel of it."""
    left, top, width, height = (side * ppi / MM_PER_INCH for side in box_mm)
    x, y = (max(0, min(round(at), side - 1)) for at, side in ((left, size[1]), (top, size[0])))
    return x, y, min(size[1], max(x + 1, round(left + width))), min(size[0], max(y + 1, round(top + height)))


def result_scan(
    plan: Plan,
    devices: Devices,
    runs: SimulationResult,
    page: PrintedRaster | None,
    run: int,
    ppi: float,
    box_mm: BoxMm | None = None,
) -> Pixels:
    """One run as a scan of a whole sheet, or of the part of it in a box, shape (h, w, 3).

    Parameters
    ----------
    page : Page
        The print file with its ink as it came out, at any resolution; None for stock that is not printed.
    box_mm : tuple of float
        Left, top, width and height.
    """
    table, gloss = _Table.of(plan, ppi, run, box_mm), plan.job.stock.gloss
    face = _face(table, devices, runs, page, run)
    if not runs.read[run]:
        return table.cut_to(_lit(table, face, gloss))
    cut = cut_pieces(plan, devices, runs, run)
    landed = strokes_in(plan, devices, runs, run)
    ground = _ground(table, cut)
    pieces = [piece for piece in cut if table.sees(piece.region)]
    kept = _kept(table, runs, run, pieces)
    image = _over(table, ground, face, kept, plan.job.stock.is_clear)
    for piece in pieces:
        if Spoiling.LIFTED in piece.happened:
            _moved_piece(table, image, face, piece)
    _cut_lines(table, image, pieces, landed)
    if runs.crease_mm is not None:
        _crease(table, image, runs.crease_mm)
    return table.cut_to(_lit(table, image, gloss))


def print_scan(
    plan: Plan, devices: Devices, runs: SimulationResult, page: PrintedRaster, run: int, ppi: float
) -> Pixels:
    """The printed sheet of one run before it is cut, as a scan."""
    table = _Table.of(plan, ppi, run)
    return _lit(table, _face(table, devices, runs, page, run), plan.job.stock.gloss)


def _face(table: _Table, devices: Devices, runs: SimulationResult, page: PrintedRaster | None, run: int) -> Image:
    """The face of the whole sheet with its print."""
    stock = table.plan.job.stock
    colour = rgb_of(table.plan.sheet_colour(runs.sheet) or stock.colour)
    face: Image = np.empty((*table.size, 3), np.float32)
    face[:] = _BACKING if stock.is_clear else colour
    grain = table.grain(_FACE)
    if stock.ground is Ground.METALLIC:
        face += (cv2.GaussianBlur(grain, (0, 0), 1.2) * np.float32(26) - np.float32(18))[..., None]
    face += (cv2.GaussianBlur(grain, (0, 0), 0.8) * np.float32(2.2 if stock.gloss < 0.3 else 0.8))[..., None]
    if page is None:
        return face
    placed = page_to_pixels(page, runs.prints[run], table.px)
    placed[:, 2] -= table.corner
    rgba = page.rgba.astype(np.float32)
    rgba[..., :3] *= rgba[..., 3:] / np.float32(255)
    warped = cv2.warpAffine(
        rgba, placed, (table.size[1], table.size[0]), flags=cv2.INTER_AREA, borderValue=(0, 0, 0, 0)
    )
    share = warped[..., 3:] / np.float32(255)
    face *= 1 - share
    face += warped[..., :3]
    if devices.printer.black is not Black.FULL:
        # What should be black comes out grey.
        face += share * (1 - warped[..., :3] / np.float32(255)) * np.float32(_GREY_BLACK)
    return face


def _ground(table: _Table, pieces: list[CutPiece]) -> Image:
    """The ground that shows where the waste is gone: the backing, and the mat where pieces are cut through."""
    image = np.empty((*table.size, 3), np.float32)
    stock = table.plan.job.stock
    through = not stock.has_backing or all(loop.cut is Cut.THROUGH for piece in pieces for loop in piece.facts.loops)
    grain = cv2.GaussianBlur(table.grain(_GROUND), (0, 0), 1.5)
    if not through:
        image[:] = _BACKING
        return np.asarray(image + (grain * 5)[..., None])
    image[:] = _MAT
    step = _MAT_LINE_MM * table.px
    thick = max(1, round(0.25 * table.px))
    for at_px in np.arange(step / 2, max(table.whole), step):
        x, y = (round(at_px) - side for side in table.corner)
        image[max(y, 0) : max(y + thick, 0)] = _MAT_LINE
        image[:, max(x, 0) : max(x + thick, 0)] = _MAT_LINE
    return np.asarray(image + (grain * 6)[..., None])


def _kept(table: _Table, runs: SimulationResult, run: int, pieces: list[CutPiece]) -> Mask:
    """How much of the face is left after weeding, 0..1."""
    plan = table.plan
    live = plan.sheets[runs.sheet].live.shape
    live = mirrored(live, plan.job.paper.width_mm) if plan.mirror else live
    kept = 1 - table.mask(shapely.transform(live, lambda one: at(runs.found[run], one)))
    for piece in pieces:
        if Spoiling.LIFTED in piece.happened:
            continue
        mine = table.mask(piece.region)
        if Spoiling.NOT_THROUGH in piece.happened:
            mine = np.maximum(mine, table.mask(_ragged(piece.region, table.random(piece.facts))))
        if Spoiling.TORN in piece.happened:
            mine = mine * (1 - table.mask(_tear(piece.region, table.random(piece.facts))))
        kept = np.maximum(kept, mine)
    return kept


def _ragged(region: BaseGeometry, random: np.random.Generator) -> BaseGeometry:
    """The piece with the waste that would not come off round it."""
    rim = region.buffer(_RAGGED_MM).boundary
    points = shapely.get_coordinates(shapely.segmentize(rim, 1.5))
    around = np.convolve(random.normal(0, 1.0, len(points) + 4), np.ones(5) / 5, "valid")
    middle = np.array(region.centroid.coords[0])
    away = points - middle
    length = np.maximum(np.hypot(*away.T), 1e-6)[:, None]
    hull = Polygon(points + away / length * around[:, None] * 2.2) if len(points) > 3 else region
    return shapely.union(region, shapely.make_valid(hull))


def _tear(region: BaseGeometry, random: np.random.Generator) -> BaseGeometry:
    """The region that a tear takes off at a corner."""
    points = shapely.get_coordinates(shapely.simplify(region.convex_hull, 1.0))[:-1]
    if not len(points):
        return Polygon()
    x, y = points[int(random.integers(len(points)))]
    angles = np.linspace(0, 2 * math.pi, 14, endpoint=False)
    radius = _TEAR_MM * (0.6 + 0.7 * random.random(14))
    return shapely.make_valid(Polygon(np.column_stack([x + radius * np.cos(angles), y + radius * np.sin(angles)])))


def _over(table: _Table, ground: Image, face: Image, kept: Mask, clear: bool) -> Image:
    """The face where it is kept, over the ground, with the shadow that its thickness throws."""
    far = max(1, round(_SHADOW_MM * table.px))
    shadow = cv2.GaussianBlur(_thrown(kept, far), (0, 0), max(0.6, far * 0.8)) * (1 - kept) * _SHADOW_DEPTH
    rim = np.clip(kept - cv2.erode(kept, np.ones((3, 3), np.uint8)), 0, 1)
    share = (kept * np.float32(_CLEAR_LETS if clear else 1.0))[..., None]
    # Where the face is cut its edge catches a little light.
    image: Image = ground
    image *= ((1 - shadow) * (1 - share[..., 0]))[..., None]
    image += (face + (rim * np.float32(_RIM_LIGHT))[..., None]) * share
    return image


def _thrown(mask: Mask, far: int) -> Mask:
    """Where a mask throws its shadow: so many pixels to the right and down."""
    moved = np.zeros_like(mask)
    moved[far:, far:] = mask[:-far, :-far]
    return moved


def _moved_piece(table: _Table, image: Image, face: Image, piece: CutPiece) -> None:
    """A piece that came off the mat and was pushed aside."""
    middle = tuple(float(one) for one in table.here(np.array(piece.region.centroid.coords[0])))
    random = table.random(piece.facts)
    way = random.random() * 2 * math.pi
    turn = cv2.getRotationMatrix2D(middle, _LIFTED_DEG * (1 if random.random() < 0.5 else -1), 1.0)
    turn[:, 2] = turn[:, 2] + np.array([math.cos(way), math.sin(way)]) * _LIFTED_MM * table.px
    size = (table.size[1], table.size[0])
    mask = cv2.warpAffine(table.mask(piece.region), turn, size)
    lifted: Image = cv2.warpAffine(face, turn, size, borderMode=cv2.BORDER_REPLICATE)
    far = max(1, round(2 * _SHADOW_MM * table.px))
    shadow = cv2.GaussianBlur(_thrown(mask, far), (0, 0), far * 1.2) * (1 - mask) * 0.35
    image *= 1 - shadow[..., None]
    image[:] = image * (1 - mask[..., None]) + lifted * mask[..., None]


def _cut_lines(table: _Table, image: Image, pieces: list[CutPiece], landed: Mapping[int, Points]) -> None:
    """Slits in the backing, and scores where the blade did not get through."""
    for piece in pieces:
        strokes = [one for loop in piece.facts.loops for passed in loop.strokes for one in passed if one in landed]
        if Spoiling.BACKING_CUT in piece.happened:
            for one in strokes:
                table.line(image, landed[one], _SLIT, 0.25, 0.85)
        elif Spoiling.NOT_THROUGH in piece.happened:
            for one in strokes:
                table.line(image, landed[one], _SCORE, 0.12, 0.45)
        else:
            for one in strokes:
                table.line(image, landed[one], _SCORE, 0.10, 0.18)


def _crease(table: _Table, image: Image, at_mm: float) -> None:
    x = ((np.arange(table.size[1]) + table.corner[0]) / table.px - at_mm) / 1.2
    profile = np.exp(-(x**2)) * np.sign(x) * 26
    image[:] = image + profile[None, :, None]


def _lit(table: _Table, image: Image, gloss: float) -> Pixels:
    """Under the lamp: a slow fall of light, a reflection on what shines, the softness and grain of a scanner."""
    v, u = (
        (np.arange(size, dtype=np.float32) + first) / np.float32(whole)
        for size, first, whole in zip(table.size, reversed(table.corner), table.whole, strict=True)
    )
    v = v[:, None]
    light = _LAMP - 0.035 * ((u - 0.4) ** 2 + (v - 0.35) ** 2)
    image *= light[..., None]
    if gloss > 0.3:
        band = np.exp(-(((u * 0.8 + v * 0.6 - 0.55) / 0.16) ** 2)) * np.float32(16 * gloss)
        image += band[..., None]
    seen: Image = cv2.GaussianBlur(image.astype(np.float32, copy=False), (0, 0), 0.45)
    seen += (table.grain(_LIGHT) * np.float32(1.3))[..., None]
    return np.asarray(np.clip(seen, 0, 255, out=seen), dtype=np.uint8)
