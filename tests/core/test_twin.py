"""The twin against what it is made from: misses against the budget, reading against its chance, depth against bands."""

from dataclasses import replace
from functools import cache

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.kept import kept
from tests.scenes import DISC, bars, item, lying, scene
from tests.tried import tried
from vamper.core.art.picture import Picture
from vamper.core.plan import Plan, cut_of, page_of, printed_picture
from vamper.core.twin.cutter import sample, trailed
from vamper.core.twin.devices import Devices, TwinCutter, TwinPrinter, devices_of
from vamper.core.twin.dry_run import CauseShare, DryRun, PieceOutcome, summed_up
from vamper.core.twin.faults import FAULTS, with_faults
from vamper.core.twin.pieces import facts_of
from vamper.core.twin.practice import hidden_map, practice_cutter, practice_printer
from vamper.core.twin.printer import PrintedRaster, after, at, from_nominal, printings, with_ink
from vamper.core.twin.remedies import CAUSE_NAMES, remedies_for
from vamper.core.twin.sensor import SoughtMark, look, read
from vamper.core.twin.shift_margins import is_passed, nearest_only, shift_margins, turned
from vamper.core.twin.simulate import SimulationResult, Spoiling, lost_pieces, simulate_sheet
from vamper.core.twin.strokes import CutStroke, owned
from vamper.core.values.calibration import Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.marks import MarksSpec
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.pixels import filled
from vamper.core.values.printer import PrintScale
from vamper.core.values.reading import Black, RoomLight
from vamper.core.values.twin import FaultKey, TwinSpec
from vamper.formats.cut_in.hpgl import read_hpgl
from vamper.formats.out.kinds.cut_plotter import KIND as HPGL
from vamper.formats.out.kinds.print_page import KIND as PRINT
from vamper.formats.out.page_png import page_pixels

PPI = 120


@kept
def a_page(plan: Plan, picture: Picture) -> PrintedRaster:
    pdf = PRINT.write(plan, 0, lambda number: printed_picture(plan.item(number), picture))
    return PrintedRaster(page_pixels(pdf, PPI), PPI, plan.job.paper, plan.job.printer.scale)


def run(
    plan: Plan,
    devices: Devices | None = None,
    runs: int = 96,
    strokes: tuple[CutStroke, ...] = (),
    picture: Picture = DISC,
) -> SimulationResult:
    devices = devices or devices_of(plan)
    page, printed = a_page(plan, picture), page_of(plan, 0)
    clips = [one.clip for one in printed.pictures]
    page = with_ink(page, devices.printer, clips, lost_pieces(devices, 1, 0, len(clips)))
    strokes = strokes or read_hpgl(HPGL.write(plan, 0, lambda _: DISC), plan.job.paper)
    facts = facts_of(plan, 0, printed, page, strokes, devices.cutter)
    return simulate_sheet(plan, 0, page, facts, devices, runs, 1)


def outcome(plan: Plan, devices: Devices | None = None, runs: int = 96, picture: Picture = DISC) -> DryRun:
    return summed_up(tuple(one.number for one in plan.items), [run(plan, devices, runs, picture=picture)])


@cache
def plain() -> Plan:
    return scene(item(1, quantity=6)).plan()


@cache
def calibrated() -> Plan:
    found = Calibration(((1.001, 0.0, 0.8), (0.0, 0.999, -0.5)), 0.05, 0.1, 0.0, 0.08)
    return scene(item(1, quantity=6), calibration=found).plan()


def causes(found: DryRun) -> set[Spoiling]:
    return {one.cause for one in found.causes}


@pytest.mark.parametrize("plan", [plain, calibrated])
def test_pieces_miss_as_the_budget_says(plan) -> None:  # type: ignore[no-untyped-def]
    made = plan()
    found = outcome(made, runs=1024)
    for piece, miss in zip(found.pieces, made.misses_mm(0).tolist(), strict=True):
        assert piece.miss_p95_mm == pytest.approx(miss, rel=0.05)


def test_three_marks_carry_an_error_farther_where_the_fourth_is_missing() -> None:
    plan = scene(item(1, quantity=12), marks=MarksSpec(count=3)).plan()
    found, foretold = outcome(plan, runs=512), plan.misses_mm(0)
    seen = np.array([piece.miss_p95_mm for piece in found.pieces])
    assert seen == pytest.approx(foretold, rel=0.06)
    assert seen.max() > 1.15 * seen.min()


