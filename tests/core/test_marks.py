"""Marks: their geometry, their place, what they leave free."""

from contextlib import suppress

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Polygon

from tests.scenes import item, scene
from tests.tried import tried
from vamper.core.inspect import findings_of
from vamper.core.marks.inspect import marks_findings
from vamper.core.marks.reading import ReadingCause, out_of_reach
from vamper.core.marks.sheet_marks import marks_bound, marks_for
from vamper.core.marks.spots import spots_of
from vamper.core.sheet.live_area import cutter_bounds, printer_bound
from vamper.core.values.cutter import Cutter, Feed, Mat, Reach
from vamper.core.values.findings import BadInput
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import PAPER_BY_KEY, Paper
from vamper.core.values.printer import Margins, Printer, PrinterKind

A4 = Paper(210, 297)


def test_corner_marks_open_towards_the_middle() -> None:
    marks = marks_for(A4, MarksSpec())
    assert [(mark.x_mm, mark.y_mm) for mark in marks] == [(8, 8), (202, 8), (8, 289), (202, 289)]
    for mark in marks:
        shape = Polygon(mark.rings[0])
        assert shape.area == pytest.approx(10 * 0.8 + 9.2 * 0.8)
        # The outer corner is the point of the mark's box farthest from the middle.
        assert shape.bounds[0] == pytest.approx(8) or shape.bounds[2] == pytest.approx(202)


def test_three_marks_lack_the_bottom_right() -> None:
    marks = marks_for(A4, MarksSpec(count=3))
    assert (202, 289) not in [(mark.x_mm, mark.y_mm) for mark in marks]
    assert len(marks) == 3


def test_the_frame_is_one_closed_rectangle() -> None:
    (frame,) = marks_for(A4, MarksSpec("frame", stroke_mm=1))
    outer, inner = (Polygon(ring) for ring in frame.rings)
    assert outer.area - inner.area == pytest.approx(194 * 281 - 192 * 279)
    assert (frame.x_mm, frame.y_mm) == (8, 8)


@pytest.mark.parametrize("family", ["corner", "frame"])
def test_marks_and_their_clear_zone_lie_outside_the_bound(family: str) -> None:
    spec = MarksSpec(family, clear_mm=2)
    bound = marks_bound(A4, spec)
    assert bound is not None
    for mark in marks_for(A4, spec):
        shape = Polygon(mark.rings[0], list(mark.rings[1:]))
        if family == "frame":
            assert shape.distance(bound.region) == pytest.approx(2)
        else:
            # The arms run along the rim; the bound keeps clear of their strokes.
            assert shape.buffer(1.999, join_style="mitre").intersection(bound.region).area < 1e-6


def test_no_family_no_marks() -> None:
    assert marks_for(A4, MarksSpec("none")) == ()


def test_a_sheet_smaller_than_its_marks_is_refused() -> None:
    with pytest.raises(BadInput, match="smaller than its marks"):
        marks_for(Paper(30, 60), MarksSpec())
    # Too narrow one way is too small.
    with pytest.raises(BadInput, match="smaller than its marks"):
        marks_for(Paper(30, 300), MarksSpec())


def test_marks_outside_what_prints_or_too_near_the_edge_are_found() -> None:
    wide = printer_bound(A4, Printer(PrinterKind.LASER, Margins(10, 10, 10, 10)))
    (stop,) = marks_findings(A4, MarksSpec(inset_mm=8), wide)
    assert (stop.code, stop.severity) == ("marks.unprintable", "stop")
    assert stop.fixes[0].changes == {"marks.inset_mm": 10.0}
    narrow = printer_bound(A4, Printer(PrinterKind.INKJET, Margins(1, 1, 1, 1)))
    assert [f.code for f in marks_findings(A4, MarksSpec(inset_mm=3), narrow)] == ["marks.inset"]


