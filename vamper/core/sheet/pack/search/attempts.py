"""The attempts on bare sheets: everything on fewer sheets, or sheet after sheet as full as it gets."""

from collections import Counter

from vamper.core.sheet.pack.area_bound import AreaBound
from vamper.core.sheet.pack.search.lattice_sheets import lattice_sheet
from vamper.core.sheet.pack.search.max_fill import LIKELY_FILL, max_fill
from vamper.core.sheet.pack.search.multi_sheet import dealt, improve_many
from vamper.core.sheet.pack.search.promise import Progress
from vamper.core.sheet.pack.search.run import EASY_FILL, HOPELESS_FILL, LEAST_ATTEMPT_S, SearchRun
from vamper.core.values.placement import Sheet

# From so many sheets on they are dealt out at once: this full, in this share of the time.
_MANY_SHEETS = 3
# What all on fewer sheets may take of the time left; it ends sooner where it is out of reach.
_ALL_SHARE = 0.8
# A sheet fewer is worth patience with an attempt that promises too little.
_PATIENCE = 2.5
# Where all is nearly laid it is tried from so many seeds, and with so much more time.
_MOST_SEEDS, _MORE_S = 9, 6.0


def improve(run: SearchRun, bound: AreaBound) -> None:
    assert run.best is not None
    limit = run.problem.spec.max_sheets
    if limit is None and bound.sheets_at_least >= _MANY_SHEETS:
        improve_many(run, bound)
        return
    allowed = limit or len(run.best.sheets) + 1
    if limit != 1:
        for count in range(bound.sheets_at_least, min(allowed, run.sheets_of_best()) + 1):
            # With sheets short, no time is spent on what hardly goes in.
            if run.hopeless(count, HOPELESS_FILL if limit is None else LIKELY_FILL) or not run.improvable(bound):
                continue
            if all_on(run, count):
                return
            run.clocked = True
    fill_one_by_one(run, allowed, (), run.free.copy())


def all_on(run: SearchRun, count: int) -> bool:
    """Try to lay everything on exactly `count` sheets, areas shared out evenly; from other seeds again, and with more
    time, as long as it is nearly found.
    """
    for seed in range(_MOST_SEEDS):
        near = _nearly_on(run, count, seed)
        if near is None:
            return True
        if not near or (run.watch.seconds_left() < _MORE_S and not run.watch.more(_MORE_S)):
            break
    return False


def _nearly_on(run: SearchRun, count: int, seed: int) -> bool | None:
    """None where everything was laid on `count` sheets, else whether it was near."""
    sheets: list[Sheet] = []
    for number, group in enumerate(dealt(run, count)):
        if run.given_up():
            return False
        seconds = run.slice(_ALL_SHARE / (count - number))
        way = Progress(run.load_of(list(group.elements())) / run.room, seconds, _PATIENCE)
        sheet = run.nested(group, run.plain, seconds, sheets, way, seed)
        if len(sheet) < group.total():
            sheet = run.topped_up(run.plain, sheet, group - Counter(one.item for one in sheet))
            if len(sheet) < group.total():
                rest = run.wanted - Counter(one.item for done in (*sheets, sheet) for one in done)
                run.offer((*sheets, sheet, *run.in_rows(rest, len(sheets) + 1)))
                return way.is_near()
        sheets.append(sheet)
    run.offer(tuple(sheets))
    return None


def fill_one_by_one(run: SearchRun, allowed: int, before: tuple[Sheet, ...], remaining: Counter[int]) -> None:
    """Sheet after sheet as full as it gets; what is left over lies in rows of boxes on the next ones."""
    limited = run.problem.spec.max_sheets is not None
    sheets: list[Sheet] = list(before)
    while remaining.total() and len(sheets) < allowed and not run.given_up():
        order = run.largest_first(remaining)
        ahead = max(1, min(allowed - len(sheets), round(run.load_of(order) / (EASY_FILL * run.room) + 0.5)))
        seconds = run.slice(1.0 / ahead)
        sheet = max_fill(run, remaining, sheets, seconds) if limited else filled(run, order, sheets, seconds)
        if not sheet:
            break
        sheets.append(sheet)
        remaining = remaining - Counter(placement.item for placement in sheet)
        run.offer((*sheets, *run.in_rows(remaining, len(sheets))))
    if remaining.total():
        run.clocked = True


def filled(run: SearchRun, order: list[int], before: list[Sheet], seconds: float) -> Sheet:
    """One sheet filled from `order`: an easy load first, then one or two pieces more as long as they go in."""
    stop_at = run.watch.seconds_left() - seconds
    best = lattice_sheet(run, order, run.plain.room)
    count = max(len(best) + 1, run.easy_count(order))
    while count <= len(order):
        left = run.watch.seconds_left() - stop_at
        if left <= 0 or run.load_of(order[:count]) > HOPELESS_FILL * run.room:
            run.clocked = True
            break
        sheet = run.nested(Counter(order[:count]), run.plain, left if best else max(left, LEAST_ATTEMPT_S), before)
        if len(sheet) > len(best):
            best = sheet
        if len(sheet) < count:
            run.clocked = True
            break
        count += 2 if run.load_of(order[: count + 2]) < EASY_FILL * run.room else 1
    return run.topped_up(run.plain, best, Counter(order) - Counter(one.item for one in best))
