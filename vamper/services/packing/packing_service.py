"""Packing in the background: one run a job, the best layout so far always kept, listeners told of every change.

A run belongs to a *key*, the digest of everything it packs. Looking starts nothing: what nobody has searched yet lies
in plain rows and says so (`WAITING`). When a run for a new key begins, the one for the old key is stopped; a key whose
search has ended is not searched again, so undo brings its layout back at once. Layouts are stored as they are found: a
restart loses nothing but the search, and says so (`INTERRUPTED`); a search that breaks down keeps its best (`BROKEN`).
Searches take turns, and say that they wait for theirs (`QUEUED`). A layout that is all held needs no run.
"""

import hashlib
import json
import logging
import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from enum import StrEnum

from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.filling import FILLING_SECONDS
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem
from vamper.formats.layout_document import layout_document
from vamper.services.packing.kept_layouts import KEPT_LAYOUTS, KeptLayouts
from vamper.services.packing.keyed_problem import KeyedProblem
from vamper.services.packing.planning import TimedWatch
from vamper.services.work.cache import Cache
from vamper.services.work.turns import Turns
from vamper.store.database import Sessions

_LOG = logging.getLogger(__name__)

SEARCH_SECONDS = 20.0
# Many pieces get more time, up to a limit.
_SECONDS_A_PIECE = 0.25
_MOST_SECONDS = 120.0
# What a search may take besides, where one sheet fewer is nearly found, as a share of its time: on a slow machine the
# same work takes longer. On a busy one it gets back what it lost, up to so many times its time.
_SPARE, _GRACE = 1.0, 2.0
# While a search runs, its best layout is written down this often.
_STORE_EVERY_S = 1.0
_FIRST_LAYOUT_S = 12.0
# Layouts of a run that a page may still show.
_REMEMBERED = 64
# Two searches at once keep both cores busy; more would only starve each other and the page.
_AT_ONCE = 2


class PackingState(StrEnum):
    """Where the search for a job's layout stands."""

    WAITING = "waiting"
    QUEUED = "queued"
    SEARCHING = "searching"
    DONE = "done"
    STOPPED = "stopped"
    INTERRUPTED = "interrupted"
    BROKEN = "broken"


_UNDER_WAY = (PackingState.QUEUED, PackingState.SEARCHING)


@dataclass(frozen=True, slots=True)
class PackingStatus:
    """A job's layout as it is now.

    Parameters
    ----------
    key : str
        What the search is of; it changes with all that the layout depends on.
    state : PackingState
        Whether it waits, searches or has ended.
    layout, layout_id : Layout, str
        The best so far, and a name for it in this state of the job: whoever acts on it by hand says which they saw.
    seconds_left, seconds : float
        How long it may still take, and how long in all.
    better_ago_s : float
        How long ago the search found its last better layout.
    version : int
        Rises with every change that listeners are told of.
    """

    key: str
    state: PackingState
    layout: Layout
    seconds_left: float
    seconds: float
    better_ago_s: float
    version: int
    layout_id: str

    @property
    def is_under_way(self) -> bool:
        return self.state in _UNDER_WAY


@dataclass
class _Run:
    key: str
    watch: TimedWatch
    best: Layout | None = None
    state: PackingState = PackingState.SEARCHING
    filling: bool = False
    # The last ones that were shown, and whether one of them is in somebody's hand.
    shown: deque[Layout] = field(default_factory=lambda: deque(maxlen=_REMEMBERED))
    in_hand: bool = False
    first: threading.Event = field(default_factory=threading.Event)
    thread: threading.Thread | None = None
    stored_at: float = 0.0
    better_at: float = field(default_factory=time.monotonic)


