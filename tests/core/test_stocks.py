"""Stocks: the starters' table, what a new one takes from its neighbours, and what a laminate adds."""

import pytest

from tests.covers import laminated
from vamper.core.cutting.neighbours import BASES, from_neighbours, grams_of, micrometres_of
from vamper.core.effective_job import effective_job
from vamper.core.plan import detail_of
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.job import Job
from vamper.core.values.paper import USUAL_PAPER
from vamper.core.values.stock import AFTER, GROUP_OF, STARTER_STOCKS, STOCK_BY_KEY, StockClass, Tack
from vamper.services.brief.words import STOCK_CLASS_WORDS

THROUGH = {"water-slide", "card", "dye-paper", "shrink-film", "magnet"}


def test_each_starter_says_what_it_is_for_and_how_it_is_usually_cut() -> None:
    for stock in STARTER_STOCKS:
        assert stock.use
        assert GROUP_OF[stock.stock_class]
        assert AFTER[stock.stock_class]
        if stock.key != "dark-transfer":
            assert (stock.starts is Cut.THROUGH) == (stock.stock_class.value in THROUGH), stock.key
        assert stock.has_backing or stock.starts is Cut.THROUGH
        assert stock.soft_backing == (stock.stock_class in (StockClass.TRANSFER, StockClass.FLEX))
    assert STOCK_BY_KEY["dark-transfer"].starts is Cut.THROUGH
    tacks = {"matte-label": "low", "card": "low", "heavy-card": "medium", "satin-vinyl": "medium", "magnet": "high"}
    assert {key: STOCK_BY_KEY[key].tack for key in tacks} == {key: Tack(tack) for key, tack in tacks.items()}


def test_rough_and_coated_cards_are_harder_and_blunt_blades() -> None:
    card = STOCK_BY_KEY["card"]
    for key in ("textured-card", "shimmer-card", "glitter-card"):
        other = STOCK_BY_KEY[key]
        assert other.hardness_gf_per_um > card.hardness_gf_per_um
        assert other.abrasion > card.abrasion
        assert other.tuft > card.tuft


def test_a_new_card_lies_between_its_neighbours_and_names_them() -> None:
    new = from_neighbours("own", "own card", StockClass.CARD, 225)
    assert "card, 200 g/m²" in new.like
    assert 0.80 < new.hardness_gf_per_um < 0.95
    assert (new.face_um, new.backing_um, new.starts) == (225, 0, Cut.THROUGH)
    # What is as thick as a starter is cut as that starter, nearly.
    same = from_neighbours("own", "own", StockClass.VINYL, 110)
    assert same.hardness_gf_per_um == pytest.approx(0.85, rel=0.05)


def test_paper_by_weight() -> None:
    assert micrometres_of(200) == 250
    # 80 lb cover is 216 g/m², 110 lb index 199, 20 lb bond 75.
    assert grams_of(80, "cover") == pytest.approx(216, abs=0.6)
    assert grams_of(110, "index") == pytest.approx(199, abs=0.6)
    assert grams_of(20, "bond") == pytest.approx(75.2, abs=0.1)
    assert {"cover", "index", "text", "bond", "tag"} == BASES.keys()
    with pytest.raises(BadInput, match="no such basis"):
        grams_of(80, "ream")


def test_a_stock_without_a_face_is_refused() -> None:
    with pytest.raises(BadInput, match="needs a face"):
        from_neighbours("own", "own", StockClass.CARD, 0)


def test_a_laminate_adds_its_thickness_to_the_face_once() -> None:
    job = Job(paper=USUAL_PAPER, stock=STOCK_BY_KEY["matte-label"], finish=laminated())
    made = effective_job(job)
    assert made.stock.face_um == 155
    assert effective_job(made) == made
    assert detail_of(()).is_small is False


def test_what_a_stock_and_its_class_are_called_are_words() -> None:
    """Codes have hyphens; of words only water-slide has one."""
    names = [stock.name for stock in STARTER_STOCKS] + list(STOCK_CLASS_WORDS.values())
    assert [name for name in names if "-" in name.replace("water-slide", "")] == []
    assert STOCK_BY_KEY["shrink-film"].name == STOCK_CLASS_WORDS[StockClass.SHRINK] == "shrink film"
