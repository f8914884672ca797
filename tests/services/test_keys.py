"""Keys go by values: alike where everything is, another where anything differs, deaf to fields at their defaults."""

from dataclasses import dataclass, make_dataclass
from enum import StrEnum
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import box

from vamper.services.work.keys import digest_of

PARTS = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text() | st.binary(),
    lambda inner: st.lists(inner).map(tuple) | st.dictionaries(st.text(), inner),
    max_leaves=8,
)


def exact(part: Any) -> Any:
    """A part with the kinds of its values beside them: 1, 1.0 and True are not the same."""
    if isinstance(part, tuple | list):
        return [exact(one) for one in part]
    if isinstance(part, dict):
        return sorted((name, repr(exact(value))) for name, value in part.items())
    return type(part).__name__, repr(part)


@given(PARTS, PARTS)
def test_two_keys_are_one_where_their_parts_are(first: Any, second: Any) -> None:
    same = repr(exact(first)) == repr(exact(second)) and type(first) is type(second)
    assert (digest_of("x", 1, first) == digest_of("x", 1, second)) == same


def test_what_is_in_a_key() -> None:
    parts = (
        box(0, 0, 1, 1),
        box(0, 0, 1, 2),
        np.zeros(3),
        np.zeros((3, 1)),
        np.zeros(3, int),
        b"a",
        "a",
        ("a", "b"),
        ("ab",),
    )
    keys = {digest_of("x", version, part) for version in (1, 2) for part in parts}
    assert len(keys) == 2 * len(parts)
    with pytest.raises(TypeError, match="object cannot be part of a key"):
        digest_of("x", 1, object())


def test_a_new_field_at_its_default_leaves_keys_as_they_are() -> None:
    before = make_dataclass("Spec", [("gap_mm", float), ("turn", str, "any")])
    after = make_dataclass("Spec", [("gap_mm", float), ("turn", str, "any"), ("fill", bool, False)])
    assert digest_of("x", 1, before(2.0)) == digest_of("x", 1, after(2.0))
    assert digest_of("x", 1, after(2.0)) != digest_of("x", 1, after(2.0, fill=True))
    assert digest_of("x", 1, after(2.0)) != digest_of("x", 1, after(2.5))


def test_kinds_are_told_apart() -> None:
    class Way(StrEnum):
        ACROSS = "across"

    @dataclass(frozen=True)
    class One:
        way: Way

    @dataclass(frozen=True)
    class Two:
        way: Way

    assert digest_of("x", 1, Way.ACROSS) == digest_of("x", 1, "across")
    assert digest_of("x", 1, One(Way.ACROSS)) != digest_of("x", 1, Two(Way.ACROSS))
