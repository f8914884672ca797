"""Pictures held against their plan: photos and scans drawn by the twin, of which the truth is known."""

import io
from dataclasses import replace
from functools import cache
from itertools import combinations

import cv2
import numpy as np
import pytest
import shapely
from PIL import Image

from tests.core.test_twin import a_page
from tests.kept import kept
from tests.scenes import bars, item, masked, scene
from vamper.core.art.picture import Picture
from vamper.core.plan import Plan, page_of
from vamper.core.twin.cut_out import cut_pieces, spoiling_of, typical_run
from vamper.core.twin.devices import devices_of
from vamper.core.twin.photo import Camera, on_table, photographed
from vamper.core.twin.pieces import facts_of
from vamper.core.twin.printer import at, with_ink
from vamper.core.twin.scan import pixels_of, print_scan, result_scan
from vamper.core.twin.simulate import SimulationResult, Spoiling, simulate_sheet
from vamper.core.values.colour import rgb_of
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper
from vamper.core.values.pixels import filled, top_of
from vamper.core.values.twin import TwinSpec
from vamper.core.vision.contours import contours_of
from vamper.core.vision.loose_pieces import UnsureReason, loose_pieces
from vamper.core.vision.pose import Pose, candidate_poses, rotation_matrix
from vamper.core.vision.print_comparison import WHOLE_FROM, compare_print
from vamper.core.vision.print_pose import PrintTemplate, best_match, print_pose
from vamper.core.vision.rectify import rectify, rectify_by_corners, warped
from vamper.core.vision.reference import ItemReference, MarkReference, PieceReference, SheetReference
from vamper.core.vision.sheet_candidates import mark_templates, project, sheet_candidates
from vamper.core.vision.weeded_sheet import weeded_sheet
from vamper.formats.cut_in.hpgl import read_hpgl
from vamper.formats.out.kinds.cut_plotter import KIND as HPGL
from vamper.services.twin.comparing import compared_print, found_as_it_reads

PPI = 150
SMALL = Paper(190.0, 140.0)
# An arrow: it has one way up, so a turn of it can be told.
ARROW = bars((60, 150, 260, 230), (240, 60, 300, 330))
# One that is another in a mirror.
HOOK = bars((60, 60, 140, 330), (60, 250, 300, 330))
ARROWS = {1: ARROW, 2: ARROW}
_PX = np.mgrid[0:400, 0:400] - 200
STAR = masked(np.hypot(*_PX) < 110 + 60 * np.cos(5 * np.arctan2(*_PX)))
GREY = np.full(3, 1 / 3, np.float32)
NONE: tuple[int, ...] = ()
LOST = (2,)
# A place of the weeded sheet on which nothing lies.
BARE_MM = (60.0, 110.0)


@cache
def made(family: str = "corner", count: int = 4) -> Plan:
    spec = item(1, quantity=6, edge=EdgeSpec(distance_mm=2.0))
    marks = MarksSpec(family=family, count=count, size_mm=8.0)  # type: ignore[arg-type]
    return scene(spec, marks=marks, pictures=ARROWS, paper=SMALL).plan()


@kept
def planned(plan: Plan) -> SheetReference:
    page, sheet = a_page(plan, ARROW), plan.sheets[0]
    pieces = tuple(
        PieceReference(n, one.item, one.x_mm, one.y_mm, one.turn_deg, one.of(plan.item(one.item).outline.shape), edge)
        for n, (one, edge) in enumerate(zip(sheet.placements, sheet.edges, strict=True))
    )
    items = tuple(ItemReference(one.number, one.outline.shape, one.edge.shape) for one in plan.items)
    marks = tuple(MarkReference(mark.rings) for mark in plan.setup.marks)
    paper = plan.job.paper
    return SheetReference(
        paper.width_mm, paper.height_mm, (255, 255, 255), marks, pieces, items, False, page.rgba, page.px_a_mm
    )


