"""What spoils a piece in a lesson, in words that go with a count: "5 torn at the points"."""

from vamper.core.values.tables import table

SPOILING_TEXTS: dict[str, str] = dict(table(__package__, "sheet_words.toml")["pieces"])


def spoiling_text(code: str) -> str:
    return SPOILING_TEXTS[code]
