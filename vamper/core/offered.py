"""Sizes and borders that findings offer, held against what else was decided: a fix never undoes another decision.

A design that is to cover a blank is not made too small for it; one that lies on the sheet, or goes round its cup in one
piece and between the rims, is not made too large for that. Where a size is not offered for such a reason, the finding
says so. Layers of one picture change together, and what is offered for one of them says that as well.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import shapely

from vamper.core.art.outline import scaled
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import derive_edge
from vamper.core.edge.kind import KINDS, along_with_kind
from vamper.core.finishing.inspect import covers
from vamper.core.finishing.on_cup import on_cup
from vamper.core.plan import Plan
from vamper.core.sheet.lay.turns import best_turn
from vamper.core.values.art import SIDES
from vamper.core.values.findings import Finding, Fix, FixTarget
from vamper.core.values.geometry import as_multi, parts

_WITH_LAYERS = "the other layers change with it"
_EDGE, _KIND, _BORDER = "edge.", "edge.kind", "edge.distance_mm"
# Both sides of a comparison come from sizes in tenths.
_NEAR_MM = 0.05


@dataclass(frozen=True, slots=True)
class _Grown:
    """How a fix changes a piece: its drawing by a factor, its border by so much on every side, mm."""

    scale: float = 1.0
    wider_mm: float = 0.0

    def of(self, side_mm: float) -> float:
        """At most what a side of the piece comes to: a border does not grow with the drawing."""
        return side_mm * max(self.scale, 1.0) + 2 * self.wider_mm


def as_offered(plan: Plan, finding: Finding) -> Finding:
    """A finding without the sizes and borders that would undo another decision."""
    if finding.item is None:
        return finding
    item = plan.item(finding.item)
    layers = [one for one in plan.items if one.spec.layer_of is not None and one.spec.layer_of == item.spec.layer_of]
    grown = [_grown(item, fix, plan.job.stock.least_neck_mm) for fix in finding.fixes]
    if not any(grown):
        return finding
    kept, reasons = [], []
    for fix, by in zip(finding.fixes, grown, strict=True):
        # Layers are changed together, so none of them may suffer from it.
        suffering = layers if layers and _side(fix) else [item]
        reason = None if by is None else next((why for one in suffering for why in _undoes(plan, one, by)), None)
        if reason is None:
            kept.append(_with_layers(item, fix))
        else:
            reasons.append(reason)
    return replace(finding, fixes=tuple(kept), text=" ".join([finding.text, *reasons]))


def _side(fix: Fix) -> str | None:
    """The side that a fix sets, if it sets a size."""
    return next((side for side in SIDES if side in fix.changes), None) if fix.target is FixTarget.ITEM else None


def _grown(item: DesignedItem, fix: Fix, least_neck_mm: float) -> _Grown | None:
    """The piece that a fix, which names sizes as they were asked for, makes of a piece; None where it leaves its size
    alone.
    """
    side = _side(fix)
    if side is not None:
        wanted_mm = item.as_asked.size.wanted_mm
        now = item.spec.size.side_of(*item.outline.size_mm) * wanted_mm / item.spec.size.wanted_mm
        return _Grown(scale=float(str(fix.changes[side])) / now)
    if fix.target is not FixTarget.ITEM:
        return None
    asked = item.as_asked.edge
    if _BORDER in fix.changes and _KIND not in fix.changes and asked.follows:
        return _Grown(wider_mm=max(0.0, float(str(fix.changes[_BORDER])) - asked.reach_mm))
    if _BORDER in fix.changes or _KIND in fix.changes:
        # An ellipse grows more along than across, and a box more than its corners.
        return _Grown(wider_mm=_wider_with(item, fix, least_neck_mm))
    return None


def _wider_with(item: DesignedItem, fix: Fix, least_neck_mm: float) -> float:
    """How much farther a piece reaches on any side with another edge, mm."""
    asked = item.as_asked.edge
    kind = str(fix.changes.get(_KIND, asked.kind))
    named = {name.removeprefix(_EDGE): value for name, value in fix.changes.items() if name.startswith(_EDGE)}
    changes = {**along_with_kind(asked, KINDS[kind]), **named}
    fields: Any = {name: tuple(value) if isinstance(value, list) else value for name, value in changes.items()}
    other = derive_edge(item.outline, replace(asked, **fields), least_neck_mm)
    return max(0.0, *((new - now) / 2 for new, now in zip(other.size_mm, item.edge.size_mm, strict=True)))


def _undoes(plan: Plan, item: DesignedItem, by: _Grown) -> Iterator[str]:
    """The effects that another size would undo, each as a sentence."""
    blank = plan.asked.finish.blank
    if _falls_apart(plan, item, by.scale):
        yield f"{'Smaller' if by.scale < 1 else 'Larger'}, it would fall into more pieces."
    if by.scale < 1:
        if blank is not None and not covers(blank, item, by.scale):
            yield "Smaller, it would not cover its blank."
        return
    if by == _Grown():
        return
    if item.spec.edge.reach_mm < 0 and by.scale > 1:
        # What an inset took away of a small drawing is there again on a large one.
        larger = derive_edge(scaled(item.outline, by.scale), item.spec.edge, plan.job.stock.least_neck_mm).shape
    else:
        larger = as_multi(parts(shapely.affinity.scale(item.edge.shape, by.scale, by.scale)))
    width, height = plan.setup.live.size_mm
    room = (width - 2 * by.wider_mm, height - 2 * by.wider_mm)
    turn = item.spec.turn or plan.job.packing.turn
    if best_turn(larger, room, turn)[1] > 0:
        yield "Larger, it would not go on this sheet."
    cup = on_cup(item)
    if cup is None:
        return
    if cup.parts == 1 and by.of(cup.width_mm) > cup.room_mm + _NEAR_MM:
        yield "Larger, it would not go round in one piece."
    taller = (by.of(cup.height_mm) - cup.height_mm) / 2
    if 0 <= min(cup.below_rim_mm, cup.above_foot_mm) < taller:
        yield "Larger, it would reach past a rim."


def _falls_apart(plan: Plan, item: DesignedItem, scale: float) -> bool:
    """Whether a border or an inset, which keeps its width, leaves a drawing of another size in more pieces, or nothing
    of it.
    """
    spec = item.spec.edge
    as_drawn = not spec.follows or spec.reach_mm == spec.smooth_mm == 0 or (spec.uses("join") and spec.join)
    if scale == 1 or as_drawn or item.spec.loose or item.spec.tile is not None:
        return False
    other = derive_edge(scaled(item.outline, scale), spec, plan.job.stock.least_neck_mm)
    return len(other.shape.geoms) > len(item.edge.shape.geoms) or other.deepest_mm is not None


def _with_layers(item: DesignedItem, fix: Fix) -> Fix:
    if item.spec.layer_of is None or _side(fix) is None:
        return fix
    return replace(fix, effect=f"{fix.effect}; {_WITH_LAYERS}")
