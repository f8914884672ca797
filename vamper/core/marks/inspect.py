"""What can be said about a sheet's marks: too near the paper's edge, or where the printer cannot print."""

from shapely.geometry import box

from vamper.core.sheet.live_area import Bound
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity
from vamper.core.values.lengths import mm
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.paper import Paper

# Nearer to the paper's edge a sensor takes the edge for the mark.
LEAST_INSET_MM = 4.0


def marks_findings(paper: Paper, spec: MarksSpec, printable: Bound) -> list[Finding]:
    """Marks too near the paper's edge, or where the printer cannot print."""
    if spec.family == NO_MARKS:
        return []
    found = []
    if spec.inset_mm < LEAST_INSET_MM:
        found.append(
            Finding(
                "marks.inset",
                Severity.LOOK,
                "Marks too near the paper's edge",
                f"Under {mm(LEAST_INSET_MM)} from the edge the sensor may take the edge for a mark.",
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
        f"Inset of {mm(inset_mm)}",
        "the live area changes with it",
        FixTarget.JOB,
        {"marks.inset_mm": inset_mm},
    )
