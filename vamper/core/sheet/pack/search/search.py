"""The search for a mixed layout: all wanted pieces on the fewest sheets, or as many as go on the sheets allowed.

The first layout is plain rows of boxes, there at once; where all pieces are equal, a lattice joins it. If areas prove
that no fewer sheets can do, only the last sheet is still made compact. Otherwise the nesting engine tries all pieces on
fewer sheets; where that fails it fills sheet after sheet: each is offered a little more than it will hold, what lies
inside the sheet is kept, single pieces are put into what is left, and the rest moves on. Sheets with held pieces,
notches or used-up parts come first: the engine packs their largest empty rectangle, and what is left of them is filled
piece by piece. Every layout is checked exactly before it counts, and every better one is shown.

The search ends by itself where the fewest sheets are proven or reached by the engine's own first answers; those are
the same from run to run. Where it had to be ended by the clock or by a person, the layout says so (`time_limited`).
"""

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.problem import PackProblem, Watch
from vamper.core.sheet.pack.search.around_fixed import pack_around_fixed, rows_everywhere
from vamper.core.sheet.pack.search.attempts import improve
from vamper.core.sheet.pack.search.compacting import compact
from vamper.core.sheet.pack.search.lattice_sheets import latticed
from vamper.core.sheet.pack.search.run import SearchRun


def search(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
    """The best mixed layout found."""
    run = SearchRun(problem, nester, watch)
    spec = run.problem.spec
    if not run.pieces:
        return run.settle(())
    if not run.free.total():
        return run.settle(tuple(ground.held for ground in run.grounds))
    first = rows_everywhere(run)
    run.offer(first)
    if run.grounds or not run.plain.is_bare:
        return pack_around_fixed(run)
    bound = area_bound(run.problem.live, run.pieces, spec.gap_mm)
    if run.improvable(bound):
        run.offer(latticed(run))
    if run.improvable(bound):
        improve(run, bound)
    compact(run)
    return run.finished()
