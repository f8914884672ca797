"""Ladder, tell-tale and bench card as files, read back by other readers than their writers."""

import io
import re
from dataclasses import replace
from xml.etree import ElementTree

import ezdxf
import numpy as np
import pypdfium2
import pytest

from tests.scenes import DISC, bars, item, scene
from vamper.core.bench_card import bench_steps
from vamper.core.cutting.drops import DROP_MM
from vamper.core.plan import Plan
from vamper.core.tell_tale import tell_tale_of
from vamper.core.values.blade import BladeIn
from vamper.core.values.calibration import Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, Feed, Route
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.lengths import Unit
from vamper.core.values.marks import MarksSpec
from vamper.core.values.mat import MatIn
from vamper.core.values.named_settings import NamedSetting, SettingSeen
from vamper.core.values.paper import Paper
from vamper.core.values.program import Program, ProgramBleed
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.core.values.tried import Outcome
from vamper.formats.out.cut_dxf import MARKS_LAYER
from vamper.formats.out.cut_hpgl import PenLine, write_hpgl
from vamper.formats.out.drops_file import TEST_CUT_FILES
from vamper.services.handoff.files import plan_files
from vamper.services.handoff.measuring import vernier_file
from vamper.services.handoff.trial_cuts import (
    bench_card,
    ladder_place,
    ladder_test,
    tell_tale,
    tell_tale_files,
)

FORCES = (68.0, 84.0, 100.0, 120.0, 148.0, 180.0)
HEIGHT = 279.4


def made(**more) -> Plan:  # type: ignore[no-untyped-def]
    return scene(item(quantity=4), **more).plan()


def strokes(hpgl: bytes) -> list[tuple[int, int, np.ndarray]]:
    """Pen, force and points (mm, y down) of every time that the blade goes down."""
    pen, force, at, found = 0, 0, (0.0, 0.0), []
    for name, rest in re.findall(r"([A-Z]{2})([^;]*);", hpgl.decode()):
        numbers = [float(one) for one in re.findall(r"-?\d+", rest)]
        pen = int(numbers[0]) if name == "SP" else pen
        force = int(numbers[0]) if name == "FS" else force
        points = [(x / 40, HEIGHT - y / 40) for x, y in zip(numbers[::2], numbers[1::2], strict=False)]
        if name == "PD":
            found.append((pen, force, np.array([at, *points])))
        if name in ("PU", "PD") and points:
            at = points[-1]
    return found


def test_a_ladder_is_cut_gentlest_first_each_drop_with_its_own_force() -> None:
    plan = made()
    test = ladder_test(plan, Cut.KISS, 2, FORCES, ladder_place(plan, 0, 0))
    lines = strokes(TEST_CUT_FILES["hpgl"][1](test))
    # A slit and an outline a drop, each in both passes.
    assert [force for _, force, _ in lines] == [round(force) for force in FORCES for _ in range(4)]
    assert {pen for pen, _, _ in lines} == {1}
    wanted = [line for drop in test.drops for line in test.lines(drop) for _ in range(2)]
    for (_, _, points), line in zip(lines, wanted, strict=True):
        assert points == pytest.approx(line, abs=0.03)


def test_the_same_ladder_in_all_three_formats() -> None:
    plan = made()
    test = ladder_test(plan, Cut.KISS, 1, FORCES, ladder_place(plan, 0, 0))
    svg = ElementTree.fromstring(TEST_CUT_FILES["svg"][1](test))
    assert svg.attrib["width"] == "215.9mm"
    groups = svg.findall("{http://www.w3.org/2000/svg}g")
    assert [group.attrib["id"] for group in groups] == [f"drop-{n}-{f:g}gf" for n, f in enumerate(FORCES, 1)]
    drawing = ezdxf.read(io.StringIO(TEST_CUT_FILES["dxf"][1](test).decode()))
    assert drawing.header["$INSUNITS"] == 4
    for number, (group, drop) in enumerate(zip(groups, test.drops, strict=True), 1):
        layer = f"DROP-{number}-{drop.force_gf:g}GF"
        for path, line, polyline in zip(
            group,
            test.lines(drop),
            drawing.modelspace().query(f'LWPOLYLINE[layer=="{layer}"]'),
            strict=True,
        ):
            numbers = np.array([float(one) for one in re.findall(r"-?\d+\.\d+", path.attrib["d"])]).reshape(-1, 2)
            assert numbers == pytest.approx(line, abs=1e-3)
            flipped = np.array([(x, HEIGHT - y) for x, y, *_ in polyline.get_points()])
            assert flipped == pytest.approx(line, abs=1e-3)


