"""What can be said about a layout: broken rules, pieces without a place, a sheet mostly empty, backs without fronts."""

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import replace

from vamper.core.art.inspect import place_of, size_fix
from vamper.core.art.outline import Outline, scaled
from vamper.core.edge.edge import Edge, derive_edge
from vamper.core.edge.tile import OVERLAP_MM, tile_counts
from vamper.core.sheet.breaches import Breach, breaches_among
from vamper.core.sheet.laid import LaidSheet
from vamper.core.sheet.lay.turns import best_turn
from vamper.core.sheet.layout import Piece, Unplaced, WhyNot
from vamper.core.sheet.live_area import LiveArea
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import Finding, Fix, FixTarget, Severity, Station
from vamper.core.values.geometry import as_multi, grow, parts
from vamper.core.values.item import ItemSpec, Turn
from vamper.core.values.layers import by_itself
from vamper.core.values.lengths import mm, size_mm
from vamper.core.values.packing import PackingSpec
from vamper.core.values.paper import Paper
from vamper.core.values.placement import Pin

SPARSE_SHARE = 0.4
# What packing makes of a sheet without much searching; says how many more would go on a sparse one.
SPARSE_FILL = 0.6
# A largest size is looked for on an outline of few points, to a tenth of a millimetre.
_ROUGH_MM = 0.1
_OUTSIDE = "Outside the area you can use"
_FITTING_STEPS = 16
# Sizes this far on both sides of a guess are tried first.
_NEAR_MM = 0.4
# How far a back's art may reach beyond the blank before anybody sees it.
BACK_TOLERANCE_MM = 0.3


def accepted_finding(paper: Paper, cutter: Cutter, live: LiveArea) -> Finding | None:
    """That it is not known yet whether the machine's own program takes a sheet like this."""
    granted = cutter.granted_of(paper)
    if granted is not None and granted.width.taken is not None and granted.height.taken is not None:
        return None
    width, height = live.size_mm
    own = cutter.has_own_program
    lead = (
        "This size is a guess at what your machine's program takes: t"
        if own
        else ("If this sheet goes to the machine's own program, t")
    )
    where = "Largest picture" if own else "Marks"
    figures = {"width_mm": round(width, 1), "height_mm": round(height, 1)}
    refused = granted is not None and (granted.width.refused is not None or granted.height.refused is not None)
    return Finding(
        "sheet.granted",
        Severity.LOOK if refused else Severity.NOTE,
        "Not tried with your program yet",
        f"{lead}ry a picture of {size_mm(width, height, 0)} in it first, before anything is printed, and say under "
        f"{where} whether it was taken or refused.",
        figures,
    )


def breach_findings(laid: Sequence[LaidSheet], pieces: Mapping[int, Piece], gap_mm: float) -> list[Finding]:
    """Broken rules on all sheets. Packing keeps every rule by itself: only pieces that are held can break one."""
    return [
        _breach(breach, sheet)
        for sheet in laid
        if any(one.pin is not Pin.FREE for one in sheet.placements)
        for breach in breaches_among(sheet.edges, sheet.placements, pieces, sheet.live.shape, gap_mm)
    ]


def _breach(breach: Breach, sheet: LaidSheet) -> Finding:
    """A broken rule of a layout; only hands break one."""
    code, title, text = "sheet.outside", _OUTSIDE, "A piece sticks out of what can be printed and cut."
    if breach.second is not None and breach.distance_mm == 0:
        code, title, text = "sheet.overlap", "Two pieces overlap", "The blade would cut into both of them."
    elif breach.second is not None:
        code, title = "sheet.gap", "Too close together"
        text = f"Two pieces are {mm(breach.distance_mm, 2)} apart; {mm(breach.needed_mm)} are needed."
    return Finding(
        code,
        Severity.STOP,
        title,
        text,
        {"distance_mm": round(breach.distance_mm, 3), "needed_mm": breach.needed_mm},
        item=sheet.placements[breach.first].item,
        sheet=sheet.number,
    )


