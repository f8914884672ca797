"""What the pieces live on; it decides how sharp they must be and how they are finished."""

from dataclasses import asdict, replace

from vamper.core.art.resolution import need_of, seen_from
from vamper.core.finishing.process import process_of_job, processes_for, usual_process
from vamper.core.finishing.targets import TARGETS
from vamper.core.values.art import Purpose
from vamper.core.values.finish import ClothSpec, Target
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseKind
from vamper.services.brief.words import PURPOSE_PHRASES

_WAYS = "How it is finished"
_ELSEWHERE = "On these, {stock} is not the usual stock"


def say(told: BriefFacts) -> tuple[str, str]:
    target = told.document.target
    return ", to live on ", PURPOSE_PHRASES[told.document.purpose] if target is None else TARGETS[target].words


def hint(purpose: Purpose) -> str:
    return f"seen from {seen_from(purpose)}, needs {need_of(purpose):.0f} ppi"


def choices(asked: ChoiceContext) -> list[Choice]:
    """What it can live on, and below, where there are several, how it is finished for that."""
    job = asked.job
    laminated = job.laminate_um > 0

    def on(target: Target) -> Choice:
        facts = TARGETS[target]
        process = usual_process(job.stock, facts.purpose, target, job.coated, laminated)
        usual = process.key in facts.processes
        means = f"{process.words}; {hint(facts.purpose)}" if usual else hint(facts.purpose)
        cloth = asdict(replace(job.finish.cloth or ClothSpec(), dark=facts.dark)) if facts.cloth else None
        changes = {
            "target": target.value,
            "purpose": facts.purpose.value,
            "finish.process": None,
            "finish.cloth": cloth,
        }
        group = "" if usual else _ELSEWHERE.format(stock=job.stock.name)
        return Choice(facts.words, means, changes, target is asked.document.target, group=group)

    ways = processes_for(job.stock)
    now = process_of_job(job)
    targets = [on(target) for target in Target]
    return [
        *(one for one in targets if not one.group),
        *(
            Choice(one.name, one.words, {"finish.process": one.key}, one is now, group=_WAYS)
            for one in (ways if len(ways) > 1 else ())
        ),
        *(one for one in targets if one.group),
    ]


KIND = PhraseKind("purpose", 9, say, choices)
