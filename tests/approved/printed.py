"""What is told of marks and prints: families, readings, advice, proofs."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import shapely

from tests.approved.drawings import ARROW, ART, drawn
from tests.scenes import item, scene
from vamper.core.marks.calibrate import Axis, VernierReading, fit
from vamper.core.marks.printed_helpers import HELPERS, HelperScene
from vamper.core.marks.reading import reading_of, scene_of
from vamper.core.marks.sensor_view import sensor_view
from vamper.core.marks.sheet_marks import marks_bound, marks_for
from vamper.core.marks.vernier import possible_miss, vernier_sheet
from vamper.core.plan import page_of
from vamper.core.printing.advice import SCHOOLS, LearntPrinting, PrintChoice, advice_for
from vamper.core.printing.ink import InkUse, ink_of, sheet_ink
from vamper.core.printing.inspect import print_findings
from vamper.core.printing.page_box import is_set_to, page_for
from vamper.core.printing.pair_numbers import pair_numbers
from vamper.core.printing.proof import bars_drawing, bars_for, scale_of
from vamper.core.printing.swatch import swatch_sheet
from vamper.core.values.accepted_size import AcceptedSize, PaperSide, SizeBounds
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import PAPER_BY_KEY, Paper
from vamper.core.values.placement import Placement
from vamper.core.values.printer import Ink, Printer, PrinterKind, PrintScale
from vamper.core.values.reading import RoomLight
from vamper.core.values.stock import STARTER_STOCKS

SOME_STOCKS = STARTER_STOCKS[::3]
Told = Iterator[tuple[str, Any]]
_AXES: tuple[Axis, Axis] = ("x", "y")


def _read_off() -> Told:
    """Maps that follow from what was read off a sheet, and what a machine's own program is asked."""
    places = [(x, y) for x in (20.0, 105.0, 190.0) for y in (25.0, 140.0, 255.0)]
    for name, bend in {"even": (0.0, 0.0), "turned": (0.004, -0.004), "stretched": (0.003, 0.005)}.items():
        readings = [
            VernierReading(
                x, y, axis, round(0.3 + bend[n] * (y if name == "turned" else (x, y)[n]) + 0.05 * ((x + y) % 3), 2)
            )
            for x, y in places
            for n, axis in enumerate(_AXES)
        ]
        readings[3] = replace(readings[3], miss_mm=readings[3].miss_mm + 0.8)
        yield f"fit {name}", [fit(readings), fit(readings[:8])]
    known = SizeBounds()
    for size, taken in ((180.0, True), (200.0, False), (190.0, True), (195.0, False)):
        known = known.after(size, taken)
        yield f"asked {size:g}", [known, known.next_try(205.0), known.most(205.0), known.most(150.0)]
    found = {
        number: AcceptedSize(215.9, 279.4).after(side, 170.0, number == 0) for number, side in enumerate(PaperSide)
    }
    yield "granted", [found, [one.is_for(Paper(216.2, 279.4)) for one in found.values()]]


def marks() -> Told:
    """Families on two papers, how they are read, and the sheets that find how far off the cut is."""
    for family in ("corner", "frame", "dot", "cross", "ring"):
        for paper in (PAPER_BY_KEY["letter"], PAPER_BY_KEY["a5"]):
            spec = MarksSpec(family=family, size_mm=7.0)  # type: ignore[arg-type]
            found = marks_for(paper, spec)
            yield f"{family} {paper.width_mm:g}", [found, marks_bound(paper, spec)]
        job = scene(item(), marks=spec).job
        found = marks_for(job.paper, spec)
        yield f"seen {family}", sensor_view(found[0], scene_of(job))
        there = HelperScene(job.paper, found, spec, (shapely.box(40, 50, 110, 120),))
        yield f"helpers {family}", {key: one.draw(there) for key, one in HELPERS.items()}
    for stock in SOME_STOCKS:
        for room in RoomLight:
            yield f"read {stock.key} {room.value}", reading_of(scene(item(), stock=stock.key, room_light=room).job)
    for inset in (3.0, 5.0):
        yield f"inset {inset:g}", reading_of(scene(item(), marks=MarksSpec(inset_mm=inset)).job)
    yield "vernier", vernier_sheet(PAPER_BY_KEY["letter"], shapely.box(15, 15, 200, 264), "a sheet")
    notched = shapely.box(12, 12, 204, 268)
    for corner in ((12, 12), (204, 12), (12, 268)):
        notched = notched.difference(shapely.box(corner[0] - 25, corner[1] - 22, corner[0] + 25, corner[1] + 22))
    yield "notched vernier", vernier_sheet(PAPER_BY_KEY["letter"], notched, "a sheet")
    small = [Paper(width, height) for width, height in ((30.0, 200.0), (200.0, 30.0), (18.0, 18.0))]
    yield "small", [marks_bound(paper, MarksSpec(family=key)) for paper in small for key in ("corner", "frame")]
    yield "misses", [possible_miss(tick, coarse) for tick in (-8, -2, 0, 5) for coarse in (-1.0, 0.0, 1.0)]
    yield from _read_off()


