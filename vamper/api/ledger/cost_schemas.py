"""What a job costs, on the wire."""

from pydantic import BaseModel

from vamper.core.ledger.cost import CostPart


class CostPartOut(BaseModel):
    part: CostPart
    cost: str
    share: float


class PieceCostOut(BaseModel):
    number: int
    name: str
    count: int
    cost: str
    by_margin: str
    by_hour: str
    parts: list[CostPartOut]


class ProductCostOut(BaseModel):
    """The cost of one product, first its material, then with the work; and what to ask for it."""

    name: str
    quantity: int
    material: str
    cost: str
    by_margin: str


class CostOut(BaseModel):
    """The cost of a job; it says nothing while no price is known."""

    known: bool
    pieces: list[PieceCostOut]
    products: list[ProductCostOut]
    total: str
    a_piece: str
    lines: list[str]
    tax_line: str
