"""A plan as a draft: the same sheets, drawn from pictures no finer than they will be looked at.

A print file for the printer holds each picture at its full resolution, and is mostly that. For the twin, and for how
much ink a sheet takes, the same writer writes the same page from coarser pictures, in a tenth of the time.
"""

from collections.abc import Callable
from dataclasses import replace

import numpy as np
from PIL import Image

from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.plan import Plan
from vamper.core.values.units import pixels_at

Pictures = Callable[[DesignedItem], Picture]
# What a scan shows.
DRAFT_PPI = 220.0


def drafted(plan: Plan, pictures: Pictures, ppi: float = DRAFT_PPI, sheet: int | None = None) -> tuple[Plan, Pictures]:
    """The plan with its designs on pictures of at most so many pixels an inch, and these; of one `sheet` (from 0), only
    the designs that lie on it.
    """
    sheets = plan.sheets if sheet is None else (plan.sheets[sheet],)
    laid = {number for one in sheets for number in one.counts}
    small = {item.number: _small(pictures(item), item, ppi) for item in plan.items if item.number in laid}
    items = tuple(_on(item, small[item.number]) if item.number in small else item for item in plan.items)
    return replace(plan, items=items), lambda item: small[item.number]


def _small(picture: Picture, item: DesignedItem, ppi: float) -> Picture:
    longest_mm = max(item.outline.picture_box_mm[2:])
    most = pixels_at(longest_mm, ppi)
    longest = max(picture.width_px, picture.height_px)
    if longest <= most:
        return picture
    size = (max(1, round(picture.width_px * most / longest)), max(1, round(picture.height_px * most / longest)))
    # Colours are weighed by their alpha, so that none of what is transparent mixes in.
    image = Image.fromarray(picture.rgba).convert("RGBa").resize(size, Image.Resampling.BOX).convert("RGBA")
    return replace(picture, rgba=np.asarray(image))


def _on(item: DesignedItem, picture: Picture) -> DesignedItem:
    """The design with its outline on another picture of the same drawing."""
    outline = item.outline
    across = outline.picture_px[0] / picture.width_px
    down = outline.picture_px[1] / picture.height_px
    x, y = outline.origin_px
    moved = replace(
        outline,
        mm_per_px=outline.mm_per_px * across,
        origin_px=(x / across, y / down),
        picture_px=(picture.width_px, picture.height_px),
    )
    return replace(item, outline=moved)
