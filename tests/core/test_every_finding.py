"""Every finding: there where it should be, not where it should not, gone when its fix is taken.

Those on art have a file of their own, `test_art_findings`; this one holds all others, and the list of all.
"""

import re
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

import vamper.core
from tests.conftest import disc_alpha, picture_of
from tests.covers import COATED, coats, laminated
from tests.scenes import DISC, Scene, bars, item, lying, masked, scene
from vamper.core.values.accepted_size import AcceptedSize, SizeBounds
from vamper.core.values.art import Purpose
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, ForceRange, Reach, Route
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Severity, Station
from vamper.core.values.finish import BlankSpec, ClothSpec, Fibre, FinishSpec, LabelFigure, PlaceSpec, SetWay, Target
from vamper.core.values.item import Tabs
from vamper.core.values.marks import NO_MARKS, MarksSpec
from vamper.core.values.mat import MatIn
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Pin, Placement
from vamper.core.values.printer import Ink, Margins, Printer, PrintScale, TraySize
from vamper.core.values.program import Program
from vamper.core.values.reading import Black, RoomLight
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.tried import Outcome, Try
from vamper.core.values.wrap import WrapSpec

TWO_DISCS = picture_of(np.maximum(disc_alpha(400, 70, (80, 200)), disc_alpha(400, 70, (320, 200))))
RING = picture_of(disc_alpha(400, 170, (200, 200)) * (1 - disc_alpha(400, 60, (200, 200))))
DUMBBELL = bars((20, 100, 160, 300), (240, 100, 380, 300), (150, 197, 250, 203))
WORD = masked(
    bars((20, 150, 120, 250), (150, 150, 250, 250), (280, 130, 380, 250)).alpha.astype(bool)
    & ~bars((50, 180, 90, 220), (180, 180, 220, 220)).alpha.astype(bool)
)
BY_HAND = Cutter(feed=Feed.HAND)
CORNERED = bars((20, 100, 380, 300), (180, 20, 220, 380))
TAKEN = AcceptedSize(215.9, 279.4, SizeBounds(190), SizeBounds(250))
BACK = item(2, back_of=1, quantity=1)
PRESS_READ = tuple(LabelFigure(key, value) for key, value in (("press_c", 160), ("press_s", 30), ("pressure", 2)))
SHIMMER, DYE = "shimmer-vinyl", "dye-paper"
# A letter sheet whose corner mark was printed before.
USED_PAPER = Paper(215.9, 279.4, gone=((8.0, 8.0, 18.0, 8.0, 18.0, 18.0, 8.0, 18.0),), margin_mm=1.0)
DRIFTED = tuple(LoggedMiss(0.4, 0.0) for _ in range(5))


def on_mug(across_mm: float = 82.0, up_mm: float = 70.0) -> Scene:
    """A design of 46 mm with its border on a mug 140 mm high."""
    wrap = WrapSpec(across_mm, across_mm, 140.0, up_mm)
    return scene(item(wrap=wrap), stock="water-slide-white", purpose=Purpose.DRINKWARE)


def on_taper(*, bent: bool = True) -> Scene:
    wrap = WrapSpec(84.0, 60.0, 140.0, 70.0, bent=bent)
    return scene(item(width_mm=60.0, wrap=wrap), stock="water-slide-white")


# Code, where it is answered, how much it matters, a scene that has it, and the nearest one that has not.
# A square with a square hole.
FRAME = bars((20, 20, 380, 120), (20, 280, 380, 380), (20, 20, 120, 380), (280, 20, 380, 380))