@kept
def ran(plan: Plan, lost: tuple[int, ...] = NONE) -> tuple[SimulationResult, np.ndarray]:
    """A run of a plan, and the scan of its print."""
    devices, printed = devices_of(plan), page_of(plan, 0)
    clips = [one.clip for one in printed.pictures]
    page = with_ink(a_page(plan, ARROW), devices.printer, clips, lost)
    strokes = read_hpgl(HPGL.write(plan, 0, lambda _: ARROW), plan.job.paper)
    found = simulate_sheet(plan, 0, page, facts_of(plan, 0, printed, page, strokes, devices.cutter), devices, 8, 4)
    return found, print_scan(plan, devices, found, page, 0, PPI)


def over_white(rgba: np.ndarray) -> np.ndarray:
    share = rgba[..., 3:] / 255
    return np.round(rgba[..., :3] * share + 255 * (1 - share)).astype(np.uint8)


def in_colour(grey: np.ndarray) -> np.ndarray:
    return np.repeat(np.clip(np.round(grey), 0, 255).astype(np.uint8)[..., None], 3, axis=2)


def as_jpeg(picture: np.ndarray) -> np.ndarray:
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "JPEG", quality=70)
    return np.asarray(Image.open(out))


@pytest.mark.parametrize(
    ("family", "count", "turn"),
    [("corner", 4, 184.0), ("frame", 4, 2.0), ("dot", 4, 184.0), ("cross", 4, 2.0), ("ring", 3, 184.0)],
)
def test_a_photo_finds_what_is_missing_and_nothing_else(family: str, count: int, turn: float) -> None:
    plan = made(family, count)
    _, scan = ran(plan, LOST)
    tilt = 6.0 if count == 4 else 1.0
    photo, _ = photographed(scan, Camera(tilt, 40.0, turn, uneven=0.5, warmth=0.8), 1700, 1)
    picture, sheet = as_jpeg(photo), planned(plan)
    found = rectify(picture, sheet)
    compared = compare_print(picture, sheet, found)
    assert found.marks_found == found.marks
    assert abs((found.turn_deg - turn + 180) % 360 - 180) < 6
    assert [piece.placement for piece in compared.missing] == [*LOST]
    assert not compared.pale
    assert compared.colour_shift_de is not None
    assert compared.colour_shift_de < 4


def test_a_flat_scan_tells_scale_and_place() -> None:
    plan = scene(item(1, quantity=6), twin=TwinSpec(), pictures=ARROWS, paper=SMALL).plan()
    found, scan = ran(plan)
    wider = cv2.resize(scan, None, fx=1.006, fy=0.994, interpolation=cv2.INTER_CUBIC)
    sheet = planned(plan)
    straight = rectify(wider, sheet)
    assert straight.scale(sheet, PPI) == pytest.approx((1.006, 0.994), abs=0.002)
    corners = np.array([(10.0, 10.0), (180.0, 10.0), (180.0, 130.0)])
    lies = np.column_stack([corners, np.ones(3)]) @ straight.to_px.T
    meant = at(found.prints[0], corners) * PPI / 25.4 * (1.006, 0.994)
    assert lies[:, :2] / lies[:, 2:] == pytest.approx(meant, abs=1.2)


def test_a_pale_print_is_pale_and_not_missing() -> None:
    plan = made()
    scan = ran(plan)[1].copy()
    box = [round(side * PPI / 25.4) for side in plan.sheets[0].edges[1].bounds]
    part = scan[box[1] : box[3], box[0] : box[2]].astype(float)
    scan[box[1] : box[3], box[0] : box[2]] = (250 - (250 - part) * 0.5).astype(np.uint8)
    sheet = planned(plan)
    compared = compare_print(scan, sheet, rectify(scan, sheet))
    assert [piece.placement for piece in compared.pale] == [1]
    assert not compared.missing


