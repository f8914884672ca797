"""`make faults`: puts deliberate faults into core's rules, one at a time, and counts how many the tests notice.

Each fault is tried against the tests of core that are made for its module, and all those that hold whole plans against
their figures. What nobody noticed is listed, to be looked at: a few change nothing that anybody could see.
"""

import os
import subprocess
import sys
from collections import Counter
from concurrent.futures import ThreadPoolExecutor

from tests.faults.mutants import ROOT, Fault, faults_of

SECONDS = 150
_WHOLE = ("tests/core/test_rules.py", "tests/core/test_every_finding.py")
# A module of rules, and the tests that are made for it.
RULES = {
    "vamper.core.made": (),
    "vamper.core.plan": (),
    "vamper.core.inspect": (),
    "vamper.core.design": (),
    "vamper.core.art.inspect": ("tests/core/test_art_findings.py", "tests/core/test_resolution.py"),
    "vamper.core.art.resolution": ("tests/core/test_resolution.py", "tests/core/test_art_findings.py"),
    "vamper.core.art.groups": ("tests/core/test_art_findings.py",),
    "vamper.core.edge.kind": ("tests/core/test_edge_kinds.py",),
    "vamper.core.edge.inspect": ("tests/core/test_edge.py", "tests/core/test_edge_kinds.py"),
    "vamper.core.edge.by_hand": ("tests/core/test_two_sided.py",),
    "vamper.core.edge.handling": ("tests/core/test_edge_kinds.py",),
    "vamper.core.edge.two_sided": ("tests/core/test_two_sided.py",),
    "vamper.core.sheet.live_area": ("tests/core/test_sheet.py",),
    "vamper.core.sheet.layout": ("tests/core/test_sheet.py", "tests/core/test_bleed.py"),
    "vamper.core.sheet.laid": ("tests/core/test_sheet.py",),
    "vamper.core.sheet.breaches": ("tests/core/test_sheet.py",),
    "vamper.core.sheet.inspect": (),
    "vamper.core.sheet.lay.turns": ("tests/core/test_turns.py",),
    "vamper.core.sheet.pack.area_bound": ("tests/core/test_sheet.py",),
    "vamper.core.marks.mark": ("tests/core/test_marks.py",),
    "vamper.core.marks.sheet_marks": ("tests/core/test_marks.py", "tests/core/test_sheet.py"),
    "vamper.core.marks.inspect": ("tests/core/test_marks.py",),
    "vamper.core.marks.reading": ("tests/core/test_reading.py",),
    "vamper.core.marks.budget": ("tests/core/test_budget.py",),
    "vamper.core.marks.calibrate": ("tests/core/test_calibrate.py",),
    "vamper.core.marks.vernier": ("tests/core/test_calibrate.py",),
    "vamper.core.marks.helpers": ("tests/formats/test_print_measures.py",),
    "vamper.core.printing.page_box": ("tests/formats/test_print_measures.py",),
    "vamper.core.printing.proof": ("tests/formats/test_print_measures.py",),
    "vamper.core.printing.ink": ("tests/formats/test_print_measures.py",),
    "vamper.core.cutting.path": ("tests/core/test_cut_path.py",),
    "vamper.core.cutting.belief": ("tests/core/test_ladder.py",),
    "vamper.core.cutting.ladder": ("tests/core/test_ladder.py",),
    "vamper.core.cutting.depth": ("tests/core/test_cutting.py", "tests/core/test_ladder.py"),
    "vamper.core.cutting.dialect": ("tests/core/test_dialect.py",),
    "vamper.core.cutting.drops": ("tests/core/test_drops.py", "tests/formats/test_bench_files.py"),
    "vamper.core.cutting.care": ("tests/core/test_care.py",),
    "vamper.core.cutting.neighbours": ("tests/core/test_stocks.py",),
    "vamper.core.cutting.window": ("tests/core/test_window.py",),
    "vamper.core.edge.bends": ("tests/core/test_cutting.py",),
    "vamper.core.bench_card": ("tests/formats/test_bench_files.py",),
    "vamper.core.printing.bleed": ("tests/core/test_bleed.py",),
    "vamper.core.printing.inspect": ("tests/core/test_bleed.py",),
    "vamper.core.printing.page": ("tests/core/test_bleed.py",),
    "vamper.core.printing.guides": ("tests/core/test_two_sided.py",),
    "vamper.core.cutting.setting": ("tests/core/test_cutting.py",),
    "vamper.core.cutting.plan": ("tests/core/test_cutting.py", "tests/core/test_cut_path.py"),
    "vamper.core.cutting.inspect": ("tests/core/test_cutting.py",),
    "vamper.core.values.cutter": ("tests/core/test_cutting.py",),
}
MOST_A_MODULE = 6


def noticed(fault: Fault) -> bool:
    """Whether a test fails with the fault in it; one that hangs is noticed, too."""
    tests = [*_WHOLE, *RULES[fault.module]]
    command = [sys.executable, "-m", "tests.faults.one", fault.module, str(fault.number), *tests]
    try:
        done = subprocess.run(command, cwd=ROOT, capture_output=True, timeout=SECONDS, check=False)
    except subprocess.TimeoutExpired:
        return True
    return done.returncode != 0


def main(most: int = MOST_A_MODULE) -> None:
    faults = [fault for module in RULES for fault in faults_of(module, most)]
    with ThreadPoolExecutor(os.cpu_count() or 2) as several:
        seen = list(several.map(noticed, faults))
    by_module = Counter(fault.module for fault in faults)
    caught = Counter(fault.module for fault, was in zip(faults, seen, strict=True) if was)
    for module, count in by_module.items():
        print(f"{module:45} {caught[module]:3} of {count}")
    for fault, was in zip(faults, seen, strict=True):
        if not was:
            print(f"nobody noticed {fault.module}:{fault.line} {fault.what}")
    print(f"noticed {sum(seen)} of {len(seen)}, {100 * sum(seen) / len(seen):.0f} %")


if __name__ == "__main__":
    main(*(int(word) for word in sys.argv[1:]))
