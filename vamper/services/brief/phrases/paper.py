"""The paper, each size with what is left of it to work on."""

from dataclasses import replace

from vamper.core.effective_job import effective_job
from vamper.core.plan import pack_problem, set_up_sheet
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.lengths import size_mm
from vamper.core.values.paper import NAMED_PAPERS, named
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseKind, room
from vamper.services.design.job_design import Design
from vamper.services.ledger.shelf_findings import paper_change
from vamper.services.ledger.supplies import KeptOffcut

_MOST_OFFCUTS = 12
_OFFCUTS, _WHOLE = "Offcuts of this stock", "Whole sheets"


def say(told: BriefFacts) -> tuple[str, str]:
    paper = told.document.paper
    size = named(paper)
    words = size.words if size else size_mm(paper.width_mm, paper.height_mm)
    return ", ", f"{words}, part used" if paper.is_used else words


def choices(asked: ChoiceContext) -> list[Choice]:
    paper = asked.job.paper
    now = paper.whole
    found = [_of_offcut(asked, kept) for kept in asked.offcuts[:_MOST_OFFCUTS]]
    for size in NAMED_PAPERS:
        trial = replace(asked.job, paper=size.paper)
        consequence = _at_most(trial, asked.designed) if asked.designed else None
        changes = paper_change(size.paper)
        is_now = now == size.paper and not any(choice.chosen for choice in found)
        found.append(Choice(size.words, consequence or room(trial), changes, is_now, group=_WHOLE))
    return found if asked.offcuts else [replace(one, group="") for one in found]


def _of_offcut(asked: ChoiceContext, kept: KeptOffcut) -> Choice:
    """An offcut of the stock, with what goes on it."""
    paper = kept.offcut.paper
    trial = replace(asked.job, paper=paper)
    consequence = _at_most(trial, asked.designed) if asked.designed else None
    return Choice(
        kept.offcut.name, consequence or room(trial), paper_change(paper), asked.job.paper == paper, group=_OFFCUTS
    )


def _at_most(job: Job, design: Design) -> str | None:
    try:
        setup = set_up_sheet(effective_job(job))
    except BadInput:
        return None
    problem = pack_problem(design.job, setup, design.items)
    bound = area_bound((setup.first or setup.live).shape, problem.pieces, job.packing.gap_mm)
    return f"{room(job)}, at most {bound.pieces_at_most} a sheet"


KIND = PhraseKind("paper", 3, say, choices)
