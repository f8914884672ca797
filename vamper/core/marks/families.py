"""The geometry of printed registration marks, one function a family.

A mark is a list of rings filled even-odd. `inset` is from the paper's edge to the mark's outer rim, stroke included.
The marks also bound the sheet: `marks_bound` is the rectangle inside their rims and clear zones.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from shapely.geometry import Polygon, box

from vamper.core.findings import BadInput, Finding, Fix, FixTarget, Place, Severity
from vamper.core.geometry import Points
from vamper.core.job import MarkFamily, MarksSpec, Paper
from vamper.core.sheet.live_area import Bound

# Nearer to the paper's edge a sensor takes the edge for the mark.
LEAST_INSET_MM = 4.0


@dataclass(frozen=True, slots=True)
class Mark:
    """One printed mark: where it is (its outer corner, or the outer top left of a frame) and its rings, mm."""

    family: MarkFamily
    x_mm: float
    y_mm: float
    rings: tuple[Points, ...]

    @property
    def box_mm(self) -> Place:
        points = np.concatenate(self.rings)
        (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
        return Place(float(left), float(top), float(right - left), float(bottom - top))


def marks_for(paper: Paper, spec: MarksSpec) -> tuple[Mark, ...]:
    """The marks of a sheet.

    Raises
    ------
    BadInput
        If the paper is too small for them.
    """
    if spec.family is MarkFamily.NONE:
        return ()
    least = 2 * (spec.inset_mm + (spec.size_mm if spec.family is MarkFamily.CORNER else spec.stroke_mm))
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
    taken = spec.inset_mm + spec.stroke_mm + spec.clear_mm
    right, bottom = paper.width_mm - taken, paper.height_mm - taken
    region = box(taken, taken, right, bottom) if right > taken and bottom > taken else Polygon()
    return Bound(
        "marks",
        f"the marks take {taken:g} mm along every side ({spec.inset_mm:g} inset, {spec.stroke_mm:g} stroke, "
        f"{spec.clear_mm:g} kept clear)",
        region,
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


_FAMILIES: dict[MarkFamily, Callable[[Paper, MarksSpec], tuple[Mark, ...]]] = {
    MarkFamily.CORNER: _corners,
    MarkFamily.FRAME: _frame,
}
