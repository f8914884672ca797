"""What is done with pieces after the cut: pressed, placed, numbered in pairs, brought into register."""

from collections import Counter
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.scenes import bars, item, scene
from tests.tried import tried
from vamper.core.art.colours import KEY_MM, layers_of
from vamper.core.finishing.cloth import on_cloth
from vamper.core.finishing.ghost import MOST_PAGES, RIM_MM, Ghost, ghost_pages
from vamper.core.finishing.placing import placing_pages
from vamper.core.finishing.press_plan import MOST_PATCHES, Patch, patch_count, per_plate, press_plan
from vamper.core.finishing.targets import CLOTH, TARGETS
from vamper.core.plan import page_of
from vamper.core.values.art import SizeSpec
from vamper.core.values.drawing import rectangle
from vamper.core.values.finish import BlankSpec, ClothSpec, FinishSpec, HeatSpec, Target, TransferMask
from vamper.core.values.paper import PAPER_BY_KEY
from vamper.core.values.product import ProductSpec
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.wrap import WrapSpec

SIDE = st.floats(5, 400)
SOLE = st.floats(60, 400)
A4 = PAPER_BY_KEY["a4"]


def box(patch: Patch) -> shapely.Polygon:
    return shapely.box(patch.x_mm, patch.y_mm, patch.x_mm + patch.width_mm, patch.y_mm + patch.height_mm)


@given(SIDE, SIDE, SOLE, SOLE)
@tried(100)
def test_patches_cover_the_motif_and_overlap_by_a_third(w: float, h: float, sw: float, sh: float) -> None:
    heat = HeatSpec(iron=True, width_mm=sw, height_mm=sh)
    plan, whole = press_plan(w, h, heat, 30.0, for_spot=True), press_plan(w, h, heat, 30.0)
    assert plan.seconds == pytest.approx(30 * len(plan.patches))
    # A time for the whole motif is shared by its patches, never multiplied.
    assert whole.seconds == 30
    assert whole.seconds_each == pytest.approx(30 / len(plan.patches))
    patches = plan.patches
    assert shapely.union_all([box(one) for one in patches]).buffer(1e-6).covers(shapely.box(0, 0, w, h))
    # One after the other lies beside the one before: nobody carries the iron across the motif.
    for one, other in pairwise(patches):
        shared = box(one).intersection(box(other)).area / box(one).area
        assert shared >= 1 / 3 - 1e-3
    # A patch fewer a side would not do.
    columns = len({round(one.x_mm, 6) for one in patches})
    side = patches[0].width_mm
    assert columns == 1 or side + (columns - 2) * side * 2 / 3 < w + 1e-3


def test_a_press_that_holds_the_motif_closes_once() -> None:
    assert len(press_plan(300, 200, HeatSpec(), None).patches) == 1
    assert press_plan(300, 200, HeatSpec(), None).seconds is None
    assert len(press_plan(500, 200, HeatSpec(), 20.0).patches) == 2


@given(SIDE, SIDE, SOLE, SOLE, st.booleans())
@tried(100)
def test_patches_are_counted_without_laying_them_out(w: float, h: float, sw: float, sh: float, iron: bool) -> None:
    heat = HeatSpec(iron, sw, sh)
    plan = press_plan(w, h, heat, 2.0)
    assert plan.count == patch_count(w, h, heat)
    assert len(plan.patches) == min(plan.count, MOST_PATCHES)
    # A sole that was mistyped holds nobody up.
    assert len(press_plan(3000, 3000, HeatSpec(iron, 20, 20), None).patches) == MOST_PATCHES


def test_blanks_are_counted_both_ways_round() -> None:
    assert per_plate(95, 95, HeatSpec()) == 9
    assert per_plate(180, 80, HeatSpec(width_mm=380, height_mm=200)) == per_plate(
        80, 180, HeatSpec(width_mm=380, height_mm=200)
    )
    assert per_plate(400, 100, HeatSpec()) == 0


@given(st.floats(100, 900), st.floats(10, 500), st.floats(0, 1))
def test_a_motif_hangs_by_its_chosen_part(panel: float, width: float, centre: float) -> None:
    placed = on_cloth(ClothSpec(centre=centre), panel, width)
    assert placed.left_of_fold_mm + placed.right_of_fold_mm == pytest.approx(width)
    assert placed.left_of_fold_mm == pytest.approx(centre * width)
    assert placed.art_width_mm == pytest.approx(0.62 * panel)
    assert placed.drop_mm == pytest.approx(75 * min(1, panel / 480))
    assert placed.fits is (max(placed.left_of_fold_mm, placed.right_of_fold_mm) <= panel / 2)


