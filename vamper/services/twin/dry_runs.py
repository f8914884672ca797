"""A dry run of a plan: the very files of each sheet go to the simulated devices, many times over.

Sheets on which the same pieces lie the same way are printed and cut from the same files, so these are read once.
"""

import io
from collections.abc import Callable, Hashable
from dataclasses import dataclass, replace
from functools import partial

import numpy as np
import numpy.typing as npt
from PIL import Image

from vamper.core.art.picture import Picture
from vamper.core.plan import Plan, cut_of, page_of
from vamper.core.printing.page_box import page_for
from vamper.core.program.picture import picture_frame
from vamper.core.twin.devices import Devices, TwinPrinter, devices_of
from vamper.core.twin.dry_run import DryRun, summed_up
from vamper.core.twin.faults import with_faults
from vamper.core.twin.pieces import SheetFacts, facts_of
from vamper.core.twin.practice import practice_cutter, practice_printer, practice_sensor
from vamper.core.twin.printer import PrintedRaster, with_ink
from vamper.core.twin.program_cutter import printed_by_program, strokes_found
from vamper.core.twin.simulate import SimulationResult, lost_pieces, simulate_sheet
from vamper.core.twin.strokes import CutStroke
from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH
from vamper.formats.cut_in.hpgl import read_hpgl
from vamper.formats.out.page_png import Part, page_in
from vamper.services.handoff.drafts import Pictures, drafted
from vamper.services.handoff.files import PRINT_KEY, sheet_file
from vamper.services.work.cache import Cache

CUT_KEY, PICTURE_KEY = "cut_hpgl", "picture"
# Fine enough for a sensor to find a mark to a hundredth of a millimetre.
SENSED_PPI = 150
MOST_RUNS = 2000
# Pictures are laid on whole pixels of the renderer; what is looked at closely is drawn finer.
_FINER = 2
# The picture that a program got last, and what it printed of it.
_GIVEN_BYTES = 40 * 2**20
_GIVEN: Cache[tuple[Plan, Picture]] = Cache(_GIVEN_BYTES, lambda given: given[1].rgba.nbytes)
_PRINTED: Cache[tuple[Plan, npt.NDArray[np.uint8]]] = Cache(_GIVEN_BYTES, lambda printed: printed[1].nbytes)


class Stopped(Exception):
    """The person who asked for a dry run does not want it any more."""


@dataclass(frozen=True)
class DryRunFiles:
    """A dry run with all that its pictures are drawn from.

    Parameters
    ----------
    plan, pictures : Plan, Pictures
        What was made, and a draft's pictures of it.
    devices : Devices
        What it was made with.
    pages, sheets : tuple of PrintedRaster or None, tuple of SimulationResult
        Each sheet's print, and what was done with it.
    outcome : DryRun
        What came of it.
    seed, number : int, int
        Of its random draws; its number in the workshop.
    """

    plan: Plan
    pictures: Pictures
    devices: Devices
    pages: tuple[PrintedRaster | None, ...]
    sheets: tuple[SimulationResult, ...]
    outcome: DryRun
    seed: int
    number: int = 0


def devices_for(plan: Plan, unsure: bool = False) -> Devices:
    """The devices of a plan: simulated devices with their own errors, and the faults that its job switches on."""
    return with_faults(practised(devices_of(plan, unsure), plan), plan.job.twin.faults if plan.job.twin else ())


def practised(devices: Devices, plan: Plan) -> Devices:
    """Devices with the errors of the practice bench, where the job is made on it."""
    job = plan.job
    if job.printer.practice is not None:
        devices = replace(devices, printer=practice_printer(devices.printer, job.printer.practice))
    if job.cutter.practice is not None:
        seed = job.cutter.practice
        devices = replace(
            devices,
            cutter=practice_cutter(devices.cutter, seed, job.stock.key, job.paper),
            sensor=practice_sensor(devices.sensor, seed),
        )
    return devices


def sheet_page(
    plan: Plan, sheet: int, pictures: Pictures, ppi: float = SENSED_PPI, part: Part | None = None
) -> PrintedRaster | None:
    """The print file of a sheet (from 0), or a part of it (pixels of the paper), as the printer gets it; None for stock
    that is not printed.
    """
    if not plan.job.stock.printable:
        return None
    if plan.job.cutter.has_own_program:
        return _program_page(plan, sheet, pictures, ppi, part)
    paper, box = plan.job.paper, page_for(plan.job.paper, plan.job.printer)
    left, top = (round(side * ppi / MM_PER_INCH) for side in (box.left_mm, box.top_mm))
    whole = (round(side * ppi / MM_PER_INCH) for side in (paper.width_mm, paper.height_mm))
    x, y, width, height = part or (0, 0, *whole)
    file, finer = sheet_file(plan, sheet, PRINT_KEY, pictures), 1 if ppi <= SENSED_PPI else _FINER
    rgba = page_in(file, ppi, finer, (left + x, top + y, width, height))
    return PrintedRaster(rgba, ppi, paper, plan.job.printer.scale, (x, y))


