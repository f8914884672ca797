"""The workshop's stocks: starters, and the maker's own, copied, changed, put aside, or made from a thickness."""

from typing import Annotated

from fastapi import Query

from vamper.api.dependencies import ShopHere
from vamper.api.request_checks import router as door_router
from vamper.api.shop.schemas import HiddenIn, StockKeyOut, StockOnShelf
from vamper.core.values.stock import GROUP_OF, STOCK_BY_KEY, Stock, StockKey
from vamper.services.brief.stock_words import is_found, words_for
from vamper.services.shop.own_stocks import NewStock

router = door_router("stocks")


@router.get("/stocks")
def list_stocks(shop: ShopHere) -> list[StockOnShelf]:
    return [
        StockOnShelf(
            key=key,
            stock=kept.value,
            group=GROUP_OF[kept.value.stock_class],
            own=key not in STOCK_BY_KEY,
            hidden=kept.hidden,
        )
        for key, kept in shop.stocks.all().items()
    ]


@router.get("/stocks/found")
def find_stocks(shop: ShopHere, words: Annotated[str, Query(max_length=100)]) -> list[str]:
    """The keys of the stocks that a maker's words mean."""
    return [key for key, kept in shop.stocks.all().items() if is_found(words_for(kept.value), words)]


@router.post("/stocks/proposed")
def propose_stock(shop: ShopHere, new: NewStock) -> Stock:
    """A new stock from its thickness or weight, everything else from its nearest neighbours; nothing is kept yet."""
    return shop.own_stocks.proposed(new)


@router.post("/stocks", status_code=201)
def add_stock(shop: ShopHere, stock: Stock) -> StockKeyOut:
    return StockKeyOut(key=shop.own_stocks.add(stock))


@router.put("/stocks/{key}", status_code=204)
def change_stock(shop: ShopHere, key: StockKey, stock: Stock) -> None:
    shop.own_stocks.change(key, stock)


@router.put("/stocks/{key}/hidden", status_code=204)
def hide_stock(shop: ShopHere, key: StockKey, hidden: HiddenIn) -> None:
    """Put a stock aside, or back into the list."""
    shop.stocks.hide(key, hidden.hidden)


@router.delete("/stocks/{key}", status_code=204)
def remove_stock(shop: ShopHere, key: StockKey) -> None:
    """Take one of the maker's own stocks away; starters are put aside instead."""
    shop.own_stocks.remove(key)
