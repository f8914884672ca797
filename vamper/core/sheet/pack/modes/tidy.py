"""Tidy: straight rows for a guillotine; whether lower or narrower rows hold more is tried out."""

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.mode import PackingMode
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.problem import PackProblem, Watch
from vamper.core.values.packing import TIDY


def tidy(problem: PackProblem, _nester: Nester, watch: Watch) -> Layout:
    layout = max((in_rows(problem, upright) for upright in (False, True)), key=problem.rank)
    watch.better(layout)
    return layout


KIND = PackingMode(TIDY, 4, "tidy", "straight rows, for a guillotine", "in straight rows", tidy)
