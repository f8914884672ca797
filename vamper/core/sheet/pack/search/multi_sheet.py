"""Many sheets: pieces are dealt out to all of them at once, what is left over is carried on to the next; or few sheets
are found, and each is laid many times (`repeated_sheets.py`).
"""

import math
from collections import Counter

from vamper.core.sheet.pack.area_bound import AreaBound
from vamper.core.sheet.pack.search.repeated_sheets import lay_repeated, loaded
from vamper.core.sheet.pack.search.run import EASY_FILL, SearchRun
from vamper.core.values.placement import Sheet

_DEALT_FILL = 0.76
_DEAL_SHARE = 0.6
# With so long for each sheet they are dealt out, and each is made as full as it gets.
_DEALT_S = 2.0
# Sheets that are laid again and again are looked for so many times, each time in such a share of what time is left.
_PASSES, _PASS_SHARE = 3, 0.55
_LEAST_DEALT_S = 0.8


def improve_many(run: SearchRun, bound: AreaBound) -> None:
    """Many sheets: dealt out at once where each can have its time, then as few as are found, each laid many times."""
    assert run.best is not None
    run.clocked = True
    if run.watch.seconds_left() > _DEALT_S * bound.sheets_at_least:
        load = run.load_of(list(run.free.elements()))
        stop_at = run.watch.seconds_left() * (1 - _DEAL_SHARE)
        deal_and_carry(run, max(bound.sheets_at_least, math.ceil(load / (_DEALT_FILL * run.room))), stop_at)
    known, passes, wanted = list[Sheet](), 0, None
    while run.improvable(bound) and not run.given_up():
        stop_at = run.watch.seconds_left() * (1 - _PASS_SHARE) if passes < _PASSES - 1 else 0.0
        had = len(known)
        lay_repeated(run, stop_at, passes, known, wanted)
        wanted, passes = len(run.best.sheets) - 1, passes + 1
        # Where a pass found no sheet that was not known, the next one would find none either.
        if len(known) == had or run.hopeless(wanted):
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


def dealt(run: SearchRun, count: int) -> list[Counter[int]]:
    """The pieces dealt to `count` sheets, largest first, each to the sheet with the most room."""
    loads = [0.0] * count
    groups: list[Counter[int]] = [Counter() for _ in range(count)]
    for item in run.largest_first(run.free):
        target = loads.index(min(loads))
        groups[target][item] += 1
        loads[target] += run.areas[item]
    return groups
