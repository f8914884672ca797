"""The files a plan is handed over as."""

import re
from collections.abc import Callable, Mapping, Sequence

from vamper.core.art.picture import Picture
from vamper.core.design import DesignedItem
from vamper.core.plan import Plan, printed_picture
from vamper.core.values.findings import Finding
from vamper.formats.job_file import write_job
from vamper.formats.out.bundle import write_bundle
from vamper.formats.out.sheet_file import SHEET_FILES, sheet_files
from vamper.formats.plan_file import write_plan
from vamper.services.handoff.found_cut import FoundCut, found_cut
from vamper.services.work.cache import Cache

PLAN_NAME = "plan.json"
JOB_NAME = "job.json"
_PICTURE_BYTES = 200 * 2**20

# What the files of a plan are called; see `sheet_files`.
_OWN_NAME = re.compile(r"(?:sheet-[0-9]+-(?:print|cut|whole)\.[a-z]+|plan\.json|job\.json)", re.IGNORECASE)

Pictures = Callable[[DesignedItem], Picture]


def is_own_name(name: str) -> bool:
    """Whether a file that is handed over has, or could have, this name."""
    return _OWN_NAME.fullmatch(name) is not None


def sheet_file(plan: Plan, sheet: int, key: str, pictures: Pictures) -> bytes:
    """One file of one sheet (from 0); `pictures` gives a design's own pixels."""
    return SHEET_FILES[key].write(plan, sheet, _printed(plan, pictures))


def _printed(plan: Plan, pictures: Pictures) -> Callable[[int], Picture]:
    """What is printed of an item. Carrying a picture past its edge is dear, and the same for every sheet, but not all
    of a job's pictures have room in memory.
    """
    kept: Cache[Picture] = Cache(_PICTURE_BYTES, lambda picture: picture.rgba.nbytes)
    return lambda number: kept.get(number, lambda: printed_picture(plan.item(number), pictures(plan.item(number))))


def sheet_found_cut(plan: Plan, sheet: int, pictures: Pictures) -> FoundCut:
    """What the machine's own program will find on one sheet (from 0)."""
    return found_cut(plan, sheet, _printed(plan, pictures))


def plan_files(plan: Plan, findings: Sequence[Finding], pictures: Pictures) -> dict[str, bytes]:
    """Every file of a plan by name: those of each sheet, and the plan itself."""
    files: dict[str, bytes] = {}
    printed = _printed(plan, pictures)
    for sheet in range(len(plan.sheets)):
        for key, name in sheet_files(sheet, plan.job).items():
            files[name] = SHEET_FILES[key].write(plan, sheet, printed)
    files[PLAN_NAME] = write_plan(plan, findings)
    return files


def bundle(plan: Plan, findings: Sequence[Finding], arts: Mapping[str, bytes], pictures: Pictures) -> bytes:
    """All files, the job file and its art (by the names the job uses) in one zip."""
    return write_bundle({**plan_files(plan, findings, pictures), JOB_NAME: write_job(plan.asked), **arts})
