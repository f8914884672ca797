"""What can be said about one edge: loose parts, holes, and a border too thin for the cutter's usual miss."""

import math

from shapely.geometry import Polygon

from vamper.core.art.inspect import place_of
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge
from vamper.core.findings import Finding, Fix, FixTarget, Severity
from vamper.core.geometry import hole_polygons
from vamper.core.job import EdgeKind, EdgeSpec

# Nineteen of twenty cuts miss by less than this before any run was measured (2.448 σ with σ = 0.25 mm an axis).
STARTER_MISS_MM = 0.6
EVEN_LOOKING_FACTOR = 3
LEAST_SIDE_MM = 12.0
_MOST_PLACES = 40


def edge_findings(outline: Outline, edge: Edge, spec: EdgeSpec, index: int) -> list[Finding]:
    """Findings of the Edge station for item number `index`."""
    found = [
        _loose(edge, spec, index),
        _tied(edge, index),
        _open_holes(edge, spec, index),
        _filled_holes(edge, index),
        _thin_border(outline, edge, spec, index),
        _small(edge, index),
    ]
    return [finding for finding in found if finding is not None]


def _loose(edge: Edge, spec: EdgeSpec, index: int) -> Finding | None:
    count = len(edge.shape.geoms)
    if count < 2:
        return None
    fix = Fix(f"Join the {count} parts", "they come off as one piece", FixTarget.ITEM, {"edge.join": True})
    return Finding(
        "art.pieces",
        Severity.STOP,
        f"Falls into {count} pieces",
        f"The blade would cut round {count} separate parts, and each would come off by itself.",
        {"pieces": count},
        item=index,
        places=tuple(place_of(part.bounds) for part in list(edge.shape.geoms)[:_MOST_PLACES]),
        fixes=(fix,) if spec.kind is EdgeKind.FOLLOW and not spec.join else (),
    )


def _tied(edge: Edge, index: int) -> Finding | None:
    if edge.tied < 2:
        return None
    by = "the border between them"
    if edge.bridges:
        by = "a bridge" if len(edge.bridges) == 1 else f"{len(edge.bridges)} bridges"
    return Finding(
        "art.pieces",
        Severity.NOTE,
        f"{edge.tied} parts tied into one",
        f"The drawing is in {edge.tied} parts; {by} holds them together as one piece.",
        {"pieces": edge.tied, "bridges": len(edge.bridges)},
        item=index,
        places=tuple(place_of(bridge.bounds) for bridge in edge.bridges[:_MOST_PLACES]),
        fixes=(Fix("Leave them loose", "each part comes off by itself", FixTarget.ITEM, {"edge.join": False}),),
    )


def _widest(hole: Polygon) -> float:
    """About how wide a hole is: the diameter of a disc of its area."""
    return 2 * math.sqrt(hole.area / math.pi)


def _open_holes(edge: Edge, spec: EdgeSpec, index: int) -> Finding | None:
    holes = hole_polygons(edge.shape)
    if not holes:
        return None
    count = len(holes)
    fix = Fix(
        "Fill the holes",
        "the border stays whole behind the drawing",
        FixTarget.ITEM,
        {"edge.fill_holes": True},
    )
    return Finding(
        "art.holes",
        Severity.LOOK,
        f"The blade would cut out {count} hole{'s' if count > 1 else ''}",
        "Inside the drawing the border is cut away, and what lies behind the piece will show.",
        {"holes": count, "widest_mm": round(max(map(_widest, holes)), 1)},
        item=index,
        places=tuple(place_of(hole.bounds) for hole in holes[:_MOST_PLACES]),
        fixes=(fix,) if spec.kind is EdgeKind.FOLLOW and not spec.fill_holes else (),
    )


def _filled_holes(edge: Edge, index: int) -> Finding | None:
    if not edge.filled:
        return None
    count = len(edge.filled)
    return Finding(
        "art.holes",
        Severity.NOTE,
        f"{count} hole{'s stay' if count > 1 else ' stays'} covered",
        "Filled, the drawing sits on one whole piece. Opened, the blade runs round each hole as well.",
        {"holes": count, "widest_mm": round(max(map(_widest, edge.filled)), 1)},
        item=index,
        places=tuple(place_of(hole.bounds) for hole in edge.filled[:_MOST_PLACES]),
        fixes=(Fix("Cut the holes out", "what lies behind will show", FixTarget.ITEM, {"edge.fill_holes": False}),),
    )


def _thin_border(outline: Outline, edge: Edge, spec: EdgeSpec, index: int) -> Finding | None:
    # An opaque picture cut on its own rim has no border to be uneven.
    if outline.opaque and spec.distance_mm == 0:
        return None
    even = STARTER_MISS_MM * EVEN_LOOKING_FACTOR
    figures = {"border_mm": round(edge.least_border_mm, 2), "miss_mm": STARTER_MISS_MM, "even_from_mm": even}
    # What is computed may lie under what was asked for by the width of a polygon's arc.
    border = edge.least_border_mm + 0.02
    if border < STARTER_MISS_MM:
        return Finding(
            "edge.border-thin",
            Severity.LOOK,
            "The blade may bite the drawing",
            f"A cut lands up to {STARTER_MISS_MM} mm off in nineteen of twenty pieces; this border is thinner.",
            figures,
            item=index,
            places=(place_of(edge.shape.bounds),),
            fixes=(
                Fix(
                    f"Border of {even:g} mm",
                    "even-looking, and safe from the blade",
                    FixTarget.ITEM,
                    {"edge.distance_mm": even},
                ),
            ),
        )
    if border < even:
        return Finding(
            "edge.border-uneven",
            Severity.NOTE,
            "The border may look uneven",
            f"A miss of {STARTER_MISS_MM} mm shows on a border under {even:g} mm: one side looks wider than the other.",
            figures,
            item=index,
            fixes=(Fix(f"Border of {even:g} mm", "looks even", FixTarget.ITEM, {"edge.distance_mm": even}),),
        )
    return None


def _small(edge: Edge, index: int) -> Finding | None:
    side = min(edge.size_mm)
    if side >= LEAST_SIDE_MM:
        return None
    return Finding(
        "art.too-small",
        Severity.LOOK,
        "Small to handle",
        f"The piece is {side:.1f} mm at its smaller side; under {LEAST_SIDE_MM:g} mm it is hard to weed and place.",
        {"side_mm": round(side, 1), "least_mm": LEAST_SIDE_MM},
        item=index,
        places=(place_of(edge.shape.bounds),),
    )
