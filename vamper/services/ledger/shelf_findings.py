"""What the shelf says of a job: what there is not enough of, and an offcut that would do."""

from collections.abc import Iterator, Sequence
from dataclasses import asdict, replace

from vamper.core.effective_job import effective_job
from vamper.core.plan import Plan, pack_problem, set_up_sheet
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.values.findings import BadInput, Finding, Fix, FixTarget, Severity
from vamper.core.values.paper import Paper
from vamper.services.ledger.costing import took_of
from vamper.services.ledger.supplies import KeptOffcut, Supplies

# So many offcuts are tried, the newest first.
_MOST_TRIED = 8


def shelf_findings(plan: Plan, supplies: Supplies) -> Iterator[Finding]:
    """Findings on supplies that a planned job is short of, and on an offcut that holds all of it."""
    if not plan.sheets:
        return
    job, sheets = plan.asked, len(plan.sheets) * plan.asked.copies
    on_offcut = job.paper.is_used or supplies.offcut_of(job.stock.key, job.paper) is not None
    # Ink is measured page by page, which takes too long to be asked at every change.
    took = took_of(plan, range(len(plan.sheets)), job.copies, 0.0)
    for short in supplies.short_of(job.stock.key, sheets - on_offcut, took):
        yield Finding(
            "sheet.short",
            Severity.LOOK,
            f"Not enough {short.name} for this job",
            f"It takes {short.needed}, and {short.left} are left by the ledger. Buy more before you begin, make less "
            "of it, or set the shelf right in the ledger.",
        )
    if on_offcut and sheets > 1 and not job.paper.is_used:
        yield Finding(
            "sheet.short",
            Severity.LOOK,
            "The offcut is one sheet",
            f"This job takes {sheets} sheets of its size. Take a whole sheet, or make less of it.",
        )
    if not on_offcut:
        yield from _offcut(plan, supplies.offcuts(job.stock.key))


def _offcut(plan: Plan, offcuts: Sequence[KeptOffcut]) -> Iterator[Finding]:
    wanted = plan.layout.pieces
    if len(plan.sheets) * plan.asked.copies != 1 or plan.layout.unplaced:
        return
    for kept in offcuts[:_MOST_TRIED]:
        if holds(plan, kept.offcut.paper) >= wanted:
            yield Finding(
                "sheet.offcut",
                Severity.NOTE,
                "An offcut is large enough",
                f"All {wanted} pieces go on “{kept.offcut.name}”, even in plain rows; no new sheet is needed.",
                fixes=(Fix("Use the offcut", kept.offcut.name, FixTarget.JOB, paper_change(kept.offcut.paper)),),
            )
            return


def holds(plan: Plan, paper: Paper) -> int:
    """How many of a job's pieces go on one such sheet, in plain rows in its largest free rectangle."""
    try:
        setup = set_up_sheet(effective_job(replace(plan.asked, paper=paper)))
    except BadInput:
        return 0
    packing = replace(plan.job.packing, max_sheets=1)
    problem = pack_problem(replace(plan.job, paper=paper, packing=packing, held=()), setup, plan.items)
    return in_rows(problem).pieces


def paper_change(paper: Paper) -> dict[str, object]:
    """The paper as a field of a job."""
    return {"paper": asdict(paper)}
