"""A design on its cup, as the screen draws it: rings by turn and height, the wall laid flat, and what to know."""

from collections.abc import Iterator

import numpy as np

from vamper.api.finish.schemas import FlatWallOut, OnCupOut
from vamper.core.design import DesignedItem
from vamper.core.finishing.dangers import RIM_MM
from vamper.core.finishing.on_cup import OnCup, on_cup
from vamper.core.finishing.round_things import FLAT_SAG_MM
from vamper.core.values.geometry import Points
from vamper.core.values.lengths import mm
from vamper.formats.svg_path import closed_path, open_path

_MOST_POINTS = 400
_RIM_POINTS = 61
_PAD_MM = 6.0
_DECIMALS = 2
# Where on the wall the height of the piece is shown, degrees from its middle.
_MEASURED_AT_DEG = -150.0


def cup_out(item: DesignedItem) -> OnCupOut | None:
    found = on_cup(item)
    if found is None:
        return None
    thing = found.thing
    upright = thing.upright_mm
    return OnCupOut(
        kind="cylinder" if thing.is_cylinder else "taper",
        top_mm=thing.top_mm,
        bottom_mm=thing.bottom_mm,
        slant_mm=found.slant_mm,
        upright_mm=found.slant_mm if upright is None else upright,
        top_around_mm=thing.around_mm(found.slant_mm),
        bottom_around_mm=thing.around_mm(0.0),
        up_mm=found.up_mm,
        edge=[_thinned(ring) for ring in found.edge],
        drawing=[_thinned(ring) for ring in found.drawing],
        handle=[_thinned(_handle(found))] if found.handle_mm else [],
        flat=_flat(found),
        lines=list(_lines(found, item.as_asked.wrap is None or item.as_asked.wrap.bent)),
    )


def _thinned(ring: Points) -> list[list[float]]:
    every = max(1, len(ring) // _MOST_POINTS)
    return [[round(float(turn), 3), round(float(up), 3)] for turn, up in ring[::every]]


def _flat(found: OnCup) -> FlatWallOut:
    def level(up_mm: float) -> Points:
        """All the way round at one height."""
        turns = np.linspace(-180, 180, _RIM_POINTS)
        return found.thing.unrolled(np.column_stack([turns, np.full(_RIM_POINTS, up_mm)]))

    def rings(on_wall: tuple[Points, ...]) -> str:
        return " ".join(closed_path(found.thing.unrolled(ring), _DECIMALS) for ring in on_wall)

    wall = np.concatenate([level(0.0), level(found.slant_mm)[::-1]])
    low, size = wall.min(axis=0) - _PAD_MM, np.ptp(wall, axis=0) + 2 * _PAD_MM
    plumb = np.array([[_MEASURED_AT_DEG, 0.0], [_MEASURED_AT_DEG, found.up_mm]])
    return FlatWallOut(
        box=[*low.tolist(), *size.tolist()],
        wall=closed_path(wall, _DECIMALS),
        edge=rings(found.edge),
        drawing=rings(found.drawing),
        handle=" ".join(closed_path(thing_half, _DECIMALS) for thing_half in _handle_flat(found)),
        around=open_path(level(found.up_mm), _DECIMALS),
        up=open_path(found.thing.unrolled(plumb), _DECIMALS),
    )


def _handle(found: OnCup) -> Points:
    """The strip kept free for the handle, opposite the art's middle: turns go past 180 degrees there."""
    foot, rim = (_half_handle_deg(found, up) for up in (0.0, found.slant_mm))
    up = np.column_stack([np.linspace(180 - foot, 180 + foot, 9), np.full(9, 0.0)])
    back = np.column_stack([np.linspace(180 + rim, 180 - rim, 9), np.full(9, found.slant_mm)])
    return np.concatenate([up, back])


def _half_handle_deg(found: OnCup, up_mm: float) -> float:
    """Half of the strip kept free for the handle, as a turn: larger where the cup is narrow."""
    return found.handle_mm / found.thing.around_mm(up_mm) * 180


def _handle_flat(found: OnCup) -> list[Points]:
    """The same on the wall laid flat: half of it at either end."""
    if not found.handle_mm:
        return []
    foot, rim = (_half_handle_deg(found, up) for up in (0.0, found.slant_mm))
    right = np.array([(180 - foot, 0.0), (180.0, 0.0), (180.0, found.slant_mm), (180 - rim, found.slant_mm)])
    return [found.thing.unrolled(side) for side in (right * (-1, 1), right)]


def _lines(found: OnCup, bent: bool) -> Iterator[str]:
    around, most = found.wrap.around_mm, found.wrap.flat_width_most_mm
    share = found.width_mm / around * 100
    yield f"The way round there is {mm(around, 1)}; the piece takes {mm(found.width_mm, 1)} of it ({share:.0f} %)."
    if found.handle_mm:
        left = (found.room_mm - found.width_mm) / 2
        yield (
            f"{mm(found.handle_mm, 1)} are kept free for the handle, opposite its middle; {mm(left, 1)} are left "
            "on either side."
        )
    if most is not None and not bent:
        yield f"It is laid on as flat as it is: a level line as wide sags by {mm(found.wrap.sag_mm, 1)}."
    elif most is not None:
        yield f"Unbent, its ends would hang {mm(found.wrap.sag_mm, 1)} off a level line; so it is bent, edge and all."
        yield f"Up to {mm(most, 0)} wide it could stay flat: no more than {mm(FLAT_SAG_MM)} off."
    if found.below_rim_mm >= RIM_MM:
        yield f"{mm(found.below_rim_mm, 0)} stay free below the rim; {mm(RIM_MM)} are enough where people drink."
