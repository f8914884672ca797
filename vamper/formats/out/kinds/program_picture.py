"""The sheet as one picture, for the machine's own program that leads the cut."""

from vamper.core.plan import Plan
from vamper.core.values.job import Job
from vamper.formats.out.sheet_file import Printed, SheetFile
from vamper.formats.out.whole_png import whole_picture, write_whole


def _write(plan: Plan, sheet: int, printed: Printed) -> bytes:
    return write_whole(whole_picture(plan, sheet, printed))


def _is_for(job: Job) -> bool:
    return job.cutter.has_own_program


KIND = SheetFile(
    key="picture",
    place=0,
    ending="picture.png",
    media_type="image/png",
    words="the picture for your machine's program (PNG)",
    write=_write,
    is_for=_is_for,
    missing="this machine takes cut files, so there is no picture for its program; say under the machine who leads the "
    "cut, if that is its own program",
)
