"""What holds on which cloth: two films of one class differ, so it is said of each stock, the maker's own too.

The package decides; where only it could forbid, there is something to look at and nothing to stop for. Dye wanders out
of polyester and blends into a pale film under heat.
"""

from collections.abc import Iterator

from vamper.core.values.findings import Finding, Severity
from vamper.core.values.finish import ClothSpec, Fibre, PressFilm
from vamper.core.values.stock import STARTER_STOCKS, Stock

FIBRE_WORDS = {Fibre.COTTON: "cotton", Fibre.BLEND: "a blend", Fibre.POLYESTER: "polyester"}
_DYED = (Fibre.POLYESTER, Fibre.BLEND)
_NOTHING = PressFilm()


def film_of(stock: Stock) -> PressFilm:
    """The press film of a stock: as its package says, else as starters of its kind."""
    if stock.press is not None:
        return stock.press
    alike = (
        one.press
        for one in STARTER_STOCKS
        if one.press is not None
        and (one.stock_class, one.mirrored, one.printable) == (stock.stock_class, stock.mirrored, stock.printable)
    )
    return next(alike, _NOTHING)


def cloth_findings(stock: Stock, cloth: ClothSpec) -> Iterator[Finding]:
    """Findings where a stock is pressed on a cloth."""
    film, fibre = film_of(stock), FIBRE_WORDS[cloth.fibre]
    if cloth.fibre in film.not_for:
        yield Finding(
            "finish.cloth",
            Severity.STOP,
            f"Its package says: not for {fibre}",
            f"{stock.title} does not hold on {fibre}. Take a stock whose package names this cloth.",
        )
    elif cloth.fibre in _DYED and film.pale and not (stock.press is not None and cloth.fibre in film.fibres):
        yield Finding(
            "finish.cloth",
            Severity.LOOK,
            "Dye may bleed into it",
            f"Under heat, dye moves from {fibre} into a pale film, sometimes days later. Read whether its package "
            "names this cloth, and press a scrap first.",
        )
    elif film.fibres and cloth.fibre not in film.fibres:
        yield Finding(
            "finish.cloth",
            Severity.LOOK,
            "May not hold on this cloth",
            f"{stock.title} is usually made for {' and '.join(FIBRE_WORDS[one] for one in film.fibres)}. Read what its "
            f"package says of {fibre}, and press a scrap first.",
        )
    if film.pale_only and cloth.dark:
        yield Finding(
            "finish.cloth-dark",
            Severity.STOP,
            "It will not show on dark cloth",
            f"{stock.title}: the ink is see-through and has no white under it. Take a stock for dark cloth.",
        )
