"""The geometry of printed registration marks, one function a family.

A mark is a list of rings filled even-odd. `inset` is from the paper's edge to the mark's outer rim, stroke included.
The marks also bound the sheet. Corners and frames lie along the rim, so that `marks_bound` is the rectangle inside
their clear zones; dots, crosses and rings sit in the corners only, so that it is the rectangle inside their outer rims
with the corners notched out.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely.geometry import Polygon, box

from vamper.core.findings import BadInput, Finding, Fix, FixTarget, Place, Severity
from vamper.core.geometry import Points, parts, quarter_segments, ring_points
from vamper.core.job import MarkFamily, MarksSpec, Paper
from vamper.core.sheet.live_area import Bound

# Nearer to the paper's edge a sensor takes the edge for the mark.
LEAST_INSET_MM = 4.0
# Families whose marks lie along the whole rim; the others take no more than their corner.
_ALONG_THE_RIM = (MarkFamily.CORNER, MarkFamily.FRAME)
_DOT_IN_RING = 1 / 3


@dataclass(frozen=True, slots=True)
class Mark:
    """One printed mark and its rings, mm.

    Where it is: the outer corner of an L, the outer top left of a frame, the centre of a dot, cross or ring.
    """

    family: MarkFamily
    x_mm: float
    y_mm: float
    rings: tuple[Points, ...]

    @property
    def box_mm(self) -> Place:
        points = np.concatenate(self.rings)
        (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
        return Place(float(left), float(top), float(right - left), float(bottom - top))


def turned_over(mark: Mark, paper: Paper) -> Mark:
    """A mark as it is seen from behind the sheet."""
    width = paper.width_mm
    rings = tuple(np.column_stack([width - ring[:, 0], ring[:, 1]]) for ring in mark.rings)
    return replace(mark, x_mm=width - mark.x_mm, rings=rings)


def marks_for(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """The marks of a sheet.

    Raises
    ------
    BadInput
        If the paper is too small for them.
    """
    if spec.family is MarkFamily.NONE:
        return ()
    least = 2 * (spec.inset_mm + (spec.stroke_mm if spec.family is MarkFamily.FRAME else spec.size_mm))
    if min(paper.width_mm, paper.height_mm) <= least:
        raise BadInput(
            f"the sheet is {paper.width_mm:g} × {paper.height_mm:g} mm, smaller than its marks, which need more than "
            f"{least:g} mm each way; take a larger sheet, smaller marks, or no marks",
            "marks",
        )
    return _FAMILIES[spec.family](paper, spec)


def marks_bound(paper: Paper, spec: MarksSpec) -> Bound | None:
    """What the marks and their clear zones leave of the sheet, None where there are none."""
    if spec.family is MarkFamily.NONE:
        return None
    if spec.family not in _ALONG_THE_RIM:
        return _notched(paper, spec)
    taken = spec.inset_mm + spec.stroke_mm + spec.clear_mm
    return Bound(
        "marks",
        f"the marks take {taken:g} mm along every side ({spec.inset_mm:g} inset, {spec.stroke_mm:g} stroke, "
        f"{spec.clear_mm:g} kept clear)",
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
        f"the marks take {spec.inset_mm:g} mm along every side and {spec.size_mm + spec.clear_mm:g} mm more in their "
        f"corners ({spec.size_mm:g} of mark, {spec.clear_mm:g} kept clear)",
        region if isinstance(region, Polygon) else Polygon(),
    )


def marks_findings(paper: Paper, spec: MarksSpec, printable: Bound) -> list[Finding]:
    """Marks too near the paper's edge, or where the printer cannot print."""
    if spec.family is MarkFamily.NONE:
        return []
    found = []
    if spec.inset_mm < LEAST_INSET_MM:
        found.append(
            Finding(
                "marks.inset",
                Severity.LOOK,
                "Marks too near the paper's edge",
                f"Under {LEAST_INSET_MM:g} mm from the edge the sensor may take the edge for a mark.",
                {"inset_mm": spec.inset_mm, "least_mm": LEAST_INSET_MM},
                fixes=(_inset_fix(LEAST_INSET_MM),),
            )
        )
    rim = box(spec.inset_mm, spec.inset_mm, paper.width_mm - spec.inset_mm, paper.height_mm - spec.inset_mm)
    if not printable.region.buffer(1e-6, join_style="mitre").covers(rim):
        left, top, right, bottom = printable.region.bounds
        need = max(left, top, paper.width_mm - right, paper.height_mm - bottom, LEAST_INSET_MM)
        found.append(
            Finding(
                "marks.unprintable",
                Severity.STOP,
                "The printer cannot print the marks",
                f"Part of a mark falls into the strip that {printable.reason[4:]}; it would be missing on the sheet.",
                {"inset_mm": spec.inset_mm, "needed_mm": round(need, 2)},
                fixes=(_inset_fix(round(need, 2)),),
            )
        )
    return found


