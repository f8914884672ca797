"""What of a line comes to its place, how wide it is set, and the colours of a picture beside it."""

import pytest

from tests.conftest import disc_png
from vamper.core.values.composition import BasePlate, BaseShape, Composition, LineCentring, TextLine
from vamper.formats.composed_svg import places_of
from vamper.services.workshop import Workshop

BASE = BasePlate(BaseShape.RECTANGLE, 100.0, 60.0)


def box_of(text: str, centring: LineCentring, **more: object) -> tuple[float, float, float, float]:
    line = TextLine(text, 10.0, 50.0, 30.0, centring=centring, **more)  # type: ignore[arg-type]
    (box,) = places_of(Composition(BASE, lines=(line,)), ()).lines
    return box


def middle(box: tuple[float, float, float, float]) -> tuple[float, float]:
    return (box[0] + box[2]) / 2, (box[1] + box[3]) / 2


@pytest.mark.parametrize("text", ["tern", "Épée", "gypsy", "sea, wind;", "“Ahoy”"])
def test_all_that_is_drawn_is_in_the_middle_where_that_is_asked_for(text: str) -> None:
    assert middle(box_of(text, LineCentring.INK)) == pytest.approx((50, 30), abs=0.02)


def test_neither_accents_nor_tails_move_a_line() -> None:
    plain, accented = (box_of(text, LineCentring.LETTERS) for text in ("Epee", "Épée"))
    # The feet of both stand on one level.
    assert plain[3] == pytest.approx(accented[3], abs=0.02)
    short, tailed = (box_of(text, LineCentring.LETTERS) for text in ("nun", "nung"))
    assert short[1] == pytest.approx(tailed[1], abs=0.2)
    # Of small letters alone the middle of their bodies comes to the place.
    assert middle(short)[1] == pytest.approx(30, abs=0.2)
    assert middle(box_of("nun", LineCentring.CAPITALS))[1] > 30.5


def test_signs_at_an_end_do_not_push_letters_aside() -> None:
    bare, signed = (box_of(text, LineCentring.LETTERS) for text in ("Ahoy", "Ahoy!!!"))
    assert bare[0] == pytest.approx(signed[0], abs=0.05)
    assert box_of("Ahoy!!!", LineCentring.CAPITALS)[0] < bare[0] - 0.5


@pytest.mark.parametrize("wide", [20.0, 55.5, 80.0])
def test_a_line_is_as_wide_as_it_is_asked_for(wide: float) -> None:
    left, _, right, _ = box_of("Gannet Reach", LineCentring.INK, width_mm=wide)
    assert right - left == pytest.approx(wide, rel=0.04)
    # Never wider than its base.
    left, _, right, _ = box_of("Gannet Reach", LineCentring.INK, width_mm=300.0)
    assert right - left <= 100


def test_a_pictures_colours_are_offered(workshop: Workshop) -> None:
    taken = workshop.arts.take_in("disc.png", disc_png())
    (colour,) = workshop.arts.colours(taken.digest)
    assert colour.startswith("#")
