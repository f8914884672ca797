"""`make faults`: puts deliberate faults into core's rules and into the use-cases, and counts how many the tests see.

Each module of rules gets a few faults; each is tried against the tests that come by its line, the quickest
of every file first. What nobody noticed is listed, to be looked at: it gets a test, or a line in `no_difference.toml`
that says why nobody could. Left out are what only makes pictures to look at and how the search for a layout goes about
its time: other figures there are other tries, not wrong ones.
"""

import os
import sys
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

from tests.faults.mutants import ROOT, Fault, faults_of
from tests.faults.no_difference import makes_none, no_difference
from tests.faults.one import fails
from tests.faults.reached import Reached, reached

MOST_A_MODULE = 2
SECONDS = 400
TESTS_SECONDS = 200.0
# The tries of the search, and pictures.
NO_RULES = (
    "vamper/core/sheet/pack/search/",
    "vamper/core/sheet/pack/lattice_rows.py",
    "vamper/core/sheet/pack/nesting.py",
    "vamper/core/twin/close_up.py",
    "vamper/core/twin/photo.py",
    "vamper/core/twin/scan.py",
)


# The fewest of a hundred faults that the tests may notice, by the floor they are made on.
LEAST_NOTICED = {"core": 90, "services": 75}


def modules() -> Iterator[str]:
    """The modules of rules and of use-cases, by name."""
    for path in (path for floor in LEAST_NOTICED for path in sorted((ROOT / "vamper" / floor).rglob("*.py"))):
        file = path.relative_to(ROOT).as_posix()
        if path.name != "__init__.py" and not file.startswith(NO_RULES):
            yield file.removesuffix(".py").replace("/", ".")


def noticed(fault: Fault, known: Reached) -> bool:
    """Whether a test fails with the fault in it; one that hangs is noticed, too."""
    tests = known.tests(fault.module.replace(".", "/") + ".py", fault.line, TESTS_SECONDS)
    return bool(tests) and fails(fault.module, fault.number, tests, SECONDS)


def main(most: int = MOST_A_MODULE, seed: int = 1, within: str = "vamper") -> None:
    """Tries `most` faults a module, chosen by `seed`, in the modules whose names begin with `within`."""
    known = reached()
    chosen = [fault for module in modules() if module.startswith(within) for fault in faults_of(module, most, seed)]
    same = no_difference()
    faults = [fault for fault in chosen if not makes_none(fault, same)]

    def tried(fault: Fault) -> bool:
        was = noticed(fault, known)
        if not was:
            print(f"nobody noticed {fault.module}:{fault.line} {fault.what} (number {fault.number})", flush=True)
        return was

    with ThreadPoolExecutor(os.cpu_count() or 2) as several:
        seen = list(several.map(tried, faults))
    by_station = Counter(station(fault) for fault in faults)
    caught = Counter(station(fault) for fault, was in zip(faults, seen, strict=True) if was)
    for name, count in by_station.items():
        print(f"{name:12} {caught[name]:3} of {count}")
    print(f"{len(chosen) - len(faults)} of {len(chosen)} make no difference (no_difference.toml says why)")
    for floor, least in LEAST_NOTICED.items():
        here = [was for fault, was in zip(faults, seen, strict=True) if fault.module.startswith(f"vamper.{floor}.")]
        if here:
            share = 100 * sum(here) / len(here)
            print(f"{floor}: noticed {sum(here)} of {len(here)}, {share:.0f} % (at least {least})")


def station(fault: Fault) -> str:
    """The part of core, or the use-cases, that a fault lies in."""
    _, floor, *names = fault.module.split(".")
    if floor != "core":
        return floor
    return names[0] if len(names) > 1 else "the chain"


if __name__ == "__main__":
    main(*(int(word) if word.isdecimal() else word for word in sys.argv[1:]))  # type: ignore[arg-type]
