"""“How many fit?” for a design, or for a plain shape before there is any art."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum

import shapely
from shapely.geometry import MultiPolygon

from vamper.core.art.outline import scaled
from vamper.core.edge.edge import derive_edge
from vamper.core.findings import BadInput
from vamper.core.geometry import as_multi, grow, parts
from vamper.core.job import Cut, Turn
from vamper.core.plan import effective_packing, pack_problem
from vamper.core.sheet.ground import ground_of
from vamper.core.sheet.how_many import HowMany, Question, SizeCount
from vamper.core.sheet.layout import Piece
from vamper.core.sheet.problem import PackProblem
from vamper.services.cache import Cache
from vamper.services.planning import Design
from vamper.services.reading_room import ReadingRoom

_RANGE = (0.7, 1.35)
_LEAST_MM = 8.0
_THIN_MM = 0.05
_KEPT = 50
_MOST_SECONDS = 60.0
_TOO_SLOW = "counting takes longer than a minute for this drawing; ask for a plain shape of its size"


class PlainShape(StrEnum):
    """What a piece could be before there is art."""

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


class Counting:
    """Counts in a child process, one question after the other: a count keeps a core busy for seconds."""

    def __init__(self) -> None:
        self._room = ReadingRoom(most_seconds=_MOST_SECONDS, seats=1, too_slow=_TOO_SLOW)
        self._counted: Cache[Counted] = Cache(_KEPT)

    def design(self, design: Design, number: int, size_mm: float | None) -> Counted:
        """See `how_many`."""
        key = (design.job, number, size_mm)
        return self._counted.get(key, lambda: self._room.run(how_many, design, number, size_mm))

    def plain(self, design: Design, shape: PlainShape, size_mm: float, border_mm: float) -> Counted:
        """See `how_many_plain`."""
        key = (design.job, shape, size_mm, border_mm)
        return self._counted.get(key, lambda: self._room.run(how_many_plain, design, shape, size_mm, border_mm))


def how_many(design: Design, number: int, size_mm: float | None = None) -> Counted:
    """For one design of a job (by its place), at its own rules; `size_mm` is its inked area's longest side."""
    item = design.items[number]
    now = max(item.outline.size_mm)
    thinned = replace(item.outline, shape=as_multi(parts(item.outline.shape.simplify(_THIN_MM))))
    neck = design.job.stock.least_neck_mm

    def edge_at(size: float) -> MultiPolygon:
        edge = derive_edge(scaled(thinned, size / now), item.spec.edge, neck).shape
        # Few points, on the safe side: the count is asked of many sizes.
        return as_multi(parts(grow(edge, _THIN_MM, _THIN_MM / 2).simplify(_THIN_MM)))

    problem = pack_problem(design.job, design.setup, design.items)
    return _counted(problem, problem.by_item[item.index], edge_at, size_mm or now)


def how_many_plain(design: Design, shape: PlainShape, size_mm: float, border_mm: float) -> Counted:
    """For a plain shape of that longest side with a border round it, on the job's sheet."""

    def edge_at(size: float) -> MultiPolygon:
        return as_multi(parts(grow(_plain(shape, size), border_mm)))

    problem = PackProblem((), design.setup.live.shape, effective_packing(design.job))
    piece = Piece(0, edge_at(size_mm), 1, Cut.KISS)
    return _counted(replace(problem, pieces=(piece,)), piece, edge_at, size_mm)


def _plain(shape: PlainShape, size: float) -> MultiPolygon:
    if shape is PlainShape.CIRCLE:
        return as_multi([shapely.Point(0, 0).buffer(size / 2, quad_segs=32)])
    return as_multi([shapely.box(0, 0, size * _RATIOS[shape], size)])


def _counted(problem: PackProblem, piece: Piece, edge_at: Callable[[float], MultiPolygon], size_mm: float) -> Counted:
    room = ground_of(replace(problem, held=(), first_live=None), 0).room
    if room.is_empty:
        raise BadInput("nothing is left of the sheet to lay a piece on", "paper")
    turn: Turn = problem.spec.turn
    asked = HowMany(Question(piece, edge_at, room, problem.spec.gap_mm, turn), size_mm)
    least, most = max(_LEAST_MM, size_mm * _RANGE[0]), max(_LEAST_MM + 1, size_mm * _RANGE[1])
    rows = tuple(asked.table(least, most))
    return Counted(round(size_mm, 1), asked.count(size_mm), rows)
