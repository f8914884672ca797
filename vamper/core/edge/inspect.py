"""What can be said about one edge: loose parts, holes, thin places, a border too thin for the cutter's usual miss."""

import math
from dataclasses import dataclass, replace

import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.art.inspect import place_of
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.findings import Finding, Fix, FixTarget, Severity
from vamper.core.geometry import closing, grow, hole_polygons, longest_side, opening, parts
from vamper.core.job import EdgeKind, EdgeSpec, ItemSpec

# Nineteen of twenty cuts miss by less than this before any run was measured (2.448 σ with σ = 0.25 mm an axis).
STARTER_MISS_MM = 0.6
EVEN_LOOKING_FACTOR = 3
LEAST_SIDE_MM = 12.0
# Arcs and overlays leave slivers of this order.
_ROUNDING_MM = 0.02
# Borders tried against thin places, in least necks.
_CURES = (0.55, 0.75, 1.0, 1.5, 2.0)
_MOST_PLACES = 40


@dataclass(frozen=True, slots=True)
class EdgeFacts:
    """What was seen along one edge that is dear to compute: its thin strips and slots, and what would cure them.

    `cure_mm` is the gentlest border and smoothing tried that leaves no thin place, if one does.
    """

    neck_mm: float
    necks: tuple[Polygon, ...] = ()
    slots: tuple[Polygon, ...] = ()
    cure_mm: tuple[float, float] | None = None


def look_along(outline: Outline, edge: Edge, spec: EdgeSpec, neck_mm: float) -> EdgeFacts:
    """Everything the findings of an edge need that is dear; `neck_mm` is the stock's least neck."""
    necks, slots = thin_places(edge.shape, neck_mm)
    cure = _cure(outline, spec, neck_mm) if necks or slots else None
    return EdgeFacts(neck_mm, tuple(necks), tuple(slots), cure)


def edge_findings(outline: Outline, edge: Edge, item: ItemSpec, index: int, facts: EdgeFacts) -> list[Finding]:
    """Findings of the Edge station for item number `index`."""
    spec = item.edge
    found = [
        _loose(edge, item, index),
        _tied(edge, index),
        _open_holes(edge, spec, index),
        _filled_holes(edge, spec, index),
        _closed_holes(edge, spec, index),
        _inset(edge, index),
        _thin_places(facts, index),
        _thin_border(outline, edge, spec, index),
        _small(edge, index),
    ]
    return [finding for finding in found if finding is not None]


def _loose(edge: Edge, item: ItemSpec, index: int) -> Finding | None:
    count = len(edge.shape.geoms)
    if count < 2:
        return None
    join = Fix(f"Join the {count} parts", "they come off as one piece", FixTarget.ITEM, {"edge.join": True})
    loose = Fix("Loose on purpose", "each part is meant to come off by itself", FixTarget.ITEM, {"loose": True})
    joinable = item.edge.kind is EdgeKind.FOLLOW and not item.edge.join
    return Finding(
        "art.pieces",
        Severity.NOTE if item.loose else Severity.STOP,
        f"{count} loose parts, as meant" if item.loose else f"Falls into {count} pieces",
        f"The blade cuts round {count} separate parts, and each comes off by itself."
        if item.loose
        else f"The blade would cut round {count} separate parts, and each would come off by itself.",
        {"pieces": count},
        item=index,
        places=tuple(place_of(part.bounds) for part in list(edge.shape.geoms)[:_MOST_PLACES]),
        fixes=((join,) if joinable else ()) + (() if item.loose else (loose,)),
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


def _filled_holes(edge: Edge, spec: EdgeSpec, index: int) -> Finding | None:
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
        fixes=(Fix("Cut the holes out", "what lies behind will show", FixTarget.ITEM, {"edge.fill_holes": False}),)
        if spec.kind in (EdgeKind.FOLLOW, EdgeKind.BARE)
        else (),
    )


def _closed_holes(edge: Edge, spec: EdgeSpec, index: int) -> Finding | None:
    if not edge.closed:
        return None
    count = len(edge.closed)
    return Finding(
        "edge.hole-closed",
        Severity.LOOK,
        f"{count} hole{'s' if count > 1 else ''} to be kept closed over",
        f"A kept hole comes out {2 * spec.reach_mm:g} mm narrower; {'these are' if count > 1 else 'this one is'} "
        "narrower than that, so the border covers it.",
        {"holes": count, "widest_mm": round(max(map(_widest, edge.closed)), 1)},
        item=index,
        places=tuple(place_of(hole.bounds) for hole in edge.closed[:_MOST_PLACES]),
    )


