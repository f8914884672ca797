"""What is printed to be measured, and what measuring does to files: read back by another library."""

import io
import json
import re
from collections.abc import Callable
from dataclasses import replace

import ezdxf
import numpy as np
import pypdfium2
import pytest
import shapely

from tests.scenes import DISC, bars, item, scene
from vamper.core.effective_job import effective_job
from vamper.core.marks.printed_helpers import HELPERS, HelperScene, cover_trim
from vamper.core.marks.vernier import vernier_sheet
from vamper.core.plan import cut_of, page_of, proof_of, set_up_sheet
from vamper.core.printing.ink import InkUse, ink_of, sheet_ink
from vamper.core.printing.page_box import has_page, page_for
from vamper.core.printing.proof import bars_for, scale_of
from vamper.core.values.calibration import Calibration
from vamper.core.values.cutter import Cutter
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import PAPER_BY_KEY, Paper
from vamper.core.values.printer import Margins, PageBox, Printer, PrintScale
from vamper.core.values.reading import Remedy, SensorWord
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.formats.job_file import job_document, read_job
from vamper.formats.out.drawing_pdf import write_drawing_pdf
from vamper.formats.out.drawing_svg import write_drawing_svg
from vamper.formats.out.page_png import page_ink, page_pixels
from vamper.formats.out.print_pdf import write_pdf
from vamper.formats.out.sheet_file import SHEET_FILES
from vamper.services.handoff.measuring import helper_file, swatch_file, vernier_file

LETTER = PAPER_BY_KEY["letter"]
PPI = 254  # ten pixels a millimetre
FULL = bars((0, 0, 400, 400))


def dark_boxes(pdf: bytes, page: int = 0) -> np.ndarray:
    """Which pixels are dark, ten a millimetre."""
    grey = pypdfium2.PdfDocument(pdf)[page].render(scale=PPI / 72).to_pil().convert("L")
    return np.asarray(grey) < 128


def span(dark: np.ndarray) -> tuple[float, float, float, float]:
    """Left, top, right, bottom of what is dark, mm."""
    rows, columns = np.flatnonzero(dark.any(axis=1)), np.flatnonzero(dark.any(axis=0))
    return columns[0] / 10, rows[0] / 10, (columns[-1] + 1) / 10, (rows[-1] + 1) / 10


def page(**fields: object) -> bytes:
    plan = scene(item(quantity=2), pictures={1: FULL}, **fields).plan()
    return write_pdf(page_of(plan, 0), lambda _: FULL, "test")


def test_a_page_is_drawn_by_the_inverse_of_the_printers_scale_about_its_middle() -> None:
    true, drawn = page(), page(printer=Printer(scale=PrintScale(0.99, 1.004)))
    middle = np.array([LETTER.width_mm / 2, LETTER.height_mm / 2])
    left, top, right, bottom = span(dark_boxes(true))
    wanted = [
        middle[0] + (left - middle[0]) / 0.99,
        middle[1] + (top - middle[1]) / 1.004,
        middle[0] + (right - middle[0]) / 0.99,
        middle[1] + (bottom - middle[1]) / 1.004,
    ]
    assert span(dark_boxes(drawn)) == pytest.approx(wanted, abs=0.11)


def test_cut_files_stay_nominal_under_a_printers_scale_and_follow_a_calibration() -> None:
    calibration = Calibration(((1.002, 0.001, 0.8), (-0.0005, 0.999, -0.3)))
    plain = scene(item(quantity=3)).plan()
    scaled = scene(item(quantity=3), printer=Printer(scale=PrintScale(0.99, 0.99))).plan()
    corrected = scene(item(quantity=3), calibration=calibration).plan()
    for key in ("cut_svg", "cut_dxf"):
        files = [SHEET_FILES[key].write(plan, 0, lambda _: DISC) for plan in (plain, scaled, corrected)]
        assert files[0] == files[1]
        assert files[0] != files[2]
    points = np.concatenate([loop.points for loop in cut_of(corrected, 0).loops])
    assert points == pytest.approx(np.concatenate([loop.points for loop in cut_of(plain, 0).loops]))
    dxf = ezdxf.read(io.StringIO(SHEET_FILES["cut_dxf"].write(corrected, 0, lambda _: DISC).decode()))
    sent = np.concatenate(
        [np.array(line.get_points("xy")) for line in dxf.modelspace().query('LWPOLYLINE[layer=="KISS"]')]
    )
    sent[:, 1] = LETTER.height_mm - sent[:, 1]
    # The machine lands them where the print is.
    assert calibration.landing(sent) == pytest.approx(points, abs=0.001)


