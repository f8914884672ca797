"""What can be said about the print: bleed, a stock that is not printed, a sheet that reads backwards on purpose."""

from vamper.core.printing.bleed import DIFFERS_SHARE, Bleed
from vamper.core.printing.page_box import has_page, is_set_to, page_for
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity
from vamper.core.values.job import Job
from vamper.core.values.lengths import mm, size_mm
from vamper.core.values.miss import STARTER_MISS_MM
from vamper.core.values.printer import Printer, PrinterKind
from vamper.core.values.reading import Black
from vamper.core.values.stock import Stock

# What a printer's own scale may be off by; beyond it something in its dialog is set wrong.
MOST_SCALE_OFF = 0.005
_EXACT = 1e-9


def bleed_findings(bleed: Bleed, number: int, stock: Stock, miss_mm: float = STARTER_MISS_MM) -> list[Finding]:
    """That print reaches the blade though its bleed was taken away, or why there is none."""
    if not stock.printable:
        return []
    needed = bleed.share > DIFFERS_SHARE
    figures = {"share": round(bleed.share, 3), "bleed_mm": round(bleed.width_mm, 2)}
    if needed and bleed.width_mm == 0:
        back = Fix("Switch bleed on", f"{mm(round(miss_mm, 2))} past the edge", FixTarget.ITEM, {"bleed_mm": None})
        text = (
            f"Print reaches the edge on {bleed.share * 100:.0f} % of its length; a cut that misses by its usual "
            "amount shows bare stock there."
        )
        return [Finding("edge.bleed", Severity.LOOK, "No bleed", text, figures, item=number, fixes=(back,))]
    if needed:
        text = f"Print reaches the edge on {bleed.share * 100:.0f} % of its length, so it is carried past it."
        title = f"Bleeds {mm(round(bleed.width_mm, 2))}"
        return [Finding("edge.bleed", Severity.NOTE, title, text, figures, item=number)]
    return []


def program_bleed_findings(bleed: Bleed, number: int, on: bool, why: str) -> list[Finding]:
    """The same where a machine's own program carries colour past the cut, or not; `why` is what is told at Print."""
    if bleed.share <= DIFFERS_SHARE:
        return []
    return [
        Finding(
            "edge.bleed",
            Severity.NOTE,
            "Its program adds the bleed" if on else "No bleed",
            f"{why[0].upper()}{why[1:]}. It is switched in the program, at Print.",
            {"share": round(bleed.share, 3)},
            item=number,
        )
    ]


def print_findings(job: Job) -> list[Finding]:
    """Findings that stock and printer decide about printing."""
    stock = job.stock
    if not stock.printable:
        return [_not_printed(stock), *_mirror(job)]
    return [*_kind(job), *_scale(job.printer), *_mirror(job), *_page_size(job), *_borderless(job), *_low_ink(job)]


def _not_printed(stock: Stock) -> Finding:
    return Finding(
        "print.stock",
        Severity.NOTE,
        "This stock is not printed",
        f"{stock.title} is cut only: no print file, no marks, and the area you can use is the cutter's alone.",
    )


def _mirror(job: Job) -> list[Finding]:
    stock = job.stock
    if job.from_inside and stock.printable and not stock.is_clear:
        outside = Fix(
            "Stick it on from outside", "the print reads the right way", FixTarget.JOB, {"from_inside": False}
        )
        return [
            Finding(
                "print.mirror",
                Severity.STOP,
                "It cannot be read through the pane",
                f"Decals for the inside of a window show their glued side; {stock.name} is not clear, so only its back "
                "would be seen. Take a clear stock.",
                fixes=(outside,),
            )
        ]
    if not job.mirrored:
        return []
    why = "goes on face down" if stock.mirrored else "is read through the pane"
    return [
        Finding(
            "print.mirror",
            Severity.NOTE,
            "Reads backwards on purpose",
            f"{stock.title} {why}, so the files are mirrored."
            + (" Leave the printer's own mirror off." if stock.printable else ""),
        )
    ]


