"""A bench prints rows: what was measured, the figure, what it is to be held against."""

import re
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any


@dataclass(frozen=True)
class Row:
    """One measured figure. `wanted` is the figure asked for, in words; empty where none is."""

    what: str
    figure: str
    wanted: str = ""


def show(title: str, rows: list[Row]) -> None:
    """Print rows as a table under a title."""
    print(f"\n{title}")
    widths = [max(len(getattr(row, name)) for row in rows) for name in ("what", "figure")]
    for row in rows:
        print(f"  {row.what:<{widths[0]}}  {row.figure:>{widths[1]}}  {row.wanted}".rstrip())


def timed(run: Callable[[], Any], repeats: int = 1) -> float:
    """Seconds of the fastest of some runs; the others waited for somebody else."""
    best = float("inf")
    for _ in range(repeats):
        started = time.perf_counter()
        run()
        best = min(best, time.perf_counter() - started)
    return best


def peak_mb(process: int | str) -> float:
    """The most memory that a process ever held, by its own page tables; NaN where that is not told.

    Not `ru_maxrss`: a child counts its parent's there.
    """
    return _status_mb(process, "VmHWM")


def now_mb(process: int | str) -> float:
    """The memory that a process holds now."""
    return _status_mb(process, "VmRSS")


def _status_mb(process: int | str, name: str) -> float:
    status = Path(f"/proc/{process}/status")
    if not status.exists():
        return float("nan")
    found = re.search(rf"{name}:\s+(\d+)", status.read_text())
    return int(found[1]) / 1024 if found else float("nan")