def _inset(edge: Edge, index: int) -> Finding | None:
    if edge.deepest_mm is None:
        return None
    # Down to a tenth, so that what is offered leaves something.
    deepest = math.floor(edge.deepest_mm * 10 - 0.5) / 10
    return Finding(
        "edge.inset",
        Severity.STOP,
        "So far inside nothing is left",
        f"The drawing is nowhere wide enough for this inset; at most {max(deepest, 0):g} mm leave something. The edge "
        "stays on the outline until then.",
        {"deepest_mm": round(edge.deepest_mm, 2)},
        item=index,
        places=(place_of(edge.shape.bounds),),
        fixes=(
            Fix(
                f"Inset of {deepest:g} mm" if deepest > 0 else "Cut on the outline",
                "the deepest that leaves something" if deepest > 0 else "no inset",
                FixTarget.ITEM,
                {"edge.distance_mm": -max(deepest, 0.0), "edge.smooth_mm": 0.0},
            ),
        ),
    )


def thin_places(shape: MultiPolygon, neck_mm: float) -> tuple[list[Polygon], list[Polygon]]:
    """Strips of an edge narrower than `neck_mm`, and slots in it as narrow.

    What an opening removes is thin, what a closing fills is a slot. Crumbs shorter than the neck, as every corner
    leaves them, do not count.
    """

    def long_ones(shapes: BaseGeometry) -> list[Polygon]:
        return [part for part in parts(shapes) if longest_side(part) > neck_mm]

    radius = neck_mm / 2
    necks = shapely.difference(shape, grow(opening(shape, radius), _ROUNDING_MM))
    slots = shapely.difference(closing(shape, radius), grow(shape, _ROUNDING_MM))
    return long_ones(necks), long_ones(slots)


def _thin_places(facts: EdgeFacts, index: int) -> Finding | None:
    necks, slots, neck_mm = facts.necks, facts.slots, facts.neck_mm
    if not necks and not slots:
        return None
    what = " and ".join(
        f"{len(places)} {one if len(places) == 1 else one + 's'}"
        for places, one in ((necks, "thin strip"), (slots, "narrow slot"))
        if places
    )
    fixes: tuple[Fix, ...] = ()
    if facts.cure_mm is not None:
        distance, smooth = facts.cure_mm
        label = f"Border of {distance:g} mm, smoothed by {smooth:g}"
        changes = {"edge.distance_mm": distance, "edge.smooth_mm": smooth}
        fixes = (Fix(label, "no thin place is left", FixTarget.ITEM, changes),)
    return Finding(
        "art.thin",
        Severity.LOOK,
        what[0].upper() + what[1:],
        f"Narrower than {neck_mm:g} mm, which is what this stock holds: strips tear or fold when weeded, slots fray.",
        {"necks": len(necks), "slots": len(slots), "neck_mm": neck_mm},
        item=index,
        places=tuple(place_of(part.bounds) for part in (*necks, *slots)[:_MOST_PLACES]),
        fixes=fixes,
    )


def _cure(outline: Outline, spec: EdgeSpec, neck_mm: float) -> tuple[float, float] | None:
    """The gentlest border and smoothing of those tried that leaves no thin place."""
    if spec.kind is not EdgeKind.FOLLOW or spec.rings:
        return None
    for share in _CURES:
        distance = max(spec.distance_mm, round(share * neck_mm, 1))
        smooth = max(spec.smooth_mm, round(share * neck_mm, 1))
        trial = replace(spec, distance_mm=distance, smooth_mm=smooth)
        if not any(thin_places(derive_edge(outline, trial, neck_mm).shape, neck_mm)):
            return distance, smooth
    return None


def _thin_border(outline: Outline, edge: Edge, spec: EdgeSpec, index: int) -> Finding | None:
    # An edge on the drawing's own rim, or inside it, has no border to be uneven.
    if spec.kind is EdgeKind.BARE or (outline.opaque and spec.reach_mm == 0):
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
                    {"edge.distance_mm": even, "edge.rings": []},
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
            fixes=(
                Fix(
                    f"Border of {even:g} mm", "looks even", FixTarget.ITEM, {"edge.distance_mm": even, "edge.rings": []}
                ),
            ),
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
