"""What is told of cuts and of what comes after them."""

from collections.abc import Iterator
from typing import Any

import numpy as np
import shapely

from tests.approved.drawings import ART
from tests.covers import USUAL, USUAL_BOTH_WAYS, coats
from tests.scenes import bars, item, scene
from vamper.core.cutting.belief import posterior as told_of
from vamper.core.cutting.belief import prior
from vamper.core.cutting.care import blade_advice, loads_left, mat_advice, metres_left
from vamper.core.cutting.drops import drop_outline, drop_slit, ladder_places, offcut_places
from vamper.core.cutting.ladder import ladder_advice, next_rungs, proposed
from vamper.core.cutting.machine_settings import propose_setting
from vamper.core.cutting.neighbours import from_neighbours, micrometres_of
from vamper.core.cutting.path import shortest_way, way_mm
from vamper.core.cutting.setting import EdgeDetail, in_passes, loop_speed_mm_s, propose
from vamper.core.cutting.window import window_of
from vamper.core.finishing.cloth import on_cloth
from vamper.core.finishing.ghost import Ghost, ghost_pages
from vamper.core.finishing.goes_on import goes_on, way_of
from vamper.core.finishing.inspect import finish_findings
from vamper.core.finishing.labels import LABELS
from vamper.core.finishing.on_cup import on_cup, parts_round
from vamper.core.finishing.placing import placing_pages
from vamper.core.finishing.press_plan import per_plate, press_plan
from vamper.core.finishing.round_things import RoundThing, wrap
from vamper.core.finishing.shrink import finished, printed, punch_mm, shrink_of, thickness
from vamper.core.finishing.soonest import plan_evening
from vamper.core.finishing.timetable import Batch, Evening
from vamper.core.finishing.work import BatchWork, minutes_of, steps_of
from vamper.core.inspect import findings_of
from vamper.core.twin.close_up import outcome_at
from vamper.core.values.art import Purpose
from vamper.core.values.blade import Blade, BladeIn
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, ForceRange
from vamper.core.values.drawing import rectangle
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.finish import BlankSpec, ClothSpec, FinishSpec, HeatSpec, Target
from vamper.core.values.mat import MatIn, Tack
from vamper.core.values.named_settings import NamedSetting, SettingSeen
from vamper.core.values.paper import PAPER_BY_KEY, Paper
from vamper.core.values.shrink import Bar
from vamper.core.values.stock import STARTER_STOCKS, USUAL_STOCK, StockClass
from vamper.core.values.tried import Outcome, Pressure, Try
from vamper.core.values.wrap import WrapSpec

SOME_STOCKS = STARTER_STOCKS[::3]
Told = Iterator[tuple[str, Any]]


def _cut_with() -> Told:
    """Settings by blade, wear and force, with and without something seen."""
    weak, strong = Cutter(force_gf=ForceRange(20, 140, 5)), Cutter()
    tries = [Try(90, 1, Outcome.NOT_THROUGH), Try(130, 1, Outcome.CLEAN)]
    for stock in SOME_STOCKS[::4]:
        for blade in Blade:
            belief = prior(stock, Cut.THROUGH, blade, 120.0)
            after = belief.after(tries)
            for cutter in (weak, strong):
                for passes in (1, 3):
                    name = f"{stock.key} {blade.value} {cutter.force_gf.max:g} {passes}"
                    ways = [in_passes(belief, cutter, passes), in_passes(after, cutter, passes)]
                    yield f"passes {name}", ways
                    yield f"window {name}", [window_of(one, belief, cutter.force_gf, passes) for one in (belief, after)]
            yield f"care {stock.key} {blade.value}", blade_advice(BladeIn(angle=blade, metres=200.0), stock, 12.0)
    tight = bars((20, 190, 380, 200), (190, 20, 200, 380), (100, 100, 130, 130))
    for stock in SOME_STOCKS:
        for passes in (None, 3):
            small = item(width_mm=18.0, edge=EdgeSpec(distance_mm=0.3, smooth_mm=0.0, join=False))
            plan = scene(small, stock=stock.key, pictures={1: tight}, passes=passes).plan()
            yield (
                f"cut {stock.key} {passes}",
                [(one.code, one.text, one.fixes, one.places) for one in findings_of(plan)],
            )
    places = np.array([((n * 67) % 190, (n * 113) % 250) for n in range(14)], float)
    way = shortest_way(places, np.zeros(2))
    yield "way", [way, way_mm(places, np.zeros(2), way)]


