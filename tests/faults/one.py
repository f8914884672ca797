"""Runs tests with one fault in one module: `python -m tests.faults.one MODULE NUMBER TESTS …`; ends like pytest."""

import importlib.abc
import importlib.machinery
import sys
from types import ModuleType

import pytest

from tests.faults.mutants import ROOT, with_fault


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


if __name__ == "__main__":
    faulty, fault, *tests = sys.argv[1:]
    sys.meta_path.insert(0, _Finder(faulty, int(fault)))
    sys.exit(pytest.main(["-x", "-q", "-p", "no:randomly", "-p", "no:xdist", "--no-header", "--tb=no", *tests]))
