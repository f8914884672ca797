"""Layers of one drawing, each cut from its own colour and laid on each other: changed as a whole or not at all.

A layer's size is that of its own ink, so a set keeps its register when all its layers grow by the same share; and a
layer more or less than the others is of no use.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from vamper.core.values.art import SIDES, SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.item import ItemSpec, sized


def in_step(items: Sequence[ItemSpec], changed: Mapping[int, ItemSpec]) -> tuple[ItemSpec, ...]:
    """The designs with some of them changed, by their numbers; layers follow the first of their set that is changed, in
    size, in number and in how they are cut.

    Raises
    ------
    BadInput
        If a layer is to be sized by another side than before, which says nothing of the others.
    """
    led: dict[int, tuple[ItemSpec, ItemSpec]] = {}
    for item in items:
        if item.layer_of is not None and item.number in changed:
            led.setdefault(item.layer_of, (item, changed[item.number]))
    return tuple(
        _follow(changed.get(item.number, item), item, *led[item.layer_of])
        if item.layer_of in led and led[item.layer_of][0].number != item.number
        else changed.get(item.number, item)
        for item in items
    )


def _follow(after: ItemSpec, before: ItemSpec, leader: ItemSpec, leads: ItemSpec) -> ItemSpec:
    if _side(leader.size) != _side(leads.size):
        raise BadInput(
            "this is one layer of a set, whose sizes hang together; give the size of the side it has, or of the whole "
            "drawing before it is taken apart",
            _side(leads.size),
        )
    scale = leads.size.wanted_mm / leader.size.wanted_mm
    size = {_side(before.size): round(before.size.wanted_mm * scale, 4)}
    return replace(
        sized(after, SizeSpec(**size, size_over=leads.size_over)),
        quantity=leads.quantity,
        cut=leads.cut,
        fill_priority=leads.fill_priority,
    )


def _side(size: SizeSpec) -> str:
    return next(side for side in SIDES if getattr(size, side) is not None)


def by_itself(item: ItemSpec, items: Iterable[ItemSpec]) -> bool:
    """Whether more copies of a design alone are of use: neither layers nor a front with its back are."""
    return item.layer_of is None and item.back_of is None and all(one.back_of != item.number for one in items)