@pytest.mark.parametrize(
    ("stock", "light"),
    [("satin-vinyl", RoomLight.USUAL), ("shimmer-vinyl", RoomLight.BRIGHT), ("kraft-card", RoomLight.USUAL)],
)
def test_marks_are_read_as_often_as_the_plan_says(stock: str, light: RoomLight) -> None:
    plan = scene(item(1, quantity=2), stock=stock, room_light=light).plan()
    assert plan.reading is not None
    assert outcome(plan, runs=512).marks_read == pytest.approx(plan.reading.chance, abs=0.025)


@pytest.mark.parametrize("family", ["corner", "frame", "dot", "cross", "ring"])
def test_the_sensor_undoes_a_sheet_that_lies_askew(family: str) -> None:
    plan = scene(item(1), marks=MarksSpec(family=family, size_mm=6.0)).plan()
    page, printer = a_page(plan, DISC), TwinPrinter(askew_deg=0.7, feed_mm=1.0)
    devices = devices_of(plan)
    luck = sample((3, 0), 20, 1, 1, len(plan.setup.marks), 0)
    maps = printings(printer, plan.job.paper, luck.shift, luck.askew)
    found = look(plan.setup.marks, page, maps, devices.sensor.search_mm)
    seen = read(plan, found, printer, devices.sensor, luck.marks, luck.edges)
    assert seen.read.all()
    corners = np.array([(20.0, 20.0), (190.0, 20.0), (20.0, 250.0), (190.0, 250.0)])
    assert np.abs(at(seen.maps, corners) - at(maps, corners)).max() < 0.08


def test_no_marks_no_cut_and_nothing_spoiled_but_by_not_reading() -> None:
    plan = scene(item(1, quantity=3)).plan()
    pale = replace(devices_of(plan), printer=TwinPrinter(fit=0.9))
    found = outcome(plan, pale, runs=20)
    assert found.marks_read == 0
    assert causes(found) == {Spoiling.MARKS_NOT_READ}
    assert found.pieces[0].miss_p95_mm is None


@pytest.mark.parametrize(
    ("factor", "look", "cause"),
    [
        (2.0, True, Spoiling.NOT_THROUGH),
        (1.3, False, Spoiling.NOT_THROUGH),
        # With a look it is run once more, and a marked backing still peels.
        (1.3, True, None),
        (0.75, True, None),
        (0.5, True, Spoiling.BACKING_CUT),
    ],
)
def test_a_harder_or_softer_stock_is_cut_as_the_bands_say(factor: float, look: bool, cause: Spoiling | None) -> None:
    plan = scene(item(1, quantity=2), twin=TwinSpec(hardness=(("satin-vinyl", factor),))).plan()
    found = outcome(plan, replace(devices_of(plan), looks=look))
    assert causes(found) == ({cause} if cause else set())
    assert outcome(scene(item(1, quantity=2)).plan()).pieces[0].cut_clean > 0.99


def test_an_unsure_stock_is_cut_as_often_as_its_setting_says() -> None:
    plan = plain()
    devices, setting = devices_of(plan, unsure=True), plan.settings[Cut.KISS]
    found = outcome(plan, devices, runs=512)
    assert found.pieces[0].cut_clean == pytest.approx(setting.usable, abs=0.02)
    found = outcome(plan, replace(devices, looks=False), runs=512)
    assert found.pieces[0].cut_clean == pytest.approx(setting.at_first, abs=0.02)


def test_a_cut_that_lands_off_bites_narrow_borders_only() -> None:
    def made(border: float) -> Plan:
        spec = item(1, quantity=2, edge=EdgeSpec(distance_mm=border))
        off = TwinSpec(map=((1.0, 0.0, 1.0), (0.0, 1.0, 0.0)), read_mm=0.02, slip_mm=0.02)
        return scene(spec, twin=off).plan()

    assert outcome(made(3.0)).pieces[0].bitten == 0
    assert outcome(made(0.6)).pieces[0].bitten == 1


