"""Child processes that start in milliseconds: forked from a small server process that has read the dear modules.

The nesting engine and the reading of art both work in children, so that either can be ended at once, whatever it is
doing, and takes nothing with it.
"""

import multiprocessing
import sys
import threading
from collections.abc import Callable
from functools import lru_cache
from multiprocessing.connection import Connection
from multiprocessing.context import BaseContext
from multiprocessing.process import BaseProcess
from types import ModuleType
from typing import Any

_METHODS = ("forkserver", "spawn")
READ_AHEAD = (
    "vamper.services.packing.nesting_process",
    "vamper.services.work.reading_room",
    "vamper.services.design.art_reading",
    "vamper.services.work.forked_with",
)


_one_at_a_time = threading.Lock()


# A command that ends soon forks its children off itself.
_from_here: list[str] = []


def fork_from_here() -> None:
    """Take children from this very process from now on: for a command that reads one file and ends, which has read all
    modules that they need and has no other threads. Nothing is changed where children are at work already.
    """
    if _context.cache_info().currsize == 0 and "fork" in multiprocessing.get_all_start_methods():
        _from_here.append("fork")


@lru_cache(maxsize=1)
def _context() -> BaseContext:
    """Where children come from; there is one such place in a program."""
    method = next(name for name in (*_from_here, *_METHODS) if name in multiprocessing.get_all_start_methods())
    context = multiprocessing.get_context(method)
    if method == "forkserver":
        context.set_forkserver_preload(list(READ_AHEAD))
    return context


def start_child(target: Callable[..., None], *arguments: Any) -> BaseProcess:
    """A child that runs a function of a module; it ends with its parent at the latest."""
    child: BaseProcess = _context().Process(target=target, args=arguments, daemon=True)  # type: ignore[attr-defined]
    # A child would first read the program's own file again, which takes a second and is needed for nothing.
    with _one_at_a_time:
        program, sys.modules["__main__"] = sys.modules["__main__"], ModuleType("__main__")
        try:
            child.start()
        finally:
            sys.modules["__main__"] = program
    return child


def pipe(duplex: bool) -> tuple[Connection, Connection]:
    """Two ends to speak to a child; one-way pipes are read at the first and written at the second."""
    return _context().Pipe(duplex)


def warm_up() -> None:
    """Start the server process, so that the first child does not wait for it."""
    start_child(_nothing).join()


def _nothing() -> None:
    pass
