"""The machine's own program: what follows from the route alone, its picture, its marks, its choices, and the card."""

import itertools
import re
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.covers import COATED, laminated
from tests.scenes import DISC, PX, bars, item, scene
from tests.tried import tried
from vamper.core.bench_card import bench_steps
from vamper.core.effective_job import effective_job
from vamper.core.inspect import findings_of
from vamper.core.marks.printed_helpers import HELPERS
from vamper.core.marks.program_marks import looked_for, program_marks
from vamper.core.marks.reading import reading_of
from vamper.core.plan import Plan
from vamper.core.program.choices import Switch, cover_trim_mm, program_choices
from vamper.core.program.picture import picture_frame, printed_edges, riding_drop
from vamper.core.values.accepted_size import AcceptedSize, SizeBounds
from vamper.core.values.blade import BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, Reach, Route
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import size_mm
from vamper.core.values.marks import MarksSpec
from vamper.core.values.named_settings import NamedSetting
from vamper.core.values.paper import Paper
from vamper.core.values.program import Program, ProgramBleed, ProgramFamily, ProgramMarks, RimDistances
from vamper.core.values.reading import Remedy
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY
from vamper.core.values.tried import Pressure
from vamper.formats.out.sheet_file import SHEET_FILES, sheet_files
from vamper.formats.plan_document import PlanDocument
from vamper.formats.plan_writing import plan_document
from vamper.services.handoff.found_cut import found_cut
from vamper.services.handoff.measuring import helper_drawing

MACHINE = Cutter(route=Route.PROGRAM)
LETTER = Paper(215.9, 279.4)
TEN = RimDistances(10, 10, 10, 10)
# Words that this maker never meets, or only with another one beside them.
UNKNOWN_WORDS = re.compile(
    r"\bgf\b|ladder|tell-tale|\bdrops\b|\bkiss\b|live area|granted|dialect|vernier|\.svg|\.dxf", re.IGNORECASE
)


def by_program(*items: Any, cutter: Cutter = MACHINE, **fields: Any) -> Plan:
    return scene(*(items or (item(quantity=6),)), cutter=cutter, paper=LETTER, **fields).plan()


def facts(**known: Any) -> Cutter:
    return replace(MACHINE, program=Program(**known))


SETTINGS = ((), (NamedSetting("vinyl", tuple(Pressure)), NamedSetting("label paper")))
OVERS: tuple[dict[str, Any], ...] = ({}, {"finish": COATED}, {"finish": laminated()}, {"blade": BladeIn()})


@pytest.mark.parametrize("stock", [stock.key for stock in STARTER_STOCKS])
def test_nothing_is_said_that_this_maker_cannot_do(stock: str) -> None:
    """Every stock with every cover, measured marks or none, settings or none: files, findings, card and plan."""
    for settings, known, over in itertools.product(SETTINGS, (None, Program(ProgramMarks(rim_mm=TEN))), OVERS):
        cutter = replace(MACHINE, settings=settings, program=known)
        plan = by_program(cutter=cutter, stock=stock, **over)
        if not plan.sheets:
            continue
        found = findings_of(plan)
        assert set(sheet_files(0, plan.job)) == {"picture"}
        document = plan_document(plan, found)
        assert PlanDocument.read(document.write()).sheets[0].picture is not None
        assert (document.reading is None) is not STOCK_BY_KEY[stock].printable
        for setting in document.settings.values():
            assert setting.force_gf is None
        words = [line for step in bench_steps(plan) for line in (step.do, *step.figures, *step.lines)]
        words += [text for one in found for text in (one.title, one.text, *(fix.label for fix in one.fixes))]
        words += [reason for setting in plan.settings.values() for reason in setting.why]
        assert not [text for text in words if UNKNOWN_WORDS.search(text)]


def test_all_follows_from_the_route() -> None:
    job = scene(item(), marks=MarksSpec(remedies=(Remedy.DIM_ROOM,)), cutter=MACHINE).job
    made = effective_job(job)
    assert made.marks.family == "none"
    assert made.marks.remedies == (Remedy.DIM_ROOM,)
    assert made.for_own_program
    plan = by_program()
    assert plan.setup.marks == ()
    assert SHEET_FILES["print"].on_request(plan.job)
    by_hand = effective_job(scene(item(), cutter=Cutter(route=Route.HAND)).job)
    assert by_hand == replace(
        effective_job(scene(item(), cutter=Cutter(feed=Feed.HAND)).job), cutter=Cutter(route=Route.HAND, feed=Feed.HAND)
    )
    assert not by_hand.cutter.is_machine


