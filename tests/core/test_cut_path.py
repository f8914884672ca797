"""The way of the blade: every loop once, in the right order, never a longer way than nearest neighbour's, closed."""

import io
import math
import re

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import MultiPolygon, box

from tests.core.test_cutting import laid
from tests.scenes import DISC, bars, item, scene
from tests.tried import tried
from vamper.core.cutting.path import _nearest_next, good_start, shortest_way, way_mm
from vamper.core.cutting.plan import CutLoop, plan_cut
from vamper.core.plan import cut_of, timing_of
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.item import Tabs
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement
from vamper.formats.out.sheet_file import SHEET_FILES

places = st.lists(st.tuples(st.floats(0, 300), st.floats(0, 300)), max_size=40)
SQUARE = np.array([(0, 0), (10, 0), (10, 10), (0, 10)], float)


@given(places)
def test_every_place_once_and_no_longer_than_nearest_neighbour(found: list[tuple[float, float]]) -> None:
    where, at = np.array(found).reshape(-1, 2), np.zeros(2)
    order = shortest_way(where, at)
    assert sorted(order) == list(range(len(found)))
    assert way_mm(where, at, order) <= way_mm(where, at, _nearest_next(where, at)) + 1e-6


@pytest.mark.parametrize("cuts", [(Cut.THROUGH, Cut.THROUGH), (Cut.KISS, Cut.KISS), (Cut.THROUGH, Cut.KISS)])
@pytest.mark.parametrize("outer_first", [True, False])
def test_what_lies_in_anothers_hole_is_cut_before_that_hole(cuts: tuple[Cut, Cut], outer_first: bool) -> None:
    frame = MultiPolygon([box(-30, -30, 30, 30).difference(box(-20, -20, 20, 20))])
    inner = MultiPolygon([box(-8, -8, 8, 8).difference(box(-3, -3, 3, 3))])
    both = [Placement(1, 50, 50), Placement(2, 50, 50)]
    sheet = laid(both if outer_first else both[::-1], {1: frame, 2: inner}, box(0, 0, 100, 100))
    loops = plan_cut(Paper(100, 100), sheet, {1: cuts[0], 2: cuts[1]}).loops
    order = [(loop.item, loop.is_hole) for loop in loops]
    # The hole of the inner piece, that piece, the hole round it, and its own rim last of all.
    assert order == [(2, True), (2, False), (1, True), (1, False)]


@tried(30)
@given(st.lists(st.tuples(st.integers(0, 300), st.integers(0, 300)), min_size=4, max_size=12, unique=True))
def test_no_turning_round_makes_the_way_shorter(found: list[tuple[int, int]]) -> None:
    where, at = np.array(found, float), np.zeros(2)
    order = shortest_way(where, at)
    best = way_mm(where, at, order)
    for first in range(len(order)):
        for last in range(first + 1, len(order)):
            turned = order[:first] + order[first : last + 1][::-1] + order[last + 1 :]
            assert way_mm(where, at, turned) >= best - 1e-6


def sheet_of_rings():  # type: ignore[no-untyped-def]
    """Four pieces with a hole each, two cut through."""
    ring = MultiPolygon([box(0, 0, 20, 20).difference(box(6, 6, 14, 14))])
    where = [(1, 10, 10), (2, 60, 10), (1, 10, 60), (2, 60, 60)]
    return laid([Placement(n, x, y) for n, x, y in where], {1: ring, 2: ring}, box(0, 0, 100, 100))


def test_inner_before_outer_and_kiss_before_through_all_the_same_way_round() -> None:
    plan = plan_cut(Paper(100, 100), sheet_of_rings(), {1: Cut.THROUGH, 2: Cut.KISS})
    assert [(loop.cut, loop.is_hole) for loop in plan.loops] == [
        *[(Cut.KISS, True)] * 2,
        *[(Cut.KISS, False)] * 2,
        *[(Cut.THROUGH, True)] * 2,
        *[(Cut.THROUGH, False)] * 2,
    ]
    assert {(loop.placement, loop.is_hole) for loop in plan.loops} == {(n, hole) for n in range(4) for hole in (0, 1)}
    for loop in plan.loops:
        x, y = loop.points.T
        assert (x * np.roll(y, -1) - np.roll(x, -1) * y).sum() > 0


