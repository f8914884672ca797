"""What a machine's own program will find to cut: the picture that it gets, traced back.

Such a program sees nothing but the picture and cuts along its outline. So does this: whatever comes out here, merged
pieces included, is what the blade will do.
"""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import MultiPolygon

from vamper.core.plan import Plan
from vamper.core.program.outlines import outlines_in
from vamper.core.program.picture import picture_frame, printed_edges, riding_drop
from vamper.core.values.geometry import as_multi, parts
from vamper.formats.out.sheet_file import Printed
from vamper.formats.out.whole_png import whole_picture

Shapes = npt.NDArray[np.object_]

# What is compared needs no more points than this leaves, mm.
_FINE_MM = 0.01


@dataclass(frozen=True, slots=True)
class FoundCut:
    """The outlines that the cutter's program would find in a picture, traced.

    Parameters
    ----------
    size_mm, size_px : pair of float, pair of int
        The picture's size.
    shape : MultiPolygon
        What was traced, mm, in the picture's own frame.
    found, planned : int
        Pieces traced, and pieces planned.
    off_mm : float or None
        How far the trace is from the planned edges at most; None where pieces ran together or fell apart.
    """

    size_mm: tuple[float, float]
    size_px: tuple[int, int]
    shape: MultiPolygon
    found: int
    planned: int
    off_mm: float | None


def found_cut(plan: Plan, sheet: int, printed: Printed) -> FoundCut:
    """The outlines that will be found on one sheet (from 0)."""
    drop = riding_drop(plan, sheet)
    edges = [*printed_edges(plan, sheet), *([] if drop is None else [drop])]
    frame = picture_frame(plan, sheet)
    shapes = outlines_in(whole_picture(plan, sheet, printed))
    found = as_multi(list(shapes))
    wanted = [
        part for edge in edges for part in parts(shapely.transform(edge, lambda p: p - (frame.left_mm, frame.top_mm)))
    ]
    off = _off(np.array(wanted, dtype=object), np.array(found.geoms, dtype=object))
    size_px = frame.width_px, frame.height_px
    return FoundCut(frame.size_mm, size_px, found, len(found.geoms), len(wanted), off)


def _off(wanted: Shapes, found: Shapes) -> float | None:
    """The farthest that a planned edge and what was found of it are apart; None where they are not as many."""
    if len(wanted) != len(found):
        return None
    nearest = shapely.STRtree(shapely.centroid(found)).nearest(shapely.centroid(wanted))
    if len(set(nearest.tolist())) < len(wanted):
        return None
    planned, traced = shapely.simplify(wanted, _FINE_MM), shapely.simplify(found[nearest], _FINE_MM)
    return float(shapely.hausdorff_distance(shapely.boundary(planned), shapely.boundary(traced)).max())
