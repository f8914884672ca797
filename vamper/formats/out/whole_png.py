"""A sheet as one picture for a machine's own program, which finds the cut by the picture's outline.

Where the picture lies is `core.program.picture`. A piece is opaque up to its edge and transparent outside: bare border
is filled with white, and nothing bleeds, since the program would cut round that. A stock that is not printed shows
cut shapes.
"""

import io
import math
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw
from shapely.geometry.base import BaseGeometry

from vamper.core.art.picture import Picture
from vamper.core.plan import Plan, page_of
from vamper.core.printing.page import Matrix, PrintPage
from vamper.core.program.picture import PictureFrame, drop_shape, picture_frame, printed_edges, riding_drop, trial_frame
from vamper.core.values.geometry import parts, ring_points
from vamper.core.values.program import PICTURE_PPI
from vamper.core.values.units import MM_PER_INCH
from vamper.formats.out.sheet_file import Printed

# Edges are drawn this much larger, then made smaller, so that half-covered pixels are half opaque.
_FINER = 8
# Bits of a drawn point behind its point.
_SHIFT = 6
_OPAQUE = 255
_CUT_SHAPE, _DROP = (40, 44, 52), (150, 156, 166)

Pixels = npt.NDArray[np.uint8]


def whole_picture(plan: Plan, sheet: int, printed: Printed) -> Picture:
    """A sheet (from 0) as one picture."""
    edges, frame, drop = printed_edges(plan, sheet), picture_frame(plan, sheet), riding_drop(plan, sheet)
    rgb = np.full((frame.height_px, frame.width_px, 3), _OPAQUE, dtype=np.uint8)
    alpha = np.zeros((frame.height_px, frame.width_px), dtype=np.uint8)
    if plan.job.stock.printable:
        _print(rgb, frame, page_of(plan, sheet), edges, printed)
    else:
        # Nothing is printed: the program only needs to see what to cut out.
        rgb[:] = _CUT_SHAPE
    if drop is not None:
        _paint(rgb, frame.to_px(drop), np.array(_DROP, dtype=np.uint8))
    for edge in (*edges, *(() if drop is None else (drop,))):
        region, cover = _cover(frame.to_px(edge), alpha.shape)
        alpha[region] = np.maximum(alpha[region], cover)
    return Picture(np.dstack([rgb, alpha]))


def _print(rgb: Pixels, frame: PictureFrame, page: PrintPage, edges: Sequence[BaseGeometry], printed: Printed) -> None:
    """Draw what a page shows: borders, then pictures as far as their edges reach."""
    for border in page.borders:
        _paint(rgb, frame.to_px(border.shape), np.array(_rgb(border.colour), dtype=np.uint8))
    ready: dict[int, _Ready] = {}
    for one, edge in zip(page.pictures, edges, strict=True):
        if one.item not in ready:
            ready[one.item] = _ready(printed(one.item), one.matrix)
        _place(rgb, frame, ready[one.item], one.matrix, frame.to_px(edge))


def trial_drop_png() -> bytes:
    """One test drop as a picture of its own, to cut on an offcut."""
    frame = trial_frame()
    rgb = np.full((frame.height_px, frame.width_px, 3), _OPAQUE, dtype=np.uint8)
    alpha = np.zeros((frame.height_px, frame.width_px), dtype=np.uint8)
    shape = frame.to_px(drop_shape())
    _paint(rgb, shape, np.array(_DROP, dtype=np.uint8))
    region, cover = _cover(shape, alpha.shape)
    alpha[region] = cover
    return write_whole(Picture(np.dstack([rgb, alpha])))


def write_whole(picture: Picture) -> bytes:
    """The picture as PNG, with its pixels an inch."""
    out = io.BytesIO()
    Image.fromarray(picture.rgba).save(out, format="PNG", dpi=(PICTURE_PPI, PICTURE_PPI), compress_level=6)
    return out.getvalue()


def trial_png(width_mm: float, height_mm: float) -> bytes:
    """A picture of a size to try in a program before anything is printed: a thin frame, transparent inside."""
    width, height = (max(1, round(side * PICTURE_PPI / MM_PER_INCH)) for side in (width_mm, height_mm))
    image = Image.new("RGBA", (width, height))
    ImageDraw.Draw(image).rectangle((0, 0, width - 1, height - 1), outline=(90, 90, 90, _OPAQUE), width=6)
    out = io.BytesIO()
    image.save(out, format="PNG", dpi=(PICTURE_PPI, PICTURE_PPI))
    return out.getvalue()


