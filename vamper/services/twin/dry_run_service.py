"""Dry runs in the background: one a job, with its progress, a way to stop it, and its result.

The result of the last run is kept until the next, also when the job has changed since: then it is told apart as old.
"""

import itertools
import logging
import threading
from collections.abc import Callable
from dataclasses import dataclass, field, replace

import numpy as np

from vamper.core.plan import Plan
from vamper.core.twin.devices import Devices
from vamper.core.twin.faults import with_faults
from vamper.core.twin.scan import BoxMm, Pixels, pixels_of
from vamper.core.values.findings import BadInput
from vamper.core.values.twin import FaultKey
from vamper.formats.out.picture_files import write_jpeg
from vamper.services.handoff.drafts import Pictures
from vamper.services.twin.dry_runs import SENSED_PPI, DryRunFiles, Stopped, devices_for, dry_run
from vamper.services.twin.helps import NOTHING_HELPS, Helps, what_helps
from vamper.services.twin.pictures import scanned
from vamper.services.work.cache import Cache
from vamper.services.work.not_found import NotFound
from vamper.store.trouble import StoreTrouble

_LOG = logging.getLogger(__name__)
# Pictures and runs of so many jobs are kept; the oldest goes.
_KEPT = 6
_SCAN_BYTES = 120 * 2**20
# Packing is waited for in so many steps, each so long.
_LAYOUT_STEPS, _LAYOUT_STEP_S = 100, 0.3
# What gives the plan as it is now, and whether its packing is still under way.
Latest = Callable[[], tuple[Plan, bool]]


@dataclass(frozen=True, slots=True)
class DryRunRequest:
    """How a dry run is made: how often, whether what nobody knows yet is drawn anew each time, with which faults."""

    runs: int
    unsure: bool = True
    faults: tuple[FaultKey, ...] = ()
    seed: int = 1


@dataclass
class DryRunStatus:
    """One dry run, and how far it is.

    Parameters
    ----------
    asked, plan : DryRunRequest, Plan
        How many runs of what.
    done, of, doing : int, int, str
        Steps done, steps in all, and what it does, in words.
    running, problem : bool, str
        Whether it is at work, and why it ended without a result.
    found, found_asked : DryRunFiles or None, DryRunRequest
        What came of it, and what that was asked for.
    helps : Helps
        What would help.
    stopped : Event
        Set to end it.
    """

    asked: DryRunRequest
    plan: Plan
    done: int = 0
    of: int = 1
    doing: str = "printing"
    running: bool = True
    problem: str = ""
    found: DryRunFiles | None = None
    found_asked: DryRunRequest = DryRunRequest(1)
    helps: Helps = NOTHING_HELPS
    stopped: threading.Event = field(default_factory=threading.Event)

    @property
    def share(self) -> float:
        return min(1.0, self.done / max(self.of, 1)) if self.running else 1.0

    def is_of(self, plan: Plan) -> bool:
        """Whether a plan is still the plan that was run."""
        ran = self.plan if self.found is None else self.found.plan
        return ran is plan or (ran.asked == plan.asked and ran.layout == plan.layout)