class PackingService:
    """Packs the jobs of one workshop."""

    def __init__(self, sessions: Sessions, nester: Nester, seconds: float = SEARCH_SECONDS) -> None:
        self._kept = KeptLayouts(sessions)
        self._nester = nester
        self._seconds = seconds
        self._runs: dict[int, _Run] = {}
        self._changed = threading.RLock()
        self._versions: dict[int, int] = {}
        self._listeners: dict[int, list[Callable[[], None]]] = {}
        self._turns = Turns(_AT_ONCE)
        self._rows: Cache[Layout] = Cache(KEPT_LAYOUTS)
        # By the layout itself, which is kept with its name so that no other one is taken for it.
        self._names: Cache[tuple[Layout, str]] = Cache(_REMEMBERED)
        self._closed = threading.Event()

    def status(self, job_id: int, keyed: KeyedProblem) -> PackingStatus:
        """The layout for a problem as far as it is known; nothing is begun. Waits for the first layout of a search."""
        problem, key = keyed.problem, keyed.key
        with self._changed:
            run = self._runs.get(job_id)
        if run is None or run.key != key:
            run = _all_held(key, problem) or self._stored(job_id, keyed) or self._waiting(key, problem)
        run.first.wait(_FIRST_LAYOUT_S)
        return self._packing(job_id, run, problem)

    def begin(self, job_id: int, keyed: KeyedProblem) -> PackingStatus:
        """The layout for a problem; starts a search unless a search for it has ended or runs. Waits for the first
        layout.
        """
        problem, key = keyed.problem, keyed.key
        with self._changed:
            run = self._runs.get(job_id)
            if run is None or run.key != key:
                if run is not None:
                    run.watch.stopped.set()
                run = _all_held(key, problem) or self._stored(job_id, keyed) or self._start(job_id, key, problem)
                self._runs[job_id] = run
        run.first.wait(_FIRST_LAYOUT_S)
        return self._packing(job_id, run, problem)

    def _waiting(self, key: str, problem: PackProblem) -> _Run:
        rows = self._rows.get(key, lambda: in_rows(problem))
        run = _Run(key, TimedWatch(0.0), rows, PackingState.WAITING)
        run.first.set()
        return run

    def restart(self, job_id: int, keyed: KeyedProblem) -> PackingStatus:
        """Search once more from another seed; the best so far stays until it is beaten."""
        problem, key = keyed.problem, keyed.key
        with self._changed:
            before = self._runs.get(job_id)
            if before is not None:
                before.watch.stopped.set()
            best = before.best if before is not None and before.key == key else None
            seed = int.from_bytes(hashlib.sha256(f"{key}{time.time_ns()}".encode()).digest()[:4], "big")
            reseeded = replace(problem, seed=seed)
            self._runs[job_id] = run = self._start(job_id, key, reseeded, best)
        run.first.wait(_FIRST_LAYOUT_S)
        return self._packing(job_id, run, problem)

    def adopt(self, job_id: int, keyed: KeyedProblem, layout: Layout) -> None:
        """Take a layout that was found elsewhere as the job's; no search begins."""
        run = _Run(keyed.key, TimedWatch(0.0), layout, PackingState.DONE)
        run.first.set()
        with self._changed:
            before = self._runs.get(job_id)
            if before is not None:
                before.watch.stopped.set()
            self._runs[job_id] = run
        self._store(job_id, run)
        self._tell(job_id)

    def stop(self, job_id: int) -> None:
        """End the search; the best layout so far is kept, and filled where it is to be."""
        with self._changed:
            run = self._runs.get(job_id)
            if run is not None and run.state in _UNDER_WAY:
                if run.state is PackingState.QUEUED:
                    run.watch.stopped.set()
                run.watch.cut_short(FILLING_SECONDS if run.filling else 0.0)
                run.state = PackingState.STOPPED
        if run is not None and run.thread is not None:
            run.thread.join(2 * FILLING_SECONDS)
        self._tell(job_id)

    def freeze(self, job_id: int, layout_id: str) -> None:
        """End the search with the layout that somebody saw, even if a better one came since: nothing may move under
        a hand. Where it was not among the last ones, the best so far is kept.
        """
        with self._changed:
            run = self._runs.get(job_id)
            if run is None:
                return
            seen = next((one for one in reversed(run.shown) if _layout_id(run.key, one) == layout_id), run.best)
            if run.state in _UNDER_WAY:
                run.watch.stopped.set()
                run.state = PackingState.STOPPED
            run.best, run.in_hand = seen, seen is not None
        if seen is not None:
            self._store(job_id, run)
        self._tell(job_id)

    def forget(self, job_id: int) -> None:
        """End all work for a job that is gone."""
        with self._changed:
            run = self._runs.pop(job_id, None)
        if run is not None:
            run.watch.stopped.set()
        self._tell(job_id)

    def version(self, job_id: int) -> int:
        """Rises with every change that listeners are told of."""
        with self._changed:
            return self._versions.get(job_id, 0)

    @contextmanager
    def listening(self, job_id: int, told: Callable[[], None]) -> Iterator[None]:
        """Call `told` at every change of a job, from whatever thread made it; it may not wait for anything."""
        with self._changed:
            self._listeners.setdefault(job_id, []).append(told)
        try:
            yield
        finally:
            with self._changed:
                self._listeners[job_id].remove(told)

    def state(self, job_id: int) -> tuple[PackingState, float] | None:
        """State and seconds left of a job's search, None if there was none since the start."""
        with self._changed:
            run = self._runs.get(job_id)
        return None if run is None else (run.state, self._left(run))

    def close(self) -> None:
        """Stop everything, keeping what was found."""
        self._closed.set()
        with self._changed:
            runs = list(self._runs.values())
        for run in runs:
            run.watch.stopped.set()
        for run in runs:
            if run.thread is not None:
                run.thread.join(2)

    def _left(self, run: _Run) -> float:
        return max(0.0, run.watch.seconds_left()) if run.state is PackingState.SEARCHING else 0.0

    def _packing(self, job_id: int, run: _Run, problem: PackProblem) -> PackingStatus:
        # A machine that is very busy may have found nothing yet; rows are known at once.
        layout = run.best or self._rows.get(run.key, lambda: in_rows(problem))
        with self._changed:
            version = self._versions.get(job_id, 0)
        name = self._names.get((run.key, id(layout)), lambda: (layout, _layout_id(run.key, layout)))[1]
        return PackingStatus(
            run.key,
            run.state,
            layout,
            self._left(run),
            run.watch.seconds,
            time.monotonic() - run.better_at,
            version,
            name,
        )

    def _start(self, job_id: int, key: str, problem: PackProblem, best: Layout | None = None) -> _Run:
        pieces = sum(piece.quantity for piece in problem.pieces)
        seconds = max(self._seconds, min(_MOST_SECONDS, _SECONDS_A_PIECE * pieces) * self._seconds / SEARCH_SECONDS)
        run = _Run(
            key,
            TimedWatch(seconds, spare_s=_SPARE * seconds, grace_s=_GRACE * seconds),
            best,
            PackingState.QUEUED,
            filling=problem.filling,
        )
        if best is not None:
            run.shown.append(best)
            run.first.set()
        run.watch.on_better = self._keeper(job_id, run, problem)
        run.thread = threading.Thread(
            target=self._search, args=(job_id, run, problem), daemon=True, name=f"pack-{job_id}"
        )
        run.thread.start()
        return run

    def _keeper(self, job_id: int, run: _Run, problem: PackProblem) -> Callable[[Layout], None]:
        def keep(layout: Layout) -> None:
            with self._changed:
                if run.in_hand or (run.best is not None and problem.rank(layout) < problem.rank(run.best)):
                    return
                run.best, run.better_at = layout, time.monotonic()
                run.shown.append(layout)
            run.first.set()
            self._tell(job_id)
            if time.monotonic() - run.stored_at > _STORE_EVERY_S:
                run.stored_at = time.monotonic()
                self._store(job_id, run)

        return keep

    def _search(self, job_id: int, run: _Run, problem: PackProblem) -> None:
        ended = PackingState.DONE
        try:
            with self._turns.seat(run.watch.stopped.is_set, lambda: self._show_rows(job_id, run, problem)) as seated:
                if seated:
                    with self._changed:
                        if run.state is PackingState.QUEUED:
                            run.state, run.watch.started = PackingState.SEARCHING, time.monotonic()
                    pack(problem, self._nester, run.watch)
        except Exception:
            # It takes nothing with it: the best so far stays, or plain rows, and it can be tried again.
            _LOG.exception("the search for job %s broke down", job_id)
            ended = PackingState.BROKEN
        finally:
            with self._changed:
                if run.state in _UNDER_WAY:
                    run.state = PackingState.STOPPED if run.watch.stopped.is_set() else ended
                if run.best is None:
                    run.best = in_rows(problem)
            run.first.set()
            self._tell(job_id)
            self._store_when_there_is_room(job_id, run)

    def _show_rows(self, job_id: int, run: _Run, problem: PackProblem) -> None:
        """Show plain rows while a search has to wait for its turn."""
        if run.best is None:
            run.best = self._rows.get(run.key, lambda: in_rows(problem))
        run.first.set()
        self._tell(job_id)

    def _store_when_there_is_room(self, job_id: int, run: _Run) -> None:
        """Keep what was found; where the disk is full, as soon as it no longer is."""
        while not self._store(job_id, run):
            if self._runs.get(job_id) is not run or self._closed.wait(_STORE_EVERY_S):
                return

    def _tell(self, job_id: int) -> None:
        with self._changed:
            self._versions[job_id] = self._versions.get(job_id, 0) + 1
            for told in self._listeners.get(job_id, ()):
                told()

    def _stored(self, job_id: int, keyed: KeyedProblem) -> _Run | None:
        found = self._kept.find(job_id, keyed)
        if found is None:
            return None
        layout, state = found[0], PackingState(found[1])
        if state in _UNDER_WAY:
            state = PackingState.INTERRUPTED
        run = _Run(keyed.key, TimedWatch(0.0), layout, state)
        run.first.set()
        return run

    def _store(self, job_id: int, run: _Run) -> bool:
        """Write a layout down; where that cannot be done, it stays in memory."""
        assert run.best is not None
        return self._kept.write(job_id, run.key, run.best, run.state.value)


def _all_held(key: str, problem: PackProblem) -> _Run | None:
    """A finished run, where every piece is held and nothing is to be filled."""
    held = problem.held_counts
    if not held or problem.filling or any(held[piece.item] < piece.quantity for piece in problem.pieces):
        return None
    run = _Run(key, TimedWatch(0.0), Layout(problem.held, (), time_limited=False), PackingState.DONE)
    run.first.set()
    return run


def _layout_id(key: str, layout: Layout) -> str:
    return hashlib.sha256(f"{key}{json.dumps(layout_document(layout)['sheets'])}".encode()).hexdigest()[:16]
