"""Used sheets: what is gone stays free of new pieces, what is left of a sheet, and what a picture shows of it."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon

from tests.scenes import item, scene
from tests.tried import tried
from vamper.core.ledger.rest import FEED_ERROR_MM, rest_of
from vamper.core.sheet.live_area import live_area, spent_bound
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper, Spent
from vamper.core.vision.used_area import _distance_from_bare, used_areas

WIDTH, HEIGHT = 200.0, 280.0
PX_A_MM = 4.0

corner = st.floats(0, 260)
boxes = st.lists(st.tuples(corner, corner, st.floats(5, 90), st.floats(5, 90)), min_size=1, max_size=6)


def ring(left: float, top: float, wide: float, high: float) -> tuple[float, ...]:
    return (left, top, left + wide, top, left + wide, top + high, left, top + high)


def used(*gone: tuple[float, ...], margin_mm: float = 0.0) -> Paper:
    return Paper(WIDTH, HEIGHT, gone=gone, margin_mm=margin_mm)


def sheet_picture(*boxes_mm: tuple[float, float, float, float], slope: float = 0.0) -> np.ndarray:
    """A white sheet in uneven light with dark boxes on it."""
    high, wide = int(HEIGHT * PX_A_MM), int(WIDTH * PX_A_MM)
    light = 1 - slope * np.linspace(0, 1, wide)[None, :, None] - slope / 2 * np.linspace(0, 1, high)[:, None, None]
    picture = np.full((high, wide, 3), 240.0) * light
    for left, top, width, height in boxes_mm:
        rows, columns = (slice(round(a * PX_A_MM), round((a + b) * PX_A_MM)) for a, b in ((top, height), (left, width)))
        picture[rows, columns] = (40, 90, 110)
    noise = np.random.default_rng(5).normal(0, 2, picture.shape)
    return np.clip(picture + noise, 0, 255).astype(np.uint8)


@given(boxes, st.floats(0, 5))
@tried(100)
def test_nothing_lives_on_what_is_gone(those: list[tuple[float, float, float, float]], margin: float) -> None:
    paper = used(*(ring(*one) for one in those), margin_mm=margin)
    bound = spent_bound(paper)
    assert bound is not None
    try:
        live = live_area(paper, [bound])
    except BadInput:
        return
    gone = shapely.union_all([shapely.box(x, y, x + w, y + h) for x, y, w, h in those])
    # The threads that join parts are too thin for anything.
    assert live.shape.buffer(-0.01).intersection(gone.buffer(margin, quad_segs=4)).area < 1e-6
    assert live.shape.is_valid


def test_parts_on_both_sides_of_what_is_gone_are_worked_on() -> None:
    paper = used(ring(80, 0, 40, HEIGHT))
    bound = spent_bound(paper)
    assert bound is not None
    live = live_area(paper, [bound])
    assert live.area_mm2 == pytest.approx(2 * 80 * HEIGHT, rel=1e-3)


def test_pieces_go_round_what_is_gone_on_the_first_sheet_only() -> None:
    fresh = scene(item(quantity=12)).plan()
    paper = rest_of(fresh, 0)
    assert paper.margin_mm == FEED_ERROR_MM
    again = scene(item(quantity=12), paper=paper).plan()
    gone = shapely.union_all([Polygon(one) for one in paper.gone_rings])
    first = shapely.union_all(again.sheets[0].edges)
    assert again.layout.pieces == 12
    assert first.distance(gone) >= FEED_ERROR_MM - 0.05


def test_the_rest_of_a_later_sheet_knows_nothing_of_the_first() -> None:
    paper = replace(rest_of(scene(item(quantity=2)).plan(), 0), spent=Spent(215.9, 50.0))
    plan = scene(item(quantity=60), paper=paper).plan()
    assert len(plan.sheets) > 1
    first, second = rest_of(plan, 0), rest_of(plan, 1)
    assert (first.spent, second.spent) == (paper.spent, None)
    assert set(paper.gone) <= set(first.gone)
    # What was cut out of the first sheet; the marks of both lie at the same places.
    assert paper.gone[0] not in second.gone


def test_what_bleeds_is_gone_as_far_as_its_colour_goes() -> None:
    plan = scene(item(quantity=2, edge=EdgeSpec("bare", 0.0))).plan()
    bleed = plan.items[0].bleed.width_mm
    gone = shapely.union_all([Polygon(one) for one in rest_of(plan, 0).gone_rings])
    assert bleed > 0.3
    for edge in plan.sheets[0].edges:
        assert edge.buffer(bleed).difference(gone.buffer(0.25)).area == 0
    # Nothing is gone that was not used: the pieces with their bleed, and the marks.
    used = sum(edge.buffer(bleed).area for edge in plan.sheets[0].edges)
    used += sum(mark.shape.area for mark in plan.setup.marks)
    assert gone.area < 1.05 * used


def test_a_sheet_full_of_small_pieces_is_a_few_shapes() -> None:
    crowded = scene(item(quantity=60, width_mm=12.0)).plan()
    paper = rest_of(crowded, 0)
    # Its four marks besides.
    assert len(paper.gone) < 20
    edges = shapely.union_all(crowded.sheets[0].edges)
    gone = shapely.union_all([Polygon(one) for one in paper.gone_rings])
    assert edges.difference(gone.buffer(0.3)).area == 0


def test_the_rest_of_a_mirrored_sheet_is_as_it_is_loaded() -> None:
    plan = scene(item(quantity=1), stock="light-transfer").plan()
    assert plan.mirror
    rest = rest_of(plan, 0)
    boxes_mm = [Polygon(one).bounds for one in rest.gone_rings]
    left = plan.job.paper.width_mm - plan.sheets[0].edges[0].bounds[2]
    assert min(abs(box[0] - left) for box in boxes_mm) < 2.5


def test_what_lies_inside_a_frame_of_marks_is_left() -> None:
    plan = scene(item(quantity=1), marks=MarksSpec("frame")).plan()
    paper = rest_of(plan, 0)
    bound = spent_bound(paper)
    assert bound is not None
    whole = paper.width_mm * paper.height_mm
    assert live_area(paper, [bound]).area_mm2 > 0.7 * whole
    inked = shapely.union_all([mark.shape for mark in plan.setup.marks])
    assert bound.region.intersection(inked).area < 1e-6 * whole


def test_an_odd_number_says_what_a_corner_is() -> None:
    with pytest.raises(ValueError, match="each corner has two numbers"):
        used((1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0))


def test_what_is_gone_is_found_in_uneven_light() -> None:
    there = ((20.0, 30.0, 60.0, 40.0), (120.0, 150.0, 50.0, 90.0))
    found = used_areas(sheet_picture(*there, slope=0.25), PX_A_MM)
    assert len(found) == 2
    for ring_found in found:
        shape = Polygon(list(zip(ring_found[::2], ring_found[1::2], strict=True)))
        nearest = min(
            shape.symmetric_difference(shapely.box(x, y, x + w, y + h)).area / (w * h) for x, y, w, h in there
        )
        assert nearest < 0.04


def test_a_whole_sheet_has_nothing_gone() -> None:
    assert used_areas(sheet_picture(slope=0.3), PX_A_MM) == ()


def test_a_picture_of_no_sheet_is_refused() -> None:
    noise = np.random.default_rng(1).integers(0, 255, (200, 200, 3)).astype(np.uint8)
    with pytest.raises(BadInput, match="no bare stock"):
        used_areas(noise, 1.0)


def test_light_that_falls_off_makes_no_part_of_a_bare_sheet_look_used() -> None:
    y, x = np.mgrid[0:300, 0:240] / np.array([300, 240])[:, None, None]
    lab = np.stack([90 - 24 * x - 12 * y * y, 3 + 2 * y, 6 - 2 * x * y], axis=2)
    assert _distance_from_bare(lab).max() < 0.5
