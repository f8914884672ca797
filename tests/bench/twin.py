"""The truth of the twin: what the plan foretells beside what the simulated machines do; pictures beside what they show;
and what a dry run takes.
"""

import io
import subprocess
import sys
import time
from functools import cache

import numpy as np
from PIL import Image

from tests.bench.table import Row
from tests.scenes import bars, item, scene
from vamper.core.marks.calibrate import VernierReading, fit
from vamper.core.plan import Plan
from vamper.core.twin.cut_out import cut_pieces
from vamper.core.twin.devices import Devices, devices_of
from vamper.core.twin.faults import with_faults
from vamper.core.twin.photo import Camera, on_table, photographed
from vamper.core.twin.practice import hidden_map
from vamper.core.twin.printer import at
from vamper.core.twin.scan import print_scan
from vamper.core.twin.simulate import lost_pieces
from vamper.core.values.calibration import Calibration
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper
from vamper.core.values.reading import RoomLight
from vamper.core.values.twin import FaultKey
from vamper.core.vision.loose_pieces import loose_pieces
from vamper.core.vision.print_comparison import compare_print
from vamper.core.vision.rectify import rectify
from vamper.core.vision.reference import SheetReference
from vamper.formats.plan_document import PlanDocument
from vamper.formats.plan_writing import plan_document
from vamper.formats.reference_in import reference_in
from vamper.services.handoff.files import sheet_file
from vamper.services.twin.dry_runs import DryRunFiles, dry_run
from vamper.services.twin.pictures import page_at, scanned

RUNS, PICTURES = 8000, 100
_ARROW = bars((60, 150, 260, 230), (240, 60, 300, 330))
_PICTURES = dict.fromkeys(range(1, 5), _ARROW)
_FAMILIES = ("corner", "frame", "dot", "cross", "ring")


def _ran(plan: Plan, devices: Devices | None = None, runs: int = RUNS, seed: int = 1) -> DryRunFiles:
    return dry_run(plan, lambda item: _PICTURES[item.number], runs, seed, devices)


def truth() -> list[Row]:
    """Foretold and simulated: miss, reading, depth; and a calibration found from readings of the twin's own map."""
    rows = []
    specs = (item(1, quantity=8), item(2, quantity=4, width_mm=25.0))
    known = Calibration(residual_mm=0.05, read_mm=0.1, slip_mm=0.1)
    for words, plan in (
        ("before any calibration", scene(*specs, pictures=_PICTURES).plan()),
        ("calibrated", scene(*specs, calibration=known, pictures=_PICTURES).plan()),
        ("with three marks", scene(*specs, marks=MarksSpec(count=3), pictures=_PICTURES).plan()),
    ):
        found, foretold = _ran(plan).outcome, plan.misses_mm(0)
        apart = max(abs((one.miss_p95_mm or 0) / miss - 1) for one, miss in zip(found.pieces, foretold, strict=True))
        rows.append(Row(f"miss of 95 of 100 pieces, {words}: farthest apart", f"{apart * 100:.1f} %", "3 %"))
        if words != "with three marks":
            # The middle of a Rayleigh distribution beside its 95 %.
            middle = float(np.median(foretold)) / 2.448 * 1.1774
            rows.append(Row(f"  its middle, {words}", f"{((found.miss_p50_mm or 0) / middle - 1) * 100:+.1f} %", "3 %"))
    apart = []
    for stock, light in (
        ("satin-vinyl", RoomLight.USUAL),
        ("shimmer-vinyl", RoomLight.BRIGHT),
        ("kraft-card", RoomLight.USUAL),
    ):
        for family in _FAMILIES:
            marks = MarksSpec(family=family, size_mm=8.0)
            plan = scene(item(1), stock=stock, room_light=light, marks=marks, pictures=_PICTURES).plan()
            assert plan.reading is not None
            apart.append(abs(_ran(plan).outcome.marks_read - plan.reading.chance) * 100)
    rows.append(Row("marks read, 15 scenes: farthest apart, points", f"{max(apart):.1f}", "2"))
    apart = []
    for stock in ("satin-vinyl", "matte-label", "gloss-vinyl", "card", "shrink-film"):
        plan = scene(item(1, quantity=2), stock=stock, pictures=_PICTURES).plan()
        cut = Cut.KISS if Cut.KISS in plan.settings and plan.job.stock.has_backing else Cut.THROUGH
        clean = np.mean([one.cut_clean for one in _ran(plan, devices_of(plan, unsure=True)).outcome.pieces])
        read = plan.reading.chance if plan.reading is not None else 1.0
        apart.append(abs(clean - plan.settings[cut].chance * read) * 100)
    rows.append(Row("clean cuts on an unknown stock, 5 stocks: farthest apart, points", f"{max(apart):.1f}", "2"))
    return [*rows, *_calibrations()]


