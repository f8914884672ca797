"""The fullest sheet: what is promised, what is kept of a strip, what goes into holes, and when an attempt ends."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import chain

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon, Point, Polygon, box

from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.pack.nesting import Attempt, Lane, NestRequest, NestShape, NestSolution, window
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.sheet.pack.search.hole_guests import HoleGuests
from vamper.core.sheet.pack.search.promise import GROWS_S, Progress, likely_fill, promised
from vamper.core.sheet.pack.search.run import SearchRun
from vamper.core.sheet.pack.search.whole import fit_whole
from vamper.core.values.geometry import placed
from vamper.core.values.item import Turn
from vamper.core.values.packing import PackingSpec
from vamper.core.values.placement import Placement
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import TimedWatch

LIVE = shapely.box(10.8, 10.8, 205.1, 268.6)
WEDGE = np.array([(0.0, 0.0), (30.0, 3.0), (20.0, 12.0), (2.0, 9.0)])


def ring(outer: float, thick: float) -> MultiPolygon:
    return MultiPolygon([Point(0, 0).buffer(outer / 2).difference(Point(0, 0).buffer(outer / 2 - thick))])


def disc(diameter: float) -> MultiPolygon:
    return MultiPolygon([Point(0, 0).buffer(diameter / 2)])


RINGS = (Piece(0, ring(60, 8), 8), Piece(1, ring(44, 6), 8), Piece(2, disc(22), 8))

places = st.builds(
    Placement, st.just(0), st.floats(10, 260), st.floats(10, 260), st.sampled_from([0.0, 37.0, 90.0, 200.0, 301.5])
)


@given(st.lists(places, min_size=1, max_size=12), st.booleans())
def test_what_is_kept_of_a_strip_lies_inside_and_no_stretch_holds_more(
    placements: list[Placement], is_wide: bool
) -> None:
    size = (200.0, 120.0) if is_wide else (120.0, 200.0)
    request = NestRequest((), 10.0, 20.0, *size, 2.0, 1)
    kept = window(request, NestSolution(tuple(placements), 1.5), {0: WEDGE})
    # The strip is as long as it likes along the shorter side.
    axis, origin = (1, 20.0) if is_wide else (0, 10.0)
    spans = [placed(Polygon(WEDGE), one.x_mm, one.y_mm, one.turn_deg).bounds for one in kept]
    assert all(span[axis] >= origin - 1e-6 and span[axis + 2] <= origin + 120.0 + 1e-6 for span in spans)
    all_spans = [placed(Polygon(WEDGE), one.x_mm, one.y_mm, one.turn_deg).bounds for one in placements]
    for start in (span[axis] for span in all_spans):
        inside = sum(span[axis] >= start - 1e-9 and span[axis + 2] <= start + 120.0 + 1e-9 for span in all_spans)
        assert len(kept) >= inside


def test_a_complete_strip_is_kept_as_it_lies() -> None:
    lying = (Placement(0, 12.0, 22.0, 0.0), Placement(0, 60.0, 22.0, 90.0))
    request = NestRequest((), 10.0, 20.0, 120.0, 200.0, 2.0, 1)
    assert window(request, NestSolution(lying, 0.9), {0: WEDGE}) == lying


@given(st.floats(0.3, 0.9), st.floats(1, 60), st.floats(1, 60), st.floats(1, 60))
def test_more_time_promises_no_less_and_nothing_after_it_stops_growing(
    fill: float, after: float, one: float, other: float
) -> None:
    assert promised(fill, after, max(one, other)) >= promised(fill, after, min(one, other)) >= fill
    assert promised(fill, GROWS_S + after, one) == fill


def test_the_promise_is_the_logarithm_of_the_time() -> None:
    assert promised(0.7, 1.0, math.e) == pytest.approx(0.7 * 1.042)


def test_shapes_that_fill_their_boxes_are_expected_to_lie_denser() -> None:
    square, star = shapely.box(0, 0, 30, 30), shapely.union(shapely.box(0, 12, 30, 18), shapely.box(12, 0, 18, 30))
    assert 0.85 < likely_fill([(square, 5)], 8.0) < 0.95
    assert likely_fill([(star, 5)], 8.0) < 0.65
    assert likely_fill([(square, 1), (star, 1)], 8.0) < likely_fill([(square, 2), (star, 1)], 8.0)


def test_an_attempt_is_judged_by_what_it_promises() -> None:
    way = Progress(load=0.80, seconds=10.0)
    assert not way.out_of_reach(5.0), "nothing was answered yet"
    way.reached(1.25, 2.0)
    assert way.fill == pytest.approx(0.64)
    assert not way.out_of_reach(0.5), "too soon to be judged"
    assert way.out_of_reach(2.0)
    way.reached(1.05, 2.5)
    assert not way.out_of_reach(2.5)
    way.reached(1.2, 3.0)
    assert way.fill == pytest.approx(0.80 / 1.05), "a worse answer changes nothing"
    assert not way.is_stale(5.0)
    assert way.is_stale(6.0)
    assert Progress(0.80, 10.0, 1.0, 0.72, 2.0).out_of_reach(2.0)
    assert not Progress(0.80, 10.0, 2.5, 0.72, 2.0).out_of_reach(2.0), "patience waits longer"


def test_holes_take_what_goes_into_them() -> None:
    run = SearchRun(PackProblem(RINGS, LIVE, PackingSpec(gap_mm=2.0, max_sheets=1)), ProcessNester(), TimedWatch(5.0))
    guests = HoleGuests(run).of(run.wanted)
    # A ring of 44 mm has a hole of 32, and one of 60 a hole of 44: each takes one disc of 22 with its gaps.
    assert guests == {2: 8}
    assert HoleGuests(run).of(run.wanted - guests) == {}


def test_rings_with_discs_in_their_holes_fill_a_sheet() -> None:
    problem = PackProblem(RINGS, LIVE, PackingSpec(gap_mm=2.0, max_sheets=1))
    layout = pack(problem, ProcessNester(), TimedWatch(20.0))
    assert layout.pieces == 24
    assert len(layout.sheets) == 1


def test_an_attempt_that_is_tired_ends_at_once() -> None:
    square = ((0.0, 0.0), (20.0, 0.0), (20.0, 20.0), (0.0, 20.0))
    request = NestRequest((NestShape(0, square, 90, Turn.QUARTER),), 0.0, 0.0, 200.0, 200.0, 2.0, 1)
    watch = TimedWatch(60.0)
    ProcessNester().race([iter([Attempt(request, 60.0, lambda _: False, 1, lambda: True)])], lambda: False)
    assert watch.seconds_left() > 30


def test_more_time_is_granted_from_what_is_spare() -> None:
    watch = TimedWatch(5.0, spare_s=8.0)
    before = watch.seconds_left()
    assert watch.more(6.0)
    assert watch.seconds_left() == pytest.approx(before + 6.0, abs=1.0)
    assert not watch.more(6.0)
    assert not TimedWatch(5.0).more(1.0)
    watch.cut_short(1.0)
    assert not watch.more(1.0)


def _whole(diameter: float, quantity: int) -> PackProblem:
    star = shapely.union(shapely.box(0, 0, diameter, diameter / 3), shapely.box(0, 0, diameter / 3, diameter))
    other = shapely.box(0, 0, diameter / 2, diameter / 4)
    pieces = (Piece(0, MultiPolygon([star]), quantity), Piece(1, MultiPolygon([other]), quantity))
    return PackProblem(pieces, LIVE, PackingSpec(gap_mm=2.0, max_sheets=1))


def test_what_fits_whole_tells_its_layout_and_what_does_not_how_near_it_came() -> None:
    nester = ProcessNester()
    fits = fit_whole(_whole(40.0, 18), 1, nester, TimedWatch(20.0))
    assert fits.layout is not None
    assert fits.layout.pieces == 36
    far = fit_whole(_whole(55.0, 18), 1, nester, TimedWatch(20.0))
    assert far.layout is None
    assert far.reach is not None
    assert far.reach < 1
    # What was out of reach tells the size at which it fits: areas grow by the square.
    smaller = fit_whole(_whole(55.0 * 0.95 * far.reach**0.5, 18), 1, nester, TimedWatch(20.0))
    assert smaller.layout is not None


def test_what_is_used_up_of_the_first_sheet_is_left_alone() -> None:
    """A sheet of which half is gone holds half as much, whoever asks at one size after the other."""
    half = shapely.box(10.8, 140.0, 205.1, 268.6)
    nester = ProcessNester()
    whole, used = _whole(40.0, 18), replace(_whole(40.0, 18), first_live=half)
    assert fit_whole(whole, 1, nester, TimedWatch(20.0)).layout is not None
    assert fit_whole(used, 1, nester, TimedWatch(3.0)).layout is None
    few = fit_whole(replace(_whole(40.0, 4), first_live=half), 1, nester, TimedWatch(10.0)).layout
    assert few is not None
    assert all(half.buffer(1e-6).covers(one.of(whole.by_item[one.item].edge)) for one in few.sheets[0])


@dataclass
class _Clock:
    """A watch that only goes on when an engine takes time."""

    seconds: float
    now: float = 0.0

    def seconds_left(self) -> float:
        return self.seconds - self.now

    def more(self, _seconds: float) -> bool:
        return False

    def lost(self, _seconds: float) -> float:
        return 0.0

    def better(self, layout: Layout) -> None:
        """Nobody looks."""


@dataclass
class _Barren:
    """An engine that takes its time and finds nothing."""

    clock: _Clock
    cores: int = 2
    asked: int = 0

    def race(self, lanes: Sequence[Lane], given_up: Callable[[], bool], _meanwhile: object = None) -> None:
        for attempt in chain.from_iterable(lanes):
            if given_up():
                return
            self.asked += 1
            self.clock.now += min(attempt.seconds, 2.0)


@pytest.mark.parametrize(("seconds", "at_least", "at_most"), [(9.0, 8.0, 9.5), (120.0, GROWS_S, 2 * GROWS_S)])
def test_a_search_that_finds_no_more_ends_by_itself(seconds: float, at_least: float, at_most: float) -> None:
    clock = _Clock(seconds)
    engine = _Barren(clock)
    discs = (Piece(0, MultiPolygon([Point(0, 0).buffer(20)]), 20), Piece(1, MultiPolygon([Point(0, 0).buffer(31)]), 20))
    problem = PackProblem(discs, box(0, 0, 180, 240), PackingSpec(gap_mm=2.0, max_sheets=1))
    layout = pack(problem, engine, clock)
    assert at_least <= clock.now <= at_most
    assert engine.asked > 3
    # There may be more to be had, and whoever looks longer is told so.
    assert layout.pieces
    assert layout.time_limited


@dataclass
class _Ticking(_Clock):
    """A watch that goes on by a thousandth each time it is looked at."""

    def seconds_left(self) -> float:
        self.now += 1e-3
        return super().seconds_left()


@pytest.mark.parametrize("sides", [(164.0, 217.0), (164.0, 110.0)])
def test_a_large_order_of_which_nothing_is_found_does_not_go_round_in_circles(sides: tuple[float, float]) -> None:
    """Pieces of which hardly one goes on a sheet, and an engine that finds nothing for any."""
    clock = _Ticking(120.0)
    wide = Piece(0, MultiPolygon([box(0, 0, *sides).buffer(-8).buffer(8)]), 31)
    layout = pack(PackProblem((wide,), box(0, 0, 180, 240), PackingSpec(gap_mm=2.0)), _Barren(clock), clock)
    assert layout.pieces == 31
    assert clock.now < 90.0