def _program_page(plan: Plan, sheet: int, pictures: Pictures, ppi: float, part: Part | None) -> PrintedRaster:
    """The page of a sheet as the machine's own program prints it from its picture."""
    key = (*_drawn(plan), sheet, ppi)
    rgba = _PRINTED.get(
        key,
        lambda: (
            plan,
            printed_by_program(plan, _given_picture(plan, sheet, pictures), picture_frame(plan, sheet), ppi),
        ),
    )[1]
    x, y, width, height = part or (0, 0, rgba.shape[1], rgba.shape[0])
    return PrintedRaster(rgba[y : y + height, x : x + width], ppi, plan.job.paper, plan.job.printer.scale, (x, y))


def _given_picture(plan: Plan, sheet: int, pictures: Pictures) -> Picture:
    """The picture file of a sheet, read back as a program reads it: to print it, and to find its outlines."""

    def make() -> tuple[Plan, Picture]:
        with Image.open(io.BytesIO(sheet_file(plan, sheet, PICTURE_KEY, pictures))) as image:
            return plan, Picture(np.asarray(image.convert("RGBA")))

    return _GIVEN.get((*_drawn(plan), sheet), make)[1]


def _drawn(plan: Plan) -> tuple[Hashable, ...]:
    """The parts of a plan that its files are drawn from. Whatever is kept by them is kept with its plan, so that no
    other design can come to be where a design of its own was.
    """
    return plan.asked, plan.layout, tuple(id(item.outline) for item in plan.items)


def sheet_strokes(plan: Plan, sheet: int, pictures: Pictures) -> tuple[CutStroke, ...]:
    """The cut file of a sheet (from 0) as the cutter reads it; scissors follow the guide lines."""
    if not plan.job.cutter.is_machine:
        loops = cut_of(plan, sheet).loops
        return tuple(CutStroke(loop.cut, 0.0, 0.0, run) for loop in loops for run in loop.runs(0.0))
    if plan.job.cutter.has_own_program:
        return strokes_found(plan, _given_picture(plan, sheet, pictures), picture_frame(plan, sheet))
    return read_hpgl(sheet_file(plan, sheet, CUT_KEY, pictures), plan.job.paper)


def dry_run(
    plan: Plan,
    pictures: Pictures,
    runs: int,
    seed: int,
    devices: Devices | None = None,
    on_sheet: Callable[[int, int], None] = lambda _done, _all: None,
) -> DryRunFiles:
    """Run every sheet of a plan so many times.

    Parameters
    ----------
    on_sheet : callable
        Told now and then how many of how many sheets are done; it may raise `Stopped`.

    Raises
    ------
    BadInput
        If nothing lies on a sheet.
    """
    if not plan.sheets:
        raise BadInput("nothing lies on a sheet, so there is nothing to run; add art first", "items")
    devices = devices or devices_for(plan)
    plan, pictures = drafted(plan, pictures)
    known: dict[int, tuple[PrintedRaster | None, SheetFacts]] = {}
    pages, found = list[PrintedRaster | None](), list[SimulationResult]()
    for number, sheet in enumerate(plan.sheets):
        on_sheet(number, len(plan.sheets))
        if id(sheet.lying) not in known:
            printed = inked(plan, number, sheet_page(plan, number, pictures), devices, seed)
            known[id(sheet.lying)] = printed, facts_on(plan, number, pictures, printed, devices)
        page, facts = known[id(sheet.lying)]
        pages.append(page)
        going_on = partial(on_sheet, number, len(plan.sheets))
        found.append(simulate_sheet(plan, number, page, facts, devices, runs, seed, on_run=going_on))
    on_sheet(len(plan.sheets), len(plan.sheets))
    return DryRunFiles(
        plan,
        pictures,
        devices,
        tuple(pages),
        tuple(found),
        summed_up(tuple(item.number for item in plan.items), found),
        seed,
    )


def inked(plan: Plan, sheet: int, page: PrintedRaster | None, devices: Devices, seed: int) -> PrintedRaster | None:
    """The page of a sheet (from 0) as it comes out of the printer."""
    if page is None:
        return None
    clips = [picture.clip for picture in page_of(plan, sheet).pictures]
    return with_ink(page, _as_it_prints(plan, devices), clips, lost_pieces(devices, seed, sheet, len(clips)))


def _as_it_prints(plan: Plan, devices: Devices) -> TwinPrinter:
    """Only a machine's own program has a bleed that can be left on."""
    return devices.printer if plan.job.cutter.has_own_program else replace(devices.printer, bleeds_mm=0.0)


def facts_on(plan: Plan, sheet: int, pictures: Pictures, page: PrintedRaster | None, devices: Devices) -> SheetFacts:
    """The facts of a sheet (from 0) before anything differs from run to run."""
    return facts_of(plan, sheet, page_of(plan, sheet), page, sheet_strokes(plan, sheet, pictures), devices.cutter)