def _calibrations() -> list[Row]:
    """Vernier sheets of practice machines, read to a tenth with an eye's error, and what is left afterwards."""
    paper, random = Paper(215.9, 279.4), np.random.default_rng(2)
    offs, left, reckoned = [], [], []
    for seed in range(1, 31):
        hidden = hidden_map(seed, paper)
        places = np.array([(30.0, 30.0), (185.0, 30.0), (30.0, 250.0), (185.0, 250.0)])
        misses = at(np.array(hidden), places) - places
        eye = np.round((misses + random.normal(0, 0.03, misses.shape)) * 10) / 10
        readings = [
            VernierReading(float(x), float(y), axis, float(eye[n, k]))
            for n, (x, y) in enumerate(places)
            for k, axis in enumerate(("x", "y"))
        ]
        found = fit(readings)
        grid = np.array([(x, y) for x in (20.0, 108.0, 195.0) for y in (20.0, 140.0, 260.0)])
        asked = Calibration(map=found.map).corrected(grid)
        rest = np.hypot(*(at(np.array(hidden), asked) - grid).T)
        offs.append(float(np.hypot(*misses.T).mean()))
        left.append(float(np.sqrt((rest**2).mean())))
        reckoned.append(found.left_mm * np.sqrt(2))
    return [
        Row("practice machines off, in the mean of 30", f"{np.mean(offs):.2f} mm"),
        Row("  after calibration, read by a tenth", f"{np.mean(left):.3f} mm, at most {max(left):.3f}"),
        Row(
            "  left over all of them (rms), beside what their profiles reckon with",
            f"{np.sqrt(np.mean(np.square(left))):.3f} of {np.sqrt(np.mean(np.square(reckoned))):.3f} mm",
            "no more",
        ),
    ]


@cache
def _sheet(family: str, count: int) -> tuple[Plan, SheetReference]:
    spec = (
        item(1, quantity=6, edge=EdgeSpec(distance_mm=2.0)),
        item(2, quantity=6, width_mm=28.0, edge=EdgeSpec(distance_mm=1.5)),
    )
    marks = MarksSpec(family=family, count=count, size_mm=8.0)  # type: ignore[arg-type]
    plan = scene(*spec, marks=marks, pictures=_PICTURES).plan()
    data = sheet_file(plan, 0, "print", lambda one: _PICTURES[one.number])
    return plan, reference_in(PlanDocument.read(plan_document(plan, ()).write()), 1, lambda _name: data)


