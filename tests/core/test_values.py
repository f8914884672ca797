"""What is taken where nothing is said, and figures that others reckon with."""

import math
from dataclasses import dataclass

import pytest

from vamper.core.values.art import Preparation
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.finish import ClothSpec
from vamper.core.values.mat import MatIn
from vamper.core.values.miss import NINETEEN_OF_TWENTY
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper, named
from vamper.core.values.printer import Margins, Printer
from vamper.core.values.tables import row
from vamper.core.values.text import is_plain


def test_nineteen_of_twenty_is_that_quantile_of_a_rayleigh_distribution() -> None:
    assert math.sqrt(-2 * math.log(0.05)) == pytest.approx(NINETEEN_OF_TWENTY, abs=5e-4)


@pytest.mark.parametrize(
    ("width", "height", "words"), [(215.9, 279.4, "letter"), (215.9, 355.6, "legal"), (148.0, 210.0, "A5")]
)
def test_papers_are_known_by_their_sizes(width: float, height: float, words: str) -> None:
    found = named(Paper(width, height))
    assert found is not None
    assert found.words == words
    assert named(Paper(width + 5, height)) is None


def test_a_border_that_is_not_said_ring_by_ring_is_one() -> None:
    assert EdgeSpec(distance_mm=2.0, colour="#102030").stack == (RingSpec(2.0, "#102030"),)
    rings = (RingSpec(1.0), RingSpec(2.0, "#102030"))
    assert EdgeSpec(rings=rings).stack == rings


@dataclass(frozen=True)
class _Row:
    margins: Margins | None = None
    sides: tuple[float, ...] = ()


def test_a_row_of_a_table_is_what_its_fields_say() -> None:
    assert row(_Row, {"margins": {"top": 3}, "sides": [1, 2]}) == _Row(Margins(top=3.0), (1.0, 2.0))
    assert row(_Row, {}) == _Row()
    with pytest.raises(TypeError):
        row(_Row, {"colour": "red"})


def test_what_is_not_said_is_the_cautious_thing() -> None:
    assert not PackingSpec().fill
    assert not MatIn().lint
    assert not MatIn().taped
    assert ClothSpec().centre == 0.5
    # A printer draws the sheet by its foot: it needs more room there.
    assert Printer().margins_mm == Margins(top=3, right=3, bottom=5, left=3)


def test_only_what_is_done_to_a_picture_is_a_change() -> None:
    assert Preparation(page=3, threshold=0.2).changes == ()
    assert Preparation(lift_de=4.0).changes == (4.0, None, None, None, None)


@pytest.mark.parametrize(
    ("text", "plain"), [("Kelp, 12 mm", True), ("Ke\u202elp", False), ("two\nlines", False), ("", True)]
)
def test_a_text_is_plain_where_every_sign_of_it_is(text: str, plain: bool) -> None:
    assert is_plain(text) == plain