@pytest.mark.parametrize("family", ["dot", "cross", "ring"])
def test_marks_in_the_corners_leave_the_sides_free_and_notch_the_corners(family: str) -> None:
    spec = MarksSpec(family, size_mm=10, stroke_mm=1, inset_mm=6, clear_mm=2)
    bound = marks_bound(A4, spec)
    assert bound is not None
    assert bound.region.bounds == (6, 6, 204, 291)
    # Four notches of the mark and its clear zone on two sides.
    assert bound.region.area == pytest.approx(198 * 285 - 4 * 12 * 12)
    marks = marks_for(A4, spec)
    assert [(m.x_mm, m.y_mm) for m in marks] == [(11, 11), (199, 11), (11, 286), (199, 286)]
    for mark in marks:
        box_mm = mark.box_mm
        assert (box_mm.width_mm, box_mm.height_mm) == pytest.approx((10, 10), abs=0.02)
        assert bound.region.distance(Polygon(mark.rings[0])) == pytest.approx(2, abs=0.02)
    three = marks_bound(A4, MarksSpec(family, 3, 10, 1, 6, 2))
    assert three is not None
    assert three.region.area == pytest.approx(198 * 285 - 3 * 12 * 12)


def test_one_ring_lacks_its_dot() -> None:
    marks = marks_for(A4, MarksSpec("ring", size_mm=9, stroke_mm=1))
    assert [len(mark.rings) for mark in marks] == [2, 3, 3, 3]
    outer, inner, dot = (Polygon(ring).area for ring in marks[1].rings)
    assert outer > inner > dot > 0


def test_a_stroke_as_wide_as_its_ring_leaves_a_speck_of_paper() -> None:
    outer, inner, *_ = marks_for(A4, MarksSpec("ring", size_mm=6, stroke_mm=3))[1].rings
    assert float(np.ptp(np.asarray(outer)[:, 0])) == pytest.approx(6, abs=0.01)
    assert float(np.ptp(np.asarray(inner)[:, 0])) == pytest.approx(0.1, abs=0.001)


def test_a_small_mark_is_looked_at_whole_and_a_large_one_at_its_corners() -> None:
    (whole,) = spots_of((20.0, 30.0, 28.0, 36.0))
    assert (whole.x_mm, whole.y_mm, whole.is_corner) == (24.0, 33.0, False)
    assert whole.half_mm > 4
    corners = spots_of((10.0, 10.0, 200.0, 280.0))
    assert [(one.x_mm, one.y_mm) for one in corners] == [(10, 10), (200, 10), (10, 280), (200, 280)]
    assert all(one.is_corner for one in corners)


REACHES = st.builds(
    Cutter,
    reach_mm=st.builds(Reach, st.floats(120, 460), st.floats(120, 460)),
    feed=st.sampled_from([Feed.MAT, Feed.ROLLER]),
    head_mm=st.sampled_from([0.0, 12.0, 25.0]),
    tail_mm=st.sampled_from([0.0, 25.0]),
    mat_mm=st.sampled_from([None, Mat(305.0, 305.0), Mat(150.0, 150.0)]),
)


@given(REACHES, st.sampled_from(sorted(PAPER_BY_KEY)), st.sampled_from(["corner", "frame", "dot", "ring"]))
@tried(40)
def test_marks_that_the_cutter_does_not_get_to_are_never_read(cutter: Cutter, paper: str, family: str) -> None:
    """Starter mat on legal and A3, a reach of 150 × 150 on letter, a roller's tail of 25 on A4: all read in 99 once."""
    asked = scene(item(), cutter=cutter, paper=PAPER_BY_KEY[paper], marks=MarksSpec(family=family))
    try:
        plan = asked.plan()
    except BadInput:
        return
    reach = shapely.union_all([bound.region for bound in cutter_bounds(plan.job.paper, cutter)][:1])
    for bound in cutter_bounds(plan.job.paper, cutter):
        reach = reach.intersection(bound.region)
    lost = [mark for mark in plan.setup.marks if not reach.buffer(1e-6, join_style="mitre").covers(mark.shape)]
    assert plan.reading is not None
    found = [one for one in findings_of(plan) if one.code == "marks.unreached"]
    assert bool(found) == bool(lost)
    if not lost:
        return
    assert (plan.reading.chance, plan.reading.cause) == (0.0, ReadingCause.OUT_OF_REACH)
    for fix in found[0].fixes:
        with suppress(BadInput):
            after = asked.with_fix(found[0], fix).plan()
            assert not out_of_reach(after.job, after.setup.marks), fix
