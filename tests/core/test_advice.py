"""What to choose in the printer's dialog: starters by the class of stock, and whose word goes before whose."""

import pytest

from vamper.core.printing.advice import SCHOOLS, LearntPrinting, PrintChoice, advice_for
from vamper.core.values.printer import Ink, Printer, PrinterKind
from vamper.core.values.stock import STOCK_BY_KEY

VINYL, CARD, LABEL, DYE = (STOCK_BY_KEY[key] for key in ("satin-vinyl", "card", "matte-label", "dye-paper"))
LASER = Printer(PrinterKind.LASER)
LEARNT = LearntPrinting("glossy photo paper", "high", "12 of 12 good so far")


@pytest.mark.parametrize("stock", [CARD, LABEL])
def test_a_laser_asks_for_heavy_paper_by_thickness_and_has_nothing_to_dry(stock) -> None:  # type: ignore[no-untyped-def]
    advice = advice_for(stock, LASER)
    assert (advice.media == "heavy paper or labels") == (stock.thickness_um > 150)
    assert (advice.dry_minutes, advice.schools) == (0, ())
    assert "toner" in advice.ink
    assert advice_for(stock, Printer()).dry_minutes > 0


def test_dye_ink_is_told_where_the_paper_wants_it() -> None:
    assert advice_for(DYE, Printer(ink=Ink.DYE)).ink == "dye ink, as the paper wants"
    assert advice_for(DYE, Printer()).ink != "dye ink, as the paper wants"
    assert advice_for(VINYL, Printer(ink=Ink.DYE)).ink != "dye ink, as the paper wants"


def test_an_own_word_goes_before_runs_these_before_a_label_and_that_before_a_school() -> None:
    starter = advice_for(VINYL, Printer())
    every = {"school": "photo", "label": "matte film", "own": "my preset"}
    said = [
        advice_for(VINYL, Printer(), PrintChoice(**{key: every[key] for key in keys}), learnt)
        for keys, learnt in (
            (("school", "label", "own"), LEARNT),
            (("school", "label"), LEARNT),
            (("school", "label"), None),
            (("school",), None),
            ((), None),
        )
    ]
    assert [one.media for one in said[:3]] == ["my preset", "glossy photo paper", "matte film"]
    assert (said[1].quality, said[0].quality) == ("high", starter.quality)
    assert said[3].schools[0] == SCHOOLS["photo"]
    assert said[3].source == "what won on your swatch strip"
    assert said[4] == starter