@pytest.mark.parametrize("scale", [PrintScale(), PrintScale(0.994, 1.01)])
@pytest.mark.parametrize("quantity", [2, 24])
def test_a_proof_has_two_bars_of_100_mm_that_touch_nothing(scale: PrintScale, quantity: int) -> None:
    plan = scene(item(quantity=quantity), printer=Printer(scale=scale)).plan()
    drawn = proof_of(plan, 0)
    found = bars_for(drawn, plan.job.printer.margins_mm)
    assert found.apart is None
    with_bars = write_pdf(drawn, lambda _: DISC, "proof", found)
    without = write_pdf(drawn, lambda _: DISC, "proof")
    only = dark_boxes(with_bars) & ~dark_boxes(without)
    for bar, size in ((found.across, (100.0, 1.0)), (found.down, (1.0, 100.0))):
        x, y = round(bar.left_mm * 10), round(bar.top_mm * 10)
        w, h = (round(side * 10) for side in size)
        window = only[y - 8 : y + h + 8, x - 8 : x + w + 8]
        left, top, right, bottom = span(window)
        assert (right - left, bottom - top) == pytest.approx(size, abs=0.11)
        # Nothing else within half a millimetre.
        assert not (dark_boxes(without)[y - 5 : y + h + 5, x - 5 : x + w + 5]).any()


def test_a_proof_of_a_small_paper_has_its_bars_on_a_page_of_their_own() -> None:
    plan = scene(item(), paper=Paper(101.6, 152.4)).plan()
    drawn = proof_of(plan, 0)
    found = bars_for(drawn, plan.job.printer.margins_mm)
    assert found.apart is not None
    pdf = write_pdf(drawn, lambda _: DISC, "proof", found)
    document = pypdfium2.PdfDocument(pdf)
    assert len(document) == 2
    left, top, right, bottom = span(dark_boxes(pdf, 1))
    assert (right - left, bottom - top) == pytest.approx((110.0, 110.0), abs=0.2)


def test_cut_lines_are_on_the_proof_only() -> None:
    plan = scene(item()).plan()

    def red(pdf: bytes) -> int:
        pixels = np.asarray(pypdfium2.PdfDocument(pdf)[0].render(scale=3).to_pil().convert("RGB")).astype(int)
        return int(((pixels[..., 0] - pixels[..., 1]) > 60).sum())

    assert red(write_pdf(page_of(plan, 0), lambda _: DISC, "page")) == 0
    assert red(write_pdf(proof_of(plan, 0), lambda _: DISC, "proof")) > 100


@pytest.mark.parametrize(
    ("across", "down", "sure", "words"),
    [(10, 99.8, False, "slip of the pen"), (10, 99.8, True, "slip of the pen"), (88, 99, False, "sure")],
)
def test_a_slip_of_the_pen_is_asked_about(across: float, down: float, sure: bool, words: str) -> None:
    with pytest.raises(BadInput, match=words):
        scale_of(across, down, sure)


def test_bars_that_can_be_are_the_scale() -> None:
    with pytest.raises(BadInput, match="say that you are sure"):
        scale_of(88.0, 99.0)
    assert scale_of(99.4, 100.2) == PrintScale(0.994, 1.002)
    assert scale_of(88.0, 99.0, sure=True) == PrintScale(0.88, 0.99)


def test_ink_is_the_page_in_cyan_magenta_yellow_and_black() -> None:
    square = np.zeros((100, 100, 4), np.uint8)
    square[:50] = (255, 0, 0, 255)
    square[50:, :50] = (128, 128, 128, 255)
    square[50:, 50:] = (0, 0, 255, 128)
    used = ink_of(square, 25.4, 0.0012)  # a pixel is a square millimetre
    half = 128 / 255
    assert used.magenta_cm2 == pytest.approx(50 + 25 * half, rel=1e-3)
    assert used.yellow_cm2 == pytest.approx(50)
    assert used.cyan_cm2 == pytest.approx(25 * half, rel=1e-3)
    assert used.black_cm2 == pytest.approx(25 * (1 - half), rel=1e-3)
    assert used.ml == pytest.approx(used.cover_cm2 * 0.0012)


def test_heavy_cover_is_told() -> None:
    assert not sheet_ink(InkUse(20, 20, 19, 0, 0.0), 100).is_heavy
    assert sheet_ink(InkUse(20, 20, 20, 1, 0.0), 100).is_heavy


