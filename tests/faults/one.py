"""Runs tests with one fault in one module, in a process forked for it.

Each fault needs the program loaded anew, but not the libraries it stands on: they are loaded once, in the process all
others are forked from (`loaded.py`), which takes most of the time that a fault's few quick tests would need.
"""

import contextlib
import importlib.abc
import importlib.machinery
import multiprocessing
import os
import signal
import sys
from types import ModuleType

from tests.faults.mutants import ROOT, with_fault

_FORKS = multiprocessing.get_context("forkserver")
_FORKS.set_forkserver_preload(["tests.faults.loaded"])


class _Loader(importlib.machinery.SourceFileLoader):
    """Loads the faulty tree in the place of what is written."""

    def __init__(self, name: str, path: str, number: int) -> None:
        super().__init__(name, path)
        self.number = number

    def exec_module(self, module: ModuleType) -> None:
        exec(compile(with_fault(self.name, self.number), self.path, "exec"), module.__dict__)


class _Finder(importlib.abc.MetaPathFinder):
    def __init__(self, module: str, number: int) -> None:
        self.module, self.number = module, number

    def find_spec(
        self, name: str, _path: object = None, _target: object = None
    ) -> importlib.machinery.ModuleSpec | None:
        if name != self.module:
            return None
        file = str(ROOT / (name.replace(".", "/") + ".py"))
        return importlib.machinery.ModuleSpec(name, _Loader(name, file, self.number), origin=file)


def _run(module: str, number: int, tests: list[str]) -> None:
    """Ends the process like pytest ends."""
    import pytest

    os.setsid()
    nowhere = os.open(os.devnull, os.O_RDWR)
    for stream in (0, 1, 2):
        os.dup2(nowhere, stream)
    sys.meta_path.insert(0, _Finder(module, number))
    code = pytest.main(["-x", "-q", "-p", "no:xdist", "-p", "no:cacheprovider", "--no-header", "--tb=no", *tests])
    # Threads and resources of what failed are not waited for.
    os._exit(int(code))


def fails(module: str, number: int, tests: list[str], within_s: float) -> bool:
    """Whether one of the tests fails with the fault in the module; one that hangs fails, too."""
    process = _FORKS.Process(target=_run, args=(module, number, tests))
    process.start()
    process.join(within_s)
    hung = process.is_alive()
    assert process.pid
    # What the tests began of their own ends with them.
    with contextlib.suppress(ProcessLookupError):
        os.killpg(process.pid, signal.SIGKILL)
    process.join()
    return hung or process.exitcode != 0


if __name__ == "__main__":
    faulty, fault, *named = sys.argv[1:]
    print("noticed" if fails(faulty, int(fault), named, 600) else "nobody noticed")