def test_a_loop_begins_at_a_corner_or_on_a_straight() -> None:
    assert good_start(SQUARE, np.array([11.0, 11.0])) == 2
    stadium = shapely.get_coordinates(shapely.LineString([(0, 0), (30, 0)]).buffer(8, quad_segs=32))[:-1]
    start = good_start(stadium, np.zeros(2))
    assert np.hypot(*(stadium[(start + 1) % len(stadium)] - stadium[start])) == pytest.approx(30)


@given(st.floats(0, 45))
def test_the_overcut_closes_the_loop_and_runs_on(overcut: float) -> None:
    (run,) = CutLoop(1, Cut.KISS, SQUARE, False).runs(overcut)
    assert np.hypot(*np.diff(run, axis=0).T).sum() == pytest.approx(40 + min(overcut, 40))
    assert run[4] == pytest.approx(run[0])
    assert shapely.LineString([*SQUARE.tolist(), (0, 0)]).distance(shapely.Point(run[-1])) < 1e-9


@pytest.mark.parametrize("count", [1, 3, 4])
def test_tabs_leave_as_many_bridges(count: int) -> None:
    loop = CutLoop(1, Cut.THROUGH, SQUARE, False, 0, Tabs(count, 1.5))
    runs = loop.runs(0.5)
    assert len(runs) == count
    assert sum(np.hypot(*np.diff(run, axis=0).T).sum() for run in runs) == pytest.approx(40 - 1.5 * count)
    left = shapely.difference(
        shapely.LinearRing(SQUARE), shapely.union_all([shapely.LineString(run).buffer(1e-6) for run in runs])
    )
    assert shapely.line_merge(left).length == pytest.approx(1.5 * count, abs=1e-3)
    # Of more than a loop takes, as many as leave half of it to be cut.
    assert len(CutLoop(1, Cut.THROUGH, SQUARE, False, 0, Tabs(40, 5.0)).runs(0.0)) == 4


@given(st.integers(3, 9), st.integers(1, 12), st.floats(0.3, 3.0), st.floats(10, 60))
def test_tabs_keep_away_from_corners_where_a_loop_has_room(sides: int, count: int, width: float, radius: float) -> None:
    turns = np.arange(sides) * 2 * math.pi / sides
    ring = radius * np.column_stack([np.cos(turns), np.sin(turns)])
    loop = CutLoop(1, Cut.THROUGH, ring, False, 0, Tabs(count, width))
    runs = loop.runs(0.5)
    assert len(runs) == min(count, int(loop.length_mm / 2 / width))
    bridges = shapely.difference(
        shapely.LinearRing(ring), shapely.union_all([shapely.LineString(run).buffer(1e-6) for run in runs])
    )
    share = loop.length_mm / len(runs)
    # A share that is wider than a tab with room on both sides has a straight for it.
    if share >= 2 * (width + 2.0) and share - width <= loop.length_mm / sides:
        assert bridges.distance(shapely.MultiPoint(ring)) > 0.3


def test_a_jog_of_a_few_micrometres_is_no_corner() -> None:
    turns = np.linspace(0, 2 * math.pi, 200, endpoint=False)
    oval = np.column_stack([30 * np.cos(turns), 20 * np.sin(turns)])
    out = oval[40] / np.hypot(*oval[40])
    jogged = np.vstack([oval[:41], oval[40] + 0.005 * out, oval[41:]])
    assert CutLoop(1, Cut.KISS, jogged, False).corners == 0
    # A corner with a jog at it is one corner.
    square = np.vstack([SQUARE[:1], SQUARE[:1] + np.array([0.003, -0.003]), SQUARE[1:]])
    assert CutLoop(1, Cut.KISS, SQUARE, False).corners == 4
    assert CutLoop(1, Cut.KISS, square, False).corners == 4