def test_a_bleed_that_is_narrower_than_the_miss_shows_bare_stock() -> None:
    def made(bleed: float) -> Plan:
        spec = item(1, edge=EdgeSpec(distance_mm=3.0, colour="#204080"), bleed_mm=bleed)
        off = TwinSpec(map=((1.0, 0.0, 1.0), (0.0, 1.0, 0.0)), read_mm=0.02, slip_mm=0.02)
        # In the middle, where nothing takes any of its bleed.
        return scene(spec, twin=off, held=lying((1, 80, 100))).plan()

    assert causes(outcome(made(0.4))) == {Spoiling.BARE_RIM}
    assert not causes(outcome(made(1.6)))


def test_marks_that_are_not_read_have_the_remedies_that_need_no_other_print() -> None:
    plan = scene(item(1), stock="shimmer-vinyl", room_light=RoomLight.BRIGHT).plan()
    assert plan.reading is not None
    devices = devices_of(plan)
    found = outcome(plan, devices, runs=24)
    assert causes(found) == {Spoiling.MARKS_NOT_READ}
    offered = {one.key: one for one in remedies_for(plan, devices, found)}
    assert {*offered} == {one.remedy.value for one in plan.reading.remedies} - {"thicker-stroke", "more-inset"}
    for one in offered.values():
        assert outcome(plan, one.trial.devices, runs=24).marks_read > found.marks_read


def test_the_calibration_that_the_twin_hides_is_made_up_for() -> None:
    hidden = hidden_map(7, Paper(215.9, 279.4))
    spec = item(1, quantity=4)
    bare = scene(spec, twin=TwinSpec(map=hidden, read_mm=0.05, slip_mm=0.05)).plan()
    known = Calibration(hidden, 0.0, 0.05, 0.0, 0.05)
    corrected = scene(spec, calibration=known, twin=TwinSpec(map=hidden, read_mm=0.05, slip_mm=0.05)).plan()
    assert (outcome(bare).miss_p50_mm or 0) > 0.4
    assert (outcome(corrected).miss_p95_mm or 9) < 0.2


def test_a_print_of_another_size_spoils_every_piece_and_marks_are_still_read() -> None:
    plan = scene(item(1, quantity=2), twin=TwinSpec(scale=PrintScale(1.01, 1.0))).plan()
    found = outcome(plan, runs=50)
    assert found.marks_read == 1
    assert causes(found) == {Spoiling.PRINT_SCALE}


def test_a_scale_that_is_known_is_made_up_for() -> None:
    printer = replace(plain().job.printer, scale=PrintScale(0.985, 1.012))
    found = outcome(scene(item(1, quantity=3), printer=printer).plan(), runs=100)
    assert found.pieces_good_mean > 0.99


def test_a_wrong_cut_file_shows() -> None:
    """The files drive the twin: strokes that are not there leave pieces uncut, strokes elsewhere miss by so much."""
    plan = plain()
    strokes = read_hpgl(HPGL.write(plan, 0, lambda _: DISC), plan.job.paper)
    one_less = run(plan, strokes=strokes[1:], runs=10)
    assert (one_less.spoiled == list(Spoiling).index(Spoiling.NOT_THROUGH) + 1).any(axis=0).sum() == 1
    loops = cut_of(plan, 0)
    aside = tuple(replace(one, points=one.points + np.array([40.0, 0.0])) for one in strokes)
    found, strange = owned(loops, aside)
    assert strange or any(not loop.strokes for loop in found)


def test_a_wrong_print_file_shows() -> None:
    plan = plain()
    page = a_page(plan, DISC)
    moved = replace(page, rgba=np.roll(page.rgba, (0, round(1.0 * page.px_a_mm)), axis=(0, 1)))
    strokes = read_hpgl(HPGL.write(plan, 0, lambda _: DISC), plan.job.paper)
    facts = facts_of(plan, 0, page_of(plan, 0), moved, strokes, TwinCutter())
    assert facts.pieces[0].print_off_mm[0] == pytest.approx(1.0, abs=0.15)
    blank = replace(page, rgba=np.zeros_like(page.rgba))
    gone = facts_of(plan, 0, page_of(plan, 0), blank, strokes, TwinCutter())
    assert all(piece.ink_there == 0 for piece in gone.pieces)


SQUARE = bars((60, 60, 340, 340))


