"""What is printed and cut to measure machines, and helpers for the marks of a job: vernier sheet, swatches, patches.

A vernier sheet is printed with the printer's scale compensated, so that its stretch is not corrected twice, and cut
without any correction, so that what is read is the whole of it.
"""

from dataclasses import dataclass

from vamper.core.cutting.plan import CutLoop, CutPlan
from vamper.core.marks.printed_helpers import HELPERS, HelperScene
from vamper.core.marks.program_marks import looked_for, looked_for_spec
from vamper.core.marks.vernier import VernierSheet, vernier_sheet
from vamper.core.plan import Plan, SheetSetup, page_of
from vamper.core.printing.page_box import page_for
from vamper.core.printing.swatch import STRIP_MM, swatch_sheet
from vamper.core.sheet.offcut import place_for
from vamper.core.values.calibration import thickness_of
from vamper.core.values.cut import Cut
from vamper.core.values.drawing import Drawing, Filled, joined
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import grow, mirrored
from vamper.core.values.job import Job
from vamper.core.values.lengths import size_mm
from vamper.formats.out.cut_dxf import write_dxf
from vamper.formats.out.cut_svg import write_svg
from vamper.formats.out.drawing_pdf import write_drawing_pdf
from vamper.formats.out.drawing_svg import write_drawing_svg
from vamper.services.work.not_found import NotFound

_STRIPS_APART_MM = 6.0


@dataclass(frozen=True, slots=True)
class Named:
    """A file with its type and the ending of its name."""

    data: bytes
    media_type: str
    ending: str


_TYPES = {"pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf"}


def vernier_of(job: Job, setup: SheetSetup) -> VernierSheet:
    """The vernier sheet for the paper of a job as it is made; in the frame in which files are.

    Raises
    ------
    BadInput
        If nothing is printed on the stock, or the sheet is too small.
    """
    if not job.stock.printable or not job.cutter.is_machine:
        raise BadInput("a calibration compares cuts with print: take a stock that is printed, and a machine", "stock")
    live = setup.live.shape
    turned = mirrored(live, job.paper.width_mm) if job.mirrored else live
    thickness = thickness_of(job.stock.thickness_um)
    return vernier_sheet(job.paper, turned, f"Calibration, {thickness} stock")


def vernier_file(job: Job, setup: SheetSetup, kind: str) -> Named:
    """The sheet to print (pdf), or the lines to cut (svg, dxf)."""
    sheet = vernier_of(job, setup)
    if kind == "pdf":
        marks = Drawing(job.paper, "", tuple(Filled(mark.rings) for mark in setup.marks))
        page = joined(job.paper, sheet.drawing.title, (marks, sheet.drawing))
        return Named(_printed(page, job), _TYPES[kind], "calibration-print.pdf")
    cut = Cut.KISS if job.stock.has_backing else Cut.THROUGH
    plan = CutPlan(job.paper, (CutLoop(0, cut, sheet.disc, False),), sheet.lines, cut)
    data = write_svg(plan, setup.marks, sheet.drawing.title) if kind == "svg" else write_dxf(plan, setup.marks)
    return Named(data, _TYPES[kind], f"calibration-cut.{kind}")


def helper_scene(plan: Plan, sheet: int) -> HelperScene:
    """The scene that the helpers of one sheet (from 0) are drawn from."""
    printed = tuple(one.clip for one in page_of(plan, sheet).pictures) if plan.sheets else ()
    return HelperScene(plan.job.paper, looked_for(plan.job), looked_for_spec(plan.job), printed)


def helper_drawing(plan: Plan, sheet: int, key: str) -> Drawing:
    """One helper for one sheet (from 0).

    Raises
    ------
    BadInput
        If it cannot be drawn for this sheet.
    """
    if key not in HELPERS:
        raise NotFound("there is no such helper")
    if not looked_for(plan.job):
        if plan.job.cutter.has_own_program:
            raise BadInput("measure the marks of your machine's program first, under Marks", "marks")
        raise BadInput("this job prints no marks, so there is nothing to cover or to patch", "marks")
    return HELPERS[key].draw(helper_scene(plan, sheet))


def helper_file(plan: Plan, sheet: int, key: str, kind: str) -> Named:
    drawing = helper_drawing(plan, sheet, key)
    data = _printed(drawing, plan.job) if kind == "pdf" else write_drawing_svg(drawing)
    return Named(data, _TYPES[kind], f"{key}.{kind}")


def swatch_file(plan: Plan, name: str, second: bool) -> Named:
    """A page with one swatch strip in what is left of the last sheet: the first, or the second beside it; where the
    sheet is printed, as it is loaded.

    Raises
    ------
    BadInput
        If there is no room for both beside the pieces.
    """
    paper, size = plan.job.paper, (2 * STRIP_MM[0] + _STRIPS_APART_MM + 4, STRIP_MM[1] + 8)
    last = len(plan.sheets) - 1
    live = plan.setup.live_of(max(last, 0)).shape
    taken = [grow(edge, 2.0, 0.02) for edge in plan.sheets[last].edges] if plan.sheets else []
    if plan.mirror:
        live, taken = mirrored(live, paper.width_mm), [mirrored(one, paper.width_mm) for one in taken]
    place = place_for(live, taken, *size)
    if place is None:
        raise BadInput(
            f"the last sheet has no {size_mm(*size, 0)} free for the two strips beside its pieces; print them on an "
            "offcut of that size, or on a sheet with fewer pieces",
            "swatch",
        )
    x = place.left_mm + 2 + (STRIP_MM[0] + _STRIPS_APART_MM if second else 0.0)
    drawing = swatch_sheet(paper, float(x), float(place.top_mm) + 2, name)
    return Named(_printed(drawing, plan.job), _TYPES["pdf"], "swatch.pdf")


def _printed(drawing: Drawing, job: Job) -> bytes:
    """A drawing as this job's printer prints it: on the page that it takes, by the inverse of its own scale."""
    scale = job.printer.scale
    return write_drawing_pdf(drawing, (scale.x, scale.y), page_for(drawing.paper, job.printer))
