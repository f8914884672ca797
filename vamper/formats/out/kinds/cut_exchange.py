"""The cut plan as DXF."""

from vamper.core.plan import Plan, cut_as_sent
from vamper.formats.out.cut_dxf import write_dxf
from vamper.formats.out.sheet_file import Printed, SheetFile


def _write(plan: Plan, sheet: int, _printed: Printed) -> bytes:
    return write_dxf(cut_as_sent(plan, sheet), plan.setup.marks)


KIND = SheetFile("cut_dxf", 3, "cut.dxf", "image/vnd.dxf", "cut file (DXF)", _write)
