"""How much of its time a process is held up: its threads wait for a core that others use, or the machine itself waits.

An engine that may work for ten seconds gets ten on a quiet machine and three on a busy one. What it does in that time
cannot be asked of it, but the kernel counts for every thread how long it ran and how long it was ready and had to wait,
and how much of the whole machine's time was taken by others on the same host. Where a system does not tell, nothing
counts as lost.
"""

import time
from dataclasses import dataclass, field
from pathlib import Path

_THREADS, _MACHINE = Path("/proc/self/task"), Path("/proc/stat")


@dataclass(frozen=True, slots=True)
class KernelCounts:
    """What the kernel has counted so far.

    Parameters
    ----------
    at_s : float
        When it was asked, by the monotonic clock.
    ran_ns, waited_ns : int
        How long this process's threads ran, and were ready to run and had to wait.
    worked, stolen : int
        The machine's ticks that were worked, and those that its host gave to others.
    """

    at_s: float
    ran_ns: int
    waited_ns: int
    worked: int
    stolen: int


def lost_between(before: KernelCounts, after: KernelCounts) -> float:
    """The seconds that were lost between two counts."""
    ran, waited = max(0, after.ran_ns - before.ran_ns), max(0, after.waited_ns - before.waited_ns)
    worked, stolen = max(0, after.worked - before.worked), max(0, after.stolen - before.stolen)
    got = (ran / (ran + waited) if waited else 1.0) * (worked / (worked + stolen) if stolen else 1.0)
    return (after.at_s - before.at_s) * (1.0 - got)


def count_now(threads: Path = _THREADS, machine: Path = _MACHINE) -> KernelCounts:
    """What the kernel tells now; zeros for what it does not tell."""
    ran = waited = 0
    for thread in threads.glob("*/schedstat"):
        try:
            one_ran, one_waited, _ = thread.read_text().split()
        except (OSError, ValueError):
            # A thread that has ended meanwhile.
            continue
        ran, waited = ran + int(one_ran), waited + int(one_waited)
    try:
        user, nice, system, _, _, irq, soft, stolen = map(int, machine.read_text().split("\n", 1)[0].split()[1:9])
    except (OSError, ValueError):
        user = nice = system = irq = soft = stolen = 0
    return KernelCounts(time.monotonic(), ran, waited, user + nice + system + irq + soft, stolen)


@dataclass
class LostTime:
    """Tells from time to time what this process lost since it was asked last."""

    last: KernelCounts = field(default_factory=count_now)

    def since_last(self) -> float:
        """The seconds lost since the last call."""
        before, self.last = self.last, count_now()
        return lost_between(before, self.last)
