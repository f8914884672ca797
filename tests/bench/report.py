"""Exactness and speed as tables: `make bench`. Figures only; nothing passes or fails here."""

import platform

from tests.bench import (
    by_hand,
    cutting,
    diagnosis,
    exactness,
    finish,
    fuzz,
    ledger,
    load,
    measures,
    over_http,
    packing,
    resistance,
    speed,
    trainer,
    twin,
)
from tests.bench.table import Row, show
from vamper.services.packing.nesting_process import ProcessNester

FUZZ_CASES = 2000


def main() -> None:
    nester = ProcessNester()
    nester.warm_up()
    print(f"Python {platform.python_version()} on {platform.machine()}; right column: what was asked for")
    show("Exactness", [*exactness.outlines(), *exactness.edges(), *exactness.files(nester)])
    show("Marks and print", measures.rows())
    show("Cut", [*cutting.window(), *cutting.path()])
    show(f"Ladders on {cutting.MACHINES} machines: points lost before any, after one, two and three", cutting.ladders())
    show("The twin beside its plan", twin.truth())
    show("Pictures beside what they show", [*twin.compared(), *twin.loose()])
    show("A dry run", twin.times())
    show("Timetables", [*finish.timetables(), *finish.slipped()])
    show("Bending", finish.bending())
    show("Lessons", trainer.lessons())
    show("What went wrong", [*diagnosis.diagnosis(), *diagnosis.from_faults()])
    show("The ledger", ledger.ledger())
    show("Art and edge", [*speed.art_and_edge(), *speed.findings()])
    show("Growth with the picture, beside the smallest", speed.growth())
    show("Over HTTP", [*over_http.slider(), *over_http.many()])
    show("Hostile and heavy art", resistance.hostile_art())
    show("Load", [*load.thirty_clients(), *load.burst(), *load.kills()])
    seen = fuzz.in_a_process(FUZZ_CASES)
    fuzzed = [
        Row(f"{FUZZ_CASES} broken files: read, refused", f"{seen.read}, {seen.refused}"),
        Row("without a sentence, or with a crash", f"{seen.wrong} {seen.first_wrong}", "0"),
        Row("slowest", f"{seen.slowest_s:.2f} s", f"{fuzz.LONGEST_S:g} s"),
        Row("memory at its most", f"{seen.peak_mb:.0f} MB", f"{fuzz.MOST_MB:g} MB"),
    ]
    show("Broken files", fuzzed)
    show("Pieces in hand", [*by_hand.checks(), *by_hand.two_jobs_packing()])
    show(
        "Packing: pieces of a fixed order that all lie on one sheet, 5 s for each number", packing.side_by_side(nester)
    )
    show(f"Packing: more wanted than goes in, {packing.SCARCE_SECONDS:g} s each", packing.scarce(nester))
    show("Packing over time", packing.over_time(nester))
    show("Packing from 10 to 1,000 pieces", packing.growth(nester))
