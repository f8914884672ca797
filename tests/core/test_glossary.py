"""Words of the craft: each is explained once, in words that stand for themselves."""

import itertools
from pathlib import Path

from vamper.core.values.glossary import TERMS

ROOT = Path(__file__).parents[2]


def test_every_term_has_its_own_forms_and_a_short_explanation() -> None:
    assert len(TERMS) >= 12
    forms = [form for term in TERMS for form in term.forms]
    assert len(set(forms)) == len(forms)
    for term in TERMS:
        assert list(term.forms) == sorted(term.forms, key=len, reverse=True)
        assert 30 < len(term.text) < 160, term.key
        assert term.text.endswith(".")


def test_every_term_is_drawn() -> None:
    drawn = (ROOT / "ui" / "src" / "look" / "TermPicture.tsx").read_text()
    for term in TERMS:
        assert f"'{term.key}':" in drawn or f"\n  {term.key}:" in drawn, term.key


def test_no_form_is_found_inside_the_word_of_another_term() -> None:
    """A sentence that says one of them is never taken for two at the same place by their order."""
    for one, other in itertools.permutations(TERMS, 2):
        for form in one.forms:
            inside = [longer for longer in other.forms if form != longer and f" {form} " in f" {longer} "]
            assert not inside or len(form) < min(len(longer) for longer in inside)
