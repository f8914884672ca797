"""A drawing that is cut on its own outline, too fine for paper or card at its size: which stock or size would hold it.

A neck of a drawing that grows by a factor is wider by that factor, so one figure says it all: the widest neck that the
drawing has everywhere as it is (`EdgeFacts.holding_mm`).
"""

import math
from dataclasses import dataclass, replace

from vamper.core.edge.inspect import EdgeFacts
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Fix, FixTarget
from vamper.core.values.lengths import mm
from vamper.core.values.stock import STOCK_BY_KEY, Stock, StockClass

_OF_PAPER = (StockClass.CARD, StockClass.LABEL)
# One of each kind that a drawing is cut from, for comparing.
COMPARED = ("card", "matte-label", "satin-vinyl", "plain-vinyl", "colour-flex", "shrink-film")
# The stock that does the same work in vinyl, by whether it is printed.
_VINYL = {True: STOCK_BY_KEY["satin-vinyl"], False: STOCK_BY_KEY["plain-vinyl"]}


def as_medium(finding: Finding, edge: EdgeSpec, facts: EdgeFacts, stock: Stock) -> Finding:
    """A finding on thin paper or card, told by the stock that would hold it; any other finding as it is."""
    holding = facts.holding_mm
    if finding.code != "art.thin" or stock.stock_class not in _OF_PAPER or edge.has_border or holding is None:
        return finding
    vinyl = _VINYL[stock.printable]
    kind = "card" if stock.stock_class is StockClass.CARD else "paper"
    fixes, text = finding.fixes, f"Its narrowest strips or slots are finer than the {mm(stock.least_neck_mm)} that "
    text += f"{stock.name} holds: they tear or fray."
    if vinyl.least_neck_mm <= holding:
        text += f" {vinyl.title} holds {mm(vinyl.least_neck_mm)}, and this drawing as it is."
        fixes = (*fixes, Fix(f"Use {vinyl.name}", "the same size, finer strips", FixTarget.JOB, {"stock": vinyl.key}))
    return replace(
        finding,
        code="art.medium",
        title=f"Too fine for {kind} at this size",
        text=text,
        figures={**finding.figures, "holding_mm": round(holding, 2)},
        fixes=fixes,
    )


@dataclass(frozen=True, slots=True)
class Wanted:
    """The size that a drawing needs on one stock: from which length of its longer side on it holds, mm (None: at no
    size that is known), and whether it does so now.
    """

    stock: Stock
    from_mm: float | None
    holds: bool


def wanted_of(longest_mm: float, holding_mm: float, stocks: tuple[Stock, ...]) -> tuple[Wanted, ...]:
    """The sizes that a drawing, whose widest neck everywhere is `holding_mm`, needs on some stocks."""

    def wanted(stock: Stock) -> Wanted:
        if not holding_mm:
            return Wanted(stock, None, False)
        # Up to whole millimetres, so that what is told holds.
        least = math.ceil(longest_mm * stock.least_neck_mm / holding_mm)
        return Wanted(stock, float(least), least <= longest_mm)

    return tuple(wanted(stock) for stock in stocks)
