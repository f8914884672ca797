"""Findings on a picture's colours where nothing is printed: several flat colours, and shades."""

from vamper.core.art.inspect import ArtFacts
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity
from vamper.core.values.stock import PRINTED, STOCK_BY_KEY, Stock


def colour_findings(facts: ArtFacts, stock: Stock, number: int) -> list[Finding]:
    """Findings on pictures and drawings in several colours on a stock that is not printed and has a single colour."""
    colours = facts.flat_colours
    if facts.shaded:
        return [_unprinted(stock, number)]
    if len(colours) < 2:
        return []
    return [
        Finding(
            "art.colours",
            Severity.LOOK,
            f"{len(colours)} colours in one drawing",
            "This stock is not printed, so it has one colour a sheet. Taken apart, each colour is a design with sheets "
            "of its own. Two keys bring layers into register; the last has none, nor one that fits in between others.",
            {"colours": len(colours)},
            item=number,
            fixes=(
                Fix("One sheet a colour", f"{len(colours)} designs instead of this one", FixTarget.COLOURS, {}),
                Fix("The same without keys", "laid by eye, nothing to lift off", FixTarget.COLOURS, {"keys": False}),
            ),
        )
    ]


def _unprinted(stock: Stock, number: int) -> Finding:
    starter, printed = STOCK_BY_KEY.get(stock.key), PRINTED.get(stock.key)
    fixes: tuple[Fix, ...] = ()
    if starter is not None and starter.asks_if_plain:
        fixes = (Fix("Print it", f"on {stock.name}, cut along its rim", FixTarget.JOB, {"plain": False}),)
    elif printed is not None:
        name = STOCK_BY_KEY[printed].name
        fixes = (Fix(f"Use {name}", "printed, then cut along its rim", FixTarget.JOB, {"stock": printed}),)
    return Finding(
        "art.unprinted",
        Severity.LOOK,
        "The picture itself will not be there",
        f"Its colours matter, and {stock.name} is not printed: only its plain shape comes out.",
        item=number,
        fixes=fixes,
    )
