"""Named settings put in their place: the list never contradicts itself, and what was said of the others holds."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.printing.advice import advice_for, tray_words
from vamper.core.values.named_settings import NamedSetting, check_settings, harder_settings, placed_below
from vamper.core.values.printer import Printer, TrayFace
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY, Stock

NAMES = ("a", "b", "c", "d", "e")


@st.composite
def orders(draw: st.DrawFn) -> tuple[NamedSetting, ...]:
    """Lists of settings in some order without a circle: one is gentler than some of those behind it."""
    listed = draw(st.permutations(NAMES))
    return tuple(
        NamedSetting(name, gentler_than=tuple(draw(st.sets(st.sampled_from(listed[place + 1 :])))))
        if place + 1 < len(listed)
        else NamedSetting(name)
        for place, name in enumerate(listed)
    )


def above(settings: tuple[NamedSetting, ...]) -> dict[str, set[str]]:
    return {
        one.name: {settings[place].name for place in places}
        for one, places in zip(settings, harder_settings(settings), strict=True)
    }


@given(orders(), st.data())
def test_what_was_said_of_the_others_holds_when_one_is_moved(
    settings: tuple[NamedSetting, ...], data: st.DataObject
) -> None:
    name = data.draw(st.sampled_from(NAMES))
    before = above(settings)
    others = [one for one in NAMES if one != name]
    gentler = set(data.draw(st.lists(st.sampled_from(others), unique=True)))
    moved = placed_below(settings, name, tuple(gentler))
    after = above(moved)
    for one in others:
        assert before[one] - {name} <= after[one]
    assert set(others) - gentler <= after[name]
    assert all(name in after[one] for one in gentler)
    # It goes in a circle only where one that was said to be gentler than another is put on its other side.
    if any(before[one] & gentler for one in set(others) - gentler):
        with pytest.raises(ValueError, match="both gentler and harder"):
            check_settings(moved)
    else:
        check_settings(moved)


@pytest.mark.parametrize("stock", STARTER_STOCKS, ids=lambda stock: stock.key)
def test_the_side_in_the_tray_is_told_where_a_side_is_printed(stock: Stock) -> None:
    unknown, up, down = (
        tray_words(advice_for(stock, printer), printer)
        for printer in (Printer(), Printer(tray=TrayFace.UP), Printer(tray=TrayFace.DOWN))
    )
    if not stock.printable:
        assert unknown == up == down == ""
    else:
        assert "this side up in the tray" in up
        assert "this side down in the tray" in down
        assert "pencil mark" in unknown


def test_no_word_of_a_tray_for_stock_that_is_not_printed() -> None:
    assert tray_words(advice_for(STOCK_BY_KEY["colour-flex"], Printer()), Printer()) == ""
