"""“How many fit?” for a design, or for a plain shape before there is any art."""

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum

import shapely
from shapely import affinity
from shapely.geometry import MultiPolygon

from vamper.core.art.outline import scaled
from vamper.core.edge.edge import derive_edge
from vamper.core.sheet.layout import Piece
from vamper.core.sheet.pack.area_bound import area_bound
from vamper.core.sheet.pack.how_many import CountRequest, HowMany, SizeCount
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.sheet.pack.sheet_region import region_of
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi, grow, parts
from vamper.core.values.item import Turn
from vamper.core.values.packing import MIXED
from vamper.services.design.job_design import Design
from vamper.services.packing.planning import TimedWatch
from vamper.services.work.cache import Cache
from vamper.services.work.reading_room import ReadingRoom

_RANGE = (0.7, 1.35)
_LEAST_MM = 8.0
_THIN_MM = 0.05
_KEPT = 50
_MOST_SECONDS = 60.0
_TOGETHER_S = 4.0
_TOO_SLOW = "counting takes longer than a minute for this drawing; ask for a plain shape of its size"


class PlainShape(StrEnum):
    """The shapes that a piece could be before there is art."""

    CIRCLE = "circle"
    SQUARE = "square"
    TALL = "tall"
    STRIP = "strip"


_RATIOS = {PlainShape.CIRCLE: 1.0, PlainShape.SQUARE: 1.0, PlainShape.TALL: 2 / 3, PlainShape.STRIP: 1 / 4}


@dataclass(frozen=True, slots=True)
class Counted:
    """A table of sizes, the size that was asked about and how many of it fit."""

    size_mm: float
    pieces: int
    rows: tuple[SizeCount, ...]


@dataclass(frozen=True, slots=True)
class Together:
    """How many whole sets go on a sheet, and the most that areas would allow."""

    sets: int
    at_most: int


class Counting:
    """Counts in a child process, one question after the other: a count keeps a core busy for seconds."""

    def __init__(self) -> None:
        self._room = ReadingRoom(most_seconds=_MOST_SECONDS, seats=1, too_slow=_TOO_SLOW)
        self._counted: Cache[Counted] = Cache(_KEPT)
        self._together: Cache[Together] = Cache(_KEPT)

    def design(self, design: Design, number: int, size_mm: float | None, quick: bool = False) -> Counted:
        """See `how_many`; a `quick` answer comes at once, from plain rows alone."""
        if quick:
            return in_plain_rows(design, number, size_mm)
        key = (design.job, number, size_mm)
        return self._counted.get(key, lambda: self._room.run(how_many, design, number, size_mm))

    def together(self, design: Design, numbers: tuple[int, ...], nester: Nester | None) -> Together:
        """Whole sets of several designs on one sheet: by plain rows without an engine, else by a short search."""
        key = (design.job, numbers, nester is None)
        return self._together.get(key, lambda: sets_of(design, numbers, nester))

    def plain(
        self, design: Design, shape: PlainShape, size_mm: float, border_mm: float, quick: bool = False
    ) -> Counted:
        """See `how_many_plain`."""
        if quick:
            return how_many_plain(design, shape, size_mm, border_mm, quick)
        key = (design.job, shape, size_mm, border_mm)
        return self._counted.get(key, lambda: self._room.run(how_many_plain, design, shape, size_mm, border_mm))


def how_many(design: Design, number: int, size_mm: float | None = None) -> Counted:
    """For one design of a job, at its own rules; `size_mm` is its inked area's longest side."""
    item = next(one for one in design.items if one.number == number)
    now = max(item.outline.size_mm)
    thinned = replace(item.outline, shape=as_multi(parts(item.outline.shape.simplify(_THIN_MM))))
    neck = design.job.stock.least_neck_mm

    def edge_at(size: float) -> MultiPolygon:
        edge = derive_edge(scaled(thinned, size / now), item.spec.edge, neck).shape
        # Few points, on the safe side: the count is asked of many sizes.
        return as_multi(parts(grow(edge, _THIN_MM, _THIN_MM / 2).simplify(_THIN_MM)))

    problem = design.problem()
    return _counted(problem, problem.by_item[number], edge_at, size_mm or now)


