"""Where the tell-tale of a sheet lies: the one test drop that is looked at before anything else."""

from vamper.core.cutting.drops import CLEAR_MM, tell_tale_place
from vamper.core.plan import Plan


def tell_tale_of(plan: Plan, sheet: int) -> tuple[float, float] | None:
    """The place of the tell-tale of a sheet (from 0), its box's top left in the frame of the layout; None where no
    waste is left for it.
    """
    laid, clear = plan.sheets[sheet], plan.job.marks.clear_mm
    marks = [mark.shape.buffer(clear) for mark in plan.setup.marks_seen]
    # A drop is kept clear by itself; where a program's bleed asks for more, the pieces are taken so much wider.
    wider = max(0.0, plan.job.cutter.program_facts.least_gap_mm - CLEAR_MM) if plan.job.cutter.has_own_program else 0.0
    taken = [edge.buffer(wider) if wider else edge for edge in laid.edges]
    return tell_tale_place(laid.live.shape, [*taken, *marks], marks)