def test_a_ghost_is_true_to_size_and_goes_over_pages_where_it_must() -> None:
    level, axis = np.array([(-12.0, 20.0), (72.0, 20.0)]), np.array([(20.0, -12.0), (20.0, 52.0)])
    small = Ghost("1: tern", (rectangle(0, 0, 60, 40),), (rectangle(3, 3, 54, 34),), level, axis, ("on the fold",))
    (page,) = ghost_pages(small, A4)
    edge = next(one for one in page.strokes if one.closed)
    assert np.ptp(edge.points, axis=0).tolist() == [60, 40]
    upright = [one for one in page.strokes if not one.closed and np.ptp(one.points[:, 0]) == 0]
    assert any(one.points[0, 0] == pytest.approx(edge.points[:, 0].min() + 20) for one in upright)
    lying = [one.points[0, 1] for one in page.strokes if not one.closed and np.ptp(one.points[:, 1]) == 0]
    assert any(y == pytest.approx(edge.points[:, 1].min() + 20) for y in lying), "the level runs through its middle"
    assert {"hinge: tape here", "level", "1: tern", "on the fold"} <= {one.text for one in page.words}
    large = Ghost("2: hull", (rectangle(0, 0, 400, 200),), (), level, axis)
    pages = ghost_pages(large, A4)
    assert len(pages) == 3
    # Laid together at their crosses, the windows are the whole: each is moved on by what a page holds.
    firsts = [next(one for one in page.strokes if one.closed).points[0, 0] for page in pages]
    assert np.diff(firsts) == pytest.approx(-(A4.width_mm - 2 * RIM_MM))
    corners = rectangle(RIM_MM, RIM_MM, A4.width_mm - 2 * RIM_MM, A4.height_mm - 2 * RIM_MM)
    for upright in (True, False):
        crosses = {
            tuple(np.round(one.points.mean(axis=0), 3))
            for one in pages[0].strokes
            if len(one.points) == 2 and np.ptp(one.points[:, int(not upright)]) == 0
        }
        assert {tuple(np.round(corner, 3)) for corner in corners.tolist()} <= crosses
    wall = Ghost("3: wall", (rectangle(0, 0, 5000, 5000),), (), level, axis)
    assert len(ghost_pages(wall, A4)) == MOST_PAGES


def test_templates_tell_where_a_piece_goes() -> None:
    cup = scene(item(wrap=WrapSpec(82, 82, 95, 40.0, handle_mm=30)), stock="water-slide-white")
    (page,) = placing_pages(cup.plan())
    assert any("above the lower rim" in one.text for one in page.words)
    assert any("opposite the handle" in one.text for one in page.words)
    shirt = scene(item(), stock="dark-transfer", finish=FinishSpec(cloth=ClothSpec(panel_mm=460, centre=0.25)))
    (page,) = placing_pages(shirt.plan())
    assert any("below the collar" in one.text for one in page.words)
    edge = next(one for one in page.strokes if one.closed)
    axis = next(one for one in page.strokes if np.ptp(one.points[:, 0]) == 0 and not one.closed)
    assert axis.points[0, 0] - edge.points[:, 0].min() == pytest.approx(3 + 0.25 * 40, abs=0.1)


def test_a_mask_for_a_helmet_shows_its_slits_on_the_template() -> None:
    def dashed(target: Target, mask: TransferMask, ball_mm: float | None = None) -> int:
        finish = FinishSpec(mask=mask, ball_mm=ball_mm)
        plan = scene(item(width_mm=80.0), stock="satin-vinyl", target=target, finish=finish).plan()
        return sum(one.dashed for page in placing_pages(plan) for one in page.strokes)

    # The hinge edge is broken as well.
    assert dashed(Target.HELMET, TransferMask.PAPER) > 3
    assert dashed(Target.HELMET, TransferMask.PAPER, 5000.0) == 1
    assert dashed(Target.HELMET, TransferMask.NONE) == 1
    assert dashed(Target.LAPTOP, TransferMask.PAPER) == 1


