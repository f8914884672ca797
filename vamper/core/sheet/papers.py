"""Paper sizes by name, upright, mm."""

from vamper.core.job import Paper

NAMED_PAPERS: dict[str, Paper] = {
    "letter": Paper(215.9, 279.4),
    "legal": Paper(215.9, 355.6),
    "tabloid": Paper(279.4, 431.8),
    "a5": Paper(148.0, 210.0),
    "a4": Paper(210.0, 297.0),
    "a3": Paper(297.0, 420.0),
    "4x6in": Paper(101.6, 152.4),
    "12x12in": Paper(304.8, 304.8),
}

_WORDS = {"a5": "A5", "a4": "A4", "a3": "A3", "4x6in": "4 × 6 in", "12x12in": "12 × 12 in"}


def words_of(name: str) -> str:
    """A paper's name as people write it."""
    return _WORDS.get(name, name)


def name_of(paper: Paper) -> str | None:
    """The name a size goes by, None for a size of its own."""
    size = paper.width_mm, paper.height_mm
    return next((name for name, named in NAMED_PAPERS.items() if (named.width_mm, named.height_mm) == size), None)
