"""What the screen says about a plan in a few words: the brief as a sentence, and each station's figure and state.

The brief is a list of phrases; those with a `key` can be changed in place. Stations are in the order of the work; a
station's state is that of its most serious finding.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from vamper.core.art.resolution import VIEWING_DISTANCE_MM
from vamper.core.cutting.setting import effective_cut
from vamper.core.findings import Finding, Severity
from vamper.core.job import Cut, EdgeKind, MarkFamily, PackingMode, Purpose, Turn
from vamper.core.plan import Plan, effective_marks
from vamper.core.sheet.papers import name_of, words_of
from vamper.core.stocks import Stock
from vamper.services.document import ItemDocument, JobDocument


class Station(StrEnum):
    ART = "art"
    EDGE = "edge"
    SHEET = "sheet"
    MARKS = "marks"
    PRINT = "print"
    CUT = "cut"


class StationState(StrEnum):
    """How a station stands; drawn as a filled bead, a half one, a notched one and a ring."""

    SETTLED = "settled"
    LOOK = "look"
    STOP = "stop"
    NOT_YET = "not yet"


# Found while looking at the art, answered at the edge.
_ANSWERED_ELSEWHERE = {
    "art.pieces": Station.EDGE,
    "art.holes": Station.EDGE,
    "art.too-small": Station.EDGE,
    "art.thin": Station.EDGE,
    "art.base": Station.EDGE,
    "art.too-big": Station.SHEET,
}

_STATE_OF = {Severity.STOP: StationState.STOP, Severity.LOOK: StationState.LOOK, Severity.NOTE: StationState.SETTLED}

PURPOSE_PHRASES = {
    Purpose.PLANNER: "a planner page",
    Purpose.DRINKWARE: "a mug or a bottle",
    Purpose.LAPTOP: "a laptop",
    Purpose.WINDOW: "a door or a window",
    Purpose.VEHICLE: "a boat or a vehicle",
}

TURN_PHRASES = {Turn.ANY: "any way round", Turn.QUARTER: "in quarter turns", Turn.UPRIGHT: "all upright"}

_MODE_PHRASES = {
    PackingMode.ONE_PER_SHEET: "one design a sheet",
    PackingMode.KITS: "in equal sets",
    PackingMode.TIDY: "in straight rows",
}

MODE_WORDS = {
    PackingMode.MIXED: ("mixed", "the fewest sheets"),
    PackingMode.ONE_PER_SHEET: ("one design a sheet", "easier to store and to sell"),
    PackingMode.KITS: ("kits", "every sheet holds the same set"),
    PackingMode.TIDY: ("tidy", "straight rows, for a guillotine"),
}

EDGE_PHRASES = {
    EdgeKind.FOLLOW: "border",
    EdgeKind.CIRCLE: "circle",
    EdgeKind.ELLIPSE: "ellipse",
    EdgeKind.RECTANGLE: "rectangle",
    EdgeKind.ROUNDED: "rounded rectangle",
    EdgeKind.HULL: "hull",
    EdgeKind.BARE: "bare outline",
}


@dataclass(frozen=True, slots=True)
class StationFigure:
    station: Station
    figure: str
    detail: str
    state: StationState


@dataclass(frozen=True, slots=True)
class Phrase:
    """A part of the brief; `key` names what a click changes, None for the words between."""

    text: str
    key: str | None = None


def station_of(finding: Finding) -> Station:
    """The station where a finding is answered."""
    return _ANSWERED_ELSEWHERE.get(finding.code) or Station(finding.code.partition(".")[0])


def plural(count: int, one: str, many: str | None = None) -> str:
    return f"{count} {one if count == 1 else many or one + 's'}"


def viewing(purpose: Purpose) -> str:
    distance = VIEWING_DISTANCE_MM[purpose]
    return f"{distance / 1000:g} m" if distance >= 1000 else f"{distance / 10:g} cm"


def brief(document: JobDocument, stock: Stock, printer: str | None, cutter: str, by_hand: bool = False) -> list[Phrase]:
    """The job as one sentence; `printer` is None where the stock is not printed."""
    pieces = sum(item.quantity for item in document.items)
    what = f"{plural(pieces, 'piece')} of {plural(len(document.items), 'design')}" if pieces else "nothing yet"
    spec = document.packing
    mode = PackingMode.TIDY if by_hand else spec.mode
    packing = "" if mode is PackingMode.MIXED else f"{_MODE_PHRASES[mode]}, "
    packing += f"{TURN_PHRASES[spec.turn]}, {spec.gap_mm:g} mm apart"
    if spec.fill:
        packing += ", what is left filled"
    if document.packing.max_sheets:
        packing += f", on {plural(document.packing.max_sheets, 'sheet')} at most"
    return [
        Phrase("Cut "),
        Phrase(what, "pieces"),
        Phrase(" out of "),
        Phrase(stock.name, "stock"),
        Phrase(", "),
        Phrase(paper_phrase(document), "paper"),
        Phrase(", each with "),
        Phrase(_edges(document.items), "edge"),
        Phrase(", packed "),
        Phrase(packing, "packing"),
        *([Phrase(", printed on "), Phrase(printer, "printer")] if printer else [Phrase(", not printed")]),
        Phrase(", "),
        Phrase(_cuts(document.items, stock), "cut"),
        Phrase(" on "),
        Phrase(cutter, "cutter"),
        Phrase(", to live on "),
        Phrase(PURPOSE_PHRASES[document.purpose], "purpose"),
        Phrase("."),
    ]


def paper_phrase(document: JobDocument) -> str:
    paper = document.paper.to_core()
    name = name_of(paper)
    words = words_of(name) if name else f"{paper.width_mm:g} × {paper.height_mm:g} mm"
    return f"{words}, part used" if paper.spent else words


def _edges(items: Sequence[ItemDocument]) -> str:
    edges = {replace(item.edge.to_core(), keep_holes=()) for item in items}
    if not edges:
        return "a 3 mm bare border"
    if len(edges) > 1:
        distances = sorted({max(0.0, edge.reach_mm) for edge in edges})
        if len(distances) == 1:
            return f"{distances[0]:g} mm borders of {len(edges)} kinds"
        return f"borders of {distances[0]:g} to {distances[-1]:g} mm"
    (edge,) = edges
    if edge.kind is EdgeKind.BARE:
        return "no border, cut on its outline" if edge.reach_mm == 0 else f"no border, cut {-edge.reach_mm:g} mm inside"
    colours = [ring.colour for ring in edge.stack]
    colour = "bare" if colours == [None] else "coloured" if len(colours) == 1 else f"{len(colours)}-ring"
    if edge.reach_mm == 0:
        return f"no border, cut on its {'outline' if edge.kind is EdgeKind.FOLLOW else EDGE_PHRASES[edge.kind]}"
    return f"a {edge.reach_mm:g} mm {colour} {EDGE_PHRASES[edge.kind]}"


def _cuts(items: Sequence[ItemDocument], stock: Stock) -> str:
    """What is really cut; a stock without a backing is cut through, whatever was asked for."""
    through = [item.name for item in items if effective_cut(stock, item.cut) is Cut.THROUGH]
    if not through and effective_cut(stock, Cut.KISS) is Cut.KISS:
        return "kiss cut"
    if len(through) == len(items):
        return "cut through"
    names = " and ".join(through) if len(through) <= 2 else f"{len(through)} of {len(items)} designs"
    return f"kiss cut, {names} through"


def stations(plan: Plan) -> list[StationFigure]:
    """Each station's one figure that matters."""
    worst: dict[Station, Severity] = {}
    for finding in plan.findings:
        station = station_of(finding)
        if station not in worst or finding.severity.rank < worst[station].rank:
            worst[station] = finding.severity
    figures = {
        Station.ART: _art(plan),
        Station.EDGE: _edge(plan),
        Station.SHEET: _sheet(plan),
        Station.MARKS: _marks(plan),
        Station.PRINT: _print(plan),
        Station.CUT: _cut(plan),
    }
    empty = not plan.items
    return [
        StationFigure(
            station,
            figure,
            detail,
            StationState.NOT_YET
            if empty and station is not Station.MARKS
            else _STATE_OF[worst.get(station, Severity.NOTE)],
        )
        for station, (figure, detail) in figures.items()
    ]


