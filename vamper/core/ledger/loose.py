"""Cut pieces on a plain ground: which design each is, and how far its cut lies from its print.

What differs from the ground is outlined between pixels. Each thing is held against every design's edge: same area, then
the turn and place that bring both outlines together best (first coarsely over all turns, then step by step to the
nearest points). That gives the cut. Where the print is known its picture is brought onto the piece by its colours (the
same turn and move for all of it); how far the outline then lies from where the edge should be is the miss, and what is
left between drawing and outline is the border.
"""

import contextlib
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import contourpy
import cv2
import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree
from shapely import affinity
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.ledger.planned import PlannedItem, PlannedSheet
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points, parts, placed
from vamper.core.values.pixels import filled, top_of
from vamper.core.values.units import MM_PER_INCH

Floats = npt.NDArray[np.float64]
Pixels = npt.NDArray[np.uint8]
Print = tuple[npt.NDArray[np.float32], Pixels, float, float]

_FULL = 255
_LEAST_AREA_MM2 = 20.0
_AREA_ALIKE = (0.75, 1.3)
_TURNS = 72
_OUTLINE_POINTS = 360
_STEPS = 40
# A thing whose outline lies farther from a design's than this, in the mean, is another thing.
_SAME_MM = 0.9
# Outlines that differ less than this are alike, and so are turns.
_ALIKE_MM, _SAME_TURN_DEG = 0.12, 6.0
_PRINT_PX_A_MM = 8.0
_GROUND_SIGMAS = 6.0
# How far from where its cut says the print of a piece may lie.
_NEAR_MM = 2.5


@dataclass(frozen=True, slots=True)
class Pose:
    """Where something lies: turned (clockwise, degrees) about its frame's origin, then moved, mm."""

    x_mm: float
    y_mm: float
    turn_deg: float

    def of(self, shape: BaseGeometry) -> BaseGeometry:
        return placed(shape, self.x_mm, self.y_mm, self.turn_deg)


@dataclass(frozen=True)
class LoosePiece:
    """One cut piece. `pose` is that of its print, the cut's where no print is known; `off_mm` is where the cut lies
    from the print, in the design's own frame, None where no print is known.
    """

    item: int
    pose: Pose
    off_mm: tuple[float, float] | None
    border_least_mm: float
    area_share: float
    outline: BaseGeometry


@dataclass(frozen=True)
class LoosePieces:
    """All that lies on the ground; `unknown` things fit no design."""

    pieces: tuple[LoosePiece, ...]
    unknown: tuple[BaseGeometry, ...]


def loose_pieces(picture: Pixels, ppi: float, sheet: PlannedSheet) -> LoosePieces:
    """Tell the pieces in a flat scan, shape (h, w, 3), by the designs of a sheet.

    Raises
    ------
    BadInput
        If nothing lies on the ground, or the ground is not plain.
    """
    px_a_mm, scan = ppi / MM_PER_INCH, _grey(picture)
    prints = {item.item: item_picture(sheet, item) for item in sheet.items}
    found, unknown = list[LoosePiece](), list[BaseGeometry]()
    for thing in _things(picture, px_a_mm):
        fits = [(found_fits, item) for item in sheet.items for found_fits in (_fits(thing, item),) if found_fits]
        if not fits:
            unknown.append(thing)
            continue
        # Designs of one shape are told apart by their print.
        least = min(poses[0][0] for poses, _ in fits)
        alike = [(item, pose) for poses, item in fits if poses[0][0] <= least + _ALIKE_MM for _, pose in poses]
        item, cut = _best_by_print(scan, px_a_mm, prints, alike)
        found.append(_read(scan, px_a_mm, prints[item.item], item, thing, cut))
    if not found and not unknown:
        raise BadInput("nothing lies on the ground in this picture; lay the pieces on a ground unlike them", "picture")
    return LoosePieces(tuple(found), tuple(unknown))


