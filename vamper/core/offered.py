"""Sizes that findings offer, held against what else was decided: a fix never undoes another decision.

A design that is to cover a blank is not made too small for it; one that lies on the sheet, or goes round its cup in one
piece and between the rims, is not made too large for that. Where a size is not offered for such a reason, the finding
says so. Layers of one picture change together, and what is offered for one of them says that as well.
"""

from collections.abc import Iterator
from dataclasses import replace

import shapely

from vamper.core.art.outline import scaled
from vamper.core.design import DesignedItem
from vamper.core.edge.edge import derive_edge
from vamper.core.finishing.inspect import covers
from vamper.core.finishing.on_cup import on_cup
from vamper.core.plan import Plan
from vamper.core.sheet.lay.turns import best_turn
from vamper.core.values.art import SIDES
from vamper.core.values.findings import Finding, Fix, FixTarget
from vamper.core.values.geometry import as_multi, parts

_WITH_LAYERS = "the other layers change with it"
# Both sides of a comparison come from sizes in tenths.
_NEAR_MM = 0.05


def as_offered(plan: Plan, finding: Finding) -> Finding:
    """A finding without the sizes that would undo another decision."""
    if finding.item is None or not any(_side(fix) for fix in finding.fixes):
        return finding
    item = plan.item(finding.item)
    kept, reasons = [], []
    for fix in finding.fixes:
        reason = next(_undoes(plan, item, _scale(item, fix)), None) if _side(fix) else None
        if reason is None:
            kept.append(_with_layers(item, fix))
        else:
            reasons.append(reason)
    return replace(finding, fixes=tuple(kept), text=" ".join([finding.text, *reasons]))


def _side(fix: Fix) -> str | None:
    """The side that a fix sets, if it sets a size."""
    return next((side for side in SIDES if side in fix.changes), None) if fix.target is FixTarget.ITEM else None


def _scale(item: DesignedItem, fix: Fix) -> float:
    """How much larger than it is a design becomes by a fix, which names sizes as they were asked for."""
    asked = item.as_asked.size
    now = item.spec.size.side_of(*item.outline.size_mm) * asked.wanted_mm / item.spec.size.wanted_mm
    return float(str(fix.changes[str(_side(fix))])) / now


def _undoes(plan: Plan, item: DesignedItem, scale: float) -> Iterator[str]:
    """What another size would undo, each as a sentence."""
    blank = plan.asked.finish.blank
    if scale < 1:
        if blank is not None and not covers(blank, item, scale):
            yield "Smaller, it would not cover its blank."
        if _falls_apart(plan, item, scale):
            yield "Smaller, it would fall apart where it is cut inside its outline."
        return
    # Its border does not grow with the drawing, so that this is a little more than it comes to.
    grown = as_multi(parts(shapely.affinity.scale(item.edge.shape, scale, scale)))
    if best_turn(grown, plan.setup.live.size_mm, item.spec.turn or plan.job.packing.turn)[1] > 0:
        yield "Larger, it would not go on this sheet."
    cup = on_cup(item)
    if cup is None:
        return
    if cup.parts == 1 and cup.width_mm * scale > cup.room_mm + _NEAR_MM:
        yield "Larger, it would not go round in one piece."
    taller = cup.height_mm * (scale - 1) / 2
    if 0 <= min(cup.below_rim_mm, cup.above_foot_mm) < taller:
        yield "Larger, it would reach past a rim."


def _falls_apart(plan: Plan, item: DesignedItem, scale: float) -> bool:
    """Whether an inset, which keeps its depth, parts a smaller drawing where it is narrow."""
    spec = item.spec.edge
    if spec.has_border or spec.distance_mm == 0 or item.spec.tile is not None:
        return False
    smaller = derive_edge(scaled(item.outline, scale), spec, plan.job.stock.least_neck_mm)
    return len(smaller.shape.geoms) > len(item.edge.shape.geoms) or smaller.deepest_mm is not None


def _with_layers(item: DesignedItem, fix: Fix) -> Fix:
    if item.spec.layer_of is None or _side(fix) is None:
        return fix
    return replace(fix, effect=f"{fix.effect}; {_WITH_LAYERS}")