def _kind(job: Job) -> list[Finding]:
    stock, printer = job.stock, job.printer
    if printer.kind not in stock.takes:
        hot = (
            " Its film can melt on a laser printer's hot drum and spoil it."
            if printer.kind is PrinterKind.LASER
            else ""
        )
        takes = " or ".join(stock.takes)
        return [
            Finding(
                "print.kind",
                Severity.STOP,
                f"Not for {_an(printer.kind)} printer",
                f"{stock.title} is made for {_an(takes)} printer.{hot} Its label has the last word.",
            )
        ]
    if printer.ink not in stock.inks:
        need, has = " or ".join(stock.inks), printer.ink
        return [
            Finding(
                "print.kind",
                Severity.STOP,
                f"Wants {need} ink",
                f"{stock.title} is made for {need} ink, and this printer is filled with {has} ink: the print would not "
                "transfer, or not hold.",
            )
        ]
    return []


def _an(word: str) -> str:
    return f"an {word}" if word[0] in "aeiou" else f"a {word}"


def _scale(printer: Printer) -> list[Finding]:
    scale = printer.scale
    # Half a percent is the last that is none of it, on either side.
    if scale.off <= MOST_SCALE_OFF + _EXACT:
        return []
    return [
        Finding(
            "print.scale",
            Severity.STOP,
            "The last proof came out at the wrong size",
            f"It was {_off(scale.x)} across and {_off(scale.y)} down. That is more than a "
            "printer errs by itself: look for “fit to page” or “scale” in its dialog, print the proof again, and type "
            "in what its bars measure. Until then the page is drawn so much larger or smaller.",
            {"x": round(scale.x, 5), "y": round(scale.y, 5)},
        )
    ]


def _off(side: float) -> str:
    return f"{abs(side - 1) * 100:.1f} % {'long' if side > 1 else 'short'}"


def _page_size(job: Job) -> list[Finding]:
    if not has_page(job.paper, job.printer):
        return [
            Finding(
                "print.page-size",
                Severity.STOP,
                "The printer has no page size for this sheet",
                f"It only takes sizes with a name, and none is a little larger than "
                f"{size_mm(job.paper.width_mm, job.paper.height_mm)}: the page would be scaled or cut off. Take "
                "another sheet, or say in the printer's profile that it takes custom sizes.",
                {"width_mm": job.paper.width_mm, "height_mm": job.paper.height_mm},
            )
        ]
    there = job.printer.set_to
    if there is None or is_set_to(job.paper, job.printer):
        return []
    page = page_for(job.paper, job.printer)
    return [
        Finding(
            "print.page-size",
            Severity.STOP,
            "The printer is set to another paper",
            f"It is set to {size_mm(there.width, there.height)}, and the page is "
            f"{size_mm(page.width_mm, page.height_mm)}: it would be scaled or cut off. Set the paper in the printer's "
            "own dialog, and then in its profile.",
            {"width_mm": page.width_mm, "height_mm": page.height_mm},
        )
    ]


def _borderless(job: Job) -> list[Finding]:
    margins = job.printer.margins_mm
    if min(margins.top, margins.right, margins.bottom, margins.left) > 0:
        return []
    return [
        Finding(
            "print.borderless",
            Severity.LOOK,
            "Borderless printing enlarges the page",
            "A printer that prints to the paper's edge enlarges the page a little to be sure of it, so nothing is at "
            "true size. Switch borderless off in its dialog, and give its real margins in its profile.",
        )
    ]


def _low_ink(job: Job) -> list[Finding]:
    if job.printer.black is Black.FULL:
        return []
    return [
        Finding(
            "print.low-ink",
            Severity.LOOK,
            "The printer is low on black",
            "Its black is grey by now: colours turn dull and the marks are harder to read. Change or clean it before "
            "this sheet, or go over the marks with a black marker.",
        )
    ]
