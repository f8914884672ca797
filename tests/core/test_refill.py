"""Ruin and refill: never worse, always legal, and more than was there where more goes in."""

import threading
from collections import Counter
from collections.abc import Callable, Sequence
from itertools import pairwise
from time import thread_time

import numpy as np
import pytest
from shapely.geometry import Polygon, box

from tests.bench import shapes
from tests.core.test_fullest_sheet import RINGS
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.pack.nesting import Lane
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.sheet.pack.search.refill import LEAST_PIECES, Refill, laid_one_by_one
from vamper.core.sheet.pack.search.run import SearchRun
from vamper.core.values.geometry import as_multi
from vamper.core.values.packing import PackingSpec
from vamper.core.values.placement import Placement, Sheet
from vamper.services.packing.planning import TimedWatch

LIVE = box(10, 10, 190, 230)
NOTCHED = Polygon([(10, 10), (190, 10), (190, 180), (140, 230), (10, 230)])
MIX = tuple(Piece(n, shapes.blob(40 + n, 34 + 9 * n), 12) for n in range(4))


class Silent:
    """An engine that never finds anything, and lets the search work by itself meanwhile."""

    cores = 2

    def __init__(self) -> None:
        self.workers: list[int] = []

    def race(self, lanes: Sequence[Lane], given_up: Callable[[], bool], meanwhile: Callable[[], bool]) -> None:
        for lane in lanes:
            for attempt in lane:
                self.workers.append(attempt.workers)
                while not given_up() and not attempt.tired():
                    meanwhile()
                    if len(self.workers) > 1:
                        break


def run_of(pieces: Sequence[Piece], live: Polygon = LIVE, seconds: float = 60.0) -> SearchRun:
    problem = PackProblem(tuple(pieces), live, PackingSpec(gap_mm=2.0, max_sheets=1))
    return SearchRun(problem, Silent(), TimedWatch(seconds))


def rank(run: SearchRun, sheet: Sheet) -> tuple[int, float]:
    return len(sheet), round(run.load_of([one.item for one in sheet]), 3)


@pytest.mark.parametrize("live", [LIVE, NOTCHED], ids=["whole", "notched"])
@pytest.mark.parametrize("seed", range(2))
def test_a_try_is_never_worse_and_keeps_every_rule(live: Polygon, seed: int) -> None:
    run = run_of(MIX, live)
    *_, sheet = laid_one_by_one(run, run.wanted)
    begun, refill = rank(run, sheet), Refill(run, run.wanted, np.random.default_rng(seed))
    for _ in range(12):
        after = refill.tried(sheet)
        assert rank(run, after) >= rank(run, sheet)
        sheet = after
        assert not breaches(sheet, run.by_item, live, 2.0)
        assert not Counter(one.item for one in sheet) - run.wanted
    assert rank(run, sheet) > begun


def test_one_by_one_is_shown_after_every_piece() -> None:
    run = run_of(MIX)
    seen = list(laid_one_by_one(run, run.wanted))
    assert [len(sheet) for sheet in seen] == list(range(1, len(seen) + 1))
    assert all(before == after[:-1] for before, after in pairwise(seen))


def test_where_two_small_ones_go_in_for_a_large_one_they_do() -> None:
    large, small = Piece(0, as_multi([box(0, 0, 80, 50)]), 8), Piece(1, as_multi([box(0, 0, 38, 50)]), 16)
    live = box(0, 0, 172, 216)
    run = run_of((large, small), live)
    sheet = tuple(Placement(0, 82.0 * (n % 2), 52.0 * (n // 2), 0.0) for n in range(8))
    assert not breaches(sheet, run.by_item, live, 2.0)
    refill = Refill(run, run.wanted, np.random.default_rng(1))
    for _ in range(50):
        sheet = refill.tried(sheet)
    assert len(sheet) > 8
    assert not breaches(sheet, run.by_item, live, 2.0)


def test_a_better_sheet_of_the_engines_is_taken_over() -> None:
    run = run_of(MIX)
    *_, sheet = laid_one_by_one(run, run.wanted)
    refill = Refill(run, run.wanted, np.random.default_rng(1))
    refill.tried(sheet[:-2])
    assert rank(run, refill.tried(sheet)) >= rank(run, sheet)


def test_a_sheet_of_a_few_is_left_as_it_is() -> None:
    run = run_of(MIX)
    few = next(sheet for sheet in laid_one_by_one(run, run.wanted) if len(sheet) == LEAST_PIECES - 1)
    assert Refill(run, run.wanted, np.random.default_rng(1)).tried(few) == few


def test_a_search_fills_its_sheet_while_the_engine_finds_nothing() -> None:
    engine = Silent()
    problem = PackProblem(MIX, LIVE, PackingSpec(gap_mm=2.0, max_sheets=1))
    run = SearchRun(problem, engine, TimedWatch(60.0))
    *_, alone = laid_one_by_one(run, run.wanted)
    # As long as it takes on a busy machine, and no longer.
    enough = threading.Event()

    def seen(layout: Layout) -> None:
        if layout.pieces > len(alone):
            enough.set()

    layout = pack(problem, engine, TimedWatch(120.0, seen, enough))
    assert layout.pieces > len(alone)
    # One core is the search's own.
    assert set(engine.workers) == {1}


def test_what_lies_in_a_ring_takes_no_room_of_its_own() -> None:
    run = run_of(RINGS, seconds=20.0)
    rings = [item for item in run.by_item if run.solid_areas[item] < run.areas[item]]
    assert rings == [0, 1]
    *_, sheet = laid_one_by_one(run, run.wanted)
    shells = run.load_of([one.item for one in sheet])
    assert run.solid_load_of([one.item for one in sheet]) < shells
    assert not run.hopeless(1, 0.8) or run.solid_load_of(list(run.wanted.elements())) > 0.8 * run.room


def test_nothing_is_laid_where_time_is_up_and_what_lies_stays() -> None:
    run = run_of(MIX)
    *_, sheet = laid_one_by_one(run, run.wanted)
    run.watch.cut_short(0.0)  # type: ignore[attr-defined]
    refill = Refill(run, run.wanted, np.random.default_rng(2))
    for _ in range(60):
        assert rank(run, refill.tried(sheet)) >= rank(run, sheet)


def test_a_sheet_that_is_full_of_equal_pieces_is_not_searched_on() -> None:
    squares = (Piece(0, as_multi([box(0, 0, 40, 40)]), 60),)
    problem, worked_s = PackProblem(squares, box(0, 0, 208, 250), PackingSpec(gap_mm=2.0, max_sheets=1)), thread_time()
    layout = pack(problem, Silent(), TimedWatch(60.0))
    # Five beside each other and six below: 5 · 40 + 4 · 2 = 208, 6 · 40 + 5 · 2 = 250.
    assert layout.pieces == 30
    # Its own work, which no busy machine makes more; searched on it would be twelve seconds at least.
    assert thread_time() - worked_s < 8
