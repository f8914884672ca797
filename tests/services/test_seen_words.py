"""What went wrong is found by makers' words, for what is seen and for the stock it is seen on."""

import pytest

from vamper.core.ledger.diagnosis import FACTS, SYMPTOMS
from vamper.services.brief.seen_words import found, found_by


@pytest.mark.parametrize(("code", "words"), found_by().items())
def test_every_word_finds_what_it_is_for(code: str, words: tuple[str, ...]) -> None:
    for word in words:
        assert code in found(word), word


@pytest.mark.parametrize(
    ("words", "code"),
    [
        ("bubbles", "film-folds"),
        ("iron-on", "corners-lift"),
        ("sublimation", "reads-backwards"),
        ("cardstock", "corners-torn"),
        ("registration", "marks-not-found"),
        ("misaligned", "cut-off-even"),
        ("holographic", "metallic"),
        ("holographic", "gloss"),
        ("Peeling", "corners-lift"),
    ],
)
def test_what_makers_say(words: str, code: str) -> None:
    assert code in found(words)


def test_nothing_typed_leaves_everything_and_nonsense_nothing() -> None:
    assert found("") == found("  ") == [*SYMPTOMS, *FACTS]
    assert found("xyzzy") == []


def test_a_word_for_a_stock_finds_no_more_than_what_may_be_seen_on_it() -> None:
    """Nobody with a transfer is shown what only water-slide film does."""
    assert "film-curled" not in found("iron-on")
    assert "marks-not-found" not in found("iron-on")
