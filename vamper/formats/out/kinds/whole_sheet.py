"""The whole sheet as one picture, for a program that a machine has beside its cut files."""

from vamper.core.plan import Plan
from vamper.core.values.job import Job
from vamper.formats.out.sheet_file import Printed, SheetFile
from vamper.formats.out.whole_png import whole_picture, write_whole


def _write(plan: Plan, sheet: int, printed: Printed) -> bytes:
    return write_whole(whole_picture(plan, sheet, printed))


def _is_for(job: Job) -> bool:
    return job.for_own_program and not job.cutter.has_own_program


KIND = SheetFile(
    key="whole",
    place=4,
    ending="whole.png",
    media_type="image/png",
    words="the sheet as one picture, for the machine's own program (PNG)",
    write=_write,
    is_for=_is_for,
    missing="this picture is for machines whose own program adds the marks; "
    "choose “none” under Marks, on a printed stock",
)
