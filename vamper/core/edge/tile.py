"""Tiles: a piece larger than the sheet, made in parts that lie over each other where they meet.

The border goes round the whole piece, so a tile is a window on the whole: its outline and edge agree with the piece's
as far as the window shows them. Outer sides stay open, so that the border there is whole. Seams are laid where the
least is drawn: of all ways to cut the piece into as few tiles as fit, the one whose overlaps hold the least ink.
"""

import math
from dataclasses import replace

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.art.bent import Bend
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi, clockwise_on_screen, parts, ring_points
from vamper.core.values.item import Tile, Turn

OVERLAP_MM = 3.0
# More than these nobody puts together by eye.
MOST_TILES = 12
# Columns in which ink is measured, and seams tried, along one side.
_COLUMNS = 240
# A window's open side reaches beyond every border.
_FAR_MM = 1e4
# How far a bent window reaches round the tip and towards it, in radii.
_NEARLY_ROUND, _NEARLY_ALL = 3.0, 0.98


def tile_counts(edge: Edge, room_mm: tuple[float, float], turn: Turn, overlap_mm: float) -> tuple[int, int] | None:
    """The fewest tiles across and down that fit a room, turned where that is allowed; None where none do."""
    across, down = edge.size_mm
    ways = [room_mm] if turn in (Turn.UPRIGHT, Turn.HALF) else [room_mm, room_mm[::-1]]
    found = [(_count(across, width, overlap_mm), _count(down, height, overlap_mm)) for width, height in ways]
    columns, rows = min(found, key=lambda counts: counts[0] * counts[1])
    return None if columns * rows > MOST_TILES else (int(columns), int(rows))


def _count(length: float, room: float, overlap: float) -> float:
    if length <= room:
        return 1
    return math.ceil((length - overlap) / (room - overlap) - 1e-9) if room > 2 * overlap else math.inf


def tiles_of(
    outline: Outline, edge: Edge, room_mm: tuple[float, float], turn: Turn, overlap_mm: float
) -> tuple[Tile, ...]:
    """Windows on a piece, in reading order.

    Raises
    ------
    BadInput
        If more than `MOST_TILES` were needed, or one is enough.
    """
    counts = tile_counts(edge, room_mm, turn, overlap_mm)
    if counts is None:
        raise BadInput(f"this would take more than {MOST_TILES} pieces; make it smaller or take a larger sheet", "tile")
    if counts == (1, 1):
        raise BadInput("this fits on the sheet in one piece", "tile")
    width, height = room_mm
    if _count(edge.size_mm[0], width, overlap_mm) * _count(edge.size_mm[1], height, overlap_mm) != math.prod(counts):
        width, height = height, width
    across = _seams(outline, edge, 0, counts[0], width, overlap_mm)
    down = _seams(outline, edge, 1, counts[1], height, overlap_mm)
    return tuple(Tile(left, top, right, bottom) for top, bottom in down for left, right in across)


def _seams(
    outline: Outline, edge: Edge, axis: int, count: int, room: float, overlap: float
) -> list[tuple[float, float]]:
    """From and to of each tile along one axis, as shares of the drawing's side; ends are open (0 and 1)."""
    if count == 1:
        return [(0.0, 1.0)]
    side = outline.size_mm[axis]
    first, last = edge.shape.bounds[axis], edge.shape.bounds[axis + 2]
    at = np.linspace(max(first, 0.0), min(last, side), _COLUMNS)
    ink = ink_along(outline.shape, axis, at)
    spread = max(1, round(overlap / (at[1] - at[0])))
    cost = np.convolve(ink, np.ones(spread) / spread, mode="same")
    # The cheapest way to lay seams one after the other, each tile no longer than the room (dynamic programming). Where
    # several cost the same, tiles are kept of one length: their squares add the least.
    even = (last - first) / count
    best = np.where(at - first + overlap / 2 <= room, cost + _uneven(at - first, even), np.inf)
    came = []
    for _ in range(count - 2):
        length = at[None, :] - at[:, None]
        step = np.where((length > overlap) & (length + overlap <= room), _uneven(length, even), np.inf)
        total = best[:, None] + step
        came.append(total.argmin(axis=0))
        best = total.min(axis=0) + cost
    length = last - at
    best = best + np.where(length + overlap / 2 <= room, _uneven(length, even), np.inf)
    half, place = overlap / 2, int(best.argmin())
    if np.isfinite(best[place]):
        seams = [float(at[place])]
        for before in reversed(came):
            place = int(before[place])
            seams.insert(0, float(at[place]))
    else:
        # So tight that none of the places tried will do: equal tiles always fit.
        each = (last - first - overlap) / count
        seams = [float(first + half + each * number) for number in range(1, count)]
    starts = [0.0, *((seam - half) / side for seam in seams)]
    ends = [*((seam + half) / side for seam in seams), 1.0]
    return [(round(a, 6), round(b, 6)) for a, b in zip(starts, ends, strict=True)]


