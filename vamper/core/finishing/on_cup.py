"""Where a design comes to lie on what it goes round: its rings by turn and height."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from vamper.core.design import DesignedItem
from vamper.core.edge.tile import ink_along
from vamper.core.finishing.round_things import RoundThing, Wrap, bend_on, middle_up_mm, split, thing_of, wrap
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import Points, parts
from vamper.core.values.item import Tile
from vamper.core.values.lengths import mm

_FINE_MM = 0.4
# Nobody sees that a piece comes so near to a handle.
_NEAR_MM = 0.05
LEAST_PART_MM = 5.0
# Columns in which ink is measured to find where a piece is parted.
_INK_COLUMNS = 400


@dataclass(frozen=True)
class OnCup:
    """A design on its cup. Rings are (n, 2): degrees from its middle, height along the wall from the lower rim, mm.

    Parameters
    ----------
    thing, wrap : RoundThing, Wrap
        The cup or bottle, and how the design goes round it.
    slant_mm, overlap_mm, handle_mm, up_mm : float
        How high the wall is along its slant; by how much the ends overlap; the room kept for a handle; how high the
        middle of the design lies.
    width_mm, height_mm : float
        Of the piece laid flat and unbent.
    edge, drawing : tuple of array (n, 2)
        Its edge and its outline on the wall.
    """

    thing: RoundThing
    wrap: Wrap
    slant_mm: float
    overlap_mm: float
    handle_mm: float
    up_mm: float
    width_mm: float
    height_mm: float
    edge: tuple[Points, ...]
    drawing: tuple[Points, ...]

    @property
    def room_mm(self) -> float:
        """How wide one piece may be at its art's middle: all round, or as far as the handle leaves room wherever the
        piece reaches; a handle takes a larger share of the way round where that is narrow.
        """
        around = self.wrap.around_mm
        if not self.handle_mm:
            return around + self.overlap_mm
        rims = (self.thing.around_mm(up) for up in (self.up_mm - self.height_mm / 2, self.up_mm + self.height_mm / 2))
        return around - self.handle_mm * around / min(*rims, around)

    @property
    def into_handle_mm(self) -> float:
        """How far it reaches into what is kept free for a handle, at the height where it does so most; 0 where nothing
        of it does.
        """
        if not self.handle_mm:
            return 0.0
        points = np.concatenate(self.edge)
        around = np.array([self.thing.around_mm(float(up)) for up in points[:, 1]])
        return max(0.0, float((np.abs(points[:, 0]) / 360 * around - (around - self.handle_mm) / 2).max()))

    @property
    def parts(self) -> int:
        """In how many parts it goes round."""
        several = math.ceil(self.width_mm / self.room_mm) if self.room_mm > 0 else len(self.wrap.pieces) + 1
        return max(len(self.wrap.pieces), several) if self.into_handle_mm > _NEAR_MM else len(self.wrap.pieces)

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
    at = item.middle or ((left + right) / 2, (top + bottom) / 2)
    # Laid on a taper as flat as it is, it comes to lie as if it had been bent the other way.
    bend = item.bend or (None if thing.is_cylinder else bend_on(thing, at, up))
    middle = np.array(at if bend is None else bend.middle)

    def laid(ring: BaseGeometry) -> Points:
        """A ring of the piece, flat again, with the art's middle as its origin."""
        points = shapely.get_coordinates(shapely.segmentize(ring, _FINE_MM))
        return np.asarray((points if bend is None else bend.flat(points)) - middle)

    def flat_rings(shape: BaseGeometry) -> tuple[Points, ...]:
        return tuple(laid(ring) for part in parts(shape) for ring in (part.exterior, *part.interiors))

    def on_wall(flat: Points) -> Points:
        return np.column_stack([flat[:, 0] / thing.around_mm(up) * 360, up - flat[:, 1]])

    edge = flat_rings(item.edge.shape)
    width, height = (float(side) for side in np.ptp(np.concatenate(edge), axis=0))
    return OnCup(
        thing=thing,
        wrap=wrap(thing, width, up, spec.overlap_mm, handle_mm=spec.handle_mm),
        slant_mm=spec.slant_mm,
        overlap_mm=spec.overlap_mm,
        handle_mm=spec.handle_mm,
        up_mm=up,
        width_mm=width,
        height_mm=height,
        edge=tuple(on_wall(ring) for ring in edge),
        drawing=tuple(on_wall(ring) for ring in flat_rings(item.outline.shape)),
    )


def parts_round(item: DesignedItem, seams_mm: Sequence[float] = ()) -> tuple[Tile, ...]:
    """A design in parts that go round one after the other, as windows on its drawing that lie over each other by the
    overlap: parted at these seams (mm from its middle), or where the least is drawn.

    Raises
    ------
    BadInput
        If it goes round nothing, a seam lies outside it, or a part would not fit round.
    """
    found = on_cup(item)
    if found is None:
        raise BadInput("say first what it goes round", "wrap")
    around = found.wrap.around_mm
    drawn = np.concatenate(found.drawing)[:, 0] / 360 * around
    edge = np.concatenate(found.edge)[:, 0] / 360 * around
    first, last = float(edge.min()), float(edge.max())
    over, most = max(found.overlap_mm, 0.0), found.room_mm
    if seams_mm:
        at = [first, *sorted(seams_mm), last]
        spans = tuple(pairwise(at))
        if min(b - a for a, b in spans) < LEAST_PART_MM:
            raise BadInput(
                f"a seam must lie inside the piece, and parts be {mm(LEAST_PART_MM)} wide at least; it reaches from "
                f"{mm(first, 1)} to {mm(last, 1)} of its middle",
                "seams_mm",
            )
        if max(b - a for a, b in spans) + over > most:
            raise BadInput(f"a part would be wider than the way round, {mm(most, 1)}; set one more seam", "seams_mm")
    else:
        middles = first + (np.arange(_INK_COLUMNS) + 0.5) * (last - first) / _INK_COLUMNS
        flat = (np.column_stack([ring[:, 0] / 360 * around, -ring[:, 1]]) for ring in found.drawing)
        # A hole lies in its shell, so what is in both is in neither.
        shape: BaseGeometry = shapely.Point()
        for ring in flat:
            shape = shapely.symmetric_difference(shape, shapely.Polygon(ring).buffer(0))
        ink = ink_along(shape, 0, middles).tolist()
        spans = tuple(
            (first + one.from_mm, first + one.to_mm) for one in split(last - first, most - over, ink, least=2)
        )
    left, width = float(drawn.min()), float(np.ptp(drawn))

    def share(at_mm: float) -> float:
        return round(min(max((at_mm - left) / width, 0.0), 1.0), 6)

    return tuple(
        Tile(
            0.0 if place == 0 else share(a - over / 2),
            0.0,
            1.0 if place == len(spans) - 1 else share(b + over / 2),
            1.0,
        )
        for place, (a, b) in enumerate(spans)
    )
