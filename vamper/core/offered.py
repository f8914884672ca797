"""Sizes and borders that findings offer, held against what else was decided: a fix never undoes another decision.

A design that is to cover a blank is not made too small for it; one that lies on the sheet, or goes round its cup in one
piece and between the rims, is not made too large for that. Where a size is not offered for such a reason, the finding
says so. Layers of one picture change together, and what is offered for one of them says that as well.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import shapely
from shapely.geometry import MultiPolygon

from vamper.core.art.outline import scaled
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import derive_edge
from vamper.core.edge.kind import KINDS, along_with_kind
from vamper.core.finishing.inspect import covers
from vamper.core.finishing.on_cup import on_cup
from vamper.core.plan import Plan
from vamper.core.sheet.lay.turns import best_turn
from vamper.core.values.art import SIDES
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Fix, FixTarget
from vamper.core.values.geometry import as_multi, parts

_WITH_LAYERS = "the other layers change with it"
_EDGE, _KIND, _BORDER = "edge.", "edge.kind", "edge.distance_mm"
# Both sides of a comparison come from sizes in tenths.
_NEAR_MM = 0.05


@dataclass(frozen=True, slots=True)
class _Grown:
    """How a fix changes a piece: its drawing by a factor, its border by so much on every side, mm, or its edge by
    another one.
    """

    scale: float = 1.0
    wider_mm: float = 0.0
    edge: EdgeSpec | None = None


def as_offered(plan: Plan, finding: Finding) -> Finding:
    """A finding without the sizes and borders that would undo another decision."""
    if finding.item is None:
        return finding
    item = plan.item(finding.item)
    layers = [one for one in plan.items if one.spec.layer_of is not None and one.spec.layer_of == item.spec.layer_of]
    grown = [_grown(item, fix) for fix in finding.fixes]
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


def _grown(item: DesignedItem, fix: Fix) -> _Grown | None:
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
        return _Grown(edge=_changed_edge(asked, fix))
    return None


def _changed_edge(asked: EdgeSpec, fix: Fix) -> EdgeSpec:
    kind = KINDS[str(fix.changes.get(_KIND, asked.kind))]
    named = {name.removeprefix(_EDGE): value for name, value in fix.changes.items() if name.startswith(_EDGE)}
    changes = {**along_with_kind(asked, kind), **named}
    fields: Any = {name: tuple(value) if isinstance(value, list) else value for name, value in changes.items()}
    return replace(asked, **fields)


def _undoes(plan: Plan, item: DesignedItem, by: _Grown) -> Iterator[str]:
    """The effects that another size would undo, each as a sentence."""
    blank = plan.asked.finish.blank
    if _falls_apart(plan, item, by.scale):
        yield f"{'Smaller' if by.scale < 1 else 'Larger'}, it would fall into more pieces."
    if by.scale < 1:
        if blank is not None and not covers(blank, item, by.scale):
            yield "Smaller, it would not cover its blank."
        return
    shape = _shape_with(item, by, plan.job.stock.least_neck_mm)
    now, then = _size(item.edge.shape), _size(shape)
    wider_mm = by.wider_mm + max(0.0, *((new - by.scale * old) / 2 for new, old in zip(then, now, strict=True)))
    if by.scale == 1 and wider_mm == 0:
        return
    what = "Larger" if by.edge is None else "With that edge"
    width, height = plan.setup.live.size_mm
    room = (width - 2 * by.wider_mm, height - 2 * by.wider_mm)
    turn = item.spec.turn or plan.job.packing.turn
    if best_turn(shape, room, turn)[1] > 0:
        yield f"{what}, it would not go on this sheet."
    cup = on_cup(item)
    if cup is None:
        return
    if cup.parts == 1 and cup.width_mm * by.scale + 2 * wider_mm > cup.room_mm + _NEAR_MM:
        yield f"{what}, it would not go round in one piece."
    taller = cup.height_mm * (by.scale - 1) / 2 + wider_mm
    if 0 <= min(cup.below_rim_mm, cup.above_foot_mm) < taller:
        yield f"{what}, it would reach past a rim."


def _size(shape: MultiPolygon) -> tuple[float, float]:
    left, top, right, bottom = shape.bounds
    return right - left, bottom - top


def _shape_with(item: DesignedItem, by: _Grown, least_neck_mm: float) -> MultiPolygon:
    """A piece that is to grow: at most what it comes to, since a border does not grow with its drawing; `wider_mm` is
    not in it.
    """
    spec = by.edge or item.spec.edge
    # An ellipse grows more along than across, and what an inset took away of a small drawing is there on a large one.
    if by.edge is not None or (by.scale > 1 and spec.reach_mm < 0):
        return derive_edge(scaled(item.outline, by.scale), spec, least_neck_mm).shape
    return as_multi(parts(shapely.affinity.scale(item.edge.shape, by.scale, by.scale)))


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