CASES: dict[str, tuple[Station, Severity, Scene, Scene]] = {
    "marks.unread": (
        Station.MARKS,
        Severity.STOP,
        scene(item(), stock=SHIMMER, room_light=RoomLight.BRIGHT),
        scene(item(), stock=SHIMMER, room_light=RoomLight.DIM),
    ),
    "marks.unreached": (
        Station.MARKS,
        Severity.STOP,
        scene(item(), cutter=Cutter(reach_mm=Reach(200.0, 420.0))),
        scene(item(), cutter=Cutter(reach_mm=Reach(208.0, 420.0))),
    ),
    "marks.over-used": (
        Station.MARKS,
        Severity.LOOK,
        scene(item(quantity=2), paper=USED_PAPER),
        scene(item(quantity=2), paper=replace(USED_PAPER, gone=((100.0, 100.0, 140.0, 100.0, 140.0, 140.0),))),
    ),
    "marks.covered": (
        Station.MARKS,
        Severity.LOOK,
        scene(item(), finish=COATED),
        scene(item(), finish=COATED, marks=MarksSpec(NO_MARKS)),
    ),
    "marks.drift": (
        Station.MARKS,
        Severity.LOOK,
        scene(item(), misses=DRIFTED),
        scene(item(), misses=DRIFTED[1:]),
    ),
    "print.kind": (
        Station.PRINT,
        Severity.STOP,
        scene(item(), stock=DYE),
        scene(item(), stock=DYE, printer=Printer(ink=Ink.DYE)),
    ),
    "print.scale": (
        Station.PRINT,
        Severity.STOP,
        scene(item(), printer=Printer(scale=PrintScale(0.994, 1.0))),
        scene(item(), printer=Printer(scale=PrintScale(0.996, 1.004))),
    ),
    "print.page-size": (
        Station.PRINT,
        Severity.STOP,
        scene(item(), printer=Printer(set_to=TraySize(210.0, 297.0))),
        scene(item(), printer=Printer(set_to=TraySize(279.4, 215.9))),
    ),
    "print.borderless": (
        Station.PRINT,
        Severity.LOOK,
        scene(item(), printer=Printer(margins_mm=Margins(0, 3, 3, 3))),
        scene(item(), printer=Printer(margins_mm=Margins(1, 3, 3, 3))),
    ),
    "print.low-ink": (
        Station.PRINT,
        Severity.LOOK,
        scene(item(), printer=Printer(black=Black.LOW)),
        scene(item()),
    ),
    "art.pieces": (
        Station.EDGE,
        Severity.STOP,
        scene(item(edge=EdgeSpec(join=False)), pictures={1: TWO_DISCS}),
        scene(item(edge=EdgeSpec(join=False))),
    ),
    "art.holes": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(edge=EdgeSpec(fill_holes=False, distance_mm=1)), pictures={1: RING}),
        scene(item(edge=EdgeSpec(fill_holes=False, distance_mm=1))),
    ),
    "art.thin": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(edge=EdgeSpec(distance_mm=0, smooth_mm=0)), pictures={1: DUMBBELL}),
        scene(item(edge=EdgeSpec(distance_mm=0, smooth_mm=0)), pictures={1: bars((20, 100, 380, 300))}),
    ),
    "art.too-small": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(width_mm=5.0)),
        scene(item(width_mm=6.2)),
    ),
    "art.too-big": (Station.SHEET, Severity.STOP, scene(item(width_mm=190.0)), scene(item(width_mm=188.0))),
    "edge.border-thin": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(edge=EdgeSpec(distance_mm=0.5))),
        scene(item(edge=EdgeSpec(distance_mm=0.61))),
    ),
    "edge.border-uneven": (
        Station.EDGE,
        Severity.NOTE,
        scene(item(edge=EdgeSpec(distance_mm=1.7))),
        scene(item(edge=EdgeSpec(distance_mm=1.81))),
    ),
    "edge.hole-closed": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(edge=EdgeSpec(distance_mm=8, keep_holes=((0.5, 0.5),))), pictures={1: RING}),
        scene(item(edge=EdgeSpec(distance_mm=1, keep_holes=((0.5, 0.5),))), pictures={1: RING}),
    ),
    "edge.counters": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(width_mm=80.0, edge=EdgeSpec("bare", 0)), stock="plain-vinyl", pictures={1: WORD}),
        scene(item(width_mm=80.0, edge=EdgeSpec("bare", 0)), pictures={1: WORD}),
    ),
    "edge.inset": (
        Station.EDGE,
        Severity.STOP,
        scene(item(width_mm=20.0, edge=EdgeSpec("bare", -11))),
        scene(item(width_mm=20.0, edge=EdgeSpec("bare", -4))),
    ),
    "edge.scissors": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(width_mm=4.0, edge=EdgeSpec("bare", 0)), cutter=BY_HAND),
        scene(item(width_mm=8.0, edge=EdgeSpec("bare", 0)), cutter=BY_HAND),
    ),
    "edge.bleed": (
        Station.EDGE,
        Severity.LOOK,
        scene(item(edge=EdgeSpec("bare", 0), bleed_mm=0.0)),
        scene(item(bleed_mm=0.0)),
    ),
    "sheet.outside": (
        Station.SHEET,
        Severity.STOP,
        scene(item(), held=lying((1, 5, 60))),
        scene(item(), held=lying((1, 60, 60))),
    ),
    "sheet.overlap": (
        Station.SHEET,
        Severity.STOP,
        scene(item(quantity=2), held=lying((1, 60, 60), (1, 80, 60))),
        scene(item(quantity=2), held=lying((1, 60, 60), (1, 120, 60))),
    ),
    "sheet.gap": (
        Station.SHEET,
        Severity.STOP,
        scene(item(quantity=2), held=lying((1, 60, 60), (1, 107, 60))),
        scene(item(quantity=2), held=lying((1, 60, 60), (1, 108.1, 60))),
    ),
    "sheet.unplaced": (
        Station.SHEET,
        Severity.STOP,
        scene(item(quantity=40), packing=PackingSpec(max_sheets=1)),
        scene(item(quantity=4), packing=PackingSpec(max_sheets=1)),
    ),
    "sheet.granted": (
        Station.SHEET,
        Severity.NOTE,
        scene(item(), marks=MarksSpec(NO_MARKS)),
        scene(item(), marks=MarksSpec(NO_MARKS), cutter=Cutter(granted=(TAKEN,))),
    ),
    "sheet.sparse": (Station.SHEET, Severity.NOTE, scene(item(quantity=21)), scene(item(quantity=20))),
    "sheet.front-back": (
        Station.SHEET,
        Severity.STOP,
        scene(item(quantity=3), BACK),
        scene(item(quantity=1), BACK),
    ),
    "marks.inset": (
        Station.MARKS,
        Severity.LOOK,
        scene(marks=MarksSpec(inset_mm=3.9), printer=Printer(margins_mm=Margins(1, 1, 1, 1))),
        scene(marks=MarksSpec(inset_mm=4.0), printer=Printer(margins_mm=Margins(1, 1, 1, 1))),
    ),
    "marks.unprintable": (
        Station.MARKS,
        Severity.STOP,
        scene(printer=Printer(margins_mm=Margins(bottom=8.1))),
        scene(printer=Printer(margins_mm=Margins(bottom=8.0))),
    ),
    "print.stock": (Station.PRINT, Severity.NOTE, scene(stock="plain-vinyl"), scene()),
    "print.mirror": (Station.PRINT, Severity.NOTE, scene(stock="light-transfer"), scene(stock="dark-transfer")),
    "cut.too-hard": (
        Station.CUT,
        Severity.STOP,
        # 299 µm · 3.3 over 2.38 in six passes: 414 gf, and nine tenths of 455 are 410.
        scene(item(cut=Cut.THROUGH), stock="shrink-film", cutter=Cutter(force_gf=ForceRange(10, 455, 5))),
        scene(item(cut=Cut.THROUGH), stock="shrink-film", cutter=Cutter(force_gf=ForceRange(10, 465, 5))),
    ),
    "cut.unsure": (
        Station.CUT,
        Severity.LOOK,
        scene(item(edge=EdgeSpec("bare", 0.0)), stock="colour-flex", cutter=Cutter(force_gf=ForceRange(40, 400, 180))),
        scene(tries=(Try(100, 1, Outcome.NOT_THROUGH), Try(108, 1, Outcome.CLEAN), Try(120, 1, Outcome.CLEAN))),
    ),
    "cut.too-few-passes": (
        Station.CUT,
        Severity.LOOK,
        # Card 300 µm: one pass of this machine stops short of it.
        scene(item(cut=Cut.THROUGH), stock="card", passes=1, cutter=Cutter(force_gf=ForceRange(20, 200, 4))),
        scene(item(cut=Cut.THROUGH), stock="card", cutter=Cutter(force_gf=ForceRange(20, 200, 4))),
    ),
    "cut.holes": (
        Station.CUT,
        Severity.LOOK,
        scene(
            item(edge=EdgeSpec("bare", 0.0, fill_holes=False)),
            pictures={1: FRAME},
            cutter=Cutter(route=Route.PROGRAM, program=Program(finds_holes=False)),
        ),
        scene(
            item(edge=EdgeSpec("bare", 0.0, fill_holes=False)),
            pictures={1: FRAME},
            cutter=Cutter(route=Route.PROGRAM, program=Program(finds_holes=True)),
        ),
    ),
    "cut.not-as-assumed": (
        Station.CUT,
        Severity.LOOK,
        scene(tries=(Try(20, 1, Outcome.BACKING_THROUGH),) * 3),
        scene(tries=(Try(60, 1, Outcome.NOT_THROUGH),) * 3),
    ),
    "cut.steep-blade": (
        Station.CUT,
        Severity.STOP,
        scene(stock="print-flex", blade=BladeIn(Blade.STEEP)),
        scene(item(cut=Cut.THROUGH), stock="print-flex", blade=BladeIn(Blade.STEEP)),
    ),
    "cut.blade-worn": (
        Station.CUT,
        Severity.LOOK,
        # e^(−416 / 600) is a hair under one half.
        scene(blade=BladeIn(metres=416.0)),
        scene(blade=BladeIn(metres=415.0)),
    ),
    "cut.mat-tired": (
        Station.CUT,
        Severity.LOOK,
        scene(mat=MatIn(loads=20)),
        scene(mat=MatIn(loads=20), cutter=Cutter(feed=Feed.ROLLER, head_mm=10, tail_mm=10)),
    ),
    "cut.small-detail": (
        Station.CUT,
        Severity.LOOK,
        scene(item(1), item(2), item(3, width_mm=1.1, edge=EdgeSpec("bare", 0.0))),
        scene(item(1), item(2), item(3, width_mm=1.5, edge=EdgeSpec("bare", 0.0))),
    ),
    "cut.too-deep": (
        Station.CUT,
        Severity.LOOK,
        scene(stock="water-slide-clear", cutter=Cutter(force_gf=ForceRange(150, 600, 10))),
        scene(stock="water-slide-clear"),
    ),
    "cut.no-backing": (
        Station.CUT,
        Severity.LOOK,
        scene(stock="card"),
        scene(item(cut=Cut.THROUGH), stock="card"),
    ),
    "finish.rim": (Station.FINISH, Severity.LOOK, on_mug(up_mm=100.0), on_mug(up_mm=90.0)),
    "finish.too-high": (Station.FINISH, Severity.STOP, on_mug(up_mm=130.0), on_mug(up_mm=110.0)),
    "finish.too-wide": (Station.FINISH, Severity.STOP, on_mug(13.0), on_mug(16.0)),
    "finish.sag": (Station.FINISH, Severity.LOOK, on_taper(bent=False), on_taper()),
    "finish.label": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(), stock="dark-transfer"),
        scene(item(), stock="dark-transfer", finish=FinishSpec(label=PRESS_READ)),
    ),
    "finish.coats": (
        Station.FINISH,
        Severity.STOP,
        scene(item(), stock="water-slide-white", finish=coats(0)),
        scene(item(), stock="water-slide-white", finish=coats(1)),
    ),
    "finish.target": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(), stock="matte-label", target=Target.CANDLE),
        scene(item(), stock="matte-label", target=Target.PARCEL),
    ),
    "finish.cover": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(), target=Target.BOAT),
        scene(item(), target=Target.BOAT, finish=laminated()),
    ),
    "finish.place": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(), target=Target.BOAT, finish=FinishSpec(place=PlaceSpec(30.0, 200.0))),
        scene(item(), target=Target.BOAT, finish=FinishSpec(place=PlaceSpec(300.0, 200.0))),
    ),
    "finish.letters": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(), target=Target.BOAT, finish=FinishSpec(place=PlaceSpec(300.0, 200.0, 25.0))),
        scene(item(), target=Target.BOAT, finish=FinishSpec(place=PlaceSpec(300.0, 200.0, 10.0))),
    ),
    "art.rim-dark": (
        Station.ART,
        Severity.LOOK,
        scene(item(), stock="print-flex", target=Target.SHIRT, finish=FinishSpec(cloth=ClothSpec(dark=True))),
        scene(item(), stock="print-flex", target=Target.SHIRT, finish=FinishSpec(cloth=ClothSpec(dark=False))),
    ),
    "finish.oven": (
        Station.FINISH,
        Severity.STOP,
        scene(item(), stock="water-slide-white", target=Target.BOTTLE, finish=FinishSpec(set=SetWay.OVEN)),
        scene(item(), stock="water-slide-white", target=Target.BOTTLE),
    ),
    "finish.cloth": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(), stock="dark-transfer", purpose=Purpose.CLOTH, finish=FinishSpec(cloth=ClothSpec(Fibre.BLEND))),
        scene(item(), stock="dark-transfer", purpose=Purpose.CLOTH, finish=FinishSpec(cloth=ClothSpec(Fibre.COTTON))),
    ),
    "finish.cloth-dark": (
        Station.FINISH,
        Severity.STOP,
        scene(item(), stock="light-transfer", finish=FinishSpec(cloth=ClothSpec(dark=True))),
        scene(item(), stock="dark-transfer", finish=FinishSpec(cloth=ClothSpec(dark=True))),
    ),
    "finish.shrink": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(cut=Cut.THROUGH), stock="shrink-film"),
        scene(item(cut=Cut.THROUGH), stock="shrink-film", shrink=ShrinkSpec(Bar(100, 25), Bar(44, 11.6))),
    ),
    "finish.askew": (
        Station.FINISH,
        Severity.LOOK,
        scene(item(cut=Cut.THROUGH), stock="shrink-film", held=((Placement(1, 100, 100, 45.0, Pin.HAND),),)),
        scene(item(cut=Cut.THROUGH), stock="shrink-film", held=((Placement(1, 100, 100, 180.0, Pin.HAND),),)),
    ),
    "finish.blank": (
        Station.FINISH,
        Severity.STOP,
        scene(item(), stock=DYE, finish=FinishSpec(blank=BlankSpec(36.1, 36))),
        scene(item(), stock=DYE, finish=FinishSpec(blank=BlankSpec(36.02, 36.02))),
    ),
    "cut.tabs": (
        Station.CUT,
        Severity.LOOK,
        scene(item(cut=Cut.THROUGH, width_mm=8.0, edge=EdgeSpec("bare", 0.0), tabs=Tabs(40, 5.0)), stock="card"),
        scene(item(cut=Cut.THROUGH, width_mm=8.0, edge=EdgeSpec("bare", 0.0), tabs=Tabs(2, 5.0)), stock="card"),
    ),
    "finish.seam": (Station.FINISH, Severity.NOTE, on_mug(14.3), on_mug(20.0)),
}
# Held against pictures, each with its fix, in `test_art_findings` and `test_sheets`.
ON_ART = {
    "art.glitter",
    "art.opaque",
    "art.several",
    "art.base",
    "art.white-on-clear",
    "art.resolution",
    "art.fringe",
    "art.font",
    "art.specks",
    "art.margin",
    "art.mode",
    "art.colours",
    "art.unprinted",
}


