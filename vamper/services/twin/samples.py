"""Sample pictures drawn by the twin, to try the photo check with: a print photographed on a table, a scan of the weeded
sheet, one of pieces.

Something is wrong on each, as one meets it: a picture that was lost, cuts that lie off.
"""

from dataclasses import replace

import numpy as np

from vamper.core.plan import Plan
from vamper.core.twin.cut_out import cut_pieces
from vamper.core.twin.faults import with_faults
from vamper.core.twin.photo import Camera, on_table, photographed
from vamper.core.twin.scan import Pixels, print_scan
from vamper.core.values.findings import BadInput
from vamper.core.values.twin import FaultKey
from vamper.core.values.units import MM_PER_INCH
from vamper.services.handoff.drafts import Pictures
from vamper.services.twin.dry_runs import devices_for, dry_run
from vamper.services.twin.pictures import page_at, scanned

PHOTO_PPI, PIECES_PPI = 150, 200
_LONGEST_PX = 1900
_CAMERA = Camera(tilt_deg=5.0, towards_deg=60.0, turn_deg=4.0, uneven=0.35, warmth=0.6)
_MOST_PIECES = 8


def sample_photo(plan: Plan, sheet: int, pictures: Pictures) -> Pixels:
    """A photo of a printed sheet (from 0) on a table, one picture of which was lost.

    Raises
    ------
    BadInput
        If the stock is not printed.
    """
    if not plan.job.stock.printable:
        raise BadInput("this stock is not printed, so there is no print to photograph", "stock")
    devices = with_faults(devices_for(plan), (FaultKey.LOST_PICTURE,))
    found = dry_run(plan, pictures, 1, 3, devices)
    page = page_at(found, sheet, PHOTO_PPI)
    assert page is not None
    scan = print_scan(found.plan, devices, found.sheets[sheet], page, 0, PHOTO_PPI)
    return photographed(scan, _CAMERA, _LONGEST_PX, 3)[0]


def sample_weeded(plan: Plan, sheet: int, pictures: Pictures) -> Pixels:
    """A scan of a weeded sheet (from 0), as its usual run came out.

    Raises
    ------
    BadInput
        If the pieces of the stock do not stay on a backing.
    """
    if not plan.job.stock.has_backing:
        raise BadInput("the pieces of this stock do not stay on a backing; lay them on a plain ground", "stock")
    found = dry_run(plan, pictures, 5, 4)
    return scanned(found, sheet, PIECES_PPI)


def sample_pieces(plan: Plan, sheet: int, pictures: Pictures) -> Pixels:
    """A scan of some cut pieces of a sheet (from 0) on a plain ground."""
    devices = devices_for(plan)
    devices = replace(devices, cutter=replace(devices.cutter, tuft=0.0, hold=1.0))
    found = dry_run(plan, pictures, 1, 5, devices)
    runs = found.sheets[sheet]
    runs = replace(runs, read=np.ones_like(runs.read))
    pieces = cut_pieces(found.plan, devices, runs, 0)[:_MOST_PIECES]
    page = page_at(found, sheet, PIECES_PPI)
    if page is None:
        raise BadInput("this stock is not printed, so its pieces show no miss", "stock")
    scan = print_scan(found.plan, devices, runs, page, 0, PIECES_PPI)
    return on_table(scan, PIECES_PPI / MM_PER_INCH, pieces, 5)[0]