def _things(picture: Pixels, px_a_mm: float) -> list[Polygon]:
    """The outlines of all that differs from the ground, mm, between pixels."""
    lab = cv2.cvtColor(picture.astype(np.float32) / np.float32(_FULL), cv2.COLOR_RGB2LAB)
    rim = max(3, round(2 * px_a_mm))
    sides = (lab[:rim], lab[-rim:], lab[:, :rim], lab[:, -rim:])
    border = np.concatenate([side.reshape(-1, 3) for side in sides])
    ground = np.median(border, axis=0)
    lab -= ground.astype(np.float32)
    away = np.sqrt(np.einsum("hwc,hwc->hw", lab, lab))
    usual = float(np.median(np.sqrt(((border - ground) ** 2).sum(axis=-1))))
    least = max(6.0, _GROUND_SIGMAS * usual)
    if usual > 12:
        raise BadInput("the ground is not plain enough to tell pieces from it; take one of a single colour", "picture")
    soft = cv2.GaussianBlur(away, (0, 0), 0.7)
    mask = (soft > least).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=8)
    found = []
    for number in range(1, count):
        x, y, w, h, area = stats[number][:5]
        if area < _LEAST_AREA_MM2 * px_a_mm**2:
            continue
        x0, y0 = max(0, x - 3), max(0, y - 3)
        part = soft[y0 : y + h + 3, x0 : x + w + 3]
        own = labels[y0 : y + h + 3, x0 : x + w + 3]
        outline = _outline(part, own, number, least)
        if outline is not None:
            to_mm = (1 / px_a_mm, 0, 0, 1 / px_a_mm, x0 / px_a_mm, y0 / px_a_mm)
            found.append(affinity.affine_transform(outline, to_mm))
    return found


