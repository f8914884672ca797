"""Sheets that are not empty rectangles: with held pieces, notches or used-up parts. They come first, then bare ones."""

from collections import Counter
from dataclasses import replace

import numpy as np
import shapely

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.sheet.pack.search.attempts import fill_one_by_one
from vamper.core.sheet.pack.search.lattice_sheets import lattice_sheet
from vamper.core.sheet.pack.search.run import EASY_FILL, HOPELESS_FILL, SearchRun
from vamper.core.sheet.pack.sheet_region import SheetRegion
from vamper.core.values.geometry import grow
from vamper.core.values.placement import Sheet

# A rectangle smaller than this share of what is free on a sheet is not worth the engine's time.
_WORTH_NESTING = 0.35


def pack_around_fixed(run: SearchRun) -> Layout:
    """Sheets with held pieces, notches or used-up parts, then further ones, each as full as it gets."""
    limit = run.problem.spec.max_sheets
    remaining, sheets = run.free.copy(), list[Sheet]()
    while len(sheets) < len(run.grounds) or (remaining.total() and (limit is None or len(sheets) < limit)):
        ground = run.grounds[len(sheets)] if len(sheets) < len(run.grounds) else run.plain
        if not remaining.total() or run.given_up():
            sheet: Sheet = ()
        elif len(sheets) >= len(run.grounds) and ground.is_bare:
            fill_one_by_one(run, limit or len(sheets) + remaining.total(), tuple(sheets), remaining)
            break
        else:
            sheet = packed_on(run, ground, remaining, sheets)
        if not sheet and not ground.held and len(sheets) >= len(run.grounds):
            break
        sheets.append((*ground.held, *sheet))
        remaining = remaining - Counter(one.item for one in sheet)
        run.offer((*sheets, *ground_rest(run, len(sheets), remaining)))
    return run.finished()


def packed_on(run: SearchRun, ground: SheetRegion, remaining: Counter[int], before: list[Sheet]) -> Sheet:
    """The new pieces of one sheet: a lattice or the engine in its largest rectangle, or all piece by piece; the
    fullest one.
    """
    if (rows := _rows_on(run, ground, remaining)) and len(rows) == remaining.total():
        # Where everything goes on in plain rows, nothing is neater, and what stays free is in one piece.
        return rows
    order = run.largest_first(remaining)
    whole = shapely.difference(
        ground.live, shapely.union_all([one.of(run.by_item[one.item].edge) for one in ground.held])
    ).area
    cap = HOPELESS_FILL * grow(ground.live, run.separation / 2).area
    loads = np.cumsum([run.areas[item] for item in order])
    offered = Counter(order[: max(1, int(np.searchsorted(loads, cap)) + 1)])
    choices = [run.topped_up(ground, (), remaining)]
    if len(choices[0]) == remaining.total():
        return choices[0]
    if not ground.room.is_empty and (sheet := lattice_sheet(run, order, ground.room)):
        rest = remaining - Counter(one.item for one in sheet)
        choices.append(run.topped_up(ground, sheet, rest))
    if not ground.room.is_empty and ground.room.area > _WORTH_NESTING * whole and not run.given_up():
        fit = EASY_FILL * grow(ground.room, run.separation / 2).area
        easy = Counter(order[: max(1, int(np.searchsorted(loads, fit)))]) & offered
        nested = run.nested(easy, ground, run.slice(0.5), before)
        choices.append(run.topped_up(ground, nested, remaining - Counter(one.item for one in nested)))
        run.clocked = True
    return max(choices, key=lambda sheet: (len(sheet), run.load_of([one.item for one in sheet])))


def _rows_on(run: SearchRun, ground: SheetRegion, remaining: Counter[int]) -> Sheet:
    """Plain rows in a sheet's largest free rectangle."""
    if ground.room.is_empty:
        return ()
    pieces = [replace(run.by_item[item], quantity=count) for item, count in (+remaining).items()]
    rows = rows_of_boxes(pieces, ground.room, run.problem.spec.gap_mm, run.problem.spec.turn, 1)
    return rows[0] if rows else ()


def ground_rest(run: SearchRun, sheets: int, remaining: Counter[int]) -> tuple[Sheet, ...]:
    """Held pieces of the sheets that were not packed yet, and the rest in rows."""
    waiting = tuple(ground.held for ground in run.grounds[sheets:])
    return (*waiting, *run.in_rows(remaining, sheets + len(waiting)))


def rows_everywhere(run: SearchRun) -> tuple[Sheet, ...]:
    return ground_rest(run, 0, run.free)
