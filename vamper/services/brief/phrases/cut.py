"""How it is cut; a stock without a backing is cut through, whatever was asked for."""

from vamper.core.effective_job import effective_cut
from vamper.core.values.cut import Cut
from vamper.services.brief.phrase import BriefFacts, PhraseKind


def say(told: BriefFacts) -> tuple[str, str]:
    return ", ", _words(told)


def _words(told: BriefFacts) -> str:
    items, stock = told.document.items, told.job.stock
    through = [item.name for item in items if effective_cut(stock, item.cut) is Cut.THROUGH]
    kiss = "cut through the face only" if told.job.cutter.has_own_program else "kiss cut"
    if not through and stock.has_backing:
        return kiss
    if len(through) == len(items):
        return "cut through"
    names = " and ".join(through) if len(through) <= 2 else f"{len(through)} of {len(items)} designs"
    return f"{kiss}, {names} through"


KIND = PhraseKind("cut", 8, say)
