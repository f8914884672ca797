"""Every fix does what it says, on scenes of all kinds: what it answers is gone or less, and nothing worse has come.

`test_every_finding` has one scene for each finding; here scenes are drawn at random, so that findings meet each other.
"""

import re
from itertools import product
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import box

from tests.conftest import disc_alpha, picture_of
from tests.scenes import DISC, Scene, bars, item, masked, scene
from vamper.core.edge.thin import thin_places
from vamper.core.values.art import Purpose
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, Reach
from vamper.core.values.edge import EDGE_KINDS, EdgeSpec
from vamper.core.values.findings import Finding, FixTarget, Severity
from vamper.core.values.finish import BlankSpec, FinishSpec
from vamper.core.values.geometry import as_multi
from vamper.core.values.marks import MarksSpec
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.printer import Ink, Margins, Printer
from vamper.core.values.reading import RoomLight
from vamper.core.values.registry import kinds_in
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.stock import STOCK_BY_KEY, StockClass
from vamper.core.values.wrap import WrapSpec

_PX = np.mgrid[0:400, 0:400] - 200
STAR = masked(np.hypot(*_PX) < 110 + 60 * np.cos(5 * np.arctan2(*_PX)))
COMB = bars((40, 40, 360, 100), *((40 + 42 * n, 100, 49 + 42 * n, 360) for n in range(8)))
LETTERS = masked(
    bars((20, 150, 120, 250), (150, 150, 250, 250), (280, 130, 380, 250)).alpha.astype(bool)
    & ~bars((50, 180, 90, 220), (180, 180, 220, 220)).alpha.astype(bool)
)
PICTURES = [
    DISC,
    STAR,
    COMB,
    LETTERS,
    picture_of(disc_alpha(400, 170, (200, 200)) * (1 - disc_alpha(400, 60, (200, 200)))),
    picture_of(np.maximum(disc_alpha(400, 70, (80, 200)), disc_alpha(400, 70, (320, 200)))),
    bars((20, 100, 160, 300), (240, 100, 380, 300), (150, 197, 250, 203)),
    picture_of(np.ones((400, 400))),
]
# One design becomes several by these; what is found on those is another matter.
_PARTED = (FixTarget.SPLIT, FixTarget.COLOURS, FixTarget.TILES, FixTarget.CUP)
# How many find room, and how full the last sheet gets, is told by packing alone; here that is plain rows.
_PACKING_TELLS = ("sheet.unplaced", "sheet.sparse")
# Figures that may be less after a fix though the finding stays, and the sign of what is less.
_LESS = {
    "marks.unread": ("chance", -1),
    "cut.small-detail": ("bends", 1),
    "art.too-big": ("pieces", 1),
}


@st.composite
def edges(draw: st.DrawFn) -> EdgeSpec:
    kind = draw(st.sampled_from(sorted(kinds_in(EDGE_KINDS))))
    far = (0.0, -0.3, -1.0, -4.0) if kind == "bare" else (0.0, 0.3, 0.6, 1.0, 2.0, 3.0, 6.0)
    smooth = draw(st.sampled_from([0.0, 0.2, 0.5, 1.0, 3.0]))
    flags = {name: draw(st.booleans()) for name in ("join", "fill_holes")}
    blunt = draw(st.sampled_from([0.0, 0.0, 0.3, 2.0]))
    return EdgeSpec(kind, draw(st.sampled_from(far)), smooth_mm=smooth, fillet_mm=blunt, **flags)


