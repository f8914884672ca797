"""The print page as PDF."""

from vamper.core.plan import Plan, page_of
from vamper.core.values.job import Job
from vamper.formats.out.print_pdf import write_pdf
from vamper.formats.out.sheet_file import Printed, SheetFile, sheet_title


def _write(plan: Plan, sheet: int, printed: Printed) -> bytes:
    return write_pdf(page_of(plan, sheet), printed, sheet_title(plan, sheet))


def _is_for(job: Job) -> bool:
    return job.stock.printable


KIND = SheetFile(
    "print",
    1,
    "print.pdf",
    "application/pdf",
    "print page (PDF)",
    _write,
    _is_for,
    "this stock is not printed, so there is no print file; take the cut file",
)
