"""The marks that a machine's own program adds, where its maker measured them on one print.

They are not Vamper's to draw: they are read, covered, patched and kept clear of. Where nobody measured them, their
reading is reckoned with a usual line and place, and nothing is drawn by it.
"""

from dataclasses import replace

import numpy as np

from vamper.core.marks.mark import Mark
from vamper.core.marks.sheet_marks import marks_for
from vamper.core.values.drawing import rectangle
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points
from vamper.core.values.job import Job
from vamper.core.values.lengths import mm, size_mm
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper
from vamper.core.values.program import USUAL_RIM_MM, USUAL_STROKE_MM, ProgramFamily, ProgramMarks, RimDistances

# A frame is looked for on its four sides, corner marks are four.
LOOKED_FOR = 4
_LEAST_INSIDE_MM = 10.0


def looked_for_spec(job: Job) -> MarksSpec:
    """The marks that a job's machine looks for, as reading and helpers need them; of a program that nobody measured, a
    usual frame.
    """
    if not job.cutter.has_own_program:
        return job.marks
    known = job.cutter.program_facts.marks or ProgramMarks()
    rim = known.rim_mm
    inset = USUAL_RIM_MM if rim is None else min(rim.top, rim.right, rim.bottom, rim.left)
    size = max(known.arm_mm, known.stroke_mm * 2) if known.family is ProgramFamily.CORNER else job.marks.size_mm
    return replace(
        job.marks,
        family=known.family.value,
        count=4,
        size_mm=max(size, known.stroke_mm * 1.01),
        stroke_mm=known.stroke_mm if job.cutter.program_facts.marks else USUAL_STROKE_MM,
        inset_mm=inset,
    )


def looked_for(job: Job) -> tuple[Mark, ...]:
    """The marks that a job's machine looks for, where they lie as printed; none where nobody knows.

    Raises
    ------
    BadInput
        If they do not fit on the paper.
    """
    if not job.cutter.has_own_program:
        return marks_for(job.paper, job.marks)
    known = job.cutter.program_facts.marks
    return () if known is None or not job.stock.printable else program_marks(job.paper, known)


def marks_or_usual(job: Job) -> tuple[Mark, ...]:
    """The marks that a job's machine looks for; where nobody measured its program's, a usual frame."""
    if not job.cutter.has_own_program or not job.stock.printable:
        return looked_for(job)
    rim = RimDistances(USUAL_RIM_MM, USUAL_RIM_MM, USUAL_RIM_MM, USUAL_RIM_MM)
    return looked_for(job) or program_marks(job.paper, ProgramMarks(rim_mm=rim))


def program_marks(paper: Paper, known: ProgramMarks) -> tuple[Mark, ...]:
    """A program's marks on a paper; none where their places are not known.

    Raises
    ------
    BadInput
        If their rims leave nothing of the paper.
    """
    rim = known.rim_mm
    if rim is None:
        return ()
    width, height = paper.width_mm - rim.left - rim.right, paper.height_mm - rim.top - rim.bottom
    if min(width, height) < 2 * known.stroke_mm + _LEAST_INSIDE_MM:
        raise BadInput(
            f"the marks were measured {mm(rim.left)} and {mm(rim.right)} from the sides, {mm(rim.top)} and "
            f"{mm(rim.bottom)} from top and bottom; that leaves nothing of {size_mm(paper.width_mm, paper.height_mm)}. "
            "Measure from each paper edge to the outside of the printed line",
            "cutter.program.marks.rim_mm",
        )
    outer = rectangle(rim.left, rim.top, width, height)
    if known.family is ProgramFamily.CORNER:
        return tuple(_corner(outer, number, known) for number in range(4))
    stroke = known.stroke_mm
    inner = rectangle(rim.left + stroke, rim.top + stroke, width - 2 * stroke, height - 2 * stroke)
    return (Mark("frame", rim.left, rim.top, (outer, inner)),)


def _corner(outer: Points, number: int, known: ProgramMarks) -> Mark:
    """One L, its outer corner at a corner of the rim, its arms along it."""
    x, y = outer[number].tolist()
    middle = outer.mean(axis=0)
    dx, dy = (1.0 if x < middle[0] else -1.0), (1.0 if y < middle[1] else -1.0)
    arm, stroke = max(known.arm_mm, 2 * known.stroke_mm), known.stroke_mm
    shape = [(0, 0), (arm, 0), (arm, stroke), (stroke, stroke), (stroke, arm), (0, arm)]
    return Mark("corner", x, y, (np.array([(x + dx * u, y + dy * v) for u, v in shape]),))