@pytest.mark.parametrize("side", ["left", "top", "right", "bottom"])
def test_a_strip_of_a_piece_that_is_not_printed_is_missed_on_any_side(side: str) -> None:
    plan = scene(item(1, quantity=1), pictures={1: SQUARE}).plan()
    page = a_page(plan, SQUARE)
    left, top, right, bottom = (round(one * page.px_a_mm) for one in plan.sheets[0].placements[0].of(
        plan.items[0].outline.shape).bounds)  # fmt: skip
    strip = round(4 * page.px_a_mm)
    gone = {
        "left": np.s_[top:bottom, left : left + strip],
        "top": np.s_[top : top + strip, left:right],
        "right": np.s_[top:bottom, right - strip : right],
        "bottom": np.s_[bottom - strip : bottom, left:right],
    }[side]
    rgba = page.rgba.copy()
    rgba[gone] = 0
    strokes = read_hpgl(HPGL.write(plan, 0, lambda _: SQUARE), plan.job.paper)
    (facts,) = facts_of(plan, 0, page_of(plan, 0), replace(page, rgba=rgba), strokes, TwinCutter()).pieces
    assert facts.ink_there == pytest.approx(0.9, abs=0.02)


@cache
def narrow_borders(stock: str, passes: int | None) -> tuple[Plan, DryRun]:
    """A sheet that little spoils, and how it comes out."""
    narrow = EdgeSpec(distance_mm=0.4, smooth_mm=0.0)
    specs = (item(1, quantity=13, edge=narrow), item(2, quantity=6, cut=Cut.THROUGH, edge=narrow))
    known = Calibration(residual_mm=0.02, read_mm=0.03, slip_mm=0.03)
    pictures = {1: SQUARE, 2: SQUARE}
    plan = scene(*specs, stock=stock, calibration=known, passes=passes, pictures=pictures).plan()
    return plan, outcome(plan, runs=32, picture=SQUARE)


@pytest.mark.parametrize("fault", list(FaultKey))
def test_every_fault_does_what_it_says_and_its_remedy_helps(fault: FaultKey) -> None:
    dim = (FaultKey.BRIGHT_LIGHT, FaultKey.WEAK_LAMP)
    plan, good = narrow_borders(
        "gloss-vinyl" if fault in dim else "satin-vinyl", 2 if fault is FaultKey.UNLOADED_BETWEEN else None
    )
    devices = with_faults(devices_of(plan), (fault,))
    spoiled = outcome(plan, devices, runs=32, picture=SQUARE)
    assert FAULTS[fault].name
    assert FAULTS[fault].words
    if fault in (FaultKey.CROOKED_FEED, FaultKey.LOW_BLACK, FaultKey.BLEED_LEFT_ON):
        # The marks make up for the first, a usual sensor reads grey on white, and files are printed without a program.
        assert spoiled.sheet_good > 0.7
        return
    assert spoiled.sheet_good < good.sheet_good - 0.05
    assert all(one.cause in CAUSE_NAMES for one in spoiled.causes)
    # Nothing makes a weak lamp strong.
    if fault is not FaultKey.WEAK_LAMP:
        tried = (
            outcome(plan, one.trial.devices, runs=32, picture=SQUARE) for one in remedies_for(plan, devices, spoiled)
        )
        assert any(one.pieces_good_mean > spoiled.pieces_good_mean + 0.003 for one in tried)


def test_the_same_seed_is_the_same_run_and_another_is_not() -> None:
    first, again = run(plain(), runs=30), run(plain(), runs=30)
    assert np.array_equal(first.miss_mm, again.miss_mm)
    other = sample((2, 0), 30, 6, 1, 4, 0)
    assert not np.array_equal(first.luck.read, other.read)


def test_shared_luck_is_as_even_as_it_is_random() -> None:
    luck = sample((5, 0), 256, 1, 1, 4, 0)
    assert np.abs(luck.read.mean(axis=0)).max() < 0.03
    assert luck.read.std(axis=0) == pytest.approx(1.0, abs=0.03)
    assert 0 <= luck.hardness.min() < luck.hardness.max() < 1


