"""The print page as PDF."""

from datetime import date

from vamper.core.plan import Plan, page_of
from vamper.core.values.job import Job
from vamper.formats.out.print_pdf import write_pdf
from vamper.formats.out.sheet_file import Printed, SheetFile, leads_by_files, sheet_title


def _write(plan: Plan, sheet: int, printed: Printed) -> bytes:
    return write_pdf(page_of(plan, sheet, _line(plan, sheet)), printed, sheet_title(plan, sheet))


def _line(plan: Plan, sheet: int) -> str:
    """The text of the job line; empty where no line is wanted."""
    if not plan.job.job_line:
        return ""
    # The day is when it is written, which no plan can know.
    return f"{sheet_title(plan, sheet)} · {date.today().isoformat()} · the bar is 100 mm"


def _is_for(job: Job) -> bool:
    return job.stock.printable and leads_by_files(job)


def _on_request(job: Job) -> bool:
    return job.stock.printable


KIND = SheetFile(
    key="print",
    place=1,
    ending="print.pdf",
    media_type="application/pdf",
    words="print page (PDF)",
    write=_write,
    is_for=_is_for,
    on_request=_on_request,
    missing="this stock is not printed, so there is no print file; take the cut file",
)
