"""What is told of pictures of sheets: weeded ones, used ones, and what lies on them by its print."""

from collections.abc import Iterator
from dataclasses import replace
from itertools import islice
from typing import Any

import cv2
import numpy as np
import shapely

from tests.core.test_compare import ARROW, made, planned, ran
from tests.core.test_twin import a_page
from tests.core.test_used_sheets import PX_A_MM, sheet_picture
from vamper.core.twin.cut_out import typical_run
from vamper.core.twin.devices import devices_of
from vamper.core.twin.printer import with_ink
from vamper.core.twin.scan import result_scan
from vamper.core.vision.contours import background_of, contours_of, distance_from, foreground_contours, lab_image
from vamper.core.vision.pose import candidate_poses
from vamper.core.vision.print_comparison import compare_print
from vamper.core.vision.rectify import rectify
from vamper.core.vision.sheet_candidates import mark_templates, project, sheet_candidates
from vamper.core.vision.used_area import used_areas
from vamper.core.vision.weeded_sheet import weeded_sheet

Told = Iterator[tuple[str, Any]]
_PPI = 200


def pictures() -> Told:
    """Pieces on their backing, what is gone of a used sheet, marks that are guessed, rims and their print."""
    plan = made()
    sheet, (runs, scan) = planned(plan), ran(plan)
    page = with_ink(a_page(plan, ARROW), devices_of(plan).printer, [], ())
    picture = result_scan(plan, devices_of(plan), runs, page, typical_run(runs), _PPI)
    lost = sheet.pieces[2]
    backing = picture[:, picture.shape[1] // 2][int(picture.shape[0] * 0.8)]
    left, top, right, bottom = (round(side * _PPI / 25.4) for side in lost.edge.buffer(0.9).bounds)
    picture[top:bottom, left:right] = backing
    weeded = weeded_sheet(picture, sheet, rectify(picture, sheet))
    said = [[n, one.item, one.pose, one.off_mm, one.area_share] for n, one in weeded.pieces]
    yield "weeded", [said, weeded.gone, weeded.unclear]
    for slope in (0.1, 0.3):
        used = sheet_picture((20.0, 30.0, 60.0, 40.0), (120.0, 150.0, 50.0, 90.0), (30.0, 200.0, 8.0, 6.0), slope=slope)
        yield f"gone {slope:g}", used_areas(used, PX_A_MM)
    for family, count in (("corner", 4), ("frame", 4)):
        other = made(family, count)
        grey = cv2.cvtColor(ran(other)[1], cv2.COLOR_RGB2GRAY)
        small = cv2.resize(grey, (700, round(700 * grey.shape[0] / grey.shape[1])), interpolation=cv2.INTER_AREA)
        meant = np.array([(one.x_mm, one.y_mm) for one in mark_templates(planned(other))])
        yield (
            f"guesses {family}",
            [project(to_px, meant) for to_px in islice(sheet_candidates(small, planned(other)), 4)],
        )
    dimmed = (scan * np.linspace(0.6, 1.0, scan.shape[1])[None, :, None]).astype(np.uint8)
    by_outline = replace(sheet, print_rgba=None)
    compared = compare_print(dimmed, by_outline, rectify(dimmed, by_outline))
    yield "by outline", [compared.pieces, [one.placement for one in compared.missing], compared.colour_shift_de]
    away = np.zeros((220, 320), np.float32)
    away[1:81, 2:102], away[100:200, 40:240], away[120:140, 80:90], away[210:213, 30:260] = 30.0, 12.0, 0.0, 40.0
    away = cv2.GaussianBlur(away, (0, 0), 2.0)
    yield "outlines", list(contours_of(away, 10.0, 4.0))
    ground = np.full((500, 700, 3), (90, 140, 70), np.uint8)
    ground += (np.mgrid[:500, :700][1][..., None] // 20).astype(np.uint8)
    for x, y, turn in ((180, 200, 12.0), (480, 260, 205.0)):
        corners = cv2.boxPoints(((x, y), (190, 120), turn))
        cv2.fillPoly(ground, [corners.round().astype(np.int32)], (240, 238, 230))
    lab = lab_image(ground)
    for shaded in (False, True):
        yield f"away {shaded}", distance_from(lab, background_of(lab[:8].reshape(-1, 3)), shaded)
    lying = foreground_contours(ground, 4.0)
    yield "things", lying
    yield "fits", [candidate_poses(thing, one) for thing in lying for one in sheet.items]
    plain = replace(sheet.items[0], edge=shapely.MultiPolygon([shapely.box(0, 0, 30, 30)]))
    for turn in (0.0, 20.0, 45.0):
        square = shapely.affinity.rotate(shapely.box(50, 60, 80, 90), turn)
        yield f"fits a square {turn:g}", sorted(round(pose.turn_deg) % 90 for _, pose in candidate_poses(square, plain))