def pair_findings(back: ItemSpec, edge: Edge, front: ItemSpec, laid: Sequence[LaidSheet]) -> list[Finding]:
    """A front and its back that do not come in pairs, or a back whose art does not fit the blank's other side."""
    counts = Counter(one.item for sheet in laid for one in sheet.placements)
    found, wanted = [], front.quantity
    if back.quantity != wanted or counts[back.number] != counts[front.number]:
        fixes: tuple[Fix, ...] = ()
        if back.quantity != wanted:
            fixes = (Fix(f"{wanted} backs", "as many as fronts", FixTarget.ITEM, {"quantity": wanted}),)
        found.append(
            Finding(
                "sheet.front-back",
                Severity.STOP,
                "Fronts and backs do not pair up",
                f"{counts[front.number]} fronts and {counts[back.number]} backs are on the sheets; each blank needs "
                "one of both.",
                {"fronts": counts[front.number], "backs": counts[back.number]},
                item=back.number,
                fixes=fixes,
            )
        )
    if edge.least_border_mm < -BACK_TOLERANCE_MM:
        found.append(
            Finding(
                "sheet.front-back",
                Severity.LOOK,
                "The back's art sticks out of the blank",
                f"Turned over, the blank's edge runs {mm(-edge.least_border_mm, 1)} inside this "
                "art; what sticks out is cut away. A smaller art, or a symmetric front edge, keeps it whole.",
                {"outside_mm": round(-edge.least_border_mm, 2)},
                item=back.number,
            )
        )
    return found


def unplaced_finding(unplaced: Unplaced, spec: ItemSpec, packing: PackingSpec, sheets: int) -> Finding:
    """Pieces that found no place on `sheets` sheets; see `too_big` for pieces that fit on none."""
    if unplaced.reason is WhyNot.NOT_IN_KIT:
        return _not_in_kit(spec, unplaced.quantity, sheets)
    more = Fix("Allow more sheets", "all pieces find a place", FixTarget.JOB, {"packing.max_sheets": None})
    count = unplaced.quantity
    return Finding(
        "sheet.unplaced",
        Severity.STOP,
        f"No room for {count} piece{'s' if count > 1 else ''}",
        f"{count} of {spec.quantity} found no place on the sheets allowed.",
        {"pieces": count, "wanted": spec.quantity},
        item=spec.number,
        fixes=(more,) if packing.max_sheets is not None else (),
    )


def _not_in_kit(spec: ItemSpec, over: int, kits: int) -> Finding:
    whole = spec.quantity - over
    return Finding(
        "sheet.unplaced",
        Severity.STOP,
        f"{over} left over from the sets",
        f"{spec.quantity} cannot be shared out evenly over {kits} equal sheets; {over} found no place.",
        {"pieces": over, "wanted": spec.quantity},
        item=spec.number,
        fixes=(
            Fix(f"Make {whole}", "nothing is left over", FixTarget.ITEM, {"quantity": whole}),
            Fix(f"Make {whole + kits}", "one more in each set", FixTarget.ITEM, {"quantity": whole + kits}),
        ),
    )


def too_big(spec: ItemSpec, outline: Outline, edge: Edge, live: LiveArea, turn: Turn, least_neck_mm: float) -> Finding:
    """The edge is larger than the live area in every allowed turn; offers the largest art that fits."""
    size = spec.size.side_of(*outline.size_mm)
    largest = 0.0 if spec.back_of is not None else largest_that_fits(spec, outline, live, turn, least_neck_mm)
    width, height = live.size_mm
    fixes: tuple[Fix, ...] = ()
    if 1 <= largest < size:
        fixes = (size_fix(spec, largest, "the largest that fits"),)
    counts = None if spec.back_of is not None else tile_counts(edge, live.room_mm, turn, OVERLAP_MM)
    # What is bent for a cup is parted along the cup, not along the sheet.
    # Nor is one layer of a drawing parted where the others are not.
    if counts is not None and spec.tile is None and spec.prepare.bend_deg is None and spec.layer_of is None:
        across, down = counts
        way = (
            f"{across} beside each other"
            if down == 1
            else f"{down} below each other"
            if across == 1
            else (f"{across} by {down}")
        )
        split = Fix(
            f"Make it in {across * down} pieces",
            f"{way}, {mm(OVERLAP_MM)} over each other where the least is drawn",
            FixTarget.TILES,
            {"overlap_mm": OVERLAP_MM},
        )
        fixes = (*fixes, split)
    return Finding(
        "art.too-big",
        Severity.STOP,
        "Larger than the sheet",
        f"With its border it is {size_mm(edge.size_mm[0], edge.size_mm[1], 0)}; the area you can use is "
        f"{size_mm(width, height, 0)}.",
        {"pieces": spec.quantity, "scale": round(largest / size, 3), "largest_mm": largest},
        item=spec.number,
        places=(place_of(edge.shape.bounds),),
        fixes=fixes,
        station=Station.SHEET,
    )


