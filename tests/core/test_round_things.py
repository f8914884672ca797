"""Round things and things that shrink, against their formulas."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import picture_of
from tests.scenes import item, scene
from vamper.core.art.bent import Bend, bent, bent_picture
from vamper.core.finishing.round_things import RoundThing, bend_on, bent_edge, check_height, diameter_of, wrap
from vamper.core.finishing.shrink import finished, printed, punch_mm, shrink_of, thickness
from vamper.core.inspect import findings_of
from vamper.core.values.art import Purpose
from vamper.core.values.findings import BadInput
from vamper.core.values.shrink import Bar
from vamper.core.values.wrap import WrapSpec

CUP = RoundThing(84, 60, 105)
points = st.tuples(st.floats(-60, 60), st.floats(-25, 25))


def on_the_wall(thing: RoundThing, flat: np.ndarray, middle: tuple[float, float], up: float) -> np.ndarray:
    """Where a point of the unrolled sheet comes to lie on the cone: (turn in radians, height along the wall)."""
    radius = thing.radius_at(up)
    x, y = flat[:, 0] - middle[0], radius - (flat[:, 1] - middle[1])
    turn = np.arctan2(x, y) / thing.angle_rad * 2 * math.pi
    return np.column_stack([turn, np.hypot(x, y) - thing.inner_radius_mm])


def test_a_sheet_unrolls_to_its_sector() -> None:
    assert CUP.outer_radius_mm == pytest.approx(105 * 84 / 24)
    assert CUP.around_mm(105) == pytest.approx(math.pi * 84)
    assert CUP.around_mm(0) == pytest.approx(math.pi * 60)
    upside = RoundThing(60, 84, 105)
    assert upside.around_mm(105) == pytest.approx(math.pi * 60)
    assert diameter_of(math.pi * 84) == pytest.approx(84)


@given(st.lists(points, min_size=1, max_size=20))
def test_bent_art_stands_straight_on_the_cup(some: list[tuple[float, float]]) -> None:
    flat, up = np.array(some), 50.0
    bend = bend_on(CUP, (0.0, 0.0), up)
    there = on_the_wall(CUP, bend.points(flat), (0.0, 0.0), up)
    # Heights along the wall are those of the flat art, and a plumb line stays one.
    assert there[:, 1] == pytest.approx(up - flat[:, 1], abs=1e-9)
    assert there[:, 0] == pytest.approx(flat[:, 0] / (CUP.around_mm(up) / (2 * math.pi)), abs=1e-9)
    assert bend.flat(bend.points(flat)) == pytest.approx(flat, abs=1e-9)


@pytest.mark.parametrize("thing", [CUP, RoundThing(60, 84, 105)])
def test_bent_outlines_are_arcs_within_a_fiftieth_of_a_millimetre(thing: RoundThing) -> None:
    bend = bend_on(thing, (35.0, 20.0), 50.0)
    ring = shapely.get_coordinates(bend.shape(shapely.box(0, 0, 70, 40)).exterior)
    sign = 1 if thing.opens_upward else -1
    centre = np.array([35.0, 20.0 + sign * bend.radius_mm])
    dense = shapely.get_coordinates(shapely.segmentize(shapely.LinearRing(ring), 0.05))
    away = np.hypot(*(dense - centre).T)
    turn = np.arctan2(dense[:, 0] - 35.0, sign * (centre[1] - dense[:, 1])) * bend.radius_mm
    on_arc = np.minimum(abs(away - (bend.radius_mm + 20)), abs(away - (bend.radius_mm - 20)))
    on_side = np.minimum(abs(turn - 35), abs(turn + 35))
    assert np.minimum(on_arc, on_side).max() <= 0.02


@pytest.mark.parametrize("thing", [CUP, RoundThing(60, 84, 105), RoundThing(82, 82, 95)])
def test_a_wall_laid_flat_is_as_long_and_as_high_as_it_is(thing: RoundThing) -> None:
    assert thing.slant_mm is not None
    for up in (0.0, 40.0, thing.slant_mm):
        level = thing.unrolled(np.column_stack([np.linspace(-180, 180, 2001), np.full(2001, up)]))
        assert np.hypot(*np.diff(level, axis=0).T).sum() == pytest.approx(thing.around_mm(up), rel=1e-5)
    plumb = thing.unrolled(np.array([[30.0, 0.0], [30.0, thing.slant_mm]]))
    assert np.hypot(*(plumb[1] - plumb[0])) == pytest.approx(thing.slant_mm)
    # Up is up.
    assert thing.unrolled(np.array([[0.0, 90.0]]))[0, 1] < thing.unrolled(np.array([[0.0, 10.0]]))[0, 1]


def test_sag_and_the_largest_flat_width_agree() -> None:
    found = wrap(CUP, 70, 30)
    radius = CUP.radius_at(30)
    assert found.sag_mm == pytest.approx(radius - math.sqrt(radius**2 - 35**2))
    assert found.flat_width_most_mm is not None
    assert wrap(CUP, found.flat_width_most_mm, 30).sag_mm == pytest.approx(1.0)
    assert wrap(RoundThing(82, 82), 70, 40).sag_mm == 0


def test_art_too_wide_is_split_where_it_is_emptiest() -> None:
    ink = np.ones(300)
    ink[170:175] = 0
    found = wrap(RoundThing(60, 60), 300, 40, ink=ink)
    assert 170 < found.pieces[0].to_mm < 175
    most = math.pi * 60 + 3
    assert all(one.to_mm - one.from_mm <= most for one in found.pieces)
    assert len(wrap(RoundThing(82, 82), 200, 40).pieces) == 1


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: RoundThing(84, 60, 12), "too short"),
        (lambda: RoundThing(84, 60), "slant"),
        (lambda: check_height(CUP, 40, 95), "past a rim"),
        (lambda: wrap(RoundThing(10, 10), 70, 40, -40), "leaves nothing"),
        (lambda: WrapSpec(84, 60, 105, 900), "above the wall"),
        (lambda: shrink_of(Bar(100, 25), Bar(120, 10)), "gets smaller"),
    ],
)
def test_what_cannot_be_is_a_sentence(make, words: str) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises((BadInput, ValueError), match=words):
        make()


def test_a_bent_picture_lies_under_its_bent_outline() -> None:
    rgba = np.zeros((200, 400, 4), np.uint8)
    rgba[40:160, 50:350] = (20, 90, 140, 255)
    bend = bend_on(CUP, (30.0, 12.0), 50.0)
    bent = bent_picture(rgba, (50.0, 40.0), 0.2, bend)
    edge = bent_edge(shapely.box(0, 0, 60, 24), 0.0, bend)
    inked = (bent.rgba[..., 3] > 127).sum() * bent.mm_per_px**2
    assert inked == pytest.approx(edge.area, rel=0.01)
    rows, columns = np.nonzero(bent.rgba[..., 3] > 127)
    there = np.column_stack([columns, rows]) * bent.mm_per_px + 0.5 * bent.mm_per_px + (bent.left_mm, bent.top_mm)
    assert edge.buffer(0.15).covers(shapely.MultiPoint(there[::37]))
    assert np.abs(bent.rgba[rows, columns, :3].astype(int) - (20, 90, 140)).max() <= 2


def test_what_shrinks_is_printed_larger() -> None:
    found = shrink_of(Bar(100, 25), Bar(44.1, 11.6))
    large = printed(found, Bar(40, 30))
    assert finished(found, large) == Bar(pytest.approx(40), pytest.approx(30))
    assert punch_mm(found, 4) == pytest.approx(4 / ((0.441 + 0.464) / 2))
    assert thickness(found) == pytest.approx(1 / (0.441 * 0.464))


def test_what_is_wrong_on_a_cup_is_found() -> None:
    def codes(**wrap: float) -> set[str]:
        spec = item(1, width_mm=60.0, wrap=WrapSpec(**wrap))  # type: ignore[arg-type]
        plan = scene(spec, stock="water-slide-white", purpose=Purpose.DRINKWARE).plan()
        return {one.code for one in findings_of(plan) if one.code.startswith("finish.")} - {"finish.label"}

    mug = {"top_mm": 82.0, "bottom_mm": 82.0, "slant_mm": 140.0}
    assert codes(**mug) == set()
    assert codes(**mug, up_mm=95.0) == {"finish.rim"}
    assert codes(**mug, up_mm=130.0) == {"finish.too-high"}
    assert codes(top_mm=15.0, bottom_mm=15.0, slant_mm=140.0) == {"finish.too-wide"}
    assert codes(top_mm=21.0, bottom_mm=21.0, slant_mm=140.0) == {"finish.seam"}


def test_ink_that_lies_aside_in_its_picture_bends_to_its_sector() -> None:
    """Its middle turns about the tip of the cone, wherever the picture ends: a band of 200 × 40 px by 60°."""
    alpha = np.zeros((150, 300))
    alpha[90:130, 30:230] = 1.0
    turned = bent(picture_of(alpha), 60.0)
    rows, columns = np.nonzero(turned.alpha > 127)
    middle, half = 200 / math.radians(60), math.radians(30)
    assert np.ptp(columns) + 1 == pytest.approx(2 * (middle + 20) * math.sin(half), abs=2.5)
    assert np.ptp(rows) + 1 == pytest.approx(middle + 20 - (middle - 20) * math.cos(half), abs=2.5)


def test_where_the_art_frame_begins_in_the_picture_changes_nothing_but_the_frame() -> None:
    rgba = picture_of(np.ones((60, 120))).rgba
    here = bent_picture(rgba, (0.0, 0.0), 0.5, Bend((30.0, 15.0), 90.0, upward=True))
    there = bent_picture(rgba, (40.0, 10.0), 0.5, Bend((10.0, 10.0), 90.0, upward=True))
    assert np.array_equal(here.rgba, there.rgba)
    assert (here.left_mm - there.left_mm, here.top_mm - there.top_mm) == pytest.approx((20.0, 5.0))


@pytest.mark.parametrize(("up", "lies"), [(19.9, False), (20, True), (85, True), (85.1, False)])
def test_art_lies_on_the_wall_from_rim_to_rim(up: float, lies: bool) -> None:
    if lies:
        check_height(CUP, 40, up)
    else:
        with pytest.raises(BadInput, match="past a rim"):
            check_height(CUP, 40, up)