@pytest.mark.parametrize(("family", "count"), [("corner", 4), ("dot", 4), ("ring", 3)])
@pytest.mark.parametrize(("tilt", "turn"), [(20.0, 0.0), (30.0, 45.0), (12.0, 184.0)])
def test_a_right_sheet_seen_from_aside_is_this_one_and_whole(family: str, count: int, tilt: float, turn: float) -> None:
    """From aside one mark is easily missed; the print tells the tilt that three marks do not."""
    if count == 3:
        tilt = tilt / 2
    plan = made(family, count)
    photo, to_photo = photographed(ran(plan)[1], Camera(tilt, 40.0, turn, uneven=0.5), 1700, 1)
    sheet = planned(plan)
    found = found_as_it_reads(photo, sheet)
    assert not compared_print(photo, sheet).missing
    corners = np.array([(10.0, 10.0), (180.0, 10.0), (180.0, 130.0), (10.0, 130.0)])
    meant = cv2.perspectiveTransform((corners * PPI / 25.4)[None], to_photo)[0]
    lies = cv2.perspectiveTransform(corners[None], found.to_px)[0]
    assert np.hypot(*(lies - meant).T).max() < 8


@pytest.mark.parametrize("family", ["corner", "dot"])
def test_a_picture_as_in_a_mirror_is_said_to_be_one(family: str) -> None:
    spec = item(1, quantity=6, edge=EdgeSpec(distance_mm=2.0))
    marks = MarksSpec(family=family, size_mm=8.0)
    plan = scene(spec, marks=marks, pictures={1: HOOK}, paper=SMALL).plan()
    page = a_page(plan, HOOK)
    sheet = replace(planned(plan), print_rgba=page.rgba, print_px_a_mm=page.px_a_mm)
    scan = cv2.resize(over_white(page.rgba), None, fx=PPI / 25.4 / page.px_a_mm, fy=PPI / 25.4 / page.px_a_mm)
    for flipped in (scan[:, ::-1], scan[::-1]):
        with pytest.raises(BadInput, match="as in a mirror"):
            compared_print(np.ascontiguousarray(flipped), sheet)
    assert not compared_print(np.ascontiguousarray(scan[::-1, ::-1]), sheet).missing


@pytest.mark.parametrize("side", [0, 1, 2, 3])
def test_a_piece_of_which_a_part_is_gone_is_no_whole_piece_and_the_twin_says_the_same(side: int) -> None:
    plan, scan = made(), ran(made())[1]
    sheet = planned(plan)
    shape = sheet.pieces[1].outline
    left, top, right, bottom = shape.bounds
    for gone in (0.1, 0.2, 1 / 3, 0.5):
        low, high, part = 0.0, 1.0, shapely.box(left, top, right, bottom)
        for _ in range(30):
            share = (low + high) / 2
            w, h = (right - left) * share, (bottom - top) * share
            part = (
                shapely.box(left, top, left + w, bottom),
                shapely.box(right - w, top, right, bottom),
                shapely.box(left, top, right, top + h),
                shapely.box(left, bottom - h, right, bottom),
            )[side]
            low, high = (share, high) if shape.intersection(part).area < gone * shape.area else (low, share)
        x0, y0, x1, y1 = (round(at * PPI / 25.4) for at in part.bounds)
        holed = scan.copy()
        holed[y0:y1, x0:x1] = 255
        found = compare_print(holed, sheet, rectify(holed, sheet)).pieces[1]
        # The twin's own figure for it: what of its ink is there.
        assert found.is_missing == (1 - gone < WHOLE_FROM)


def test_no_sheet_in_the_picture_is_a_sentence() -> None:
    noise = np.random.default_rng(1).integers(0, 255, (600, 800, 3)).astype(np.uint8)
    with pytest.raises(BadInput, match="at least three of its marks"):
        rectify(noise, planned(made()))
    with pytest.raises(BadInput, match="at least three"):
        rectify(np.full((500, 400, 3), 255, np.uint8), planned(made()))


def test_without_the_print_file_a_lost_piece_is_told_in_uneven_light_and_nothing_of_colours() -> None:
    plan = made()
    shade = np.linspace(0.55, 1.0, ran(plan, LOST)[1].shape[1])[None, :, None]
    picture = (ran(plan, LOST)[1] * shade).astype(np.uint8)
    sheet = replace(planned(plan), print_rgba=None)
    compared = compare_print(picture, sheet, rectify(picture, sheet))
    assert [piece.placement for piece in compared.missing] == [*LOST]
    assert compared.colour_shift_de is None


