"""What a busy machine takes from a search is given back to it."""

import multiprocessing
import time
from pathlib import Path

import pytest
from shapely.geometry import Polygon

from vamper.core.sheet.layout import Piece
from vamper.core.sheet.pack.nesting import Attempt, Lane, NestRequest, NestShape
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.sheet.pack.search.search import search
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import Turn
from vamper.core.values.packing import PackingSpec
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import TimedWatch
from vamper.services.work.held_up import KernelCounts, LostTime, count_now, lost_between

SQUARE = ((0.0, 0.0), (20.0, 0.0), (20.0, 20.0), (0.0, 20.0))


@pytest.mark.parametrize(
    ("ran", "waited", "worked", "stolen", "lost"),
    [
        (10, 0, 100, 0, 0.0),
        (0, 0, 0, 0, 0.0),
        (5, 5, 100, 0, 1.0),
        (10, 0, 25, 75, 1.5),
        # Half of the time a core was there, and half of that its host had it.
        (5, 5, 50, 50, 1.5),
    ],
)
def test_what_is_lost_is_what_was_waited_for(ran: int, waited: int, worked: int, stolen: int, lost: float) -> None:
    before = KernelCounts(7.0, 1000, 500, 40, 30)
    after = KernelCounts(9.0, 1000 + ran, 500 + waited, 40 + worked, 30 + stolen)
    assert lost_between(before, after) == pytest.approx(lost)


def test_a_thread_that_has_ended_takes_nothing_away() -> None:
    assert lost_between(KernelCounts(0.0, 900, 900, 10, 10), KernelCounts(1.0, 100, 100, 20, 10)) == 0.0


def test_counts_are_read_from_what_the_kernel_tells(tmp_path: Path) -> None:
    for number, line in enumerate(("500 70 3\n", "20 7 1\n", "no figures\n")):
        (tmp_path / str(number)).mkdir()
        (tmp_path / str(number) / "schedstat").write_text(line)
    (tmp_path / "stat").write_text("cpu  1 20 300 9999 9999 4000 50000 7 0 0\ncpu0 5 5 5 5 5 5 5 5 5 5\n")
    found = count_now(tmp_path, tmp_path / "stat")
    assert (found.ran_ns, found.waited_ns, found.worked, found.stolen) == (520, 77, 54321, 7)


def test_where_nothing_is_told_nothing_is_lost(tmp_path: Path) -> None:
    first = count_now(tmp_path, tmp_path / "none")
    assert first == KernelCounts(first.at_s, 0, 0, 0, 0)
    assert LostTime(first).since_last() >= 0
    assert lost_between(first, count_now(tmp_path, tmp_path / "none")) == 0


def test_lost_time_comes_back_up_to_the_grace() -> None:
    watch = TimedWatch(5.0, grace_s=3.0)
    assert (watch.lost(2.0), watch.lost(2.0), watch.lost(2.0)) == (2.0, 1.0, 0.0)
    assert watch.seconds == 8.0
    assert TimedWatch(5.0).lost(1.0) == 0.0
    stopped = TimedWatch(5.0, grace_s=3.0)
    stopped.stopped.set()
    assert stopped.lost(1.0) == 0.0
    short = TimedWatch(5.0, grace_s=3.0)
    short.cut_short(1.0)
    assert short.lost(1.0) == 0.0


class HeldUp:
    """An engine that finds nothing and is kept from working twice."""

    cores = 1

    def __init__(self) -> None:
        self.back: list[float] = []

    def race(self, lanes: list[Lane], _given_up: object, _meanwhile: object = None) -> None:
        for lane in lanes:
            for attempt in lane:
                self.back += [attempt.on_lost(0.25), attempt.on_lost(0.25)]


@pytest.mark.parametrize("most", [None, 1])
def test_every_search_gives_back_what_its_engine_lost(most: int | None) -> None:
    """Everything on fewer sheets, and one sheet as full as it gets."""
    blob = Polygon([(0, 0), (60, 0), (70, 40), (30, 75), (0, 40)])
    pieces = tuple(Piece(number, as_multi([blob]), 8) for number in range(2))
    live = Polygon([(0, 0), (200, 0), (200, 250), (0, 250)])
    watch, engine = TimedWatch(1.0, grace_s=2.0), HeldUp()
    search(PackProblem(pieces, live, PackingSpec(max_sheets=most)), engine, watch)  # type: ignore[arg-type]
    assert engine.back[:2] == [0.25, 0.25]
    assert watch.seconds == pytest.approx(1.0 + sum(engine.back))


def burn(seconds: float) -> None:
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        pass


@pytest.mark.skipif(not count_now().ran_ns, reason="this system does not tell")
def test_an_engine_beside_others_tells_what_it_lost_and_gets_it() -> None:
    shapes = (NestShape(0, SQUARE, 80, Turn.ANY),)
    request = NestRequest(shapes, 0.0, 0.0, 200.0, 200.0, 2.0, 1)
    nester, told = ProcessNester(), list[float]()
    others = [multiprocessing.Process(target=burn, args=(20.0,), daemon=True) for _ in range(3 * nester.cores)]

    def lost(seconds: float) -> float:
        told.append(seconds)
        return seconds if sum(told) < 4 else 0.0

    for other in others:
        other.start()
    began = time.monotonic()
    nester.race([iter([Attempt(request, 1.5, lambda _: False, nester.cores, on_lost=lost)])], lambda: False)
    took = time.monotonic() - began
    for other in others:
        other.kill()
    assert sum(told) > 0.5
    assert took > 2.0
