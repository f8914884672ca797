"""From how far lettering is read, and how large it is for being read from there."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_lettering import line, outline_of, picture
from vamper.core.art.legible import LETTER_MM_A_METRE, Legibility, legibility


def test_the_lowest_line_is_what_has_to_be_read() -> None:
    """Letters of 20 and 8 % of a canvas that is 80 mm at its ink's longest side."""
    outline = outline_of(line(6, 40, 5, 20) + line(10, 80, 8, 8))
    left, _, right, _ = outline.shape.bounds
    ink = max(outline.size_mm)
    drawn = max(4 * 0.95 * 20 + 0.6 * 20, 0)
    told = legibility(outline)
    assert not told.as_whole
    assert right - left == pytest.approx(ink, abs=0.5)
    # A stroke is 9 % of a letter's height to either side of its line.
    assert told.letters_mm == pytest.approx(8 * 1.18 * ink / drawn, rel=0.15)
    assert told.from_m == pytest.approx(told.letters_mm / LETTER_MM_A_METRE)


def test_what_has_no_letters_is_taken_for_one_line() -> None:
    outline = outline_of(picture(50, 50, 60))
    assert legibility(outline) == Legibility(outline.size_mm[1], as_whole=True)


@given(st.floats(0.5, 300), st.floats(0.5, 200))
def test_grown_for_a_distance_it_is_read_from_there(letters_mm: float, distance_m: float) -> None:
    told = Legibility(letters_mm, as_whole=False)
    assert Legibility(letters_mm * told.grown_for(distance_m), as_whole=False).from_m == pytest.approx(distance_m)
