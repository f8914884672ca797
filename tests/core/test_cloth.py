"""What holds on which cloth: the package's own word stops, everything else is something to look at."""

from dataclasses import replace
from itertools import product

from vamper.core.finishing.cloth_fit import cloth_findings, film_of
from vamper.core.finishing.cloth_products import CLOTH_WORDS, cloth_products
from vamper.core.values.findings import Severity
from vamper.core.values.finish import ClothSpec, Fibre, PressFilm
from vamper.core.values.stock import STARTER_STOCKS, STOCK_BY_KEY

FILM = STOCK_BY_KEY["print-flex"]


def severities(stock: object, cloth: ClothSpec) -> list[Severity]:
    return [one.severity for one in cloth_findings(stock, cloth)]  # type: ignore[arg-type]


def test_only_a_packages_own_word_stops() -> None:
    for stock, fibre in product(STARTER_STOCKS, Fibre):
        if stock.press is not None:
            assert Severity.STOP not in severities(stock, ClothSpec(fibre))
    barred = replace(FILM, key="own", press=PressFilm((Fibre.COTTON,), (Fibre.POLYESTER,), pale=True))
    assert severities(barred, ClothSpec(Fibre.POLYESTER)) == [Severity.STOP]
    assert severities(barred, ClothSpec(Fibre.COTTON)) == []
    # Dye wanders out of blends too, unless the package names them.
    assert severities(barred, ClothSpec(Fibre.BLEND)) == [Severity.LOOK]
    named = replace(barred, press=PressFilm((Fibre.COTTON, Fibre.BLEND), pale=True))
    assert severities(named, ClothSpec(Fibre.BLEND)) == []


def test_a_stock_of_ones_own_without_a_word_goes_by_its_kind() -> None:
    own = replace(FILM, key="own", press=None)
    assert film_of(own) == FILM.press


def test_products_for_a_cloth_stand_side_by_side_those_against_which_nothing_speaks_first() -> None:
    pale = cloth_products(STARTER_STOCKS, ClothSpec(Fibre.COTTON))
    assert {one.stock.key for one in pale} == set(CLOTH_WORDS)
    against = [bool(one.against) for one in pale]
    assert against == sorted(against)
    dark = {one.stock.key for one in cloth_products(STARTER_STOCKS, ClothSpec(Fibre.COTTON, dark=True))}
    assert dark == {"dark-transfer", "print-flex", "colour-flex"}
