"""The job as it is really made: what stock and cutter decide over the maker's head, worked out once.

A stock without a backing is cut through, whatever was asked for; a laminate adds to its face, what shrinks is made
larger, and where it shrinks unevenly its pieces are not laid askew; marks are printed only
where something is printed and something looks for them, as thick and as far inside as their remedies ask; scissors cut
straight rows of rounder edges.
Everything that follows works from this job; only findings look back at what was asked for.
"""

from dataclasses import replace

from vamper.core.edge.by_hand import for_hand
from vamper.core.marks.sheet_marks import marks_made
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, Route
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.finish import FinishSpec
from vamper.core.values.item import ItemSpec, Turn
from vamper.core.values.job import Job
from vamper.core.values.marks import NO_MARKS
from vamper.core.values.packing import TIDY
from vamper.core.values.placement import Sheet, without_gaps
from vamper.core.values.stock import Stock


def effective_job(job: Job) -> Job:
    """The job as it is really made; what is made so already stays as it is."""
    marks, packing = job.marks, job.packing
    if not (job.stock.printable and job.cutter.is_machine):
        marks = replace(marks, family=NO_MARKS)
    if not job.cutter.is_machine:
        packing = replace(packing, mode=TIDY)
    if job.cutter.route is Route.HAND and job.cutter.feed is not Feed.HAND:
        job = replace(job, cutter=replace(job.cutter, feed=Feed.HAND))
    if job.cutter.has_own_program:
        # Its program prints marks of its own; what was done so that they are read stays.
        marks = replace(marks, family=NO_MARKS)
        packing = replace(packing, gap_mm=max(packing.gap_mm, job.cutter.program_facts.least_gap_mm))
    marks, stock = marks_made(marks), job.stock
    if job.stock_colour is not None and job.stock_colour != stock.colour:
        stock = replace(stock, colour=job.stock_colour, reflectance=None)
    # What was measured between print and cut says nothing of a cut where nothing is printed, or no mark finds it.
    found_by_marks = marks.family != NO_MARKS
    stock = stock.under(job.finish.laminate_um).shrinking(job.shrink)
    return replace(
        job,
        marks=marks,
        packing=replace(packing, turn=packing.turn.within(stock.turns)),
        items=tuple(effective_item(item, stock, job.cutter) for item in job.items),
        held=_straight(job.held, stock.turns),
        stock=stock,
        calibration=job.calibration if found_by_marks else None,
        misses=job.misses if job.stock.printable else (),
        finish=_covered(job.finish),
        shrink=None,
    )


def _covered(finish: FinishSpec) -> FinishSpec:
    """The finish of a job whose laminate is part of its face."""
    cover = finish.cover
    return finish if cover is None or cover.um == 0 else replace(finish, cover=replace(cover, um=0.0))


def _straight(held: tuple[Sheet, ...], turns: Turn) -> tuple[Sheet, ...]:
    """The held placements without the pieces that may not lie as they do; those pieces are laid anew."""
    if turns is Turn.ANY:
        return held
    return without_gaps(tuple(tuple(one for one in sheet if turns.allows(one.turn_deg)) for sheet in held))


def effective_item(item: ItemSpec, stock: Stock, cutter: Cutter) -> ItemSpec:
    """One design as it is really made."""
    edge = item.edge if cutter.is_machine else for_hand(item.edge)
    turn = None if item.turn is None else item.turn.within(stock.turns)
    # What was answered says nothing of how it is made, so a design that was worked out stays.
    return replace(item, cut=effective_cut(stock, item.cut), edge=edge, turn=turn, meant=())


def effective_cut(stock: Stock, cut: Cut) -> Cut:
    """The cut that is really made: a stock without a backing can only be cut through."""
    return cut if stock.has_backing else Cut.THROUGH


def initial_edge(stock: Stock) -> EdgeSpec:
    """The edge of a design of which none was asked for: on stock that is not printed the drawing itself is cut out."""
    if stock.printable:
        return EdgeSpec()
    return EdgeSpec("bare", 0.0, fill_holes=False, join=False)
