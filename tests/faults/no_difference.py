"""Faults that make no difference: each was looked at, and why nobody could notice it is said beside it.

A fault is known by its module, the function it is in, and what it makes of what; it stays known when lines move or are
written otherwise, and is asked about anew when the function goes by another name. What stands outside functions has
none.
"""

import tomllib
from dataclasses import dataclass
from pathlib import Path

from tests.faults.mutants import Fault

_TABLE = Path(__file__).with_suffix(".toml")


@dataclass(frozen=True)
class Same:
    """One such fault. `module` is without the name of the program."""

    module: str
    function: str
    what: str
    why: str


def no_difference() -> tuple[Same, ...]:
    """All faults that were looked at and make no difference."""
    return tuple(Same(**one) for one in tomllib.loads(_TABLE.read_text())["same"])


def makes_none(fault: Fault, known: tuple[Same, ...]) -> bool:
    """Whether a fault is in the list `known`."""
    module = fault.module.removeprefix("vamper.")
    return any((one.module, one.function, one.what) == (module, fault.function, fault.what) for one in known)
