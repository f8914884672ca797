"""What can be said about one edge: loose parts, holes, thin places, a border too thin for the cutter's usual miss."""

import math
from dataclasses import dataclass, field, replace

import numpy as np
from shapely.geometry import Polygon

from vamper.core.art.inspect import place_of, size_fix
from vamper.core.art.outline import Outline
from vamper.core.edge.edge import Edge, derive_edge

# A miss is seen on a border of less than three times its width.
from vamper.core.edge.thin import gentlest_cure, holding_neck, is_sound, least_growth, side_grown, thin_places
from vamper.core.values.cutter import HAND_RADIUS_MM
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity, Station
from vamper.core.values.geometry import hole_polygons, parts
from vamper.core.values.item import ItemSpec
from vamper.core.values.lengths import mm
from vamper.core.values.miss import STARTER_MISS_MM

EVEN_MISSES = 3
LEAST_SIDE_MM = 12.0
_MOST_PLACES = 40
# What a polygon's arc may lie inside the true one.
_ARC_MM = 0.02
# Letters of one word: at least so many parts, this near to one height; and what of a letter its inside takes.
_LEAST_LETTERS = 3
_LETTER_HEIGHTS = 0.45
_COUNTER_SHARE = (0.02, 0.6)
_OPENED = {"edge.fill_holes": False, "edge.keep_holes": []}
# Scissors go round a bend a little tighter than asked for; below this nobody follows the line.
_TOLERATED = 0.75


@dataclass(frozen=True, slots=True)
class EdgeFacts:
    """Features along an edge that take long to find: thin strips and slots, and what would cure them.

    Parameters
    ----------
    neck_mm : float
        Width of the thinnest strip looked for.
    necks, slots : tuple of Polygon
        The thin strips of the piece, and of what lies between its parts.
    cure_mm : (float, float) or None
        The gentlest border and smoothing tried that leave no thin place; None where no trial did.
    holding_mm : float or None
        The widest neck that a bare outline has everywhere.
    growth : float or None
        How many times larger a bare outline must at least be to have no thin place.
    loose_is_thin : bool
        Whether tied parts would be thin if they were cut by themselves.
    """

    neck_mm: float
    necks: tuple[Polygon, ...] = ()
    slots: tuple[Polygon, ...] = ()
    cure_mm: tuple[float, float] | None = None
    holding_mm: float | None = None
    growth: float | None = None
    loose_is_thin: bool = field(default=False, repr=False)


def look_along(outline: Outline, edge: Edge, spec: EdgeSpec, neck_mm: float) -> EdgeFacts:
    """Everything the findings of an edge need that is dear; `neck_mm` is the stock's least neck."""
    necks, slots = thin_places(edge.shape, neck_mm)
    if not necks and not slots:
        return EdgeFacts(neck_mm, loose_is_thin=_is_thin_when_loose(outline, edge, spec, neck_mm))
    holding = None if spec.has_border else holding_neck(edge.shape, neck_mm)
    growth = None if holding is None else least_growth(outline, spec, neck_mm, holding)
    return EdgeFacts(neck_mm, tuple(necks), tuple(slots), gentlest_cure(outline, spec, neck_mm), holding, growth)


def _is_thin_when_loose(outline: Outline, edge: Edge, spec: EdgeSpec, neck_mm: float) -> bool:
    """Whether parts that are tied, and hold so, have thin places once they are left loose."""
    if edge.tied < 2 or edge.apart < 2:
        return False
    return any(thin_places(derive_edge(outline, replace(spec, join=False), neck_mm).shape, neck_mm))


