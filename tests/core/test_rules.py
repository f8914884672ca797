"""Rules that decide what is made, each by its figures: bounds and their regions, gaps, cuts, settings, bleed."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from shapely.geometry import Polygon, box

from tests.core.test_edge import outline_of
from tests.scenes import Scene, bars, item, lying, scene
from vamper.core.art.groups import groups_of, start_apart_mm
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.resolution import VIEWING_DISTANCE_MM, need_of, needed_ppi
from vamper.core.cutting.cut_history import CutHistory
from vamper.core.cutting.depth import bands_of, depth_um, force_for
from vamper.core.cutting.setting import EdgeDetail, propose
from vamper.core.edge.edge import derive_edge
from vamper.core.edge.kind import KINDS, along_with_kind
from vamper.core.effective_job import effective_cut, effective_job, initial_edge
from vamper.core.inspect import findings_of
from vamper.core.marks.mark import FAMILIES
from vamper.core.marks.sheet_marks import marks_bound, marks_for
from vamper.core.plan import cut_of, page_of, printed_picture
from vamper.core.printing.bleed import bleed_box_mm
from vamper.core.printing.guides import guides_for
from vamper.core.sheet.breaches import breaches
from vamper.core.sheet.laid import lay
from vamper.core.sheet.lay.turns import turns_of
from vamper.core.sheet.layout import Layout, Piece, gap_between
from vamper.core.sheet.live_area import Bound, cutter_bounds, live_area, printer_bound, spent_bound
from vamper.core.sheet.pack.area_bound import AreaBound, area_bound
from vamper.core.values.art import Purpose, SizeSpec
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, ForceRange, Mat, Reach
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi
from vamper.core.values.item import Turn
from vamper.core.values.lengths import in_unit
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import PAPER_BY_KEY, Paper, Spent
from vamper.core.values.placement import Pin, Placement
from vamper.core.values.printer import Margins, Printer
from vamper.core.values.stock import STOCK_BY_KEY, Tack

A4 = PAPER_BY_KEY["a4"]


# What bounds the sheet


def test_the_printer_leaves_its_margins_each_on_its_own_side() -> None:
    bound = printer_bound(A4, Printer(margins_mm=Margins(top=1, right=2, bottom=3, left=4)))
    assert bound.region.bounds == (4, 1, 208, 294)
    assert "1 mm blank at the top, 2 at the right, 3 at the bottom and 4 at the left" in in_unit(bound.reason)


def test_each_limit_of_a_cutter_has_its_region() -> None:
    mat = Cutter(reach_mm=Reach(150, 200), mat_mm=Mat(140, 190), head_mm=10, tail_mm=25)
    regions = {bound.name: bound.region.bounds for bound in cutter_bounds(A4, mat)}
    assert regions == {"cutter": (0, 0, 150, 200), "mat": (0, 0, 140, 190)}
    roller = replace(mat, feed=Feed.ROLLER)
    regions = {bound.name: bound.region.bounds for bound in cutter_bounds(A4, roller)}
    assert regions == {"cutter": (0, 0, 150, 200), "rollers": (0, 10, 210, 272)}
    only_tail = Cutter(feed=Feed.ROLLER, tail_mm=25)
    assert [bound.region.bounds for bound in cutter_bounds(A4, only_tail)] == [(0, 0, 210, 297), (0, 0, 210, 272)]
    assert cutter_bounds(A4, replace(mat, feed=Feed.HAND)) == []


def test_a_used_part_is_gone_and_no_more() -> None:
    bound = spent_bound(Paper(100, 100, Spent(30, 40, left_mm=10, top_mm=20)))
    assert bound is not None
    assert bound.region.area == pytest.approx(100 * 100 - 30 * 40)
    assert not bound.region.contains(shapely.Point(25, 40))
    assert spent_bound(A4) is None


@pytest.mark.parametrize("family", [family.key for family in FAMILIES if family.key != NO_MARKS])
@pytest.mark.parametrize("count", [3, 4])
def test_what_marks_leave_keeps_clear_of_every_one_of_them(family: str, count: int) -> None:
    spec = MarksSpec(family, count, size_mm=9, stroke_mm=1, inset_mm=7, clear_mm=2.5)  # type: ignore[arg-type]
    bound = marks_bound(A4, spec)
    assert bound is not None
    marks = marks_for(A4, spec)
    assert len(marks) == (1 if family == "frame" else count)
    for mark in marks:
        for ring in mark.rings:
            drawn = shapely.Polygon(ring).boundary
            assert bound.region.distance(drawn) >= spec.clear_mm - 0.01
    # All of the room is used: it comes as near to a mark as it may.
    nearest = min(bound.region.distance(shapely.Polygon(ring).boundary) for m in marks for ring in m.rings)
    assert nearest < spec.clear_mm + (1.1 if family in ("dot", "ring") else 0.01)
    rim = min(np.concatenate(mark.rings).min() for mark in marks)
    assert rim == pytest.approx(spec.inset_mm, abs=0.01)


def test_no_marks_bound_nothing() -> None:
    assert marks_bound(A4, MarksSpec(NO_MARKS)) is None
    assert marks_for(A4, MarksSpec(NO_MARKS)) == ()


# What is really made


def test_the_job_as_made_is_what_stock_and_cutter_allow() -> None:
    asked = scene(item(cut=Cut.KISS), stock="card", cutter=Cutter(feed=Feed.HAND)).job
    made = effective_job(asked)
    assert made.items[0].cut is Cut.THROUGH
    assert made.marks.family == NO_MARKS
    assert made.packing.mode == "tidy"
    assert made.items[0].edge.fillet_mm == made.items[0].edge.smooth_mm == 4.0
    assert effective_job(made) == made
    plain = scene().job
    assert effective_job(plain) == plain
    assert effective_job(scene(stock="plain-vinyl").job).marks.family == NO_MARKS


def test_only_a_stock_without_backing_is_cut_through_whatever_is_asked() -> None:
    assert effective_cut(STOCK_BY_KEY["card"], Cut.KISS) is Cut.THROUGH
    assert effective_cut(STOCK_BY_KEY["satin-vinyl"], Cut.KISS) is Cut.KISS
    assert effective_cut(STOCK_BY_KEY["satin-vinyl"], Cut.THROUGH) is Cut.THROUGH


def test_what_is_only_cut_starts_with_the_drawing_itself() -> None:
    assert initial_edge(STOCK_BY_KEY["satin-vinyl"]) == EdgeSpec()
    assert initial_edge(STOCK_BY_KEY["plain-vinyl"]) == EdgeSpec("bare", 0.0, fill_holes=False, join=False)


def test_card_is_cut_through_in_the_plan_and_in_the_files() -> None:
    plan = scene(stock="card").plan()
    assert set(plan.settings) == {Cut.THROUGH}
    assert {loop.cut for loop in cut_of(plan, 0).loops} == {Cut.THROUGH}


# What keeps pieces apart


def test_the_gap_is_the_widest_of_what_is_asked_the_web_and_both_bleeds() -> None:
    square = shapely.MultiPolygon([box(0, 0, 9, 9)])

    def piece(cut: Cut = Cut.KISS, bleed: float = 0.0) -> Piece:
        return Piece(1, square, 1, cut, bleed)

    assert gap_between(piece(), piece(), 2.0) == 2.0
    assert gap_between(piece(), piece(Cut.THROUGH), 2.0) == 3.0
    assert gap_between(piece(Cut.THROUGH), piece(), 4.0) == 4.0
    assert gap_between(piece(bleed=1.2), piece(bleed=1.5), 2.0) == pytest.approx(2.7)


def test_bleed_is_handed_to_packing_where_something_is_printed() -> None:
    bare = item(edge=EdgeSpec("bare", 0), bleed_mm=1.7, quantity=2)
    (printed,) = scene(bare).plan().items
    assert printed.piece(printed=True).bleed_mm == 1.7
    assert printed.piece(printed=False).bleed_mm == 0.0
    laid = scene(bare).plan().sheets[0]
    assert laid.nearest_mm == pytest.approx(3.4, abs=0.02)
    cut_only = scene(bare, stock="plain-vinyl").plan().sheets[0]
    assert cut_only.nearest_mm == pytest.approx(2.0, abs=0.02)


def test_what_packing_needs_to_know_of_a_design_is_what_was_asked() -> None:
    spec = item(5, quantity=3, cut=Cut.THROUGH, turn=Turn.QUARTER, fill_priority=2, sheet_colour="#AA0000")
    piece = scene(spec).plan().items[0].piece(printed=True)
    assert (piece.item, piece.quantity, piece.cut) == (5, 3, Cut.THROUGH)
    assert (piece.turn, piece.fill_priority, piece.sheet_colour) == (Turn.QUARTER, 2, "#AA0000")


# What is drawn and cut


def test_laid_sheets_know_their_share_and_their_nearest_pair() -> None:
    plan = scene(item(quantity=2), held=lying((1, 30, 40), (1, 90, 40))).plan()
    sheet = plan.sheets[0]
    disc = np.pi * 23**2
    assert sheet.used_share == pytest.approx(2 * disc / plan.setup.live.area_mm2, rel=0.002)
    assert sheet.nearest_mm == pytest.approx(60 - 46, abs=0.02)
    assert sheet.counts == {1: 2}
    left = sheet.offcut(2.0)
    assert left.height_mm == pytest.approx(268.6 - (40 + 43 + 2), abs=2.5)


def test_a_mirrored_sheet_is_printed_and_cut_mirrored_with_its_marks_as_they_are() -> None:
    straight, turned = (
        scene(stock=stock, held=lying((1, 30, 40))).plan() for stock in ("dark-transfer", "light-transfer")
    )
    width = straight.job.paper.width_mm
    assert not straight.mirror
    assert turned.mirror
    (one,), (other,) = (cut_of(plan, 0).loops for plan in (straight, turned))
    assert sorted(other.points[:, 0]) == pytest.approx(sorted(width - one.points[:, 0]))
    assert [mark.x_mm for mark in page_of(turned, 0).marks] == [mark.x_mm for mark in page_of(straight, 0).marks]
    assert [mark.x_mm for mark in turned.setup.marks_seen] == [width - mark.x_mm for mark in turned.setup.marks]
    clip = page_of(turned, 0).pictures[0].clip.bounds
    assert clip[0] == pytest.approx(width - page_of(straight, 0).pictures[0].clip.bounds[2])


def test_the_first_sheet_is_smaller_where_part_of_it_is_used() -> None:
    used = scene(item(quantity=30), paper=Paper(215.9, 279.4, Spent(215.9, 140)))
    plan = used.plan()
    assert plan.setup.live_of(0).shape.bounds[1] == pytest.approx(140)
    assert plan.setup.live_of(1).shape.bounds[1] == pytest.approx(10.8)
    assert all(edge.bounds[1] >= 140 - 1e-6 for edge in plan.sheets[0].edges)


# Settings


@pytest.mark.parametrize(
    ("stock", "cut", "least", "target", "most"),
    [("satin-vinyl", Cut.KISS, 110, 128, 146), ("satin-vinyl", Cut.THROUGH, 230, 264.5, 322)],
)
def test_how_deep_a_cut_should_go(stock: str, cut: Cut, least: float, target: float, most: float) -> None:
    band = bands_of(STOCK_BY_KEY[stock], cut)
    assert (band.least_um, band.target_um, band.most_um) == pytest.approx((least, target, most))


def test_depth_grows_with_force_and_fades_from_pass_to_pass() -> None:
    vinyl = STOCK_BY_KEY["satin-vinyl"]
    assert depth_um(85, 1, vinyl, Blade.GENERAL) == pytest.approx(100)
    assert depth_um(85, 2, vinyl, Blade.GENERAL) == pytest.approx(160)
    assert depth_um(85, 1, vinyl, Blade.STEEP) == pytest.approx(100 / 0.85)
    assert depth_um(85, 1, vinyl, Blade.GENERAL, sharpness=0.5) == pytest.approx(50)
    assert force_for(160, 2, vinyl, Blade.GENERAL) == pytest.approx(85)


@pytest.mark.parametrize(
    ("stock", "cut", "radius", "blade", "passes"),
    [
        ("satin-vinyl", Cut.KISS, 5.0, Blade.GENERAL, 1),
        ("satin-vinyl", Cut.KISS, 0.69, Blade.STEEP, 1),
        ("satin-vinyl", Cut.KISS, 0.7, Blade.GENERAL, 1),
        ("magnet", Cut.THROUGH, 5.0, Blade.GENERAL, 2),
        ("card", Cut.THROUGH, 5.0, Blade.GENERAL, 1),
        ("heavy-card", Cut.THROUGH, 5.0, Blade.GENERAL, 1),
        ("light-card", Cut.THROUGH, 1.4, Blade.GENERAL, 2),
        ("light-card", Cut.THROUGH, 1.6, Blade.GENERAL, 1),
        ("light-transfer", Cut.KISS, 0.3, Blade.GENERAL, 2),
    ],
)
def test_blade_and_passes_for_each_kind_of_stock(
    stock: str, cut: Cut, radius: float, blade: Blade, passes: int
) -> None:
    in_the_drawer = CutHistory(steep_at_hand=True)
    setting = propose(STOCK_BY_KEY[stock], cut, Cutter(), EdgeDetail(radius, radius), in_the_drawer)
    assert (setting.blade, setting.passes) == (blade, passes)
    assert setting.bands.least_um <= setting.reached_um <= setting.bands.most_um


def test_exposure_speed_and_mat() -> None:
    vinyl, card = STOCK_BY_KEY["satin-vinyl"], STOCK_BY_KEY["card"]
    assert propose(vinyl, Cut.KISS, Cutter(), EdgeDetail(5, 5)).exposure_mm == 0.17
    assert propose(vinyl, Cut.THROUGH, Cutter(), EdgeDetail(5, 5)).exposure_mm == 0.33
    assert propose(card, Cut.THROUGH, Cutter(), EdgeDetail(5, 5)).exposure_mm == 0.35
    assert propose(vinyl, Cut.KISS, Cutter(), EdgeDetail(5, 5)).speed_mm_s == 100
    # v = √(a · r), down to the next five.
    assert propose(vinyl, Cut.KISS, Cutter(acceleration_mm_s2=1000), EdgeDetail(2, 2)).speed_mm_s == 40
    assert propose(vinyl, Cut.KISS, Cutter(), EdgeDetail(5, 5)).mat is Tack.MEDIUM


def test_forces_settle_on_what_the_machine_can_be_set_to() -> None:
    machine = ForceRange(20, 380, 4)
    assert [machine.settle(force) for force in (1, 21.9, 22.1, 101, 999)] == [20, 20, 24, 100, 380]
    assert ForceRange(10, 100, 7).settle(999) == 94


# What is drawn past the edge


def square(number: int = 1, **fields: object) -> Scene:
    """A square picture of 400 pixels a side, the middle half of it inked, 20 mm wide."""
    return scene(item(number, width_mm=20.0, **fields), pictures={number: bars((100, 100, 300, 300))})


def test_bleed_covers_the_edge_and_as_much_more_as_it_is_wide() -> None:
    plan = square(edge=EdgeSpec("bare", 0), bleed_mm=1.5).plan()
    one = plan.items[0]
    assert one.outline.mm_per_px == pytest.approx(0.1)
    left, top, width, height = bleed_box_mm(one.outline, one.edge, 1.5)
    assert (left, top) == pytest.approx((-1.6, -1.6), abs=0.11)
    assert (width, height) == pytest.approx((23.2, 23.2), abs=0.21)
    picture = bars((100, 100, 300, 300))
    carried = printed_picture(one, picture)
    inked = np.argwhere(carried.alpha > 0.5)
    across = (inked.max(axis=0) - inked.min(axis=0) + 1) * one.outline.mm_per_px
    assert across == pytest.approx((23.0, 23.0), abs=0.25)
    middle = carried.alpha.shape[0] / 2
    assert inked.mean(axis=0) + 0.5 == pytest.approx((middle, middle), abs=1)
    none = square(edge=EdgeSpec("bare", 0), bleed_mm=0.0).plan().items[0]
    assert printed_picture(none, picture) is picture


def test_a_picture_lies_on_the_page_where_its_piece_lies() -> None:
    turned = square().job
    placement = Placement(1, 60.0, 80.0, 90.0, Pin.HAND)
    plan = Scene(replace(turned, held=((placement,),)), {1: bars((100, 100, 300, 300))}).plan()
    (picture,) = page_of(plan, 0).pictures
    a, b, c, d, e, f = picture.matrix
    # The inked square is the middle half of the unit square; a quarter turn brings its right to the bottom.
    corner = (a * 0.25 + c * 0.25 + e, b * 0.25 + d * 0.25 + f)
    assert corner == pytest.approx((60, 80), abs=0.1)
    assert (a, b) == pytest.approx((0, 40), abs=0.1)
    assert (c, d) == pytest.approx((-40, 0), abs=0.1)


def test_near_pieces_share_the_room_between_them_and_far_ones_do_not() -> None:
    near = scene(
        item(width_mm=20.0, edge=EdgeSpec("bare", 0), bleed_mm=2.0, quantity=3),
        pictures={1: bars((100, 100, 300, 300))},
        held=lying((1, 30, 40), (1, 52, 40), (1, 130, 40)),
    )
    boxes = [picture.clip.bounds for picture in page_of(near.plan(), 0).pictures]
    assert boxes[0][2] == pytest.approx(51, abs=0.05)
    assert boxes[1][0] == pytest.approx(51, abs=0.05)
    assert boxes[2][2] - boxes[2][0] == pytest.approx(24, abs=0.05)


def test_rings_are_printed_under_each_other_but_for_those_that_are_bare() -> None:
    rings = (RingSpec(2.0, "#AA0000"), RingSpec(1.0, None), RingSpec(1.0, "#0000AA"))
    page = page_of(square(edge=EdgeSpec(rings=rings), bleed_mm=0.0).plan(), 0)
    outer, inner = page.borders
    assert (outer.colour, inner.colour) == ("#0000AA", "#AA0000")
    # Under the bare ring the outer one is cut out; under a drawing it goes on.
    # (corners are round: of radius r they take (4 − π) · r²)
    less = 4 - np.pi
    assert outer.shape.area == pytest.approx((28**2 - less * 16) - (26**2 - less * 9), rel=0.01)
    assert inner.shape.area == pytest.approx(24**2 - less * 4, rel=0.01)
    white = EdgeSpec(rings=(RingSpec(2.0, "#AA0000"), RingSpec(1.0, "#FFFFFF")))
    assert [border.colour for border in page_of(square(edge=white, bleed_mm=0.0).plan(), 0).borders] == ["#AA0000"]


def test_guides_run_outside_the_edge_and_ticks_stand_in_the_gaps() -> None:
    left, right = box(20, 20, 40, 40), box(50, 20, 70, 40)
    guides = guides_for([left, right], box(10, 10, 100, 100))
    assert [shapely.Polygon(line).bounds for line in guides.lines] == [
        pytest.approx((19.75, 19.75, 40.25, 40.25), abs=0.01),
        pytest.approx((49.75, 19.75, 70.25, 40.25), abs=0.01),
    ]
    assert guides.ticks == (((45, 10), (45, 15)), ((45, 95), (45, 100)))
    below = guides_for([left, box(20, 60, 40, 80)], box(10, 10, 100, 100))
    assert below.ticks == (((10, 50), (15, 50)), ((95, 50), (100, 50)))


# Figures of the rules


def test_viewing_distances_and_what_the_eye_needs() -> None:
    assert list(VIEWING_DISTANCE_MM.values()) == [300, 400, 400, 400, 500, 700, 1000, 2000]
    # Cloth blurs more than the eye does.
    assert need_of(Purpose.CLOTH) == pytest.approx(0.7 * needed_ppi(700), rel=0.25)
    assert need_of(Purpose.LAPTOP) == needed_ppi(500)
    # One minute of arc, two pixels a cycle: 2 · 25.4 / (2 · d · tan(1/120°)).
    assert needed_ppi(300) == pytest.approx(25.4 / (300 * np.tan(np.radians(1 / 60))), rel=0.01)
    assert needed_ppi(2000) == 100


def test_groups_are_cropped_to_their_own_box_with_a_rim() -> None:
    picture = bars((40, 40, 140, 140), (240, 200, 380, 300))
    outline = outline_at(trace(picture, 0.5), SizeSpec(width_mm=34))
    first, second = groups_of(outline, 5.0)
    assert first.crop == pytest.approx((37 / 400, 37 / 400, 143 / 400, 143 / 400), abs=0.006)
    assert second.crop == pytest.approx((237 / 400, 197 / 400, 383 / 400, 303 / 400), abs=0.006)
    three = outline_at(
        trace(bars((20, 20, 100, 100), (200, 50, 280, 130), (20, 200, 100, 280)), 0.5), SizeSpec(width_mm=26)
    )
    rows = [group.shape.bounds[:2] for group in groups_of(three, 3.0)]
    assert [(round(x), round(y)) for x, y in rows] == [(0, 0), (18, 3), (0, 18)]


def test_a_kind_brings_its_distance_along_only_where_the_border_comes_or_goes() -> None:
    bare, hull = KINDS["bare"], KINDS["hull"]
    assert along_with_kind(EdgeSpec(distance_mm=5), hull) == {}
    assert along_with_kind(EdgeSpec(distance_mm=5), bare) == {"distance_mm": 0.0, "rings": ()}
    assert along_with_kind(EdgeSpec("bare", -1), hull) == {"distance_mm": 3.0}
    for wrong in ({"kind": "bare", "distance_mm": 1.0}, {"kind": "hull", "distance_mm": -1.0}):
        with pytest.raises(ValueError, match="bare"):
            EdgeSpec(**wrong)
    with pytest.raises(ValueError, match="no rings"):
        EdgeSpec("bare", 0.0, rings=(RingSpec(1.0),))
    assert {kind.key: (kind.follows, kind.has_border) for kind in KINDS if kind.follows or not kind.has_border} == {
        "follow": (True, True),
        "bare": (True, False),
    }
    assert [kind.key for kind in KINDS if kind.card] == [
        "circle",
        "ellipse",
        "rectangle",
        "rounded",
        "hull",
        "bare",
    ]


def test_the_inset_that_is_offered_is_a_tenth_that_leaves_something() -> None:
    deep = scene(item(width_mm=20.0, edge=EdgeSpec("bare", -12)), pictures={1: bars((100, 100, 300, 300))})
    finding = deep.one("edge.inset")
    assert finding.figures["deepest_mm"] == pytest.approx(10, abs=0.05)
    assert finding.fixes[0].changes["edge.distance_mm"] == pytest.approx(-9.9, abs=0.051)


def test_the_turn_of_a_design_counts_before_that_of_the_job() -> None:
    long = bars((0, 190, 400, 210))
    job = {"packing": PackingSpec(turn=Turn.UPRIGHT), "pictures": {1: long}}
    assert "art.too-big" in scene(item(width_mm=200.0), **job).codes()
    assert "art.too-big" not in scene(item(width_mm=200.0, turn=Turn.QUARTER), **job).codes()
    upright = {"packing": PackingSpec(turn=Turn.ANY), "pictures": {1: long}}
    assert "art.too-big" in scene(item(width_mm=200.0, turn=Turn.UPRIGHT), **upright).codes()


@pytest.mark.parametrize("region", [box(60, 0, 64, 100), box(0, 60, 100, 64)])
def test_a_strip_that_holds_nothing_is_refused_by_name(region: Polygon) -> None:
    with pytest.raises(BadInput, match="the marks: a strip"):
        live_area(Paper(100, 100), [Bound("marks", "the marks: a strip", region)])


def test_all_parts_that_are_left_and_hold_anything_are_the_live_area() -> None:
    paper = Paper(100, 100, Spent(100, 10, top_mm=60))
    gone = spent_bound(paper)
    assert gone is not None
    assert live_area(paper, [gone]).shape.bounds == (0, 0, 100, 100)
    assert live_area(paper, [gone]).area_mm2 == pytest.approx(9000, rel=1e-4)
    narrow = spent_bound(Paper(100, 100, Spent(100, 10, top_mm=87)))
    assert narrow is not None
    assert live_area(paper, [narrow]).shape.bounds == (0, 0, 100, 87)
    assert live_area(Paper(5, 100), []).size_mm == (5, 100)
    with pytest.raises(BadInput, match="nothing is left"):
        live_area(Paper(4.9, 100), [])


def test_areas_bound_how_many_go_on_a_sheet() -> None:
    tile = Piece(1, shapely.MultiPolygon([box(0, 0, 10, 10)]), 100)
    assert area_bound(box(0, 0, 100, 100), [tile], 0.0) == AreaBound(100, 1)
    assert area_bound(box(0, 0, 99.9, 100), [tile], 0.0) == AreaBound(99, 2)
    assert area_bound(box(0, 0, 100, 100), [replace(tile, quantity=101)], 0.0).sheets_at_least == 2
    assert area_bound(box(0, 0, 100, 100), [], 2.0) == AreaBound(0, 0)
    # Where all go on a sheet with room to spare, as many more sets as it has room for.
    larger = Piece(2, shapely.MultiPolygon([box(0, 0, 20, 10)]), 1)
    assert area_bound(box(0, 0, 100, 100), [replace(tile, quantity=1), larger], 0.0) == AreaBound(66, 1)


def test_turns_are_tried_in_quarter_degrees_through_half_a_circle() -> None:
    assert turns_of(Turn.UPRIGHT).tolist() == [0]
    assert turns_of(Turn.QUARTER).tolist() == [0, 90]
    turns = turns_of(Turn.ANY)
    assert (len(turns), turns[1], turns[-1]) == (720, 0.25, 179.75)


def test_the_tightest_of_several_loops_counts() -> None:
    ring = shapely.Point(0, 0).buffer(20, quad_segs=64).difference(shapely.Point(0, 0).buffer(3, quad_segs=64))
    edge = derive_edge(outline_of(ring), EdgeSpec("bare", 0.0, fill_holes=False), 1.0)
    assert edge.smallest_radius_mm == pytest.approx(3, rel=0.05)
    tiny = derive_edge(outline_of(shapely.Point(0, 0).buffer(0.15, quad_segs=16)), EdgeSpec("bare", 0.0), 0.1)
    assert tiny.smallest_radius_mm == pytest.approx(0.15, rel=0.02)


def test_what_a_new_cutter_is_taken_to_be() -> None:
    assert Cutter() == Cutter(
        feed=Feed.MAT,
        reach_mm=Reach(310, 420),
        force_gf=ForceRange(20, 380, 4),
        head_mm=0,
        tail_mm=0,
        mat_mm=None,
        acceleration_mm_s2=3000,
    )
    assert Cutter(feed=Feed.HAND).is_machine is False
    assert Cutter(feed=Feed.ROLLER).is_machine
    with pytest.raises(ValueError, match="greater"):
        ForceRange(20, 20, 4)


def test_pieces_that_touch_may_and_pieces_that_overlap_may_not() -> None:
    tile = Piece(1, shapely.MultiPolygon([box(0, 0, 10, 10)]), 2)
    touching = [Placement(1, 0, 0), Placement(1, 10, 0)]
    overlapping = [Placement(1, 0, 0), Placement(1, 9.9, 0)]
    assert breaches(touching, {1: tile}, box(0, 0, 50, 50), 0.0) == []
    (broken,) = breaches(overlapping, {1: tile}, box(0, 0, 50, 50), 0.0)
    assert (broken.first, broken.second, broken.distance_mm, broken.needed_mm) == (0, 1, 0.0, 0.0)
    # Exactly the gap is enough.
    assert breaches([Placement(1, 0, 0), Placement(1, 12, 0)], {1: tile}, box(0, 0, 50, 50), 2.0) == []
    assert len(breaches([Placement(1, 0, 0), Placement(1, 11.99, 0)], {1: tile}, box(0, 0, 50, 50), 2.0)) == 1


def test_a_bare_outline_too_thin_is_offered_the_size_at_which_it_holds() -> None:
    strip = bars((20, 100, 160, 300), (240, 100, 380, 300), (150, 197, 250, 203))
    thin = scene(item(edge=EdgeSpec("bare", 0)), pictures={1: strip})
    finding = thin.one("art.thin")
    (fix,) = finding.fixes
    # 6 of 360 pixels over 40 mm are 0.67 mm; at the size that is offered no strip is too thin for the stock.
    assert finding.figures["neck_mm"] == 1.0
    assert "art.thin" not in thin.with_fix(finding, fix).codes()


def test_the_gap_is_looked_for_as_far_as_the_widest_of_all_goes() -> None:
    tile = shapely.MultiPolygon([box(0, 0, 10, 10)])
    pieces = {1: Piece(1, tile, 2, Cut.KISS, 2.5), 2: Piece(2, tile, 1)}
    sheet = [Placement(1, 0, 0), Placement(1, 14, 0), Placement(2, 30, 0)]
    (broken,) = breaches(sheet, pieces, box(0, 0, 50, 50), 2.0)
    assert (broken.first, broken.second, broken.needed_mm) == (0, 1, 5.0)


def test_a_colour_of_ones_own_reflects_as_nobody_measured() -> None:
    kraft = replace(STOCK_BY_KEY["card"], colour="#B08D5E", reflectance=0.4)
    job = replace(scene(stock="card").job, stock=kraft)
    assert effective_job(replace(job, stock_colour="#B08D5E")).stock.reflectance == 0.4
    black = effective_job(replace(job, stock_colour="#202020")).stock
    assert (black.colour, black.reflectance) == ("#202020", None)


def test_drawings_are_apart_from_a_sixteenth_of_the_longer_side_on() -> None:
    wide = outline_at(trace(bars((10, 150, 390, 250))), SizeSpec(width_mm=100.0))
    assert start_apart_mm(wide) == pytest.approx(6.0, abs=0.01)
    tall = outline_at(trace(bars((150, 10, 250, 390))), SizeSpec(height_mm=100.0))
    assert start_apart_mm(tall) == pytest.approx(6.0, abs=0.01)


def test_a_steep_blade_is_told_where_any_cut_is_a_kiss() -> None:
    both = scene(
        item(1, quantity=1), item(2, quantity=1, cut=Cut.THROUGH), stock="print-flex", blade=BladeIn(Blade.STEEP)
    )
    assert set(both.plan().settings) == {Cut.KISS, Cut.THROUGH}
    assert "cut.steep-blade" in both.codes()


def test_a_bare_outline_goes_in_by_five_millimetres_at_most() -> None:
    assert KINDS["bare"].range_mm == (-5.0, 0.0)


def test_what_is_printed_larger_than_asked_is_offered_the_size_that_is_asked() -> None:
    plan = scene(item(width_mm=300.0, cut=Cut.THROUGH, quantity=1), stock="card").plan()
    (made,) = plan.items
    doubled = replace(plan, items=(replace(made, asked=replace(made.spec, width_mm=150.0)),))
    as_made_, as_asked = (
        next(one for one in findings_of(each) if one.code == "art.too-big").fixes[0].changes for each in (plan, doubled)
    )
    assert as_made_["width_mm"] == pytest.approx(188.0, abs=1.0)
    assert as_asked["width_mm"] == pytest.approx(94.0, abs=0.5)


def test_a_sheet_is_laid_anew_when_one_of_its_designs_got_another_edge() -> None:
    old = {n: as_multi([box(0, 0, side, side)]) for n, side in ((1, 20), (2, 30))}
    new = {**old, 2: as_multi([box(0, 0, 25, 25)])}
    sheet = (Placement(1, 10.0, 10.0, 0.0), Placement(2, 50.0, 50.0, 0.0))
    layout = Layout((sheet,), (), time_limited=False)
    live = live_area(Paper(100, 100), [])
    before = lay(layout, old, lambda _: live)
    (again,) = lay(layout, dict(old), lambda _: live, before=before)
    assert again.lying is before[0].lying
    (anew,) = lay(layout, new, lambda _: live, before=before)
    assert [edge.area for edge in anew.edges] == pytest.approx([400, 625])
