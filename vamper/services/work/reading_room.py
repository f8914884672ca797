"""Where files from outside are read: in a child process with limits, at most two at once, first come, first served.

Whatever a file makes its reader do (take all memory, run for ever, break down) happens to the child. The child is
ended, and whoever asked gets one sentence. Its time is what it works itself: a machine that is busy or was asleep
makes no file too slow, as long as somebody would still wait. A task is a function of a module, its arguments and its
answer travel pickled; large arrays among them travel beside the pickle, through files in memory that need no copying.
"""

import contextlib
import math
import mmap
import os
import pickle
import resource
import signal
import tempfile
import time
from collections.abc import Callable
from multiprocessing import reduction
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from vamper.core.values.findings import BadInput
from vamper.services.work.children import pipe, start_child
from vamper.services.work.turns import Turns

T = TypeVar("T")

MOST_BYTES = 2**30
MOST_SECONDS = 15.0
SEATS = 2
# Waited in all, for each second that a task may work.
_PATIENCE = 4
_NICE = 5
_POLL_S = 0.05
_OUTSIDE_PICKLE = 2**16

TOO_SLOW = (
    f"reading it takes longer than {MOST_SECONDS:g} seconds; make it simpler (fewer filters, points or layers), "
    "or export it as a PNG"
)
TOO_MUCH = "reading it takes more than 1 GB of memory; export it smaller or simpler"
BROKE_DOWN = "its reader broke down on it; save it again, best as a PNG"


class ReadingRoom:
    """Runs tasks on files from outside; safe to use from several threads at once.

    Parameters
    ----------
    most_bytes : int
        Memory that a task may take.
    most_seconds : float
        Time that a task may work, in whole seconds; waiting for a seat or for a busy machine does not count, but
        nobody waits longer than four times that.
    too_slow : str
        What is said when it takes longer.
    """

    def __init__(
        self,
        most_bytes: int = MOST_BYTES,
        most_seconds: float = MOST_SECONDS,
        seats: int = SEATS,
        too_slow: str = TOO_SLOW,
    ) -> None:
        self._most_bytes = most_bytes
        self._most_seconds = most_seconds
        self._too_slow = too_slow
        self._turns = Turns(seats)

    def run(self, task: Callable[..., T], *arguments: Any) -> T:
        """The task's answer.

        Raises
        ------
        BadInput
            What the task raised, or a sentence that says which limit it ran into.
        """
        with self._turns.seat():
            answer: T = self._ask(task, arguments)
            return answer

    def _ask(self, task: Callable[..., Any], arguments: tuple[Any, ...]) -> Any:
        here, there = pipe(duplex=True)
        child = start_child(_work, there, self._most_bytes, math.ceil(self._most_seconds))
        there.close()
        ends_at = time.monotonic() + _PATIENCE * self._most_seconds
        try:
            assert child.pid is not None
            _send(here, (task, arguments), child.pid)
            while not here.poll(_POLL_S):
                if time.monotonic() > ends_at:
                    raise BadInput(self._too_slow)
            succeeded, answer = _receive(here)
        except (EOFError, ConnectionError):
            child.join(1)
            endings = {-signal.SIGABRT: TOO_MUCH, -signal.SIGXCPU: self._too_slow}
            raise BadInput(endings.get(child.exitcode or 0, BROKE_DOWN)) from None
        finally:
            child.kill()
            child.join()
            child.close()
            here.close()
        if not succeeded:
            raise answer
        return answer


def _work(connection: Connection, most_bytes: int, most_seconds: int) -> None:
    """In the child: take one task, answer, end."""
    os.nice(_NICE)
    try:
        task, arguments = _receive(connection)
        _limit(most_bytes, most_seconds)
        answer: tuple[bool, Any] = (True, task(*arguments))
    except (EOFError, ConnectionError):
        return
    except MemoryError:
        answer = (False, BadInput(TOO_MUCH))
    except BadInput as bad:
        answer = (False, BadInput(bad.sentence, bad.where))
    except RecursionError:
        answer = (False, BadInput(BROKE_DOWN))
    with contextlib.suppress(ConnectionError):
        _send(connection, answer, os.getppid())
    # Nothing of the child is worth tidying up, and large arrays take a while to.
    os._exit(0)


def _limit(most_bytes: int, most_seconds: int) -> None:
    """No more memory than so much beyond what is there now, and no more work; no core files when that ends badly."""
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    ends_at = math.ceil(time.process_time()) + most_seconds
    # At the harder limit, a second later, it is killed without being told why.
    resource.setrlimit(resource.RLIMIT_CPU, (ends_at, ends_at + 1))
    try:
        with open("/proc/self/statm") as pages:
            now = int(pages.read().split()[0]) * resource.getpagesize()
    except OSError:
        now = 0
    resource.setrlimit(resource.RLIMIT_AS, (now + most_bytes, now + most_bytes))


# Values on their way


def _send(connection: Connection, value: Any, to_process: int) -> None:
    buffers: list[pickle.PickleBuffer] = []

    def outside(buffer: pickle.PickleBuffer) -> bool:
        if buffer.raw().nbytes < _OUTSIDE_PICKLE:
            return True
        buffers.append(buffer)
        return False

    pickled = pickle.dumps(value, protocol=5, buffer_callback=outside)
    raws = [buffer.raw() for buffer in buffers]
    connection.send(([raw.nbytes for raw in raws], pickled))
    if not raws:
        return
    memory = _file_in_memory()
    try:
        for raw in raws:
            written = 0
            while written < raw.nbytes:
                written += os.write(memory, raw[written:])
        reduction.send_handle(connection, memory, to_process)
    finally:
        os.close(memory)


def _receive(connection: Connection) -> Any:
    sizes, pickled = connection.recv()
    if not sizes:
        return pickle.loads(pickled)
    memory = reduction.recv_handle(connection)
    try:
        # Pages of it take no room in a process that never looks at them.
        whole = memoryview(mmap.mmap(memory, sum(sizes), access=mmap.ACCESS_READ))
    finally:
        os.close(memory)
    ends = [sum(sizes[: n + 1]) for n in range(len(sizes))]
    return pickle.loads(pickled, buffers=[whole[end - size : end] for end, size in zip(ends, sizes, strict=True)])


def _file_in_memory() -> int:
    if hasattr(os, "memfd_create"):
        return os.memfd_create("vamper")
    with tempfile.TemporaryFile() as file:
        return os.dup(file.fileno())
