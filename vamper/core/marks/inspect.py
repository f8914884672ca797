"""What can be said about a sheet's marks: where they cannot be printed, whether they will be read, what covers them."""

import math
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import replace

import shapely
from shapely.geometry import box
from shapely.geometry.base import BaseGeometry

from vamper.core.marks.budget import drifted, last_runs_mm
from vamper.core.marks.mark import Mark
from vamper.core.marks.reading import CAUSE_WORDS, REMEDIES, MarkReading, ReadingCause
from vamper.core.marks.sheet_marks import marks_for
from vamper.core.sheet.live_area import Bound, cutter_bounds
from vamper.core.values.chances import in_100
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import BadInput, Finding, Fix, FixTarget, Severity
from vamper.core.values.lengths import mm
from vamper.core.values.marks import LEAST_INSET_MM, NO_MARKS, MarksSpec
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.paper import NAMED_PAPERS, NamedPaper, Paper
from vamper.core.values.stock import Stock, StockClass

# Chances under which a reading is worth a look, and under which the sheet had better not be printed as it is.
LIKELY = 0.95
_CERTAIN = 0.99
UNLIKELY = 0.5
# How far marks are moved in at a time, away from those of a first trip, and how often that is tried.
_INSET_STEP_MM, _MOST_STEPS = 1.0, 60
_NEARLY_MM = 1e-6


def reading_findings(reading: MarkReading | None, spec: MarksSpec) -> list[Finding]:
    """Marks that will most likely not be read, with the best remedy as the fix."""
    if reading is None or reading.chance >= LIKELY:
        return []
    best = reading.remedies[:1]
    fixes = tuple(
        Fix(
            REMEDIES[one.remedy].name,
            f"read in {in_100(one.chance)} of 100 tries",
            FixTarget.JOB,
            {"marks.remedies": [*(taken.value for taken in spec.remedies), one.remedy.value]},
        )
        for one in best
    )
    because = (
        f" What takes most away is {CAUSE_WORDS[reading.cause]}." if reading.cause is not ReadingCause.NONE else ""
    )
    return [
        Finding(
            "marks.unread",
            Severity.STOP if reading.chance < UNLIKELY else Severity.LOOK,
            f"Read in {in_100(reading.chance)} of 100 tries",
            f"{_whose(reading, spec)} must be read for the cutter to start.{because} A failed reading spoils nothing: "
            "cancel, take a remedy, load again.",
            {"chance": reading.chance},
            fixes=fixes,
        )
    ]


def _whose(reading: MarkReading, spec: MarksSpec) -> str:
    """Which marks must be read: Vamper's own, else the marks of the machine's program."""
    if spec.family == NO_MARKS:
        return "The marks that your machine’s program prints"
    return f"All {len(reading.marks)} marks" if len(reading.marks) > 1 else "The mark"


def covered_findings(stock: Stock, coated: bool, marks: Sequence[Mark]) -> list[Finding]:
    """Marks that a coat or laminate would cover before they are read: by the job, or by the stock's process."""
    sealed = stock.stock_class is StockClass.WATER_SLIDE
    if not marks or not (coated or sealed):
        return []
    what = "A coat or laminate" if coated else f"The coat that seals {stock.name}"
    return [
        Finding(
            "marks.covered",
            Severity.LOOK if coated else Severity.NOTE,
            "A coat would cover the marks" if coated else "Keep the seal off the marks",
            f"{what} that is put on before cutting must end inside the marks: a glossy one blinds the sensor. Trim it "
            "by the cover trim under Helpers, spray through the guard, or coat after cutting.",
            {"marks": len(marks)},
        )
    ]


def drift_findings(misses: Sequence[LoggedMiss]) -> list[Finding]:
    """Runs that drifted off to one side."""
    if not drifted(misses):
        return []
    dx, dy = last_runs_mm(misses)
    return [
        Finding(
            "marks.drift",
            Severity.LOOK,
            "The cuts drift to one side",
            f"The last five sheets that were measured were off by {mm(round(dx, 2))} across and {mm(round(dy, 2))} "
            "down on average, more than chance: calibrate again.",
            {"dx_mm": round(dx, 3), "dy_mm": round(dy, 3)},
        )
    ]


def old_marks_findings(paper: Paper, spec: MarksSpec, marks: Sequence[Mark]) -> list[Finding]:
    """Marks that would be printed over what was printed on a used sheet before: a sensor would see both."""
    if not paper.gone or not marks:
        return []
    used = shapely.union_all([shapely.make_valid(shapely.Polygon(ring)) for ring in paper.gone_rings])
    over = [mark for mark in marks if _near(mark, spec).intersects(used)]
    if not over:
        return []
    steps = (spec.inset_mm + step * _INSET_STEP_MM for step in range(1, _MOST_STEPS))
    free = next((inset for inset in steps if _is_free(paper, replace(spec, inset_mm=inset), used)), None)
    fixes = () if free is None else (_inset_fix(free),)
    return [
        Finding(
            "marks.over-used",
            Severity.LOOK,
            f"{len(over)} of {len(marks)} marks on what is used already",
            "The sheet was printed before, and new marks over old ones confuse a sensor. Set them farther in, or cover "
            "the old ones with matte white tape before it is printed.",
            {"marks": float(len(over))},
            places=tuple(mark.box_mm for mark in over),
            fixes=fixes,
        )
    ]