@given(st.floats(-3, 3), st.floats(-3, 3), st.floats(0.5, 4), st.floats(0, 360), st.booleans())
@tried(60)
def test_room_says_when_a_shift_takes_a_shape_out(
    dx: float, dy: float, border: float, turn: float, mirror: bool
) -> None:
    drawing = shapely.box(-10, -6, 10, 6)
    edge = drawing.buffer(border, quad_segs=32)
    rows = turned(nearest_only(shift_margins(drawing, edge)[0]), turn, mirror)

    def lying(shape: shapely.Geometry) -> shapely.Geometry:
        spun = shapely.affinity.rotate(shape, turn, origin=(0, 0))
        return shapely.affinity.scale(spun, -1, 1, origin=(0, 0)) if mirror else spun

    moved = shapely.affinity.translate(lying(edge), dx, dy)
    out = shapely.difference(lying(drawing), moved).area
    passed = bool(is_passed(rows, np.array([[dx, dy]]))[0])
    deep = shapely.difference(lying(drawing), moved.buffer(0.12)).area
    if deep > 1e-3:
        assert passed
    if out == 0 and moved.buffer(-0.12).covers(lying(drawing)):
        assert not passed


@pytest.mark.parametrize("at", [(0.0, 0.0), (40.0, 25.0), (-60.0, 30.0), (5.0, -70.0)])
def test_where_a_drawing_touches_its_edge_there_is_room_to_one_side_only(at: tuple[float, float]) -> None:
    square = shapely.box(0, 0, 10, 10)
    wide = shapely.Polygon([(-3, -3), (10, -3), (10, 0), (10, 5), (10, 10), (10, 13), (-3, 13)])
    drawing, edge = (shapely.affinity.translate(shape, *at) for shape in (square, wide))
    rows = shift_margins(drawing, edge)[0]
    assert is_passed(rows, np.array([[-0.05, 0.0], [0.05, 0.0], [0.0, 1.0]])).tolist() == [True, False, False]


def test_where_a_drawing_touches_a_hole_of_its_edge_the_hole_may_only_go_away() -> None:
    edge = shapely.box(0, 0, 40, 40).difference(shapely.box(10, 10, 30, 30))
    drawing = shapely.box(5, 5, 35, 35).difference(shapely.box(7, 10, 33, 33))
    rows = shift_margins(drawing, edge)[0]
    assert is_passed(rows, np.array([(0.0, -1.0), (0.0, 1.0)])).tolist() == [True, False]


def test_a_mark_too_fine_to_have_an_inside_is_as_dark_as_its_darkest_place() -> None:
    cover = np.zeros((9, 9), np.float32)
    cover[4, 2:7], cover[5, 2:7] = 0.8, 0.3
    core = SoughtMark(0, 0.0, 0.0, 0.9, cover).core
    assert cover[core].tolist() == pytest.approx([0.8] * 5)


def test_a_tip_that_trails_cuts_corners_short_and_straights_true() -> None:
    square = np.array([(0.0, 0.0), (30.0, 0.0), (30.0, 30.0), (0.0, 30.0), (0.0, 0.0)])
    (cut,) = trailed(TwinCutter(drag_mm=0.6), [square])
    corner = np.hypot(*(cut - (30.0, 0.0)).T).min()
    assert 0.1 < corner < 0.6
    middle = cut[(cut[:, 0] > 10) & (cut[:, 0] < 20) & (cut[:, 1] < 5)]
    assert np.abs(middle[:, 1]).max() < 1e-6
    assert trailed(TwinCutter(), [square])[0] is square


def test_a_loop_that_begins_another_way_than_the_one_before_ended_does_not_close() -> None:
    """The blade stays turned as it was left; its pieces hang by what is not cut, and that is what the fault says."""
    turns = np.linspace(0, 2 * np.pi, 90)
    round_ = np.column_stack([10 * np.cos(turns), 10 * np.sin(turns)])
    again = np.concatenate([round_, round_[1:2]])
    first, second = trailed(TwinCutter(drag_mm=0.6), [again, again])
    # What the first loop left is how the second begins, so that one closes.
    assert np.hypot(*(first[-1] - first[:40]).T).min() > 0.15
    assert np.hypot(*(second[-1] - second[:40]).T).min() < 0.15
    trailing = with_faults(devices_of(plain()), (FaultKey.BLADE_OFFSET,))
    lost, usual = (run(plain(), one).happened[Spoiling.NOT_THROUGH].any(axis=0) for one in (trailing, None))
    assert lost.sum() > usual.sum()
    assert "do not close" in FAULTS[FaultKey.BLADE_OFFSET].words