def _chosen() -> Told:
    """Whose word on the settings of a printer counts."""
    learnt = LearntPrinting("matte photo paper", "", "your own runs")
    choices = [PrintChoice(school=school) for school in SCHOOLS]
    choices += [PrintChoice(label="labels"), PrintChoice(own="thick paper", label="labels")]
    for stock in (SOME_STOCKS[0], STARTER_STOCKS[-1]):
        for number, choice in enumerate(choices):
            said = [advice_for(stock, Printer(), choice, one) for one in (None, learnt)]
            yield f"chosen {stock.key} {number}", said


def _measured() -> Told:
    """Proofs, their bars and what they measure, ink, and the numbers of pairs."""
    for paper in (PAPER_BY_KEY["letter"], PAPER_BY_KEY["a5"], Paper(120.0, 90.0)):
        page = page_of(scene(item(1, width_mm=30.0, quantity=6), pictures=ART, paper=paper).plan(), 0, "a line")
        bars = bars_for(page, Printer().margins_mm)
        scaled = bars_for(replace(page, scale=PrintScale(0.97, 1.02)), Printer().margins_mm)
        yield f"bars {paper.width_mm:g}", [bars, scaled, bars_drawing(bars, paper)]
        yield f"set {paper.width_mm:g}", [is_set_to(paper, Printer()), page_for(paper, Printer(kind=PrinterKind.LASER))]
    yield "scales", [scale_of(99.2, 100.6), scale_of(104.0, 98.0, sure=True)]
    inks = [ink_of(one.rgba, 150.0, 0.01) for one in (ARROW, *drawn().values())]
    yield "ink", [[one, one.cover_cm2] for one in inks]
    yield "heavy", [sheet_ink(InkUse(0.0, 0.0, 0.0, cover, 0.0), 100.0).is_heavy for cover in (10.0, 60.0, 61.0, 99.0)]
    lying_there = [Placement(1, 40.0, 50.0, 30.0), Placement(2, 120.0, 80.0), Placement(1, 60.0, 180.0, 90.0)]
    for mirror in (False, True):
        drawn_numbers = pair_numbers(
            Paper(200.0, 250.0), lying_there, {1: 9}, {1: (-2.0, -2.0, 42.0, 30.0)}, 3.0, mirror
        )
        yield f"numbers {mirror}", drawn_numbers


def printing() -> Told:
    """What is advised for some stocks, and found on all, on both kinds of printer, and the sheets to print."""
    for stock in SOME_STOCKS:
        for printer in (Printer(), Printer(kind=PrinterKind.LASER), Printer(ink=Ink.DYE)):
            yield f"{stock.key} {printer.kind.value} {printer.ink}", advice_for(stock, printer)
    for stock in STARTER_STOCKS:
        for printer in (Printer(), Printer(kind=PrinterKind.LASER)):
            yield (
                f"found {stock.key} {printer.kind.value}",
                [(one.code, one.text) for one in print_findings(scene(item(), stock=stock.key, printer=printer).job)],
            )
    yield "swatches", swatch_sheet(PAPER_BY_KEY["a4"], 12.0, 12.0, "satin")
    yield from _measured()
    yield from _chosen()
