"""What can be said about the print: bleed, a stock that is not printed, a sheet that reads backwards on purpose."""

from vamper.core.printing.bleed import DIFFERS_SHARE, Bleed
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity
from vamper.core.values.lengths import mm
from vamper.core.values.miss import STARTER_MISS_MM
from vamper.core.values.stock import Stock


def bleed_findings(bleed: Bleed, number: int, stock: Stock) -> list[Finding]:
    """That print reaches the blade though its bleed was taken away, or why there is none."""
    if not stock.printable:
        return []
    needed = bleed.share > DIFFERS_SHARE
    figures = {"share": round(bleed.share, 3), "bleed_mm": round(bleed.width_mm, 2)}
    if needed and bleed.width_mm == 0:
        back = Fix("Let it bleed", f"{mm(STARTER_MISS_MM)} past the edge", FixTarget.ITEM, {"bleed_mm": None})
        text = (
            f"Print reaches the edge on {bleed.share * 100:.0f} % of its length; a cut that misses by its usual "
            "amount shows bare stock there."
        )
        return [Finding("edge.bleed", Severity.LOOK, "No bleed", text, figures, item=number, fixes=(back,))]
    if needed:
        off = Fix("No bleed", "print ends at the edge", FixTarget.ITEM, {"bleed_mm": 0.0})
        text = f"Print reaches the edge on {bleed.share * 100:.0f} % of its length, so it is carried past it."
        title = f"Bleeds {mm(bleed.width_mm)}"
        return [Finding("edge.bleed", Severity.NOTE, title, text, figures, item=number, fixes=(off,))]
    return []


def print_findings(stock: Stock) -> list[Finding]:
    """What the stock decides about printing."""
    found = []
    if not stock.printable:
        found.append(
            Finding(
                "print.stock",
                Severity.NOTE,
                "This stock is not printed",
                f"{stock.title} is cut only: no print file, no marks, and the live area is the cutter's alone.",
            )
        )
    if stock.mirrored:
        found.append(
            Finding(
                "print.mirror",
                Severity.NOTE,
                "Reads backwards on purpose",
                f"{stock.title} goes on face down, so the files are mirrored."
                + (" Leave the printer's own mirror off." if stock.printable else ""),
            )
        )
    return found
