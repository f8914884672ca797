"""Pictures of what the simulated devices made."""

from itertools import product

import numpy as np

from vamper.core.twin.cut_out import typical_run
from vamper.core.twin.printer import PrintedRaster, page_to_pixels
from vamper.core.twin.scan import BESIDE_MM, BoxMm, Pixels, result_scan
from vamper.core.values.units import MM_PER_INCH
from vamper.formats.out.page_png import Part
from vamper.formats.out.picture_files import write_png
from vamper.services.twin.dry_runs import SENSED_PPI, DryRunFiles, inked, sheet_page

# A pixel is mixed from its neighbours.
_RIM_PX = 3


def scanned(found: DryRunFiles, sheet: int, ppi: float, run: int | None = None, box_mm: BoxMm | None = None) -> Pixels:
    """One run of a sheet (from 0), or of what lies in a box (left, top, width, height) as a scan; the typical run where
    none is asked for.
    """
    runs = found.sheets[sheet]
    shown = typical_run(runs) if run is None else run
    part = None if box_mm is None else _part_under(found, sheet, ppi, shown, box_mm)
    return result_scan(found.plan, found.devices, runs, page_at(found, sheet, ppi, part), shown, ppi, box_mm)


def page_at(found: DryRunFiles, sheet: int, ppi: float, part: Part | None = None) -> PrintedRaster | None:
    """The printed page, or a part of it, fine enough for a picture."""
    if ppi <= SENSED_PPI:
        return found.pages[sheet]
    page = sheet_page(found.plan, sheet, found.pictures, ppi, part)
    return inked(found.plan, sheet, page, found.devices, found.seed)


def _part_under(found: DryRunFiles, sheet: int, ppi: float, run: int, box_mm: BoxMm) -> Part | None:
    """The part of a page that may be seen in a box of the sheet, or beside it, as it came to lie in a run; None where
    nothing is printed.
    """
    page, (left, top, width, height) = found.pages[sheet], box_mm
    if page is None:
        return None
    across, down = (left - BESIDE_MM, left + width + BESIDE_MM), (top - BESIDE_MM, top + height + BESIDE_MM)
    to_sheet = page_to_pixels(page, found.sheets[sheet].prints[run], page.px_a_mm)
    corners = np.array(list(product(across, down))) * page.px_a_mm - to_sheet[:, 2]
    on_page = corners @ np.linalg.inv(to_sheet[:, :2]).T * ppi / page.ppi
    size = np.round(np.array([page.paper.width_mm, page.paper.height_mm]) * ppi / MM_PER_INCH).astype(int)
    first = np.clip(np.floor(on_page.min(axis=0)).astype(int) - _RIM_PX, 0, size - 1)
    last = np.clip(np.ceil(on_page.max(axis=0)).astype(int) + _RIM_PX, first + 1, size)
    return int(first[0]), int(first[1]), int(last[0] - first[0]), int(last[1] - first[1])


def result_png(found: DryRunFiles, sheet: int, ppi: int) -> bytes:
    """A typical run of a sheet (from 0) as a scan (PNG)."""
    return write_png(scanned(found, sheet, ppi), ppi)
