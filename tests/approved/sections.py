"""What is told of core: a few jobs whole, and what each station says over the range of what it is asked."""

from collections.abc import Callable, Iterator
from dataclasses import fields, replace
from typing import Any

import numpy as np
import shapely

from tests.approved.books import ledger, photos
from tests.approved.cut_and_finished import cutting, finishing
from tests.approved.drawings import ARROW, ART, RING
from tests.approved.drawn import art, edges
from tests.approved.figures import small_questions
from tests.approved.limits import limits
from tests.approved.pictures import pictures
from tests.approved.printed import marks, printing
from tests.approved.sheets import sheets
from tests.approved.variants import variants
from tests.core.test_twin import outcome
from tests.covers import coats, laminated
from tests.scenes import item, lying, scene
from vamper.core.bench_card import bench_steps, loading_picture, used_settings
from vamper.core.edge.kind import KINDS, SLIDER_MM, SLIDERS_MM
from vamper.core.inspect import findings_of
from vamper.core.ledger.facts import facts_of
from vamper.core.ledger.rest import rest_of
from vamper.core.marks.mark import FAMILIES
from vamper.core.plan import Plan, cut_of, metres_of, page_of, proof_of, timing_of, worst_miss_mm
from vamper.core.printing.guides import guides_for
from vamper.core.printing.page_box import page_for
from vamper.core.printing.proof import job_line
from vamper.core.sheet.offcut import largest_offcut
from vamper.core.sheet.pack.mode import MODES
from vamper.core.tell_tale import tell_tale_of
from vamper.core.twin.devices import devices_of
from vamper.core.twin.faults import with_faults
from vamper.core.twin.practice import hidden_map, practice_cutter, practice_printer, practice_sensor
from vamper.core.twin.remedies import remedies_for
from vamper.core.values.blade import BladeIn, sharpness_of
from vamper.core.values.calibration import Calibration, landing, thickness_of, turns_deg
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.fonts import FONTS
from vamper.core.values.geometry import closing, grow, grow_far, mirrored, opening
from vamper.core.values.geometry import placed as geometry_placed
from vamper.core.values.item import filler_sizes
from vamper.core.values.lengths import Unit, bare_mm, figure, in_unit, mm, size_mm, span_mm
from vamper.core.values.marks import MarksSpec
from vamper.core.values.mat import MatIn, Tack
from vamper.core.values.miss import miss_on_sheet
from vamper.core.values.paper import NAMED_PAPERS, Paper, Spent
from vamper.core.values.printer import Printer, PrintScale
from vamper.core.values.reading import BLACKS, ROOMS, SENSORS, Black, RoomLight
from vamper.core.values.shrink import Bar, ShrinkSpec
from vamper.core.values.stock import STARTER_STOCKS
from vamper.core.values.text import is_plain, one_line
from vamper.core.values.twin import FaultKey
from vamper.core.values.units import pixels_at, ppi

SOME_STOCKS = STARTER_STOCKS[::3]
Told = Iterator[tuple[str, Any]]


def _jobs() -> dict[str, Plan]:
    ringed = EdgeSpec(rings=(RingSpec(1.0, "#FFFFFF"), RingSpec(2.5, "#204080")))
    on_rollers = Cutter(feed=Feed.ROLLER, head_mm=12.0, tail_mm=20.0)
    three = (
        item(1, quantity=4),
        item(2, quantity=2, edge=ringed, width_mm=55.0),
        item(3, quantity=2, edge=EdgeSpec(kind="hull")),  # type: ignore[arg-type]
    )
    known = Calibration(((1.002, 0.001, 0.6), (-0.001, 0.998, -0.4)), 0.05, 0.1, 0.05, 0.08)
    worn = {"blade": BladeIn(metres=300.0), "mat": MatIn(Tack.MEDIUM, loads=9)}
    grey = Printer(scale=PrintScale(0.99, 1.01), black=Black.LOW)
    coloured = EdgeSpec(rings=(RingSpec(1.2, "#AA2020"), RingSpec(1.5, "#204080"), RingSpec(2.0, "#FFFFFF")))
    return {
        "rings of colour": scene(item(1, quantity=2, edge=coloured), pictures=ART).plan(),
        "three designs": scene(*three, pictures=ART).plan(),
        "on rollers, cut through": scene(
            item(1, quantity=3, cut=Cut.THROUGH), stock="kraft-card", pictures=ART, cutter=on_rollers, **worn
        ).plan(),
        "known machines": scene(
            *three, pictures=ART, printer=grey, calibration=known, room_light=RoomLight.BRIGHT
        ).plan(),
        "what shrinks, coated": scene(
            item(1, quantity=2, width_mm=120.0),
            item(3, width_mm=30.0),
            pictures=ART,
            stock="shrink-film",
            shrink=ShrinkSpec(Bar(100, 100), Bar(45, 47)),
            finish=coats(1),
        ).plan(),
        "laminated, with low black": scene(
            item(1, quantity=2), pictures=ART, stock="matte-label", finish=laminated(), printer=Printer(black=Black.LOW)
        ).plan(),
        "as in a mirror, on a part-used sheet": scene(
            item(1, quantity=3),
            item(2, quantity=1),
            pictures=ART,
            stock="light-transfer",
            paper=Paper(215.9, 279.4, Spent(80.0, 120.0)),
        ).plan(),
        "three marks, laid by hand": scene(
            item(1, quantity=2), pictures=ART, marks=MarksSpec(count=3), held=lying((1, 60, 60), (1, 120, 200))
        ).plan(),
    }