@pytest.mark.parametrize(
    ("known", "size"),
    [
        # The sheet less its margins of 3, 3, 5 and 3 mm, and 13 mm a side.
        ((), (215.9 - 6 - 26, 279.4 - 8 - 26)),
        ((SizeBounds(190), SizeBounds(240)), (190, 240)),
        ((SizeBounds(190), SizeBounds()), (190, 279.4 - 8 - 26)),
        ((SizeBounds(None, 200), SizeBounds(240)), (190, 240)),
    ],
)
def test_the_largest_picture_is_guessed_with_caution_until_it_is_known(known: Any, size: tuple[float, float]) -> None:
    granted = (AcceptedSize(215.9, 279.4, *known),) if known else ()
    plan = by_program(cutter=replace(MACHINE, granted=granted))
    found = plan.setup.live.size_mm
    assert found == pytest.approx(size, abs=0.085)
    assert all(side <= most + 1e-9 for side, most in zip(found, size, strict=True))
    codes = {one.code for one in findings_of(plan)}
    taken = bool(known) and known[0].taken is not None and known[1].taken is not None
    assert ("sheet.granted" in codes) is not taken


@tried(40)
@given(
    st.lists(st.tuples(st.floats(12, 70), st.integers(1, 5)), min_size=1, max_size=3),
    st.floats(120, 200),
    st.floats(120, 260),
    st.booleans(),
    st.booleans(),
)
def test_the_picture_is_of_whole_pixels_and_never_larger_than_what_was_taken(
    sizes: list[tuple[float, int]], width: float, height: float, drop: bool, mirrored: bool
) -> None:
    granted = AcceptedSize(215.9, 279.4, SizeBounds(width), SizeBounds(height))
    cutter = replace(MACHINE, granted=(granted,), program=Program(tell_tale=drop))
    items = [item(number, width_mm=size, quantity=many) for number, (size, many) in enumerate(sizes, 1)]
    plan = by_program(*items, cutter=cutter, stock="light-transfer" if mirrored else "satin-vinyl")
    for sheet in range(len(plan.sheets)):
        frame = picture_frame(plan, sheet)
        assert frame.size_mm == (frame.width_px * 25.4 / 300, frame.height_px * 25.4 / 300)
        assert frame.size_mm[0] <= width
        assert frame.size_mm[1] <= height
        riding = riding_drop(plan, sheet)
        shapes = [*printed_edges(plan, sheet), *([riding] if riding is not None else [])]
        left, top, right, bottom = shapely.total_bounds(np.array(shapes, dtype=object)).tolist()
        assert (frame.left_mm, frame.top_mm) == pytest.approx((left, top))
        assert 0 <= frame.size_mm[0] - (right - left) < 25.4 / 300 + 1e-6
        assert 0 <= frame.size_mm[1] - (bottom - top) < 25.4 / 300 + 1e-6


@pytest.mark.parametrize("stock", ["satin-vinyl", "light-transfer", "plain-vinyl"])
def test_the_program_finds_the_planned_outlines_in_the_picture(stock: str) -> None:
    cutter = facts(tell_tale=True, bleed=ProgramBleed())
    plan = by_program(item(quantity=3), item(2, width_mm=25.0, quantity=2), cutter=cutter, stock=stock)
    found = found_cut(plan, 0, lambda _: DISC)
    assert found.found == found.planned == 6
    assert found.off_mm is not None
    assert found.off_mm < 0.05


def test_pieces_are_farther_apart_than_two_bleeds() -> None:
    plan = by_program(item(quantity=8), cutter=facts(bleed=ProgramBleed(True, 2.5), tell_tale=True))
    drop = riding_drop(plan, 0)
    assert drop is not None
    edges = [*plan.sheets[0].edges, drop]
    apart = min(first.distance(second) for first, second in itertools.combinations(edges, 2))
    assert apart > 5.0


WHITE, TO_THE_EDGE = EdgeSpec(), EdgeSpec("bare", 0.0)
SQUARE = bars((20, 20, PX - 20, PX - 20))


@pytest.mark.parametrize(
    ("edges", "bleed", "chosen", "asks"),
    [
        ((WHITE,), ProgramBleed(), Switch.OFF, False),
        ((TO_THE_EDGE,), ProgramBleed(), Switch.ON, False),
        ((WHITE, TO_THE_EDGE), ProgramBleed(), Switch.OFF, False),
        ((TO_THE_EDGE,), ProgramBleed(False, 0.0), Switch.OFF, False),
        ((TO_THE_EDGE,), None, Switch.OFF, True),
        ((WHITE,), None, Switch.OFF, False),
    ],
)
def test_the_bleed_switch_follows_from_what_runs_to_the_edge(
    edges: tuple[EdgeSpec, ...], bleed: ProgramBleed | None, chosen: Switch, asks: bool
) -> None:
    items = [item(number, edge=edge) for number, edge in enumerate(edges, 1)]
    pictures = {one.number: SQUARE for one in items}
    plan = by_program(*items, cutter=facts(bleed=bleed), pictures=pictures)
    found = program_choices(plan)
    assert (found.bleed, found.mirror, found.asks_bleed) == (chosen, Switch.OFF, asks)
    assert len(found.why) == 2


def test_a_mirrored_picture_is_mirrored_once() -> None:
    plan = by_program(stock="light-transfer", cutter=facts(mirrors=True))
    assert plan.mirror
    assert program_choices(plan).mirror is Switch.OFF
    assert "mirrored already" in program_choices(plan).why[1]


