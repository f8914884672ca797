"""Held pieces, and everything else in straight rows: what is shown before anybody has searched."""

from collections import Counter
from dataclasses import replace

from vamper.core.sheet.layout import Layout, Unplaced, WhyNot
from vamper.core.sheet.pack.problem import PackProblem, fits_alone
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.sheet.pack.sheet_region import region_of
from vamper.core.values.placement import Sheet


def in_rows(problem: PackProblem, as_they_are: bool = False) -> Layout:
    """Held pieces, and everything else in rows: in the largest free rectangle of sheets that are not empty."""
    spec, limit = problem.spec, problem.spec.max_sheets
    held = problem.held_counts
    fitting = {p.item for p in problem.pieces if fits_alone(p, problem.live, spec.turn) or held[p.item]}
    remaining = Counter({p.item: max(0, p.quantity - held[p.item]) for p in problem.pieces if p.item in fitting})
    sheets: list[Sheet] = []
    empty = region_of(replace(problem, held=(), first_live=None), 0)
    known = max(problem.held_sheets, problem.first_live is not None)
    while len(sheets) < known or (remaining.total() and (limit is None or len(sheets) < limit)):
        is_known = len(sheets) < known
        ground = region_of(problem, len(sheets)) if is_known else empty
        pieces = [replace(problem.by_item[item], quantity=count) for item, count in (+remaining).items()]
        room_for = 1 if is_known else None if limit is None else limit - len(sheets)
        rows: tuple[Sheet, ...] = ()
        if pieces and not ground.room.is_empty:
            rows = rows_of_boxes(pieces, ground.room, spec.gap_mm, spec.turn, room_for, as_they_are)
        sheets += [(*ground.held, *sheet) for sheet in rows] or ([ground.held] if is_known else [])
        remaining = remaining - Counter(one.item for sheet in rows for one in sheet)
        if not rows and not is_known:
            break
    placed = Counter(one.item for sheet in sheets for one in sheet)
    unplaced = [
        Unplaced(p.item, p.quantity - placed[p.item], WhyNot.NO_ROOM if p.item in fitting else WhyNot.TOO_BIG)
        for p in problem.pieces
        if placed[p.item] < p.quantity
    ]
    return Layout(tuple(sheet for sheet in sheets if sheet), tuple(unplaced), time_limited=False)
