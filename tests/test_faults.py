"""What is said to make no difference is there: its module, its function, and the change."""

import ast
from pathlib import Path

import pytest

from tests.faults.mutants import faults_of
from tests.faults.no_difference import Same, no_difference


@pytest.mark.parametrize("one", no_difference(), ids=lambda one: f"{one.module}.{one.function} {one.what}")
def test_a_fault_that_makes_no_difference_can_be_made(one: Same) -> None:
    found = faults_of(f"vamper.{one.module}", 10_000)
    assert any((fault.function, fault.what) == (one.function, one.what) for fault in found)


def test_a_fault_knows_its_function() -> None:
    for fault in faults_of("vamper.core.cutting.known_outcomes", 10_000):
        if fault.function:
            name = fault.function.split(".")[-1]
            source = Path(f"{fault.module.replace('.', '/')}.py").read_text()
            nodes = [one for one in ast.walk(ast.parse(source)) if getattr(one, "name", None) == name]
            assert any(one.lineno <= fault.line <= one.end_lineno for one in nodes)  # type: ignore[attr-defined]
