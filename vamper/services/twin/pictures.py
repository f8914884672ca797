"""Pictures of what the simulated devices made."""

from vamper.core.twin.cut_out import typical_run
from vamper.core.twin.printer import Page
from vamper.core.twin.scan import BoxMm, Pixels, result_scan
from vamper.formats.out.picture_files import write_png
from vamper.services.twin.dry_runs import SENSED_PPI, Rehearsal, inked, sheet_page


def scanned(found: Rehearsal, sheet: int, ppi: float, run: int | None = None, box_mm: BoxMm | None = None) -> Pixels:
    """One run of a sheet (from 0), or of what lies in a box (left, top, width, height) as a scan; the typical run where
    none is asked for.
    """
    runs = found.sheets[sheet]
    page = page_at(found, sheet, ppi)
    shown = typical_run(runs) if run is None else run
    return result_scan(found.plan, found.devices, runs, page, shown, ppi, box_mm)


def page_at(found: Rehearsal, sheet: int, ppi: float) -> Page | None:
    """The printed page fine enough for a picture."""
    if ppi <= SENSED_PPI:
        return found.pages[sheet]
    return inked(found.plan, sheet, sheet_page(found.plan, sheet, found.pictures, ppi), found.devices, found.seed)


def result_png(found: Rehearsal, sheet: int, ppi: int) -> bytes:
    """A typical run of a sheet (from 0) as a scan (PNG)."""
    return write_png(scanned(found, sheet, ppi), ppi)
