"""What the pieces are for; it decides how sharp they must be."""

from vamper.core.art.resolution import need_of, seen_from
from vamper.core.values.art import Purpose
from vamper.services.brief.phrase import Asked, Choice, PhraseKind, Told
from vamper.services.brief.words import PURPOSE_PHRASES


def say(told: Told) -> tuple[str, str]:
    return ", to live on ", PURPOSE_PHRASES[told.document.purpose]


def hint(purpose: Purpose) -> str:
    return f"seen from {seen_from(purpose)}, needs {need_of(purpose):.0f} ppi"


def choices(asked: Asked) -> list[Choice]:
    now = asked.document.purpose
    return [
        Choice(PURPOSE_PHRASES[purpose], hint(purpose), {"purpose": purpose.value}, purpose is now)
        for purpose in Purpose
    ]


KIND = PhraseKind("purpose", 9, say, choices)
