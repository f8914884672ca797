"""The files a plan is handed over as."""

import re
from collections.abc import Callable, Mapping, Sequence
from functools import cache

from vamper.core.art.picture import Picture
from vamper.core.plan import Plan, printed_picture, proof_of
from vamper.core.printing.ink import InkUse
from vamper.core.printing.page_box import page_for
from vamper.core.printing.proof import bars_for
from vamper.core.values.findings import BadInput, Finding
from vamper.formats.job_file import write_job
from vamper.formats.out.bundle import write_bundle
from vamper.formats.out.page_png import page_ink, page_png
from vamper.formats.out.print_pdf import write_pdf
from vamper.formats.out.sheet_file import SHEET_FILES, sheet_files, sheet_title
from vamper.formats.plan_writing import plan_document
from vamper.services.handoff.drafts import Pictures
from vamper.services.handoff.found_cut import FoundCut, found_cut
from vamper.services.handoff.trial_cuts import CARD_NAME, bench_card, tell_tale_files
from vamper.services.work.cache import Cache

PLAN_NAME = "plan.json"
JOB_NAME = "job.json"
PRINT_KEY = "print"
_PICTURE_BYTES = 200 * 2**20


def is_own_name(name: str) -> bool:
    """Whether a file that is handed over has, or could have, this name."""
    return _own_names().fullmatch(name) is not None


@cache
def _own_names() -> re.Pattern[str]:
    """The names of the files of a plan; see `sheet_files`."""
    of_sheet = "|".join((*(re.escape(kind.ending) for kind in SHEET_FILES), r"tell-tale\.[a-z]+"))
    whole = "|".join(re.escape(one) for one in (CARD_NAME, PLAN_NAME, JOB_NAME))
    return re.compile(rf"sheet-[0-9]+-(?:{of_sheet})|proof-[0-9]+\.pdf|{whole}", re.IGNORECASE)


def sheet_file(plan: Plan, sheet: int, key: str, pictures: Pictures) -> bytes:
    """One file of one sheet (from 0); `pictures` gives a design's own pixels."""
    return SHEET_FILES[key].write(plan, sheet, _printed(plan, pictures))


def _printed(plan: Plan, pictures: Pictures) -> Callable[[int], Picture]:
    """The printed picture of an item. Carrying a picture past its edge is dear, and the same for every sheet, but not
    all of a job's pictures have room in memory.
    """
    kept: Cache[Picture] = Cache(_PICTURE_BYTES, lambda picture: picture.rgba.nbytes)
    return lambda number: kept.get(number, lambda: printed_picture(plan.item(number), pictures(plan.item(number))))


def sheet_found_cut(plan: Plan, sheet: int, pictures: Pictures) -> FoundCut:
    """The outlines that the machine's own program will find on one sheet (from 0)."""
    return found_cut(plan, sheet, _printed(plan, pictures))


def plan_files(plan: Plan, findings: Sequence[Finding], pictures: Pictures) -> dict[str, bytes]:
    """Every file of a plan by name: the files of each sheet, and the plan itself."""
    files: dict[str, bytes] = {}
    inks: list[InkUse] = []
    printed = _printed(plan, pictures)
    for sheet in range(len(plan.sheets)):
        names = sheet_files(sheet, plan.job)
        for key, name in names.items():
            files[name] = SHEET_FILES[key].write(plan, sheet, printed)
        if plan.job.stock.printable:
            page = files.get(names.get(PRINT_KEY, "")) or SHEET_FILES[PRINT_KEY].write(plan, sheet, printed)
            inks.append(page_ink(page, plan.job.printer.ml_per_cm2))
        if not plan.job.cutter.has_own_program:
            files |= tell_tale_files(plan, sheet)
    if plan.sheets:
        files[CARD_NAME] = bench_card(plan)
    files[PLAN_NAME] = plan_document(plan, findings, inks).write()
    return files


def proof_name(sheet: int) -> str:
    """The name of the proof of a sheet (from 0)."""
    return f"proof-{sheet + 1:02d}.pdf"


def proof_file(plan: Plan, sheet: int, pictures: Pictures) -> bytes:
    """The proof of one sheet (from 0): the same page with its cut lines and two bars of 100 mm.

    Raises
    ------
    BadInput
        If the stock is not printed.
    """
    if not plan.job.stock.printable:
        raise BadInput("this stock is not printed, so a proof makes no sense; use the cut file", "stock")
    page = proof_of(plan, sheet)
    bars = bars_for(page, plan.job.printer.margins_mm)
    return write_pdf(page, _printed(plan, pictures), f"proof of {sheet_title(plan, sheet)}", bars)


def page_file(plan: Plan, sheet: int, ppi: int, pictures: Pictures) -> bytes:
    """The page of one sheet (from 0) as PNG, transparent where nothing is printed."""
    pdf = sheet_file(plan, sheet, PRINT_KEY, pictures)
    box = page_for(plan.job.paper, plan.job.printer)
    return page_png(pdf, (box.width_mm, box.height_mm), ppi)


def bundle(plan: Plan, findings: Sequence[Finding], arts: Mapping[str, bytes], pictures: Pictures) -> bytes:
    """All files, the job file and its art (by the names the job uses) in one zip."""
    return write_bundle({**plan_files(plan, findings, pictures), JOB_NAME: write_job(plan.asked), **arts})