def empty_stations() -> list[StationFigure]:
    """The rail of a job that cannot be planned as it stands."""
    return [StationFigure(station, "–", "waiting", StationState.NOT_YET) for station in Station]


def _art(plan: Plan) -> tuple[str, str]:
    if not plan.items:
        return "no art", "add some"
    rasters = [item.outline.ppi for item in plan.items if not item.facts.is_vector]
    detail = f"{min(rasters):.0f} ppi least" if rasters else "drawn sharp"
    return plural(len(plan.items), "design"), detail


def _edge(plan: Plan) -> tuple[str, str]:
    if not plan.items:
        return "–", "none yet"
    least = min(item.edge.least_border_mm for item in plan.items)
    specs = {replace(item.spec.edge, keep_holes=()) for item in plan.items}
    detail = f"{len(specs)} kinds"
    if len(specs) == 1:
        (spec,) = specs
        detail = "bare" if spec.colour is None else "coloured"
        if spec.kind is EdgeKind.FOLLOW:
            detail += f", smooth {spec.smooth_mm:g}"
    return f"{least:.1f} mm", detail


def _sheet(plan: Plan) -> tuple[str, str]:
    wanted = sum(item.spec.quantity for item in plan.items)
    sheets = len(plan.layout.sheets)
    if not wanted:
        return "–", "empty"
    used = max((plan.used_share(number) for number in range(sheets)), default=0.0)
    where = f"on 1 sheet, {used * 100:.0f} %" if sheets == 1 else f"on {sheets} sheets"
    return f"{plan.layout.pieces} of {wanted}", where


_MARK_WORDS = {
    MarkFamily.CORNER: "corners",
    MarkFamily.DOT: "dots",
    MarkFamily.CROSS: "crosses",
    MarkFamily.RING: "rings",
}


def _marks(plan: Plan) -> tuple[str, str]:
    spec = effective_marks(plan.job)
    if spec.family is MarkFamily.NONE:
        why = "cutter adds its own" if plan.job.marks.family is MarkFamily.NONE else "nothing looks for them"
        return "none", why
    count = "frame" if spec.family is MarkFamily.FRAME else f"{spec.count} {_MARK_WORDS[spec.family]}"
    return count, f"{spec.inset_mm:g} mm in"


def _print(plan: Plan) -> tuple[str, str]:
    if not plan.job.stock.printable:
        return "not printed", "cut only"
    return ("mirrored" if plan.mirror else "right way"), f"{plural(len(plan.layout.sheets), 'page')}, 100 %"


def _cut(plan: Plan) -> tuple[str, str]:
    if not plan.job.cutter.is_machine:
        return "by hand", "along the guide lines"
    used = {effective_cut(plan.job.stock, item.spec.cut) for item in plan.items} or set(plan.settings)
    cut = min(used, key=list(Cut).index)
    setting = plan.settings[cut]
    return f"{setting.force_gf:g} gf × {setting.passes}", f"{setting.blade}° blade, {cut}"
