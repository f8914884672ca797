"""Candidate homographies of a sheet in a picture, from dark blobs of its marks' size and shape.

Dark things that look like a mark are gathered first. Any two of them may be two marks of the sheet: that guess is a
similarity, under which the other marks must be there as well; tilt is small, so they are not far from where it says.
A frame is guessed by its four corners.
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

from vamper.core.marks.spots import RIM_MM, spots_of
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points
from vamper.core.values.pixels import Cover, window_of
from vamper.core.vision.reference import MarkReference, SheetReference

Floats = npt.NDArray[np.float64]
Grey = npt.NDArray[Any]

# How much of the picture a sheet may take, as the longer sides compare.
_SMALLEST, _LARGEST = 0.3, 1.15
_LOOKS_LIKE = 1.1
_MOST_CANDIDATES = 60
# How far from where a guess puts it a mark may be, as a share of the sheet: tilt and lens.
_TILT = 0.055
LEAST_MARKS = 3
_TEMPLATE_PX_A_MM = 8.0
# A frame takes at least this share of the picture; rectangles nearer to each other than this are one.
_FRAME_SHARE, _SAME_PX = 0.06, 3.0

NO_MARKS_SEEN = (
    "this picture does not show a sheet with at least three of its marks; take it from straight above with the whole "
    "sheet in view, or show its corners"
)


@dataclass(frozen=True)
class MarkTemplate:
    """A window of the sheet, square, `half_mm` to each side, with a mark or the corner of a large one in its middle."""

    x_mm: float
    y_mm: float
    half_mm: float
    shape: BaseGeometry

    def cover(self, px_a_mm: float) -> Cover:
        return window_of(self.shape, self.x_mm, self.y_mm, self.half_mm, px_a_mm)


def project(to_px: Floats, points: Points) -> Points:
    """Points (n, 2) under a homography."""
    found = np.column_stack([points, np.ones(len(points))]) @ to_px.T
    return np.asarray(found[:, :2] / found[:, 2:])


def _shape_of(mark: MarkReference) -> BaseGeometry:
    shape: BaseGeometry = shapely.Polygon()
    for ring in mark.rings:
        shape = shapely.symmetric_difference(shape, shapely.Polygon(ring))
    return shape


def mark_templates(sheet: SheetReference) -> list[MarkTemplate]:
    """The templates of a sheet's marks: one each, of a large mark one a corner."""
    found = []
    for mark in sheet.marks:
        shape = _shape_of(mark)
        for spot in spots_of(shape.bounds):
            x, y, half = spot.x_mm, spot.y_mm, spot.half_mm
            seen = shapely.intersection(shape, shapely.box(x - half, y - half, x + half, y + half))
            found.append(MarkTemplate(x, y, half, seen if spot.is_corner else shape))
    return found


def sheet_candidates(small: Grey, sheet: SheetReference) -> Iterator[Floats]:
    """Homographies from the sheet to a picture, the most promising first.

    Parameters
    ----------
    small : ndarray of uint8, shape (h, w)
        The picture in grey, made small.
    sheet : SheetReference
        The sheet with its marks, mm.

    Yields
    ------
    ndarray, shape (3, 3)
        Takes mm of the sheet to pixels of `small`; each fitted to the blobs that it brings onto marks.
    """
    features = mark_templates(sheet)
    if not features:
        return
    longest = max(small.shape)
    least = longest * _SMALLEST / max(sheet.width_mm, sheet.height_mm)
    most = longest * _LARGEST / max(sheet.width_mm, sheet.height_mm)
    if len(sheet.marks) == 1 and len(features) > 1:
        yield from _frame_candidates(small, features)
        return
    candidates = _mark_candidates(small, features[0], least, most)
    meant = np.array([(one.x_mm, one.y_mm) for one in features])
    scored = [
        (score, guess)
        for guess in _similarities(candidates, meant, least, most)
        for score in (_matched(guess, candidates, meant, sheet),)
        if score[0] >= min(LEAST_MARKS, len(meant))
    ]
    scored.sort(key=lambda one: (-one[0][0], one[0][1]))
    seen = list[Floats]()
    for (_, _), guess in scored:
        fitted = _refitted(guess, candidates, meant, sheet)
        here = project(fitted, meant)
        if any(np.abs(here - other).max() < 6 for other in seen):
            continue
        seen.append(here)
        yield fitted
        if len(seen) >= 8:
            return


