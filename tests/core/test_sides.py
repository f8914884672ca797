"""Which side is up: told for every stock from one place, and the same wherever it is told."""

import pytest

from tests.scenes import item, scene
from vamper.core.bench_card import bench_steps, loading_picture
from vamper.core.printing.advice import advice_for
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.printer import Printer
from vamper.core.values.sides import sides_of
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY, Stock


@pytest.mark.parametrize("stock", STARTER_STOCKS, ids=lambda stock: stock.key)
@pytest.mark.parametrize("feed", [Feed.MAT, Feed.ROLLER])
def test_every_stock_says_which_side_is_up_at_printer_and_cutter(stock: Stock, feed: Feed) -> None:
    sides = sides_of(stock)
    assert bool(sides.printed) == stock.printable
    assert advice_for(stock, Printer()).side == sides.printed
    plan = scene(item(), stock=stock.key, cutter=Cutter(feed=feed)).plan()
    load = next(step for step in bench_steps(plan) if step.key == "load")
    assert any(sides.up in figure for figure in load.figures)
    shown = " ".join(words.text for words in loading_picture(plan).words)
    assert sides.up.partition(":")[0] in shown
    said = " ".join((*load.figures, *load.lines, shown))
    # What is cut from its back is nowhere said to lie face up, and what is not is never said to lie on its face.
    assert ("back up" in said) == (stock.mirrored and not stock.printable)
    if stock.mirrored and not stock.printable:
        assert "face up" not in said
        assert sides.why in load.lines


@pytest.mark.parametrize("key", ["gloss-vinyl", "clear-vinyl", "shimmer-vinyl", "gloss-label", "satin-vinyl"])
def test_the_liner_is_never_said_to_be_printed(key: str) -> None:
    side = sides_of(STOCK_BY_KEY[key]).printed
    assert "duller" not in side
    assert "whiter" not in side
    assert "the face is printed" in side