def _uneven(length: npt.NDArray[np.float64], even: float) -> npt.NDArray[np.float64]:
    return 1e-3 * (length - even) ** 2 / even


def ink_along(shape: BaseGeometry, axis: int, at: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """How much is drawn along each line across an axis, mm."""
    far = _FAR_MM
    ends = [[(x, -far), (x, far)] if axis == 0 else [(-far, x), (far, x)] for x in at.tolist()]
    found: npt.NDArray[np.float64] = shapely.length(shapely.intersection(shapely.linestrings(ends), shape))
    return found


def _window(outline: Outline, tile: Tile) -> Polygon:
    width, height = outline.size_mm
    return shapely.box(
        -_FAR_MM if tile.left == 0 else tile.left * width,
        -_FAR_MM if tile.top == 0 else tile.top * height,
        _FAR_MM if tile.right == 1 else tile.right * width,
        _FAR_MM if tile.bottom == 1 else tile.bottom * height,
    )


def _bent_window(outline: Outline, tile: Tile, bend: Bend) -> BaseGeometry:
    """A window on a drawing that was bent, in shares of its flat width; open sides reach as far as the bend goes."""
    across = np.concatenate([bend.flat(ring_points(part.exterior)) for part in parts(outline.shape)])[:, 0]
    first, width = float(across.min()), float(np.ptp(across))
    far_x, far_y = bend.radius_mm * _NEARLY_ROUND, bend.radius_mm * _NEARLY_ALL
    return bend.shape(
        shapely.box(
            bend.middle[0] - far_x if tile.left == 0 else first + tile.left * width,
            bend.middle[1] - far_y,
            bend.middle[0] + far_x if tile.right == 1 else first + tile.right * width,
            bend.middle[1] + far_y,
        )
    )


def tiled(outline: Outline, edge: Edge, tile: Tile, bend: Bend | None = None) -> tuple[Outline, Edge]:
    """The outline and edge that a window shows, in a frame of their own; the window is bent with what was bent.

    Raises
    ------
    BadInput
        If nothing is drawn in the window.
    """
    window = _window(outline, tile) if bend is None else _bent_window(outline, tile, bend)
    shown = shapely.intersection(outline.shape, window)
    if not parts(shown):
        raise BadInput("nothing is drawn in this part of the piece; remove it", "tile")
    # A window that ends on a straight side of the drawing cuts a line out of it as well, which is no part of it.
    left, top, _, _ = as_multi(parts(shown)).bounds

    def framed(shape: BaseGeometry) -> MultiPolygon:
        inside = shapely.intersection(shape, window)
        moved = shapely.transform(inside, lambda points: points - (left, top))
        return as_multi(clockwise_on_screen(part) for part in parts(moved))

    origin = outline.origin_px[0] + left / outline.mm_per_px, outline.origin_px[1] + top / outline.mm_per_px
    return (
        replace(outline, shape=framed(outline.shape), origin_px=origin, specks=(), pinholes=()),
        replace(
            edge,
            shape=framed(edge.shape),
            rings=tuple(framed(ring) for ring in edge.rings),
            bridges=tuple(framed(MultiPolygon(list(edge.bridges))).geoms),
            filled=tuple(framed(MultiPolygon(list(edge.filled))).geoms),
            closed=(),
        ),
    )