def in_plain_rows(design: Design, number: int, size_mm: float | None = None) -> Counted:
    """As `how_many`, from the edge as it is now, drawn larger or smaller with the same border: about right."""
    item = next(one for one in design.items if one.number == number)
    now, reach = max(item.outline.size_mm), item.spec.edge.reach_mm
    hull = grow(item.edge.shape.convex_hull, -reach)
    core = hull if not hull.is_empty else item.edge.shape.convex_hull

    def edge_at(size: float) -> MultiPolygon:
        return as_multi(parts(grow(affinity.scale(core, size / now, size / now, origin=(0, 0)), reach)))

    problem = design.problem()
    return _counted(problem, problem.by_item[number], edge_at, size_mm or now, quick=True)


def sets_of(design: Design, numbers: tuple[int, ...], nester: Nester | None) -> Together:
    """Whole sets of some of a job's designs on one bare sheet."""
    problem = design.problem()
    spec = replace(problem.spec, max_sheets=1, fill=False, mode=MIXED)
    pieces = tuple(replace(piece, quantity=1, fill_priority=None) for piece in problem.pieces if piece.item in numbers)
    one = replace(problem, pieces=pieces, spec=spec, held=(), first_live=None)
    at_most = area_bound(one.live, pieces, spec.gap_mm).pieces_at_most // len(pieces)
    sets = 0
    while sets < at_most and not in_rows(_times(one, sets + 1)).unplaced:
        sets += 1
    if nester is not None and sets < at_most:
        layout = pack(_times(one, at_most), nester, TimedWatch(_TOGETHER_S))
        laid = Counter(placement.item for sheet in layout.sheets for placement in sheet)
        sets = max(sets, min(laid[piece.item] for piece in pieces))
        # One more whole set than were laid among others is asked for by itself.
        while sets < at_most:
            more = pack(_times(one, sets + 1), nester, TimedWatch(_TOGETHER_S / 2))
            if more.unplaced:
                break
            sets += 1
    return Together(sets, at_most)


def _times(problem: PackProblem, sets: int) -> PackProblem:
    return replace(problem, pieces=tuple(replace(piece, quantity=sets) for piece in problem.pieces))


def how_many_plain(design: Design, shape: PlainShape, size_mm: float, border_mm: float, quick: bool = False) -> Counted:
    """For a plain shape of that longest side with a border round it, on the job's sheet."""

    def edge_at(size: float) -> MultiPolygon:
        return as_multi(parts(grow(_plain(shape, size), border_mm)))

    problem = PackProblem((), design.setup.live.shape, design.job.packing)
    piece = Piece(1, edge_at(size_mm), 1, Cut.KISS)
    return _counted(replace(problem, pieces=(piece,)), piece, edge_at, size_mm, quick)


def _plain(shape: PlainShape, size: float) -> MultiPolygon:
    if shape is PlainShape.CIRCLE:
        return as_multi([shapely.Point(0, 0).buffer(size / 2, quad_segs=32)])
    return as_multi([shapely.box(0, 0, size * _RATIOS[shape], size)])


def _counted(
    problem: PackProblem, piece: Piece, edge_at: Callable[[float], MultiPolygon], size_mm: float, quick: bool = False
) -> Counted:
    room = region_of(replace(problem, held=(), first_live=None), 0).room
    if room.is_empty:
        raise BadInput("nothing is left of the sheet to lay a piece on", "paper")
    turn: Turn = problem.spec.turn
    asked = HowMany(CountRequest(piece, edge_at, room, problem.spec.gap_mm, turn), size_mm, quick)
    least, most = max(_LEAST_MM, size_mm * _RANGE[0]), max(_LEAST_MM + 1, size_mm * _RANGE[1])
    rows = tuple(asked.table(least, most))
    return Counted(round(size_mm, 1), asked.count(size_mm), rows)
