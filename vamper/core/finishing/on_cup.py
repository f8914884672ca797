"""Where a design comes to lie on what it goes round: its rings by turn and height, and what is found there."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.design import DesignedItem
from vamper.core.finishing.round_things import RIM_MM, RoundThing, Wrap, bend_on, middle_up_mm, thing_of, wrap
from vamper.core.values.art import Purpose
from vamper.core.values.findings import BadInput, Finding, Severity
from vamper.core.values.geometry import Points, parts
from vamper.core.values.lengths import mm

_FINE_MM = 0.4
_HALVINGS, _ROUNDS = 40, 4


@dataclass(frozen=True)
class OnCup:
    """A design on its cup. Rings are (n, 2): turn in degrees from its middle, height along the wall from the lower rim;
    `width_mm` and `height_mm` are those of the piece laid flat and unbent.
    """

    thing: RoundThing
    wrap: Wrap | None
    up_mm: float
    width_mm: float
    height_mm: float
    edge: tuple[Points, ...]
    drawing: tuple[Points, ...]

    @property
    def below_rim_mm(self) -> float:
        assert self.thing.slant_mm is not None
        return self.thing.slant_mm - self.up_mm - self.height_mm / 2


def on_cup(item: DesignedItem) -> OnCup | None:
    """Where a design lies on what it goes round; None where it goes round nothing."""
    spec = item.spec.wrap
    if spec is None:
        return None
    thing, up = thing_of(spec), middle_up_mm(spec)
    left, top, right, bottom = item.outline.shape.bounds
    middle = ((left + right) / 2, (top + bottom) / 2)
    if not thing.is_cylinder:
        middle = _bent_middle(item, thing, up)

    def laid(points: Points) -> Points:
        """Points of the piece, flat again, with the art's middle as their origin."""
        flat = points if thing.is_cylinder else bend_on(thing, middle, up).flat(points)
        return np.asarray(flat - middle)

    def rings(shape: BaseGeometry) -> tuple[Points, ...]:
        found = []
        for part in parts(shape):
            for ring in (part.exterior, *part.interiors):
                flat = laid(shapely.get_coordinates(shapely.segmentize(ring, _FINE_MM)))
                turn = flat[:, 0] / thing.around_mm(up) * 360
                found.append(np.column_stack([turn, up - flat[:, 1]]))
        return tuple(found)

    flat = np.concatenate([laid(shapely.get_coordinates(part.exterior)) for part in parts(item.edge.shape)])
    width, height = (float(side) for side in np.ptp(flat, axis=0))
    try:
        found = wrap(thing, width, height, up, spec.overlap_mm)
    except BadInput:
        found = None
    return OnCup(thing, found, up, width, height, rings(item.edge.shape), rings(item.outline.shape))


def _bent_middle(item: DesignedItem, thing: RoundThing, up: float) -> tuple[float, float]:
    """Where the middle of the flat art lies in the frame of the bent one: as much of it lies above as below the arc
    through it, and turns as far to the left as to the right.
    """
    left, top, right, bottom = item.outline.shape.bounds
    radius = thing.radius_at(up)
    sign = 1.0 if thing.opens_upward else -1.0
    points = shapely.get_coordinates(item.outline.shape)
    across, down = (left + right) / 2, (top + bottom) / 2

    def too_low(at: float) -> bool:
        away = np.hypot(points[:, 0] - across, points[:, 1] - (at + sign * radius))
        return bool(((away.max() + away.min()) / 2 > radius) == (sign > 0))

    def too_far(at: float) -> bool:
        turn = np.arctan2(points[:, 0] - at, sign * (down + sign * radius - points[:, 1]))
        return bool(turn.max() + turn.min() < 0)

    for _ in range(_ROUNDS):
        down = _halved(too_low, top, bottom)
        across = _halved(too_far, left, right)
    return across, down


def _halved(too_much: Callable[[float], bool], low: float, high: float) -> float:
    """Where a question turns from no to yes, a span's width beyond either end."""
    low, high = low - (high - low), high + (high - low)
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if too_much(middle):
            high = middle
        else:
            low = middle
    return (low + high) / 2


def cup_findings(item: DesignedItem, purpose: Purpose) -> Iterator[Finding]:
    """What is found where a design goes round a thing."""
    found = on_cup(item)
    if found is None:
        return
    number = item.number
    around = found.thing.around_mm(found.up_mm)
    overlap = item.spec.wrap.overlap_mm if item.spec.wrap is not None else 0.0
    if found.below_rim_mm < 0 or found.up_mm - found.height_mm / 2 < 0:
        yield Finding(
            "finish.too-high",
            Severity.STOP,
            "It reaches past a rim",
            f"The piece is {mm(found.height_mm, 1)} high with its middle {mm(found.up_mm, 1)} up the wall; make it "
            "smaller, or move it.",
            {"height_mm": found.height_mm},
            item=number,
        )
    elif found.below_rim_mm < RIM_MM and purpose is Purpose.DRINKWARE:
        yield Finding(
            "finish.rim",
            Severity.LOOK,
            "Close to the rim people drink from",
            f"It comes to {mm(found.below_rim_mm, 1)} below the rim; keep {mm(RIM_MM)} free, outside only, hand wash.",
            {"below_rim_mm": found.below_rim_mm},
            item=number,
        )
    if found.width_mm > around + overlap:
        count = math.ceil(found.width_mm / (around + overlap))
        yield Finding(
            "finish.too-wide",
            Severity.STOP,
            "Wider than the way round",
            f"The piece is {mm(found.width_mm, 1)} wide and the way round is {mm(around, 1)} with {mm(overlap, 1)} of "
            f"overlap: it would take {count} parts. Make it smaller, or split it.",
            {"width_mm": found.width_mm, "around_mm": around},
            item=number,
        )
    elif found.width_mm > around - 1:
        yield Finding(
            "finish.seam",
            Severity.NOTE,
            "Its ends meet",
            f"It goes all round ({mm(around, 1)}); its ends lie {mm(found.width_mm - around, 1)} over each other. Put "
            "the seam opposite the side that is looked at, by the handle.",
            {"over_mm": found.width_mm - around},
            item=number,
        )
