"""Stock found by makers' words: what is typed against a table of them, and against a stock's own words.

A word need not be whole: whoever types "holo" means what "holographic" means.
"""

import re
from collections.abc import Iterable

from vamper.core.values.stock import GROUP_OF, Stock, StockClass
from vamper.core.values.tables import table

_TABLE = table(__package__, "stock_words.toml")
CLASSES: dict[str, frozenset[StockClass]] = {
    words: frozenset(StockClass(one) for one in kinds) for words, kinds in _TABLE["classes"].items()
}
STOCKS: dict[str, frozenset[str]] = {words: frozenset(keys) for words, keys in _TABLE["stocks"].items()}
# From so many letters on, a word may be the beginning of another.
_LEAST_LETTERS = 3


def words_for(stock: Stock) -> tuple[str, ...]:
    """All that a stock is found by: its name, its use, its group, and makers' words for it."""
    own = f"{stock.name} {stock.use} {GROUP_OF[stock.stock_class]} {stock.like}".lower()
    return (*re.findall(r"[\w-]+", own), *words_for_class(stock.stock_class), *words_for_key(stock.key))


def words_for_class(stock_class: StockClass) -> tuple[str, ...]:
    """Makers' words for a whole class of stock."""
    return tuple(words for words, kinds in CLASSES.items() if stock_class in kinds)


def words_for_key(key: str) -> tuple[str, ...]:
    """Makers' words for one starter stock."""
    return tuple(words for words, keys in STOCKS.items() if key in keys)


def is_found(stock_words: Iterable[str], sought: str) -> bool:
    """Whether a stock that goes by some words is meant by what is typed: each typed word begins one of these words, or
    all of them together are a single word.
    """
    known = tuple(stock_words)
    typed = " ".join(sought.lower().split())
    if not typed or any(_begins(one, typed) for one in known):
        return True
    return all(any(_begins(one, word) for one in known) for word in typed.split())


def _begins(known: str, word: str) -> bool:
    if known == word or word in known.split():
        return True
    # A plural is the word itself.
    if word.endswith("s") and known == word[:-1]:
        return True
    return len(word) >= _LEAST_LETTERS and any(part.startswith(word) for part in (known, *known.split()))
