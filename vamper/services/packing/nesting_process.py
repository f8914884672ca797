"""The nesting engine in a child process, so that it can be stopped at once.

A thread inside the engine cannot be stopped, a process ends in milliseconds. Children report every better solution
through a pipe and are ended as soon as the packing has what it wants.
"""

import os
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from multiprocessing.connection import Connection, wait
from multiprocessing.process import BaseProcess

import spyrrow

from vamper.core.sheet.pack.nesting import Attempt, Lane, NestRequest, config_of, instance_of, solution_of
from vamper.services.work.children import pipe, start_child, warm_up
from vamper.services.work.held_up import LostTime

_POLL_S = 0.01
_ASK_S = 0.1
# How often a child tells what it lost, and from how much on.
_TELL_S, _TOLD_FROM_S = 0.5, 0.02
_NICE = 10


@dataclass
class _Running:
    """An attempt in its child, and the lane that it is of."""

    lane: Lane
    attempt: Attempt
    child: BaseProcess
    answers: Connection
    ends_at: float

    def end(self) -> None:
        self.child.kill()
        self.child.join()
        self.answers.close()


class ProcessNester:
    """Runs each attempt in a child of its own; safe to use from several threads at once."""

    @property
    def cores(self) -> int:
        """How many cores this machine lets the engine use."""
        return len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1

    def warm_up(self) -> None:
        """Start the server process, so that the first packing does not wait for it."""
        warm_up()

    def race(
        self, lanes: Sequence[Lane], given_up: Callable[[], bool], meanwhile: Callable[[], bool] | None = None
    ) -> None:
        """Ask the engine for each lane's attempts, lanes side by side, until all have ended or it is given up."""
        running = [one for lane in lanes if (one := _next_of(lane))]
        busy = meanwhile is not None
        try:
            while running and not given_up():
                soonest = min(one.ends_at for one in running)
                most_s = 0.0 if busy else max(0.0, min(soonest - time.monotonic(), _ASK_S))
                ready = wait([one.answers for one in running], most_s)
                if not ready and meanwhile:
                    busy = meanwhile()
                for one in list(running):
                    over = _over(one) if one.answers in ready else time.monotonic() >= one.ends_at
                    if not (over or one.attempt.tired()):
                        continue
                    one.end()
                    running.remove(one)
                    if not given_up() and (after := _next_of(one.lane)):
                        running.append(after)
        finally:
            for one in running:
                one.end()


def _next_of(lane: Lane) -> _Running | None:
    attempt = next(lane, None)
    if attempt is None:
        return None
    receiver, sender = pipe(duplex=False)
    child = start_child(_solve, attempt.request, attempt.seconds, attempt.workers, sender)
    sender.close()
    return _Running(lane, attempt, child, receiver, time.monotonic() + attempt.seconds)


def _over(one: _Running) -> bool:
    """Hand the next answer on; whether the attempt is over with it."""
    try:
        told = one.answers.recv()
    except EOFError:
        return True
    if isinstance(told, float):
        one.ends_at += one.attempt.on_lost(told)
        return time.monotonic() >= one.ends_at
    width, placed_items = told
    return one.attempt.on_solution(solution_of(one.attempt.request, width, placed_items))


def _solve(request: NestRequest, seconds: float, workers: int, sender: Connection) -> None:
    """In the child: run the engine and send each feasible solution as it is found, and the seconds that it was held up;
    the page comes first.
    """
    os.nice(_NICE)
    queue = spyrrow.ProgressQueue()
    instance, config = instance_of(request), config_of(request, seconds, workers)
    engine = threading.Thread(target=instance.solve, args=(config, queue), daemon=True)
    engine.start()
    shortest = float("inf")
    alive, lost = True, LostTime()
    try:
        while alive:
            alive = engine.is_alive()
            for kind, solution in queue.drain():
                if kind in _FEASIBLE and solution.width < shortest:
                    shortest = solution.width
                    sender.send((solution.width, [(p.id, *p.translation, p.rotation) for p in solution.placed_items]))
            if time.monotonic() - lost.last.at_s >= _TELL_S and (seconds := lost.since_last()) > _TOLD_FROM_S:
                sender.send(seconds)
            time.sleep(_POLL_S)
    except BrokenPipeError:
        # Whoever asked is gone, killed perhaps; nobody waits for an answer.
        os._exit(0)
    sender.close()


_FEASIBLE = (spyrrow.ReportType.ExplFeas, spyrrow.ReportType.CmprFeas, spyrrow.ReportType.Final)
