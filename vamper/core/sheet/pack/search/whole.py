"""Whether everything goes on so many sheets, and how near it came: for whoever asks it at one size after the other."""

from collections import Counter
from dataclasses import dataclass

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.groups import groups_of
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem, Watch
from vamper.core.sheet.pack.search.lattice_sheets import lattice_sheet
from vamper.core.sheet.pack.search.multi_sheet import dealt
from vamper.core.sheet.pack.search.promise import Progress
from vamper.core.sheet.pack.search.run import SearchRun
from vamper.core.values.packing import MIXED
from vamper.core.values.placement import Sheet


@dataclass(frozen=True, slots=True)
class WholeFit:
    """The layout where everything fits, and how many times as much as was asked for is promised to fit in the time that
    there was; None where that is not known.
    """

    layout: Layout | None
    reach: float | None


def fit_whole(problem: PackProblem, sheets: int, nester: Nester, watch: Watch) -> WholeFit:
    """Try to lay everything on so many sheets; given up as soon as it is out of reach."""
    run = SearchRun(problem, nester, watch)
    if problem.spec.mode != MIXED or len(groups_of(problem)) > 1 or run.grounds or not run.plain.is_bare or run.too_big:
        layout = pack(problem, nester, watch)
        fits = not layout.unplaced and len(layout.sheets) <= sheets
        return WholeFit(layout if fits else None, None)
    rows = run.in_rows(run.wanted, 0)
    if sum(len(sheet) for sheet in rows) == run.wanted.total() and len(rows) <= sheets:
        return WholeFit(run.layout(rows, time_limited=False), None)
    laid, reach, left = list[Sheet](), float("inf"), watch.seconds_left()
    for number, group in enumerate(dealt(run, sheets)):
        seconds = watch.seconds_left() / (sheets - number)
        way = Progress(run.load_of(list(group.elements())) / run.room, seconds)
        sheet = lattice_sheet(run, list(group.elements()), run.plain.room)
        if len(sheet) < group.total():
            sheet = run.nested(group, run.plain, seconds, None, way)
            reach = min(reach, way.promises(left / sheets) / way.load) if way.fill else reach
        if len(sheet) < group.total():
            sheet = run.topped_up(run.plain, sheet, group - Counter(one.item for one in sheet))
        if len(sheet) < group.total():
            return WholeFit(None, reach if reach < float("inf") else None)
        laid.append(sheet)
    return WholeFit(run.layout(tuple(laid), time_limited=True), reach if reach < float("inf") else None)