@st.composite
def scenes(draw: st.DrawFn) -> Scene:
    """A job of one or two designs whose fields were drawn one by one; half of those of the job are the usual ones."""
    job: dict[str, Any] = {}

    def maybe(field: str, values: st.SearchStrategy[Any]) -> None:
        if draw(st.booleans()):
            job[field] = draw(values)

    stock = draw(st.sampled_from(sorted(STOCK_BY_KEY)))
    maybe("finish", st.sampled_from([36.1, 57.0, 90.0]).map(lambda side: FinishSpec(blank=BlankSpec(side, 36.0))))
    maybe("purpose", st.sampled_from(Purpose))
    maybe("room_light", st.sampled_from(RoomLight))
    maybe("marks", st.sampled_from([3.0, 5.0, 8.0, 12.7, 20.0]).map(lambda inset: MarksSpec(inset_mm=inset)))
    reach = st.builds(Reach, st.sampled_from([150.0, 208.0, 300.0]), st.sampled_from([150.0, 270.0, 420.0]))
    maybe("cutter", st.builds(Cutter, feed=st.sampled_from(Feed), reach_mm=reach))
    margin = st.sampled_from([0.0, 3.0, 5.0, 12.7333])
    maybe("printer", st.builds(Printer, ink=st.sampled_from(Ink), margins_mm=st.builds(Margins, *[margin] * 4)))
    packing = st.builds(
        PackingSpec, mode=st.sampled_from(["mixed", "one-per-sheet", "kits"]), max_sheets=st.sampled_from([None, 1])
    )
    maybe("packing", packing)
    maybe("passes", st.sampled_from([1, 2, 6]))
    maybe("blade", st.sampled_from(Blade).map(BladeIn))
    maybe("paper", st.sampled_from([Paper(215.9, 355.6), Paper(297, 420), Paper(101.6, 152.4)]))
    if STOCK_BY_KEY[stock].stock_class is StockClass.SHRINK:
        maybe("shrink", st.just(ShrinkSpec(Bar(100, 25), Bar(44, 11.6))))
    sides = st.sampled_from([5.0, 9.0, 14.0, 20.0, 30.0, 40.0, 60.0, 90.0, 150.0, 260.0, 400.0])
    wraps = st.builds(
        WrapSpec,
        st.just(84.0),
        st.sampled_from([60.0, 84.0]),
        st.just(140.0),
        st.sampled_from([30.0, 70.0, 110.0]),
        bent=st.booleans(),
    )
    designs = [
        item(
            number,
            edge=draw(edges()),
            quantity=draw(st.sampled_from([1, 2, 7])),
            cut=draw(st.sampled_from(Cut)),
            loose=draw(st.booleans()),
            wrap=None if "finish" in job else draw(st.none() | wraps),
            **{draw(st.sampled_from(["width_mm", "height_mm", "longest_mm"])): draw(sides)},
        )
        for number in range(1, draw(st.integers(1, 2)) + 1)
    ]
    pictures = {one.number: draw(st.sampled_from(PICTURES)) for one in designs}
    return scene(*designs, stock=stock, pictures=pictures, **job)


def _of(finding: Finding) -> tuple[str, int | None]:
    return finding.code, finding.item


def _is_less(before: Finding, after: Finding) -> bool:
    if after.severity.rank > before.severity.rank:
        return True
    # "Two holes are filled" answers "two holes are cut out": a choice that is noted either way.
    if before.severity is Severity.NOTE and re.sub(r"[\d.]+", "", after.title) != re.sub(r"[\d.]+", "", before.title):
        return after.severity is Severity.NOTE
    figure, sign = _LESS.get(before.code, (None, 0))
    return figure is not None and sign * after.figures[figure] < sign * before.figures[figure]


@settings(max_examples=30, deadline=None)
@given(scenes())
def test_after_its_fix_a_finding_is_gone_or_less_and_nothing_worse_has_come(made: Scene) -> None:
    before = made.findings()
    there: dict[tuple[str, int | None], Finding] = {}
    for one in before:
        there.setdefault(_of(one), one)
    for finding in before:
        for fix in finding.fixes:
            if fix.target in _PARTED or finding.code in _PACKING_TELLS:
                continue
            after = made.with_fix(finding, fix).findings()
            what = f"{finding.code}: {fix.label}"
            assert all(_is_less(finding, one) for one in after if _of(one) == _of(finding)), what
            for one in after:
                if _of(one) == _of(finding) or one.code in _PACKING_TELLS:
                    continue
                # One blade cuts all designs, and it is chosen for the usual one.
                if one.code == "cut.small-detail" and one.item != finding.item:
                    continue
                # Beside a joint a border bends as its own smoothing, which was chosen, has it.
                if one.code == "cut.small-detail" and fix.changes == {"edge.join": True}:
                    assert one.item is not None
                    assert float(one.figures["radius_mm"]) >= made.job.item(one.item).edge.smooth_mm - 0.05
                    continue
                worst = there[_of(one)].severity.rank if _of(one) in there else len(Severity)
                worse = one.severity.rank < worst
                assert not worse or (
                    one.severity.rank >= finding.severity.rank and one.severity is not Severity.STOP
                ), f"{what} brings {one.code}: {one.title}"


