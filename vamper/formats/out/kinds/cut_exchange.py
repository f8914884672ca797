"""The cut plan as DXF."""

from vamper.core.plan import Plan, cut_as_sent
from vamper.formats.out.cut_dxf import write_dxf
from vamper.formats.out.sheet_file import Printed, SheetFile, always, leads_by_files


def _write(plan: Plan, sheet: int, _printed: Printed) -> bytes:
    return write_dxf(cut_as_sent(plan, sheet), plan.setup.marks)


KIND = SheetFile(
    key="cut_dxf",
    place=3,
    ending="cut.dxf",
    media_type="image/vnd.dxf",
    words="cut file (DXF)",
    write=_write,
    is_for=leads_by_files,
    on_request=always,
)