def test_guesses_of_where_the_marks_lie_are_different_ones() -> None:
    plan = made()
    grey = cv2.cvtColor(ran(plan, NONE)[1], cv2.COLOR_RGB2GRAY)
    small = cv2.resize(grey, (700, round(700 * grey.shape[0] / grey.shape[1])), interpolation=cv2.INTER_AREA)
    meant = np.array([(one.x_mm, one.y_mm) for one in mark_templates(planned(plan))])
    found = [project(to_px, meant) for to_px in sheet_candidates(small, planned(plan))]
    assert found
    for one, other in combinations(found, 2):
        assert np.abs(one - other).max() >= 6


def test_corners_shown_by_hand_are_enough() -> None:
    plan = made()
    _, scan = ran(plan, LOST)
    photo, to_photo = photographed(scan, Camera(7.0, 200.0, 12.0), 1350, 2)
    h, w = scan.shape[:2]
    seen = np.column_stack([[(0, 0), (w, 0), (w, h), (0, h)], np.ones(4)]) @ to_photo.T
    corners = seen[:, :2] / seen[:, 2:] + 4.0
    sheet = planned(plan)
    compared = compare_print(photo, sheet, rectify_by_corners(photo, sheet, corners))
    assert [piece.placement for piece in compared.missing] == [*LOST]


def test_loose_pieces_are_told_with_their_miss() -> None:
    plan = scene(
        item(1, quantity=5, edge=EdgeSpec(distance_mm=2.0)),
        item(2, quantity=2, width_mm=25.0),
        pictures=ARROWS,
        paper=Paper(200.0, 140.0),
    ).plan()
    runs, _ = ran(plan)
    devices = devices_of(plan)
    fine = 300
    page = with_ink(a_page(plan, ARROW), devices.printer, [], ())
    scan = print_scan(plan, devices, runs, page, 0, fine)
    picture, laid = on_table(scan, fine / 25.4, cut_pieces(plan, devices, runs, 0), 3)
    found = loose_pieces(picture, fine, planned(plan))
    assert len(found.pieces) == len(laid)
    assert not found.unknown
    for one in laid:
        # The miss is told in the design's own frame, however it lies.
        turn = np.radians(plan.sheets[0].placements[one.placement].turn_deg)
        back = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
        miss = back @ runs.miss_mm[0, one.placement]
        edge = plan.item(one.item).edge.shape
        middle = at(
            one.to_table, at(runs.prints[0], shapely.get_coordinates(plan.sheets[0].edges[one.placement].centroid))
        )[0]
        piece = min(found.pieces, key=lambda p: np.hypot(*(shapely.get_coordinates(p.outline.centroid)[0] - middle)))
        assert piece.item == one.item
        assert piece.off_mm is not None
        # Pages are drawn at 120 ppi in tests, and the renderer lays pictures on whole pixels.
        assert np.hypot(*(np.array(piece.off_mm) - miss)) < 0.3
        assert shapely.get_coordinates(piece.pose.of(edge.centroid))[0] == pytest.approx(middle, abs=0.3)
        assert piece.area_share == pytest.approx(1, abs=0.02)


