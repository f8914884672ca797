"""Stocks of the maker's own: copied from another, changed, put aside, or made anew from a thickness or a weight."""

import re
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar

from annotated_types import Gt, Le, Len

from vamper.core.cutting.neighbours import from_neighbours, grams_of, micrometres_of
from vamper.core.values.findings import BadInput
from vamper.core.values.limits import ONE_LINE, STRICT
from vamper.core.values.stock import STOCK_BY_KEY, Micrometres, Stock, StockClass
from vamper.services.shop.shelf import Shelf

_NOT_IN_KEYS = re.compile(r"[^a-z0-9]+")


@dataclass(frozen=True, slots=True)
class NewStock:
    """A stock that nobody has cut yet, with what is known of its thickness.

    Parameters
    ----------
    name, stock_class : str, StockClass
        What it is called, and what kind of material it is.
    face_um, backing_um : float or None
        Thickness as it was measured, µm.
    grams_m2 : float or None
        Weight, g/m².
    pounds, basis : float, str, or None
        Weight in pounds of a basis.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: Annotated[str, Len(1, 100), ONE_LINE]
    stock_class: StockClass
    face_um: Micrometres | None = None
    backing_um: Micrometres | None = None
    grams_m2: Annotated[float, Gt(0), Le(2000)] | None = None
    pounds: Annotated[float, Gt(0), Le(1000)] | None = None
    basis: str | None = None


class OwnStocks:
    """The stocks that are no starters any more, or never were."""

    def __init__(self, shelf: Shelf[str, Stock]) -> None:
        self._shelf = shelf

    def proposed(self, new: NewStock) -> Stock:
        """A new stock, everything that is not said from its nearest neighbours.

        Raises
        ------
        BadInput
            If neither thickness nor weight is said, or both, or it has no face.
        """
        said = [new.face_um, new.grams_m2, new.pounds]
        if sum(value is not None for value in said) != 1:
            raise BadInput("say how thick its face is, or its weight in g/m² or in lb: one of them", "face_um")
        grams = new.grams_m2
        if new.pounds is not None:
            if new.basis is None:
                raise BadInput("say which paper the pounds are of: cover, index, text, bond or tag", "basis")
            grams = grams_of(new.pounds, new.basis)
        face = micrometres_of(grams) if grams is not None else new.face_um or 0.0
        known = [kept.value for kept in self._shelf.all().values()]
        found = from_neighbours(self._key(new.name), new.name, new.stock_class, face, new.backing_um, known)
        return found if grams is None else replace(found, grams_m2=round(grams, 1))

    def add(self, stock: Stock) -> str:
        """Put a stock on the shelf under a key of its own. Returns that."""
        key = self._key(stock.name)
        self._shelf.add(key, stock.name, replace(stock, key=key))
        return key

    def change(self, key: str, stock: Stock) -> None:
        """Change a stock; jobs on it follow. A starter stays what it is.

        Raises
        ------
        BadInput
            If it is a starter: that is copied first.
        """
        if key in STOCK_BY_KEY:
            raise BadInput("a starter stays as it is; copy it and change the copy", "stock")
        self._shelf.get(key)
        self._shelf.keep(stock.name, replace(stock, key=key), key)

    def remove(self, key: str) -> None:
        """Take one of the maker's own stocks away.

        Raises
        ------
        BadInput
            If it is a starter, or a job is planned with it.
        """
        if key in STOCK_BY_KEY:
            raise BadInput("a starter stays; put it aside, and it is no longer offered", "stock")
        self._shelf.remove(key)

    def _key(self, name: str) -> str:
        base = _NOT_IN_KEYS.sub("-", name.lower()).strip("-")[:60] or "stock"
        taken, key, number = self._shelf.all(), base, 1
        while key in taken or key in STOCK_BY_KEY:
            number += 1
            key = f"{base}-{number}"
        return key