class DryRunService:
    """The dry runs of a workshop."""

    def __init__(self) -> None:
        self._of: dict[int, DryRunStatus] = {}
        self._lock = threading.Lock()
        self._count = itertools.count(1)
        self._scans: Cache[Pixels] = Cache(_SCAN_BYTES, lambda scan: scan.nbytes)

    def begin(
        self, job_id: int, plan: Plan, pictures: Pictures, asked: DryRunRequest, latest: Latest | None = None
    ) -> DryRunStatus:
        """Run a job's plan, in the background; a run that is still going is stopped. Where `latest` is given, packing
        may end first, for a while: a run of a layout that is replaced at once would tell of another sheet.

        Raises
        ------
        BadInput
            If nothing lies on a sheet.
        """
        if not plan.sheets:
            raise BadInput("nothing lies on a sheet, so there is nothing to run; add art first", "items")
        self.stop(job_id)
        with self._lock:
            told = DryRunStatus(asked, plan)
            before = self._of.pop(job_id, None)
            # What came of the last one is shown until this one is done.
            if before is not None and before.found is not None:
                told.found, told.found_asked, told.helps = before.found, before.found_asked, before.helps
            self._of[job_id] = told
            for old in list(self._of)[:-_KEPT]:
                self._of.pop(old).stopped.set()
        threading.Thread(
            target=_run, args=(job_id, told, pictures, next(self._count), latest), daemon=True, name=f"dry-run-{job_id}"
        ).start()
        return told

    def status(self, job_id: int) -> DryRunStatus | None:
        return self._of.get(job_id)

    def picture(self, job_id: int, number: int, sheet: int, ppi: int, box_mm: BoxMm | None) -> bytes:
        """A typical run of a sheet (from 0) of a dry run as a scan (JPEG), or the part of it in a box (left, top,
        width, height).

        Raises
        ------
        NotFound
            If another dry run was made since, or there is no such sheet.
        """
        told = self.status(job_id)
        found = told.found if told is not None else None
        if found is None or found.number != number or not 0 <= sheet < len(found.sheets):
            raise NotFound("this dry run is gone; run it again")
        if box_mm is not None and ppi > SENSED_PPI:
            return write_jpeg(scanned(found, sheet, ppi, box_mm=box_mm), ppi)
        # The usual picture of a whole sheet is looked at anyway, so parts of it are taken from there.
        scan = self._scans.get((job_id, number, sheet, ppi), lambda: scanned(found, sheet, ppi))
        return write_jpeg(scan if box_mm is None else part_of(scan, ppi, box_mm), ppi)

    def stop(self, job_id: int) -> None:
        told = self._of.get(job_id)
        if told is not None:
            told.stopped.set()

    def forget(self, job_id: int) -> None:
        self.stop(job_id)
        self._of.pop(job_id, None)

    def close(self) -> None:
        for told in self._of.values():
            told.stopped.set()


def part_of(scan: Pixels, ppi: float, box_mm: BoxMm) -> Pixels:
    """The part of a scan in a box, at least one pixel of it."""
    left, top, right, bottom = pixels_of(box_mm, ppi, (scan.shape[0], scan.shape[1]))
    return np.ascontiguousarray(scan[top:bottom, left:right])


def _devices(plan: Plan, asked: DryRunRequest) -> Devices:
    return with_faults(devices_for(plan, asked.unsure), asked.faults)


def _packed(told: DryRunStatus, latest: Latest) -> Plan:
    """The plan once its packing has ended, or has gone on for long enough."""
    for step in range(_LAYOUT_STEPS):
        plan, is_packing = latest()
        if not is_packing:
            return plan
        told.doing, told.done, told.of = "packing, which may still find a fuller layout", step, 3 * _LAYOUT_STEPS
        if told.stopped.wait(_LAYOUT_STEP_S):
            raise Stopped
    return latest()[0]


def _run(job_id: int, told: DryRunStatus, pictures: Pictures, number: int, latest: Latest | None) -> None:
    def step(doing: str) -> Callable[[int, int], None]:
        def report(done: int, of: int) -> None:
            if told.stopped.is_set():
                raise Stopped
            told.doing, told.done, told.of = doing, done, of

        return report

    try:
        if latest is not None:
            told.plan = _packed(told, latest)
        found = dry_run(
            told.plan,
            pictures,
            told.asked.runs,
            told.asked.seed,
            _devices(told.plan, told.asked),
            step("printing, reading and cutting"),
        )
        helps = what_helps(found, step("trying what would help")) if found.outcome.sheet_good < 1 else NOTHING_HELPS
        told.found, told.found_asked, told.helps = replace(found, number=number), told.asked, helps
    except Stopped:
        told.problem = ""
    except BadInput as bad:
        told.problem = bad.sentence
    except NotFound:
        # The job, or some of its art, was removed meanwhile.
        told.problem = ""
    except StoreTrouble as trouble:
        told.problem = str(trouble)
    except Exception:
        _LOG.exception("the dry run of job %s broke down", job_id)
        told.problem = "the dry run broke down; nothing was changed, try it again"
    finally:
        told.running = False
