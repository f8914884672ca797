"""The job as one sentence: phrases that can be changed in place, and the words between them."""

from dataclasses import dataclass

from vamper.services.brief.phrase import PHRASES, BriefFacts, Choice, ChoiceContext


@dataclass(frozen=True, slots=True)
class Phrase:
    """A part of the brief; `key` names what a click changes, None for the words between."""

    text: str
    key: str | None = None


def brief(told: BriefFacts) -> list[Phrase]:
    """The job as one sentence."""
    found = []
    for kind in PHRASES:
        lead, words = kind.say(told)
        found += [Phrase(lead), *([Phrase(words, kind.key)] if words else [])]
    return [*found, Phrase(".")]


def choices(asked: ChoiceContext, key: str) -> list[Choice]:
    """The choices for a phrase; empty for phrases that are not a choice from a list."""
    return next((kind.choices(asked) for kind in PHRASES if kind.key == key), [])