def edge_findings(
    outline: Outline, edge: Edge, item: ItemSpec, number: int, facts: EdgeFacts, miss_mm: float = STARTER_MISS_MM
) -> list[Finding]:
    """Findings of the Edge station for design `number`, whose pieces miss by less than `miss_mm` in 95 of 100."""
    spec = item.edge
    found = [
        _loose(edge, item, number),
        _tied(edge, number, facts.loose_is_thin),
        _open_holes(edge, spec, number),
        _filled_holes(edge, number),
        _closed_holes(edge, spec, number),
        _inset(outline, edge, spec, number),
        _thin_places(facts, item, outline, number),
        _thin_border(outline, edge, spec, number, miss_mm, facts.neck_mm),
        _small(edge, number),
    ]
    return [finding for finding in found if finding is not None]


def _loose(edge: Edge, item: ItemSpec, number: int) -> Finding | None:
    count = len(edge.shape.geoms)
    if count < 2:
        return None
    join = Fix(f"Join the {count} parts", "they come off as one piece", FixTarget.ITEM, {"edge.join": True})
    loose = Fix("Loose on purpose", "each part is meant to come off by itself", FixTarget.ITEM, {"loose": True})
    joinable = item.edge.uses("join") and not item.edge.join
    return Finding(
        "art.pieces",
        Severity.NOTE if item.loose else Severity.STOP,
        f"{count} loose parts, as meant" if item.loose else f"Falls into {count} pieces",
        f"The blade cuts round {count} separate parts, and each comes off by itself."
        if item.loose
        else f"The blade would cut round {count} separate parts, and each would come off by itself.",
        {"pieces": count},
        station=Station.EDGE,
        item=number,
        places=tuple(place_of(part.bounds) for part in list(edge.shape.geoms)[:_MOST_PLACES]),
        fixes=((join,) if joinable else ()) + (() if item.loose else (loose,)),
    )


def _tied(edge: Edge, number: int, loose_is_thin: bool) -> Finding | None:
    if edge.tied < 2:
        return None
    count = len(edge.bridges)
    by = f"{count} bridges hold" if count > 1 else f"{'a bridge' if count else 'the border between them'} holds"
    changes = {"edge.join": False, "loose": True}
    leave = Fix("Leave them loose", "each part comes off by itself", FixTarget.ITEM, changes)
    return Finding(
        "art.pieces",
        Severity.NOTE,
        f"{edge.tied} parts tied into one",
        f"The drawing is in {edge.tied} parts; {by} them together as one piece.",
        {"pieces": edge.tied, "bridges": len(edge.bridges)},
        station=Station.EDGE,
        item=number,
        places=tuple(place_of(bridge.bounds) for bridge in edge.bridges[:_MOST_PLACES]),
        # Where the border itself grows together there is nothing to leave loose.
        fixes=(leave,) if edge.apart > 1 and not loose_is_thin else (),
    )


def _widest(hole: Polygon) -> float:
    """About how wide a hole is: the diameter of a disc of its area."""
    return 2 * math.sqrt(hole.area / math.pi)


def _open_holes(edge: Edge, spec: EdgeSpec, number: int) -> Finding | None:
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
        station=Station.EDGE,
        item=number,
        places=tuple(place_of(hole.bounds) for hole in holes[:_MOST_PLACES]),
        fixes=(fix,) if spec.has_border and spec.uses("fill_holes") and not spec.fill_holes else (),
    )


def _filled_holes(edge: Edge, number: int) -> Finding | None:
    if not edge.filled:
        return None
    count = len(edge.filled)
    return Finding(
        "art.holes",
        Severity.NOTE,
        f"{count} hole{'s stay' if count > 1 else ' stays'} covered",
        "Filled, the drawing sits on one whole piece. Which ones are opened is chosen at Edge.",
        {"holes": count, "widest_mm": round(max(map(_widest, edge.filled)), 1)},
        station=Station.EDGE,
        item=number,
        places=tuple(place_of(hole.bounds) for hole in edge.filled[:_MOST_PLACES]),
    )


