"""Where the print of a cut piece lies: its design's own picture, brought onto what is seen near its cut.

Both are looked at in the one shade of colour in which the design's own colours differ most, so that pale yellow on
white is as plain as black. Only what surely lies inside the piece is compared: near its edge the ground shows as soon
as the cut is off. How alike both are in the end says whether the place can be told at all.
"""

import contextlib
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely

from vamper.core.values.pixels import filled, top_of
from vamper.core.vision.pose import Pose, rotation_matrix
from vamper.core.vision.reference import ItemReference, Pixels, SheetReference

Field = npt.NDArray[np.float32]

_PRINT_PX_A_MM = 8.0
# How far from where its cut says the print of a piece may lie.
_NEAR_MM = 2.5
# What is left out along the edge, widest first: as wide as still leaves something to hold on to.
_RIMS_MM = (1.2, 0.8, 0.4)
_BESIDE_MM = 0.25
# Values that differ by less than this hold nothing to go by.
_LEAST_STD = 4.0
# Less alike than this, in the end, and the place is a guess.
_SURE_FROM = 0.94
# Turns whose prints agree as nearly as this cannot be told apart.
_ALIKE = 0.02


@dataclass(frozen=True)
class PrintTemplate:
    """A design as it is printed, in its own frame: `values` in the shade of colour in which it is plainest, shape
    (h, w), and `inside`, where it lies inside its edge; `left` and `top` in mm. `shade` takes RGB to a value.
    """

    values: Field
    inside: Pixels
    left: float
    top: float
    shade: npt.NDArray[np.float32]

    @property
    def corner(self) -> tuple[float, float]:
        return self.left, self.top

    def within(self, rim_mm: float) -> Pixels:
        """Where to look: so far inside the edge, 255 there and 0 elsewhere."""
        size = 2 * round(rim_mm * _PRINT_PX_A_MM) + 1
        kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
        return np.asarray(cv2.erode(self.inside, kernel, borderType=cv2.BORDER_CONSTANT, borderValue=0))

    def holds(self, mask: Pixels) -> bool:
        """Whether there is anything to go by where a mask is."""
        seen = self.values[mask > 0]
        return bool(seen.size and float(seen.std()) >= _LEAST_STD)


@dataclass(frozen=True, slots=True)
class PrintShift:
    """Where a print lies; `alike` is the correlation of the print with the scan there, 1 at most."""

    pose: Pose
    alike: float

    @property
    def is_sure(self) -> bool:
        return self.alike >= _SURE_FROM


def print_pose(scan: Pixels, px_a_mm: float, meant: PrintTemplate, cut: Pose) -> PrintShift:
    """Where the print of a piece lies, found near its cut by normalised cross-correlation.

    Parameters
    ----------
    scan : ndarray of uint8, shape (h, w, 3)
        RGB, `px_a_mm` pixels a millimetre.
    meant : PrintTemplate
        The design as it is printed.
    cut : Pose
        Where its cut lies in the scan.

    Returns
    -------
    PrintShift
        The pose of the print in the scan, and the correlation there.
    """
    turn = math.radians(cut.turn_deg)
    height, width = meant.values.shape
    reach = round(_NEAR_MM * _PRINT_PX_A_MM)
    near = _laid_under(scan, px_a_mm, cut, meant, reach)
    mask = next((one for rim in _RIMS_MM if meant.holds(one := meant.within(rim))), meant.within(_RIMS_MM[-1]))
    agreed = cv2.matchTemplate(near, meant.values, cv2.TM_CCOEFF_NORMED, mask=mask)
    x, y, _ = top_of(np.nan_to_num(agreed, nan=-1.0, posinf=-1.0, neginf=-1.0))
    found: Any = np.array([[1, 0, x - reach], [0, 1, y - reach]], dtype=np.float32)
    off_mm = math.hypot(x - reach, y - reach) / _PRINT_PX_A_MM
    # So far inside that nothing but the piece is seen there, and where that leaves too little, as far as it may be.
    closer = meant.within(max(_RIMS_MM[-1], off_mm + _BESIDE_MM))
    mask = closer if meant.holds(closer) else mask
    seen = near[reach : reach + height, reach : reach + width]
    criteria = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, 120, 1e-6)
    alike = 0.0
    with contextlib.suppress(cv2.error):
        # Where it does not settle, the place found by whole steps stands.
        alike, found = cv2.findTransformECC(
            _soft(meant.values), _soft(seen), found, cv2.MOTION_EUCLIDEAN, criteria, mask, 5
        )
    moved = np.asarray(found, dtype=float)
    # `found` takes pixels of the design's picture to those of the scan as it was laid over it.
    half = np.array([0.5, 0.5])
    turned = math.atan2(moved[1, 0], moved[0, 0])
    first = moved[:, :2] @ half + moved[:, 2] - half
    corner = np.array(meant.corner) + first / _PRINT_PX_A_MM
    whole = turn + turned
    at = rotation_matrix(turn) @ corner + (cut.x_mm, cut.y_mm) - rotation_matrix(whole) @ meant.corner
    return PrintShift(Pose(float(at[0]), float(at[1]), math.degrees(whole)), float(alike))


