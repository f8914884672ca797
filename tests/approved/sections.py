"""What is told of core: a few jobs whole, and what each station says over the range of what it is asked."""

from collections.abc import Callable, Iterator
from dataclasses import fields, replace
from typing import Any

import numpy as np
import shapely

from tests.approved.drawings import ARROW, ART, RING, drawn
from tests.approved.sheets import sheets
from tests.core.test_twin import outcome
from tests.scenes import item, lying, scene
from vamper.core.art.colours import flat_colours, layers_of
from vamper.core.art.groups import groups_of
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.prepare import prepared
from vamper.core.art.resolution import need_of, seen_from
from vamper.core.art.surface import survey
from vamper.core.bench_card import bench_steps, loading_picture, tell_tale_of, used_settings
from vamper.core.cutting.belief import first_belief
from vamper.core.cutting.belief import told as told_of
from vamper.core.cutting.care import blade_advice, loads_left, mat_advice, metres_left
from vamper.core.cutting.dialect import placed
from vamper.core.cutting.drops import drop_outline, drop_slit, ladder_places, offcut_places
from vamper.core.cutting.ladder import ladder_advice, next_rungs, proposed
from vamper.core.cutting.neighbours import from_neighbours, micrometres_of
from vamper.core.cutting.setting import Detail, loop_speed_mm_s, propose
from vamper.core.cutting.window import window_of
from vamper.core.edge.edge import derive_edge
from vamper.core.edge.handling import advise, candidates, handling_of
from vamper.core.edge.kind import KINDS
from vamper.core.finishing.cloth import on_cloth
from vamper.core.finishing.ghost import Ghost, ghost_pages
from vamper.core.finishing.on_cup import on_cup, parts_round
from vamper.core.finishing.press_plan import per_plate, press_plan
from vamper.core.finishing.process import LABELS, PROCESSES, Work, cautions_of, minutes_of, steps_of
from vamper.core.finishing.round_things import RoundThing, wrap
from vamper.core.finishing.shrink import finished, printed, punch_mm, shrink_of, thickness
from vamper.core.finishing.timetable import Batch, Evening, plan_evening
from vamper.core.inspect import findings_of
from vamper.core.ledger.cost import Made, Rates, costs_of
from vamper.core.ledger.cost import Work as CostedWork
from vamper.core.ledger.diagnosis import CHECKS, FACTS, SYMPTOMS, Seen, diagnose, yes_chances
from vamper.core.ledger.facts import facts_of
from vamper.core.ledger.miss_kind import kind_of_misses
from vamper.core.ledger.rest import rest_of
from vamper.core.ledger.run import Took
from vamper.core.ledger.success import success_of
from vamper.core.marks.mark import FAMILIES
from vamper.core.marks.printed_helpers import HELPERS, HelperScene
from vamper.core.marks.reading import reading_of, scene_of
from vamper.core.marks.sensor_view import sensor_view
from vamper.core.marks.sheet_marks import marks_bound, marks_for
from vamper.core.marks.vernier import miss_of, vernier_sheet
from vamper.core.plan import Plan, cut_of, metres_of, page_of, proof_of, timing_of, worst_miss_mm
from vamper.core.printing.advice import advice_for
from vamper.core.printing.guides import guides_for
from vamper.core.printing.inspect import print_findings
from vamper.core.printing.page_box import page_for
from vamper.core.printing.proof import job_line
from vamper.core.printing.swatch import swatch_sheet
from vamper.core.sheet.offcut import largest_offcut
from vamper.core.sheet.pack.mode import MODES
from vamper.core.twin.close_up import outcome_at
from vamper.core.twin.devices import devices_of
from vamper.core.twin.faults import with_faults
from vamper.core.twin.practice import hidden_map, practice_cutter, practice_printer, practice_sensor
from vamper.core.twin.remedies import remedies_for
from vamper.core.values.art import Preparation, Purpose, SizeSpec
from vamper.core.values.blade import Blade, BladeIn, sharpness_of
from vamper.core.values.calibration import Calibration, landing, thickness_of, turns_deg
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.dialect import Step, StepSeen
from vamper.core.values.drawing import rectangle
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.finish import Bar, ClothSpec, FinishSpec, HeatSpec, School, ShrinkSpec, WrapSpec
from vamper.core.values.fonts import FONTS
from vamper.core.values.geometry import closing, grow, grow_far, mirrored, opening
from vamper.core.values.geometry import placed as geometry_placed
from vamper.core.values.item import filler_sizes
from vamper.core.values.lengths import Unit, bare_mm, figure, mm, size_mm, span_mm, written
from vamper.core.values.marks import MarksSpec
from vamper.core.values.mat import MatIn, Tack
from vamper.core.values.miss import miss_on_sheet
from vamper.core.values.paper import NAMED_PAPERS, PAPER_BY_KEY, Paper, Spent
from vamper.core.values.printer import Ink, Printer, PrinterKind, Scale
from vamper.core.values.reading import BLACKS, ROOMS, SENSORS, Black, RoomLight
from vamper.core.values.stock import STARTER_STOCKS, USUAL_STOCK, StockClass
from vamper.core.values.tried import Outcome, Try
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
    grey = Printer(scale=Scale(0.99, 1.01), black=Black.LOW)
    return {
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
            finish=FinishSpec(school=School.A, coats=1),
        ).plan(),
        "laminated, with low black": scene(
            item(1, quantity=2), pictures=ART, stock="matte-label", laminate_um=60.0, printer=Printer(black=Black.LOW)
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
    yield "tables", [NAMED_PAPERS, FONTS, SENSORS, ROOMS, BLACKS, STARTER_STOCKS[::5]]
    for unit in Unit:
        lengths = [mm(254.0), mm(3.175), mm(7.0, 1), bare_mm(12.7), size_mm(215.9, 279.4), span_mm(1.0, 25.4)]
        others = [figure(12.5, name) for name in ("mm²", "cm²", "mm/s", "µm", "kg", "°C", "cm", "m")]
        yield f"written {unit.value}", [written(one, unit) for one in (*lengths, *others)]
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


def art() -> Told:
    """What is seen in pictures, what is made of them, and what is found wrong on stocks of every ground."""
    edits = (
        Preparation(lift_de=14.0),
        Preparation(crop=(0.1, 0.0, 0.6, 0.9)),
        Preparation(stretch=1.3, ink_share=0.6),
        Preparation(bend_deg=40.0),
    )
    grounds = {stock.ground: stock.key for stock in STARTER_STOCKS}
    for name, picture in drawn().items():
        yield f"colours {name}", flat_colours(picture)
        for number, edit in enumerate(edits):
            yield f"{name} {number}", prepared(picture, edit).rgba
        for width in (12.0, 90.0):
            outline = outline_at(trace(picture), SizeSpec(width_mm=width))
            yield f"surface {name} {width:g}", [outline.shape, survey(picture, outline, 0.5)]
        for ground, stock in grounds.items():
            seen = scene(item(width_mm=70.0), stock=stock, pictures={1: picture}).plan()
            yield f"{name} on {ground}", [(one.code, one.text) for one in findings_of(seen)]
    for purpose in Purpose:
        yield f"seen {purpose.value}", [seen_from(purpose), need_of(purpose)]
    yield "layers", layers_of(drawn()["bordered"], SizeSpec(width_mm=60.0))


def edges() -> Told:
    """Every kind round three drawings, near and far."""
    for number, picture in ART.items():
        outline = outline_at(trace(picture), SizeSpec(width_mm=45.0))
        yield f"groups {number}", groups_of(outline, 2.0)
        for key in (one.key for one in KINDS):
            for far in (-0.5, 0.0) if key == "bare" else (1.0, 3.5):
                edge = derive_edge(outline, EdgeSpec(kind=key, distance_mm=far), 1.0)
                yield f"{number} {key} {far}", [edge, handling_of(edge.shape)]
        yield f"candidates {number}", [one.edge.shape for one in candidates(outline, EdgeSpec(), 1.0)]
    for stock in SOME_STOCKS:
        yield f"advice {stock.key}", advise(stock, scene().job.purpose)


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
    yield "misses", [miss_of(tick, coarse) for tick in (-8, -2, 0, 5) for coarse in (-1.0, 0.0, 1.0)]


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


def cutting() -> Told:
    """Settings for some stocks and every cut, what a ladder asks, and when a blade or a mat is done."""
    cutter = Cutter()
    for stock in SOME_STOCKS:
        for cut in Cut:
            if cut is Cut.KISS and not stock.has_backing:
                continue
            for radius in (0.4, 5.0):
                yield f"{stock.key} {cut.value} {radius}", propose(stock, cut, cutter, Detail(radius, radius))
            belief = first_belief(stock, cut)
            seen = belief
            yield (
                f"ladder {stock.key} {cut.value}",
                [
                    proposed(belief, cutter.force_gf),
                    next_rungs(belief, cutter.force_gf, 1, first=True),
                    window_of(seen, belief, cutter.force_gf, 1),
                    [outcome_at(stock, cut, float(depth)) for depth in range(20, 400, 40)],
                ],
            )
        yield f"speed {stock.key}", [loop_speed_mm_s(stock, cutter, radius) for radius in (0.3, 1.0, 4.0, 20.0)]
    tries = [Try(80, 1, Outcome.NOT_THROUGH), Try(120, 1, Outcome.CLEAN), Try(170, 1, Outcome.BACKING_THROUGH)]
    for count in range(1, 4):
        yield (
            f"advice after {count}",
            ladder_advice(first_belief(USUAL_STOCK, Cut.KISS), cutter.force_gf, tries[:count]),
        )
    for metres in (0.0, 100.0, 250.0, 420.0):
        blade = BladeIn(metres=metres)
        yield f"blade {metres:g}", [blade_advice(blade, USUAL_STOCK, 5.0), metres_left(blade)]
    for tack in Tack:
        for loads in (0, 8, 25):
            mat = MatIn(tack, loads=loads)
            yield f"mat {tack.value} {loads}", [mat_advice(mat, USUAL_STOCK), loads_left(mat)]
    for kind, grams in ((StockClass.CARD, 225), *((StockClass.VINYL, face) for face in range(60, 260, 25))):
        yield f"own {kind.value} {grams}", [from_neighbours("own", "own", kind, grams), micrometres_of(grams)]
    worn = [Try(150, 1, Outcome.NOT_THROUGH, blade=Blade.STEEP, metres=200.0), Try(230, 2, Outcome.CLEAN, metres=20.0)]
    known = told_of(first_belief(USUAL_STOCK, Cut.KISS, metres=90.0), worn, worn[1:])
    yield "told", [proposed(known, cutter.force_gf), [known.quantile(share) for share in (0.1, 0.5, 0.9)]]
    steps = (
        Step("soft", seen=(StepSeen(USUAL_STOCK, Cut.KISS, Outcome.NOT_THROUGH),)),
        Step("middle", notches=True, seen=(StepSeen(USUAL_STOCK, Cut.KISS, Outcome.CLEAN, metres=50.0),)),
        Step("hard", seen=(StepSeen(STARTER_STOCKS[0], Cut.THROUGH, Outcome.CLEAN, 2),)),
        Step("hardest"),
    )
    for passes in (1, 2):
        yield f"steps {passes}", placed(steps, known, cutter.force_gf, passes)
    yield "drops", [drop_outline(), drop_slit(), offcut_places(Paper(60.0, 40.0))]
    yield (
        "places",
        ladder_places(shapely.box(10, 10, 200, 260), [shapely.box(60, 60, 120, 120)], [shapely.box(10, 10, 18, 18)]),
    )


def finishing() -> Told:
    """Every process in both schools, presses, things that are round or shrink, and a planned evening."""
    for key, process in PROCESSES.items():
        for school in School:
            steps = steps_of(process, Work(school=school))
            timed = [(one.timed, one.least, one.of) for one in steps]
            full = Work(
                pieces=19, sheets=3, coats=2, plate=4, school=school, label=dict.fromkeys(LABELS, 7.0), patches=2
            )
            timed += [(one.timed, one.least, one.of) for one in steps_of(process, full)]
            yield f"{key} {school.value}", [timed, minutes_of(steps), len(cautions_of(one.step for one in steps))]
    for width, height in ((60, 40), (300, 210), (500, 260)):
        yield f"press {width}", [press_plan(width, height, HeatSpec(), 20.0), per_plate(width, height, HeatSpec())]
        yield f"iron {width}", press_plan(width, height, HeatSpec(iron=True, width_mm=200, height_mm=110), 15.0)
    for thing in (RoundThing(82, 82), RoundThing(90, 60, 110), RoundThing(60, 75, 95)):
        for width in (50, 160, 300):
            yield f"round {thing.top_mm:g} {thing.bottom_mm:g} {width}", wrap(thing, width, 40)
    film = shrink_of(Bar(100, 100), Bar(46, 44))
    yield "shrink", [film, printed(film, Bar(30, 20)), finished(film, Bar(80, 50)), punch_mm(film, 5), thickness(film)]
    for centre in (0.5, 0.3):
        yield f"cloth {centre}", on_cloth(ClothSpec(centre=centre), 460, 250)
    for number, cup in enumerate((WrapSpec(82, 82, 105), WrapSpec(84, 60, 105, handle_mm=70.0), WrapSpec(60, 84, 90))):
        plan = scene(item(1, width_mm=70.0, wrap=cup), pictures=ART, stock="water-slide-clear").plan()
        around = plan.items[0]
        yield f"cup {number}", [on_cup(around), [(one.code, one.text) for one in findings_of(plan)]]
        yield f"parts {number}", [parts_round(around), parts_round(around, (6.0,))]
    for width in (120, 420):
        yield f"ghost {width}", ghost_pages(_ghost(width), PAPER_BY_KEY["a4"])
    pages = [
        ghost_pages(_ghost(width, height), PAPER_BY_KEY["a4"]) for width in (120, 180) for height in range(200, 280, 5)
    ]
    yield "pages of ghosts", [len(one) for one in pages]
    batches = tuple(
        Batch(key, tuple(one.timed for one in steps_of(PROCESSES[key], Work()))) for key in list(PROCESSES)[:2]
    )
    yield "evening", plan_evening(Evening(batches, dict.fromkeys(("rack", "oven", "press", "mat", "spray"), 2)))


def _ghost(width: float, height: float = 150.0) -> Ghost:
    rim, drawn = (rectangle(by, by, width - 2 * by, height - 2 * by) for by in (0.0, 8.0))
    return Ghost("panel 1", (rim,), (drawn,), width / 2, ("so wide",))


def ledger() -> Told:
    """What went wrong for every symptom, what a piece costs, and how sure a share is."""
    for symptom in sorted(SYMPTOMS):
        plain = diagnose(Seen((symptom,), ()))
        yield symptom, [(one.cause.key, one.chance) for one in plain.suspects[:6]]
    facts, checks = tuple(sorted(FACTS)[:4]), {code: n % 2 == 0 for n, code in enumerate(sorted(CHECKS)[:3])}
    yield "asked", [(one.cause.key, one.chance) for one in diagnose(Seen((min(SYMPTOMS),), facts, checks)).suspects]
    yield "yes", {check: yes_chances(check) for check in CHECKS}
    for good, bad in ((0, 0), (3, 0), (17, 3), (190, 10)):
        yield f"success {good} {bad}", success_of(good, bad)
    work = CostedWork((Made(1, 6, 3000.0), Made(2, 3, 1000.0)), 2, 1.2, Took(3.0, 60.0, 0.1, 6, 9), 30.0, 0.9)
    rates = Rates("g", hour=12, ink_ml=0.5, laminate_m2=6, coat=0.2, blank=1.5, blade=9, margin=0.4)
    yield "costs", costs_of(work, rates)
    places = np.array([(x, y) for x in (20.0, 100.0, 190.0) for y in (20.0, 140.0, 250.0)])
    shifts = {"even": 0 * places + (0.4, -0.2), "growing": places * 0.003, "turning": places[:, ::-1] * (-0.003, 0.003)}
    for name, misses in shifts.items():
        yield f"kind {name}", kind_of_misses(places, misses)


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
    """What each kind of edge, marks and packing says of itself."""
    for registry in (KINDS, FAMILIES, MODES):
        for kind in registry:
            said = {one.name: getattr(kind, one.name) for one in fields(kind)}
            yield f"{type(kind).__name__} {kind.key}", {name: what for name, what in said.items() if not callable(what)}


SECTIONS: dict[str, Callable[[], Told]] = {
    one.__name__: one
    for one in (kinds, whole_jobs, values, art, edges, sheets, marks, printing, cutting, finishing, ledger, twin)
}
