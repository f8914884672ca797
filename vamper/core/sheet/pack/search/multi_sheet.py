"""Many sheets: pieces are dealt out to all of them at once, what is left over is carried on to the next."""

import math
from collections import Counter

from vamper.core.sheet.pack.area_bound import AreaBound
from vamper.core.sheet.pack.search.run import EASY_FILL, SearchRun
from vamper.core.values.placement import Sheet

_DEALT_FILL = 0.76
_DEAL_SHARE = 0.6
_DEALT_S = 2.0
_LEAST_DEALT_S = 0.8


def improve_many(run: SearchRun, bound: AreaBound) -> None:
    """Many sheets: deal the pieces out as full as engines get quickly, then try with one sheet fewer each time."""
    assert run.best is not None
    run.clocked = True
    load = run.load_of(list(run.free.elements()))
    stop_at = run.watch.seconds_left() * (1 - _DEAL_SHARE)
    deal_and_carry(run, max(bound.sheets_at_least, math.ceil(load / (_DEALT_FILL * run.room))), stop_at)
    while run.improvable(bound) and not run.given_up():
        fewer = len(run.best.sheets) - 1
        if run.hopeless(fewer):
            return
        deal_and_carry(run, fewer, 0.0)
        if len(run.best.sheets) > fewer:
            return


def deal_and_carry(run: SearchRun, count: int, stop_at: float) -> None:
    """Deal the pieces to `count` sheets; what the engine leaves over goes on to the next sheet, and in the end to
    further ones. Ends when only `stop_at` seconds are left.
    """
    groups, pool, sheets = dealt(run, count), Counter[int](), list[Sheet]()
    while (groups or pool.total()) and run.watch.seconds_left() > stop_at:
        waiting = (groups.pop(0) if groups else Counter[int]()) + pool
        seconds = (run.watch.seconds_left() - stop_at) / (len(groups) + 1)
        group = loaded(run, waiting, _DEALT_FILL if seconds > _DEALT_S else EASY_FILL)
        sheet = run.nested(group, run.plain, max(_LEAST_DEALT_S, seconds), None)
        if not sheet or (len(sheet) < group.total() and seconds > _DEALT_S):
            sheet = run.topped_up(run.plain, sheet, group - Counter(one.item for one in sheet))
        if not sheet:
            break
        sheets.append(sheet)
        pool = waiting - Counter(one.item for one in sheet)
        left = run.wanted - Counter(one.item for done in sheets for one in done)
        run.offer((*sheets, *run.in_rows(left, len(sheets))))


def loaded(run: SearchRun, waiting: Counter[int], fill: float) -> Counter[int]:
    """What of `waiting` loads a sheet to a share of its room, each design in proportion to its number."""
    share = fill * run.room / max(1e-9, run.load_of(list(waiting.elements())))
    if share >= 1:
        return +waiting
    group = Counter({item: int(count * share) for item, count in waiting.items()})
    load = run.load_of(list(group.elements()))
    for item in run.largest_first(waiting - group):
        if load + run.areas[item] <= fill * run.room:
            group[item] += 1
            load += run.areas[item]
    return +group


def dealt(run: SearchRun, count: int) -> list[Counter[int]]:
    """The pieces dealt to `count` sheets, largest first, each to the sheet with the most room."""
    loads = [0.0] * count
    groups: list[Counter[int]] = [Counter() for _ in range(count)]
    for item in run.largest_first(run.free):
        target = loads.index(min(loads))
        groups[target][item] += 1
        loads[target] += run.areas[item]
    return groups