@pytest.mark.parametrize(
    ("drawn", "colour", "stock", "unsure"),
    [
        # Pale yellow on white: hardly darker, but another colour.
        (HOOK, (250, 235, 120), "satin-vinyl", None),
        (ARROW, (255, 205, 215), "clear-vinyl", None),
        # A star of five alike points: how far it is off is told, and that the way is not known.
        (STAR, (40, 90, 160), "satin-vinyl", UnsureReason.TURNED),
        # Nearly the stock's own colour.
        (HOOK, (228, 228, 228), "clear-vinyl", UnsureReason.FAINT),
    ],
)
def test_single_coloured_pieces_are_told_as_well_or_as_unsure(
    drawn: Picture, colour: tuple[int, int, int], stock: str, unsure: UnsureReason | None
) -> None:
    picture = masked(drawn.alpha > 127, colour)
    plan = scene(
        item(1, quantity=2, edge=EdgeSpec(distance_mm=2.0), width_mm=32.0),
        pictures={1: picture},
        paper=Paper(130.0, 100.0),
        stock=stock,
    ).plan()
    devices, printed, fine = devices_of(plan), page_of(plan, 0), 300
    page = with_ink(a_page(plan, picture), devices.printer, [one.clip for one in printed.pictures], ())
    strokes = read_hpgl(HPGL.write(plan, 0, lambda _: picture), plan.job.paper)
    runs = simulate_sheet(plan, 0, page, facts_of(plan, 0, printed, page, strokes, devices.cutter), devices, 8, 2)
    scan = print_scan(plan, devices, runs, page, 0, fine)
    laid_on, laid = on_table(scan, fine / 25.4, cut_pieces(plan, devices, runs, 0), 2)
    sheet = replace(planned(plan), print_rgba=a_page(plan, picture).rgba, stock_rgb=rgb_of(plan.job.stock.colour))
    found = loose_pieces(laid_on, fine, sheet)
    assert len(found.pieces) == len(laid)
    for one in laid:
        turn = np.radians(plan.sheets[0].placements[one.placement].turn_deg)
        back = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
        miss = back @ runs.miss_mm[0, one.placement]
        middle = shapely.get_coordinates(plan.sheets[0].edges[one.placement].centroid)
        there = at(one.to_table, at(runs.prints[0], middle))[0]
        piece = min(found.pieces, key=lambda p: np.hypot(*(shapely.get_coordinates(p.outline.centroid)[0] - there)))
        assert piece.off_mm is not None
        assert piece.unsure in (None, unsure)
        if piece.unsure is None:
            assert np.hypot(*(np.array(piece.off_mm) - miss)) < 0.3
            assert piece.border_least_mm == pytest.approx(2 - np.hypot(*miss), abs=0.3)
        elif piece.unsure is UnsureReason.TURNED:
            assert piece.away_mm == pytest.approx(np.hypot(*miss), abs=0.15)
            assert piece.surely_off_mm is None
    if unsure is not None:
        assert {piece.unsure for piece in found.pieces} & {unsure}


@pytest.mark.parametrize("tilted", [False, True])
def test_a_weeded_sheet_shows_every_piece_and_its_miss(tilted: bool) -> None:
    plan = made()
    runs, _ = ran(plan)
    page = with_ink(a_page(plan, ARROW), devices_of(plan).printer, [], ())
    picture = result_scan(plan, devices_of(plan), runs, page, typical_run(runs), 250)
    if tilted:
        camera = Camera(tilt_deg=4.0, towards_deg=30.0, turn_deg=183.0, uneven=0.3)
        picture, _ = photographed(picture, camera, 2300, 2)
    sheet = planned(plan)
    found = weeded_sheet(picture, sheet, rectify(picture, sheet))
    assert (len(found.pieces), found.gone, found.unclear) == (6, (), ())
    for placement, piece in found.pieces:
        turn = np.radians(plan.sheets[0].placements[placement].turn_deg)
        back = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
        assert piece.off_mm is not None
        # Pages are drawn at 120 ppi in tests.
        assert np.hypot(*(np.array(piece.off_mm) - back @ runs.miss_mm[0, placement])) < 0.3


def test_a_sheet_on_which_hardly_a_piece_is_told_is_a_sentence() -> None:
    plan = made()
    runs, _ = ran(plan, NONE)
    page = with_ink(a_page(plan, ARROW), devices_of(plan).printer, [], ())
    picture = result_scan(plan, devices_of(plan), runs, page, 0, 150)
    sheet = planned(plan)
    larger = tuple(replace(one, edge=shapely.affinity.scale(one.edge, 1.25, 0.8)) for one in sheet.items)
    with pytest.raises(BadInput, match="piece"):
        weeded_sheet(picture, replace(sheet, items=larger), rectify(picture, sheet))


