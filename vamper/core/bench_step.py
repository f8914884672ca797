"""One thing to do at the bench."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class BenchStep:
    """`do` in a few words, `figures` large, `lines` below them."""

    key: str
    do: str
    figures: tuple[str, ...]
    lines: tuple[str, ...]