def read_back(data: bytes, height: float) -> list[tuple[int, np.ndarray]]:
    """Pen and points (mm, y down) of every time the pen goes down: another reader than the writer."""
    pen, at, found = 0, (0.0, height), []
    for word in re.findall(r"([A-Z]{2})([^;]*);", data.decode()):
        numbers = [float(one) for one in re.findall(r"-?\d+", word[1])]
        if word[0] == "SP":
            pen = int(numbers[0])
        points = [(x / 40, height - y / 40) for x, y in zip(numbers[::2], numbers[1::2], strict=False)]
        if word[0] == "PU" and points:
            at = points[-1]
        if word[0] == "PD":
            found.append((pen, np.array([at, *points])))
            at = points[-1]
    return found


def test_hpgl_is_read_back_to_three_hundredths() -> None:
    cut = {1: EdgeSpec(), 2: EdgeSpec("rectangle", 2.0)}
    plan = scene(
        item(1, edge=cut[1], quantity=3), item(2, edge=cut[2], quantity=2, cut=Cut.THROUGH), stock="card"
    ).plan()
    height = plan.job.paper.height_mm
    data = SHEET_FILES["cut_hpgl"].write(plan, 0, lambda _: DISC)
    found = read_back(data, height)
    passes = {kind: setting.passes for kind, setting in plan.settings.items()}
    runs = list(cut_of(plan, 0).runs(passes, plan.job.overcut_mm))
    assert len(found) == len(runs) == timing_of(plan, cut_of(plan, 0)).lifts
    for (pen, points), run in zip(found, runs, strict=True):
        assert pen == {Cut.KISS: 1, Cut.THROUGH: 2}[run.loop.cut]
        assert points == pytest.approx(run.points, abs=0.03)
    # What the plan says of its way is the way of the file.
    ends = np.array([[0, 0], *(points[-1] for _, points in found[:-1])])
    starts = np.array([points[0] for _, points in found])
    timing = timing_of(plan, cut_of(plan, 0))
    assert np.hypot(*(starts - ends).T).sum() == pytest.approx(timing.travel_mm, abs=0.5)
    lengths = [np.hypot(*np.diff(run.points, axis=0).T).sum() for run in runs if run.number == 1]
    assert timing.length_mm == pytest.approx(sum(lengths))
    setting = plan.settings[Cut.THROUGH]
    assert f"VS{round(setting.speed_mm_s / 10)};FS{round(setting.force_gf)};".encode() in data


def test_passes_are_repeated_a_loop_at_a_time() -> None:
    plan = scene(item(quantity=2, width_mm=20.0), pictures={1: bars((0, 0, 400, 400))}, stock="magnet").plan()
    setting = plan.settings[Cut.THROUGH]
    runs = list(cut_of(plan, 0).runs({Cut.THROUGH: 3}, 0.5))
    assert [run.number for run in runs] == [1, 2, 3] * 2
    assert [run.loop.placement for run in runs[:3]] == [runs[0].loop.placement] * 3
    assert len(read_back(SHEET_FILES["cut_hpgl"].write(plan, 0, lambda _: DISC), 279.4)) == 2 * setting.passes


def test_tabs_are_in_every_file() -> None:
    plan = scene(item(cut=Cut.THROUGH, tabs=Tabs(3, 0.8)), stock="card").plan()
    files = {key: SHEET_FILES[key].write(plan, 0, lambda _: DISC) for key in ("cut_svg", "cut_dxf", "cut_hpgl")}
    through = files["cut_svg"].decode().split('id="through"')[1].split("</g>")[0]
    assert through.count("<path") == 3
    assert " Z" not in through
    assert len(read_back(files["cut_hpgl"], 279.4)) == 3 * plan.settings[Cut.THROUGH].passes
    import ezdxf

    drawing = ezdxf.read(io.StringIO(files["cut_dxf"].decode()))
    lines = list(drawing.modelspace().query('LWPOLYLINE[layer=="THROUGH"]'))
    assert len(lines) == 3
    assert not any(line.closed for line in lines)
