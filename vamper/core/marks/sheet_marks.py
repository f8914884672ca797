"""The marks of a sheet, and what they leave of it.

`inset` is from the paper's edge to the mark's outer rim, stroke included. Families along the rim bound the sheet to the
rectangle inside their clear zones; those in the corners to the rectangle inside their outer rims with the corners
notched out.
"""

from dataclasses import replace

import shapely
from shapely.geometry import Polygon, box

from vamper.core.marks.mark import FAMILIES, Mark
from vamper.core.sheet.live_area import Bound
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import parts
from vamper.core.values.lengths import bare_mm, mm, size_mm
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.paper import Paper
from vamper.core.values.reading import Remedy

# What a remedy draws: strokes at least so thick, marks at least so far inside, mm.
THICK_STROKE_MM = 1.2
SAFE_INSET_MM = 8.0


def marks_made(marks: MarksSpec) -> MarksSpec:
    """The marks with the remedies that are drawn."""
    if Remedy.THICKER_STROKE in marks.remedies:
        marks = replace(marks, stroke_mm=max(marks.stroke_mm, min(THICK_STROKE_MM, marks.size_mm / 3)))
    if Remedy.MORE_INSET in marks.remedies:
        marks = replace(marks, inset_mm=max(marks.inset_mm, SAFE_INSET_MM))
    return marks


def marks_for(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """The marks of a sheet.

    Raises
    ------
    BadInput
        If the paper is too small for them.
    """
    if spec.family == NO_MARKS:
        return ()
    least = 2 * (spec.inset_mm + FAMILIES[spec.family].takes_mm(spec))
    if min(paper.width_mm, paper.height_mm) <= least:
        raise BadInput(
            f"the sheet is {size_mm(paper.width_mm, paper.height_mm)}, smaller than its marks, which need more than "
            f"{mm(least)} each way; take a larger sheet, smaller marks, or no marks",
            "marks",
        )
    return FAMILIES[spec.family].draw(paper, spec)


def marks_bound(paper: Paper, spec: MarksSpec) -> Bound | None:
    """What the marks and their clear zones leave of the sheet, None where there are none."""
    if spec.family == NO_MARKS:
        return None
    if not FAMILIES[spec.family].along_the_rim:
        return _notched(paper, spec)
    taken = spec.inset_mm + spec.stroke_mm + spec.clear_mm
    return Bound(
        "marks",
        f"the marks take {mm(taken)} along every side ({bare_mm(spec.inset_mm)} inset, "
        f"{bare_mm(spec.stroke_mm)} stroke, {bare_mm(spec.clear_mm)} kept clear)",
        _inside(paper, taken),
    )


def _inside(paper: Paper, taken: float) -> Polygon:
    """The paper less a strip along every side, empty where nothing is left."""
    right, bottom = paper.width_mm - taken, paper.height_mm - taken
    return box(taken, taken, right, bottom) if right > taken and bottom > taken else Polygon()


def _notched(paper: Paper, spec: MarksSpec) -> Bound:
    """The rectangle inside the marks' outer rims, their boxes and clear zones notched out of its corners."""
    zone = spec.size_mm / 2 + spec.clear_mm
    corners = shapely.union_all(
        [box(mark.x_mm - zone, mark.y_mm - zone, mark.x_mm + zone, mark.y_mm + zone) for mark in marks_for(paper, spec)]
    )
    left = shapely.difference(_inside(paper, spec.inset_mm), corners)
    region = max(parts(left), key=lambda part: part.area, default=Polygon())
    return Bound(
        "marks",
        f"the marks take {mm(spec.inset_mm)} along every side and {mm(spec.size_mm + spec.clear_mm)} more in their "
        f"corners ({bare_mm(spec.size_mm)} of mark, {bare_mm(spec.clear_mm)} kept clear)",
        region if isinstance(region, Polygon) else Polygon(),
    )
