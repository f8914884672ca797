"""The last sheet, made to take less of it where there is something to be had."""

from collections import Counter

from vamper.core.sheet.pack.nesting import Attempt, NestSolution
from vamper.core.sheet.pack.problem import strip_left
from vamper.core.sheet.pack.search.lattice_sheets import lattice_sheet
from vamper.core.sheet.pack.search.run import EASY_FILL, LEAST_ATTEMPT_S, SearchRun

# A last sheet is made compact where this share of it could be had; and for no longer than this.
_WORTH_SHARE = 0.2
_COMPACT_S = 4.0


def compact(run: SearchRun) -> None:
    """Make the last sheet's pieces take less of it, where there is something to be had."""
    assert run.best is not None
    if not run.best.sheets or not run.is_complete(run.best) or not run.plain.is_bare:
        return
    last, before = run.best.sheets[-1], list(run.best.sheets[:-1])
    group = Counter(one.item for one in last)
    room = run.plain.room.area
    could = room - run.load_of([one.item for one in last]) / EASY_FILL
    if could - strip_left(last, run.by_item, run.plain.room) < _WORTH_SHARE * room:
        return
    run.offer((*before, run.topped_up(run.plain, (), group)))
    run.offer((*before, lattice_sheet(run, list(group.elements()), run.plain.room)))
    seconds = min(_COMPACT_S, run.watch.seconds_left())
    if seconds < LEAST_ATTEMPT_S:
        run.clocked = True
        return
    ends_at = run.watch.seconds_left() - seconds
    request = run.request(group, run.plain)

    def look(solution: NestSolution) -> bool:
        sheet = run.accepted(request, solution)
        if len(sheet) == group.total():
            run.offer((*before, sheet))
        return run.watch.seconds_left() <= ends_at

    run.clocked = True
    run.nester.race(
        [iter([Attempt(request, seconds, look, on_lost=run.watch.lost)])], lambda: run.watch.seconds_left() <= ends_at
    )
