"""Computed things packed and unpacked: the same to the bit, and nothing else is taken for them."""

import pytest
from hypothesis import given

from tests.core.test_edge import drawings
from tests.scenes import DISC, item, scene
from tests.tried import tried
from vamper.core.art.inspect import ArtFacts, look_over
from vamper.core.art.outline import Outline, outline_at, trace
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.inspect import EdgeFacts, look_along
from vamper.core.values.art import SizeSpec
from vamper.core.values.edge import EdgeSpec, RingSpec
from vamper.formats.packed import packed, unpacked


@given(drawings())
@tried(25)
def test_outlines_and_edges_come_back_to_the_bit(outline: Outline) -> None:
    spec = EdgeSpec(rings=(RingSpec(1.0), RingSpec(2.0)), keep_holes=((0.5, 0.5),))
    edge = derive_edge(outline, spec, 1.0)
    assert unpacked(Outline, packed(outline)) == outline
    assert unpacked(Edge, packed(edge)) == edge
    facts = look_along(outline, edge, spec, 1.0)
    assert unpacked(EdgeFacts, packed(facts)) == facts


def test_facts_come_back_with_their_words_and_colours() -> None:
    outline = outline_at(trace(DISC, 0.5), SizeSpec(width_mm=40))
    facts = look_over(DISC, outline, 0.5)
    assert unpacked(ArtFacts, packed(facts)) == facts
    assert unpacked(SizeSpec, packed(SizeSpec(longest_mm=12.5))) == SizeSpec(longest_mm=12.5)
    assert scene(item()).codes() == set()


@pytest.mark.parametrize("data", [b"", b"x", packed(3), packed((1, 2)), packed(("a", None))])
def test_what_is_something_else_is_refused(data: bytes) -> None:
    with pytest.raises((ValueError, TypeError)):
        unpacked(Outline, data)