def test_another_kind_of_edge_is_not_offered_where_it_would_not_go_on_the_sheet() -> None:
    inside = EdgeSpec("bare", -4.0, smooth_mm=0.2)
    small = Cutter(feed=Feed.MAT, reach_mm=Reach(150.0, 150.0))
    for side, goes_on in ((150.0, False), (120.0, True)):
        found = scene(
            item(edge=inside, longest_mm=side), cutter=small, pictures={1: picture_of(np.ones((400, 400)))}
        ).one("art.opaque")
        assert ("Cut a rounded rectangle" in [fix.label for fix in found.fixes]) is goes_on
        assert ("would not go on this sheet" in found.text) is not goes_on


def test_a_size_is_held_against_the_sheet_with_what_an_inset_leaves_of_it_at_that_size() -> None:
    # Of a small comb the inset leaves the bar, of a large one the teeth as well.
    comb = item(edge=EdgeSpec("bare", -0.3, smooth_mm=0.5), height_mm=20.0, loose=True)
    blank = FinishSpec(blank=BlankSpec(90.0, 36.0))
    made = scene(comb, stock="card", paper=Paper(101.6, 152.4), finish=blank, pictures={1: COMB})
    found = made.one("finish.blank")
    assert "would not go on this sheet" in found.text
    assert not [fix for fix in found.fixes if "art.too-big" in made.with_fix(found, fix).codes()]


def test_marks_are_not_moved_so_far_inside_that_a_design_no_longer_goes_on() -> None:
    near = MarksSpec(inset_mm=3.0)
    for side, goes_on in ((200.0, False), (190.0, True)):
        found = scene(item(edge=EdgeSpec("bare", 0.0), width_mm=side), marks=near, stock="dark-transfer").one(
            "marks.unread"
        )
        assert bool(found.fixes) is goes_on
        assert ("Farther inside" in found.text) is not goes_on


def test_a_strip_that_is_just_as_long_as_a_neck_is_no_strip_whatever_arithmetic_says() -> None:
    for hair in (0.0, 1e-12, -1e-12):
        assert not any(thin_places(as_multi([box(0, 0, 0.5, 1.0 + hair)]), 1.0))
    assert any(thin_places(as_multi([box(0, 0, 0.5, 1.01)]), 1.0))


def test_joined_or_not_a_border_is_judged_by_what_was_asked_for() -> None:
    for picture in (STAR, LETTERS, PICTURES[5]):
        for distance in (0.6, 0.61):
            thin = {
                "edge.border-thin"
                in scene(
                    item(edge=EdgeSpec("follow", distance, smooth_mm=0.2, join=join), height_mm=14.0, loose=True),
                    stock="print-flex",
                    pictures={1: picture},
                ).codes()
                for join in (False, True)
            }
            assert thin == {distance < 0.61}


def test_the_size_at_which_strips_are_said_to_hold_is_one_at_which_they_do() -> None:
    seen = 0
    for number, side, stock in product(range(1, 6), (5.0, 9.0), ("dark-transfer", "magnet")):
        made = scene(
            item(edge=EdgeSpec("bare", 0.0, fill_holes=False), height_mm=side),
            stock=stock,
            pictures={1: PICTURES[number]},
        )
        for found in (one for one in made.findings() if one.code == "art.thin"):
            for fix in found.fixes:
                seen += 1
                assert "art.thin" not in made.with_fix(found, fix).codes(), (number, side, stock, fix.label)
    assert seen > 5
