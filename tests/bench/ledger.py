"""Ten thousand runs in the ledger: what reading them, logging one more, and each screen takes."""

import sys
import tempfile
from dataclasses import replace
from datetime import timedelta
from pathlib import Path

from tests.bench.table import Row, timed
from vamper.api.ledger.cost_views import supplies_out
from vamper.api.ledger.views import ledger_out
from vamper.core.ledger.supply import Pack
from vamper.demo.season import shipped_season
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
from vamper.store.tables import now

RUNS = 10_000


def ledger() -> list[Row]:
    season = shipped_season()
    runs = [
        (at + timedelta(days=year, seconds=year), replace(run, note=str(year)))
        for year in range(RUNS // len(season) + 1)
        for at, run in season
    ][:RUNS]
    with tempfile.TemporaryDirectory() as folder:
        workshop = Workshop(Path(folder) / "many.db", ProcessNester())
        try:
            workshop.supplies.buy(Pack("satin-vinyl", 100, 50.0))
            workshop.runs.add_all(runs)
            read = timed(workshop.runs.all)
            ledger_out(workshop, now())

            def logged() -> None:
                workshop.runs.add(runs[0][1], None, None)
                workshop.runs.recipes()

            return [
                Row(f"{RUNS} runs read once, at the start", f"{read * 1000:.0f} ms", "–"),
                Row("one more logged, and its recipes counted again", f"{timed(logged, 5) * 1000:.0f} ms", "≤ 50 ms"),
                Row(
                    "the ledger’s screen", f"{timed(lambda: ledger_out(workshop, now()), 5) * 1000:.0f} ms", "≤ 200 ms"
                ),
                Row("the shelf", f"{timed(lambda: supplies_out(workshop), 5) * 1000:.0f} ms", "≤ 200 ms"),
            ]
        finally:
            workshop.close()


if __name__ == "__main__":
    for row in ledger():
        sys.stdout.write(f"{row}\n")