@dataclass(frozen=True, slots=True)
class PrintMatch:
    """Which design a thing is and how its cut lies; `or_turned_deg` are turns from there in which it would look the
    same.
    """

    item: ItemReference
    cut: Pose
    or_turned_deg: tuple[float, ...] = ()


def best_match(
    scan: Pixels,
    px_a_mm: float,
    prints: Mapping[int, PrintTemplate | None],
    alike: Sequence[tuple[ItemReference, Pose]],
) -> PrintMatch:
    """Of the designs and poses that a contour allows alike, the one whose print agrees best with the scan.

    `alike` are the candidates; `prints` are the templates by the number of their design, None where none is known.
    """
    if len(alike) == 1:
        return PrintMatch(*alike[0])
    agreed = []
    for item, pose in alike:
        meant = prints[item.item]
        if meant is None:
            agreed.append(0.0)
            continue
        seen = _laid_under(scan, px_a_mm, pose, meant, 0)
        own = meant.within(_RIMS_MM[-1]) > 0
        a, b = meant.values[own] - meant.values[own].mean(), seen[own] - seen[own].mean()
        agreed.append(float((a * b).sum() / max(math.sqrt(float((a**2).sum() * (b**2).sum())), 1e-6)))
    best = int(np.argmax(agreed))
    item, cut = alike[best]
    turned = tuple(
        pose.turn_deg - cut.turn_deg
        for place, (other, pose) in enumerate(alike)
        if place != best and other is item and agreed[place] >= agreed[best] - _ALIKE
    )
    return PrintMatch(item, cut, turned)


def _laid_under(scan: Pixels, px_a_mm: float, pose: Pose, meant: PrintTemplate, reach: int) -> Field:
    """The part of a scan, in a design's own shade, that lies under its picture there, with so many pixels round it."""
    linear = rotation_matrix(math.radians(pose.turn_deg)) * px_a_mm / _PRINT_PX_A_MM
    origin = rotation_matrix(math.radians(pose.turn_deg)) @ meant.corner + (pose.x_mm, pose.y_mm)
    half = np.array([0.5, 0.5])
    start = np.column_stack([linear, linear @ (half - reach) + origin * px_a_mm - half])
    height, width = meant.values.shape
    under = cv2.warpAffine(
        scan,
        start,
        (width + 2 * reach, height + 2 * reach),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(under.astype(np.float32) @ meant.shade, dtype=np.float32)


def _soft(values: Any) -> Field:
    return np.asarray(cv2.GaussianBlur(values, (0, 0), 2.0), dtype=np.float32)


def most_telling_shade(rgb: Field) -> npt.NDArray[np.float32]:
    """The shade of colour in which some colours, shape (n, 3), differ most: lighter is greater."""
    spread = np.cov(rgb.T) if len(rgb) > 1 else np.eye(3)
    way = np.linalg.eigh(spread)[1][:, -1]
    return np.asarray(way if way.sum() >= 0 else -way, dtype=np.float32)


def item_picture(sheet: SheetReference, item: ItemReference) -> PrintTemplate | None:
    """A design as it is printed; None where the print is not known, or has nothing to hold on to."""
    piece = next((one for one in sheet.pieces if one.item == item.item), None)
    if piece is None or sheet.print_rgba is None:
        return None
    left, top, right, bottom = item.edge.bounds
    size = (math.ceil((right - left) * _PRINT_PX_A_MM), math.ceil((bottom - top) * _PRINT_PX_A_MM))
    turn = math.radians(piece.turn_deg)
    linear = rotation_matrix(turn) * sheet.print_px_a_mm / _PRINT_PX_A_MM
    if sheet.mirror:
        linear = np.diag([-1.0, 1.0]) @ linear
    origin = rotation_matrix(turn) @ (left, top) + (piece.x_mm, piece.y_mm)
    if sheet.mirror:
        origin[0] = sheet.width_mm - origin[0]
    half = np.array([0.5, 0.5])
    start = np.column_stack([linear, linear @ half + origin * sheet.print_px_a_mm - half])
    rgba = cv2.warpAffine(sheet.print_rgba, start, size, flags=cv2.INTER_AREA | cv2.WARP_INVERSE_MAP).astype(np.float32)
    share = rgba[..., 3:] / 255
    rgb = rgba[..., :3] * share + np.array(sheet.stock_rgb, np.float32) * (1 - share)
    inside = filled(shapely.transform(item.edge, lambda points: (points - (left, top)) * _PRINT_PX_A_MM), rgb.shape[:2])
    surely = np.asarray((inside > 0.9) * np.uint8(255), dtype=np.uint8)
    if not surely.any():
        return None
    shade = most_telling_shade(rgb[surely > 0].astype(np.float32))
    meant = PrintTemplate(np.asarray(rgb @ shade, dtype=np.float32), surely, left, top, shade)
    return meant if meant.holds(meant.within(_RIMS_MM[-1])) else None