def test_the_ink_of_a_page_and_its_pixels() -> None:
    plan = scene(item(edge=EdgeSpec("bare", 0), bleed_mm=0.0), pictures={1: FULL}).plan()
    pdf = write_pdf(page_of(plan, 0), lambda _: FULL, "test")
    pixels = page_pixels(pdf, 100)
    assert pixels.shape == (round(279.4 / 25.4 * 100), round(215.9 / 25.4 * 100), 4)
    assert pixels[0, 0, 3] == 0
    # A part is drawn as in the whole, and blank beyond it.
    assert (page_pixels(pdf, 100, (40, 30, 200, 150)) == pixels[30:180, 40:240]).all()
    beyond = page_pixels(pdf, 100, (800, 1000, 100, 150))
    assert (beyond[:100, :50] == pixels[1000:, 800:]).all()
    assert not beyond[100:].any()
    used = page_ink(pdf, 0.0012)
    red, green, blue = (255 - np.array([40, 90, 160])) / 255
    black = min(red, green, blue)
    assert used.cyan_cm2 == pytest.approx((red - black) * 16, rel=0.02)
    marks = 4 * (10 * 0.8 + 9.2 * 0.8) / 100
    assert used.black_cm2 == pytest.approx(black * 16 + marks, rel=0.02)


def test_the_job_line_lies_in_the_waste_with_its_bar() -> None:
    plan = scene(item(quantity=4), job_line=True).plan()
    with_line = page_of(plan, 0, "Hull stickers, sheet 1 of 1")
    assert len(with_line.over) == 1
    before = write_pdf(replace(with_line, over=()), lambda _: DISC, "page")
    only = dark_boxes(write_pdf(with_line, lambda _: DISC, "page")) & ~dark_boxes(before)
    left, top, right, bottom = span(only)
    assert bottom - top <= 3.2
    assert right - left > 120
    ink = shapely.box(left, top, right, bottom)
    assert plan.setup.live.shape.covers(ink.buffer(-0.1))
    assert not any(edge.intersects(ink) for edge in plan.sheets[0].edges)
    words = pypdfium2.PdfDocument(write_pdf(with_line, lambda _: DISC, "page"))[0].get_textpage().get_text_range()
    assert "Hull stickers, sheet 1 of 1" in words
    # A full sheet has none.
    full = scene(item(quantity=1, width_mm=188.0), pictures={1: FULL}, paper=Paper(215.9, 215.9), job_line=True).plan()
    assert page_of(full, 0, "x" * 40).over == ()


def test_a_printer_that_takes_named_sizes_gets_one_with_the_sheet_on_it() -> None:
    small = Paper(210.0, 277.0)
    assert page_for(small, Printer()).width_mm == 210.0
    centred = page_for(small, Printer(page=PageBox.CENTRED))
    assert (centred.width_mm, centred.height_mm, centred.left_mm) == pytest.approx((215.9, 279.4, 2.95))
    assert page_for(small, Printer(page=PageBox.RIGHT)).left_mm == pytest.approx(5.9)
    assert page_for(Paper(50, 60), Printer(page=PageBox.LEFT)).width_mm == 50
    assert page_for(Paper(199.0, 285.0), Printer(page=PageBox.LEFT)).width_mm == 210.0
    assert page_for(Paper(194.0, 285.0), Printer(page=PageBox.LEFT)).width_mm == 194.0
    plan = scene(item(), paper=small, printer=Printer(page=PageBox.CENTRED)).plan()
    pdf = write_pdf(page_of(plan, 0), lambda _: DISC, "page")
    width, height = pypdfium2.PdfDocument(pdf)[0].get_size()
    assert (width / 72 * 25.4, height / 72 * 25.4) == pytest.approx((215.9, 279.4), abs=0.01)
    assert span(dark_boxes(pdf))[0] == pytest.approx(2.95 + 8, abs=0.11)


