"""The nesting engine in a child process, so that it can be stopped at once.

A thread inside the engine cannot be stopped, a process ends in milliseconds. Children report every better solution
through a pipe and are ended as soon as the packing has what it wants.
"""

import os
import threading
import time
from collections.abc import Callable
from multiprocessing.connection import Connection

import spyrrow

from vamper.core.sheet.nesting import NestRequest, NestSolution, config_of, instance_of, solution_of
from vamper.services.children import pipe, start_child, warm_up

_POLL_S = 0.01
_ASK_S = 0.1
_NICE = 10


class ProcessNester:
    """Runs each request in a child of its own; safe to use from several threads at once."""

    def warm_up(self) -> None:
        """Start the server process, so that the first packing does not wait for it."""
        warm_up()

    def nest(
        self,
        request: NestRequest,
        seconds: float,
        on_solution: Callable[[NestSolution], bool],
        given_up: Callable[[], bool],
    ) -> None:
        """Ask the engine for at most `seconds`; ends early when `on_solution` or `given_up` returns True."""
        ends_at = time.monotonic() + seconds
        receiver, sender = pipe(duplex=False)
        child = start_child(_solve, request, seconds, sender)
        sender.close()
        try:
            while (left := ends_at - time.monotonic()) > 0 and not given_up():
                if not receiver.poll(min(left, _ASK_S)):
                    continue
                width, placed_items = receiver.recv()
                if on_solution(solution_of(request, width, placed_items)):
                    return
        except EOFError:
            return
        finally:
            child.kill()
            child.join()
            receiver.close()


def _solve(request: NestRequest, seconds: float, sender: Connection) -> None:
    """In the child: run the engine and send each feasible solution as it is found; the page comes first."""
    os.nice(_NICE)
    queue = spyrrow.ProgressQueue()
    instance, config = instance_of(request), config_of(request, seconds)
    engine = threading.Thread(target=instance.solve, args=(config, queue), daemon=True)
    engine.start()
    shortest = float("inf")
    alive = True
    while alive:
        alive = engine.is_alive()
        for kind, solution in queue.drain():
            if kind in _FEASIBLE and solution.width < shortest:
                shortest = solution.width
                try:
                    sender.send((solution.width, [(p.id, *p.translation, p.rotation) for p in solution.placed_items]))
                except BrokenPipeError:
                    # Whoever asked is gone, killed perhaps; nobody waits for an answer.
                    os._exit(0)
        time.sleep(_POLL_S)
    sender.close()


_FEASIBLE = (spyrrow.ReportType.ExplFeas, spyrrow.ReportType.CmprFeas, spyrrow.ReportType.Final)
