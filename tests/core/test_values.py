"""What is taken where nothing is said, and figures that others reckon with."""

import math
from dataclasses import dataclass
from typing import Any, ClassVar

import pytest
from pydantic import TypeAdapter, ValidationError

from vamper.core.values.art import Preparation
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.core.values.finish import ClothSpec
from vamper.core.values.limits import STRICT
from vamper.core.values.mat import MatIn
from vamper.core.values.miss import NINETEEN_OF_TWENTY
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper, named
from vamper.core.values.printer import Margins, Printer
from vamper.core.values.tables import row
from vamper.core.values.text import is_plain, one_line


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
    assert Preparation(lift_de=4.0).changes == (4.0, None, None, None, None, False)


@pytest.mark.parametrize(
    ("text", "plain"), [("Kelp, 12 mm", True), ("Ke\u202elp", False), ("two\nlines", False), ("", True)]
)
def test_a_text_is_plain_where_every_sign_of_it_is(text: str, plain: bool) -> None:
    assert is_plain(text) == plain


@pytest.mark.parametrize(
    ("text", "line"),
    [
        ("  two\n\twords ", "two words"),
        ("a\u2028b\u00a0c", "a b c"),
        ("be\u0301 \u202eno\u0007ise", "b\u00e9 noise"),
        ("\U0001f469\u200d\U0001f680", "\U0001f469\u200d\U0001f680"),
    ],
)
def test_a_line_keeps_what_can_be_seen_and_what_joins_it(text: str, line: str) -> None:
    assert one_line(text) == line


@dataclass(frozen=True)
class _Bare:
    __pydantic_config__: ClassVar[dict[str, Any]] = STRICT

    length_mm: float


@pytest.mark.parametrize("data", [{"length_mm": math.nan}, {"length_mm": math.inf}, {"length_mm": 1.0, "width": 2.0}])
def test_what_is_strict_refuses_numbers_that_are_none_and_fields_it_has_not(data: dict[str, float]) -> None:
    assert TypeAdapter(_Bare).validate_python({"length_mm": 1.0}) == _Bare(1.0)
    with pytest.raises(ValidationError):
        TypeAdapter(_Bare).validate_python(data)


@pytest.mark.parametrize(
    "crop", [(0.5, 0.1, 0.4, 0.9), (0.1, 0.5, 0.9, 0.4), (0.1, 0.1, 0.1, 0.9), (0.1, 0.4, 0.9, 0.4)]
)
def test_a_crop_leaves_something_both_ways(crop: tuple[float, float, float, float]) -> None:
    with pytest.raises(ValueError, match="right and bottom must be the greater ones"):
        Preparation(crop=crop)
    assert Preparation(crop=(0.1, 0.1, 0.4, 0.9)).crop is not None
