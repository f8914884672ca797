"""Exactness and speed as tables: `make bench` gives what takes ten minutes in all, `make bench-all` the slow rest too.

Figures only; nothing passes or fails here. The right column is what was asked for, or the peer it is held against.
"""

import argparse
import platform
import time
from collections.abc import Callable
from dataclasses import dataclass

from tests.bench import (
    by_hand,
    cutting,
    diagnosis,
    exactness,
    finish,
    fullest,
    fuzz,
    ledger,
    load,
    many_sheets,
    measures,
    over_http,
    packing,
    resistance,
    seeing,
    speed,
    trainer,
    twin,
)
from tests.bench.table import Row, show
from vamper.services.packing.nesting_process import ProcessNester

FUZZ_CASES = 2000
_LOOP = 20_000_000
# The mix of the short run, and its seed.
_SHORT_MIXES, _SEEDS = [0, 4], [1]


@dataclass(frozen=True)
class Section:
    """One table, with what makes its rows; a slow one is left to `make bench-all`."""

    title: str
    rows: Callable[[ProcessNester], list[Row]]
    slow: bool = False


def _broken_files(_nester: ProcessNester) -> list[Row]:
    seen = fuzz.in_a_process(FUZZ_CASES)
    return [
        Row(f"{FUZZ_CASES} broken files: read, refused", f"{seen.read}, {seen.refused}"),
        Row("without a sentence, or with a crash", f"{seen.wrong} {seen.first_wrong}", "0"),
        Row("slowest", f"{seen.slowest_s:.2f} s", f"{fuzz.LONGEST_S:g} s"),
        Row("memory at its most", f"{seen.peak_mb:.0f} MB", f"{fuzz.MOST_MB:g} MB"),
    ]


SECTIONS = (
    Section("Exactness", lambda nester: [*exactness.outlines(), *exactness.edges(), *exactness.files(nester)]),
    Section("Marks and print", lambda _: measures.rows()),
    Section("Cut", lambda _: [*cutting.window(), *cutting.path()]),
    Section(
        f"Ladders on {cutting.MACHINES} machines: points lost before any, after one, two and three",
        lambda _: cutting.ladders(),
        slow=True,
    ),
    Section("The twin beside its plan", lambda _: twin.truth(), slow=True),
    Section("Pictures beside what they show", lambda _: [*twin.compared(), *twin.loose()], slow=True),
    Section("A dry run", lambda _: twin.times()),
    Section("Timetables", lambda _: [*finish.timetables(), *finish.slipped()]),
    Section("Bending", lambda _: finish.bending()),
    Section("Lessons", lambda _: trainer.lessons(), slow=True),
    Section("What went wrong", lambda _: [*diagnosis.diagnosis(), *diagnosis.from_faults()], slow=True),
    Section("The ledger", lambda _: ledger.ledger()),
    Section("Art and edge", lambda _: [*speed.art_and_edge(), *speed.findings()]),
    Section("Growth with the picture, beside the smallest", lambda _: speed.growth(), slow=True),
    Section("Until it is there", lambda _: [*seeing.changes(), *seeing.starts(), *seeing.checked()]),
    Section("Over HTTP", lambda _: [*over_http.slider(), *over_http.many()]),
    Section("Hostile and heavy art", lambda _: resistance.hostile_art(), slow=True),
    Section("Load", lambda _: [*load.thirty_clients(), *load.burst(), *load.kills()], slow=True),
    Section("Broken files", _broken_files, slow=True),
    Section("Pieces in hand", lambda _: [*by_hand.checks(), *by_hand.two_jobs_packing()], slow=True),
    Section(
        "Packing: pieces of a fixed order that all lie on one sheet, 5 s for each number",
        packing.side_by_side,
        slow=True,
    ),
    Section(
        f"The fullest sheet: more wanted than goes in, {fullest.SECONDS:g} s each",
        lambda nester: fullest.fullest(nester, fullest.SECONDS, _SEEDS, _SHORT_MIXES),
    ),
    Section(
        f"The fullest sheet, all mixes, {fullest.SECONDS:g} s each",
        lambda nester: fullest.fullest(nester, fullest.SECONDS, [1, 2, 3], list(range(len(fullest.mixes())))),
        slow=True,
    ),
    Section("Many sheets", lambda nester: many_sheets.many_sheets(nester, many_sheets.orders()), slow=True),
    Section("Packing over time", packing.over_time, slow=True),
    Section("Packing from 10 to 1,000 pieces", packing.growth, slow=True),
)


def loop_s() -> float:
    """Seconds of a plain loop of 20 million: how fast this machine is now."""
    started, count = time.perf_counter(), 0
    while count < _LOOP:
        count += 1
    return time.perf_counter() - started


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--all", action="store_true", help="the slow tables too")
    everything = asked.parse_args().all
    nester = ProcessNester()
    nester.warm_up()
    print(f"Python {platform.python_version()} on {platform.machine()}, plain loop {loop_s():.1f} s")
    for section in SECTIONS:
        if everything or not section.slow:
            show(section.title, section.rows(nester))