def cutting() -> Told:
    """Settings for some stocks and every cut, what a ladder asks, and when a blade or a mat is done."""
    cutter = Cutter()
    for stock in SOME_STOCKS:
        for cut in Cut:
            if cut is Cut.KISS and not stock.has_backing:
                continue
            for radius in (0.4, 5.0):
                yield f"{stock.key} {cut.value} {radius}", propose(stock, cut, cutter, EdgeDetail(radius, radius))
            belief = prior(stock, cut)
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
            ladder_advice(prior(USUAL_STOCK, Cut.KISS), cutter.force_gf, tries[:count]),
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
    known = told_of(prior(USUAL_STOCK, Cut.KISS, metres=90.0), worn, worn[1:])
    yield "told", [proposed(known, cutter.force_gf), [known.quantile(share) for share in (0.1, 0.5, 0.9)]]
    steps = (
        NamedSetting("label paper", seen=(SettingSeen(USUAL_STOCK, Cut.KISS, Outcome.NOT_THROUGH),)),
        NamedSetting(
            "vinyl",
            tuple(Pressure),
            gentler_than=("thick card",),
            seen=(SettingSeen(USUAL_STOCK, Cut.KISS, Outcome.BACKING_THROUGH, metres=50.0),),
        ),
        NamedSetting("thick card", seen=(SettingSeen(STARTER_STOCKS[0], Cut.THROUGH, Outcome.CLEAN, passes=2),)),
        NamedSetting("house favourite", passes=2, blade=Blade.STEEP),
    )
    for passes in (1, 2):
        yield f"settings {passes}", propose_setting(steps, known, cutter.force_gf, passes)
    yield "drops", [drop_outline(), drop_slit(), offcut_places(Paper(60.0, 40.0))]
    yield (
        "places",
        ladder_places(shapely.box(10, 10, 200, 260), [shapely.box(60, 60, 120, 120)], [shapely.box(10, 10, 18, 18)]),
    )
    yield from _cut_with()


def _finished() -> Told:
    """Where pieces are placed, and what is found on how they are finished."""
    finishes = {
        "cloth": FinishSpec(cloth=ClothSpec(panel_mm=460.0, dark=True)),
        "blank": FinishSpec(blank=BlankSpec(38.0, 44.0)),
        "few coats": coats(1),
        "none": coats(0),
    }
    for name, finish in finishes.items():
        for stock in ("light-transfer", "water-slide-clear", "satin-vinyl"):
            plan = scene(
                item(1, quantity=2), item(3, sheet_colour=None), pictures=ART, stock=stock, finish=finish
            ).plan()
            yield f"finish {name} {stock}", list(finish_findings(plan.asked, plan.items))
            yield f"placed {name} {stock}", placing_pages(plan)


def finishing() -> Told:
    """Usual chains in both orders, what goes on what, presses, what is round or shrinks, and a planned evening."""
    for target in Target:
        yield f"goes on {target.value}", [goes_on(kind, target).way.value for kind in StockClass]
    for purpose in Purpose:
        yield f"for {purpose.value}", [way_of(kind, purpose, None).value for kind in StockClass]
    for name, chain in USUAL_BOTH_WAYS.items():
        steps = steps_of(chain, BatchWork())
        timed = [(one.timed, one.least, one.of) for one in steps]
        full = BatchWork(pieces=19, sheets=3, coats=2, plate=4, label=dict.fromkeys(LABELS, 7.0), patches=2)
        timed += [(one.timed, one.least, one.of) for one in steps_of(chain, full)]
        yield f"chain {name}", [timed, minutes_of(steps), [len(one.cautions) for one in steps]]
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
        Batch(key, tuple(one.timed for one in steps_of(USUAL[key], BatchWork()))) for key in list(USUAL)[:2]
    )
    yield from _finished()
    yield "evening", plan_evening(Evening(batches, dict.fromkeys(("rack", "oven", "press", "mat", "spray"), 2)))


def _ghost(width: float, height: float = 150.0) -> Ghost:
    rim, drawn = (rectangle(by, by, width - 2 * by, height - 2 * by) for by in (0.0, 8.0))
    level = np.array([(-12.0, height / 2), (width + 12.0, height / 2)])
    axis = np.array([(width / 2, -12.0), (width / 2, height + 12.0)])
    return Ghost("panel 1", (rim,), (drawn,), level, axis, ("so wide",))