def _rgb(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _cover(shape: BaseGeometry, size: tuple[int, ...]) -> tuple[tuple[slice, slice], Pixels]:
    """How much of each pixel a shape covers (0..255), and which part of a picture of `size` that is."""
    left, top, right, bottom = shape.bounds
    x0, y0 = max(0, math.floor(left)), max(0, math.floor(top))
    x1, y1 = min(size[1], math.ceil(right)), min(size[0], math.ceil(bottom))
    if x1 <= x0 or y1 <= y0:
        return (slice(0, 0), slice(0, 0)), np.zeros((0, 0), dtype=np.uint8)
    fine = np.zeros(((y1 - y0) * _FINER, (x1 - x0) * _FINER), dtype=np.uint8)
    # A pixel's middle is half a pixel from its corner, and a drawn point is the middle of one.
    rings = [
        np.round(((ring_points(ring) - (x0, y0)) * _FINER - 0.5) * 2**_SHIFT).astype(np.int32)
        for part in parts(shape)
        for ring in (part.exterior, *part.interiors)
    ]
    cv2.fillPoly(fine, rings, _OPAQUE, shift=_SHIFT)
    cover = cv2.resize(fine, (x1 - x0, y1 - y0), interpolation=cv2.INTER_AREA)
    return (slice(y0, y1), slice(x0, x1)), np.asarray(cover, dtype=np.uint8)


def _paint(rgb: Pixels, shape: BaseGeometry, colour: Pixels) -> None:
    region, cover = _cover(shape, rgb.shape)
    share = cover[..., None] / float(_OPAQUE)
    rgb[region] = np.round(rgb[region] * (1 - share) + colour * share).astype(np.uint8)


@dataclass(frozen=True)
class _Ready:
    """A picture made ready to be drawn at a scale: multiplied by its alpha, and already made smaller `times` times."""

    image: Image.Image
    size_px: tuple[int, int]
    times: int


def _ready(picture: Picture, matrix: Matrix) -> _Ready:
    a, b, c, d, _, _ = matrix
    per_px = (
        PICTURE_PPI / MM_PER_INCH * np.array([np.hypot(a, b) / picture.width_px, np.hypot(c, d) / picture.height_px])
    )
    times = max(1, math.floor(1 / max(float(per_px.max()), 1e-9)))
    image = Image.fromarray(picture.rgba).convert("RGBa")
    return _Ready(image.reduce(times) if times > 1 else image, (picture.width_px, picture.height_px), times)


def _place(rgb: Pixels, frame: PictureFrame, ready: _Ready, matrix: Matrix, edge: BaseGeometry) -> None:
    """Draw a picture where it lies, over what is there, as far as its edge reaches."""
    (rows, columns), cover = _cover(edge, rgb.shape)
    if cover.size == 0:
        return
    a, b, c, d, e, f = matrix
    scale, (width, height) = PICTURE_PPI / MM_PER_INCH, ready.size_px
    # From the picture's pixels to those of this part; an image is drawn by asking where each pixel is from.
    forward = np.array(
        [
            [a * scale / width, c * scale / height, (e - frame.left_mm) * scale - columns.start],
            [b * scale / width, d * scale / height, (f - frame.top_mm) * scale - rows.start],
            [0.0, 0.0, 1.0],
        ]
    ) @ np.diag([ready.times, ready.times, 1.0])
    back = np.linalg.inv(forward)
    drawn = ready.image.transform(
        (cover.shape[1], cover.shape[0]), Image.Transform.AFFINE, back[:2].ravel().tolist(), Image.Resampling.BICUBIC
    )
    layer = np.asarray(drawn, dtype=np.float32)
    under = rgb[rows, columns]
    # The picture's colours are multiplied by its alpha already.
    over = layer[..., :3] + under * (1 - layer[..., 3:] / _OPAQUE)
    share = cover[..., None].astype(np.float32) / _OPAQUE
    rgb[rows, columns] = np.round(over * share + under * (1 - share)).clip(0, _OPAQUE).astype(np.uint8)
