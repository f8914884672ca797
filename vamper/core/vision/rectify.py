"""Find a sheet in a picture by its printed marks, and straighten it.

The best guess (see `mark_guesses`) is refined by sliding each mark's own picture over the straightened sheet, and a map
that takes tilt in (a homography) is fitted to the places found. Marks alone look the same upside down; which way round
the sheet lies is told by its print.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points
from vamper.core.values.lengths import size_mm
from vamper.core.values.pixels import top_of
from vamper.core.values.units import MM_PER_INCH
from vamper.core.vision.print_registration import register_print
from vamper.core.vision.reference import SheetReference
from vamper.core.vision.sheet_candidates import (
    LEAST_MARKS,
    NO_MARKS_SEEN,
    MarkTemplate,
    fit_map,
    homography,
    mark_templates,
    project,
    sheet_candidates,
)

Floats = npt.NDArray[np.float64]
Grey = npt.NDArray[Any]
Pixels = npt.NDArray[np.uint8]

# A picture is searched at no more than so many pixels.
_SEARCH_PX = 1800
# Marks are looked for once more within this on the straightened sheet, at this resolution.
_REFINE_MM, _REFINE_PX_A_MM = 3.0, 8.0
_AGREES = 0.45
# A print that agrees so well lies right.
_AGREES_WELL = 0.9
# No straightened picture has more pixels.
MOST_PX = 18_000_000
# A corner may be cut off by the picture's rim, by so much of its side; two sides meet with so much of a turn between
# them, px², or they are one.
_OUTSIDE, _LEAST_TURN_PX2 = 0.5, 16.0


@dataclass(frozen=True)
class RectifiedPicture:
    """Where a sheet lies in a picture: `to_px` (3, 3) takes places of the sheet (mm) to pixels. `marks_found` of
    `marks` were seen, `agrees` says how well print and plan agree (−1 to 1), None where nothing is known of the print.
    """

    to_px: Floats
    marks_found: int
    marks: int
    agrees: float | None

    @property
    def turn_deg(self) -> float:
        """How the sheet lies in the picture, clockwise."""
        middle, right = self._at([(0.0, 0.0), (100.0, 0.0)])
        return math.degrees(math.atan2(right[1] - middle[1], right[0] - middle[0]))

    def _at(self, points: Sequence[tuple[float, float]]) -> Points:
        return project(self.to_px, np.array(points))

    def scale(self, sheet: SheetReference, ppi: float) -> tuple[float, float]:
        """Printed length / meant length across and down, in a flat scan of so many pixels an inch."""
        middle = (sheet.width_mm / 2, sheet.height_mm / 2)
        left, right = self._at([(0.0, middle[1]), (sheet.width_mm, middle[1])])
        top, bottom = self._at([(middle[0], 0.0), (middle[0], sheet.height_mm)])
        px_a_mm = ppi / MM_PER_INCH
        across = math.hypot(*(right - left)) / sheet.width_mm / px_a_mm
        down = math.hypot(*(bottom - top)) / sheet.height_mm / px_a_mm
        return across, down

    def sheet_picture(self, picture: Pixels, sheet: SheetReference, px_a_mm: float) -> Pixels:
        """The sheet alone, straight, at so many pixels a millimetre.

        Raises
        ------
        BadInput
            If that were more pixels than can be worked with.
        """
        if sheet.width_mm * sheet.height_mm * px_a_mm**2 > MOST_PX:
            most = math.sqrt(MOST_PX) / px_a_mm
            raise BadInput(
                f"a sheet of {size_mm(sheet.width_mm, sheet.height_mm, 0)} is too large to be held against one "
                f"picture; up to about {size_mm(most, most, 0)} is not",
                "picture",
            )
        return warped(picture, self.to_px, sheet.width_mm, sheet.height_mm, px_a_mm)


def warped(picture: Pixels, to_px: Floats, width_mm: float, height_mm: float, px_a_mm: float) -> Pixels:
    """The part of a picture that a sheet lies on, straight."""
    # A pixel's middle is half a pixel from its corner, in either picture.
    into = np.array([[1 / px_a_mm, 0, 0.5 / px_a_mm], [0, 1 / px_a_mm, 0.5 / px_a_mm], [0, 0, 1]])
    back = np.array([[1, 0, -0.5], [0, 1, -0.5], [0, 0, 1.0]])
    size = (max(1, round(width_mm * px_a_mm)), max(1, round(height_mm * px_a_mm)))
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    straight = cv2.warpPerspective(picture, back @ to_px @ into, size, flags=flags, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(straight, dtype=np.uint8)


def rectify(picture: Pixels, sheet: SheetReference) -> RectifiedPicture:
    """Find a sheet in a picture by its marks, and by its print where that is known.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w, 3)
        A photo or scan, RGB.
    sheet : SheetReference
        The sheet as it was planned.

    Raises
    ------
    BadInput
        If fewer than three of its marks are in sight.
    """
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    small, factor = _shrunk(grey)
    best: RectifiedPicture | None = None
    for guess in sheet_candidates(small, sheet):
        refined = _refined(grey, _larger(factor) @ guess, sheet)
        if refined is None:
            continue
        found = _right_way_round(picture, refined, sheet)
        if best is None or _rank(found) > _rank(best):
            best = found
        if best.marks_found == best.marks and (best.agrees is None or best.agrees > _AGREES):
            break
    if best is None or best.marks_found < min(LEAST_MARKS, best.marks):
        raise BadInput(NO_MARKS_SEEN, "picture")
    return _leant(picture, grey, best, sheet)


def _leant(picture: Pixels, grey: Grey, found: RectifiedPicture, sheet: SheetReference) -> RectifiedPicture:
    """The same where the sheet was seen from aside, which three marks cannot tell: by its print, and with the marks
    that are seen from there.
    """
    if found.agrees is None or (found.marks_found == found.marks > LEAST_MARKS and found.agrees > _AGREES_WELL):
        return found

    def straight(to_px: Floats, px_a_mm: float) -> Pixels:
        return warped(picture, to_px, sheet.width_mm, sheet.height_mm, px_a_mm)

    to_px = register_print(sheet, found.to_px, straight)
    candidates = [replace(found, to_px=to_px)]
    refined = _refined(grey, to_px, sheet)
    if refined is not None and refined.marks_found > LEAST_MARKS:
        candidates.append(refined)
    tried = [replace(one, agrees=_agreement(picture, one, sheet)) for one in candidates]
    return max((found, *tried), key=lambda one: one.agrees or 0.0)


def rectify_by_corners(picture: Pixels, sheet: SheetReference, corners: Points) -> RectifiedPicture:
    """The same where somebody showed the sheet's corners (4, 2) in the picture, in pixels: top left, top right, bottom
    right, bottom left.

    Raises
    ------
    BadInput
        If they lie far outside the picture, cross, or go round the other way.
    """
    _check_corners(picture, corners)
    w, h = sheet.width_mm, sheet.height_mm
    to_px = homography(np.array([(0, 0), (w, 0), (w, h), (0, h)], dtype=float), corners)
    if not sheet.marks:
        return RectifiedPicture(to_px, 0, 0, None)
    refined = _refined(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), to_px, sheet)
    if refined is None:
        return RectifiedPicture(to_px, 0, len(mark_templates(sheet)), None)
    return refined


def _check_corners(picture: Pixels, corners: Points) -> None:
    """Refuse corners between which no sheet can lie: a sheet is seen from its face, and bulges nowhere inwards."""
    h, w = picture.shape[:2]
    shares = corners / (w, h)
    if not np.isfinite(shares).all() or shares.min() < -_OUTSIDE or shares.max() > 1 + _OUTSIDE:
        raise BadInput("a corner lies far outside the picture; show all four in it once more", "corners")
    sides = np.roll(corners, -1, axis=0) - corners
    turns = sides[:, 0] * np.roll(sides[:, 1], -1) - sides[:, 1] * np.roll(sides[:, 0], -1)
    if turns.min() <= _LEAST_TURN_PX2:
        raise BadInput(
            "no sheet has these corners; show them in order: top left, top right, bottom right, bottom left", "corners"
        )


def _rank(found: RectifiedPicture) -> tuple[int, float]:
    return found.marks_found, found.agrees if found.agrees is not None else 0.0


def _shrunk(grey: Grey) -> tuple[Grey, float]:
    factor = min(1.0, _SEARCH_PX / max(grey.shape))
    if factor == 1.0:
        return grey, 1.0
    size = (round(grey.shape[1] * factor), round(grey.shape[0] * factor))
    return np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), dtype=np.uint8), factor


def _larger(factor: float) -> Floats:
    return np.diag([1 / factor, 1 / factor, 1.0])


def _refined(grey: Grey, guess: Floats, sheet: SheetReference) -> RectifiedPicture | None:
    """A guess with each mark found anew on the sheet that it straightens."""
    features = mark_templates(sheet)
    to_px = guess
    marks = 0
    for reach in (_REFINE_MM, _REFINE_MM / 3):
        found = [_seen(grey, to_px, one, reach) for one in features]
        kept = [(one, at) for one, (at, score) in zip(features, found, strict=True) if score > _AGREES]
        if len(kept) < min(LEAST_MARKS, len(features)):
            return None
        meant = np.array([(one.x_mm, one.y_mm) for one, _ in kept])
        there = project(to_px, np.array([at for _, at in kept]))
        to_px = fit_map(meant, there)
        marks = len(kept)
    return RectifiedPicture(to_px, marks, len(features), None)


def _seen(grey: Grey, to_px: Floats, one: MarkTemplate, reach_mm: float) -> tuple[tuple[float, float], float]:
    """Where a mark is seen on the sheet that a map straightens, mm, and how well it agrees with its picture."""
    half = one.half_mm + reach_mm
    moved = to_px @ np.array([[1, 0, one.x_mm - half], [0, 1, one.y_mm - half], [0, 0, 1.0]])
    window = warped(grey, moved, 2 * half, 2 * half, _REFINE_PX_A_MM).astype(np.float32)
    cover = cv2.GaussianBlur(one.cover(_REFINE_PX_A_MM), (0, 0), 0.8)
    agreed = cv2.matchTemplate(255 - window, cover, cv2.TM_CCOEFF_NORMED)
    x, y, score = top_of(agreed)
    side = one.half_mm - half
    at = (one.x_mm + side + x / _REFINE_PX_A_MM, one.y_mm + side + y / _REFINE_PX_A_MM)
    return at, score


def _right_way_round(picture: Pixels, found: RectifiedPicture, sheet: SheetReference) -> RectifiedPicture:
    """The same, or the same turned by half, whichever way its print agrees with the plan."""
    w, h = sheet.width_mm, sheet.height_mm
    over = np.array([[-1, 0, w], [0, -1, h], [0, 0, 1.0]])
    if sheet.print_rgba is None:
        return found
    ways = [found, RectifiedPicture(found.to_px @ over, found.marks_found, found.marks, None)]
    scores = [_agreement(picture, way, sheet) for way in ways]
    best = int(np.argmax(scores))
    return RectifiedPicture(ways[best].to_px, found.marks_found, found.marks, scores[best])


def _agreement(picture: Pixels, way: RectifiedPicture, sheet: SheetReference) -> float:
    """How alike print and plan are, coarsely: the correlation of their colours, −1 to 1."""
    px = 1.5
    assert sheet.print_rgba is not None
    seen = cv2.GaussianBlur(way.sheet_picture(picture, sheet, px).astype(np.float32), (0, 0), 1.5)
    size = (seen.shape[1], seen.shape[0])
    plan = cv2.resize(sheet.print_rgba.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    share = plan[..., 3:] / 255
    meant = cv2.GaussianBlur(plan[..., :3] * share + np.array(sheet.stock_rgb, np.float32) * (1 - share), (0, 0), 1.5)
    a, b = seen - seen.mean(axis=(0, 1)), meant - meant.mean(axis=(0, 1))
    return float((a * b).sum() / max(math.sqrt(float((a**2).sum() * (b**2).sum())), 1e-9))
