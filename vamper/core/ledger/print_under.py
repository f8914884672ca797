"""Where the print of a cut piece lies: its design's own picture, brought onto what is seen near its cut."""

import contextlib
import math
from collections.abc import Mapping, Sequence
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely

from vamper.core.ledger.fitting import Pose, rotation
from vamper.core.ledger.planned import Pixels, PlannedItem, PlannedSheet
from vamper.core.values.pixels import filled, top_of

Grey = npt.NDArray[np.float32]
Print = tuple[Grey, Pixels, float, float]

_PRINT_PX_A_MM = 8.0
# How far from where its cut says the print of a piece may lie.
_NEAR_MM = 2.5


def print_pose(scan: Grey, px_a_mm: float, meant: Print, cut: Pose) -> Pose:
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
    at = rotation(turn) @ corner + (cut.x_mm, cut.y_mm) - rotation(whole) @ (left, top)
    return Pose(float(at[0]), float(at[1]), math.degrees(whole))


def best_by_print(
    scan: Grey,
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
    scan: Grey,
    px_a_mm: float,
    pose: Pose,
    corner: tuple[float, float],
    size: tuple[int, ...],
    reach: int,
) -> Grey:
    """What a scan shows under a design's picture that lies so, and so many pixels round it."""
    linear = rotation(math.radians(pose.turn_deg)) * px_a_mm / _PRINT_PX_A_MM
    origin = rotation(math.radians(pose.turn_deg)) @ corner + (pose.x_mm, pose.y_mm)
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


def _soft(grey: Any) -> Grey:
    return np.asarray(cv2.GaussianBlur(grey, (0, 0), 2.0), dtype=np.float32)


def grey_of(picture: Pixels) -> Grey:
    return np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), dtype=np.float32)


def item_picture(sheet: PlannedSheet, item: PlannedItem) -> Print | None:
    """A design as it is printed, in its own frame: grey values, which of them to look at, and its left and top (mm);
    None where the print is not known, or has nothing to hold on to.
    """
    piece = next((one for one in sheet.pieces if one.item == item.item), None)
    if piece is None or sheet.print_rgba is None:
        return None
    left, top, right, bottom = item.edge.bounds
    size = (math.ceil((right - left) * _PRINT_PX_A_MM), math.ceil((bottom - top) * _PRINT_PX_A_MM))
    turn = math.radians(piece.turn_deg)
    linear = rotation(turn) * sheet.print_px_a_mm / _PRINT_PX_A_MM
    if sheet.mirror:
        linear = np.diag([-1.0, 1.0]) @ linear
    origin = rotation(turn) @ (left, top) + (piece.x_mm, piece.y_mm)
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
