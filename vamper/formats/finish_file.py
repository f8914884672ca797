"""How art goes round a thing, and what shrinks, as JSON; bent art as an SVG in millimetres."""

import base64
import math
from typing import Any

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.art.bent import BentPicture
from vamper.core.finishing.round_things import Wrap
from vamper.core.finishing.shrink import printed, punch_mm, thickness
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.units import MM_PER_INCH
from vamper.formats.out.picture_files import write_png
from vamper.formats.svg_path import shape_path


def wrap_document(found: Wrap) -> dict[str, Any]:
    """How art goes round a cylinder or a taper."""
    thing = found.thing
    sheet = None
    if not thing.is_cylinder:
        sheet = {
            "outer_radius_mm": round(thing.outer_radius_mm, 4),
            "inner_radius_mm": round(thing.inner_radius_mm, 4),
            "angle_deg": round(math.degrees(thing.angle_rad), 4),
        }
    return {
        "kind": "cylinder" if thing.is_cylinder else "taper",
        "around_mm": round(found.around_mm, 4),
        "sheet": sheet,
        "sag_mm": round(found.sag_mm, 4),
        "flat_width_most_mm": None if found.flat_width_most_mm is None else round(found.flat_width_most_mm, 4),
        "pieces": [{"from_mm": round(one.from_mm, 3), "to_mm": round(one.to_mm, 3)} for one in found.pieces],
    }


def shrink_document(found: ShrinkSpec, wanted: Bar, hole_mm: float | None) -> dict[str, Any]:
    """How large to print and to punch what shrinks."""
    size = printed(found, wanted)
    return {
        "factor": {"x": round(found.x, 5), "y": round(found.y, 5)},
        "print_mm": {"width": round(size.width_mm, 3), "height": round(size.height_mm, 3)},
        "punch_mm": None if hole_mm is None else round(punch_mm(found, hole_mm), 3),
        "thickness_factor": round(thickness(found), 4),
        "ink_share": found.ink_share,
    }


def bent_svg(picture: BentPicture, edge: BaseGeometry) -> str:
    """Bent art with its bent edge; the drawing begins at the top left of both."""
    height, width = picture.rgba.shape[:2]
    box = (width * picture.mm_per_px, height * picture.mm_per_px)
    left, top, right, bottom = edge.bounds
    x0, y0 = min(left, picture.left_mm), min(top, picture.top_mm)
    wide, high = max(right, picture.left_mm + box[0]) - x0, max(bottom, picture.top_mm + box[1]) - y0
    data = base64.b64encode(write_png(np.ascontiguousarray(picture.rgba), MM_PER_INCH / picture.mm_per_px)).decode()
    moved = shapely.transform(edge, lambda points: points - (x0, y0))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.4f}mm" height="{high:.4f}mm" '
        f'viewBox="0 0 {wide:.4f} {high:.4f}">\n'
        f'<g id="art"><image x="{picture.left_mm - x0:.4f}" y="{picture.top_mm - y0:.4f}" width="{box[0]:.4f}" '
        f'height="{box[1]:.4f}" preserveAspectRatio="none" href="data:image/png;base64,{data}"/></g>\n'
        f'<g id="edge" fill="none" stroke="#0F6E84" stroke-width="0.2"><path d="{shape_path(moved)}"/></g>\n</svg>\n'
    )
