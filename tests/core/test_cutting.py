"""The depth model against its own formula, and settings against the rules of the trade."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, MultiPolygon, Point, Polygon, box

from tests.scenes import item, scene
from vamper.core.art.outline import Outline
from vamper.core.cutting.cut_history import NOTHING_KNOWN, CutHistory
from vamper.core.cutting.depth import bands_of, depth_um, force_for
from vamper.core.cutting.inspect import cut_findings, detail_findings
from vamper.core.cutting.plan import plan_cut
from vamper.core.cutting.setting import EdgeDetail, loop_speed_mm_s, propose
from vamper.core.edge.bends import tight_places, tightest_mm
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.plan import cut_of, timed_runs, timing_of
from vamper.core.sheet.laid import LaidSheet, lay
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.live_area import LiveArea
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, ForceRange, Reach
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.geometry import as_multi
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Placement
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY
from vamper.core.values.tried import Outcome, Try

PAPER_BOX = box(0, 0, 100, 100)
CUTTER = Cutter(feed=Feed.MAT, reach_mm=Reach(310, 420), force_gf=ForceRange(20, 380, 4))


def edge_of(shape: shapely.Polygon, **spec: float) -> Edge:
    outline = Outline(as_multi([shape]), 1, (0, 0), (10, 10), (), (), False)
    return derive_edge(outline, EdgeSpec(**{"distance_mm": 0, "smooth_mm": 0, "fill_holes": False, **spec}), 1.0)


def test_satin_vinyl_kiss_by_hand() -> None:
    # 110 + 0.15 · 120 = 128 µm; 128 · 0.85 · 1.0 = 108.8 gf would be in the middle of what is clean; with a look before
    # unloading a little less is worth more, since a second pass makes up for it and nothing for a cut backing.
    setting = propose(STOCK_BY_KEY["satin-vinyl"], Cut.KISS, CUTTER, EdgeDetail(3.0, 3.0))
    assert (setting.blade, setting.force_gf, setting.passes, setting.mat) == (Blade.GENERAL, 104, 1, "medium")
    # √(3000 · 3) = 94.9, down to the next five.
    assert setting.speed_mm_s == 90


@given(st.sampled_from(STARTER_STOCKS), st.floats(20, 600), st.integers(1, 6), st.sampled_from(Blade))
def test_force_and_depth_are_inverse(stock, depth, passes, blade) -> None:  # type: ignore[no-untyped-def]
    force = force_for(depth, passes, stock, blade)
    assert depth_um(force, passes, stock, blade) == pytest.approx(depth)
    single = force / (stock.hardness_gf_per_um * (0.85 if blade is Blade.STEEP else 1))
    assert depth == pytest.approx(sum(single * 0.6**n for n in range(passes)))


@pytest.mark.parametrize("stock", STARTER_STOCKS, ids=lambda stock: stock.key)
def test_every_starter_but_shrink_film_can_be_cut_cleanly_on_the_mat_cutter(stock) -> None:  # type: ignore[no-untyped-def]
    cuts = list(Cut) if stock.has_backing else [Cut.THROUGH]
    for cut in cuts:
        setting = propose(stock, cut, CUTTER, EdgeDetail(2.0, 2.0))
        assert [one.code for one in cut_findings(setting, stock, CUTTER)] == (
            ["cut.too-hard"] if stock.key == "shrink-film" else []
        )
        assert setting.bands.least_um <= setting.reached_um <= setting.bands.most_um
        assert setting.is_too_hard or setting.force_gf <= 0.9 * 380 + CUTTER.force_gf.step
        assert len(setting.why) == 5


AT_HAND = CutHistory(steep_at_hand=True)
TORE = CutHistory(tries=(Try(100, 1, Outcome.TORN),))
STEEP_IN = CutHistory(blade=BladeIn(Blade.STEEP))


@pytest.mark.parametrize(
    ("key", "cut", "radius", "known", "blade"),
    [
        # One standard blade cuts what makers bring, as long as no other lies there.
        ("magnet", Cut.THROUGH, 2.0, NOTHING_KNOWN, Blade.GENERAL),
        ("satin-vinyl", Cut.KISS, 0.5, NOTHING_KNOWN, Blade.GENERAL),
        ("satin-vinyl", Cut.KISS, 0.5, AT_HAND, Blade.STEEP),
        ("satin-vinyl", Cut.KISS, 0.5, TORE, Blade.STEEP),
        # 0.32 mm are not thick enough for it.
        ("magnet", Cut.THROUGH, 2.0, AT_HAND, Blade.GENERAL),
        ("satin-vinyl", Cut.KISS, 2.0, STEEP_IN, Blade.STEEP),
        ("dark-transfer", Cut.KISS, 0.3, AT_HAND, Blade.GENERAL),
    ],
)
def test_the_blade_in_the_machine_and_a_steep_one_where_it_is_worth_it(
    key: str, cut: Cut, radius: float, known: CutHistory, blade: Blade
) -> None:
    assert propose(STOCK_BY_KEY[key], cut, CUTTER, EdgeDetail(radius, radius), known).blade is blade


def test_what_is_thicker_than_most_takes_the_steep_blade_through() -> None:
    thick = replace(STOCK_BY_KEY["magnet"], face_um=400)
    assert propose(thick, Cut.THROUGH, CUTTER, known=AT_HAND).blade is Blade.STEEP
    assert propose(thick, Cut.THROUGH, CUTTER).blade is Blade.GENERAL


def test_soft_stock_with_small_detail_takes_two_gentle_passes() -> None:
    stock = STOCK_BY_KEY["card"]
    gentle, single = (
        propose(stock, Cut.THROUGH, CUTTER, EdgeDetail(1.0, 1.0)),
        propose(stock, Cut.THROUGH, CUTTER, EdgeDetail(3.0, 3.0)),
    )
    assert (gentle.passes, single.passes) == (2, 1)
    assert 0.55 < gentle.force_gf / single.force_gf < 0.75


def test_a_weak_machine_says_it_cannot() -> None:
    weak = Cutter(feed=Feed.ROLLER, reach_mm=Reach(210, 1000), force_gf=ForceRange(10, 120, 5))
    stock = STOCK_BY_KEY["shrink-film"]
    (stop,) = cut_findings(propose(stock, Cut.THROUGH, weak, EdgeDetail(2, 2)), stock, weak)
    assert (stop.code, stop.severity) == ("cut.too-hard", "stop")


def test_a_strong_machine_says_its_gentlest_is_too_much() -> None:
    strong = Cutter(feed=Feed.MAT, reach_mm=Reach(300, 300), force_gf=ForceRange(150, 900, 10))
    stock = STOCK_BY_KEY["water-slide-white"]
    (look,) = cut_findings(propose(stock, Cut.KISS, strong, EdgeDetail(2, 2)), stock, strong)
    assert look.code == "cut.too-deep"


def test_passes_that_do_not_fit_are_said_and_put_right() -> None:
    """Too many, too few, and clean as it was told: what the words say is what the setting does."""
    vinyl, card = STOCK_BY_KEY["satin-vinyl"], STOCK_BY_KEY["card"]
    firm = Cutter(feed=Feed.MAT, reach_mm=Reach(300, 300), force_gf=ForceRange(90, 900, 10))
    many = propose(vinyl, Cut.KISS, firm, known=CutHistory(passes=6))
    (look,) = cut_findings(many, vinyl, firm)
    assert look.title == "6 passes are too many"
    assert f"{many.force_gf:g} gf in 6 passes goes" in look.text
    assert look.fixes[0].changes == {"passes": 1}
    weak = Cutter(feed=Feed.MAT, reach_mm=Reach(300, 300), force_gf=ForceRange(20, 200, 4))
    few = propose(card, Cut.THROUGH, weak, known=CutHistory(passes=1))
    (look,) = cut_findings(few, card, weak)
    assert look.code == "cut.too-few-passes"
    assert look.fixes[0].changes == {"passes": few.least_passes}
    film, cut_once = STOCK_BY_KEY["shrink-film"], CutHistory(tries=(Try(380, 6, Outcome.CLEAN),))
    assert cut_findings(propose(film, Cut.THROUGH, CUTTER), film, CUTTER)
    assert not cut_findings(propose(film, Cut.THROUGH, CUTTER, known=cut_once), film, CUTTER)


def test_kiss_is_aimed_between_face_and_backing() -> None:
    for stock in STARTER_STOCKS:
        if stock.has_backing:
            band = bands_of(stock, Cut.KISS)
            assert stock.face_um == band.least_um < band.target_um < band.most_um < stock.thickness_um


@pytest.mark.parametrize("radius", [0.4, 0.7, 2, 8])
def test_the_smallest_radius_of_a_disc_is_its_own(radius: float) -> None:
    assert edge_of(Point(0, 0).buffer(radius, quad_segs=32)).smallest_radius_mm == pytest.approx(radius, rel=0.06)


def test_sharp_corners_are_not_bends() -> None:
    assert edge_of(box(0, 0, 20, 10)).smallest_radius_mm == math.inf
    assert edge_of(box(0, 0, 20, 10), distance_mm=2).smallest_radius_mm == pytest.approx(2, rel=0.05)


def laid(placements: list[Placement], edges: dict[int, MultiPolygon], live: Polygon = PAPER_BOX) -> LaidSheet:
    (sheet,) = lay(Layout((tuple(placements),), (), False), edges, lambda _sheet: LiveArea(live, ()))
    return sheet


def test_inner_loops_come_first_and_kiss_before_through() -> None:
    ring = edge_of(Point(10, 10).buffer(10).difference(Point(10, 10).buffer(5)))
    sheet = laid([Placement(1, 10, 10, 0), Placement(2, 50, 50, 0)], {1: ring.shape, 2: ring.shape})
    plan = plan_cut(Paper(100, 100), sheet, {1: Cut.THROUGH, 2: Cut.KISS})
    assert [(loop.cut, loop.is_hole) for loop in plan.loops] == [
        (Cut.KISS, True),
        (Cut.KISS, False),
        (Cut.THROUGH, True),
        (Cut.THROUGH, False),
    ]
    assert plan.length_mm == pytest.approx(2 * ring.length_mm)


def test_a_mirrored_plan_is_cut_mirrored() -> None:
    sheet = laid([Placement(1, 5, 5, 0)], {1: edge_of(box(0, 0, 10, 5)).shape})
    (loop,) = plan_cut(Paper(100, 50), sheet, {1: Cut.KISS}, mirror=True).loops
    assert loop.points[:, 0].min() == pytest.approx(85)
    assert loop.points[:, 0].max() == pytest.approx(95)


def test_each_loop_has_its_own_speed() -> None:
    vinyl = STOCK_BY_KEY["satin-vinyl"]
    assert loop_speed_mm_s(vinyl, CUTTER, math.inf) == 100
    # √(3000 · 0.5) = 38.7, down to the next five; nothing is slower than five.
    assert loop_speed_mm_s(vinyl, CUTTER, 0.5) == 35
    assert loop_speed_mm_s(vinyl, CUTTER, 1e-4) == 5
    plan = scene(item(1, width_mm=60.0), item(2, width_mm=3.0, edge=EdgeSpec("bare", 0.0))).plan()
    speeds = {one.run.loop.item: one.speed_mm_s for one in timed_runs(plan, cut_of(plan, 0))}
    assert speeds[1] == 100
    assert speeds[2] == 65
    # One tight bend sets neither blade nor speed of the others.
    assert plan.settings[Cut.KISS].speed_mm_s == 100
    assert plan.settings[Cut.KISS].blade is Blade.GENERAL


def test_runs_follow_one_another_in_time() -> None:
    plan = scene(item(1, quantity=5), stock="card").plan()
    cut = cut_of(plan, 0)
    timed = list(timed_runs(plan, cut))
    timing = timing_of(plan, cut)
    assert timed[0].begins > 15
    assert all(one.begins < one.ends for one in timed)
    assert all(one.ends < other.begins for one, other in itertools.pairwise(timed))
    assert timed[-1].ends == pytest.approx(timing.seconds)
    assert sum(timing.parts.values()) == pytest.approx(timing.seconds)


def test_tight_bends_are_found_where_they_are() -> None:
    # A square with one corner rounded by a fifth of a millimetre, and three by four.
    ring = box(0, 0, 30, 30).buffer(-4).buffer(4, quad_segs=32).union(box(20, 20, 30, 30).buffer(-0.2).buffer(0.2))
    points = np.array(ring.exterior.coords)[:-1]
    (place,) = tight_places(points, 0.7)
    assert np.hypot(*(place.mean(axis=0) - (30, 30))) < 0.6
    assert tight_places(points, 0.1) == []
    assert len(tight_places(points, 4.5)) == 4


@pytest.mark.parametrize(("radius", "tight_for"), [(0.8, set()), (0.6, {Blade.GENERAL}), (0.25, set(Blade))])
def test_each_blade_goes_round_bends_of_its_own(radius: float, tight_for: set[Blade]) -> None:
    plan = scene(item(1)).plan()
    rounded = LineString([(0, 0), (30, 0)]).buffer(radius, quad_segs=48)
    edge, spec = replace(plan.items[0].edge, shape=as_multi([rounded])), plan.items[0].spec
    stock = plan.job.stock
    told = {
        blade
        for blade in Blade
        if detail_findings(edge, spec, replace(plan.settings[Cut.KISS], blade=blade), stock, spec.number)
    }
    assert told == tight_for


def test_one_tight_bend_is_spoken_of_as_one() -> None:
    plan = scene(item(1)).plan()
    spec, stock = plan.items[0].spec, plan.job.stock
    both = LineString([(0, 0), (30, 0)]).buffer(0.6, quad_segs=48)
    one = both.union(box(15, -10, 35, 10))
    titles = [
        detail_findings(replace(plan.items[0].edge, shape=as_multi([shape])), spec, plan.settings[Cut.KISS], stock, 1)[
            0
        ].title
        for shape in (one, both)
    ]
    assert titles == ["A bend too tight for this blade", "2 bends too tight for this blade"]


def test_the_setting_follows_what_was_seen() -> None:
    vinyl = STOCK_BY_KEY["satin-vinyl"]
    starter = propose(vinyl, Cut.KISS, CUTTER)
    seen = (Try(108, 1, Outcome.NOT_THROUGH), Try(128, 1, Outcome.CLEAN), Try(132, 1, Outcome.CLEAN))
    found = propose(vinyl, Cut.KISS, CUTTER, known=CutHistory(tries=seen))
    assert not starter.seen
    assert found.seen
    assert found.force_gf > starter.force_gf
    assert found.chance > starter.chance + 0.3
    # A torn drop says nothing about depth, so it is still the starter.
    assert not propose(vinyl, Cut.KISS, CUTTER, known=CutHistory(tries=(Try(108, 1, Outcome.TORN),))).seen
    # What was seen of the cut through tells of the kiss cut as well: the hardness is the same.
    through = (Try(300, 1, Outcome.NOT_THROUGH, cut=Cut.THROUGH),)
    assert propose(vinyl, Cut.KISS, CUTTER, known=CutHistory(tries=through)).force_gf > starter.force_gf
    chosen = propose(vinyl, Cut.KISS, CUTTER, known=CutHistory(tries=seen, passes=2))
    assert chosen.passes == 2
    assert 0.55 < chosen.force_gf / found.force_gf < 0.7


def test_a_blade_that_was_worn_then_is_not_taken_for_hard_stock() -> None:
    vinyl = STOCK_BY_KEY["satin-vinyl"]
    worn = (Try(160, 1, Outcome.CLEAN, Cut.KISS, Blade.GENERAL, 240.0),) * 3
    sharp = tuple(Try(160 * math.exp(-0.4), 1, Outcome.CLEAN, Cut.KISS, Blade.GENERAL, 0.0) for _ in range(3))
    found = [propose(vinyl, Cut.KISS, CUTTER, known=CutHistory(tries=tries)).force_gf for tries in (worn, sharp)]
    assert found[0] == pytest.approx(found[1], abs=CUTTER.force_gf.step)


@pytest.mark.parametrize(("sides", "is_bend"), [(15, True), (10, False)])
def test_a_vertex_that_turns_by_more_than_thirty_degrees_is_a_corner(sides: int, is_bend: bool) -> None:
    turns = np.linspace(0, 2 * np.pi, sides, endpoint=False)
    ring = 50 * np.column_stack([np.cos(turns), np.sin(turns)])
    tightest = tightest_mm(ring)
    assert np.isfinite(tightest) == is_bend
    if is_bend:
        assert tightest == pytest.approx(50, rel=0.03)


@pytest.mark.parametrize(("radius_mm", "is_tight"), [(2.985, False), (2.976, True)])
def test_a_bend_is_tight_from_two_hundredths_under_the_limit(radius_mm: float, is_tight: bool) -> None:
    turns = np.linspace(0, 2 * math.pi, 2000, endpoint=False)
    circle = radius_mm * np.column_stack([np.cos(turns), np.sin(turns)])
    assert tightest_mm(circle) == pytest.approx(radius_mm, abs=0.001)
    assert bool(tight_places(circle, 3.0)) == is_tight


def test_passes_that_would_be_proposed_are_not_called_chosen() -> None:
    stock = STOCK_BY_KEY["satin-vinyl"]
    proposed = propose(stock, Cut.THROUGH, CUTTER, EdgeDetail(3.0, 3.0))
    same, other = (
        propose(stock, Cut.THROUGH, CUTTER, EdgeDetail(3.0, 3.0), CutHistory(passes=proposed.passes + more))
        for more in (0, 1)
    )
    assert same.why == proposed.why
    assert f"{proposed.passes + 1} passes, as you chose; {proposed.passes} would be proposed" in other.why
