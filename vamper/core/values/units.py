"""Lengths and densities. Inside the program a length is always a number of millimetres."""

MM_PER_INCH = 25.4
MM_PER_POINT = MM_PER_INCH / 72.0


def mm_to_points(mm: float) -> float:
    """Millimetres to PostScript points (72 an inch), the unit of a PDF page."""
    return mm / MM_PER_POINT


def ppi(pixels: float, mm: float) -> float:
    """Pixels an inch of `pixels` laid over `mm` millimetres."""
    return pixels * MM_PER_INCH / mm


def pixels_at(mm: float, ppi_wanted: float) -> int:
    """Whole pixels that cover `mm` at `ppi_wanted`, at least one."""
    return max(1, round(mm * ppi_wanted / MM_PER_INCH))
