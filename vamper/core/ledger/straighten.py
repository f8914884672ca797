"""Find a sheet in a picture by its printed marks, and straighten it.

Dark things of a mark's size and shape are gathered first. Any two of them may be two marks of the sheet: that guess is
a similarity, under which the other marks must be there as well; tilt is small, so they are not far from where it says.
The best guess is refined by sliding each mark's own picture over the straightened sheet, and a map that takes tilt in
(a homography) is fitted to the places found. Marks alone look the same upside down; which way round the sheet lies is
told by its print.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.ledger.planned import PlannedMark, PlannedSheet
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points
from vamper.core.values.pixels import Cover, top_of, window_of
from vamper.core.values.units import MM_PER_INCH

Floats = npt.NDArray[np.float64]
Grey = npt.NDArray[Any]
Pixels = npt.NDArray[np.uint8]

# A picture is searched at no more than so many pixels.
_SEARCH_PX = 1800
# How much of the picture a sheet may take, as the longer sides compare.
_SMALLEST, _LARGEST = 0.3, 1.15
_LOOKS_LIKE = 1.1
_MOST_CANDIDATES = 60
# How far from where a guess puts it a mark may be, as a share of the sheet: tilt and lens.
_TILT = 0.055
_LEAST_MARKS = 3
# Marks are looked for once more within this on the straightened sheet, at this resolution.
_REFINE_MM, _REFINE_PX_A_MM = 3.0, 8.0
_AGREES = 0.45
_RIM_MM = 1.2
# A frame takes at least this share of the picture; rectangles nearer to each other than this are one.
_FRAME_SHARE, _SAME_PX = 0.06, 3.0
_LARGE_MM, _CORNER_MM = 40.0, 12.0

NO_MARKS_SEEN = (
    "no sheet with at least three of its marks is to be seen in this picture; take it from straight above, all of the "
    "sheet in sight, or help by its corners"
)


@dataclass(frozen=True)
class Straightened:
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
        return projected(self.to_px, np.array(points))

    def scale(self, sheet: PlannedSheet, ppi: float) -> tuple[float, float]:
        """Printed length / meant length across and down, in a flat scan of so many pixels an inch."""
        middle = (sheet.width_mm / 2, sheet.height_mm / 2)
        left, right = self._at([(0.0, middle[1]), (sheet.width_mm, middle[1])])
        top, bottom = self._at([(middle[0], 0.0), (middle[0], sheet.height_mm)])
        px_a_mm = ppi / MM_PER_INCH
        across = math.hypot(*(right - left)) / sheet.width_mm / px_a_mm
        down = math.hypot(*(bottom - top)) / sheet.height_mm / px_a_mm
        return across, down

    def sheet_picture(self, picture: Pixels, sheet: PlannedSheet, px_a_mm: float) -> Pixels:
        """The sheet alone, straight, at so many pixels a millimetre."""
        return warped(picture, self.to_px, sheet.width_mm, sheet.height_mm, px_a_mm)


def projected(to_px: Floats, points: Points) -> Points:
    """Points (n, 2) under a homography."""
    found = np.column_stack([points, np.ones(len(points))]) @ to_px.T
    return np.asarray(found[:, :2] / found[:, 2:])


def warped(picture: Pixels, to_px: Floats, width_mm: float, height_mm: float, px_a_mm: float) -> Pixels:
    """The part of a picture that a sheet lies on, straight."""
    # A pixel's middle is half a pixel from its corner, in either picture.
    into = np.array([[1 / px_a_mm, 0, 0.5 / px_a_mm], [0, 1 / px_a_mm, 0.5 / px_a_mm], [0, 0, 1]])
    back = np.array([[1, 0, -0.5], [0, 1, -0.5], [0, 0, 1.0]])
    size = (max(1, round(width_mm * px_a_mm)), max(1, round(height_mm * px_a_mm)))
    flags = cv2.INTER_AREA if _px_a_mm(to_px) > px_a_mm else cv2.INTER_LINEAR
    straight = cv2.warpPerspective(
        picture, back @ to_px @ into, size, flags=flags | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE
    )
    return np.asarray(straight, dtype=np.uint8)


def _px_a_mm(to_px: Floats) -> float:
    one, other = projected(to_px, np.array([(0.0, 0.0), (10.0, 0.0)]))
    return float(np.hypot(*(other - one))) / 10


def straighten(picture: Pixels, sheet: PlannedSheet) -> Straightened:
    """Find a sheet in a picture, shape (h, w, 3).

    Raises
    ------
    BadInput
        If fewer than three of its marks are in sight.
    """
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    small, factor = _shrunk(grey)
    best: Straightened | None = None
    for guess in _guesses(small, sheet):
        refined = _refined(grey, _larger(factor) @ guess, sheet)
        if refined is None:
            continue
        found = _right_way_round(picture, refined, sheet)
        if best is None or _rank(found) > _rank(best):
            best = found
        if best.marks_found == best.marks and (best.agrees is None or best.agrees > _AGREES):
            break
    if best is None or best.marks_found < min(_LEAST_MARKS, best.marks):
        raise BadInput(NO_MARKS_SEEN, "picture")
    return best


def by_corners(picture: Pixels, sheet: PlannedSheet, corners: Points) -> Straightened:
    """The same where somebody showed the sheet's corners (4, 2) in the picture, in pixels: top left, top right, bottom
    right, bottom left.
    """
    w, h = sheet.width_mm, sheet.height_mm
    to_px = _homography(np.array([(0, 0), (w, 0), (w, h), (0, h)], dtype=float), corners)
    refined = _refined(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), to_px, sheet)
    if refined is None:
        return Straightened(to_px, 0, len(_features(sheet)), None)
    return refined


def _rank(found: Straightened) -> tuple[int, float]:
    return found.marks_found, found.agrees if found.agrees is not None else 0.0


def _shrunk(grey: Grey) -> tuple[Grey, float]:
    factor = min(1.0, _SEARCH_PX / max(grey.shape))
    if factor == 1.0:
        return grey, 1.0
    size = (round(grey.shape[1] * factor), round(grey.shape[0] * factor))
    return np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA), dtype=np.uint8), factor


def _larger(factor: float) -> Floats:
    return np.diag([1 / factor, 1 / factor, 1.0])


@dataclass(frozen=True)
class _Feature:
    """What is looked for: the middle of a mark, or of a corner of a large one, and its picture."""

    x_mm: float
    y_mm: float
    half_mm: float
    shape: BaseGeometry

    def cover(self, px_a_mm: float) -> Cover:
        return window_of(self.shape, self.x_mm, self.y_mm, self.half_mm, px_a_mm)


def _shape_of(mark: PlannedMark) -> BaseGeometry:
    shape: BaseGeometry = shapely.Polygon()
    for ring in mark.rings:
        shape = shapely.symmetric_difference(shape, shapely.Polygon(ring))
    return shape


def _features(sheet: PlannedSheet) -> list[_Feature]:
    found = []
    for mark in sheet.marks:
        shape = _shape_of(mark)
        left, top, right, bottom = shape.bounds
        if max(right - left, bottom - top) <= _LARGE_MM:
            half = max(right - left, bottom - top) / 2 + _RIM_MM
            found.append(_Feature((left + right) / 2, (top + bottom) / 2, half, shape))
            continue
        for y in (top, bottom):
            for x in (left, right):
                half = _CORNER_MM / 2
                window = shapely.box(x - half, y - half, x + half, y + half)
                found.append(_Feature(x, y, half, shapely.intersection(shape, window)))
    return found


def _guesses(small: Grey, sheet: PlannedSheet) -> Iterator[Floats]:
    """Maps from the sheet (mm) to the shrunk picture, the most promising first."""
    features = _features(sheet)
    if not features:
        return
    longest = max(small.shape)
    least = longest * _SMALLEST / max(sheet.width_mm, sheet.height_mm)
    most = longest * _LARGEST / max(sheet.width_mm, sheet.height_mm)
    if len(sheet.marks) == 1 and len(features) > 1:
        yield from _frame_guesses(small, features)
        return
    candidates = _mark_like(small, features[0], least, most)
    meant = np.array([(one.x_mm, one.y_mm) for one in features])
    scored = [
        (score, guess)
        for guess in _by_pairs(candidates, meant, least, most)
        for score in (_matched(guess, candidates, meant, sheet),)
        if score[0] >= min(_LEAST_MARKS, len(meant))
    ]
    scored.sort(key=lambda one: (-one[0][0], one[0][1]))
    seen = list[Floats]()
    for (_, _), guess in scored:
        fitted = _fitted(guess, candidates, meant, sheet)
        here = projected(fitted, meant)
        if any(np.abs(here - other).max() < 6 for other in seen):
            continue
        seen.append(here)
        yield fitted
        if len(seen) >= 8:
            return


def _mark_like(small: Grey, feature: _Feature, least: float, most: float) -> Points:
    """The middles of dark things that have a mark's shape, the likest first; shape (n, 2)."""
    size_mm = 2 * (feature.half_mm - _RIM_MM)
    template = (feature.cover(_REFINE_PX_A_MM) > 0.5).astype(np.uint8)
    wanted = _looks(_largest_outline(template))
    found = []
    for window in (31, 61):
        dark = cv2.adaptiveThreshold(small, 255, cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY_INV, window, 12)
        # All of them: the table round a sheet may be one dark thing with everything inside it.
        contours, _ = cv2.findContours(dark, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
        for contour in contours:
            x, y, w, h = cv2.boundingRect(contour)
            side = max(w, h)
            if not 0.6 * size_mm * least <= side <= 1.6 * size_mm * most or min(w, h) < 0.45 * side:
                continue
            unlike = float(np.abs(_looks(contour) - wanted).sum())
            if unlike < _LOOKS_LIKE:
                found.append((unlike, x + w / 2, y + h / 2))
    found.sort()
    kept = list[tuple[float, float]]()
    for _, cx, cy in found:
        if all(math.hypot(cx - ox, cy - oy) > 4 for ox, oy in kept):
            kept.append((cx, cy))
        if len(kept) >= _MOST_CANDIDATES:
            break
    return np.array(kept).reshape(-1, 2)


def _largest_outline(mask: Grey) -> Any:
    outlines, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return max(outlines, key=cv2.contourArea)


def _looks(outline: Any) -> Floats:
    """What tells one shape from others however it lies and how large it is: how much of its hull and of the smallest
    rectangle round it is filled, and how long that is beside its width; logarithms.
    """
    area = max(1.0, float(cv2.contourArea(outline)))
    hull = max(1.0, float(cv2.contourArea(cv2.convexHull(outline))))
    sides = sorted(max(1.0, float(side)) for side in cv2.minAreaRect(outline)[1])
    return np.asarray(np.log([area / hull, area / (sides[0] * sides[1]), sides[1] / sides[0]]))


def _frame_guesses(small: Grey, features: Sequence[_Feature]) -> Iterator[Floats]:
    """Maps that lay a frame's corners on those of large dark rectangles, each way round."""
    # Clockwise, as the corners of a rectangle are told below.
    meant = np.array([(one.x_mm, one.y_mm) for one in (features[0], features[1], features[3], features[2])])
    seen = list[Points]()
    for window in (31, 61):
        dark = cv2.adaptiveThreshold(small, 255, cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY_INV, window, 12)
        contours, _ = cv2.findContours(dark, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
        hulls = [cv2.convexHull(contour) for contour in contours]
        large = [hull for hull in hulls if cv2.contourArea(hull) >= _FRAME_SHARE * small.size]
        for hull in sorted(large, key=cv2.contourArea, reverse=True):
            about = cv2.approxPolyDP(hull, 0.02 * cv2.arcLength(hull, True), True).reshape(-1, 2).astype(float)
            if len(about) != 4:
                continue
            middle = about.mean(axis=0)
            corners = about[np.argsort(np.arctan2(*(about - middle).T[::-1]))]
            if any(np.abs(corners - other).max() < _SAME_PX for other in seen):
                continue
            seen.append(corners)
            for turn in range(4):
                yield _homography(meant, np.roll(corners, turn, axis=0))


def _by_pairs(candidates: Points, meant: Points, least: float, most: float) -> Iterator[Floats]:
    """Similarities that put two marks, the farthest apart, on two candidates."""
    if len(candidates) < 2 or len(meant) < 2:
        return
    apart = np.hypot(*np.moveaxis(meant[:, None] - meant[None], -1, 0))
    pairs = [tuple(divmod(int(one), len(meant))) for one in np.argsort(-apart, axis=None)[: 2 * len(meant)]]
    for a, b in dict.fromkeys(tuple(sorted(pair)) for pair in pairs if pair[0] != pair[1]):
        along = complex(*(meant[b] - meant[a]))
        for i in range(len(candidates)):
            for j in range(len(candidates)):
                if i == j:
                    continue
                there = complex(*(candidates[j] - candidates[i]))
                turn = there / along
                if least <= abs(turn) <= most:
                    linear = np.array([[turn.real, -turn.imag], [turn.imag, turn.real]])
                    offset = candidates[i] - linear @ meant[a]
                    yield np.vstack([np.column_stack([linear, offset]), [0, 0, 1.0]])


def _nearest(guess: Floats, candidates: Points, meant: Points, sheet: PlannedSheet) -> tuple[Points, Floats]:
    """The candidate nearest to each mark, and how far it is as a share of the sheet."""
    there = projected(guess, meant)
    away = np.hypot(*np.moveaxis(there[:, None] - candidates[None], -1, 0))
    nearest = away.argmin(axis=1)
    long_px = np.hypot(*guess[:2, 0]) * max(sheet.width_mm, sheet.height_mm)
    return candidates[nearest], away[np.arange(len(meant)), nearest] / long_px


def _matched(guess: Floats, candidates: Points, meant: Points, sheet: PlannedSheet) -> tuple[int, float]:
    _, away = _nearest(guess, candidates, meant, sheet)
    near = away < _TILT
    return int(near.sum()), float(away[near].sum())


def _fitted(guess: Floats, candidates: Points, meant: Points, sheet: PlannedSheet) -> Floats:
    """The map through all candidates that a guess matched."""
    there, away = _nearest(guess, candidates, meant, sheet)
    near = away < _TILT
    return _map_through(meant[near], there[near])


def _map_through(meant: Points, there: Points) -> Floats:
    """A homography through four or more places, an affine map through three."""
    if len(meant) >= 4:
        return _homography(meant, there)
    solved = np.linalg.lstsq(np.column_stack([meant, np.ones(len(meant))]), there, rcond=None)[0].T
    return np.vstack([solved, [0, 0, 1.0]])


def _homography(meant: Points, there: Points) -> Floats:
    """The homography that takes places to others, by least squares on lengths brought to one (Hartley)."""
    found, _ = cv2.findHomography(meant.astype(np.float64), there.astype(np.float64), 0)
    if found is None:
        raise BadInput(NO_MARKS_SEEN, "picture")
    return np.asarray(found, dtype=float)


def _refined(grey: Grey, guess: Floats, sheet: PlannedSheet) -> Straightened | None:
    """A guess with each mark found anew on the sheet that it straightens."""
    features = _features(sheet)
    to_px = guess
    marks = 0
    for reach in (_REFINE_MM, _REFINE_MM / 3):
        found = [_seen(grey, to_px, one, reach) for one in features]
        kept = [(one, at) for one, (at, score) in zip(features, found, strict=True) if score > _AGREES]
        if len(kept) < min(_LEAST_MARKS, len(features)):
            return None
        meant = np.array([(one.x_mm, one.y_mm) for one, _ in kept])
        there = projected(to_px, np.array([at for _, at in kept]))
        to_px = _map_through(meant, there)
        marks = len(kept)
    return Straightened(to_px, marks, len(features), None)


def _seen(grey: Grey, to_px: Floats, one: _Feature, reach_mm: float) -> tuple[tuple[float, float], float]:
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


def _right_way_round(picture: Pixels, found: Straightened, sheet: PlannedSheet) -> Straightened:
    """The same, or the same turned by half, whichever way its print agrees with the plan."""
    w, h = sheet.width_mm, sheet.height_mm
    over = np.array([[-1, 0, w], [0, -1, h], [0, 0, 1.0]])
    if sheet.print_rgba is None:
        return found
    ways = [found, Straightened(found.to_px @ over, found.marks_found, found.marks, None)]
    scores = [_agreement(picture, way, sheet) for way in ways]
    best = int(np.argmax(scores))
    return Straightened(ways[best].to_px, found.marks_found, found.marks, scores[best])


def _agreement(picture: Pixels, way: Straightened, sheet: PlannedSheet) -> float:
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
