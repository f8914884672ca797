"""The cutter, each with its force and the live area it leaves."""

from dataclasses import replace

from vamper.core.values.cutter import Cutter
from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseKind, room
from vamper.services.brief.words import plural


def say(told: BriefFacts) -> tuple[str, str]:
    return " on ", told.machine("cutter", told.cutter)


def choices(asked: ChoiceContext) -> list[Choice]:
    return [
        Choice(
            kept.name,
            f"{_force(kept.value)}, {room(replace(asked.job, cutter=kept.value))}",
            {"cutter_id": key},
            key == asked.document.cutter_id,
        )
        for key, kept in asked.shop.cutters.all().items()
    ]


def _force(cutter: Cutter) -> str:
    if not cutter.is_machine:
        return "no machine: guide lines and straight rows"
    if cutter.has_own_program:
        count = len(cutter.settings)
        return f"by its own program, {plural(count, 'setting')} typed" if count else "by its own program"
    return f"{cutter.force_gf.min:g} to {cutter.force_gf.max:g} gf"


KIND = PhraseKind("cutter", 9, say, choices)
