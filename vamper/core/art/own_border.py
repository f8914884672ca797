"""A border that is already drawn round a drawing: bought art often has a base, white and of uneven width.

It is one flat colour all round, wider than the cutter's usual miss, and lighter or flatter than what it encloses; a
thin dark contour of the drawing itself is none. Art that has such a border is cut just inside its rim.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

import numpy as np
import numpy.typing as npt

from vamper.core.art.outline import Outline
from vamper.core.values.areas import chosen, depth_in, labelled, opened, without_holes
from vamper.core.values.colour import Rgb, difference, lab_of_one
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Fix, FixTarget, Place, Severity, Station
from vamper.core.values.item import ItemSpec
from vamper.core.values.lengths import mm
from vamper.core.values.miss import STARTER_MISS_MM
from vamper.core.values.stock import Stock

# Below this share of alpha a pixel belongs to a soft rim.
SOLID_ALPHA = 0.95
FLAT_DE = 8.0
EVEN_SPREAD = 0.2
FLAT_RIM_SHARE = 0.95
# From this lightness on a rim is as good as white; so much lighter or busier is seen at once.
NEAR_WHITE_L = 88.0
LIGHTER_BY = 10.0
BUSY_DE = 15.0
# A border goes round a drawing that covers at least this share of the piece.
LEAST_DRAWING_SHARE = 0.3
# The narrowest place, but for stray pixels.
_LEAST_SHARE = 0.02
BASE_INSET_MM = 0.3
# The edge of art that is cut on the border it has.
ON_BASE: Mapping[str, Any] = MappingProxyType({"kind": "bare", "distance_mm": -BASE_INSET_MM, "rings": []})


@dataclass(frozen=True, slots=True)
class WhiteBase:
    """A border that is already drawn: its least width, its colour, and whether it can be nothing else."""

    least_mm: float
    rgb: Rgb
    sure: bool


def own_border(
    rgba: npt.NDArray[np.uint8],
    lab: npt.NDArray[np.float32],
    inked: npt.NDArray[np.bool_],
    step_mm: float,
) -> WhiteBase | None:
    """The flat border along the whole rim, whatever its width; None where the art has no such border."""
    whole = without_holes(inked)
    depth = depth_in(whole) * step_mm
    # Behind the soft pixel that every drawn rim has, however large a pixel is.
    rim = inked & (depth > max(0.2, 1.5 * step_mm)) & (depth <= max(0.5, 3.5 * step_mm))
    if rim.sum() < 20:
        return None
    red, green, blue = (int(value) for value in np.median(rgba[rim][:, :3], axis=0))
    # A glow is of one colour too, but no border.
    flat = (difference(lab, lab_of_one((red, green, blue))) <= FLAT_DE) & (rgba[:, :, 3] > SOLID_ALPHA * 255)
    if flat[rim].mean() < FLAT_RIM_SHARE:
        return None
    # What is not flat, or not joined to the rim by flat ground, is the drawing inside.
    ground = labelled(flat & whole)
    drawing = whole & ~chosen(ground, ground[rim]) & (depth > 0.5)
    # Soft seams between colours are no drawing of their own.
    drawing = opened(drawing)
    if drawing.sum() < 50:
        return None
    # From pixel to pixel on both sides: the rims themselves lie half a pixel nearer each.
    across = depth_in(~drawing, beyond=True) * step_mm + depth - step_mm
    widths = across[whole & (depth <= 1.5 * step_mm)]
    least = float(np.quantile(widths, _LEAST_SHARE))
    if least <= STARTER_MISS_MM:
        return None
    band, enclosed = lab_of_one((red, green, blue)), lab[drawing & inked]
    # A hole that is cut out of the drawing is nothing that a border goes round.
    share = float((drawing & inked).sum() / whole.sum())
    sure = _is_sure(float(band[0]), enclosed, least, share, float(np.std(widths)) / least)
    return None if sure is None else WhiteBase(least, (red, green, blue), sure)


def _is_sure(
    lightness: float, enclosed: npt.NDArray[np.float32], least_mm: float, share: float, spread: float
) -> bool | None:
    """Whether a flat rim is certainly a border, or only perhaps; None for the contour or the ground of a drawing.

    Makers' borders are light and enclose most of the piece. A dark rim is the drawing's own contour, unless it is as
    wide as a border has to be; a coloured one is a border where it is wide, and even or round something much darker or
    busier.
    """
    if enclosed.size == 0:
        return None
    inside, busy = float(enclosed[:, 0].mean()), float(enclosed.std(axis=0).max())
    if lightness >= NEAR_WHITE_L:
        return share >= LEAST_DRAWING_SHARE
    if lightness < inside - LIGHTER_BY:
        return False if least_mm >= 3 * STARTER_MISS_MM and share >= LEAST_DRAWING_SHARE else None
    if share < LEAST_DRAWING_SHARE:
        return None
    if least_mm < 3 * STARTER_MISS_MM:
        # A coloured body with bands on it has a narrow rim of its own colour, and so has a drawing of one colour.
        return None
    return spread < EVEN_SPREAD or lightness > inside + LIGHTER_BY or busy > BUSY_DE


def base_finding(outline: Outline, item: ItemSpec, number: int, base: WhiteBase | None, stock: Stock) -> Finding | None:
    """The finding on a border that is already drawn: that the cut follows it, or that it could."""
    if base is None:
        return None
    # What may be the drawing itself is not called a border because it is cut bare, nor what nothing is printed on.
    if not item.edge.has_border and not (base.sure and stock.printable):
        return None
    least = mm(base.least_mm, 1)
    left, top, right, bottom = outline.shape.bounds
    cut_on_it = Fix(
        "Cut on it",
        f"{mm(BASE_INSET_MM)} inside its rim",
        FixTarget.ITEM,
        {f"edge.{name}": value for name, value in ON_BASE.items()},
    )
    start = EdgeSpec()
    border = Fix(
        "Add a border",
        f"{mm(start.distance_mm)} round what is there",
        FixTarget.ITEM,
        {"edge.kind": start.kind, "edge.distance_mm": start.distance_mm},
        meant=True,
    )
    if not item.edge.has_border:
        severity, title = Severity.NOTE, "Cut on the border it has"
        text = f"A flat border, {least} wide at its narrowest, runs round the drawing, so none was added."
    elif base.sure:
        severity, title = Severity.LOOK, "It already has a border"
        text = f"A flat border, {least} wide at its narrowest, runs round the drawing. Cut just inside its rim rather "
        text += "than give it a second one."
    else:
        severity, title = Severity.NOTE, "Perhaps it already has a border"
        text = f"Its rim is of one colour all round, {least} wide at its narrowest. If that is a border, cut just "
        text += "inside it; if it is the drawing itself, leave it as it is."
    return Finding(
        "art.base",
        severity,
        title,
        text,
        {"width_mm": round(base.least_mm, 2)},
        station=Station.EDGE,
        item=number,
        places=(Place(left, top, right - left, bottom - top),),
        fixes=(cut_on_it,) if item.edge.has_border else (border,),
    )
