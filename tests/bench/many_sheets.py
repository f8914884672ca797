"""Many sheets: how many a large order takes, by the raw engine sheet by sheet and by Vamper, against what areas allow.

The engine fills sheet after sheet: each time it is handed more than a sheet holds, every design in proportion to what
is left of it, for an equal share of the time with all cores, and the stretch of its strip that holds most is kept.
`python -m tests.bench.many_sheets --orders 0 1`.
"""

import argparse
import time
from collections import Counter
from dataclasses import dataclass

import numpy as np

from tests.bench import shapes
from tests.bench.packing import Case, designs_of
from tests.bench.table import Row, show
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.sheet.pack.nesting import Attempt, NestRequest, NestShape, NestSolution, nest_points, window
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.geometry import grow
from vamper.core.values.item import Turn
from vamper.core.values.packing import PackingSpec
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import TimedWatch

# An engine is handed so much of a sheet's room, more than goes in.
_HANDED = 0.95


@dataclass(frozen=True)
class Order:
    """So many pieces of a mix in so many seconds."""

    case: Case
    pieces: int
    seconds: float


def orders() -> list[Order]:
    blobs = designs_of([shapes.blob(seed, 22 + 5.0 * (seed % 7)) for seed in range(30, 42)])
    return [
        Order(Case("12 irregular designs, 22 to 52 mm", blobs), 300, 40.0),
        Order(Case("12 irregular designs, 22 to 52 mm", blobs), 5000, 60.0),
        Order(Case("8 block letters", designs_of([shapes.letter(name) for name in shapes.LETTERS])), 5000, 60.0),
        Order(Case("discs of 28 mm", designs_of([shapes.disc(28)])), 5000, 60.0),
    ]


def engine_sheets(order: Order, nester: ProcessNester, at_least: int) -> int:
    """How many sheets the engine alone fills, one after the other; what is left when time is up counts as full as the
    sheets before it.
    """
    case = order.case
    left, top, right, bottom = case.live.bounds
    remaining = Counter({piece.item: piece.quantity for piece in case.first(order.pieces)})
    points = {piece.item: nest_points(piece.edge) for piece in case.designs}
    outlines = {item: np.asarray(ring) for item, ring in points.items()}
    areas = {piece.item: grow(piece.edge, case.gap / 2).area for piece in case.designs}
    room = grow(case.live, case.gap / 2).area
    seconds = max(1.0, order.seconds / (1.15 * at_least))
    ends_at, sheets = time.monotonic() + order.seconds, 0
    while remaining.total() and time.monotonic() < ends_at:
        share = min(1.0, _HANDED * room / sum(areas[item] * count for item, count in remaining.items()))
        group = Counter({item: max(1, round(count * share)) for item, count in remaining.items() if count})
        shapes_ = tuple(NestShape(item, points[item], count, Turn.ANY) for item, count in sorted(group.items()))
        request = NestRequest(shapes_, left, top, right - left, bottom - top, case.gap, sheets + 1)
        best: list[Counter[int]] = [Counter()]

        def look(solution: NestSolution, request: NestRequest = request, best: list[Counter[int]] = best) -> bool:
            laid = Counter(one.item for one in window(request, solution, outlines))
            if sum(areas[i] * n for i, n in laid.items()) > sum(areas[i] * n for i, n in best[0].items()):
                best[0] = laid
            return solution.complete

        nester.race([iter([Attempt(request, seconds, look, nester.cores)])], lambda: False)
        remaining -= best[0]
        sheets += 1
    done = order.pieces - remaining.total()
    return sheets if not remaining.total() else round(sheets * order.pieces / max(done, 1))


def many_sheets(nester: ProcessNester, chosen: list[Order]) -> list[Row]:
    """A row an order: the engine's sheets, Vamper's and the bound's."""
    found = []
    for order in chosen:
        pieces = order.case.first(order.pieces)
        bound = area_bound(order.case.live, pieces, order.case.gap).sheets_at_least
        engine = engine_sheets(order, nester, bound)
        started = time.perf_counter()
        problem = PackProblem(pieces, order.case.live, PackingSpec(gap_mm=order.case.gap))
        layout = pack(problem, nester, TimedWatch(order.seconds))
        took = time.perf_counter() - started
        ours = len(layout.sheets)
        found.append(
            Row(
                f"{order.pieces} of {order.case.name}, {order.seconds:g} s: engine, Vamper, areas alone",
                f"{engine}, {ours}, {bound}; {(ours / bound - 1) * 100:+.0f} %, {took:.0f} s",
                "no more than the engine, areas + 8 %",
            )
        )
        print(found[-1].what, found[-1].figure, flush=True)
    return found


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--orders", type=int, nargs="+", default=list(range(len(orders()))))
    nester = ProcessNester()
    nester.warm_up()
    show("Many sheets", many_sheets(nester, [orders()[number] for number in asked.parse_args().orders]))


if __name__ == "__main__":
    main()
