"""Layers of one drawing: whatever is changed on one, the set stays in register and of equal number."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import disc_alpha, picture_of
from tests.scenes import bars, item, scene
from vamper.core.values.cut import Cut
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import BadInput, FixTarget
from vamper.core.values.item import ItemSpec
from vamper.core.values.layers import in_step
from vamper.services.jobs.document import changed_item

WIDTHS = (40.0, 31.5, 12.25)
LAYERS = tuple(item(n, width_mm=width, layer_of=1, quantity=2) for n, width in enumerate(WIDTHS, 1))
ALONE = item(9, width_mm=20.0)
CHANGES = st.fixed_dictionaries(
    {},
    optional={
        "width_mm": st.floats(5, 200).map(lambda mm: round(mm, 1)),
        "quantity": st.integers(1, 40),
        "cut": st.sampled_from(["kiss", "through"]),
    },
)


@given(st.lists(st.tuples(st.sets(st.sampled_from([1, 2, 3, 9]), min_size=1), CHANGES), min_size=1, max_size=4))
def test_a_set_keeps_its_register_whatever_is_changed_on_which_of_its_layers(
    steps: list[tuple[set[int], dict[str, object]]],
) -> None:
    items: tuple[ItemSpec, ...] = (*LAYERS, ALONE)
    for numbers, changes in steps:
        items = in_step(items, {one.number: changed_item(one, changes) for one in items if one.number in numbers})
    *layers, _ = items
    scale = layers[0].size.wanted_mm / WIDTHS[0]
    for layer, width in zip(layers, WIDTHS, strict=True):
        assert layer.size.wanted_mm == pytest.approx(width * scale, rel=1e-3)
        assert (layer.quantity, layer.cut) == (layers[0].quantity, layers[0].cut)


def test_the_layer_that_is_changed_comes_out_as_it_was_asked_for() -> None:
    items = in_step(LAYERS, {2: changed_item(LAYERS[1], {"width_mm": 63.0, "quantity": 5})})
    assert [one.width_mm for one in items] == [80.0, 63.0, 24.5]
    assert {one.quantity for one in items} == {5}
    assert in_step((*LAYERS, ALONE), {9: changed_item(ALONE, {"width_mm": 50.0})})[:3] == LAYERS


def test_a_layer_is_not_sized_by_another_side() -> None:
    with pytest.raises(BadInput, match="one layer of a set"):
        in_step(LAYERS, {1: changed_item(LAYERS[0], {"height_mm": 40.0})})


def test_a_size_that_is_offered_for_a_layer_says_that_the_others_follow() -> None:
    layers = [item(n, width_mm=width, layer_of=1) for n, width in ((1, 400.0), (2, 100.0))]
    made = scene(*layers)
    finding = made.one("art.too-big")
    fix = finding.fixes[0]
    assert fix.effect.endswith("the other layers change with it")
    first, second = made.with_fix(finding, fix).job.items
    assert second.width_mm == pytest.approx(first.size.wanted_mm / 4, abs=1e-3)


def test_no_layer_outgrows_the_sheet_by_a_size_that_is_offered_for_another() -> None:
    """A thin strip asks for a larger drawing, and the layer below has room for it or not."""
    thin = bars((20, 197, 380, 203))
    for width, offered in ((60.0, True), (185.0, False)):
        layers = (
            item(width_mm=40.0, layer_of=1, edge=EdgeSpec("bare", 0.0), cut=Cut.THROUGH),
            item(2, width_mm=width, layer_of=1, edge=EdgeSpec("bare", 0.0), cut=Cut.THROUGH),
        )
        finding = scene(*layers, stock="plain-vinyl", pictures={1: thin}).one("art.thin")
        assert bool(finding.fixes) == offered
        assert ("would not go on this sheet" in finding.text) != offered


def test_a_layer_is_neither_split_nor_parted_by_itself() -> None:
    two = picture_of(np.maximum(disc_alpha(400, 70, (80, 200)), disc_alpha(400, 70, (320, 200))))
    for fields, parted in (({}, True), ({"layer_of": 1}, False)):
        made = scene(item(width_mm=400.0, loose=True, **fields), pictures={1: two})
        assert ("art.several" in made.codes()) == parted
        assert (FixTarget.TILES in {fix.target for fix in made.one("art.too-big").fixes}) == parted


def test_more_is_offered_of_what_is_of_use_by_itself() -> None:
    """The last sheet holds one piece of a layer, of a front with its back, of a design alone."""
    more = {"quantity": 31, "width_mm": 34.0}
    offered = {
        "alone": scene(item(**more)),
        "layer": scene(item(**more, layer_of=1, sheet_colour="#B03030"), item(2, layer_of=1, sheet_colour="#2050A0")),
        "front": scene(item(**more), item(2, back_of=1, **more)),
    }
    found = {
        name: [finding for finding in made.findings() if finding.code == "sheet.sparse"]
        for name, made in offered.items()
    }
    assert all(found.values())
    assert found["alone"][0].fixes[0].changes["quantity"] > 31
    for name in ("layer", "front"):
        (finding,) = found[name]
        assert not finding.fixes
        assert "more of this one" not in finding.text
