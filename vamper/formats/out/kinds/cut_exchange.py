"""The cut plan as DXF."""

from vamper.core.plan import Plan, cut_of
from vamper.formats.out.cut_dxf import write_dxf
from vamper.formats.out.sheet_file import Printed, SheetFile


def _write(plan: Plan, sheet: int, _printed: Printed) -> bytes:
    return write_dxf(cut_of(plan, sheet), plan.setup.marks)


KIND = SheetFile("cut_dxf", 3, "cut.dxf", "image/vnd.dxf", "cut file (DXF)", _write)
