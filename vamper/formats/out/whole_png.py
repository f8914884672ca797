"""A sheet as one picture for a machine's own program, which finds the cut by the picture's outline.

The picture is as large as what lies on the sheet and not a pixel larger, so that a program that trims what is empty
comes to the same size. A piece is opaque up to its edge and transparent outside: bare border is filled with white, and
nothing bleeds, since the program would cut round that. Sizes are whole pixels at a whole number of pixels an inch.
"""

import io
import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt
import shapely
from PIL import Image, ImageDraw
from shapely.geometry.base import BaseGeometry

from vamper.core.art.picture import Picture
from vamper.core.plan import Plan, page_of
from vamper.core.printing.page import Matrix
from vamper.core.values.geometry import mirrored, parts, ring_points
from vamper.formats.out.sheet_file import Printed

PPI = 300
_MM_PER_INCH = 25.4
# Edges are drawn this much larger, then made smaller, so that half-covered pixels are half opaque.
_FINER = 4
_OPAQUE = 255

Pixels = npt.NDArray[np.uint8]


@dataclass(frozen=True)
class Frame:
    """Where the picture lies on the sheet: its left and top, mm, and its size in pixels."""

    left_mm: float
    top_mm: float
    width_px: int
    height_px: int

    @cached_property
    def size_mm(self) -> tuple[float, float]:
        """The size to type in."""
        return self.width_px * _MM_PER_INCH / PPI, self.height_px * _MM_PER_INCH / PPI

    def to_px(self, shape: BaseGeometry) -> BaseGeometry:
        """A shape on the sheet, in pixels of the picture."""
        return shapely.transform(shape, lambda points: (points - (self.left_mm, self.top_mm)) * PPI / _MM_PER_INCH)


def frame_of(edges: list[BaseGeometry]) -> Frame:
    """The frame round all edges of a sheet."""
    left, top, right, bottom = shapely.total_bounds(np.array(edges, dtype=object)).tolist()
    width, height = (math.ceil(round(side * PPI / _MM_PER_INCH, 6)) for side in (right - left, bottom - top))
    return Frame(left, top, width, height)


def printed_edges(plan: Plan, sheet: int) -> list[BaseGeometry]:
    """The edges of a sheet (from 0) as they are printed."""
    edges = plan.sheets[sheet].edges
    return [mirrored(edge, plan.job.paper.width_mm) for edge in edges] if plan.mirror else list(edges)


def whole_picture(plan: Plan, sheet: int, printed: Printed) -> Picture:
    """A sheet (from 0) as one picture."""
    page, edges = page_of(plan, sheet), printed_edges(plan, sheet)
    frame = frame_of(edges)
    rgb = np.full((frame.height_px, frame.width_px, 3), _OPAQUE, dtype=np.uint8)
    alpha = np.zeros((frame.height_px, frame.width_px), dtype=np.uint8)
    for border in page.borders:
        _paint(rgb, frame.to_px(border.shape), np.array(_rgb(border.colour), dtype=np.uint8))
    ready: dict[int, _Ready] = {}
    for one, edge in zip(page.pictures, edges, strict=True):
        if one.item not in ready:
            ready[one.item] = _ready(printed(one.item), one.matrix)
        _place(rgb, frame, ready[one.item], one.matrix, frame.to_px(edge))
    for edge in edges:
        region, cover = _cover(frame.to_px(edge), alpha.shape)
        alpha[region] = np.maximum(alpha[region], cover)
    return Picture(np.dstack([rgb, alpha]))


def write_whole(picture: Picture) -> bytes:
    """The picture as PNG, with its pixels an inch."""
    out = io.BytesIO()
    Image.fromarray(picture.rgba).save(out, format="PNG", dpi=(PPI, PPI), compress_level=6)
    return out.getvalue()


def trial_png(width_mm: float, height_mm: float) -> bytes:
    """A picture of a size to try in a program before anything is printed: a thin frame, transparent inside."""
    width, height = (max(1, round(side * PPI / _MM_PER_INCH)) for side in (width_mm, height_mm))
    image = Image.new("RGBA", (width, height))
    ImageDraw.Draw(image).rectangle((0, 0, width - 1, height - 1), outline=(90, 90, 90, _OPAQUE), width=6)
    out = io.BytesIO()
    image.save(out, format="PNG", dpi=(PPI, PPI))
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
    fine = Image.new("L", ((x1 - x0) * _FINER, (y1 - y0) * _FINER))
    draw = ImageDraw.Draw(fine)
    for part in parts(shape):
        for ring, fill in [(part.exterior, _OPAQUE), *((hole, 0) for hole in part.interiors)]:
            # A pixel's middle is half a pixel from its corner, and a drawn point is the middle of one.
            points = (ring_points(ring) - (x0, y0)) * _FINER - 0.5
            draw.polygon([tuple(point) for point in points.tolist()], fill=fill)
    cover = np.asarray(fine.reduce(_FINER))
    return (slice(y0, y1), slice(x0, x1)), cover


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
    per_px = PPI / _MM_PER_INCH * np.array([np.hypot(a, b) / picture.width_px, np.hypot(c, d) / picture.height_px])
    times = max(1, math.floor(1 / max(float(per_px.max()), 1e-9)))
    image = Image.fromarray(picture.rgba).convert("RGBa")
    return _Ready(image.reduce(times) if times > 1 else image, (picture.width_px, picture.height_px), times)


def _place(rgb: Pixels, frame: Frame, ready: _Ready, matrix: Matrix, edge: BaseGeometry) -> None:
    """Draw a picture where it lies, over what is there, as far as its edge reaches."""
    (rows, columns), cover = _cover(edge, rgb.shape)
    if cover.size == 0:
        return
    a, b, c, d, e, f = matrix
    scale, (width, height) = PPI / _MM_PER_INCH, ready.size_px
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
