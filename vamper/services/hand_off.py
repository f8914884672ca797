"""The files a plan is handed over as."""

import re
from collections.abc import Callable, Mapping

from vamper.core.art.picture import Picture
from vamper.core.plan import DesignedItem, Plan, cut_of, page_of, printed_picture
from vamper.formats.bundle import write_bundle
from vamper.formats.cut_dxf import write_dxf
from vamper.formats.cut_svg import write_svg
from vamper.formats.jobfile import write_job
from vamper.formats.planfile import sheet_files, write_plan
from vamper.formats.print_pdf import write_pdf
from vamper.services.cache import Cache

PLAN_NAME = "plan.json"
JOB_NAME = "job.json"
_PICTURE_BYTES = 200 * 2**20

# What the files of a plan are called; see `sheet_files`.
_OWN_NAME = re.compile(r"(?:sheet-[0-9]+-(?:print|cut)\.[a-z]+|plan\.json|job\.json)", re.IGNORECASE)

Pictures = Callable[[DesignedItem], Picture]


def is_own_name(name: str) -> bool:
    """Whether a file that is handed over has, or could have, this name."""
    return _OWN_NAME.fullmatch(name) is not None


def sheet_title(plan: Plan, sheet: int) -> str:
    colours = {item.index: item.spec.sheet_colour for item in plan.items}
    colour = next((colours[one.item] for one in plan.layout.sheets[sheet] if colours[one.item]), None)
    of_colour = f", {colour}" if colour else ""
    return f"{plan.job.title}, sheet {sheet + 1} of {len(plan.layout.sheets)}{of_colour}"


def print_file(plan: Plan, sheet: int, pictures: Pictures) -> bytes:
    """The print page of one sheet; `pictures` gives a design's own pixels."""
    return _print_file(plan, sheet, _printed(plan, pictures))


def _print_file(plan: Plan, sheet: int, printed: Callable[[int], Picture]) -> bytes:
    return write_pdf(page_of(plan, sheet), printed, sheet_title(plan, sheet))


def _printed(plan: Plan, pictures: Pictures) -> Callable[[int], Picture]:
    """What is printed of an item. Carrying a picture past its edge is dear, and the same for every sheet, but not all
    of a job's pictures have room in memory.
    """
    items = {item.index: item for item in plan.items}
    kept: Cache[Picture] = Cache(_PICTURE_BYTES, lambda picture: picture.rgba.nbytes)
    return lambda index: kept.get(index, lambda: printed_picture(items[index], pictures(items[index])))


def cut_svg_file(plan: Plan, sheet: int) -> bytes:
    return write_svg(cut_of(plan, sheet), plan.setup.marks, sheet_title(plan, sheet))


def cut_dxf_file(plan: Plan, sheet: int) -> bytes:
    return write_dxf(cut_of(plan, sheet), plan.setup.marks)


def plan_files(plan: Plan, pictures: Pictures) -> dict[str, bytes]:
    """Every file of a plan by name: print and cut files of each sheet, and the plan itself."""
    files: dict[str, bytes] = {}
    printed = _printed(plan, pictures)
    for sheet in range(len(plan.layout.sheets)):
        names = sheet_files(sheet, plan.job.stock.printable)
        if "print" in names:
            files[names["print"]] = _print_file(plan, sheet, printed)
        files[names["cut_svg"]] = cut_svg_file(plan, sheet)
        files[names["cut_dxf"]] = cut_dxf_file(plan, sheet)
    files[PLAN_NAME] = write_plan(plan)
    return files


def bundle(plan: Plan, arts: Mapping[str, bytes], pictures: Pictures) -> bytes:
    """All files, the job file and its art (by the names the job uses) in one zip."""
    return write_bundle({**plan_files(plan, pictures), JOB_NAME: write_job(plan.job), **arts})