@pytest.mark.parametrize("family", ProgramFamily)
def test_measured_marks_lie_where_they_were_measured(family: ProgramFamily) -> None:
    rim = RimDistances(9, 12, 14, 11)
    marks = program_marks(LETTER, ProgramMarks(family, 1.5, rim))
    inked = shapely.union_all([mark.shape for mark in marks])
    assert inked.bounds == pytest.approx((11, 9, 215.9 - 12, 279.4 - 14))
    assert len(marks) == (1 if family is ProgramFamily.FRAME else 4)
    width, height, line = 215.9 - 23, 279.4 - 23, 1.5
    frame, corners = 2 * (width + height - 2 * line) * line, 4 * (2 * 10 - line) * line
    assert inked.area == pytest.approx(frame if family is ProgramFamily.FRAME else corners)


def test_a_laminate_ends_inside_the_frame_and_is_not_known_before() -> None:
    assert cover_trim_mm(by_program()) is None
    with pytest.raises(BadInput, match="measure the marks"):
        helper_drawing(by_program(), 0, "cover-trim")
    measured = by_program(cutter=facts(marks=ProgramMarks(rim_mm=TEN)))
    # 10 mm to the outside of the line, 1 mm of line, 2 mm kept clear, on both sides.
    assert cover_trim_mm(measured) == pytest.approx((215.9 - 26, 279.4 - 26))
    for key in HELPERS:
        assert helper_drawing(measured, 0, key).strokes


def test_a_rim_off_the_sheet_is_refused_with_a_sentence() -> None:
    with pytest.raises(BadInput, match="outside of the printed line"):
        program_marks(LETTER, ProgramMarks(rim_mm=RimDistances(140, 10, 140, 10)))


def test_gloss_is_not_called_certain_and_no_remedy_draws() -> None:
    chances = {}
    for key in ("matte-label", "gloss-label", "shimmer-vinyl"):
        job = effective_job(scene(item(), stock=key, cutter=MACHINE).job)
        reading = reading_of(job)
        assert reading is not None
        chances[key] = reading.chance
        assert {one.remedy for one in reading.remedies} & {Remedy.THICKER_STROKE, Remedy.MORE_INSET} == set()
    assert chances["matte-label"] > 0.98
    assert chances["gloss-label"] == pytest.approx(0.85, abs=0.03)
    assert chances["shimmer-vinyl"] == pytest.approx(0.75, abs=0.03)


def test_marks_beyond_the_machines_reach_are_told() -> None:
    short = facts(marks=ProgramMarks(rim_mm=TEN))
    job = effective_job(scene(item(), cutter=replace(short, reach_mm=Reach(310, 200))).job)
    assert looked_for(job)
    reading = reading_of(job)
    assert reading is not None
    assert reading.chance == 0


def test_holes_that_the_program_does_not_find_are_told() -> None:
    far = PX - 20
    ring = bars((20, 20, far, 120), (20, 280, far, far), (20, 20, 120, far), (280, 20, far, far))
    edge = EdgeSpec("bare", 0.0, fill_holes=False)
    for finds, told in ((False, True), (True, False), (None, False)):
        plan = by_program(item(edge=edge), cutter=facts(finds_holes=finds), pictures={1: ring})
        assert ("cut.holes" in {one.code for one in findings_of(plan)}) is told


def test_the_card_is_in_the_order_of_the_work() -> None:
    known = facts(marks=ProgramMarks(rim_mm=TEN), tell_tale=True)
    cutter = replace(known, settings=(NamedSetting("thick label paper", tuple(Pressure)),))
    plan = by_program(cutter=cutter, finish=laminated(), stock="gloss-label", copies=2)
    steps = bench_steps(plan)
    assert [step.key for step in steps] == [
        *("stock", "picture", "print", "dry", "laminate", "load", "setting", "reading", "frame", "look", "again"),
        *("off", "after", "tell"),
    ]
    said = {step.key: " ".join((*step.figures, *step.lines)) for step in steps}
    width, height = picture_frame(plan, 0).size_mm
    assert f"{width:.2f}".rstrip("0") in said["picture"]
    assert f"{height:.2f}".rstrip("0") in said["picture"]
    assert "2 copies of each" in said["picture"]
    assert "189.9" in said["laminate"]
    assert "“thick label paper”" in said["setting"]
    assert "drop" in said["look"]


def test_cuts_through_and_kiss_have_a_setting_each_on_the_card() -> None:
    plan = by_program(item(), item(2, cut=Cut.THROUGH), cutter=replace(MACHINE, settings=SETTINGS[1]))
    assert [step.key for step in bench_steps(plan)].count("setting") == 2


def test_a_stock_that_is_not_printed_has_no_marks_and_the_whole_area() -> None:
    plan = by_program(stock="plain-vinyl")
    assert plan.reading is None
    assert plan.setup.live.size_mm == pytest.approx((215.9, 279.4))


def test_each_sheet_is_named_with_its_own_size() -> None:
    plan = by_program(item(quantity=40, width_mm=50.0), item(2, width_mm=20.0))
    assert len(plan.sheets) >= 3
    (step,) = (step for step in bench_steps(plan) if step.key == "picture")
    for sheet in range(len(plan.sheets)):
        assert f"sheet {sheet + 1}: {size_mm(*picture_frame(plan, sheet).size_mm, 2)}" in step.figures