def test_later_ladders_lie_elsewhere_and_an_offcut_is_a_sheet_of_its_own() -> None:
    plan = made()
    first, second = (set(ladder_place(plan, 0, before).places) for before in (0, 1))
    assert not first & second
    offcut = ladder_place(plan, 0, 0, Paper(60, 30))
    test = ladder_test(plan, Cut.KISS, 1, FORCES, offcut)
    assert (test.paper.width_mm, test.paper.height_mm) == (60, 30)
    # An offcut bears no marks, so nothing is compensated on it.
    calibrated = replace(plan, job=replace(plan.job, calibration=Calibration(residual_mm=0.05)))
    assert ladder_test(calibrated, Cut.KISS, 1, FORCES, offcut).calibration is None
    on_sheet = ladder_test(calibrated, Cut.KISS, 1, FORCES, ladder_place(plan, 0, 0))
    assert on_sheet.calibration == calibrated.job.calibration
    with pytest.raises(BadInput, match="offcut for six drops"):
        ladder_place(plan, 0, 0, Paper(20, 10))
    with pytest.raises(BadInput, match="no waste left"):
        ladder_place(full(), 0, 0)


def full() -> Plan:
    """A sheet without any waste: one square as large as what is left of it."""
    square = item(width_mm=62.0, edge=EdgeSpec("rectangle", 0.5))
    whole = bars((0, 0, 400, 400))
    return scene(square, pictures={1: whole}, paper=Paper(70, 71), marks=MarksSpec(family="none")).plan()


def test_the_tell_tale_lies_mirrored_where_the_sheet_is() -> None:
    plain, mirrored = made(stock="dark-transfer"), made(stock="light-transfer")
    assert not plain.mirror
    assert mirrored.mirror
    for plan in (plain, mirrored):
        test, place = tell_tale(plan, 0), tell_tale_of(plan, 0)
        assert test is not None
        assert place is not None
        x = test.drops[0].x_mm
        assert x == pytest.approx(215.9 - place[0] - DROP_MM if plan.mirror else place[0])


def test_the_tell_tale_keeps_clear_of_the_bleed_of_the_machines_program() -> None:
    """Where a program carries colour 4 mm past every cut, a drop's bleed must not meet a piece's; files carry none."""
    square = item(width_mm=62.0, edge=EdgeSpec("rectangle", 0.5))
    whole = bars((0, 0, 400, 400))

    def least_side(route: Route, bleed: ProgramBleed) -> int:
        """The smallest of some sheets on which a drop lies beside the piece."""
        cutter = Cutter(route=route, program=Program(bleed=bleed))
        for side in range(76, 160, 2):
            paper, marks = Paper(side, side + 1), MarksSpec(family="none")
            plan = scene(square, pictures={1: whole}, paper=paper, marks=marks, cutter=cutter).plan()
            if plan.sheets and tell_tale_of(plan, 0) is not None:
                return side
        raise AssertionError("it lies on none")

    none, wide = ProgramBleed(switch=False), ProgramBleed(width_mm=4.0)
    assert least_side(Route.PROGRAM, wide) >= least_side(Route.PROGRAM, none) + 4
    assert least_side(Route.FILES, wide) == least_side(Route.FILES, none)


def test_test_cuts_are_corrected_and_the_cut_files_hold_pieces_only() -> None:
    moved = Calibration(((1.0, 0.0, 0.6), (0.0, 1.0, -0.4)), 0.05)
    plan, corrected = made(), made(calibration=moved)
    first, second = (strokes(tell_tale_files(one, 0)["sheet-01-tell-tale.hpgl"])[1][2] for one in (plan, corrected))
    assert second - first == pytest.approx(np.tile([-0.6, 0.4], (len(first), 1)), abs=0.03)
    files = plan_files(plan, [], lambda _: DISC)
    assert {"sheet-01-tell-tale.svg", "sheet-01-tell-tale.dxf", "sheet-01-tell-tale.hpgl", "bench-card.pdf"} <= set(
        files
    )
    assert len(strokes(files["sheet-01-cut.hpgl"])) == 4 * plan.settings[Cut.KISS].passes


