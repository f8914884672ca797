"""Mixed: one search over all pieces for the fewest sheets."""

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.mode import PackingMode
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.problem import PackProblem, Watch
from vamper.core.sheet.pack.search.search import search
from vamper.core.values.packing import MIXED


def mixed(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
    return search(problem, nester, watch)


KIND = PackingMode(MIXED, 1, "mixed", "the fewest sheets", "", mixed)