def whole_jobs() -> Told:
    """Everything that a plan says of itself."""
    for name, plan in _jobs().items():
        live = plan.setup.live
        yield (
            name,
            {
                "live": live,
                "marks": plan.setup.marks,
                "misses": [plan.misses_mm(0), worst_miss_mm(plan.job, plan.setup)],
                "settings": used_settings(plan),
                "reading": plan.reading,
                "findings": [(one.code, one.text) for one in findings_of(plan)],
                "facts": facts_of(plan),
                "page": page_of(plan, 0, "a line"),
                "proof": proof_of(plan, 0),
                "cut": cut_of(plan, 0),
                "timing": timing_of(plan, cut_of(plan, 0)),
                "metres": metres_of(plan, 0),
                "bench": bench_steps(plan),
                "tell tale": tell_tale_of(plan, 0),
                "loading": loading_picture(plan),
                "rest": rest_of(plan, 0),
                "offcut": largest_offcut(live.shape, plan.sheets[0].edges, 3.0),
                "guides": guides_for(plan.sheets[0].edges, live.shape),
                "devices": devices_of(plan),
                "printer page": page_for(plan.job.paper, plan.job.printer),
                "line": job_line(page_of(plan, 0), live.shape, "Gannet Reach"),
            },
        )


def values() -> Told:
    """Figures that all stations reckon with, and how they are written in both units."""
    yield "lines", [[one_line(text), is_plain(text)] for text in ("a  b", " a\n", "\u00e9", "x\u202ey", "\u200d")]
    yield "tables", [NAMED_PAPERS, FONTS, SENSORS, ROOMS, BLACKS, STARTER_STOCKS[::5]]
    for unit in Unit:
        lengths = [mm(254.0), mm(3.175), mm(7.0, 1), bare_mm(12.7), size_mm(215.9, 279.4), span_mm(1.0, 25.4)]
        others = [figure(12.5, name) for name in ("mm²", "cm²", "mm/s", "µm", "kg", "°C", "cm", "m")]
        yield f"written {unit.value}", [in_unit(one, unit) for one in (*lengths, *others)]
    yield "worn", [sharpness_of(metres) for metres in (0.0, 150.0, 600.0, 900.0)]
    yield "thick", [thickness_of(um) for um in (60.0, 110.0, 180.0, 260.0, 400.0)]
    yield "fillers", filler_sizes(8.0, 30.0)
    yield "miss", [miss_on_sheet((1.0, 0.4), turn) for turn in (0.0, 30.0, 200.0)]
    turned = np.array([[1.01, 0.02, 0.5], [-0.02, 0.99, -0.3]])
    yield "map", [landing(turned, np.array([(10.0, 20.0), (200.0, 250.0)])), turns_deg(turned)]
    star = shapely.MultiPolygon([one.buffer(3) for one in shapely.points([(0, 0), (9, 4), (4, 12), (20, 20)])])
    for far in (0.2, 2.0, 9.0):
        yield f"grown {far:g}", [grow(star, far), grow_far(star, far), opening(star, far), closing(star, far)]
    yield "moved", [geometry_placed(star, 5.0, -3.0, 40.0), mirrored(star, 50.0), ppi(300, 25.4), pixels_at(40.0, 300)]


def twin() -> Told:
    """A small job run with every fault, what helps then, and the machines one practises on."""
    narrow = EdgeSpec(distance_mm=0.8)
    specs = (item(1, quantity=4, edge=narrow), item(2, quantity=2, cut=Cut.THROUGH, edge=narrow))
    plan = scene(*specs, pictures=ART, paper=Paper(200.0, 150.0)).plan()
    usual = devices_of(plan)
    for fault in (None, *FaultKey):
        devices = with_faults(usual, (fault,) if fault else ())
        found = outcome(plan, devices, runs=24, picture=ARROW)
        yield f"fault {fault.value if fault else 'none'}", [devices, found, remedies_for(plan, devices, found)]
    for seed in (3, 8):
        yield (
            f"practice {seed}",
            [
                practice_printer(usual.printer, seed),
                practice_cutter(usual.cutter, seed, "satin-vinyl", plan.job.paper),
                practice_sensor(usual.sensor, seed),
                hidden_map(seed, plan.job.paper),
            ],
        )
    pale = replace(usual, printer=replace(usual.printer, density=0.55))
    yield "pale", outcome(plan, pale, runs=24, picture=ARROW)
    bled = scene(item(2, quantity=3, edge=EdgeSpec("bare", 0.0), bleed_mm=0.4), pictures=ART).plan()
    off = with_faults(devices_of(bled), (FaultKey.NOT_CALIBRATED,))
    found = outcome(bled, off, runs=24, picture=RING)
    yield "bled", [found, remedies_for(bled, off, found)]
    worn = replace(usual, cutter=replace(usual.cutter, hardness=(0.8, 1.3), slip_mm=0.4))
    yield "worn", outcome(plan, worn, runs=24, picture=ARROW)


def kinds() -> Told:
    """What each kind of edge, marks and packing says of itself, and how far sliders go."""
    yield "sliders", [SLIDER_MM, SLIDERS_MM]
    for registry in (KINDS, FAMILIES, MODES):
        for kind in registry:
            said = {one.name: getattr(kind, one.name) for one in fields(kind)}
            yield f"{type(kind).__name__} {kind.key}", {name: what for name, what in said.items() if not callable(what)}


SECTIONS: dict[str, Callable[[], Told]] = {
    one.__name__: one
    for one in (
        kinds,
        whole_jobs,
        variants,
        values,
        art,
        edges,
        sheets,
        marks,
        printing,
        cutting,
        finishing,
        ledger,
        photos,
        pictures,
        small_questions,
        limits,
        twin,
    )
}
