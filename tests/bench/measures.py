"""Marks and Print: how exactly a calibration is fitted, pages are compensated and misses foretold, and how fast."""

import numpy as np
import pypdfium2

from tests.bench.over_http import server
from tests.bench.table import Row, timed
from tests.core.test_calibrate import LETTER, LIVE, readings_of
from tests.scenes import DISC, item, scene
from vamper.core.effective_job import effective_job
from vamper.core.marks.budget import ErrorBudget
from vamper.core.marks.calibrate import fit
from vamper.core.marks.reading import scene_of
from vamper.core.marks.vernier import vernier_sheet
from vamper.core.plan import page_of, set_up_sheet
from vamper.core.values.calibration import landing
from vamper.core.values.job import Job
from vamper.core.values.printer import Printer, PrintScale
from vamper.core.values.reading import RoomLight
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.formats.out.print_pdf import write_pdf
from vamper.services.handoff.measuring import vernier_file

_PPI = 1200


def fits() -> list[Row]:
    """A thousand machines, each read off at the sheet's own eight places, rounded to a tenth of a millimetre."""
    random = np.random.default_rng(11)
    scales = vernier_sheet(LETTER, LIVE, "x").scales
    read = {(one.x_mm, one.y_mm, one.axis) for one in scales}
    places = sorted({(one.x_mm, one.y_mm) for one in scales})
    x, y = np.meshgrid(np.linspace(10.8, 205.1, 9), np.linspace(10.8, 268.6, 9))
    sheet = np.column_stack([x.ravel(), y.ravel()])
    means, worst = [], 0.0
    for _ in range(1000):
        matrix = np.array([[1, 0, 0], [0, 1, 0]]) + random.uniform(-1, 1, (2, 3)) * (0.003, 0.003, 0.8)
        readings = [one for one in readings_of(matrix, places, 0.1) if (one.x_mm, one.y_mm, one.axis) in read]
        off = np.hypot(*(landing(np.array(fit(readings).map), sheet) - landing(matrix, sheet)).T)
        means.append(off.mean())
        worst = max(worst, float(off.max()))
    return [
        Row("eight readings rounded to 0.1 mm: mean error over the sheet", f"{np.mean(means):.3f} mm", "0.06 mm"),
        Row("eight readings rounded to 0.1 mm: worst of 1,000", f"{worst:.3f} mm", "0.15 mm"),
    ]


def compensated() -> list[Row]:
    """The marks of a page that is drawn by the inverse of a scale, rendered and measured from rim to rim."""
    worst = 0.0
    for scale in (PrintScale(0.994, 0.994), PrintScale(1.01, 0.985)):
        plan = scene(item(), printer=Printer(scale=scale)).plan()
        pdf = write_pdf(page_of(plan, 0), lambda _: DISC, "bench")
        dark = np.asarray(pypdfium2.PdfDocument(pdf)[0].render(scale=_PPI / 72).to_pil().convert("L")) < 128
        for axis, side, true in ((0, LETTER.width_mm, scale.x), (1, LETTER.height_mm, scale.y)):
            inked = np.flatnonzero(dark.any(axis=axis))
            seen = (inked[-1] + 1 - inked[0]) * 25.4 / _PPI
            worst = max(worst, abs(seen - (side - 2 * plan.job.marks.inset_mm) / true))
    return [Row("a page compensated for the printer's scale, read back: off by", f"{worst:.3f} mm", "0.05 mm")]


def budgets() -> list[Row]:
    """The 95-of-100 miss and the chance to be read, against errors drawn by lot."""
    random = np.random.default_rng(5)
    worst = 0.0
    for along, slip, far in ((0.0, 0.1, 0.0), (0.3, 0.1, 0.001), (0.8, 0.0, 0.002)):
        budget = ErrorBudget(0.12, far, slip, along, (108, 140), (100, 130))
        at = np.array([[205.0, 270.0]])
        sigmas = budget.sigmas(at, 2)[0]
        drawn = random.normal(size=(400_000, 2)) * sigmas
        worst = max(worst, abs(budget.miss_mm(at, 2)[0] / np.quantile(np.hypot(*drawn.T), 0.95) - 1))
    off = 0.0
    for stock, light in (("gloss-vinyl", RoomLight.USUAL), ("shimmer-vinyl", RoomLight.DIM), ("kraft-card", 0.4)):
        job = effective_job(Job(paper=LETTER, stock=STOCK_BY_KEY[stock], room_light=light))
        met = scene_of(job)
        read = met.signal / met.noise - met.sensor.t > random.logistic(size=(200_000, 4))
        off = max(off, abs(read.all(axis=1).mean() - met.chance**4))
    return [
        Row("miss budget against errors drawn by lot: off by", f"{worst * 100:.2f} %", "2 %"),
        Row("chance to be read against tries drawn by lot: off by", f"{off * 100:.2f} points", "1 point"),
    ]


def speeds() -> list[Row]:
    """From a moved slider to its picture, as the screen asks for it, and a calibration sheet with its cut file."""
    with server() as (client, _):
        job = client.post("/api/jobs", json={"title": "Bench"}).json()["id"]
        client.post(f"/api/jobs/{job}/changes", json={"label": "x", "changes": {"stock": "shimmer-vinyl"}})
        waits = [
            timed(lambda room=room: client.get(f"/api/jobs/{job}/reading", params={"room": room}).raise_for_status())
            for room in np.linspace(0.05, 1.45, 25)
        ]
    made = effective_job(Job(paper=LETTER, stock=STOCK_BY_KEY["satin-vinyl"]))
    setup = set_up_sheet(made)
    sheet = timed(lambda: [vernier_file(made, setup, kind) for kind in ("pdf", "svg", "dxf")], 3)
    return [
        Row("a slider on Marks: reading, picture and trace", f"{np.median(waits) * 1000:.0f} ms", "100 ms"),
        Row("the slowest of 25", f"{max(waits) * 1000:.0f} ms"),
        Row("a calibration sheet, to print and to cut", f"{sheet:.2f} s", "1 s"),
    ]


def rows() -> list[Row]:
    return [*fits(), *compensated(), *budgets(), *speeds()]
