"""How a new job begins: after the maker's last job, or after the work that they said they do most."""

from dataclasses import replace

from sqlalchemy import select
from sqlalchemy.orm import Session

from vamper.core.finishing.targets import TARGETS
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.lengths import Unit
from vamper.core.values.units import MM_PER_INCH
from vamper.services.jobs.document import JobDocument
from vamper.services.shop.makes import FirstJob
from vamper.services.shop.shop import Shop
from vamper.store.tables import JobRow

# What a new job has in inches: lines of a ruler, near what it has in millimetres.
_SIXTEENTH = MM_PER_INCH / 16
_BORDER_MM, _SMOOTH_MM, _GAP_MM = 2 * _SIXTEENTH, 1.5 * _SIXTEENTH, 1.5 * _SIXTEENTH
_INSET_MM, _MARK_MM, _STROKE_MM, _CLEAR_MM = 6 * _SIXTEENTH, 7 * _SIXTEENTH, 0.5 * _SIXTEENTH, 1.5 * _SIXTEENTH
# The longest side that a new design has in each unit.
START_MM = {Unit.MM: 60.0, Unit.INCH: 2.5 * MM_PER_INCH}
# Edges that suit any drawing; the others are made for one.
_PLAIN_BORDERS = {"follow", "hull", "rounded"}


def last_made(session: Session, shop: Shop) -> JobRow | None:
    """The real job with something in it that was changed last, on a stock that is still on the shelf."""
    practice = {key for key, kept in shop.cutters.all().items() if kept.value.practice is not None}
    stocks = {key for key, kept in shop.stocks.all().items() if not kept.hidden}
    return session.scalars(
        select(JobRow)
        .where(JobRow.removed_at.is_(None), JobRow.designs > 0, JobRow.cutter_id.not_in(practice))
        .where(JobRow.stock_key.in_(stocks))
        .order_by(JobRow.changed_at.desc(), JobRow.id.desc())
        .limit(1)
    ).first()


def begun_in(unit: Unit, empty: JobDocument) -> JobDocument:
    """A new job with lengths that a maker who measures so would have typed; in millimetres its lengths as they are."""
    if unit is not Unit.INCH:
        return empty
    marks = replace(empty.marks, inset_mm=_INSET_MM, size_mm=_MARK_MM, stroke_mm=_STROKE_MM, clear_mm=_CLEAR_MM)
    border = replace(EdgeSpec(), distance_mm=_BORDER_MM, smooth_mm=_SMOOTH_MM)
    return replace(empty, marks=marks, packing=replace(empty.packing, gap_mm=_GAP_MM), border=border)


def begun_as(empty: JobDocument, first: FirstJob) -> JobDocument:
    """A new job on the stock and for the target of what is made most."""
    return replace(empty, stock=first.stock, target=first.target, purpose=TARGETS[first.target].purpose)


def taking_after(empty: JobDocument, last: JobDocument) -> JobDocument:
    """A new job with the stock, cover, target, paper and border of another job; a part-used sheet is not taken over."""
    worn = last.items[-1].edge if last.items else last.border
    border = None if worn is None or worn.kind not in _PLAIN_BORDERS else replace(worn, keep_holes=())
    return replace(
        empty,
        stock=last.stock,
        plain=last.plain,
        stock_colour=last.stock_colour,
        purpose=last.purpose,
        target=last.target,
        paper=empty.paper if last.paper.is_used else last.paper,
        finish=replace(empty.finish, cover=last.finish.cover, heat=last.finish.heat, plate=last.finish.plate),
        border=border or empty.border,
    )
