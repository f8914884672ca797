"""What small questions are answered with, over the range of what is asked: on cups, of colours, of calibrations."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import numpy as np
import shapely

from tests.approved.drawings import ARROW, ART
from tests.scenes import item, scene
from vamper.core.art.outline import outline_at, trace
from vamper.core.cutting.drops import ladder_places, offcut_places
from vamper.core.edge.edge import derive_edge
from vamper.core.edge.handling import advise
from vamper.core.edge.tile import tile_counts, tiles_of
from vamper.core.finishing.round_things import (
    RoundThing,
    bend_deg,
    bend_on,
    bent_edge,
    check_height,
    diameter_of,
    half_way_mm,
    middle_up_mm,
    split,
    thing_of,
    wrap,
)
from vamper.core.ledger.miss_kind import kind_of_misses
from vamper.core.ledger.run import Spoilt, SpoiltPiece, outcome_of
from vamper.core.marks.budget import budget_of, drifted
from vamper.core.marks.calibrate import Axis, fit
from vamper.core.marks.inspect import drift_findings, old_marks_findings
from vamper.core.marks.printed_helpers import HelperScene, cover_trim
from vamper.core.marks.sheet_marks import marks_for
from vamper.core.marks.spots import spots_of
from vamper.core.marks.vernier import agree, expected_side, narrow_side, reading_of, vernier_sheet
from vamper.core.printing.page_box import page_for
from vamper.core.twin.devices import devices_of
from vamper.core.twin.faults import with_faults
from vamper.core.values.art import Purpose, SizeSpec
from vamper.core.values.calibration import Calibration, thickness_of
from vamper.core.values.chances import in_100_short
from vamper.core.values.colour import difference, lab_of, luminance
from vamper.core.values.composition import NAME, BasePlate, BaseShape, Composition, TextLine
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import Unit, figure, in_unit
from vamper.core.values.marks import MarksSpec
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.packing import Turn
from vamper.core.values.paper import Paper
from vamper.core.values.printer import PageBox, Printer
from vamper.core.values.stock import STARTER_STOCKS
from vamper.core.values.twin import FaultKey
from vamper.core.values.wrap import WrapSpec

Told = Iterator[tuple[str, Any]]
_AXES: tuple[Axis, Axis] = ("x", "y")
_MISSES = [LoggedMiss(0.3, -0.1), LoggedMiss(0.5, 0.2), *[LoggedMiss(0.8, -0.5)] * 4]
_BENT = Calibration(((1.04, 0.05, 0.6), (-0.08, 0.93, -0.4)), 0.05, 0.1, 0.02, 0.08)


def _of_values() -> Told:
    greys = np.array([(one, one // 2, 255 - one) for one in (0, 3, 8, 11, 12, 40, 128, 254)], np.uint8)
    labs = lab_of(greys)
    yield "colours", [*labs, difference(labs[1:], labs[:-1]), [luminance((one, 200, 12)) for one in (2, 9, 10, 12, 90)]]
    yield "thick", [thickness_of(um) for um in (179.9, 200.0, 239.0, 299.9, 300.0, 350.0)]
    measures = ((322.58, "mm²"), (161.29, "cm²"), (12.7, "mm/s"), (127.0, "µm"), (2.5, "kg"), (37.0, "°C"), (0.9, "m"))
    yield "halves", [[in_unit(figure(one, name), unit) for unit in Unit] for one, name in measures]
    for shape in BaseShape:
        base = BasePlate(shape, 60.0, 40.0, allowance_mm=3.0)
        room = [base.room_at(y, height) for y in (3.0, 12.0, 20.0, 31.0, 39.0) for height in (2.0, 9.0)]
        yield f"base {shape.value}", [base.blank_mm, base.size_mm, room]
    line = TextLine(f"for {NAME}", 8.0, 30.0, 20.0)
    named = Composition(BasePlate(BaseShape.ROUNDED, 60.0), lines=(line, replace(line, text="plain")))
    yield "names", [named.takes_names, named.named("Wren"), named.named("Wren").takes_names]
    places = np.array([(10.0, 20.0), (200.0, 250.0), (0.0, 0.0)])
    yield "calibrated", [_BENT.landing(places), _BENT.corrected(places)]


def _of_cups() -> Told:
    things = RoundThing(84, 60, 105), RoundThing(60, 84, 105), RoundThing(82, 82, 95), RoundThing(70, 70, None)
    ink = [3.0, 3, 2, 1, 0, 1, 2, 4, 5, 2, 0, 0, 3, 3]
    wall = np.array([(0.0, 5.0), (40.0, 30.0), (170.0, 70.0), (300.0, 12.0)])
    square = shapely.box(-20, -15, 20, 15)
    for thing in things:
        up = half_way_mm(thing, 30.0)
        wraps = [wrap(thing, width, up, ink=ink) for width in (60.0, 240.0, 500.0)]
        yield f"cup {thing.top_mm:g} {thing.bottom_mm:g}", [up, wraps, thing.unrolled(wall), thing.around_mm(20.0)]
        handled = [wrap(thing, width, up, handle_mm=40.0) for width in (180.0, 210.0, 300.0)]
        handled.append(wrap(thing, 300.0, up, overlap_mm=-12.0, ink=ink))
        yield f"handled {thing.top_mm:g} {thing.bottom_mm:g}", handled
        if not thing.is_cylinder:
            bends = [bend_deg(thing, width, 40.0) for width in (30.0, 120.0)]
            edge = bent_edge(square, 2.5, bend_on(thing, (0.0, 0.0), 40.0))
            yield f"bent {thing.top_mm:g} {thing.bottom_mm:g}", [bends, edge]
    yield "strip", diameter_of(251.3)
    yield "split", [split(240.0, most, ink, least) for most in (250.0, 120.0, 90.0) for least in (1, 3, 4)]
    for middle in (10.0, 16.0, 95.0):
        try:
            yield f"height {middle:g}", check_height(things[0], 30.0, middle)
        except BadInput as bad:
            yield f"height {middle:g}", bad.sentence
    for spec in (WrapSpec(84, 60, 105), WrapSpec(84, 60, 105, 40.0)):
        yield f"stands {spec.up_mm}", [thing_of(spec), middle_up_mm(spec), thing_of(spec).outer_radius_mm]
    cup = things[0].around_mm(40.0)
    yield "nearly round", [wrap(things[0], cup + more, 40.0, ink=ink) for more in (-1.0, 2.0, 4.0)]


def _of_marks() -> Told:
    for runs in range(len(_MISSES) + 1):
        job = scene(item(), misses=tuple(_MISSES[:runs])).job
        budget = budget_of(job, marks_for(job.paper, job.marks))
        yield f"budget {runs}", [budget, budget.miss_mm(np.array([(20.0, 30.0), (100.0, 140.0)]), (1, 2))]
    three = scene(item(), calibration=_BENT, marks=MarksSpec(count=3)).job
    budget = budget_of(three, marks_for(three.paper, three.marks))
    yield "budget of three", [budget, budget.sigmas(np.array([(20.0, 30.0), (190.0, 250.0), (190.0, 20.0)]))]
    yield "drift", [[drifted(_MISSES[:n]), drift_findings(_MISSES[:n])] for n in (0, 4, 5, 6)]
    yield "in 100", [in_100_short(one) for one in (0.001, 0.004, 0.006, 0.5, 0.994, 0.996, 0.999)]
    yield "spots", [spots_of((10.0, 20.0, 10.0 + side, 25.0)) for side in (6.0, 39.0, 41.0, 50.0, 60.0)]
    for left in (0.0, 8.0, 25.0):
        used = Paper(215.9, 279.4, gone=((left, 0.0, 60.0, 0.0, 60.0, 40.0, left, 40.0),))
        for family in ("corner", "frame"):
            spec = MarksSpec(family=family)
            yield f"old marks {left:g} {family}", old_marks_findings(used, spec, marks_for(used, spec))
    for family in ("corner", "dot", "ring"):
        paper, spec = Paper(215.9, 279.4), MarksSpec(family=family, size_mm=7.0)
        for name, printed in {"nothing": (), "low": (shapely.box(40, 180, 170, 240),)}.items():
            yield f"cover {family} {name}", cover_trim(HelperScene(paper, marks_for(paper, spec), spec, printed))
    sheet = vernier_sheet(Paper(215.9, 279.4), shapely.box(15, 15, 200, 264), "a sheet")
    readings = [reading_of(sheet, one.number, tick, 0.4) for one in sheet.scales for tick in (one.number % 3,)]
    found = fit(readings)
    yield "vernier read", [readings, found, expected_side(sheet, found)]
    sides = [
        narrow_side(miss) for miss in ((0.5, 0.0), (0.5, 0.5), (-0.2, 0.4), (-0.5, -0.1), (0.01, 0.02), (0.1, -0.6))
    ]
    yield "narrow", [sides, [[agree(one, other) for other in sides] for one in sides]]
    for small in (90.0, 110.0, 140.0):
        try:
            drawn: Any = vernier_sheet(Paper(small, 250.0), shapely.box(8, 8, small - 8, 242), "narrow").scales
        except BadInput as bad:
            drawn = bad.sentence
        yield f"vernier {small:g}", drawn


def _of_sheets() -> Told:
    for page in PageBox:
        papers = [Paper(wide, high) for wide, high in ((215.9, 279.4), (203.0, 270.0), (198.0, 279.4), (120.0, 90.0))]
        yield f"page {page.value}", [page_for(paper, Printer(page=page)) for paper in papers]
    region, marks = shapely.box(12, 12, 200, 260), [shapely.box(8, 8, 14, 14), shapely.box(200, 8, 206, 14)]
    pieces = [shapely.box(20, 20, 190, 150), shapely.box(60, 150, 190, 235), shapely.box(12, 200, 40, 230)]
    for before in range(3):
        yield f"ladder {before}", ladder_places(region, pieces, marks, before)
    yield "no room together", ladder_places(region, [shapely.box(12, 12, 200, 238), *pieces], marks)
    yield "on an offcut", [offcut_places(Paper(wide, 25.0)) for wide in (40.0, 60.0)]
    outline = outline_at(trace(ARROW), SizeSpec(width_mm=240.0))
    edge = derive_edge(outline, EdgeSpec(distance_mm=2.0), 1.0)
    for room in ((190.0, 250.0), (130.0, 250.0), (120.0, 100.0), (90.0, 70.0)):
        for turn in (Turn.UPRIGHT, Turn.ANY):
            counts = tile_counts(edge, room, turn, 5.0)
            tiles = tiles_of(outline, edge, room, turn, 5.0) if counts not in (None, (1, 1)) else ()
            yield f"tiles {room[0]:g} {turn.value}", [counts, tiles]
    for purpose in Purpose:
        kinds = {one.stock_class: one for one in STARTER_STOCKS}
        clear = next(one for one in STARTER_STOCKS if one.ground == "clear")
        yield f"advised {purpose.value}", [[advise(one, purpose), advise(one, purpose, True)] for one in kinds.values()]
        yield f"advised clear {purpose.value}", advise(clear, purpose)


def _of_runs() -> Told:
    for pieces in (0, 3, 8, 9, 10, 12):
        spoilt = [SpoiltPiece(place, Spoilt.NOT_THROUGH) for place in range(min(4, pieces))]
        yield f"outcome of {pieces}", [outcome_of(spoilt[:many], pieces) for many in range(len(spoilt) + 1)]
    places = np.array([(x, y) for y in (20.0, 140.0, 260.0) for x in (20.0, 110.0, 200.0)])
    away = (places - places.mean(axis=0)) / 120
    kinds = ((0.0, 0.0), (0.2, 0.2), (0.05, 0.4), (0.5, 0.4))
    yield "kinds of misses", [kind_of_misses(places, away * grown + (0.1, 0.05)) for grown in kinds]


def _of_machines() -> Told:
    plan = scene(item(1, quantity=2), pictures=ART, calibration=_BENT).plan()
    usual = devices_of(plan)
    turned = replace(usual, cutter=replace(usual.cutter, map=_BENT.map))
    yield "devices", [usual, devices_of(scene(item(), misses=tuple(_MISSES)).plan())]
    # Those that change a map change a bent one, too; all are run in the sections of the twin.
    for fault in (FaultKey.NOT_CALIBRATED, FaultKey.FAR_END):
        yield f"fault {fault.value}", with_faults(turned, (fault,))


def small_questions() -> Told:
    """Answers of functions that a plan asks seldom, or with few figures."""
    yield from _of_values()
    yield from _of_cups()
    yield from _of_marks()
    yield from _of_sheets()
    yield from _of_runs()
    yield from _of_machines()