def counter_findings(outline: Outline, edge: Edge, number: int) -> list[Finding]:
    """Filled holes that are most likely letters' counters, on a stock of which the drawing itself is cut: the inner
    space of an o or an a would be gone. Letters are several parts of about one height, each with a hole or two that
    take a middling share of it.
    """
    if not edge.filled:
        return []
    heights = {part: part.bounds[3] - part.bounds[1] for part in parts(outline.shape)}
    usual = float(np.median(list(heights.values())))
    letters = [part for part, height in heights.items() if abs(height - usual) <= _LETTER_HEIGHTS * usual]
    if len(letters) < _LEAST_LETTERS:
        return []
    counters = [hole for part in letters for hole in hole_polygons(part) if _like_a_counter(hole, part)]
    filled = [hole for hole in counters if any(one.intersects(hole) for one in edge.filled)]
    if not filled:
        return []
    count = len(filled)
    return [
        Finding(
            "edge.counters",
            Severity.LOOK,
            f"{count} letter{'s lose their' if count > 1 else ' loses its'} inside",
            "On this stock the drawing itself is cut out; with its holes filled, an o comes out as a blob.",
            {"counters": count},
            item=number,
            places=tuple(place_of(hole.bounds) for hole in filled[:_MOST_PLACES]),
            fixes=(Fix("Leave the insides open", "the blade runs round them as well", FixTarget.ITEM, _OPENED),),
        )
    ]


def _like_a_counter(hole: Polygon, letter: Polygon) -> bool:
    least, most = _COUNTER_SHARE
    return bool(least <= hole.area / Polygon(letter.exterior).area <= most)


def _closed_holes(edge: Edge, spec: EdgeSpec, number: int) -> Finding | None:
    if not edge.closed:
        return None
    count = len(edge.closed)
    return Finding(
        "edge.hole-closed",
        Severity.LOOK,
        f"{count} hole{'s' if count > 1 else ''} to be kept closed over",
        f"A kept hole comes out {mm(2 * spec.reach_mm)} narrower; {'these are' if count > 1 else 'this one is'} "
        "narrower than that, so the border covers it.",
        {"holes": count, "widest_mm": round(max(map(_widest, edge.closed)), 1)},
        item=number,
        places=tuple(place_of(hole.bounds) for hole in edge.closed[:_MOST_PLACES]),
    )


def _inset(outline: Outline, edge: Edge, spec: EdgeSpec, number: int) -> Finding | None:
    if edge.deepest_mm is None:
        return None
    # Down to a tenth, so that what is offered leaves something.
    deepest = math.floor(edge.deepest_mm * 10 - 0.5) / 10
    offered = deepest
    if deepest > 0:
        inside = derive_edge(outline, replace(spec, distance_mm=-deepest, smooth_mm=0.0), 0.0)
        # Where no more than crumbs would be left, the outline itself is better.
        offered = deepest if len(inside.shape.geoms) <= len(edge.shape.geoms) else 0.0
    return Finding(
        "edge.inset",
        Severity.STOP,
        "So far inside, nothing is left",
        f"The drawing is nowhere wide enough for this inset; at most {mm(max(deepest, 0))} leave something. The edge "
        "stays on the outline until then.",
        {"deepest_mm": round(edge.deepest_mm, 2)},
        item=number,
        places=(place_of(edge.shape.bounds),),
        fixes=(
            Fix(
                f"Inset of {mm(offered)}" if offered > 0 else "Cut on the outline",
                "the deepest that leaves something" if offered > 0 else "no inset",
                FixTarget.ITEM,
                {"edge.distance_mm": -max(offered, 0.0), "edge.smooth_mm": 0.0},
            ),
        ),
    )