def test_speeds_and_forces_of_the_plotter_file_are_those_of_the_setting() -> None:
    plan = made()
    data = plan_files(plan, [], lambda _: DISC)["sheet-01-cut.hpgl"].decode()
    setting = plan.settings[Cut.KISS]
    assert f"VS{round(setting.speed_mm_s / 10)};FS{round(setting.force_gf)};" in data
    assert data.count("SP1;") == 1


def card_text(plan: Plan, unit: Unit = Unit.MM) -> str:
    document = pypdfium2.PdfDocument(bench_card(plan, unit))
    assert len(document) == 1
    return " ".join(document[0].get_textpage().get_text_range().split())


def test_the_bench_card_is_one_page_and_says_everything() -> None:
    vinyl = STOCK_BY_KEY["satin-vinyl"]
    settings = (
        NamedSetting("foil", seen=(SettingSeen(vinyl, Cut.KISS, Outcome.CLEAN, metres=450.0),)),
        NamedSetting("card"),
    )
    plan = made(
        blade=BladeIn(metres=450.0), mat=MatIn(loads=33), cutter=Cutter(settings=settings), marks=MarksSpec(count=3)
    )
    text = card_text(plan)
    for words in (
        "45° blade, 0.17 mm out",
        "“foil”",
        f"{plan.settings[Cut.KISS].force_gf:g} gf, one pass",
        "medium tack, printed side up",
        "tape the rim",
        "read in",
        "tell-tale",
        "Pause after the first piece",
        "lift a corner with a hook",
        "brush the tuft off the tip",
        "the same pass again without unloading",
        "bend the mat away from the sheet",
        "change the blade",
        "fingers off while it moves",
    ):
        assert words in text, words
    assert "0.007 in out" in card_text(plan, Unit.INCH)


def test_the_card_for_scissors_and_for_rollers() -> None:
    by_hand = made(cutter=Cutter(feed=Feed.HAND), stock="card")
    text = card_text(by_hand)
    assert "guillotine" in text
    assert "gf" not in text
    rollers = card_text(made(cutter=Cutter(feed=Feed.ROLLER, head_mm=10, tail_mm=25)))
    assert "never across print" in rollers
    assert [step.key for step in bench_steps(by_hand)] == ["print", "dry", "load", "off", "after"]


def test_a_long_card_still_is_one_page() -> None:
    plan = made(stock="card", blade=BladeIn(metres=450.0, tuft=True), mat=MatIn(loads=60, lint=True))
    small = replace(plan, job=replace(plan.job, paper=Paper(100, 150)))
    assert card_text(small)
    with pytest.raises(BadInput, match="nothing lies on a sheet"):
        bench_card(replace(plan, sheets=()))


def test_several_copies_of_a_page_are_said() -> None:
    assert "2 copies of each" in card_text(made(copies=2))
    assert "copies of each" not in card_text(made(copies=1))


@pytest.mark.parametrize("speed", [5.0, 15.0, 20.0, 30.0, 95.0, 0.1 + 0.2 + 19.7, 3.0])
def test_a_speed_limit_is_never_rounded_up(speed: float) -> None:
    """HP-GL counts in whole centimetres a second; the slowest there is is one."""
    line = PenLine(Cut.KISS, speed, 100.0, np.array([[0.0, 0.0], [10.0, 0.0]]))
    (written,) = re.findall(r"VS(\d+);", write_hpgl(Paper(100, 100), [line]).decode())
    assert int(written) >= 1
    assert int(written) == 1 or int(written) * 10 <= speed + 1e-6
    assert (int(written) + 1) * 10 > speed


@pytest.mark.parametrize(("stock", "layer"), [("satin-vinyl", "KISS"), ("card", "THROUGH")])
def test_the_lines_of_a_vernier_are_cut_as_the_stock_can_be(stock: str, layer: str) -> None:
    plan = scene(item(quantity=1, cut=Cut.THROUGH), stock=stock).plan()
    drawn = ezdxf.read(io.StringIO(vernier_file(plan.job, plan.setup, "dxf").data.decode()))
    assert {entity.dxf.layer for entity in drawn.modelspace()} == {layer, MARKS_LAYER}