def test_a_piece_that_came_off_with_the_waste_is_gone() -> None:
    plan = made()
    runs, _ = ran(plan)
    page = with_ink(a_page(plan, ARROW), devices_of(plan).printer, [], ())
    picture = result_scan(plan, devices_of(plan), runs, page, 0, 200)
    sheet = planned(plan)
    lost = sheet.pieces[2]
    backing = picture[:, picture.shape[1] // 2][int(picture.shape[0] * 0.8)]
    left, top, right, bottom = (round(side * 200 / 25.4) for side in lost.edge.buffer(0.9).bounds)
    picture[top:bottom, left:right] = backing
    found = weeded_sheet(picture, sheet, rectify(picture, sheet))
    assert found.gone == (lost.placement,)


def test_a_piece_that_lost_a_third_is_torn() -> None:
    plan = made()
    runs, _ = ran(plan)
    page = with_ink(a_page(plan, ARROW), devices_of(plan).printer, [], ())
    picture = result_scan(plan, devices_of(plan), runs, page, 0, 200)
    sheet = planned(plan)
    lost = sheet.pieces[2]
    left, top, right, bottom = (round(side * 200 / 25.4) for side in lost.edge.buffer(0.9).bounds)
    # What is torn off leaves backing as it is elsewhere.
    x, y = (round(side * 200 / 25.4) for side in BARE_MM)
    backing = picture[y : y + 60, x : x + 60]
    gone = picture[top:bottom, left : left + (right - left) * 2 // 5]
    gone[:] = np.tile(backing, (10, 10, 1))[: gone.shape[0], : gone.shape[1]]
    found = weeded_sheet(picture, sheet, rectify(picture, sheet))
    assert (found.gone, found.torn, found.unclear) == ((), (lost.placement,), ())
    assert len(found.pieces) == 5


def test_a_thing_that_is_no_design_is_unknown_and_an_empty_ground_a_sentence() -> None:
    picture = np.full((900, 900, 3), (60, 70, 90), np.uint8)
    sheet = planned(made())
    with pytest.raises(BadInput, match="no pieces are to be seen"):
        loose_pieces(picture, 150, sheet)
    picture[200:240, 100:700] = 250
    assert len(loose_pieces(picture, 150, sheet).unknown) == 1


def test_a_thing_at_the_rim_of_the_picture_is_outlined_where_it_is() -> None:
    away = np.zeros((200, 300), np.float32)
    away[1:81, 2:102] = 30.0
    ((shape, unlike),) = contours_of(away, 10.0, 4.0)
    assert shape.bounds == pytest.approx((0.5, 0.25, 25.5, 20.25), abs=0.15)
    assert unlike == pytest.approx(30.0)


def test_a_result_shows_the_cut_the_marks_and_the_waste_that_stays() -> None:
    plan = made()
    runs, _ = ran(plan)
    devices = devices_of(plan)
    run = typical_run(runs)
    good = result_scan(plan, devices, runs, a_page(plan, ARROW), run, 100)
    assert good.shape == (551, 748, 3)
    mark = plan.setup.marks[0].box_mm
    corner = good[round((mark.y_mm + 0.4) / 0.254), round((mark.x_mm + 4) / 0.254)]
    assert corner.max() < 130
    hard = replace(devices, cutter=replace(devices.cutter, hardness=(2.2,)))
    page = a_page(plan, ARROW)
    strokes = read_hpgl(HPGL.write(plan, 0, lambda _: ARROW), plan.job.paper)
    facts = facts_of(plan, 0, page_of(plan, 0), page, strokes, hard.cutter)
    uncut = simulate_sheet(plan, 0, page, facts, hard, 3, 1)
    assert spoiling_of(uncut, 0, 0) is not None
    stays = result_scan(plan, hard, uncut, page, 0, 100)
    # Round a piece that is not through the waste stays: white where the backing would show.
    points = shapely.get_coordinates(plan.sheets[0].edges[0])
    x, y = (round(side / 0.254) for side in points[points[:, 1].argmax()])
    beside = (slice(y + 4, y + 8), slice(x - 3, x + 3))
    assert stays[beside].mean() > good[beside].mean() + 4


def test_a_part_of_a_result_is_drawn_as_it_is_in_the_whole() -> None:
    plan = made()
    sound, page = devices_of(plan), a_page(plan, ARROW)
    strokes = read_hpgl(HPGL.write(plan, 0, lambda _: ARROW), plan.job.paper)
    happened = set[str]()
    for cutter in (
        replace(sound.cutter, tuft=1.0, crease=True),
        sound.cutter,
        replace(sound.cutter, hardness=(2.2,)),
    ):
        devices = replace(sound, cutter=cutter)
        facts = facts_of(plan, 0, page_of(plan, 0), page, strokes, cutter)
        runs = simulate_sheet(plan, 0, page, facts, devices, 3, 1)
        if cutter is sound.cutter:
            runs.happened[Spoiling.LIFTED][:] = True
        whole = result_scan(plan, devices, runs, page, 0, 150)
        happened |= {cause for piece in cut_pieces(plan, devices, runs, 0) for cause in piece.happened}
        left, top, right, bottom = plan.sheets[0].edges[1].buffer(4).bounds
        for box in ((left, top, right - left, bottom - top), (-5.0, -5.0, 30.0, 40.0), (170.0, 120.0, 60.0, 60.0)):
            part = result_scan(plan, devices, runs, page, 0, 150, box).astype(float)
            x0, y0, x1, y1 = pixels_of(box, 150, whole.shape[:2])
            assert part.shape == (y1 - y0, x1 - x0, 3)
            # The grain of each picture is its own.
            apart = cv2.GaussianBlur(part - whole[y0:y1, x0:x1], (0, 0), 3)
            assert np.abs(apart).max() < 5
    assert happened >= {"torn", "lifted", "not-through"}


def test_an_island_in_a_hole_is_drawn_whichever_comes_first() -> None:
    ring, island = shapely.box(2, 2, 38, 38).difference(shapely.box(6, 6, 34, 34)), shapely.box(15, 15, 25, 25)
    for order in ([ring, island], [island, ring]):
        cover = filled(shapely.MultiPolygon(order), (40, 40))
        assert cover.sum() == pytest.approx(ring.area + island.area, rel=0.05)


def test_a_drawn_shape_is_as_large_as_it_is_and_peaks_lie_between_pixels() -> None:
    shape = shapely.Point(40.3, 37.8).buffer(20).difference(shapely.box(30, 30, 41.5, 36.25))
    cover = filled(shape, (80, 90))
    assert float(cover.sum()) == pytest.approx(shape.area, rel=0.008)
    y, x = np.mgrid[0:9, 0:11]
    column, row, _ = top_of(-((x - 4.3) ** 2) - (y - 5.2) ** 2)
    assert (column, row) == pytest.approx((4.3, 5.2), abs=0.02)


def test_a_print_that_lies_beside_its_place_is_told_by_how_much() -> None:
    plan = made()
    scan = ran(plan)[1].copy()
    left, top, right, bottom = (round(side * PPI / 25.4) for side in plan.sheets[0].edges[1].bounds)
    part = scan[top:bottom, left:right].copy()
    scan[top:bottom, left:right] = 250
    # Pixels to the right and up.
    across, up = 5, 3
    scan[top - up : bottom - up, left + across : right + across] = part
    sheet = planned(plan)
    compared = compare_print(scan, sheet, rectify(scan, sheet))
    moved, still = (next(one for one in compared.pieces if one.placement == place).off_mm for place in (1, 0))
    assert moved is not None
    assert still is not None
    shift = np.subtract(moved, still)
    # It is drawn a little towards its place, so that where nothing tells it lies there.
    assert shift == pytest.approx((across * 25.4 / PPI, -up * 25.4 / PPI), abs=0.15)


@pytest.mark.parametrize("turned", [0.0, 5.0, -4.0])
def test_a_print_is_found_where_it_lies_under_its_cut(turned: float) -> None:
    """A drawing of soft blots, laid into a scan by the pose that is to be found."""
    px, left, top = 8.0, -3.0, 2.0
    blots = cv2.GaussianBlur(np.random.default_rng(2).uniform(0, 255, (160, 200)).astype(np.float32), (0, 0), 6)
    blots = (blots - blots.min()) * np.float32(255 / np.ptp(blots))
    true = Pose(31.0, 27.0, 20.0 + turned)
    linear = rotation_matrix(np.radians(true.turn_deg))
    half = np.array([0.5, 0.5])
    onto = linear @ (np.array([left, top]) * px) + np.array([true.x_mm, true.y_mm]) * px
    scan = cv2.warpAffine(blots, np.column_stack([linear, linear @ half + onto - half]), (640, 640), borderValue=128)
    meant = PrintTemplate(blots, np.full(blots.shape, 255, np.uint8), left, top, GREY)
    place = print_pose(in_colour(scan), px, meant, Pose(30.6, 27.3, 20.0))
    assert place.is_sure
    found = place.pose
    assert found.turn_deg == pytest.approx(true.turn_deg, abs=0.1)
    assert (found.x_mm, found.y_mm) == pytest.approx((true.x_mm, true.y_mm), abs=0.035)


@pytest.mark.parametrize(("waves_mm", "is_one"), [(1.2, True), (1.7, False)])
def test_a_thing_is_a_design_whose_outline_is_within_nine_tenths_of_its_own(waves_mm: float, is_one: bool) -> None:
    """Waves on a circle are off by 2/π of their height in the mean."""
    turns = np.linspace(0, 2 * np.pi, 1200, endpoint=False)
    rim = 20 + waves_mm * np.sin(30 * turns)
    disc, wavy = (np.column_stack([r * np.cos(turns), r * np.sin(turns)]) for r in (np.full(1200, 20.0), rim))
    edge = shapely.MultiPolygon([shapely.Polygon(wavy)])
    assert bool(candidate_poses(shapely.Polygon(disc), ItemReference(1, edge, edge))) == is_one


def test_a_picture_that_lies_straight_already_stays_as_it_is() -> None:
    picture = np.random.default_rng(4).integers(0, 255, (90, 120, 3), dtype=np.uint8)
    scale = np.diag([6.0, 6.0, 1.0])
    assert np.array_equal(warped(picture, scale, 20.0, 15.0, 6.0), picture)
    half = warped(picture, scale, 20.0, 15.0, 3.0)
    assert half.shape == (45, 60, 3)
    blocks = picture.reshape(45, 2, 60, 2, 3).mean(axis=(1, 3))
    assert np.abs(half - blocks).mean() < np.abs(np.roll(half, 1, axis=1) - blocks).mean() / 2


def test_of_designs_of_one_outline_the_one_whose_print_is_there_is_told() -> None:
    """Two blots of one shape: one darker above, one darker below, on paper that grows darker to the right."""
    rows, columns = np.mgrid[:96, :96].astype(np.float32)
    mask = np.where(np.hypot(rows - 48, columns - 48) < 40, 255, 0).astype(np.uint8)
    above, below = 60 + rows, 156 - rows
    shape = shapely.MultiPolygon([shapely.Point(6, 6).buffer(5)])
    items = [ItemReference(number, shape, shape) for number in (1, 2)]
    prints: dict[int, PrintTemplate | None] = {
        1: PrintTemplate(above, mask, 0.0, 0.0, GREY),
        2: PrintTemplate(below, mask, 0.0, 0.0, GREY),
    }
    alike = [(one, Pose(4.0, 4.0, 0.0)) for one in items]
    for number, drawn in ((1, above), (2, below)):
        scan = np.full((200, 200), 230, np.float32) - np.arange(200, dtype=np.float32) / 4
        part = scan[32:128, 32:128]
        part[mask > 0] = 0.3 * drawn[mask > 0] + 40
        # What lies beside it looks like the other one.
        part[mask == 0] = 255 - drawn[mask == 0]
        assert best_match(in_colour(scan), 8.0, prints, alike).item.item == number
    assert best_match(in_colour(scan), 8.0, {1: None, 2: None}, alike).item.item == 1
