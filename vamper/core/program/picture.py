"""Where the picture for a machine's own program lies on the sheet, and how large it is.

It is as large as what lies on the sheet and not a pixel larger, so that it is taken where a whole sheet would be
refused, and a program that trims what is empty comes to the same size. Sizes are whole pixels at 300 an inch.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.cutting.drops import DROP_MM, drop_outline, drop_slit
from vamper.core.plan import Plan
from vamper.core.tell_tale import tell_tale_of
from vamper.core.values.geometry import as_multi, mirrored, parts
from vamper.core.values.program import PICTURE_PPI
from vamper.core.values.units import MM_PER_INCH

# A slit is a hole in the picture, since a program finds outlines only.
_SLIT_MM, _TIP_MM = 0.6, 0.25


@dataclass(frozen=True)
class PictureFrame:
    """Where a picture lies on the sheet as it is printed: its left and top, mm, and its size in pixels."""

    left_mm: float
    top_mm: float
    width_px: int
    height_px: int

    @cached_property
    def size_mm(self) -> tuple[float, float]:
        """The size to type in."""
        return self.width_px * MM_PER_INCH / PICTURE_PPI, self.height_px * MM_PER_INCH / PICTURE_PPI

    def to_px(self, shape: BaseGeometry) -> BaseGeometry:
        """A shape on the sheet, in pixels of the picture."""
        return shapely.transform(
            shape, lambda points: (points - (self.left_mm, self.top_mm)) * PICTURE_PPI / MM_PER_INCH
        )


def frame_of(shapes: Sequence[BaseGeometry]) -> PictureFrame:
    """The frame round shapes on a sheet."""
    left, top, right, bottom = shapely.total_bounds(np.array(shapes, dtype=object)).tolist()
    width, height = (math.ceil(round(side * PICTURE_PPI / MM_PER_INCH, 6)) for side in (right - left, bottom - top))
    return PictureFrame(left, top, width, height)


def picture_frame(plan: Plan, sheet: int) -> PictureFrame:
    """The frame of the picture of one sheet (from 0)."""
    drop = riding_drop(plan, sheet)
    return frame_of([*printed_edges(plan, sheet), *([] if drop is None else [drop])])


def printed_edges(plan: Plan, sheet: int) -> list[BaseGeometry]:
    """The edges of a sheet (from 0) as they are printed."""
    edges = plan.sheets[sheet].edges
    return [mirrored(edge, plan.job.paper.width_mm) for edge in edges] if plan.mirror else list(edges)


def riding_drop(plan: Plan, sheet: int) -> MultiPolygon | None:
    """The test drop that rides along in the picture of a sheet (from 0), as it is printed; None where none is wanted or
    no waste is left for it.
    """
    if not (plan.job.cutter.has_own_program and plan.job.cutter.program_facts.tell_tale):
        return None
    place = tell_tale_of(plan, sheet)
    if place is None:
        return None
    drop = shapely.transform(drop_shape(), lambda points: points + np.array(place))
    return mirrored(drop, plan.job.paper.width_mm) if plan.mirror else drop


def drop_shape() -> MultiPolygon:
    """A test drop in its own box of `DROP_MM`, its slit a narrow hole, its tip as sharp as pixels show it."""
    slit = shapely.LineString(drop_slit()).buffer(_SLIT_MM / 2, quad_segs=8)
    drop = Polygon(drop_outline()).buffer(-_TIP_MM).buffer(_TIP_MM)
    return as_multi(parts(drop.difference(slit)))


def trial_frame(margin_mm: float = 7.0) -> PictureFrame:
    """The frame of a picture with one test drop alone in its middle."""
    side = math.ceil((DROP_MM + 2 * margin_mm) * PICTURE_PPI / MM_PER_INCH)
    return PictureFrame(-margin_mm, -margin_mm, side, side)
