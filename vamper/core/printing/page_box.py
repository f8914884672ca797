"""The page of a print file beside the sheet that is loaded.

A sheet is often a little smaller than the size it is named after. The page is the sheet itself; for printers that only
take sizes with a name it is that size, with the sheet where the printer puts it.
"""

from dataclasses import dataclass

from vamper.core.values.paper import NAMED_PAPERS, Paper
from vamper.core.values.printer import PageBox, Printer

# How much smaller than its name a sheet may be, either side, mm.
_SMALLER_MM = 15.0
_SAME_MM = 0.5


@dataclass(frozen=True, slots=True)
class Page:
    """A page's size, and where the sheet's top left lies on it, mm."""

    width_mm: float
    height_mm: float
    left_mm: float = 0.0
    top_mm: float = 0.0


def page_for(paper: Paper, printer: Printer) -> Page:
    """The page that a printer takes for a sheet."""
    named = _named_for(paper)
    if printer.page is PageBox.SHEET or named is None:
        return Page(paper.width_mm, paper.height_mm)
    room = named[0] - paper.width_mm
    left = {PageBox.CENTRED: room / 2, PageBox.LEFT: 0.0, PageBox.RIGHT: room}[printer.page]
    return Page(named[0], named[1], left, 0.0)


def has_page(paper: Paper, printer: Printer) -> bool:
    """Whether the printer takes a page for the sheet at all."""
    return printer.page is PageBox.SHEET or _named_for(paper) is not None


def _named_for(paper: Paper) -> tuple[float, float] | None:
    """The least size with a name, upright or lying, that is the sheet's or a little larger."""
    sizes = [(one.paper.width_mm, one.paper.height_mm) for one in NAMED_PAPERS]
    larger = [
        size
        for size in (*sizes, *(size[::-1] for size in sizes))
        if 0 <= size[0] - paper.width_mm <= _SMALLER_MM and 0 <= size[1] - paper.height_mm <= _SMALLER_MM
    ]
    return min(larger, key=lambda size: size[0] * size[1], default=None)


def is_set_to(paper: Paper, printer: Printer) -> bool:
    """Whether the printer is set to the page that will be sent; so it is taken to be where nobody said."""
    if printer.set_to is None:
        return True
    page = page_for(paper, printer)
    wanted, there = sorted((page.width_mm, page.height_mm)), sorted((printer.set_to.width, printer.set_to.height))
    return all(abs(a - b) <= _SAME_MM for a, b in zip(wanted, there, strict=True))
