"""The outline: the boundary of the inked area, first in pixels, then in millimetres.

The inked area is where alpha is at least a threshold. Its boundary is the iso-line through the alpha values at pixel
centres (marching squares with linear interpolation), which finds the rim of an anti-aliased shape to a small part of
a pixel. `trace` does this once a picture; `outline_at` brings the tracing to a wanted size, which is cheap, so that
a change of size never traces again.

Parts and pinholes below `SPECK_MM2` are left out. Whether a part is a speck depends on the scale, and the scale on
which parts count: the smallest parts are left out one by one as long as the next one is a speck at the scale it would
leave behind. That ends at a scale at which everything left out is a speck.
"""

import math
from dataclasses import dataclass, replace

import contourpy
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import MultiPolygon, Polygon

from vamper.core.art.picture import Picture, Pixels
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi, clockwise_on_screen, parts, simplified
from vamper.core.values.lengths import figure

SPECK_MM2 = 0.5
SIMPLIFY_MM = 0.005
INKED_ALPHA = 0.5
# Above this, pixels are pooled before they are traced: an iso-line through means errs by a small part of a pixel still,
# and a 64-megapixel picture needs no more memory than one of 16.
MOST_TRACED_PX = 16_000_000
# Pixels along the boundary, and pieces: beyond these it is noise, and nothing that a blade could follow. So it is where
# the boundary has many pixels for each inked one.
MOST_RIM_PX = 1_000_000
RAGGED_RIM_PX = 60_000
RAGGED_SHARE = 0.4
MOST_PARTS = 2_000
MOST_HOLES = 100_000


@dataclass(frozen=True, slots=True)
class Tracing:
    """The inked area in pixels.

    Parameters
    ----------
    polygons : array of shapely Polygon, shape (n,)
        The inked parts with their holes, largest first.
    areas_px2 : array, shape (n,)
        The area inside each part's rim, holes included.
    boxes_px : array, shape (n, 4)
        Left, top, right and bottom of each part.
    width_px, height_px : int
        The picture's size.
    opaque : bool
        Whether the picture has no transparent pixel, so that its own rim is the outline.
    """

    polygons: npt.NDArray[np.object_]
    areas_px2: npt.NDArray[np.float64]
    boxes_px: npt.NDArray[np.float64]
    width_px: int
    height_px: int
    opaque: bool


@dataclass(frozen=True, slots=True)
class Outline:
    """The inked area in mm, item frame: origin at the top left of its box, y down.

    Parameters
    ----------
    shape : MultiPolygon
        The parts with their holes.
    mm_per_px : float
        The size of a pixel.
    origin_px : (float, float)
        Where the item frame's origin lies in the picture.
    picture_px : (int, int)
        The picture's width and height.
    specks, pinholes : tuple of Polygon
        Parts and holes that were too small and were left out.
    opaque : bool
        As in `Tracing`.
    """

    shape: MultiPolygon
    mm_per_px: float
    origin_px: tuple[float, float]
    picture_px: tuple[int, int]
    specks: tuple[Polygon, ...]
    pinholes: tuple[Polygon, ...]
    opaque: bool

    @property
    def size_mm(self) -> tuple[float, float]:
        left, top, right, bottom = self.shape.bounds
        return right - left, bottom - top

    @property
    def ppi(self) -> float:
        return 25.4 / self.mm_per_px

    @property
    def picture_box_mm(self) -> tuple[float, float, float, float]:
        """Left, top, width, height of the whole picture in the item frame."""
        return (
            -self.origin_px[0] * self.mm_per_px,
            -self.origin_px[1] * self.mm_per_px,
            self.picture_px[0] * self.mm_per_px,
            self.picture_px[1] * self.mm_per_px,
        )


def trace(picture: Picture, threshold: float = INKED_ALPHA, most_px: int = MOST_TRACED_PX) -> Tracing:
    """The boundary of the inked area of `picture`, at sub-pixel precision.

    Parameters
    ----------
    picture : Picture
    threshold : float
        The least alpha (0..1) that counts as inked.
    most_px : int
        A larger picture is looked at more coarsely.

    Raises
    ------
    BadInput
        If nothing in the picture reaches the threshold, or its boundary is noise.

    See Also
    --------
    outline_at : the tracing at a wanted size.
    """
    if picture.is_opaque:
        # Its boundary is its own rim; an iso-line would cut the corners by half a pixel.
        return _tracing(np.array([shapely.box(0, 0, picture.width_px, picture.height_px)]), picture)
    every = math.ceil(math.sqrt(picture.width_px * picture.height_px / most_px))
    alpha = _pooled(picture.alpha, every)
    level = threshold * 255.0
    rows = np.flatnonzero(alpha.max(axis=1) >= level)
    columns = np.flatnonzero(alpha.max(axis=0) >= level)
    if rows.size == 0:
        raise BadInput(
            "the picture is fully transparent, there is nothing to print; export it again with the drawing visible"
        )
    # A rim of one pixel more than the inked box keeps the soft pixels that the iso-line runs through.
    top, bottom = max(0, rows[0] - 1), min(alpha.shape[0], rows[-1] + 2)
    left, right = max(0, columns[0] - 1), min(alpha.shape[1], columns[-1] + 2)
    values = np.zeros((bottom - top + 2, right - left + 2), dtype=np.float32)
    values[1:-1, 1:-1] = alpha[top:bottom, left:right]
    _refuse_noise(values >= level)
    generator = contourpy.contour_generator(z=values, fill_type=contourpy.FillType.ChunkCombinedOffsetOffset)
    points, ring_offsets, polygon_offsets = (chunk[0] for chunk in generator.filled(level, np.inf))
    assert points is not None
    assert ring_offsets is not None
    assert polygon_offsets is not None
    # Pixel i has its centre at i + 0.5; the padded grid starts one pixel earlier.
    coordinates = (points + np.array([left - 0.5, top - 0.5])) * every
    polygons = shapely.from_ragged_array(shapely.GeometryType.POLYGON, coordinates, (ring_offsets, polygon_offsets))
    return _tracing(polygons, picture)


