"""Planning a whole job from its art files, packing included, and how long a packing may take."""

import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from vamper.core.plan import Plan
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.pack import pack
from vamper.core.values.job import Job
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.design.job_design import design_job

DEFAULT_SECONDS = 5.0


@dataclass
class TimedWatch:
    """Lets a packing run for some seconds, or until it is told to stop; passes every better layout on.

    Parameters
    ----------
    seconds : float
        How long it may take, with what was granted since.
    on_better : callable
        Sees each better layout.
    stopped : Event
        Set where it is to stop.
    started : float
        When it began, by the monotonic clock, s.
    spare_s : float
        What it may have besides, where it asks for more.
    grace_s : float
        How much of what the engine lost on a busy machine it may get back.
    """

    seconds: float
    on_better: Callable[[Layout], None] = lambda _layout: None
    stopped: threading.Event = field(default_factory=threading.Event)
    started: float = field(default_factory=time.monotonic)
    spare_s: float = 0.0
    grace_s: float = 0.0

    def seconds_left(self) -> float:
        if self.stopped.is_set():
            return 0.0
        return self.seconds - (time.monotonic() - self.started)

    def more(self, seconds: float) -> bool:
        if seconds > self.spare_s or self.stopped.is_set():
            return False
        self.spare_s -= seconds
        self.seconds += seconds
        return True

    def lost(self, seconds: float) -> float:
        back = 0.0 if self.stopped.is_set() else min(seconds, self.grace_s)
        self.grace_s -= back
        self.seconds += back
        return back

    def cut_short(self, seconds: float) -> None:
        """Leave it no more than this many seconds from now."""
        self.seconds = min(self.seconds, time.monotonic() - self.started + seconds)
        self.spare_s = self.grace_s = 0.0

    def better(self, layout: Layout) -> None:
        self.on_better(layout)


def plan_job(
    job: Job,
    arts: Sequence[ArtFile],
    designer: Designer,
    nester: Nester,
    seconds: float = DEFAULT_SECONDS,
    seed: int = 1,
) -> Plan:
    """The plan of a job, packing included; blocks for up to `seconds`."""
    design = design_job(job, arts, designer)
    return design.planned(pack(design.problem(seed), nester, TimedWatch(seconds)))
