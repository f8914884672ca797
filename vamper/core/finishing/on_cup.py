"""Where a design comes to lie on what it goes round: its rings by turn and height, and what is found there."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.design import DesignedItem
from vamper.core.finishing.round_things import RIM_MM, RoundThing, Wrap, middle_up_mm, thing_of, wrap
from vamper.core.values.art import Purpose
from vamper.core.values.findings import Finding, Severity
from vamper.core.values.geometry import Points, parts
from vamper.core.values.lengths import mm

_FINE_MM = 0.4
# Ends nearer to each other than this are seen as one seam.
_MEETS_MM = 1.0


@dataclass(frozen=True)
class OnCup:
    """A design on its cup. Rings are (n, 2): turn in degrees from its middle, height along the wall from the lower rim;
    `width_mm` and `height_mm` are those of the piece laid flat and unbent.
    """

    thing: RoundThing
    wrap: Wrap
    slant_mm: float
    overlap_mm: float
    up_mm: float
    width_mm: float
    height_mm: float
    edge: tuple[Points, ...]
    drawing: tuple[Points, ...]

    @property
    def below_rim_mm(self) -> float:
        return self.slant_mm - self.up_mm - self.height_mm / 2

    @property
    def above_foot_mm(self) -> float:
        return self.up_mm - self.height_mm / 2


def on_cup(item: DesignedItem) -> OnCup | None:
    """Where a design lies on what it goes round; None where it goes round nothing."""
    spec = item.spec.wrap
    if spec is None:
        return None
    thing, up = thing_of(spec), middle_up_mm(spec)
    left, top, right, bottom = item.outline.shape.bounds
    middle = np.array([(left + right) / 2, (top + bottom) / 2] if item.bend is None else item.bend.middle)

    def laid(ring: BaseGeometry) -> Points:
        """A ring of the piece, flat again, with the art's middle as its origin."""
        points = shapely.get_coordinates(shapely.segmentize(ring, _FINE_MM))
        return np.asarray((points if item.bend is None else item.bend.flat(points)) - middle)

    def flat_rings(shape: BaseGeometry) -> tuple[Points, ...]:
        return tuple(laid(ring) for part in parts(shape) for ring in (part.exterior, *part.interiors))

    def on_wall(flat: Points) -> Points:
        return np.column_stack([flat[:, 0] / thing.around_mm(up) * 360, up - flat[:, 1]])

    edge = flat_rings(item.edge.shape)
    width, height = (float(side) for side in np.ptp(np.concatenate(edge), axis=0))
    return OnCup(
        thing,
        wrap(thing, width, up, spec.overlap_mm),
        spec.slant_mm,
        spec.overlap_mm,
        up,
        width,
        height,
        tuple(on_wall(ring) for ring in edge),
        tuple(on_wall(ring) for ring in flat_rings(item.outline.shape)),
    )


def cup_findings(item: DesignedItem, purpose: Purpose) -> Iterator[Finding]:
    """What is found where a design goes round a thing."""
    found = on_cup(item)
    if found is None:
        return
    number = item.number
    around, overlap, count = found.wrap.around_mm, found.overlap_mm, len(found.wrap.pieces)
    if min(found.below_rim_mm, found.above_foot_mm) < 0:
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
    if count > 1:
        yield Finding(
            "finish.too-wide",
            Severity.STOP,
            "Wider than the way round",
            f"The piece is {mm(found.width_mm, 1)} wide and the way round is {mm(around, 1)} with {mm(overlap, 1)} of "
            f"overlap: it would take {count} parts. Make it smaller, or split it.",
            {"width_mm": found.width_mm, "around_mm": around},
            item=number,
        )
    elif found.width_mm > around - _MEETS_MM:
        yield Finding(
            "finish.seam",
            Severity.NOTE,
            "Its ends meet",
            f"It goes all round ({mm(around, 1)}); its ends lie {mm(found.width_mm - around, 1)} over each other. Put "
            "the seam opposite the side that is looked at, by the handle.",
            {"over_mm": found.width_mm - around},
            item=number,
        )
