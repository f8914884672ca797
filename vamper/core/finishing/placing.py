"""Placing ghosts of a planned job: a ghost for every design, numbered, with the measures of what it goes on."""

from collections.abc import Iterator

import numpy as np
import shapely

from vamper.core.design import DesignedItem
from vamper.core.finishing.chain import chain_of_job
from vamper.core.finishing.cloth import on_cloth
from vamper.core.finishing.ghost import PAST_MM, Ghost, all_pages
from vamper.core.finishing.on_cup import on_cup
from vamper.core.finishing.slits import slits
from vamper.core.finishing.targets import TARGETS
from vamper.core.plan import Plan
from vamper.core.values.drawing import Drawing
from vamper.core.values.finish import TransferMask
from vamper.core.values.geometry import Points, parts, ring_points
from vamper.core.values.job import Job
from vamper.core.values.lengths import mm, size_mm

# An arc is drawn along so many points.
_POINTS = 65


def placing_pages(plan: Plan) -> tuple[Drawing, ...]:
    """The pages of a job's placing ghosts, on its paper; as finished pieces read."""
    return all_pages([_ghost(plan, item) for item in plan.items], plan.job.paper)


def _ghost(plan: Plan, item: DesignedItem) -> Ghost:
    shrink, cloth = plan.job.stock.shrink, plan.asked.finish.cloth
    scale = np.array([1.0, 1.0] if shrink is None else [shrink.x, shrink.y])

    def rings(of: DesignedItem, edge: bool) -> tuple[Points, ...]:
        shape = of.edge.shape if edge else of.outline.shape
        return tuple(ring_points(ring) * scale for part in parts(shape) for ring in (part.exterior, *part.interiors))

    level, axis = lines_of(item, 0.5 if cloth is None else cloth.centre)
    return Ghost(
        _name(plan, item),
        rings(item, True),
        rings(item, False),
        level * scale,
        axis * scale,
        tuple(_measures(plan, item, float(item.outline.size_mm[0] * scale[0]))),
        slits_of(plan, item),
    )


def slits_of(plan: Plan, item: DesignedItem) -> tuple[Points, ...]:
    """The slits in the mask of a piece that goes onto something round both ways; none without a mask."""
    facts = chain_of_job(plan.asked).facts
    ball = ball_of(plan.asked)
    return () if ball is None or facts.mask is TransferMask.NONE else slits(item.edge.shape, ball)


def ball_of(job: Job) -> float | None:
    """How large a ball lies on what it goes on, mm: as measured, else as is usual; None where it is not round so."""
    usual = None if job.target is None else TARGETS[job.target].ball_mm
    return None if usual is None else job.finish.ball_mm or usual


def lines_of(item: DesignedItem, centre: float) -> tuple[Points, Points]:
    """The line that comes to lie level, through the art's middle, and the line that stands upright where the maker
    said, drawn past the piece. Of art that was bent for a cup they are lines that were straight before, bent with it.
    """
    bend = item.bend
    drawn, edge = (shapely.get_coordinates(shape.shape) for shape in (item.outline, item.edge))
    if bend is not None:
        drawn, edge = bend.flat(drawn), bend.flat(edge)
    (left, top), (right, bottom) = drawn.min(axis=0), drawn.max(axis=0)
    middle = bend.middle if bend is not None else item.middle or ((left + right) / 2, (top + bottom) / 2)
    low, high = edge.min(axis=0) - PAST_MM, edge.max(axis=0) + PAST_MM
    across = np.linspace(low[0], high[0], _POINTS)
    level = np.column_stack([across, np.full(_POINTS, middle[1])])
    upright = left + centre * (right - left)
    axis = np.array([(upright, low[1]), (upright, high[1])])
    return (level, axis) if bend is None else (bend.points(level), bend.points(axis))


def _name(plan: Plan, item: DesignedItem) -> str:
    """Its number and name; a pair shares its number, and a layer is told by its colour."""
    spec = item.as_asked
    product = next((one for one in plan.asked.products if spec.number in one.items and len(one.items) > 1), None)
    if product is not None:
        return f"{product.items[0]} {product.name}: {spec.name}"
    if spec.back_of is not None:
        return f"{spec.back_of} back: {spec.name}"
    side = " front" if any(one.as_asked.back_of == spec.number for one in plan.items) else ""
    layer = f" ({spec.sheet_colour})" if spec.sheet_colour else ""
    return f"{spec.number}{side}: {spec.name}{layer}"


def _measures(plan: Plan, item: DesignedItem, width_mm: float) -> Iterator[str]:
    yield f"{size_mm(*item.edge.size_mm, 1)} on the sheet, {item.as_asked.quantity * plan.asked.copies} of it"
    if slits_of(plan, item):
        yield f"slits in its mask where the broken lines reach inward, for a ball of {mm(ball_of(plan.asked) or 0)}"
    cloth, cup = plan.asked.finish.cloth, on_cup(item)
    if cloth is not None and cloth.panel_mm is not None:
        placed = on_cloth(cloth, cloth.panel_mm, width_mm)
        yield (
            f"panel {mm(cloth.panel_mm)}: its top {mm(placed.drop_mm)} below the collar, the upright line on the fold; "
            f"{mm(placed.left_of_fold_mm, 1)} of it lie left of the fold"
        )
    if cup is not None:
        yield (
            f"its level line {mm(cup.up_mm, 1)} above the lower rim, along the wall; {mm(cup.below_rim_mm, 1)} stay "
            "free below the upper one"
        )
        if cup.handle_mm:
            yield f"the upright line opposite the handle; {mm(cup.handle_mm)} are kept free for it"
