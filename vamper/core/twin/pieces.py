"""What each piece of a sheet is measured by: made once from the files and the plan, before any run.

The print is looked at in the pixels of the page: whether a piece's ink is there, and where its middle lies beside where
it should. The cut is looked at in the strokes of the cut file, put where the cutter's map puts them. Between both lies
the room that a miss has; see `room`.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.cutting.plan import CutLoop
from vamper.core.design import DesignedItem
from vamper.core.edge.kind import kind_of
from vamper.core.plan import Plan, cut_of
from vamper.core.printing.page import PrintPage
from vamper.core.twin.cutter import lands_on, trailed
from vamper.core.twin.devices import TwinCutter
from vamper.core.twin.printer import PrintedRaster
from vamper.core.twin.shift_margins import NO_ROOM, nearest_only, shift_margins, turned
from vamper.core.twin.strokes import CutStroke, OwnedLoop, owned
from vamper.core.values.colour import difference, lab_of, lab_of_one, rgb_of
from vamper.core.values.geometry import Points, as_multi, mirrored, parts
from vamper.core.values.pixels import filled
from vamper.core.values.placement import Placement

Floats = npt.NDArray[np.float64]

# A file that cuts within this of the plan cuts as planned; coordinates of cut files are whole fortieths of a mm.
_AS_PLANNED_MM = 0.04
# A loop that closes does so within the first of it.
_BEGINS_MM = 3.0
_SHOWS_DE = 10.0
_LOOK_INSIDE_MM = 0.3
_INKED = 0.3
# A print this near to its place lies right: the renderer lays pictures up to two of its pixels aside.
_IN_PLACE_MM = 0.35
# Of less ink than this nobody can say where its middle should be; ink so near to a piece is its own.
_PLACED_FROM, _OWN_INK_MM = 0.6, 0.7


@dataclass(frozen=True)
class PieceFacts:
    """One piece.

    Parameters
    ----------
    placement, item : int
        Its place on the sheet, and its design's number.
    bite, rim : array (n, 3)
        The room a miss has before it bites the drawing, and before it shows bare stock at the rim; see `room`.
    spare_mm : float
        What a drawing may lose because it was meant to be cut along its own rim.
    at_mm : pair of float
        Where its miss is measured: at its farthest edge point. `landed_mm` is how far off cuts land there always.
    loops : tuple of OwnedLoop
        With the strokes that cut it.
    last : float
        The share of all strokes after which it is done.
    forces : tuple of float
        The force on each loop, gf.
    area_mm2, corners : float, int
        Its area, and how many sharp corners its loops have.
    ink_there : float
        Share of its inked area that was printed; `print_off_mm` is how far that lies from where it should.
    open_mm : float
        How far the end of a loop stays from its beginning, though it was sent closed.
    """

    placement: int
    item: int
    bite: Floats
    rim: Floats
    spare_mm: float
    at_mm: tuple[float, float]
    landed_mm: tuple[float, float]
    loops: tuple[OwnedLoop, ...]
    forces: tuple[float, ...]
    last: float
    ink_there: float
    print_off_mm: tuple[float, float]
    area_mm2: float
    corners: int
    open_mm: float = 0.0

    @property
    def passes(self) -> int:
        return max((loop.passes for loop in self.loops), default=0)


@dataclass(frozen=True)
class SheetFacts:
    """A sheet as it is simulated.

    Parameters
    ----------
    pieces : tuple of PieceFacts
        What is on it.
    strokes : tuple of CutStroke
        What its file cuts.
    landed : tuple of array, shape (n, 2)
        Where each stroke lands, mm, sheet frame.
    strange : tuple of int
        Places of strokes that belong to no piece.
    edges, drawings : tuple of shapely geometry
        Each piece's edge and drawing, sheet frame.
    page : PrintPage
        Its print as it was meant.
    """

    pieces: tuple[PieceFacts, ...]
    strokes: tuple[CutStroke, ...]
    landed: tuple[Points, ...]
    strange: tuple[int, ...]
    edges: tuple[BaseGeometry, ...]
    drawings: tuple[BaseGeometry, ...]
    page: PrintPage

    @cached_property
    def owner(self) -> Mapping[int, tuple[int, int]]:
        """Whose each stroke is: the piece, and in which pass, from 0."""
        return {
            stroke: (piece.placement, number)
            for piece in self.pieces
            for loop in piece.loops
            for number, one in enumerate(loop.strokes)
            for stroke in one
        }


def facts_of(
    plan: Plan,
    sheet: int,
    printed: PrintPage,
    page: PrintedRaster | None,
    strokes: Sequence[CutStroke],
    cutter: TwinCutter,
) -> SheetFacts:
    """The facts of one sheet (from 0).

    Parameters
    ----------
    printed : PrintPage
        Its page as it is meant.
    page : Page
        Its print file with its ink as it came out, None for stock that is not printed.
    strokes : sequence of Stroke
        Its cut file.
    """
    paper = plan.job.paper
    laid = plan.sheets[sheet]
    meant = cut_of(plan, sheet)
    sent = meant if plan.job.calibration is None else meant.moved(plan.job.calibration.corrected)
    loops, strange = owned(sent, strokes)
    tips = trailed(cutter, [stroke.points for stroke in strokes])
    landed = tuple(lands_on(cutter, paper, points) for points in tips)
    edges = tuple(mirrored(edge, paper.width_mm) if plan.mirror else edge for edge in laid.edges)
    drawings = tuple(_drawing(plan, placement) for placement in laid.placements)
    rooms = {number: _design_room(plan.item(number)) for number in laid.counts}
    mine: dict[int, list[OwnedLoop]] = {}
    elsewhere, corners = set[int](), dict[int, int]()
    for loop, one in zip(loops, meant.loops, strict=True):
        mine.setdefault(loop.placement, []).append(loop)
        corners[loop.placement] = corners.get(loop.placement, 0) + one.corners
        if loop.strokes and not _is_as_planned(landed[loop.strokes[0][0]], one):
            elsewhere.add(loop.placement)
    looks = _PrintLook(page, plan.job.stock.colour) if page is not None else None
    pieces = []
    for place, placement in enumerate(laid.placements):
        item, edge, own = plan.item(placement.item), edges[place], tuple(mine.get(place, ()))
        picture = printed.pictures[place].clip
        region = _region(own, landed) if place in elsewhere else None
        points = shapely.get_coordinates(edge)
        if region is None:
            bite = turned(rooms[placement.item], placement.turn_deg, plan.mirror)
        else:
            bite = nearest_only(shift_margins(shapely.intersection(drawings[place], edge), region)[0])
        there, off = (1.0, (0.0, 0.0))
        rim = NO_ROOM
        if looks is not None:
            there, off = looks.at(_inked(printed, drawings[place], picture))
            if item.bleed.width_mm:
                rim = _rim_room(looks, region if region is not None else edge, picture)
        at = _farthest(plan, points)
        pieces.append(
            PieceFacts(
                placement=place,
                item=placement.item,
                bite=bite,
                rim=rim,
                spare_mm=0.0 if kind_of(item.spec.edge).has_border else max(item.bleed.width_mm, item.miss_mm),
                at_mm=at,
                landed_mm=_landed(cutter, plan, at),
                loops=own,
                forces=tuple(strokes[loop.strokes[0][0]].force_gf if loop.strokes else 0.0 for loop in own),
                last=(1 + max((max(one) for loop in own for one in loop.strokes), default=0)) / max(len(strokes), 1),
                ink_there=there,
                print_off_mm=off,
                area_mm2=float(edge.area),
                corners=corners.get(place, 0),
                open_mm=max(
                    (_open_mm(strokes[loop.strokes[0][0]], landed[loop.strokes[0][0]]) for loop in _whole(own)),
                    default=0.0,
                ),
            )
        )
    return SheetFacts(tuple(pieces), tuple(strokes), landed, tuple(strange), edges, drawings, printed)


def _drawing(plan: Plan, placement: Placement) -> BaseGeometry:
    shape = placement.of(plan.item(placement.item).outline.shape)
    return mirrored(shape, plan.job.paper.width_mm) if plan.mirror else shape


def _design_room(item: DesignedItem) -> Floats:
    """The room of a design in its own frame; what its edge leaves off was never to be kept."""
    kept = shapely.intersection(item.outline.shape, item.edge.shape)
    return nearest_only(shift_margins(kept, item.edge.shape)[0])


def _inked(page: PrintPage, drawing: BaseGeometry, clip: BaseGeometry) -> BaseGeometry:
    """The inked region of a piece whether it bleeds or not: its drawing and its coloured borders."""
    near = [border.shape for border in page.borders if border.shape.intersects(clip)]
    return shapely.intersection(shapely.union_all([drawing, *near]), clip)


def _region(loops: Sequence[OwnedLoop], landed: Sequence[Points]) -> BaseGeometry | None:
    """The region that the strokes of a piece cut out; None where they do not close, or are not there."""
    outer, holes = list[Polygon](), list[Polygon]()
    for loop in loops:
        if not loop.strokes or len(loop.strokes[0]) != 1:
            return None
        ring = _closed(landed[loop.strokes[0][0]])
        if ring is None:
            return None
        (holes if loop.is_hole else outer).append(ring)
    if not outer:
        return None
    shape = shapely.union_all([shapely.make_valid(ring) for ring in outer])
    for hole in holes:
        shape = shapely.difference(shape, shapely.make_valid(hole))
    return as_multi(parts(shape)) if parts(shape) else None


def _whole(loops: Sequence[OwnedLoop]) -> list[OwnedLoop]:
    """The loops that one stroke cuts all round."""
    return [loop for loop in loops if loop.strokes and len(loop.strokes[0]) == 1]


def _open_mm(sent: CutStroke, landed: Points) -> float:
    """How far the end of a stroke stays from its beginning, if it was sent closed."""

    def apart(points: Points) -> float:
        line = shapely.LineString(points)
        begin = shapely.line_interpolate_point(line, np.arange(0.0, _BEGINS_MM, _AS_PLANNED_MM))
        return float(shapely.distance(shapely.linestrings(shapely.get_coordinates(begin)), shapely.Point(points[-1])))

    if len(sent.points) < 4 or apart(sent.points) > _AS_PLANNED_MM:
        return 0.0
    return apart(landed)


def _closed(points: Points) -> Polygon | None:
    """A stroke without its overcut: up to where it comes nearest to its beginning on its second half."""
    half = len(points) // 2
    if len(points) < 4:
        return None
    away = np.hypot(*(points[half:] - points[0]).T)
    end = half + int(away.argmin())
    return Polygon(points[:end]) if end >= 3 else None


def _is_as_planned(landed: Points, loop: CutLoop) -> bool:
    """Whether a stroke goes where its loop does; a loop with tabs is cut in several strokes, which only stop short."""
    if loop.tabs is not None:
        return True
    count = len(loop.points)
    return len(landed) >= count and float(np.abs(landed[:count] - loop.points).max()) <= _AS_PLANNED_MM


def _farthest(plan: Plan, points: Points) -> tuple[float, float]:
    """The edge point at which a miss is largest."""
    budget = plan.budget
    if budget.is_even:
        place = int(np.hypot(*(points - budget.centre_mm).T).argmax())
    else:
        place = int(budget.miss_mm(points).argmax())
    return float(points[place, 0]), float(points[place, 1])


def _landed(cutter: TwinCutter, plan: Plan, at: tuple[float, float]) -> tuple[float, float]:
    asked = np.array([at])
    if plan.job.calibration is not None:
        asked = plan.job.calibration.corrected(asked)
    x, y = (lands_on(cutter, plan.job.paper, asked) - at)[0]
    return float(x), float(y)


def _rim_room(looks: "_PrintLook", cut: BaseGeometry, printed: BaseGeometry) -> Floats:
    """The room before bare stock shows, where print differs from the stock just inside the cut."""
    rows, at = shift_margins(cut, printed)
    if not len(rows):
        return NO_ROOM
    return nearest_only(rows[looks.differs(at - rows[:, 1:] * _LOOK_INSIDE_MM)])


class _PrintLook:
    """The pixels of a page, looked at piece by piece."""

    def __init__(self, page: PrintedRaster, stock_colour: str) -> None:
        self._page = page
        self._ink = page.rgba[..., 3].astype(np.float32) / 255
        self._stock = rgb_of(stock_colour)
        self._middle = np.array([page.paper.width_mm, page.paper.height_mm]) / 2
        self._drawn = np.array([1 / page.drawn_by.x, 1 / page.drawn_by.y])

    def _px(self, points: Points) -> Points:
        """From places of the plan to pixels of the page."""
        found: Points = (self._middle + (points - self._middle) * self._drawn) * self._page.px_a_mm
        return found

    def at(self, meant: BaseGeometry) -> tuple[float, tuple[float, float]]:
        """The share of what was meant to be inked that is, and how far off its middle lies, mm."""
        if meant.is_empty:
            return 1.0, (0.0, 0.0)
        grown = shapely.transform(meant, self._px)
        left, top, right, bottom = grown.bounds
        rim = round(2 * self._page.px_a_mm)
        x0, y0 = max(0, int(left) - rim), max(0, int(top) - rim)
        ink = self._ink[y0 : int(bottom) + rim, x0 : int(right) + rim]
        if not ink.size:
            return 0.0, (0.0, 0.0)
        mask = filled(shapely.transform(grown, lambda one: one - (x0, y0)), ink.shape)
        there = ink >= _INKED
        total = float(mask.sum())
        share = float((mask * there).sum()) / max(total, 1e-9)
        # Ink of neighbours lies beyond what can be this piece's own.
        wide = 2 * round(_OWN_INK_MM * self._page.px_a_mm) + 1
        own = there & (cv2.dilate((mask > 0).astype(np.uint8), np.ones((wide, wide), np.uint8)) > 0)
        if share < _PLACED_FROM:
            return share, (0.0, 0.0)
        off = (_middle_of(own.astype(np.float64)) - _middle_of(mask.astype(np.float64))) / self._page.px_a_mm
        x, y = off.tolist() if float(np.hypot(*off)) > _IN_PLACE_MM else (0.0, 0.0)
        return min(1.0, share), (x, y)

    def differs(self, points: Points) -> npt.NDArray[np.bool_]:
        """Whether print differs from the stock at places (n, 2) of the plan."""
        px = np.floor(self._px(points)).astype(int)
        rows = np.clip(px[:, 1], 0, self._ink.shape[0] - 1)
        columns = np.clip(px[:, 0], 0, self._ink.shape[1] - 1)
        share = self._ink[rows, columns, None]
        over = self._page.rgba[rows, columns, :3] * share + np.array(self._stock) * (1 - share)
        apart = difference(lab_of(np.round(over).astype(np.uint8)), lab_of_one(self._stock))
        return np.asarray(apart > _SHOWS_DE)


def _middle_of(mask: Floats) -> Floats:
    total = mask.sum()
    x = (mask.sum(axis=0) * (np.arange(mask.shape[1]) + 0.5)).sum() / total
    y = (mask.sum(axis=1) * (np.arange(mask.shape[0]) + 0.5)).sum() / total
    return np.array([x, y])
