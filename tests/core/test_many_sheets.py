"""Many sheets of few designs: nothing is forgotten or laid twice, and a sheet found once is laid many times."""

from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon, Point, Polygon, box

from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.layout import Piece
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.sheet.pack.search.repeated_sheets import loaded, shared_out
from vamper.core.sheet.pack.search.run import SearchRun
from vamper.core.values.packing import PackingSpec
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import TimedWatch

LIVE = box(10, 10, 150, 210)
SHAPES = (
    Point(0, 0).buffer(17, quad_segs=6),
    Polygon([(0, 0), (44, 0), (44, 12), (12, 12), (12, 44), (0, 44)]),
    Polygon([(0, 0), (38, 4), (16, 33)]),
)


def ordered(counts: tuple[int, ...], seed: int = 1) -> PackProblem:
    pieces = tuple(Piece(n, MultiPolygon([SHAPES[n]]), count) for n, count in enumerate(counts) if count)
    return PackProblem(pieces, LIVE, PackingSpec(gap_mm=2.0), seed)


@pytest.mark.parametrize("counts", [(150, 150, 150), (7, 220, 61), (3, 2, 400)])
def test_a_large_order_is_laid_whole_by_sheets_that_come_again(counts: tuple[int, ...]) -> None:
    problem, seen = ordered(counts), list[int]()
    watch = TimedWatch(5.0, on_better=lambda layout: seen.append(layout.pieces))
    layout = pack(problem, ProcessNester(), watch)
    assert Counter(one.item for sheet in layout.sheets for one in sheet) == Counter(dict(enumerate(counts)))
    assert seen == sorted(seen)
    distinct = set(layout.sheets)
    assert not any(breaches(list(sheet), problem.by_item, LIVE, 2.0) for sheet in distinct)
    assert len(distinct) < len(layout.sheets) / 2
    assert len(layout.sheets) >= area_bound(LIVE, problem.pieces, 2.0).sheets_at_least


@given(st.dictionaries(st.integers(0, 9), st.integers(0, 500), min_size=1), st.integers(1, 60))
def test_what_is_shared_out_is_there_as_often_as_it_is_laid(wanted: dict[int, int], times: int) -> None:
    share = shared_out(Counter(wanted), times)
    assert all(count * times <= wanted[item] < (count + 1) * times for item, count in share.items())
    assert all(count < times for item, count in wanted.items() if item not in share)


@given(st.tuples(*[st.integers(0, 60)] * 3).filter(any), st.floats(0.05, 1.2))
def test_a_sheets_load_takes_no_more_than_there_is_nor_than_was_asked(counts: tuple[int, ...], fill: float) -> None:
    run = SearchRun(ordered(counts), ProcessNester(), TimedWatch(1.0))
    group = loaded(run, run.free, fill)
    load = run.load_of(list(group.elements()))
    assert group <= run.free
    assert load <= fill * run.room + 1e-6
    # What is left waiting would be too much.
    assert all(load + run.areas[item] > fill * run.room for item in run.free - group)
