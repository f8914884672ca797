"""The cut plan as SVG."""

from vamper.core.plan import Plan, cut_as_sent
from vamper.formats.out.cut_svg import write_svg
from vamper.formats.out.sheet_file import Printed, SheetFile, sheet_title


def _write(plan: Plan, sheet: int, _printed: Printed) -> bytes:
    return write_svg(cut_as_sent(plan, sheet), plan.setup.marks, sheet_title(plan, sheet))


KIND = SheetFile("cut_svg", 2, "cut.svg", "image/svg+xml", "cut file (SVG)", _write)
