"""What the pieces live on; it decides how sharp they must be and how they are finished."""

from dataclasses import asdict, replace

from vamper.core.art.resolution import need_of, seen_from
from vamper.core.finishing.goes_on import ApplyWay, goes_on, way_words
from vamper.core.finishing.targets import TARGETS
from vamper.core.values.art import Purpose
from vamper.core.values.finish import ClothSpec, Target
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseKind
from vamper.services.brief.words import PURPOSE_PHRASES

_LIMITED = "Works, with a limit"
_NOT = "Not on {stock}"


def say(told: BriefFacts) -> tuple[str, str]:
    target = told.document.target
    return ", for ", PURPOSE_PHRASES[told.document.purpose] if target is None else TARGETS[target].words


def hint(purpose: Purpose) -> str:
    return f"seen from {seen_from(purpose)}, needs {need_of(purpose):.0f} ppi"


def choices(asked: ChoiceContext) -> list[Choice]:
    """The things that it can go on: the targets that its stock is made for first, then the targets with a limit, and
    last the rest.
    """
    job = asked.job

    def on(target: Target) -> Choice:
        facts, found = TARGETS[target], goes_on(job.stock.stock_class, target)
        way = way_words(found.way, facts.set[0] if found.way is ApplyWay.SLIDE else None)
        means = found.limit or f"{way}; {hint(facts.purpose)}"
        cloth = asdict(replace(job.finish.cloth or ClothSpec(), dark=facts.dark)) if facts.is_cloth else None
        changes = {
            "target": target.value,
            "purpose": facts.purpose.value,
            "finish.set": None,
            "finish.mask": None,
            "finish.cloth": cloth,
        }
        group = "" if found.usual else _LIMITED if found.fits else _NOT.format(stock=job.stock.name)
        return Choice(facts.words, means, changes, target is asked.document.target, group=group)

    targets = [on(target) for target in Target]
    order = ("", _LIMITED, _NOT.format(stock=job.stock.name))
    return sorted(targets, key=lambda one: order.index(one.group))


KIND = PhraseKind("purpose", 10, say, choices)
