"""The marks of a sheet, and what they leave of it.

`inset` is from the paper's edge to the mark's outer rim, stroke included. Mark families along the rim bound the sheet
to the rectangle inside their clear zones; families in the corners to the rectangle inside their outer rims with the
corners notched out.
"""

from dataclasses import replace

import shapely
from shapely.geometry import Polygon, box
from shapely.geometry.base import BaseGeometry

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


# A patch reaches at least so far past its mark; its tongue is what the tape goes on.
PATCH_RIM_MM, PATCH_TONGUE_MM = 2.0, 8.0
_STUCK_OVER = frozenset({Remedy.WHITE_PATCHES, Remedy.MATTE_TAPE})


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
    """The part of the sheet that the marks and their clear zones leave, None where there are no marks."""
    if spec.family == NO_MARKS:
        return None
    if not FAMILIES[spec.family].along_the_rim:
        return _notched(paper, spec)
    clear = max(spec.clear_mm, PATCH_RIM_MM) if _patched(spec) else spec.clear_mm
    taken = spec.inset_mm + spec.stroke_mm + clear
    patches, patched = _patches(paper, spec)
    left = _inside(paper, taken)
    return Bound(
        "marks",
        f"the marks take {mm(taken)} along every side ({bare_mm(spec.inset_mm)} inset, "
        f"{bare_mm(spec.stroke_mm)} stroke, {bare_mm(clear)} kept clear){patched}",
        # Kept layouts are known by the very corners of their area, in order, so it is left as it is where it can be.
        left if patches.is_empty else _largest(shapely.difference(left, patches)),
    )


def _patched(spec: MarksSpec) -> bool:
    """Whether something is stuck over the marks, that covers what lies beside them."""
    return any(remedy in _STUCK_OVER for remedy in spec.remedies)


def _patches(paper: Paper, spec: MarksSpec) -> tuple[BaseGeometry, str]:
    """The patches stuck over the marks, one for each, and the words for them; a frame is covered along its own rim."""
    sides = [patch_sides(mark, paper, spec, taped=True) for mark in marks_for(paper, spec)] if _patched(spec) else []
    each = [box(*one) for one in sides if one[2] - one[0] < paper.width_mm / 2]
    return shapely.union_all(each), ", and what is stuck over them a little more" if each else ""


def _largest(region: BaseGeometry) -> Polygon:
    found = max(parts(region), key=lambda part: part.area, default=Polygon())
    return found if isinstance(found, Polygon) else Polygon()


def patch_sides(mark: Mark, paper: Paper, spec: MarksSpec, taped: bool) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of a patch over a mark, mm; with a tongue towards the sheet's middle where it is
    `taped` on.
    """
    box_ = mark.box_mm
    rim = max(spec.clear_mm, PATCH_RIM_MM)
    left, top = box_.x_mm - rim, box_.y_mm - rim
    right, bottom = box_.x_mm + box_.width_mm + rim, box_.y_mm + box_.height_mm + rim
    if taped and box_.x_mm > paper.width_mm / 2:
        left -= PATCH_TONGUE_MM
    elif taped:
        right += PATCH_TONGUE_MM
    return max(left, 0.0), max(top, 0.0), min(right, paper.width_mm), min(bottom, paper.height_mm)


def _inside(paper: Paper, taken: float) -> Polygon:
    """The paper less a strip along every side, empty where nothing is left."""
    right, bottom = paper.width_mm - taken, paper.height_mm - taken
    return box(taken, taken, right, bottom) if right > taken and bottom > taken else Polygon()


def _notched(paper: Paper, spec: MarksSpec) -> Bound:
    """The rectangle inside the marks' outer rims, their boxes and clear zones notched out of its corners."""
    zone = spec.size_mm / 2 + spec.clear_mm
    marks = marks_for(paper, spec)
    zones = [box(mark.x_mm - zone, mark.y_mm - zone, mark.x_mm + zone, mark.y_mm + zone) for mark in marks]
    patches, patched = _patches(paper, spec)
    corners = shapely.union_all([*zones, patches])
    return Bound(
        "marks",
        f"the marks take {mm(spec.inset_mm)} along every side and {mm(spec.size_mm + spec.clear_mm)} more in their "
        f"corners ({bare_mm(spec.size_mm)} of mark, {bare_mm(spec.clear_mm)} kept clear){patched}",
        _largest(shapely.difference(_inside(paper, spec.inset_mm), corners)),
    )
