"""The printer's own dialog in words, in the order in which a person meets it."""

from dataclasses import dataclass

from vamper.core.plan import Plan
from vamper.core.printing.advice import HeadTravel, PrintAdvice, tray_words
from vamper.core.printing.page_box import page_for
from vamper.core.values.lengths import mm, size_mm
from vamper.core.values.printer import PageBox, PrinterKind


@dataclass(frozen=True, slots=True)
class DialogLine:
    """One thing to choose: what it is called, what to choose, and why."""

    name: str
    value: str
    why: str = ""


_HEAD_WORDS = {
    HeadTravel.BOTH_WAYS: ("both ways", ""),
    HeadTravel.ONE_WAY: ("one way only", "finer on stock that dries slowly"),
    HeadTravel.NONE: ("–", ""),
}


def dialog_lines(plan: Plan, advice: PrintAdvice) -> list[DialogLine]:
    """The choices in the printer's dialog for a job, in turn."""
    job, page = plan.job, page_for(plan.job.paper, plan.job.printer)
    loading = (tray_words(advice, job.printer), f"feed: {advice.feed}", advice.companion)
    lines = [
        DialogLine("Load", advice.side, "; ".join(part for part in loading if part)),
        DialogLine("Paper size", size_mm(page.width_mm, page.height_mm), _page_why(plan)),
        DialogLine("Kind of paper", advice.media, advice.source),
        DialogLine("Quality", advice.quality, advice.ink),
        DialogLine("Scale", "100 %, “fit to page” off", "the most common cause of a wrong size"),
        DialogLine("Borderless", "off", "it enlarges the page"),
    ]
    if job.printer.kind is PrinterKind.INKJET:
        lines.append(DialogLine("Head travel", *_HEAD_WORDS[advice.head]))
    lines.append(DialogLine("The printer’s own mirror", "off", "the file is mirrored already" if plan.mirror else ""))
    if job.copies > 1:
        lines.append(DialogLine("Copies", f"{job.copies} of every page", "each is cut with the same cut file"))
    return lines


def _page_why(plan: Plan) -> str:
    page, printer = page_for(plan.job.paper, plan.job.printer), plan.job.printer
    if printer.page is PageBox.SHEET:
        return "the sheet itself"
    where = (
        f"the sheet lies {mm(page.left_mm, 1)} from the page’s left" if page.left_mm else "the sheet lies at its left"
    )
    return f"the named size that this printer takes; {where}"


def mirror_words(plan: Plan, advice: PrintAdvice) -> str:
    """Whether it is mirrored, and why not where people believe that it should be."""
    if plan.mirror:
        return "Reads backwards on purpose; leave the printer’s own mirror off."
    if advice.not_mirrored:
        return f"Not mirrored: {advice.not_mirrored}."
    return "Reads the right way."