def largest_that_fits(spec: ItemSpec, outline: Outline, live: LiveArea, turn: Turn, least_neck_mm: float) -> float:
    """The largest art (the side that it is sized by, mm, down to a tenth) whose edge fits the live area; 0 for none.

    The border keeps its width whatever the art's size, so the edge is derived at the sizes tried. How far it sticks out
    grows nearly evenly with the size: a straight line through two sizes (secant) finds the next size to try.
    """
    size = spec.size.side_of(*outline.size_mm)
    thin = replace(outline, shape=as_multi(parts(outline.shape.simplify(_ROUGH_MM))))
    room = live.size_mm

    def overhang(side: float) -> float:
        edge = derive_edge(scaled(thin, side / size), spec.edge, least_neck_mm)
        # What thinning may have taken off counts as there.
        return best_turn(edge.shape, room, turn)[1] + 2 * _ROUGH_MM

    low, high = size / 20, size
    under, over = overhang(low), overhang(high)
    if under > 0:
        return 0.0
    # Where the border is as wide everywhere, the drawing alone tells nearly exactly.
    guess = _grown_to_fit(thin, size, (room[0] - 2 * spec.edge.reach_mm, room[1] - 2 * spec.edge.reach_mm), turn)
    for near in (guess - _NEAR_MM, guess + _NEAR_MM):
        if low < near < high:
            sticks_out = overhang(near)
            low, under, high, over = (
                (low, under, near, sticks_out) if sticks_out > 0 else (near, sticks_out, high, over)
            )
    for step in range(_FITTING_STEPS):
        if high - low < _ROUGH_MM:
            break
        # Every other time the middle: a line alone may creep towards the answer from one side.
        side = (low + high) / 2 if step % 2 else low + (high - low) * under / (under - over)
        sticks_out = overhang(side)
        if sticks_out > 0:
            high, over = side, sticks_out
        else:
            low, under = side, sticks_out
    return math.floor(low * 10) / 10


def _grown_to_fit(outline: Outline, size: float, room: tuple[float, float], turn: Turn) -> float:
    """The side at which a drawing without its border just fits a room, by halving."""
    low, high = 0.0, size
    while high - low > _ROUGH_MM:
        middle = (low + high) / 2
        fits = best_turn(scaled(outline, middle / size).shape, room, turn)[1] <= 0
        low, high = (middle, high) if fits else (low, middle)
    return low


def _more_of(piece: Piece, laid: Sequence[LaidSheet], gap_mm: float) -> int:
    """About how many more of a design go on the last sheet: as many as another sheet holds of it alone, otherwise what
    areas allow.
    """
    last, others = laid[-1], laid[:-1]
    alone = [sheet.counts.total() for sheet in others if set(sheet.counts) == {piece.item}]
    if alone and set(last.counts) == {piece.item}:
        return max(alone) - last.counts.total()
    # A sheet on which it lies as well is as full as such sheets become.
    full = max((sheet.used_share for sheet in others if piece.item in sheet.counts), default=SPARSE_FILL)
    share = min(SPARSE_FILL, full)
    return int(last.live.area_mm2 * (share - last.used_share) / grow(piece.edge, gap_mm / 2).area)


def sparse_finding(
    laid: Sequence[LaidSheet], pieces: Mapping[int, Piece], gap_mm: float, items: Sequence[ItemSpec]
) -> Finding | None:
    """The last of several sheets mostly empty; more is offered of what is of use by itself."""
    if len(laid) < 2 or laid[-1].used_share >= SPARSE_SHARE:
        return None
    last, order = laid[-1], list(pieces)
    counts = last.counts
    useful = [one.number for one in items if counts[one.number] and by_itself(one, items)]
    most = max(useful or counts, key=lambda number: (counts[number], -order.index(number)))
    more = 0
    fixes: tuple[Fix, ...] = ()
    if useful:
        more = _more_of(pieces[most], laid, gap_mm)
    if more > 0:
        changes = {"quantity": pieces[most].quantity + more}
        fixes = (Fix(f"{more} more of it", "the sheet is used up", FixTarget.ITEM, changes),)
    filling = f"; about {more} more of this one would fill it" if more > 0 else ""
    return Finding(
        "sheet.sparse",
        Severity.NOTE,
        f"Sheet {last.number + 1} is mostly empty",
        f"It holds {counts.total()} piece{'s' if counts.total() > 1 else ''} and uses "
        f"{last.used_share * 100:.0f} % of its area{filling}.",
        {"used": round(last.used_share, 3), "pieces": counts.total(), "more": more},
        item=most,
        sheet=last.number,
        fixes=fixes,
    )