def _outline(away: npt.NDArray[np.float32], labels: npt.NDArray[np.int32], number: int, least: float) -> Polygon | None:
    """The outer rim of one thing in pixels: where it lies half way between the ground and its own rim."""
    inside = cv2.erode((labels == number).astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    band = inside & (cv2.erode(inside.astype(np.uint8), np.ones((5, 5), np.uint8)) == 0)
    rim = float(np.median(away[band])) if band.any() else 2 * least
    field = np.where((labels == number) | (labels == 0), away, 0.0)
    # What is inside belongs to it whatever its colour.
    whole = _filled_in(labels == number)
    field = np.where(cv2.erode(whole.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0, np.maximum(field, rim), field)
    lines = contourpy.contour_generator(z=np.pad(field, 1)).lines(rim / 2)
    rings = [Polygon(line - 0.5) for line in lines if len(line) > 8]
    return max(rings, key=lambda ring: ring.area, default=None)


def _filled_in(mask: npt.NDArray[np.bool_]) -> npt.NDArray[np.bool_]:
    outlines, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    whole = np.zeros(mask.shape, np.uint8)
    cv2.drawContours(whole, outlines, -1, 1, cv2.FILLED)
    return whole > 0


def _spread(ring: Any, count: int = _OUTLINE_POINTS) -> Points:
    """Points evenly along a ring."""
    along = np.linspace(0, ring.length, count, endpoint=False)
    return shapely.get_coordinates(shapely.line_interpolate_point(ring, along))


def _outer(shape: BaseGeometry) -> Polygon:
    return Polygon(max(parts(shape), key=lambda part: part.area).exterior)


def _fits(thing: Polygon, item: PlannedItem) -> list[tuple[float, Pose]]:
    """How well a thing is a design, mm in the mean, and where that lies then; in all turns that its outline allows."""
    edge = _outer(item.edge)
    low, high = _AREA_ALIKE
    if not low <= thing.area / max(edge.area, 1e-9) <= high:
        return []
    seen, own = _spread(thing.exterior), _spread(edge.exterior)
    tree = cKDTree(seen)
    middle = np.array(edge.centroid.coords[0])
    there = np.array(thing.centroid.coords[0])
    turns = np.radians(np.arange(_TURNS) * 360 / _TURNS)
    few = own[::6] - middle
    coarse = []
    for turn in turns:
        moved = few @ _rotation(turn).T + there
        coarse.append(float(tree.query(moved)[0].mean()))
    settled = list[tuple[float, Pose]]()
    # The likeliest turns, and where the outline is as good in any, turns all round.
    order = np.argsort(coarse)
    near = [int(one) for one in order if coarse[one] <= coarse[order[0]] + _ALIKE_MM][:: max(1, _TURNS // 24)]
    for start in dict.fromkeys([*(int(one) for one in order[:4]), *near]):
        away, pose = _settled(own, seen, tree, middle, there, float(turns[start]))
        if away <= _SAME_MM:
            settled.append((away, pose))
    settled.sort(key=lambda one: one[0])
    best = [one for one in settled if one[0] <= settled[0][0] + _ALIKE_MM]
    return [(away, pose) for number, (away, pose) in enumerate(best) if _is_new(pose, best[:number])]


def _is_new(pose: Pose, before: Sequence[tuple[float, Pose]]) -> bool:
    return all(abs((pose.turn_deg - one.turn_deg + 180) % 360 - 180) > _SAME_TURN_DEG for _, one in before)


def _rotation(turn: float) -> Floats:
    return np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])


def _settled(
    own: Points, seen: Points, tree: cKDTree, middle: Floats, there: Floats, turn: float
) -> tuple[float, Pose]:
    """The turn and move that bring an outline's points to the nearest ones seen, step by step (ICP)."""
    linear, offset = _rotation(turn), there - _rotation(turn) @ middle
    away = math.inf
    for _ in range(_STEPS):
        moved = own @ linear.T + offset
        distance, nearest = tree.query(moved)
        now = float(distance.mean())
        if away - now < 1e-5:
            away = now
            break
        away = now
        target = seen[nearest]
        a, b = own - own.mean(axis=0), target - target.mean(axis=0)
        u, _, vt = np.linalg.svd(a.T @ b)
        flip = np.diag([1.0, np.linalg.det(vt.T @ u.T)])
        linear = vt.T @ flip @ u.T
        offset = target.mean(axis=0) - linear @ own.mean(axis=0)
    return away, Pose(float(offset[0]), float(offset[1]), math.degrees(math.atan2(linear[1, 0], linear[0, 0])))


def _read(
    scan: npt.NDArray[np.float32], px_a_mm: float, meant: Print | None, item: PlannedItem, thing: Polygon, cut: Pose
) -> LoosePiece:
    """One piece, with where its print lies, if that is known."""
    pose = None if meant is None else _print_pose(scan, px_a_mm, meant, cut)
    edge = _outer(item.edge)
    share = float(thing.area / edge.area)
    lying = pose if pose is not None else cut
    border = _least_border(thing, lying.of(shapely.intersection(item.outline, item.edge)))
    off = None
    if pose is not None:
        middle = shapely.get_coordinates(edge.centroid)[0]
        at_cut = shapely.get_coordinates(cut.of(edge.centroid))[0]
        back = _rotation(-math.radians(pose.turn_deg))
        dx, dy = back @ (at_cut - (pose.x_mm, pose.y_mm)) - middle
        off = (float(dx), float(dy))
    return LoosePiece(item.item, lying, off, border, share, thing)


def _least_border(cut: Polygon, drawing: BaseGeometry) -> float:
    """The least distance of the cut from the drawing; how far it cuts into it, negative."""
    if cut.covers(drawing):
        return float(shapely.distance(cut.exterior, drawing))
    outside = shapely.get_coordinates(shapely.difference(drawing, cut))
    return -float(shapely.distance(shapely.points(outside), cut).max(initial=0.0))


def _print_pose(scan: npt.NDArray[np.float32], px_a_mm: float, meant: Print, cut: Pose) -> Pose:
    """Where the print of a piece lies, found by its colours near where its cut does."""
    grey, mask, left, top = meant
    turn = math.radians(cut.turn_deg)
    height, width = grey.shape
    reach = round(_NEAR_MM * _PRINT_PX_A_MM)
    near = _laid_under(scan, px_a_mm, cut, (left, top), grey.shape, reach)
    agreed = cv2.matchTemplate(near, grey, cv2.TM_CCOEFF_NORMED, mask=mask)
    x, y, _ = top_of(np.nan_to_num(agreed, nan=-1.0, posinf=-1.0, neginf=-1.0))
    found: Any = np.array([[1, 0, x - reach], [0, 1, y - reach]], dtype=np.float32)
    seen = near[reach : reach + height, reach : reach + width]
    criteria = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, 120, 1e-6)
    with contextlib.suppress(cv2.error):
        # Where it does not settle, the place found by whole steps stands.
        _, found = cv2.findTransformECC(_soft(grey), _soft(seen), found, cv2.MOTION_EUCLIDEAN, criteria, mask, 5)
    moved = np.asarray(found, dtype=float)
    # `found` takes pixels of the design's picture to those of the scan as it was laid over it.
    half = np.array([0.5, 0.5])
    turned = math.atan2(moved[1, 0], moved[0, 0])
    first = moved[:, :2] @ half + moved[:, 2] - half
    corner = np.array([left, top]) + first / _PRINT_PX_A_MM
    whole = turn + turned
    at = _rotation(turn) @ corner + (cut.x_mm, cut.y_mm) - _rotation(whole) @ (left, top)
    return Pose(float(at[0]), float(at[1]), math.degrees(whole))


def _best_by_print(
    scan: npt.NDArray[np.float32],
    px_a_mm: float,
    prints: Mapping[int, Print | None],
    alike: Sequence[tuple[PlannedItem, Pose]],
) -> tuple[PlannedItem, Pose]:
    """Of designs and turns that an outline allows alike, the one whose print is there."""
    if len(alike) == 1:
        return alike[0]
    agreed = []
    for item, pose in alike:
        meant = prints[item.item]
        if meant is None:
            agreed.append(0.0)
            continue
        grey, mask, left, top = meant
        seen = _laid_under(scan, px_a_mm, pose, (left, top), grey.shape, 0)
        own = mask > 0
        a, b = grey[own] - grey[own].mean(), seen[own] - seen[own].mean()
        agreed.append(float((a * b).sum() / max(math.sqrt(float((a**2).sum() * (b**2).sum())), 1e-6)))
    return alike[int(np.argmax(agreed))]


def _laid_under(
    scan: npt.NDArray[np.float32],
    px_a_mm: float,
    pose: Pose,
    corner: tuple[float, float],
    size: tuple[int, ...],
    reach: int,
) -> npt.NDArray[np.float32]:
    """What a scan shows under a design's picture that lies so, and so many pixels round it."""
    linear = _rotation(math.radians(pose.turn_deg)) * px_a_mm / _PRINT_PX_A_MM
    origin = _rotation(math.radians(pose.turn_deg)) @ corner + (pose.x_mm, pose.y_mm)
    half = np.array([0.5, 0.5])
    start = np.column_stack([linear, linear @ (half - reach) + origin * px_a_mm - half])
    under = cv2.warpAffine(
        scan,
        start,
        (size[1] + 2 * reach, size[0] + 2 * reach),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(under, dtype=np.float32)


def _soft(grey: Any) -> npt.NDArray[np.float32]:
    return np.asarray(cv2.GaussianBlur(grey, (0, 0), 2.0), dtype=np.float32)


def _grey(picture: Pixels) -> npt.NDArray[np.float32]:
    return np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), dtype=np.float32)


