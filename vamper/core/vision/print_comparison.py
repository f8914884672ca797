"""A print held against its plan, piece by piece: what is missing, pale, off its place, or of another colour.

The straightened picture is brought to even light first: a smooth surface is fitted to what stays bare by the plan, and
divided out, so that the stock has its own colour again. Then every piece is looked at on its own. It may lie a little
off, so its best place near by is found; ink counts as there where the picture differs from the stock at least a third
as far as the plan does, and in the same direction of colour. Both are softened by the same width before, so that the
edge of a letter half a pixel aside is no missing ink.
"""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.values.colour import lab_of
from vamper.core.values.pixels import filled, top_of
from vamper.core.vision.rectify import RectifiedPicture
from vamper.core.vision.reference import PieceReference, SheetReference

Floats = npt.NDArray[np.float32]
Pixels = npt.NDArray[np.uint8]

PX_A_MM = 6.0
_SOFT_MM = 0.3
# Print that differs less than this from the stock cannot be missed.
_TELLS_DE = 9.0
_THERE_FROM = 0.34
# Less of a piece than this is no whole piece, whatever is gone of it.
WHOLE_FROM, PALE_UNDER = 0.85, 0.72
_NEAR_MM = 1.6
_FEWEST_PX = 25
_FREE_MM = 1.5


@dataclass(frozen=True, slots=True)
class PrintedPiece:
    """How a piece was printed; None where its print could not be told from the stock.

    Parameters
    ----------
    placement, item : int
        Its place on the sheet, and the design's number.
    ink_there : float or None
        The share of its inked area that has ink.
    strength : float or None
        How much of its contrast it has, 1 for all.
    off_mm : (float, float) or None
        How far it lies from its place.
    colour_de : float or None
        How far its colours are off, ΔE.
    """

    placement: int
    item: int
    ink_there: float | None
    strength: float | None
    off_mm: tuple[float, float] | None
    colour_de: float | None

    @property
    def is_missing(self) -> bool:
        return self.ink_there is not None and self.ink_there < WHOLE_FROM

    @property
    def is_pale(self) -> bool:
        return not self.is_missing and self.strength is not None and self.strength < PALE_UNDER


@dataclass(frozen=True)
class Comparison:
    """A print beside its plan; `colour_shift_de` is the usual ΔE of its print, None where there is none to see."""

    straightened: RectifiedPicture
    pieces: tuple[PrintedPiece, ...]
    colour_shift_de: float | None
    sheet_picture: Pixels

    @property
    def missing(self) -> tuple[PrintedPiece, ...]:
        return tuple(piece for piece in self.pieces if piece.is_missing)

    @property
    def pale(self) -> tuple[PrintedPiece, ...]:
        return tuple(piece for piece in self.pieces if piece.is_pale)


def compare_print(picture: Pixels, sheet: SheetReference, found: RectifiedPicture) -> Comparison:
    """Hold a picture of a printed sheet against its plan, shape (h, w, 3)."""
    straight = found.sheet_picture(picture, sheet, PX_A_MM)
    meant, inked = _meant(sheet, straight.shape[:2])
    even = _evened(straight, inked, sheet.stock_rgb)
    stock = _lab(np.full((1, 1, 3), sheet.stock_rgb, np.float32))[0, 0]
    seen_lab, meant_lab = _lab(_soft(even)) - stock, _lab(_soft(meant)) - stock
    pieces = tuple(_piece(piece, seen_lab, meant_lab, sheet.print_rgba is not None) for piece in sheet.pieces)
    shifts = [piece.colour_de for piece in pieces if piece.colour_de is not None and not piece.is_missing]
    return Comparison(found, pieces, float(np.median(shifts)) if shifts else None, straight)


def _meant(sheet: SheetReference, size: tuple[int, int]) -> tuple[Floats, npt.NDArray[np.bool_]]:
    """The sheet as it should look, and where it should be inked."""
    stock = np.array(sheet.stock_rgb, np.float32)
    if sheet.print_rgba is None:
        image = np.empty((*size, 3), np.float32)
        image[:] = stock
        inked = np.zeros(size, bool)
        for piece in sheet.pieces:
            inked |= filled(_px(piece.outline), size) > 0.05
        for mark in sheet.marks:
            inked |= filled(shapely.union_all([_px(shapely.Polygon(ring)) for ring in mark.rings]), size) > 0.05
        return image, inked
    page = cv2.resize(sheet.print_rgba.astype(np.float32), (size[1], size[0]), interpolation=cv2.INTER_AREA)
    share = page[..., 3:] / 255
    return np.asarray(page[..., :3] * share + stock * (1 - share), np.float32), page[..., 3] > 8


def _px(shape: BaseGeometry) -> BaseGeometry:
    return shapely.transform(shape, lambda points: points * PX_A_MM)