@given(st.integers(1, 2**31 - 1))
@tried(30)
def test_practice_machines_err_by_what_can_be_found(seed: int) -> None:
    paper = Paper(215.9, 279.4)
    cutter = practice_cutter(TwinCutter(), seed, "satin-vinyl", paper)
    Calibration(map=cutter.map)
    middle = at(np.array(cutter.map), np.array([(108.0, 140.0)]))[0] - (108.0, 140.0)
    assert 0.3 < np.abs(middle).max() < 1.1
    assert 0.55 < cutter.hardness[0] < 1.7
    assert cutter == practice_cutter(TwinCutter(), seed, "satin-vinyl", paper)
    scale = practice_printer(TwinPrinter(), seed).scale
    assert 0.004 < scale.off < 0.01


def test_where_a_page_lies_follows_from_scale_fit_and_turn() -> None:
    paper = Paper(200.0, 300.0)
    page = PrintedRaster(np.zeros((10, 10, 4), np.uint8), 100, paper, PrintScale(0.99, 1.01))
    printer = TwinPrinter(scale=PrintScale(0.99, 1.01), feed_mm=0.0, turn_deg=0.0)
    maps = after(from_nominal(page), printings(printer, paper, np.zeros((1, 2)), np.zeros(1)))
    corners = np.array([(0.0, 0.0), (200.0, 300.0), (50.0, 70.0)])
    assert at(maps, corners)[0] == pytest.approx(corners, abs=1e-9)
    shrunk = printings(TwinPrinter(fit=0.5), paper, np.zeros((1, 2)), np.zeros(1))
    assert at(shrunk, corners)[0] == pytest.approx(corners / 2, abs=1e-9)


def test_low_black_is_what_the_sensor_meets() -> None:
    plan = scene(item(1), stock="kraft-card").plan()
    devices = devices_of(plan)
    low = replace(devices, printer=replace(devices.printer, black=Black.LOW))
    assert outcome(plan, low, runs=300).marks_read < outcome(plan, devices, runs=300).marks_read - 0.2


def test_a_lost_picture_takes_nothing_of_its_neighbour() -> None:
    one = shapely.Polygon([(2, 2), (18, 2), (2, 18)])
    other = shapely.Polygon([(18, 4), (18, 18), (4, 18)])
    ink = np.zeros((80, 80, 4), np.uint8)
    ink[filled(shapely.transform(one.union(other), lambda points: points * 4), (80, 80)) > 0.5] = (30, 60, 90, 255)
    page = with_ink(PrintedRaster(ink, 101.6, Paper(20, 20), PrintScale()), TwinPrinter(), [one, other], (0,))
    kept = page.rgba[..., 3] > 0
    assert kept[filled(shapely.transform(other, lambda points: points * 4), (80, 80)) > 0.5].mean() > 0.98
    assert not kept[20:30, 20:30].any()


@pytest.mark.parametrize(("gap_mm", "miss_mm", "wider_mm"), [(3.0, 9.0, 0.5), (9.0, 1.4, 0.4), (9.0, 1.05, 0.2)])
def test_a_bleed_is_widened_by_what_is_missed_and_by_no_more_than_there_is_room(
    gap_mm: float, miss_mm: float, wider_mm: float
) -> None:
    bare = item(1, quantity=2, edge=EdgeSpec("bare", 0), bleed_mm=1.0)
    plan = scene(bare, packing=PackingSpec(gap_mm=gap_mm)).plan()
    assert plan.item(1).bleed.width_mm == 1.0
    seen = PieceOutcome(0, 0, 1, miss_mm, 0.0, 1.0, 0.4, ((Spoiling.BARE_RIM, 0.6),))
    bad = DryRun(10, (1,), 1.0, 0.4, (seen,), (CauseShare(Spoiling.BARE_RIM, 0.6, 1),), 0.4, miss_mm / 2, miss_mm)
    (wider,) = (one for one in remedies_for(plan, devices_of(plan), bad) if one.key == "wider-bleed")
    assert wider.trial.wider.bleed_mm == pytest.approx(wider_mm)
    assert wider.steps[0].changes == {"bleed_mm": pytest.approx(1.0 + wider_mm)}