def compared() -> list[Row]:
    """Photos of prints with tilt, uneven light, JPEG 70, 150 to 300 ppi; half of them lack one piece."""
    random, overlooked, alarms, scales, spent = np.random.default_rng(7), 0, 0, [], []
    for number in range(PICTURES):
        family = _FAMILIES[number % len(_FAMILIES)]
        plan, sheet = _sheet(family, 4)
        faults = (FaultKey.LOST_PICTURE,) if number % 2 else ()
        devices = with_faults(devices_of(plan), faults)
        ran = _ran(plan, devices, 1, number + 1)
        ppi = (150, 200, 300)[number % 3]
        page = page_at(ran, 0, ppi)
        assert page is not None
        scan = print_scan(ran.plan, devices, ran.sheets[0], page, 0, ppi)
        camera = Camera(
            float(random.uniform(0, 8)),
            float(random.uniform(0, 360)),
            float(random.choice([0, 180]) + random.uniform(-12, 12)),
            uneven=float(random.uniform(0, 0.7)),
            warmth=float(random.uniform(0, 1)),
        )
        photo, _ = photographed(scan, camera, round(11 / 0.86 * ppi), number)
        out = io.BytesIO()
        Image.fromarray(photo).save(out, "JPEG", quality=70)
        picture = np.asarray(Image.open(out))
        started = time.perf_counter()
        found = compare_print(picture, sheet, rectify(picture, sheet))
        spent.append(time.perf_counter() - started)
        lost = set(lost_pieces(devices, number + 1, 0, len(sheet.pieces)))
        seen = {piece.placement for piece in (*found.missing, *found.pale)}
        overlooked += len(lost - seen)
        alarms += len(seen - lost)
        flat = rectify(scan, sheet).scale(sheet, ppi)
        scales.append(max(abs(side - 1) for side in flat))
    return [
        Row(f"pieces without print, overlooked in {PICTURES} photos", str(overlooked), "0"),
        Row("  false alarms", str(alarms), "1"),
        Row("scale in flat scans, farthest off", f"{max(scales) * 100:.3f} %", "0.2 %"),
        Row("a photo: median, slowest", f"{np.median(spent):.1f} s, {max(spent):.1f} s"),
    ]


def loose() -> list[Row]:
    """Cut pieces on a table at 300 ppi: whose they are, and how far their miss is from the true one."""
    wrong, apart = 0, []
    for number in range(6):
        plan, sheet = _sheet("corner", 4)
        devices = devices_of(plan)
        ran = _ran(plan, devices, 1, number + 1)
        page = page_at(ran, 0, 300)
        assert page is not None
        runs = ran.sheets[0]
        scan = print_scan(ran.plan, devices, runs, page, 0, 300)
        picture, laid = on_table(scan, 300 / 25.4, cut_pieces(ran.plan, devices, runs, 0), number)
        found = loose_pieces(picture, 300, sheet)
        for one in laid:
            turn = np.radians(plan.sheets[0].placements[one.placement].turn_deg)
            back = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
            middle = np.array(plan.sheets[0].edges[one.placement].centroid.coords)
            there = at(one.to_table, at(runs.prints[0], middle))[0]
            near = min(found.pieces, key=lambda piece: np.hypot(*(np.array(piece.outline.centroid.coords[0]) - there)))
            wrong += [entry.number for entry in plan.items][near.item] != one.item
            assert near.off_mm is not None
            apart.append(float(np.hypot(*(np.array(near.off_mm) - back @ runs.miss_mm[0, one.placement]))))
    return [
        Row(f"{len(apart)} loose pieces told wrongly", str(wrong), "0"),
        Row(
            "miss of a piece at 300 ppi: 95 of 100, farthest",
            f"{np.percentile(apart, 95):.3f}, {max(apart):.3f} mm",
            "0.12 mm",
        ),
    ]


def times() -> list[Row]:
    """A full letter sheet: one dry run with its picture, 200 without, and the memory of a process that does both."""
    plan = scene(*(item(n, quantity=8, width_mm=30.0) for n in (1, 2, 3)), pictures=_PICTURES).plan()
    _ran(plan, None, 1)
    started = time.perf_counter()
    scanned(_ran(plan, None, 1), 0, 150)
    once = time.perf_counter() - started
    started = time.perf_counter()
    _ran(plan, None, 200)
    many = time.perf_counter() - started
    return [
        Row(
            f"one dry run of {plan.layout.pieces} pieces on a letter sheet, with its picture", f"{once:.2f} s", "1.5 s"
        ),
        Row("200 runs, without", f"{many:.2f} s", "10 s"),
        Row("memory of a process that does both", f"{_peak_mb():.0f} MB", "1000 MB"),
    ]


def _peak_mb() -> float:
    code = "from tests.bench import table, twin; twin._work(); print(table.peak_mb('self'))"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    return float(done.stdout.split()[-1])


def _work() -> None:
    plan = scene(*(item(n, quantity=8, width_mm=30.0) for n in (1, 2, 3)), pictures=_PICTURES).plan()
    scanned(_ran(plan, None, 200), 0, 150)
