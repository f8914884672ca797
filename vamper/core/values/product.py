"""Products: things made and sold as one: one or more prints, a blank, and small parts with a price."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar

from annotated_types import Ge, Le, Len

from vamper.core.values.findings import BadInput
from vamper.core.values.item import ItemSpec
from vamper.core.values.limits import ONE_LINE, STRICT

Price = Annotated[float, Ge(0), Le(1_000_000)]
PartName = Annotated[str, Len(1, 80), ONE_LINE]


@dataclass(frozen=True, slots=True)
class ProductPart:
    """A small part of a product: a cord, a ring; `count` of them at `price` each."""

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: PartName
    price: Price = 0.0
    count: Annotated[int, Ge(1), Le(100)] = 1


@dataclass(frozen=True, slots=True)
class ProductSpec:
    """One kind of product.

    Parameters
    ----------
    name : str
        What it is called.
    items : tuple of int
        Numbers of the designs that go on it, a print of each.
    quantity : int
        How many are made.
    blank, blank_price : str, float
        What the designs go on, and its price.
    parts : tuple of ProductPart
        What else is in it.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    name: PartName
    items: Annotated[tuple[Annotated[int, Ge(1), Le(1_000_000)], ...], Len(1, 20)]
    quantity: Annotated[int, Ge(1), Le(10_000)] = 1
    blank: Annotated[str, Len(0, 80), ONE_LINE] = ""
    blank_price: Price = 0.0
    parts: Annotated[tuple[ProductPart, ...], Len(0, 20)] = ()

    @property
    def parts_price(self) -> float:
        """The price of blank and parts of one product."""
        return self.blank_price + sum(part.price * part.count for part in self.parts)


Products = Annotated[tuple[ProductSpec, ...], Len(0, 50)]


def check_products(products: tuple[ProductSpec, ...]) -> None:
    """Refuse products that contradict each other.

    Raises
    ------
    BadInput
        If two have one name, or a design belongs to two of them.
    """
    seen_names, seen_items = set[str](), set[int]()
    for place, one in enumerate(products):
        if one.name in seen_names:
            raise BadInput(f"two products are called “{one.name}”; give each its own name", f"products.{place}.name")
        twice = seen_items & set(one.items)
        if twice or len(set(one.items)) < len(one.items):
            raise BadInput("a design belongs to one product, and once", f"products.{place}.items")
        seen_names.add(one.name)
        seen_items |= set(one.items)


def made_as_often(items: tuple[ItemSpec, ...], products: Products) -> tuple[ItemSpec, ...]:
    """Designs, each print of a product as often as the product is made."""
    often = {number: one.quantity for one in products for number in one.items}
    return tuple(
        item if often.get(item.number) in (None, item.quantity) else replace(item, quantity=often[item.number])
        for item in items
    )


def as_often_as(products: Products, counts: Mapping[int, int]) -> Products:
    """Products of whose prints so many are wanted now: of one print as many as of the others."""

    def changed(one: ProductSpec) -> ProductSpec:
        told = next((counts[number] for number in one.items if number in counts), one.quantity)
        return replace(one, quantity=told)

    return tuple(changed(one) for one in products)


def products_of(products: tuple[ProductSpec, ...], quantities: dict[int, int]) -> int:
    """The number of products that come of designs of which so many are made: the named products, and each piece of any
    other design by itself.
    """
    named = {number for one in products for number in one.items}
    return sum(one.quantity for one in products) + sum(
        count for number, count in quantities.items() if number not in named
    )