def test_a_vernier_sheet_to_print_and_to_cut() -> None:
    job = effective_job(
        Job(paper=LETTER, stock=STOCK_BY_KEY["satin-vinyl"], printer=Printer(scale=PrintScale(0.99, 0.99)))
    )
    setup = set_up_sheet(job)
    sheet = vernier_sheet(LETTER, setup.live.shape, "x")
    svg = vernier_file(job, setup, "svg").data.decode()
    assert len(re.findall(r"<path", svg)) == len(sheet.lines) + 1 + len(setup.marks)
    assert len(re.findall(r' Z"', svg)) == 1 + len(setup.marks)
    first = [float(one) for one in re.findall(r'd="M ([\d.]+) ([\d.]+)', svg)[0]]
    assert first == pytest.approx(sheet.lines[0][0], abs=1e-3)
    dxf = ezdxf.read(io.StringIO(vernier_file(job, setup, "dxf").data.decode()))
    open_lines = [line for line in dxf.modelspace().query("LWPOLYLINE") if not line.closed]
    assert len(open_lines) == len(sheet.lines)
    # Printed with the compensation on.
    left, top, _, _ = span(dark_boxes(vernier_file(job, setup, "pdf").data))
    middle = LETTER.width_mm / 2
    assert left == pytest.approx(middle + (8 - middle) / 0.99, abs=0.11)
    assert top == pytest.approx(LETTER.height_mm / 2 + (8 - LETTER.height_mm / 2) / 0.99, abs=0.11)
    with pytest.raises(BadInput, match="printed"):
        vernier_file(effective_job(Job(paper=LETTER, stock=STOCK_BY_KEY["plain-vinyl"])), setup, "pdf")


def test_the_cover_trim_covers_all_print_and_no_mark() -> None:
    for family in ("corner", "frame", "dot", "cross", "ring"):
        plan = scene(item(quantity=9), marks=MarksSpec(family)).plan()
        printed = tuple(one.clip for one in page_of(plan, 0).pictures)
        box = cover_trim(HelperScene(LETTER, plan.setup.marks, plan.job.marks, printed))
        cover = shapely.box(box.left_mm, box.top_mm, box.right_mm, box.bottom_mm)
        assert all(cover.covers(one) for one in printed)
        assert not any(cover.intersection(mark.shape.buffer(1.99)).area > 1e-6 for mark in plan.setup.marks)
        # As large as it goes: a millimetre more on any side leaves the paper or reaches a mark.
        rim = shapely.box(0, 0, LETTER.width_mm, LETTER.height_mm)
        sides = [(-1, 0, 0, 0), (0, -1, 0, 0), (0, 0, 1, 0), (0, 0, 0, 1)]
        for side in sides:
            larger = shapely.box(*(a + b for a, b in zip(cover.bounds, side, strict=True)))
            assert not rim.covers(larger) or any(
                larger.intersection(mark.shape.buffer(2.01)).area > 1e-6 for mark in plan.setup.marks
            )


@pytest.mark.parametrize(("sides", "whole"), [((210.0, 297.0), "width"), ((297.0, 210.0), "height")])
def test_a_cover_goes_from_rim_to_rim_the_way_that_leaves_more(sides: tuple[float, float], whole: str) -> None:
    """Dots in the corners take as much off either way: more is left where the sheet's shorter side stays whole."""
    paper = Paper(*sides)
    plan = scene(item(1, quantity=1), marks=MarksSpec("dot"), paper=paper).plan()
    middle = shapely.box(100, 100, 110, 105)
    for printed in ((middle,), ()):
        box = cover_trim(HelperScene(paper, plan.setup.marks, plan.job.marks, printed))
        is_whole = {"width": box.size_mm[0] == sides[0], "height": box.size_mm[1] == sides[1]}
        assert is_whole == {"width": whole == "width", "height": whole == "height"}


def test_print_beside_a_mark_has_no_straight_cover() -> None:
    plan = scene(item(), marks=MarksSpec("dot")).plan()
    beside = (shapely.box(9, 100, 30, 120), shapely.box(100, 9, 120, 30))
    with pytest.raises(BadInput, match="straight-edged"):
        cover_trim(HelperScene(LETTER, plan.setup.marks, plan.job.marks, beside))


@pytest.mark.parametrize("key", HELPERS)
@pytest.mark.parametrize("write", [write_drawing_pdf, write_drawing_svg])
def test_helpers_are_drawn_at_true_size(key: str, write: Callable[..., bytes]) -> None:
    plan = scene(item(quantity=4)).plan()
    printed = tuple(one.clip for one in page_of(plan, 0).pictures)
    data = write(HELPERS[key].draw(HelperScene(LETTER, plan.setup.marks, plan.job.marks, printed)))
    if data.startswith(b"%PDF"):
        dark = dark_boxes(data)
        if "patches" in key:
            # The marks are where the sheet has them.
            mark = plan.setup.marks[0].box_mm
            x, y = round(mark.x_mm * 10), round(mark.y_mm * 10)
            assert dark[y + 2 : y + 6, x + 2 : x + 98].all()
    else:
        assert b'width="215.9mm"' in data