def _near(mark: Mark, spec: MarksSpec) -> BaseGeometry:
    """Where nothing else may be printed for a mark to be seen."""
    place = mark.box_mm
    return box(place.x_mm, place.y_mm, place.x_mm + place.width_mm, place.y_mm + place.height_mm).buffer(spec.clear_mm)


def _is_free(paper: Paper, spec: MarksSpec, used: BaseGeometry) -> bool:
    try:
        return not any(_near(mark, spec).intersects(used) for mark in marks_for(paper, spec))
    except BadInput:
        return False


def unreached_findings(
    paper: Paper, spec: MarksSpec, marks: Sequence[Mark], cutter: Cutter, holds: Callable[[Paper, MarksSpec], bool]
) -> list[Finding]:
    """Marks that the cutter's sensor does not get to: under its rollers, off its mat, beyond its reach. Another paper,
    or marks elsewhere, are offered where they leave room for what is to lie there.
    """
    limits = [(bound, _beyond(bound, marks)) for bound in cutter_bounds(paper, cutter)]
    bound, lost = max(limits, key=lambda one: len(one[1]), default=(None, []))
    if bound is None or not lost:
        return []
    fixes = []
    inset = _reached_inset(paper, spec, [bound for bound, _ in limits])
    if inset is not None and holds(paper, replace(spec, inset_mm=inset)):
        fixes.append(_inset_fix(inset))
    smaller = _reached_paper(paper, spec, cutter, holds)
    if smaller is not None:
        changes = {f"paper.{side}": getattr(smaller.paper, side) for side in ("width_mm", "height_mm")}
        fixes.append(Fix(f"Take {smaller.words}", "all marks are in reach", FixTarget.JOB, changes))
    return [
        Finding(
            "marks.unreached",
            Severity.STOP,
            "The cutter cannot reach the marks",
            f"{len(lost)} of {len(marks)} marks lie where {bound.reason.removeprefix('the ')} ends: they cannot be "
            "read, and the cutter does not start. Set the marks farther in, or take a smaller sheet."
            if bound.name != "rollers"
            else f"{len(lost)} of {len(marks)} marks lie under the rollers, where they cannot be read: {bound.reason}. "
            "Set the marks farther in.",
            {"unreached": len(lost), "inset_mm": spec.inset_mm},
            places=tuple(mark.box_mm for mark in lost),
            fixes=tuple(fixes),
        )
    ]


def _beyond(bound: Bound, marks: Sequence[Mark]) -> list[Mark]:
    region = bound.region.buffer(_NEARLY_MM, join_style="mitre")
    return [mark for mark in marks if not region.covers(mark.shape)]


def _reached_inset(paper: Paper, spec: MarksSpec, bounds: Sequence[Bound]) -> float | None:
    """The least inset at which every mark is in reach, None where there is none."""
    steps = (math.ceil(spec.inset_mm) + step * _INSET_STEP_MM for step in range(2 * _MOST_STEPS))
    for inset in steps:
        try:
            marks = marks_for(paper, replace(spec, inset_mm=inset))
        except BadInput:
            return None
        if not any(_beyond(bound, marks) for bound in bounds):
            return inset
    return None


def _reached_paper(
    paper: Paper, spec: MarksSpec, cutter: Cutter, holds: Callable[[Paper, MarksSpec], bool]
) -> NamedPaper | None:
    """The largest named paper, smaller than this paper, whose marks are in reach and which holds the pieces that lie on
    it.
    """
    fitting = []
    for one in NAMED_PAPERS:
        size = one.paper.width_mm * one.paper.height_mm
        if size >= paper.width_mm * paper.height_mm:
            continue
        with suppress(BadInput):
            marks = marks_for(one.paper, spec)
            reached = not any(_beyond(bound, marks) for bound in cutter_bounds(one.paper, cutter))
            if reached and holds(one.paper, spec):
                fitting.append((size, one))
    return max(fitting, key=lambda one: one[0])[1] if fitting else None


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
                # Rounded up: a hair less and it falls into the strip again.
                fixes=(_inset_fix(math.ceil(need * 10 - 1e-6) / 10),),
            )
        )
    return found


def _inset_fix(inset_mm: float) -> Fix:
    return Fix(
        f"Inset of {mm(inset_mm)}",
        "the area you can use changes with it",
        FixTarget.JOB,
        {"marks.inset_mm": inset_mm},
    )