def _evened(straight: Pixels, inked: npt.NDArray[np.bool_], stock: tuple[int, int, int]) -> Floats:
    """The picture in even light: a surface of the second degree through what should be bare, divided out."""
    wide = 2 * round(_FREE_MM * PX_A_MM) + 1
    bare = cv2.dilate(inked.astype(np.uint8), np.ones((wide, wide), np.uint8)) == 0
    rows, columns = np.nonzero(bare[::4, ::4])
    image = straight.astype(np.float32)
    if len(rows) < 200:
        return image
    seen = image[::4, ::4][rows, columns]
    y, x = rows * 4 / image.shape[0] - 0.5, columns * 4 / image.shape[1] - 0.5
    basis = np.column_stack([np.ones_like(x), x, y, x * y, x**2, y**2]).astype(np.float32)
    keep = np.ones(len(basis), bool)
    for _ in range(3):
        surface, *_ = np.linalg.lstsq(basis[keep], seen[keep], rcond=None)
        left = np.abs(basis @ surface - seen).max(axis=1)
        keep = left < max(6.0, 2.5 * float(np.median(left)))
    grid_y, grid_x = np.mgrid[0 : image.shape[0], 0 : image.shape[1]].astype(np.float32)
    v, u = grid_y / image.shape[0] - 0.5, grid_x / image.shape[1] - 0.5
    light = np.stack([np.ones_like(u), u, v, u * v, u**2, v**2], axis=-1) @ surface.astype(np.float32)
    return np.asarray(np.clip(image * np.array(stock, np.float32) / np.maximum(light, 8.0), 0, 255), np.float32)


def _soft(image: Floats) -> Floats:
    return np.asarray(cv2.GaussianBlur(image, (0, 0), _SOFT_MM * PX_A_MM), np.float32)


def _lab(image: Floats) -> Floats:
    return np.asarray(lab_of(np.clip(np.round(image), 0, 255).astype(np.uint8)), np.float32)


def _piece(piece: PieceReference, seen: Floats, meant: Floats, known: bool) -> PrintedPiece:
    """One piece; `seen` and `meant` are how far each pixel's colour is from the stock's."""
    reach = round(_NEAR_MM * PX_A_MM)
    left, top, right, bottom = (side * PX_A_MM for side in piece.edge.bounds)
    y0, x0 = max(0, int(top)), max(0, int(left))
    y1, x1 = min(seen.shape[0], int(bottom) + 1), min(seen.shape[1], int(right) + 1)
    nothing = PrintedPiece(piece.placement, piece.item, None, None, None, None)
    if y1 - y0 < 3 or x1 - x0 < 3:
        return nothing
    local = shapely.transform(piece.edge, lambda points: points * PX_A_MM - (x0, y0))
    mine = filled(local, (y1 - y0, x1 - x0)) > 0.5
    if not known:
        return _by_outline(piece, seen, x0, y0, mine)
    wanted = meant[y0:y1, x0:x1]
    tells = mine & (np.sqrt((wanted**2).sum(axis=-1)) > _TELLS_DE)
    if int(tells.sum()) < _FEWEST_PX:
        return nothing
    window = np.pad(seen, ((reach, reach), (reach, reach), (0, 0)), mode="edge")[
        y0 : y1 + 2 * reach, x0 : x1 + 2 * reach
    ]
    weights = np.where(tells[..., None], wanted, 0).astype(np.float32)
    agreed = np.zeros((2 * reach + 1, 2 * reach + 1), np.float32)
    for one in range(3):
        look, hold = (np.ascontiguousarray(field[..., one]) for field in (window, weights))
        agreed += cv2.matchTemplate(look, hold, cv2.TM_CCORR)
    # Where nothing was printed all places agree alike; the nearest one is taken.
    away = np.hypot(*np.mgrid[-reach : reach + 1, -reach : reach + 1])
    x, y, _ = top_of(agreed - float(np.abs(agreed).max()) * 0.02 * (away / reach) ** 2)
    column, row = round(x), round(y)
    there = window[row : row + (y1 - y0), column : column + (x1 - x0)]
    size = np.maximum((wanted**2).sum(axis=-1), 1e-6)
    along = (there * wanted).sum(axis=-1) / size
    share = float((along[tells] > _THERE_FROM).mean())
    strength = float(np.median(along[tells]))
    apart = float(np.median(np.sqrt(((there - wanted) ** 2).sum(axis=-1))[tells]))
    off = ((x - reach) / PX_A_MM, (y - reach) / PX_A_MM)
    return PrintedPiece(piece.placement, piece.item, share, strength, off, apart)


def _by_outline(piece: PieceReference, seen: Floats, x0: int, y0: int, mine: npt.NDArray[np.bool_]) -> PrintedPiece:
    """Where the print itself is not known: how much of the drawing is not bare."""
    shape = shapely.transform(piece.outline, lambda points: points * PX_A_MM - (x0, y0))
    drawn = (filled(shape, mine.shape) > 0.9) & mine
    if int(drawn.sum()) < _FEWEST_PX:
        return PrintedPiece(piece.placement, piece.item, None, None, None, None)
    away = np.sqrt((seen[y0 : y0 + mine.shape[0], x0 : x0 + mine.shape[1]] ** 2).sum(axis=-1))
    share = float((away[drawn] > _TELLS_DE).mean())
    return PrintedPiece(piece.placement, piece.item, share, None, None, None)
