"""Stock is found by makers' words, and card is printed or cut plain as its maker says."""

import pytest

from tests.conftest import disc_png
from vamper.core.values.marks import NO_MARKS
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY, StockClass
from vamper.services.brief.stock_words import CLASSES, STOCKS, is_found, words_for
from vamper.services.workshop import Workshop


def found(words: str) -> set[str]:
    return {stock.key for stock in STARTER_STOCKS if is_found(words_for(stock), words)}


def test_there_are_many_words() -> None:
    assert len(CLASSES) + len(STOCKS) >= 80


@pytest.mark.parametrize("words", [*CLASSES, *STOCKS])
def test_every_word_finds_what_it_means(words: str) -> None:
    of_class = {stock.key for stock in STARTER_STOCKS if stock.stock_class in CLASSES.get(words, frozenset())}
    assert of_class | STOCKS.get(words, frozenset()) <= found(words)
    # A word that finds everything finds nothing.
    assert len(found(words)) < len(STARTER_STOCKS) / 2 + 3
    assert found(words.upper()) == found(f" {words} ") == found(words)


@pytest.mark.parametrize(
    ("words", "kind"),
    [
        ("holographic", StockClass.VINYL),
        ("die cut", StockClass.VINYL),
        ("cardstock", StockClass.CARD),
        ("iron-on", StockClass.FLEX),
        ("iron on", StockClass.TRANSFER),
        ("sublimation", StockClass.DYE),
        ("waterproof sheet", StockClass.VINYL),
        ("transfer tape", StockClass.VINYL),
        ("sticker paper", StockClass.LABEL),
        ("permanent vinyl", StockClass.VINYL),
        ("holo", StockClass.VINYL),
        ("mugs", StockClass.WATER_SLIDE),
        ("glossy sticker", StockClass.LABEL),
    ],
)
def test_what_makers_say(words: str, kind: StockClass) -> None:
    assert kind in {STOCK_BY_KEY[key].stock_class for key in found(words)}


@pytest.mark.parametrize("words", ["xyzzy", "oven glove", "sc"])
def test_what_nobody_sells_is_not_found(words: str) -> None:
    assert found(words) == set()


def test_card_is_asked_about_and_plain_card_is_a_cut_only_job(workshop: Workshop) -> None:
    number = workshop.jobs.create("Mandala")
    art = workshop.arts.take_in("mandala.png", disc_png())
    workshop.jobs.add_item(number, art.digest, "mandala", 80, {})
    choices = workshop.briefing.choices(workshop.jobs.get(number), "stock")
    card = next(one for one in choices if one.changes.get("stock") == "card")
    assert card.question is not None
    printed, plain = card.question.answers
    assert (printed.changes, plain.changes) == ({"plain": False}, {"plain": True})
    state = workshop.jobs.change(number, "card", {**card.changes, **plain.changes}, {**card.each, **plain.each})
    plan = workshop.plans.of(state).plan
    (item,) = plan.items
    assert (item.spec.edge.kind, item.spec.edge.fill_holes, item.spec.edge.join) == ("bare", False, False)
    assert not plan.job.stock.printable
    assert plan.job.marks.family == NO_MARKS
    assert plan.setup.marks == ()
    told = "".join(phrase.text for phrase in workshop_brief(workshop, number))
    assert "cut plain" in told
    # What comes in later is cut so as well.
    state = workshop.jobs.add_item(number, art.digest, "another", 40, {})
    assert state.document.items[1].edge.kind == "bare"
    # Printed after all; on another stock nobody asks.
    state = workshop.jobs.change(number, "card", {**card.changes, **printed.changes}, dict(printed.each))
    assert workshop.plans.of(state).plan.job.stock.printable


def workshop_brief(workshop: Workshop, job: int):  # type: ignore[no-untyped-def]
    from vamper.services.brief.brief import brief

    state = workshop.jobs.get(job)
    return brief(workshop.briefing.facts(state, workshop.plans.of(state).plan))


def test_what_was_used_last_stands_first_with_its_price(workshop: Workshop) -> None:
    from vamper.core.ledger.supply import Pack

    number = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("disc.png", disc_png())
    workshop.jobs.add_item(number, art.digest, "disc", 40, {"fill_holes": True})
    workshop.jobs.change(number, "stock", {"stock": "magnet"})
    workshop.supplies.buy(Pack("magnet", 10, 20.0))
    first, *others = workshop.briefing.choices(workshop.jobs.get(number), "stock")
    assert (first.changes["stock"], first.group) == ("magnet", "Used last")
    assert "2.00 of stock a piece" in first.consequence
    assert "of stock a piece" not in others[-1].consequence