@pytest.mark.parametrize("code", CASES)
def test_it_is_found_where_it_is_and_nowhere_else_and_its_fixes_take_it_away(code: str) -> None:
    station, severity, has, has_not = CASES[code]
    found = [finding for finding in has.findings() if finding.code == code]
    assert {finding.station for finding in found} == {station}
    assert found[0].severity is severity
    assert code not in {f.code for f in has_not.findings() if f.severity is severity}
    for fix in found[0].fixes:
        after = has.with_fix(found[0], fix)
        assert not [f for f in after.findings() if f.code == code and f.severity is severity], fix.label


def test_every_finding_there_is_is_in_one_of_the_lists() -> None:
    source = "".join(path.read_text() for path in Path(vamper.core.__file__).parent.rglob("*.py"))
    codes = set(re.findall(r'Finding\(\s*"([a-z]+\.[a-z-]+)"', source))
    codes |= set(re.findall(r'code, title(?:, text)? = "([a-z.-]+)"', source))
    assert codes == CASES.keys() | ON_ART


@pytest.mark.parametrize("over", [{"finish": COATED}, {"finish": laminated(50.0)}])
def test_a_coat_and_a_laminate_over_the_marks_are_both_told(over: dict[str, object]) -> None:
    """Findings look at what was asked for: the film is part of the stock by the time a sheet is made."""
    assert scene(item(), **over).one("marks.covered").severity is Severity.LOOK
    assert "marks.covered" not in scene(item(), marks=MarksSpec(NO_MARKS), **over).codes()
    assert "marks.covered" not in scene(item(), stock="plain-vinyl", **over).codes()


