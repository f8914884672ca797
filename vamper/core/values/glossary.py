"""The words of the craft that a maker may not know, each with one explanation for all screens."""

from dataclasses import dataclass

from vamper.core.values.tables import table


@dataclass(frozen=True, slots=True)
class Term:
    """One word of the craft: its name, how it is written in sentences (the longest form first), what it means."""

    key: str
    name: str
    forms: tuple[str, ...]
    text: str


TERMS: tuple[Term, ...] = tuple(
    Term(key, one["name"], tuple(one["forms"]), one["text"])
    for key, one in table(__package__, "glossary.toml")["terms"].items()
)
