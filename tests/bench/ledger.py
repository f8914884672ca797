"""Ten thousand runs in the ledger: what reading them, logging one more, and each screen takes."""

import sys
import tempfile
from collections.abc import Callable
from dataclasses import replace
from datetime import timedelta
from pathlib import Path

from tests.bench.table import Row, timed
from vamper.api.jobs.routes import list_jobs
from vamper.api.jobs.views import Views
from vamper.api.ledger.cost_views import supplies_out
from vamper.api.ledger.views import ledger_out
from vamper.core.ledger.supply import Bought, Pack, Thing
from vamper.demo.season import shipped_season
from vamper.demo.workshop import add_example
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
from vamper.store.tables import now

RUNS = 10_000


def ledger(many: int = RUNS) -> list[Row]:
    season = shipped_season()
    runs = [
        (at - timedelta(days=year, seconds=year), replace(run, note=str(year)))
        for year in range(many // len(season) + 1)
        for at, run in season
    ][:many]
    with tempfile.TemporaryDirectory() as folder:
        workshop = Workshop(Path(folder) / "many.db", ProcessNester())
        try:
            workshop.supplies.buy(Pack("satin-vinyl", 100, 50.0))
            for thing in Thing:
                workshop.supplies.buy(Bought(thing, 1000, 100.0))
            job = workshop.jobs.get(add_example(workshop))
            views = Views(workshop)
            views.view(job)
            workshop.runs.add_all(runs)
            read = timed(workshop.runs.all)
            ledger_out(workshop.shop, workshop.runs, now())

            def logged() -> None:
                workshop.runs.add(runs[0][1], None, None)
                workshop.runs.recipes()

            def timed_ms(what: Callable[[], object]) -> str:
                return f"{timed(what, 5) * 1000:.0f} ms"

            return [
                Row(f"{many} runs read once, at the start", f"{read * 1000:.0f} ms", "–"),
                Row("one more logged, and its recipes counted again", f"{timed(logged, 5) * 1000:.0f} ms", "≤ 50 ms"),
                Row(
                    "the ledger’s screen",
                    f"{timed(lambda: ledger_out(workshop.shop, workshop.runs, now()), 5) * 1000:.0f} ms",
                    "≤ 200 ms",
                ),
                Row("the shelf", timed_ms(lambda: supplies_out(workshop.shop, workshop.supplies)), "≤ 200 ms"),
                Row("the list of jobs", timed_ms(lambda: list_jobs(workshop.runs, workshop.jobs)), "≤ 200 ms"),
                Row("a job, with what the shelf says of it", timed_ms(lambda: views.view(job)), "≤ 200 ms"),
                Row("a job begun with what was learnt", timed_ms(lambda: workshop.jobs.create("new")), "≤ 200 ms"),
            ]
        finally:
            workshop.close()


if __name__ == "__main__":
    for row in ledger():
        sys.stdout.write(f"{row}\n")