def item_picture(sheet: PlannedSheet, item: PlannedItem) -> tuple[npt.NDArray[np.float32], Pixels, float, float] | None:
    """A design as it is printed, in its own frame: grey values, which of them to look at, and its left and top (mm);
    None where the print is not known, or has nothing to hold on to.
    """
    piece = next((one for one in sheet.pieces if one.item == item.item), None)
    if piece is None or sheet.print_rgba is None:
        return None
    left, top, right, bottom = item.edge.bounds
    size = (math.ceil((right - left) * _PRINT_PX_A_MM), math.ceil((bottom - top) * _PRINT_PX_A_MM))
    turn = math.radians(piece.turn_deg)
    linear = _rotation(turn) * sheet.print_px_a_mm / _PRINT_PX_A_MM
    if sheet.mirror:
        linear = np.diag([-1.0, 1.0]) @ linear
    origin = _rotation(turn) @ (left, top) + (piece.x_mm, piece.y_mm)
    if sheet.mirror:
        origin[0] = sheet.width_mm - origin[0]
    half = np.array([0.5, 0.5])
    start = np.column_stack([linear, linear @ half + origin * sheet.print_px_a_mm - half])
    rgba = cv2.warpAffine(sheet.print_rgba, start, size, flags=cv2.INTER_AREA | cv2.WARP_INVERSE_MAP).astype(np.float32)
    share = rgba[..., 3:] / 255
    rgb = rgba[..., :3] * share + np.array(sheet.stock_rgb, np.float32) * (1 - share)
    grey = cv2.cvtColor(rgb.astype(np.float32), cv2.COLOR_RGB2GRAY)
    inside = filled(shapely.transform(item.edge, lambda points: (points - (left, top)) * _PRINT_PX_A_MM), grey.shape)
    mask = cv2.erode((inside > 0.9).astype(np.uint8), np.ones((7, 7), np.uint8))
    if float(grey[mask > 0].std() if mask.any() else 0.0) < 4.0:
        return None
    return np.asarray(grey, dtype=np.float32), np.asarray(mask * 255, dtype=np.uint8), left, top
