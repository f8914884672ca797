"""The print page as PDF."""

from vamper.core.plan import Plan, page_of
from vamper.core.values.stock import Stock
from vamper.formats.out.print_pdf import write_pdf
from vamper.formats.out.sheet_file import Printed, SheetFile, sheet_title


def _write(plan: Plan, sheet: int, printed: Printed) -> bytes:
    return write_pdf(page_of(plan, sheet), printed, sheet_title(plan, sheet))


def _is_for(stock: Stock) -> bool:
    return stock.printable


KIND = SheetFile(
    "print",
    1,
    "print.pdf",
    "application/pdf",
    _write,
    _is_for,
    "this stock is not printed, so there is no print file; take the cut file",
)
