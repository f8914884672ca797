"""What went wrong, found by makers' words: what is seen, and what is known of its stock."""

import re

from vamper.core.ledger.diagnosis import FACTS, SYMPTOMS
from vamper.core.ledger.facts import facts_of_stock
from vamper.core.values.stock import STARTER_STOCKS, StockClass
from vamper.core.values.tables import table
from vamper.services.brief.stock_words import is_found, words_for_class, words_for_key

_TABLE = table(__package__, "seen_words.toml")


def found_by() -> dict[str, tuple[str, ...]]:
    """The words by which each symptom and each fact of a diagnosis is found."""
    words = {code: _own(sentence) for code, sentence in {**SYMPTOMS, **FACTS}.items()}
    for code, kinds in _TABLE["classes"].items():
        words[code] += tuple(one for kind in kinds for one in words_for_class(StockClass(kind)))
    for code, more in _TABLE["words"].items():
        words[code] += tuple(more)
    for stock in STARTER_STOCKS:
        for code in facts_of_stock(stock):
            words[code] += words_for_key(stock.key)
    return words


def found(sought: str) -> list[str]:
    """The codes of what is meant by what is typed; all of them where nothing is."""
    return [code for code, words in _FOUND_BY.items() if is_found(words, sought)]


def _own(sentence: str) -> tuple[str, ...]:
    return tuple(re.findall(r"[\w-]+", sentence.lower()))


_FOUND_BY = found_by()
