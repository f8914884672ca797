"""Which tests reach a line of core or of a use-case: asked of one run of the tests under coverage.

`reached()` runs core's tests, and those of formats and services that hold its rules against files and whole jobs, once.
It keeps for each of their lines the tests that came by it. A fault is then tried against these alone: no
other test could notice it. What a module says once, when it is imported (a table, a limit), no test is seen to come
by; such a line has the tests of its whole module and of the files that import from it, and those that hold what was
published or approved against what the program says. What one run told is kept for the same sources.
"""

import hashlib
import os
import shutil
import subprocess
import sys
import tempfile
from collections import Counter
from pathlib import Path
from xml.etree import ElementTree

from coverage import CoverageData

from tests.faults.mutants import ROOT

TESTS = (
    "tests/core",
    "tests/approved",
    "tests/formats",
    "tests/services",
    "tests/api",
)
# They hold limits, defaults and tables against what was published or approved, without coming by a line of these.
PUBLISHED = (
    "tests/formats/test_jobfile.py::test_the_published_schemas_are_current",
    "tests/api/test_api.py::test_the_generated_client_is_current",
    "tests/approved/test_approved.py",
)
_APPROVED = "tests/approved/"
_KEPT = ROOT / ".faults"
# More failing tests than that, of all: something is wrong with the program, not with a clock.
_MOST_FAILED = 0.01


class Reached:
    """The tests that come by the lines of core."""

    def __init__(self, data: CoverageData, seconds: dict[str, float]) -> None:
        self._seconds = seconds
        self._lines: dict[str, dict[int, list[str]]] = {
            Path(file).relative_to(ROOT).as_posix(): data.contexts_by_lineno(file) for file in data.measured_files()
        }

    def all_tests(self) -> list[str]:
        contexts = {context for lines in self._lines.values() for names in lines.values() for context in names}
        return sorted({_node(context) for context in contexts} & self._seconds.keys())

    def tests(self, file: str, line: int, within_s: float) -> list[str]:
        """Node names of the tests for a line: those that come by it, in all `within_s` long; what was published."""
        lines = self._lines.get(file, {})
        names = {_node(context) for context in lines.get(line, [])} & self._seconds.keys()
        published = () if names else PUBLISHED
        if not names:
            everywhere = {_node(context) for contexts in lines.values() for context in contexts}
            names = (everywhere & self._seconds.keys()) | self._naming(file)
        chosen, spent = [], 0.0
        for name in self._in_turn(names):
            spent += self._seconds[name]
            if chosen and spent > within_s:
                break
            chosen.append(name)
        return [*published, *chosen]

    def _in_turn(self, names: set[str]) -> list[str]:
        """What was approved, then the quickest test of every file, the second of each, and so on: files look at
        different things.
        """
        seen = Counter[str]()
        turns = []
        for name in sorted(names, key=lambda name: (self._seconds[name], name)):
            file = name.partition("::")[0]
            turns.append((-1 if file.startswith(_APPROVED) else seen[file], self._seconds[name], name))
            seen[file] += 1
        return [name for _, _, name in sorted(turns)]

    def _naming(self, file: str) -> set[str]:
        """The tests in files that import from a module, or from the package that it is a kind of.

        Of a module that holds a table or a kind only, no line is come by.
        """
        module = file.removesuffix(".py").replace("/", ".")
        sources = {one: (ROOT / one).read_text() for one in {name.partition("::")[0] for name in self._seconds}}
        while module.count(".") > 1:
            naming = {one for one, source in sources.items() if f"from {module}" in source}
            if naming:
                return {name for name in self._seconds if name.partition("::")[0] in naming}
            module = module.rpartition(".")[0]
        return set()


def _node(context: str) -> str:
    return context.split("|")[0]


def reached() -> Reached:
    """What the tests come by, from a run of them or the one before. Raises RuntimeError where they do not pass."""
    kept = _KEPT / _digest()
    if not kept.exists():
        shutil.rmtree(_KEPT, ignore_errors=True)
        with tempfile.TemporaryDirectory() as folder:
            _run_under_coverage(Path(folder))
            shutil.copytree(folder, kept)
    data = CoverageData(str(kept / "coverage"))
    data.read()
    known = Reached(data, _seconds(kept / "tests.xml"))
    _check_names(known.all_tests())
    return known


def _digest() -> str:
    files = sorted(file for folder in ("vamper", "tests") for file in (ROOT / folder).rglob("*.py"))
    return hashlib.sha256(b"".join(file.read_bytes() for file in files)).hexdigest()[:16]


def _run_under_coverage(folder: Path) -> None:
    report, config = folder / "tests.xml", folder / "coveragerc"
    config.write_text(f"[run]\ndata_file = {folder / 'coverage'}\n")
    command = [sys.executable, "-m", "pytest", "-n", "3", "--dist", "loadfile", "-q", f"--junitxml={report}",
               "--cov=vamper.core", "--cov=vamper.services", "--cov-context=test", f"--cov-config={config}",
               "--cov-report="]  # fmt: skip
    alone = {**os.environ, "VAMPER_EACH_TEST_ALONE": "1"}
    done = subprocess.run([*command, *TESTS], cwd=ROOT, env=alone, capture_output=True, text=True, check=False)
    seconds = _seconds(report)
    if done.returncode and not (seconds and _failed(report) <= _MOST_FAILED * len(seconds)):
        raise RuntimeError(f"the tests fail without any fault:\n{done.stdout[-2000:]}")


def _check_names(names: list[str]) -> None:
    """A name that pytest does not know would look like a noticed fault. Raises RuntimeError."""
    command = [sys.executable, "-m", "pytest", "--collect-only", "-q", *names]
    done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
    if done.returncode:
        raise RuntimeError(f"tests that came by lines are not found again:\n{done.stderr[-2000:]}")


def _seconds(report: Path) -> dict[str, float]:
    """How long each test that passed took, by its node name; what fails without a fault can tell nothing of one."""
    taken: dict[str, float] = {}
    for case in ElementTree.parse(report).iter("testcase"):
        if case.find("failure") is None and case.find("error") is None:
            taken[f"{_place(case.get('classname') or '')}::{case.get('name')}"] = float(case.get("time") or 0)
    return taken


def _place(dotted: str) -> str:
    """A file, with the class in it where the report names one."""
    *names, last = dotted.split(".")
    file, held = "/".join(names), f"::{last}"
    return f"{file}.py{held}" if (ROOT / f"{file}.py").exists() else f"{file}/{last}.py"


def _failed(report: Path) -> int:
    return sum(1 for case in ElementTree.parse(report).iter("testcase") if len(case))
