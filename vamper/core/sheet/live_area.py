"""The live area: what the printer can print, the cutter can reach and the marks leave free, all at once.

Each of these is a `Bound`: a region with its reason. The live area is their common part, and a layout inside it is
always accepted later, because nothing else bounds it.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import shapely
from shapely.geometry import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from vamper.core.sheet.offcut import largest_offcut
from vamper.core.values.accepted_size import AcceptedSize, PaperSide, SizeBounds
from vamper.core.values.cutter import Cutter, Feed
from vamper.core.values.findings import BadInput
from vamper.core.values.geometry import as_multi, clockwise_on_screen, mirrored, parts
from vamper.core.values.lengths import bare_mm, mm, size_mm
from vamper.core.values.paper import Paper
from vamper.core.values.printer import Printer
from vamper.core.values.program import CAUTIOUS_MM, PICTURE_PPI
from vamper.core.values.units import MM_PER_INCH

LEAST_SIDE_MM = 5.0
# Half the width of what joins the parts of a used sheet.
_THREAD_MM = 0.005


@dataclass(frozen=True, slots=True)
class Bound:
    """One limit of the sheet: `region` is what it leaves usable, mm in the sheet frame."""

    name: str
    reason: str
    region: Polygon | MultiPolygon


@dataclass(frozen=True, slots=True)
class LiveArea:
    """One ring, and what bounds it; a part-used sheet may have a hole in it."""

    shape: Polygon
    bounds: tuple[Bound, ...]

    @property
    def area_mm2(self) -> float:
        return float(self.shape.area)

    @property
    def size_mm(self) -> tuple[float, float]:
        left, top, right, bottom = self.shape.bounds
        return right - left, bottom - top

    @property
    def room_mm(self) -> tuple[float, float]:
        """Width and height of the largest upright rectangle in it."""
        largest = largest_offcut(self.shape, (), 0.0)
        return largest.width_mm, largest.height_mm

    def turned_over(self, paper: Paper) -> "LiveArea":
        """The same area as seen from behind the sheet."""
        width = paper.width_mm
        bounds = tuple(replace(bound, region=mirrored(bound.region, width)) for bound in self.bounds)
        return LiveArea(clockwise_on_screen(mirrored(self.shape, width)), bounds)


def _region(left: float, top: float, right: float, bottom: float) -> Polygon:
    """A rectangle, empty where the sides cross."""
    return shapely.box(left, top, right, bottom) if right > left and bottom > top else Polygon()


def printer_bound(paper: Paper, printer: Printer) -> Bound:
    m = printer.margins_mm
    return Bound(
        "printer",
        f"the printer leaves {mm(m.top)} blank at the top, {bare_mm(m.right)} at the right, "
        f"{bare_mm(m.bottom)} at the bottom and {bare_mm(m.left)} at the left",
        _region(m.left, m.top, paper.width_mm - m.right, paper.height_mm - m.bottom),
    )


def cutter_bounds(paper: Paper, cutter: Cutter) -> list[Bound]:
    """The bounds that the cutter sets, a bound for each of its limits; none where there is no machine."""
    if not cutter.is_machine:
        return []
    width, height = min(cutter.reach_mm.width, paper.width_mm), min(cutter.reach_mm.height, paper.height_mm)
    found = [
        Bound(
            "cutter",
            f"the blade reaches {size_mm(cutter.reach_mm.width, cutter.reach_mm.height)} from the sheet's top left",
            _region(0, 0, width, height),
        )
    ]
    if cutter.feed is Feed.ROLLER and (cutter.head_mm or cutter.tail_mm):
        found.append(
            Bound(
                "rollers",
                f"the rollers hold {mm(cutter.head_mm)} at the head and {mm(cutter.tail_mm)} at the tail",
                _region(0, cutter.head_mm, paper.width_mm, paper.height_mm - cutter.tail_mm),
            )
        )
    if cutter.feed is Feed.MAT and cutter.mat_mm is not None:
        found.append(
            Bound(
                "mat",
                f"the mat holds {size_mm(cutter.mat_mm.width, cutter.mat_mm.height)} from the sheet's top left",
                _region(0, 0, min(cutter.mat_mm.width, paper.width_mm), min(cutter.mat_mm.height, paper.height_mm)),
            )
        )
    return found


def accepted_bound(paper: Paper, cutter: Cutter, others: Sequence[Bound]) -> Bound | None:
    """The rectangle that the machine's own program takes, in the middle of the area that the `others` leave: whole
    pixels of its picture. Before anything was tried it is a cautious guess where the program leads the cut. None where
    nothing says anything, or nothing is left.
    """
    known = cutter.granted_of(paper)
    common = common_part(paper, others)
    if common.is_empty or (known is None and not cutter.has_own_program):
        return None
    known = known or AcceptedSize(paper.width_mm, paper.height_mm)
    left, top, right, bottom = common.bounds
    width, height = (
        _whole_pixels(_most_taken(known.of(side), room, cutter.has_own_program))
        for side, room in ((PaperSide.WIDTH, right - left), (PaperSide.HEIGHT, bottom - top))
    )
    x, y = (left + right - width) / 2, (top + bottom - height) / 2
    taken = known.width.taken is not None and known.height.taken is not None
    may = "took" if taken else "may take" if cutter.granted_of(paper) is not None else "is guessed to take"
    return Bound(
        "granted",
        f"the machine's own program {may} {size_mm(width, height, 1)} of this paper",
        _region(x, y, x + width, y + height),
    )


def _most_taken(known: SizeBounds, room_mm: float, cautious: bool) -> float:
    if cautious and known.taken is None and known.refused is None:
        return max(room_mm - 2 * CAUTIOUS_MM, 0.0)
    return known.most(room_mm)


def _whole_pixels(side_mm: float) -> float:
    """The largest side of whole pixels within a side, so that a picture is never larger than what was taken."""
    return math.floor(side_mm * PICTURE_PPI / MM_PER_INCH + 1e-6) * MM_PER_INCH / PICTURE_PPI


def spent_bound(paper: Paper) -> Bound | None:
    """The part of a used sheet that is still there, None for a whole sheet."""
    if not paper.is_used:
        return None
    reasons, gone = list[str](), list[BaseGeometry]()
    if (spent := paper.spent) is not None:
        right, bottom = spent.left_mm + spent.width_mm, spent.top_mm + spent.height_mm
        gone.append(shapely.box(spent.left_mm, spent.top_mm, right, bottom))
        reasons.append(
            f"{size_mm(spent.width_mm, spent.height_mm)} of the first sheet are used already, from "
            f"{mm(spent.left_mm)} right and {mm(spent.top_mm)} down"
        )
    if paper.gone:
        shapes = shapely.union_all([shapely.make_valid(Polygon(ring)) for ring in paper.gone_rings])
        gone.append(shapes.buffer(paper.margin_mm, quad_segs=4))
        kept = f", with {mm(paper.margin_mm)} kept free round them" if paper.margin_mm else ""
        reasons.append(f"{len(paper.gone)} parts of the first sheet are used already{kept}")
    region = shapely.difference(_region(0, 0, paper.width_mm, paper.height_mm), shapely.union_all(gone))
    return Bound("spent", "; ".join(reasons), as_multi(parts(region)))


def common_part(paper: Paper, bounds: Sequence[Bound]) -> BaseGeometry:
    """The part of the paper that all bounds leave, possibly empty."""
    shape: BaseGeometry = _region(0, 0, paper.width_mm, paper.height_mm)
    for bound in bounds:
        shape = shapely.intersection(shape, bound.region)
    return shape


def live_area(paper: Paper, bounds: Sequence[Bound]) -> LiveArea:
    """The live area: the part of the paper that all bounds leave.

    Raises
    ------
    BadInput
        If less than `LEAST_SIDE_MM` is left in width or height; names the bounds that take it away.
    """
    shape = common_part(paper, bounds)
    left, top, right, bottom = shape.bounds if not shape.is_empty else (0.0, 0.0, 0.0, 0.0)
    if min(right - left, bottom - top) < LEAST_SIDE_MM:
        reasons = "; ".join(bound.reason for bound in bounds)
        raise BadInput(
            f"nothing is left of the {size_mm(paper.width_mm, paper.height_mm)} sheet to print and cut on: {reasons}. "
            "Take a larger sheet or smaller marks",
            "paper",
        )
    return LiveArea(clockwise_on_screen(_joined(parts(shape), paper)), tuple(bounds))


def _joined(found: Sequence[Polygon], paper: Paper) -> Polygon:
    """The parts of a sheet as one ring: what is used up may leave several, and threads too thin for any piece join the
    parts that are worth working on. Parts too small to hold anything are left out.
    """
    left = [part for part in found if min(_sides(part)) >= LEAST_SIDE_MM]
    whole = max(left or found, key=lambda part: part.area)
    for part in sorted(left, key=lambda one: -one.area):
        if part is whole or whole.contains(part):
            continue
        thread = shapely.shortest_line(whole, part)
        longer = shapely.clip_by_rect(thread.buffer(_THREAD_MM, cap_style="square"), 0, 0, *_size(paper))
        whole = max(parts(shapely.union_all([whole, part, longer])), key=lambda one: one.area)
    return whole


def _size(paper: Paper) -> tuple[float, float]:
    return paper.width_mm, paper.height_mm


def _sides(part: Polygon) -> tuple[float, float]:
    left, top, right, bottom = part.bounds
    return right - left, bottom - top