def _refuse_noise(inked: npt.NDArray[np.bool_]) -> None:
    rim = sum(int(np.count_nonzero(np.diff(inked, axis=axis))) for axis in (0, 1))
    if rim > MOST_RIM_PX or (rim > RAGGED_RIM_PX and rim > RAGGED_SHARE * np.count_nonzero(inked)):
        raise BadInput(
            "the drawing is torn into more specks than can be cut out; it looks like noise: smooth it, or lift its "
            "background in a picture editor first"
        )


def _pooled(alpha: Pixels, every: int) -> npt.NDArray[np.float32] | Pixels:
    """Means of blocks of `every` × `every` pixels; a last, partial block is filled up with nothing."""
    if every <= 1:
        return alpha
    height, width = (-(-side // every) for side in alpha.shape)
    sums = np.zeros((height, width), dtype=np.float32)
    for down in range(every):
        for across in range(every):
            part = alpha[down::every, across::every]
            sums[: part.shape[0], : part.shape[1]] += part
    sums /= every**2
    return sums


def _tracing(polygons: npt.NDArray[np.object_], picture: Picture) -> Tracing:
    """Polygons in pixels, put in order."""
    shell_areas: npt.NDArray[np.float64] = np.atleast_1d(
        shapely.area(shapely.polygons(shapely.get_exterior_ring(polygons)))
    )
    order = np.argsort(-shell_areas, kind="stable")
    polygons = polygons[order]
    return Tracing(
        polygons=polygons,
        areas_px2=shell_areas[order],
        boxes_px=shapely.bounds(polygons),
        width_px=picture.width_px,
        height_px=picture.height_px,
        opaque=picture.is_opaque,
    )


def outline_at(tracing: Tracing, size: SizeSpec) -> Outline:
    """The outline at a wanted size of the inked area, specks left out.

    Raises
    ------
    BadInput
        If everything in the picture is a speck at this size.
    """
    kept, mm_per_px, box = _without_specks(tracing, size)
    if kept > MOST_PARTS or sum(len(polygon.interiors) for polygon in tracing.polygons[:kept]) > MOST_HOLES:
        raise BadInput("the drawing is in very many pieces or has very many holes; join them, or smooth it first")
    left, top = float(box[0]), float(box[1])
    speck_px2 = SPECK_MM2 / mm_per_px**2
    to_mm = [mm_per_px, 0, 0, mm_per_px, -left * mm_per_px, -top * mm_per_px]
    shells: list[Polygon] = []
    pinholes: list[Polygon] = []
    for polygon in tracing.polygons[:kept]:
        holes = [Polygon(ring) for ring in polygon.interiors]
        open_holes = [hole for hole in holes if hole.area >= speck_px2]
        pinholes.extend(shapely.affinity.affine_transform(h, to_mm) for h in holes if h.area < speck_px2)
        in_px = polygon
        if len(open_holes) != len(holes):
            in_px = Polygon(polygon.exterior, [hole.exterior for hole in open_holes])
        in_mm = simplified(shapely.affinity.affine_transform(in_px, to_mm), SIMPLIFY_MM)
        if not in_mm.is_valid:
            in_mm = in_mm.buffer(0)
        shells.extend(clockwise_on_screen(part) for part in parts(in_mm))
    specks = tuple(shapely.affinity.affine_transform(speck, to_mm) for speck in tracing.polygons[kept:])
    return Outline(
        shape=as_multi(shells),
        mm_per_px=mm_per_px,
        origin_px=(left, top),
        picture_px=(tracing.width_px, tracing.height_px),
        specks=specks,
        pinholes=tuple(pinholes),
        opaque=tracing.opaque,
    )


def scaled(outline: Outline, factor: float) -> Outline:
    """The outline at another size; what was a speck stays left out."""
    shape = shapely.affinity.scale(outline.shape, factor, factor, origin=(0, 0))
    return replace(outline, shape=as_multi(parts(shape)), mm_per_px=outline.mm_per_px * factor)


def _without_specks(tracing: Tracing, size: SizeSpec) -> tuple[int, float, npt.NDArray[np.float64]]:
    """How many of the largest polygons are not specks, the scale they give, and their box in pixels."""
    boxes = tracing.boxes_px
    # Row k holds the box of the k + 1 largest polygons.
    lows: npt.NDArray[np.float64] = np.asarray(np.minimum.accumulate(boxes[:, :2], axis=0))
    highs: npt.NDArray[np.float64] = np.asarray(np.maximum.accumulate(boxes[:, 2:], axis=0))
    kept = len(boxes)

    def scale(count: int) -> float:
        width, height = (float(highs[count - 1, axis] - lows[count - 1, axis]) for axis in (0, 1))
        return size.of(width, height)

    while kept > 1 and tracing.areas_px2[kept - 1] * scale(kept - 1) ** 2 < SPECK_MM2:
        kept -= 1
    mm_per_px = scale(kept)
    if tracing.areas_px2[0] * mm_per_px**2 < SPECK_MM2:
        raise BadInput(
            f"at this size the whole drawing covers less than {figure(SPECK_MM2, 'mm²')}, too little to "
            "cut; make it bigger"
        )
    return kept, mm_per_px, np.concatenate([lows[kept - 1], highs[kept - 1]])
