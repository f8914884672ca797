"""What of a used sheet is gone, from a picture of it: everything that does not look like the bare stock.

The stock's own look is taken from the picture: its commonest colour, and a slow change of it across the sheet that is
fitted to what is near it, since no lamp lights a sheet evenly. What differs clearly is gone, with everything that it
encloses. What was lifted off a backing of the same colour cannot be seen so; that is to be shown by hand.
"""

import cv2
import numpy as np
import numpy.typing as npt

from vamper.core.values.findings import BadInput
from vamper.core.values.paper import Gone

Pixels = npt.NDArray[np.uint8]
Floats = npt.NDArray[np.float64]

# How far a sheet's own colour may wander, and how far what is gone is from it (CIE Lab).
_NEAR, _FAR = 14.0, 11.0
_FITS = 4
# Specks below this are dust; gaps below this are closed, since nothing is cut from them.
_SPECK_MM2, _CLOSED_MM = 3.0, 1.5
_ROUGH_MM = 0.3
# A rim of the picture that belongs to the table under the sheet, or to its shadow.
_RIM_MM = 1.0
MOST_GONE = 300
# At least so much of the sheet must look like one stock.
_LEAST_BARE = 0.04


def used_areas(sheet: Pixels, px_a_mm: float) -> tuple[Gone, ...]:
    """Rings round what is gone of a sheet, mm from its top left, the largest first; `sheet` is its straightened
    picture, shape (h, w, 3).

    Raises
    ------
    BadInput
        If no bare stock is to be seen.
    """
    lab = cv2.cvtColor(sheet.astype(np.float32) / 255, cv2.COLOR_RGB2LAB).astype(np.float64)
    far = _distance_from_bare(lab)
    mask = (far > _FAR).astype(np.uint8)
    rim = max(1, round(_RIM_MM * px_a_mm))
    mask[:rim] = mask[-rim:] = 0
    mask[:, :rim] = mask[:, -rim:] = 0
    mask = np.asarray(cv2.morphologyEx(mask, cv2.MORPH_OPEN, _disc(0.3 * px_a_mm)), dtype=np.uint8)
    mask = np.asarray(cv2.morphologyEx(mask, cv2.MORPH_CLOSE, _disc(_CLOSED_MM / 2 * px_a_mm)), dtype=np.uint8)
    rings, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    found = sorted(rings, key=cv2.contourArea, reverse=True)
    thin = [
        cv2.approxPolyDP(ring, _ROUGH_MM * px_a_mm, closed=True)[:, 0]
        for ring in found[:MOST_GONE]
        if cv2.contourArea(ring) >= _SPECK_MM2 * px_a_mm**2
    ]
    return tuple(
        tuple(round((side + 0.5) / px_a_mm, 2) for corner in ring.tolist() for side in corner)
        for ring in thin
        if len(ring) > 2
    )


def _distance_from_bare(lab: Floats) -> Floats:
    """How far each pixel is from what the bare stock would look like there."""
    height, width = lab.shape[:2]
    step = max(1, int(np.sqrt(height * width / 40_000)))
    few = lab[::step, ::step].reshape(-1, 3)
    y, x = np.mgrid[0:height:step, 0:width:step]
    terms = _terms(x.ravel() / width - 0.5, y.ravel() / height - 0.5)
    bare = np.broadcast_to(_commonest(few), few.shape)
    near = np.zeros(len(few), dtype=bool)
    surface = np.zeros((terms.shape[1], 3))
    for fit in range(_FITS):
        near = np.linalg.norm(few - bare, axis=1) < _NEAR
        if near.mean() < _LEAST_BARE:
            raise BadInput(
                "this picture shows no bare stock; take it in even light, with the whole sheet in view",
                "file",
            )
        # A flat colour first, then a slope, then a bend: what is far off must not pull the sheet along.
        used = (1, 3, 6, 6)[fit]
        surface = np.zeros((terms.shape[1], 3))
        surface[:used] = np.linalg.lstsq(terms[near][:, :used], few[near], rcond=None)[0]
        bare = terms @ surface
    everywhere_y, everywhere_x = np.mgrid[0:height, 0:width]
    whole = _terms(everywhere_x.ravel() / width - 0.5, everywhere_y.ravel() / height - 0.5) @ surface
    return np.asarray(np.linalg.norm(lab - whole.reshape(lab.shape), axis=2))


def _terms(x: Floats, y: Floats) -> Floats:
    return np.stack([np.ones_like(x), x, y, x * x, y * y, x * y], axis=1)


def _commonest(colours: Floats) -> Floats:
    """The middle of the fullest cell of a coarse grid of colours."""
    cells = np.floor(colours / 6).astype(np.int64)
    _, which, counts = np.unique(cells, axis=0, return_inverse=True, return_counts=True)
    return np.asarray(np.median(colours[which.ravel() == counts.argmax()], axis=0))


def _disc(radius_px: float) -> Pixels:
    size = 2 * max(1, round(radius_px)) + 1
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)), dtype=np.uint8)
