"""Faults that make no difference: each was looked at, and why nobody could notice it is said beside it.

A fault is known by its module, the line of source that it is in, and what it makes of what; it stays known when the
line moves, and is asked about anew when the line changes.
"""

import tomllib
from dataclasses import dataclass
from pathlib import Path

from tests.faults.mutants import ROOT, Fault

_TABLE = Path(__file__).with_suffix(".toml")


@dataclass(frozen=True)
class Same:
    """One of them. `module` is without what all modules of core begin with."""

    module: str
    line: str
    what: str
    why: str


def no_difference() -> tuple[Same, ...]:
    """All of them."""
    return tuple(Same(**one) for one in tomllib.loads(_TABLE.read_text())["same"])


def makes_none(fault: Fault, known: tuple[Same, ...]) -> bool:
    """Whether a fault is one of those."""
    file = ROOT / (fault.module.replace(".", "/") + ".py")
    line, module = file.read_text().splitlines()[fault.line - 1].strip(), fault.module.removeprefix("vamper.core.")
    return any((one.module, one.line, one.what) == (module, line, fault.what) for one in known)