def _thin_places(facts: EdgeFacts, item: ItemSpec, outline: Outline, number: int) -> Finding | None:
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
        label = f"Border of {mm(distance)}, smoothed by {mm(smooth)}"
        changes = {"edge.distance_mm": distance, "edge.smooth_mm": smooth}
        fixes = (Fix(label, "no thin place is left", FixTarget.ITEM, changes),)
    elif facts.growth is not None:
        side = side_grown(item.size.side_of(*outline.size_mm), facts.growth)
        fixes = (size_fix(item, side, "every strip is wide enough to hold"),)
    return Finding(
        "art.thin",
        Severity.LOOK,
        what[0].upper() + what[1:],
        f"Narrower than {mm(neck_mm)}, which is what this stock holds: strips tear or fold when weeded, slots fray.",
        {"necks": len(necks), "slots": len(slots), "neck_mm": neck_mm},
        station=Station.EDGE,
        item=number,
        places=tuple(place_of(part.bounds) for part in (*necks, *slots)[:_MOST_PLACES]),
        fixes=fixes,
    )


def even_border_mm(miss_mm: float) -> float:
    """The border from which on a miss is not seen."""
    return round(EVEN_MISSES * miss_mm, 1)


def _thin_border(
    outline: Outline, edge: Edge, spec: EdgeSpec, number: int, miss_mm: float, neck_mm: float
) -> Finding | None:
    # An edge on the drawing's own rim, or inside it, has no border to be uneven.
    if not spec.has_border or (outline.opaque and spec.reach_mm == 0):
        return None
    even, miss = even_border_mm(miss_mm), round(miss_mm, 2)
    figures = {"border_mm": round(edge.least_border_mm, 2), "miss_mm": miss, "even_from_mm": even}
    # What is computed may lie under what was asked for by the width of a polygon's arc; then it is what was asked for.
    least, asked = edge.least_border_mm, spec.reach_mm
    border = asked if asked - _ARC_MM <= least <= asked else least
    if border < miss:
        return Finding(
            "edge.border-thin",
            Severity.LOOK,
            "The blade may cut into the drawing",
            f"A cut can land up to {mm(miss)} off in nineteen of twenty pieces; this border is thinner.",
            figures,
            item=number,
            places=(place_of(edge.shape.bounds),),
            fixes=(
                Fix(
                    f"Border of {mm(even)}",
                    "even-looking, and safe from the blade",
                    FixTarget.ITEM,
                    {"edge.distance_mm": even, "edge.rings": []},
                ),
            ),
        )
    if border < even:
        wider = replace(spec, distance_mm=even, rings=())
        fix = Fix(f"Border of {mm(even)}", "looks even", FixTarget.ITEM, {"edge.distance_mm": even, "edge.rings": []})
        return Finding(
            "edge.border-uneven",
            Severity.NOTE,
            "The border may look uneven",
            f"A miss of {mm(miss)} shows on a border under {mm(even)}: one side looks wider than the other.",
            figures,
            item=number,
            fixes=(fix,) if is_sound(derive_edge(outline, wider, neck_mm), neck_mm) else (),
        )
    return None


def _small(edge: Edge, number: int) -> Finding | None:
    side = min(edge.size_mm)
    if side >= LEAST_SIDE_MM:
        return None
    return Finding(
        "art.too-small",
        Severity.LOOK,
        "Small and fiddly",
        f"The piece is {mm(side, 1)} at its smaller side; under {mm(LEAST_SIDE_MM)} it is hard to weed and place.",
        {"side_mm": round(side, 1), "least_mm": LEAST_SIDE_MM},
        station=Station.EDGE,
        item=number,
        places=(place_of(edge.shape.bounds),),
    )


def hand_findings(smallest_radius_mm: float, number: int) -> list[Finding]:
    """A bend that scissors cannot follow."""
    if smallest_radius_mm >= HAND_RADIUS_MM * _TOLERATED:
        return []
    return [
        Finding(
            "edge.scissors",
            Severity.LOOK,
            "Too tight for scissors",
            f"Its tightest bend has a radius of {mm(smallest_radius_mm, 1)}; by hand {mm(HAND_RADIUS_MM)} and more "
            "can be followed.",
            {"radius_mm": round(smallest_radius_mm, 2), "needed_mm": HAND_RADIUS_MM},
            item=number,
        )
    ]