def _mark_candidates(small: Grey, feature: MarkTemplate, least: float, most: float) -> Points:
    """The middles of dark things that have a mark's shape, the likest first; shape (n, 2)."""
    size_mm = 2 * (feature.half_mm - RIM_MM)
    template = (feature.cover(_TEMPLATE_PX_A_MM) > 0.5).astype(np.uint8)
    wanted = _shape_descriptor(_largest_outline(template))
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
            unlike = float(np.abs(_shape_descriptor(contour) - wanted).sum())
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


def _shape_descriptor(outline: Any) -> Floats:
    """A descriptor of a shape that does not change with how it lies and how large it is: how much of its hull and of
    the smallest rectangle round it is filled, and how long that is beside its width; logarithms.
    """
    area = max(1.0, float(cv2.contourArea(outline)))
    hull = max(1.0, float(cv2.contourArea(cv2.convexHull(outline))))
    sides = sorted(max(1.0, float(side)) for side in cv2.minAreaRect(outline)[1])
    return np.asarray(np.log([area / hull, area / (sides[0] * sides[1]), sides[1] / sides[0]]))


def _frame_candidates(small: Grey, features: Sequence[MarkTemplate]) -> Iterator[Floats]:
    """Maps that lay a frame's corners on the corners of large dark rectangles, each way round."""
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
                yield homography(meant, np.roll(corners, turn, axis=0))


def _similarities(candidates: Points, meant: Points, least: float, most: float) -> Iterator[Floats]:
    """Similarities that put two marks, those farthest apart first, on two blobs."""
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


def _nearest(guess: Floats, candidates: Points, meant: Points, sheet: SheetReference) -> tuple[Points, Floats]:
    """The candidate nearest to each mark, and how far it is as a share of the sheet."""
    there = project(guess, meant)
    away = np.hypot(*np.moveaxis(there[:, None] - candidates[None], -1, 0))
    nearest = away.argmin(axis=1)
    long_px = np.hypot(*guess[:2, 0]) * max(sheet.width_mm, sheet.height_mm)
    return candidates[nearest], away[np.arange(len(meant)), nearest] / long_px


def _matched(guess: Floats, candidates: Points, meant: Points, sheet: SheetReference) -> tuple[int, float]:
    _, away = _nearest(guess, candidates, meant, sheet)
    near = away < _TILT
    return int(near.sum()), float(away[near].sum())


def _refitted(guess: Floats, candidates: Points, meant: Points, sheet: SheetReference) -> Floats:
    """The map fitted to all blobs that a candidate brings near a mark."""
    there, away = _nearest(guess, candidates, meant, sheet)
    near = away < _TILT
    return fit_map(meant[near], there[near])


def fit_map(meant: Points, there: Points) -> Floats:
    """A homography through four or more places, an affine map through three."""
    if len(meant) >= 4:
        return homography(meant, there)
    solved = np.linalg.lstsq(np.column_stack([meant, np.ones(len(meant))]), there, rcond=None)[0].T
    return np.vstack([solved, [0, 0, 1.0]])


def homography(meant: Points, there: Points) -> Floats:
    """The homography that takes places to others, by least squares on lengths brought to one (Hartley)."""
    found, _ = cv2.findHomography(meant.astype(np.float64), there.astype(np.float64), 0)
    if found is None:
        raise BadInput(NO_MARKS_SEEN, "picture")
    return np.asarray(found, dtype=float)
