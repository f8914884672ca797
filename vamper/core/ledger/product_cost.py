"""What a product costs: its prints, its blank and its parts together, first the material, then with the work.

A product is one thing: of two prints it has the cost of both, and one blank. What is spoilt is spread over what is
good, as for pieces; blank and parts are only taken for what came out well.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from vamper.core.ledger.cost import Costing, CostPart, PieceCost, Rates
from vamper.core.values.product import ProductSpec

_WORK = (CostPart.HANDS, CostPart.WASTE)


@dataclass(frozen=True, slots=True)
class ProductCost:
    """The cost of one product: the `material` alone, and `total` with the work; and what to ask for it."""

    name: str
    quantity: int
    material: float
    total: float
    by_margin: float


def product_costs(
    products: Sequence[ProductSpec], found: Costing, rates: Rates, good: float
) -> tuple[ProductCost, ...]:
    """The products of a job whose prints all lie on its sheets; `good` is the share that comes out well."""
    pieces = {one.number: one for one in found.pieces}
    return tuple(
        _cost(product, [pieces[number] for number in product.items], rates, good)
        for product in products
        if all(number in pieces for number in product.items)
    )


def _cost(product: ProductSpec, prints: Sequence[PieceCost], rates: Rates, good: float) -> ProductCost:
    without = {CostPart.BLANK} if product.blank_price else set()
    material = math.fsum(_sum(one, {*without, *_WORK}) for one in prints) / good + product.parts_price
    hands = math.fsum(cost for one in prints for part, cost in one.parts if part is CostPart.HANDS) / good
    total = material + hands
    return ProductCost(product.name, product.quantity, material, total, total / (1 - rates.margin))


def _sum(piece: PieceCost, without: set[CostPart]) -> float:
    return math.fsum(cost for part, cost in piece.parts if part not in without)
