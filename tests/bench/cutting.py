"""Cut: how fast ladders find a force on simulated machines, what the window takes, and the way of the blade.

A machine's hardness is drawn round the starter with the belief's own spread; a drop lands by the depth model with the
spread of seeing, and one in fifty is misread. The loss is what a known hardness would allow less what the proposal does
on that very machine, in points of a hundred.
"""

import time
from dataclasses import replace

import numpy as np

from tests.bench.over_http import server
from tests.bench.table import Row, timed
from tests.conftest import disc_png
from vamper.core.cutting.belief import MISREAD, SEEN_SIGMA, STARTER_SIGMA, landing_chance, prior
from vamper.core.cutting.ladder import ladder_advice, proposed
from vamper.core.cutting.outlook import RUN_SIGMA
from vamper.core.cutting.path import _nearest_next, shortest_way, way_mm
from vamper.core.values.cutter import ForceRange
from vamper.core.values.stock import STARTER_STOCKS, Stock
from vamper.core.values.tried import Outcome, Try

MACHINES = 60
_LADDERS = 3
# Strong enough for every starter, so that what is lost is lost to not knowing.
_FORCE = ForceRange(10, 900, 2)
_LOOPS = 300
_LONG_SECONDS = 20
# OR-tools counts in whole numbers; a hundredth of a millimetre is one.
_UNITS = 100


def ladders() -> list[Row]:
    """Every starter as it is usually cut: points lost before any ladder, and after one, two and three."""
    rows, random = [], np.random.default_rng(3)
    for stock in STARTER_STOCKS:
        lost = np.array([_losses(stock, random) for _ in range(MACHINES)]).mean(axis=0) * 100
        figure = "  ".join(f"{one:5.1f}" for one in lost)
        wanted = "5 points after two" if stock.backing_um and stock.starts == "kiss" else ""
        rows.append(Row(f"{stock.name}, {stock.starts}", figure, wanted))
    return rows


def _losses(stock: Stock, random: np.random.Generator) -> list[float]:
    belief = prior(stock, stock.starts)
    true = stock.hardness_gf_per_um * float(np.exp(random.normal(0, STARTER_SIGMA)))
    clean, outcomes = belief.bands.of(Outcome.CLEAN), belief.bands.outcomes

    def chance(force: float, passes: int) -> float:
        depths = belief.depths(force, passes) * belief.hardness / true
        return float(landing_chance(depths, clean, RUN_SIGMA)[0, 0])

    known = replace(belief, weight=np.eye(1, len(belief.weight), np.abs(belief.hardness - true).argmin())[0])
    best = proposed(known, _FORCE)
    allowed, tries, found = chance(best.force_gf, best.passes), list[Try](), []
    for ladder in range(_LADDERS + 1):
        now = proposed(belief, _FORCE)
        found.append(max(0.0, allowed - chance(now.force_gf, now.passes)))
        if ladder == _LADDERS:
            break
        drops = []
        for gf in ladder_advice(belief, _FORCE, tries).next_gf:
            depth = belief.depths(gf, now.passes)[0, 0] * belief.hardness[0] / true
            depth *= float(np.exp(random.normal(0, SEEN_SIGMA)))
            outcome = next(one for one, low, high in outcomes if low <= depth < high)
            if random.random() < MISREAD:
                outcome = outcomes[random.integers(len(outcomes))][0]
            drops.append(Try(gf, now.passes, outcome))
        tries += drops
        belief = belief.after(drops)
    return found


def window() -> list[Row]:
    """From a judged drop to the window that follows, as the screen asks for it."""
    with server() as (client, _):
        job = client.post("/api/jobs", json={"title": "Bench"}).json()["id"]
        client.post(f"/api/jobs/{job}/art", files={"file": ("disc.png", disc_png())}).raise_for_status()
        ladder = client.post(f"/api/jobs/{job}/ladders", json={"cut": "kiss", "passes": 1}).json()["id"]
        waits, views = [], []
        for place in range(6):
            address = f"/api/jobs/{job}/records/{ladder}/drops/{place}"

            def judge(address: str = address) -> None:
                client.put(address, json={"outcome": "clean"}).raise_for_status()
                client.get(f"/api/jobs/{job}/force").raise_for_status()

            waits.append(timed(judge))
            views.append(timed(lambda: client.get(f"/api/jobs/{job}").raise_for_status()))
    belief = prior(STARTER_STOCKS[0], STARTER_STOCKS[0].starts)
    update = timed(lambda: belief.after([Try(84, 1, Outcome.CLEAN)]), 5)
    return [
        Row("a judged drop: belief, proposal and window, over HTTP", f"{np.median(waits) * 1000:.0f} ms", "100 ms"),
        Row("the slowest of six", f"{max(waits) * 1000:.0f} ms"),
        Row("the job's head after it", f"{np.median(views) * 1000:.0f} ms"),
        Row("the belief alone", f"{update * 1000:.2f} ms"),
    ]


def path() -> list[Row]:
    """Three hundred loops: our own way, nearest neighbour alone, and a long run of OR-tools."""
    random = np.random.default_rng(1)
    places, at = random.uniform((10, 10), (200, 270), (_LOOPS, 2)), np.zeros(2)
    started = time.perf_counter()
    ours = way_mm(places, at, shortest_way(places, at))
    seconds = time.perf_counter() - started
    nearest = way_mm(places, at, _nearest_next(places, at))
    long = way_mm(places, at, _long_run(places, at))
    return [
        Row(f"the order of {_LOOPS} loops", f"{seconds:.2f} s", "0.3 s"),
        Row("its travel against nearest neighbour alone", f"{ours / nearest:.3f}", "no more than 1"),
        Row(f"its travel against OR-tools in {_LONG_SECONDS} s", f"{ours / long:.3f}"),
    ]


def _long_run(places: np.ndarray, at: np.ndarray) -> list[int]:
    """An open way by OR-tools: it ends at a place that is nowhere, to which all ways cost nothing."""
    from ortools.constraint_solver import pywrapcp, routing_enums_pb2

    every = np.vstack([at, places])
    apart = np.round(np.hypot(*(every[:, None] - every[None]).transpose(2, 0, 1)) * _UNITS).astype(int)
    count = len(every)
    costs = np.zeros((count + 1, count + 1), dtype=int)
    costs[:count, :count] = apart
    manager = pywrapcp.RoutingIndexManager(count + 1, 1, [0], [count])
    model = pywrapcp.RoutingModel(manager)
    table = costs.tolist()
    call = model.RegisterTransitCallback(lambda a, b: table[manager.IndexToNode(a)][manager.IndexToNode(b)])
    model.SetArcCostEvaluatorOfAllVehicles(call)
    asked = pywrapcp.DefaultRoutingSearchParameters()
    asked.first_solution_strategy = routing_enums_pb2.FirstSolutionStrategy.PATH_CHEAPEST_ARC
    asked.local_search_metaheuristic = routing_enums_pb2.LocalSearchMetaheuristic.GUIDED_LOCAL_SEARCH
    asked.time_limit.FromSeconds(_LONG_SECONDS)
    solution = model.SolveWithParameters(asked)
    order, index = [], model.Start(0)
    while not model.IsEnd(index):
        node = manager.IndexToNode(index)
        if node:
            order.append(node - 1)
        index = solution.Value(model.NextVar(index))
    return order


if __name__ == "__main__":
    from tests.bench.table import show

    show("Cut", [*window(), *path()])
    show("Ladders: points lost before any, after one, two, three", ladders())
