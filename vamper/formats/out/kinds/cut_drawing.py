"""The cut plan as SVG."""

from vamper.core.plan import Plan, cut_as_sent
from vamper.formats.out.cut_svg import write_svg
from vamper.formats.out.sheet_file import Printed, SheetFile, always, leads_by_files, sheet_title


def _write(plan: Plan, sheet: int, _printed: Printed) -> bytes:
    return write_svg(cut_as_sent(plan, sheet), plan.setup.marks, sheet_title(plan, sheet))


KIND = SheetFile(
    key="cut_svg",
    place=2,
    ending="cut.svg",
    media_type="image/svg+xml",
    words="cut file (SVG)",
    write=_write,
    is_for=leads_by_files,
    on_request=always,
)