def test_what_the_fixes_say_is_what_they_set() -> None:
    assert (
        scene(item(edge=EdgeSpec(distance_mm=0.5))).one("edge.border-thin").fixes[0].changes["edge.distance_mm"] == 1.8
    )
    packed = CASES["sheet.unplaced"][2]
    assert packed.one("sheet.unplaced").fixes[0].changes == {"packing.max_sheets": None}
    # Where no limit was set, there is none to lift.
    crowded = scene(item(quantity=3), packing=PackingSpec(mode="kits", max_sheets=2))
    assert crowded.plan().layout.pieces == 3
    inset = CASES["marks.unprintable"][2].one("marks.unprintable")
    assert inset.figures["needed_mm"] == 8.1
    too_big = CASES["art.too-big"][2].one("art.too-big")
    assert too_big.figures["largest_mm"] == pytest.approx(194.3 - 6, abs=0.15)


def test_a_back_that_sticks_out_of_its_blank_is_seen() -> None:
    wide = scene(item(quantity=1, width_mm=30.0), item(2, back_of=1, width_mm=38.0))
    (finding,) = (f for f in wide.findings() if f.code == "sheet.front-back")
    assert finding.severity is Severity.LOOK
    assert finding.figures["outside_mm"] == pytest.approx(1.0, abs=0.1)


def test_a_finding_names_its_design_and_sheet() -> None:
    named = scene(item(3), item(7, edge=EdgeSpec(distance_mm=0.5)))
    assert named.one("edge.border-thin").item == 7
    held = replace(CASES["sheet.gap"][2].job, held=((), *CASES["sheet.gap"][2].job.held))
    finding = Scene(replace(held, held=held.held[1:])).one("sheet.gap")
    assert (finding.item, finding.sheet) == (1, 0)
    assert finding.figures == {"distance_mm": pytest.approx(1.0, abs=0.01), "needed_mm": 2.0}


def test_stock_decides_what_is_looked_for() -> None:
    """Bleed is a matter of print; what is only cut has colours to be told apart instead."""
    flat = masked(np.asarray(DISC.alpha) > 0.5)
    assert "edge.bleed" not in scene(item(edge=EdgeSpec("bare", 0)), stock="plain-vinyl", pictures={1: flat}).codes()