def _inset_fix(inset_mm: float) -> Fix:
    return Fix(
        f"Inset of {inset_mm:g} mm",
        "the live area changes with it",
        FixTarget.JOB,
        {"marks.inset_mm": inset_mm},
    )


def _corners(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """An L in each corner, arms towards the paper's middle; with three, the bottom right one is missing."""
    i, s, w = spec.inset_mm, spec.size_mm, spec.stroke_mm
    arm = np.array([[0, 0], [s, 0], [s, w], [w, w], [w, s], [0, s]], dtype=float)
    right, bottom = paper.width_mm - i, paper.height_mm - i
    places = ((i, i, 1, 1), (right, i, -1, 1), (i, bottom, 1, -1), (right, bottom, -1, -1))
    return tuple(
        Mark(MarkFamily.CORNER, x, y, (arm * (across, down) + (x, y),)) for x, y, across, down in places[: spec.count]
    )


def _frame(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """One closed rectangle."""
    outer = _rectangle(paper, spec.inset_mm)
    inner = _rectangle(paper, spec.inset_mm + spec.stroke_mm)
    return (Mark(MarkFamily.FRAME, spec.inset_mm, spec.inset_mm, (outer, inner)),)


def _rectangle(paper: Paper, inset: float) -> Points:
    right, bottom = paper.width_mm - inset, paper.height_mm - inset
    return np.array([[inset, inset], [right, inset], [right, bottom], [inset, bottom]], dtype=float)


def _centres(paper: Paper, spec: MarksSpec) -> list[tuple[float, float]]:
    """The centres of marks that sit in the corners; with three, the bottom right one is missing."""
    near, right = spec.inset_mm + spec.size_mm / 2, paper.width_mm - spec.inset_mm - spec.size_mm / 2
    bottom = paper.height_mm - spec.inset_mm - spec.size_mm / 2
    return [(near, near), (right, near), (near, bottom), (right, bottom)][: spec.count]


def _disc(x: float, y: float, diameter: float) -> Points:
    circle = shapely.Point(x, y).buffer(diameter / 2, quad_segs=quarter_segments(diameter / 2))
    return ring_points(circle.exterior)


def _dots(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """A filled disc in each corner."""
    return tuple(Mark(MarkFamily.DOT, x, y, (_disc(x, y, spec.size_mm),)) for x, y in _centres(paper, spec))


def _crosses(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """Two strokes across each other in each corner."""
    s, w = spec.size_mm / 2, spec.stroke_mm / 2
    arms = [(-w, -s), (w, -s), (w, -w), (s, -w), (s, w), (w, w), (w, s), (-w, s), (-w, w), (-s, w), (-s, -w), (-w, -w)]
    return tuple(
        Mark(MarkFamily.CROSS, x, y, (np.array(arms, dtype=float) + np.array([x, y]),))
        for x, y in _centres(paper, spec)
    )


def _rings(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """An annulus in each corner, all but the first with a dot: a sheet loaded the wrong way round is noticed."""
    marks = []
    for number, (x, y) in enumerate(_centres(paper, spec)):
        rings = [_disc(x, y, spec.size_mm), _disc(x, y, max(spec.size_mm - 2 * spec.stroke_mm, 0.1))]
        if number:
            rings.append(_disc(x, y, spec.size_mm * _DOT_IN_RING))
        marks.append(Mark(MarkFamily.RING, x, y, tuple(rings)))
    return tuple(marks)


_FAMILIES: dict[MarkFamily, Callable[[Paper, MarksSpec], tuple[Mark, ...]]] = {
    MarkFamily.CORNER: _corners,
    MarkFamily.FRAME: _frame,
    MarkFamily.DOT: _dots,
    MarkFamily.CROSS: _crosses,
    MarkFamily.RING: _rings,
}
