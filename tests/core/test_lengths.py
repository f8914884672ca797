"""Sentences in the maker's unit."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.values.lengths import Unit, bare_mm, figure, in_unit, mm, size_mm, span_mm


@pytest.mark.parametrize(
    ("template", "metric", "inches"),
    [
        (mm(3), "3 mm", "0.118 in"),
        (mm(12.7), "12.7 mm", "1/2 in"),
        (mm(-19.05), "-19.05 mm", "-3/4 in"),
        (mm(25.4123, 1), "25.4 mm", "1 in"),
        (mm(0.25, 2), "0.25 mm", "0.01 in"),
        (size_mm(215.9, 279.4), "215.9 × 279.4 mm", "8 1/2 × 11 in"),
        (size_mm(210, 297), "210 × 297 mm", "8.27 × 11.69 in"),
        (span_mm(8, 12), "8 to 12 mm", "0.315 to 0.472 in"),
        (f"{mm(25.4)} at the top, {bare_mm(6.35)} at the left", "25.4 mm at the top, 6.35 at the left", None),
        (figure(180, "°C"), "180 °C", "356 °F"),
        (figure(2, "kg"), "2 kg", "4.41 lb"),
        (figure(254, "µm", 0), "254 µm", "10 mil"),
        (figure(645.16, "mm²", 0), "645 mm²", "1 in²"),
        (figure(1, "m"), "1 m", "3.28 ft"),
        ("no figure at all, 3 mm as typed", "no figure at all, 3 mm as typed", "no figure at all, 3 mm as typed"),
    ],
)
def test_a_sentence_is_written_in_either_unit(template: str, metric: str, inches: str | None) -> None:
    assert in_unit(template) == metric
    assert in_unit(template, Unit.INCH) == (inches or "1 in at the top, 1/4 at the left")


@given(st.floats(0.05, 3000))
def test_inches_say_the_same_length(value: float) -> None:
    words = in_unit(mm(value), Unit.INCH).removesuffix(" in")
    total = sum(
        int(word.split("/")[0]) / int(word.split("/")[1]) if "/" in word else float(word) for word in words.split()
    )
    assert total * 25.4 == pytest.approx(value, abs=0.14 if value > 25 else 0.04)


def test_signs_that_are_no_figure_stay() -> None:
    for odd in ("⟨", "⟨a=b⟩", "⟨3 mm⟩", "⟨3 mm=⟩", "⟨=3⟩ ⟩"):
        assert in_unit(f"x {odd} y", Unit.INCH).startswith("x ")