def test_the_template_of_what_shrinks_is_as_large_as_the_finished_piece() -> None:
    shrink = ShrinkSpec(Bar(100, 25), Bar(44, 11.6))
    plan = scene(item(), stock="shrink-film", shrink=shrink).plan()
    (page,) = placing_pages(plan)
    edge = next(one for one in page.strokes if one.closed)
    asked = plan.items[0].edge.size_mm
    assert np.ptp(edge.points, axis=0).tolist() == pytest.approx([asked[0] * shrink.x, asked[1] * shrink.y], abs=0.05)


def test_only_shirts_and_bags_are_cloth_and_one_of_them_is_dark() -> None:
    assert {one for one, facts in TARGETS.items() if facts.is_cloth} == {Target.SHIRT, Target.DARK_SHIRT, Target.BAG}
    assert {one for one, facts in TARGETS.items() if facts.dark} == {Target.DARK_SHIRT}


@pytest.mark.parametrize("stock", ["dye-paper", "card"])
def test_fronts_and_backs_share_their_numbers_outside_the_blank(stock: str) -> None:
    front, back = item(1, quantity=3), item(2, back_of=1, quantity=3)
    made = scene(front, back, stock=stock, finish=FinishSpec(blank=BlankSpec(40, 40, 3.0))).plan()
    written = Counter[str]()
    for sheet in range(len(made.sheets)):
        (numbers,) = page_of(made, sheet).over
        written.update(one.text for one in numbers.words)
        edges = shapely.union_all(list(made.sheets[sheet].edges))
        for fill in numbers.fills:
            ring = shapely.Polygon(fill.rings[0])
            if made.mirror:
                ring = shapely.affinity.scale(ring, -1, 1, origin=(made.job.paper.width_mm / 2, 0))
            assert edges.buffer(0.01).covers(ring)
            # The blank ends where the rim begins.
            assert ring.bounds[3] - ring.bounds[1] < 3.0 or ring.bounds[2] - ring.bounds[0] < 3.0
    assert written == {"1": 2, "2": 2, "3": 2}
    # So do the prints of a product, whichever of them is the front.
    pendant = ProductSpec("pendant", (1, 2), 3)
    two = scene(
        item(1, quantity=3),
        item(2, quantity=3),
        stock=stock,
        finish=FinishSpec(blank=BlankSpec(40, 40, 3.0)),
        products=(pendant,),
    ).plan()
    numbers = [one.text for sheet in range(len(two.sheets)) for over in page_of(two, sheet).over for one in over.words]
    assert Counter(numbers) == written
    plain = scene(front, back, stock=stock).plan()
    assert page_of(plain, 0).over == ()


def test_hooks_lie_where_the_layers_boxes_grow_least() -> None:
    # A drawing with an empty corner at either end of its diagonal: hooks go in there, and no box grows.
    blue, red = bars((0, 0, 260, 140)), bars((140, 260, 400, 400))
    both = blue.rgba | red.rgba
    both[red.rgba[..., 3] > 0, :3] = (200, 40, 40)
    # The last layer bears none.
    both[10:60, 20:70, :3] = (20, 150, 60)
    layers = layers_of(type(blue)(np.ascontiguousarray(both)), SizeSpec(width_mm=80))
    drawn = shapely.union_all([shapely.box(0, 0, 52, 28), shapely.box(28, 52, 80, 80)])
    hooks = [one for one in layers[0].shape.geoms if one.area < KEY_MM**2]
    assert len(hooks) == 2
    for hook in hooks:
        assert shapely.box(0, 0, 80, 80).buffer(0.5).covers(hook)
        assert hook.distance(drawn) > 1.5
    # The same place on every layer, and upside down it is another figure.
    there = layers[1].shape
    assert all(there.intersection(hook).area > 0.97 * hook.area for hook in hooks)
    turned = shapely.affinity.rotate(hooks[0], 180)
    assert turned.intersection(hooks[0]).area / hooks[0].area < 0.9


def test_blanks_are_turned_where_more_go_on_the_plate_so() -> None:
    assert per_plate(180, 90, HeatSpec(width_mm=200.0, height_mm=300.0)) == 3
    assert per_plate(90, 180, HeatSpec(width_mm=200.0, height_mm=300.0)) == 3


@pytest.mark.parametrize("more", [1, 2, 3])
def test_what_just_fits_takes_no_patch_more(more: int) -> None:
    sole = 300.0
    width = sole + more * (sole * (1 - CLOTH.patch_overlap))
    heat = HeatSpec(width_mm=sole, height_mm=sole)
    assert patch_count(width, 100.0, heat) == more + 1
    assert patch_count(width + 0.01, 100.0, heat) == more + 2
