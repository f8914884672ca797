"""How many pieces of how many designs."""

from vamper.services.brief.phrase import BriefFacts, PhraseKind
from vamper.services.brief.words import plural


def say(told: BriefFacts) -> tuple[str, str]:
    items = told.document.items
    pieces = sum(item.quantity for item in items)
    return "Cut ", f"{plural(pieces, 'piece')} of {plural(len(items), 'design')}" if pieces else "nothing yet"


KIND = PhraseKind("pieces", 1, say)
