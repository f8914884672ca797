"""What the club measured on its machines: three calibrations of the inkjet with the mat cutter, and an old printer
whose last proof came out short.
"""

from datetime import timedelta

import numpy as np

from vamper.core.effective_job import effective_job
from vamper.core.marks.calibrate import fit
from vamper.core.marks.vernier import MOST_TICK, expected_side, possible_miss, reading_of
from vamper.core.plan import set_up_sheet
from vamper.core.values.calibration import landing
from vamper.core.values.job import Job
from vamper.core.values.paper import USUAL_PAPER
from vamper.core.values.printer import Printer, PrintScale
from vamper.core.values.stock import USUAL_STOCK
from vamper.services.handoff.measuring import vernier_of
from vamper.services.shop.measured import Record
from vamper.services.workshop import Workshop
from vamper.store.tables import now

OLD_PRINTER = "the old inkjet upstairs"
_SHORT = PrintScale(0.994, 0.994)
# Days ago, where cuts landed then, and what was noted.
_HISTORY = (
    (204, ((1.0011, 0.0006, 0.62), (-0.0004, 0.9996, -0.31)), "first sheet with this cutter"),
    (96, ((1.0009, 0.0004, 0.35), (-0.0003, 0.9998, -0.22)), "after the new blade holder"),
    (11, ((1.001, 0.0005, 0.28), (-0.0003, 0.9997, -0.18)), "cutter firmware 1.08, printer driver 3.1"),
)


def measure(workshop: Workshop) -> int:
    """Put the measurements into a workshop; returns the old printer's number."""
    job = effective_job(Job(paper=USUAL_PAPER, stock=USUAL_STOCK))
    sheet = vernier_of(job, set_up_sheet(job))
    for days, rows, note in _HISTORY:
        matrix = np.array(rows)
        readings = []
        for scale in sheet.scales:
            place = np.array([[scale.x_mm, scale.y_mm]])
            off = float((landing(matrix, place) - place)[0]["xy".index(scale.axis)])
            coarse = round(off * 2) / 2
            tick = _meets(coarse, off)
            readings.append(reading_of(sheet, scale.number, tick, coarse))
        found = fit(readings)
        record = Record.of(found, readings, expected_side(sheet, found), note, "letter")
        workshop.shop.measured.keep(1, 1, USUAL_STOCK, record, now() - timedelta(days=days))
    return workshop.shop.printers.keep(OLD_PRINTER, Printer(scale=_SHORT))


def _meets(coarse_mm: float, off_mm: float) -> int:
    """The printed tick that a cut one meets best."""
    said = {tick: possible_miss(tick, coarse_mm) for tick in range(-MOST_TICK, MOST_TICK + 1)}
    return min(
        (tick for tick, miss in said.items() if miss is not None), key=lambda tick: abs((said[tick] or 0) - off_mm)
    )
