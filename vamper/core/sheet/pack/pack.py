"""Packing a job's pieces onto sheets, in the mode that the maker wants.

Pieces that never share a sheet are packed group by group, everything else at once, by the mode. In every mode pieces
that are held stay where they are, and with `fill` what space is left takes extra copies of what was marked for it, most
wanted first.
"""

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.filling import FILLING_SECONDS, ToBeFilled, filled
from vamper.core.sheet.pack.groups import groups_of, packed_apart
from vamper.core.sheet.pack.mode import MODES
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.problem import PackProblem, Watch


def pack(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
    """The best layout found; `watch` has seen it and every lesser one before it.

    See Also
    --------
    vamper.core.sheet.pack.search : the search for the fewest sheets.
    vamper.core.sheet.pack.nesting : what the engine is asked.
    """
    filling = problem.filling
    seen = ToBeFilled(watch, min(FILLING_SECONDS, 0.4 * watch.seconds_left())) if filling else watch
    groups = groups_of(problem)
    if len(groups) > 1:
        layout = packed_apart(problem, groups, nester, seen)
    else:
        layout = MODES[problem.spec.mode].pack(problem, nester, seen)
    if not filling:
        return layout
    full = filled(problem, layout, lambda: watch.seconds_left() <= 0)
    watch.better(full)
    return full
