"""Sums of money as makers write them."""

import pytest

from vamper.core.ledger.money import money
from vamper.services.shop.regions import REGIONS


@pytest.mark.parametrize(
    ("value", "currency", "words"),
    [
        (12, "€", "12.00 €"),
        (12.345, "$", "$12.35"),
        (-3.5, "£", "-£3.50"),
        (0, "", "0.00"),
        (7.1, "kr", "7.10 kr"),
        (-0.001, "€", "0.00 €"),
        (5, "MX$", "MX$5.00"),
    ],
)
def test_a_sum_and_its_currency(value: float, currency: str, words: str) -> None:
    assert money(value, currency) == words


def test_every_region_that_measures_in_inches_is_a_code() -> None:
    assert all(len(code) == 2 and code.isupper() for code in (*REGIONS.inches, *REGIONS.currencies))
    assert REGIONS.currencies["US"] == "$"
    assert REGIONS.currencies["DE"] == REGIONS.currencies["FR"]