def test_decals_for_the_inside_of_a_pane_are_mirrored_on_clear_stock_only() -> None:
    clear = scene(item(), stock="clear-vinyl", from_inside=True)
    white = scene(item(), stock="satin-vinyl", from_inside=True)
    assert clear.plan().mirror
    assert clear.one("print.mirror").severity == "note"
    assert not white.plan().mirror
    stop = white.one("print.mirror")
    assert stop.severity == "stop"
    assert "print.mirror" not in white.with_fix(stop, stop.fixes[0]).codes()


def test_all_of_it_comes_back_from_a_job_file() -> None:
    job = scene(
        item(),
        printer=Printer(scale=PrintScale(0.99, 1.0), page=PageBox.LEFT, margins_mm=Margins(3, 3, 3, 3)),
        calibration=Calibration(((1.001, 0, 0.5), (0, 1, 0)), None, 0.1, 0.0005, 0.08),
        room_light=0.7,
        stock_colour="#404040",
        cutter=Cutter(sensor=SensorWord.WEAK, feed_mm=0.1),
        marks=MarksSpec(remedies=(Remedy.MATTE_TAPE,)),
        from_inside=True,
        job_line=True,
    ).job
    assert read_job(json.dumps(job_document(job))) == job


@pytest.mark.parametrize("stock", ["satin-vinyl", "light-transfer"])
@pytest.mark.parametrize("second", [False, True])
@pytest.mark.parametrize("scale", [PrintScale(), PrintScale(0.997, 1.003)])
def test_a_swatch_strip_lies_beside_the_pieces_as_they_are_printed(stock: str, second: bool, scale: PrintScale) -> None:
    """What the strip covers on the printed sheet, mirrored or not, is nothing that a piece covers."""
    printer = Printer(scale=scale)
    plan = scene(item(quantity=17), stock=stock, pictures={1: FULL}, printer=printer).plan()
    pieces = dark_boxes(write_pdf(page_of(plan, 0), lambda _: FULL, "test"))
    strip = dark_boxes(swatch_file(plan, "one", second).data)
    assert strip.any()
    assert not (pieces & strip).any()


def test_a_full_sheet_has_no_room_for_a_swatch_and_says_so() -> None:
    plan = scene(item(quantity=20), pictures={1: FULL}).plan()
    with pytest.raises(BadInput, match=r"no .* free for the two strips"):
        swatch_file(plan, "one", second=False)


@pytest.mark.parametrize("lying", [False, True])
@pytest.mark.parametrize("name", ["letter", "a4", "legal"])
def test_a_sheet_has_a_page_with_a_name_whichever_way_it_lies(name: str, lying: bool) -> None:
    named = PAPER_BY_KEY[name]
    sides = (named.width_mm - 2, named.height_mm - 2)
    sheet = Paper(*(sides[::-1] if lying else sides))
    found = page_for(sheet, Printer(page=PageBox.CENTRED))
    wanted = (named.width_mm, named.height_mm)
    assert (found.width_mm, found.height_mm) == (wanted[::-1] if lying else wanted)
    assert (found.left_mm, has_page(sheet, Printer(page=PageBox.CENTRED))) == (pytest.approx(1.0), True)


def test_a_sheet_that_no_name_is_a_little_larger_than_has_no_page() -> None:
    odd = Paper(150.0, 150.0)
    assert not has_page(odd, Printer(page=PageBox.LEFT))
    assert has_page(odd, Printer(page=PageBox.SHEET))


def test_what_is_printed_to_be_measured_is_on_the_printers_page() -> None:
    """The vernier, a helper and a swatch: on the page that the printer takes, as the sheet itself."""
    sheet = Paper(205.0, 290.0)
    plan = scene(item(quantity=1), paper=sheet, printer=Printer(page=PageBox.LEFT)).plan()
    files = [
        vernier_file(plan.job, plan.setup, "pdf"),
        helper_file(plan, 0, "cover-trim", "pdf"),
        swatch_file(plan, "one", False),
    ]
    for file in files:
        width, height = pypdfium2.PdfDocument(file.data)[0].get_size()
        assert (width / 72 * 25.4, height / 72 * 25.4) == pytest.approx((210.0, 297.0), abs=0.1)
