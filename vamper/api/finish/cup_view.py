"""A design on its cup, as the screen draws it: rings by turn and height, and what to know in sentences."""

import math
from collections.abc import Iterator

from vamper.api.finish.schemas import OnCupOut
from vamper.core.design import DesignedItem
from vamper.core.finishing.on_cup import OnCup, on_cup
from vamper.core.finishing.round_things import FLAT_SAG_MM, RIM_MM
from vamper.core.values.geometry import Points
from vamper.core.values.lengths import mm

_MOST_POINTS = 400


def cup_out(item: DesignedItem) -> OnCupOut | None:
    found = on_cup(item)
    if found is None or item.spec.wrap is None:
        return None
    thing, wrap = found.thing, found.wrap
    taper = not thing.is_cylinder
    return OnCupOut(
        kind="taper" if taper else "cylinder",
        top_mm=thing.top_mm,
        bottom_mm=thing.bottom_mm,
        slant_mm=item.spec.wrap.slant_mm,
        up_mm=found.up_mm,
        overlap_mm=item.spec.wrap.overlap_mm,
        around_mm=thing.around_mm(found.up_mm),
        width_mm=found.width_mm,
        height_mm=found.height_mm,
        below_rim_mm=found.below_rim_mm,
        sag_mm=wrap.sag_mm if taper and wrap is not None else None,
        flat_width_most_mm=None if wrap is None else wrap.flat_width_most_mm,
        outer_radius_mm=thing.outer_radius_mm if taper else None,
        inner_radius_mm=thing.inner_radius_mm if taper else None,
        angle_deg=math.degrees(thing.angle_rad) if taper else None,
        edge=[_thinned(ring) for ring in found.edge],
        drawing=[_thinned(ring) for ring in found.drawing],
        lines=list(_lines(found)),
    )


def _thinned(ring: Points) -> list[list[float]]:
    every = max(1, len(ring) // _MOST_POINTS)
    return [[round(float(turn), 3), round(float(up), 3)] for turn, up in ring[::every]]


def _lines(found: OnCup) -> Iterator[str]:
    around = found.thing.around_mm(found.up_mm)
    share = found.width_mm / around * 100
    yield f"The way round there is {mm(around, 1)}; the piece takes {mm(found.width_mm, 1)} of it ({share:.0f} %)."
    if not found.thing.is_cylinder and found.wrap is not None:
        most = found.wrap.flat_width_most_mm
        yield f"Unbent, its ends would hang {mm(found.wrap.sag_mm, 1)} off a level line; so it is bent, edge and all."
        if most is not None:
            yield f"Up to {mm(most, 0)} wide it could stay flat: no more than {mm(FLAT_SAG_MM)} off."
    if found.below_rim_mm >= RIM_MM:
        yield f"{mm(found.below_rim_mm, 0)} stay free below the rim; {mm(RIM_MM)} are enough where people drink."
