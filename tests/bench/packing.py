"""How full sheets get: rows of boxes, the best packing of boxes, the raw engine and Vamper, side by side in one run.

Pieces are offered in a fixed order, design after design in turn; what counts is how many of that order all lie on one
sheet, so that nobody scores by picking the small ones. Each method that searches has the same time for each number.
"""

import itertools
import time
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import rectpack
from shapely.geometry import Polygon, box

from tests.bench import shapes
from tests.bench.table import Row
from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.pack.nesting import Attempt, NestRequest, NestShape, NestSolution, nest_points
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem, strip_left
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.values.item import ItemSpec, Turn
from vamper.core.values.packing import PackingSpec
from vamper.core.values.stock import STOCK_BY_KEY
from vamper.demo.art_files import ART
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import TimedWatch

STOCK = STOCK_BY_KEY["satin-vinyl"]
LIVE = box(10.8, 10.8, 205.1, 268.6)
GAP = 2.0
SECONDS = 5.0
SIZES = {"seabird.png": 52, "lighthouse.svg": 22, "kelp.svg": 38, "rope.png": 42, "oyster.png": 34, "paddles.png": 40}
_METHODS = (
    rectpack.MaxRectsBssf,
    rectpack.MaxRectsBaf,
    rectpack.MaxRectsBlsf,
    rectpack.SkylineMwfl,
    rectpack.GuillotineBssfSas,
)
_ORDERS = (rectpack.SORT_AREA, rectpack.SORT_SSIDE, rectpack.SORT_LSIDE, rectpack.SORT_PERI)


@dataclass(frozen=True)
class Case:
    """Designs, each offered as often as wanted, on sheets of one live area."""

    name: str
    designs: tuple[Piece, ...]
    live: Polygon = LIVE
    gap: float = GAP
    aim: float = 0.10

    def first(self, count: int) -> tuple[Piece, ...]:
        """The first `count` pieces of the order."""
        counts = Counter(n % len(self.designs) for n in range(count))
        return tuple(replace(piece, quantity=counts[n]) for n, piece in enumerate(self.designs) if counts[n])


@dataclass
class Timed:
    """When each better layout came."""

    watch: TimedWatch
    first: float | None = None
    seen: list[tuple[float, int]] = field(default_factory=list)

    def better(self, layout: Layout) -> None:
        at = self.watch.seconds - self.watch.seconds_left()
        self.first = at if self.first is None else self.first
        self.seen.append((at, layout.pieces))


def demo_designs() -> tuple[Piece, ...]:
    designer = Designer()
    pieces = []
    for index, (name, width) in enumerate(SIZES.items()):
        spec = ItemSpec(number=1, art=name, width_mm=width)
        item = designer.design(spec, ArtFile.of(name, ART[name]()), STOCK)
        pieces.append(Piece(index, item.edge.shape, 1))
    return tuple(pieces)


def designs_of(edges: Sequence[object]) -> tuple[Piece, ...]:
    return tuple(Piece(n, edge, 1) for n, edge in enumerate(edges))  # type: ignore[arg-type]


def cases() -> list[Case]:
    """Two lattice cases with known answers, four of equal pieces, three of many designs."""
    blobs = [shapes.blob(seed, 26 + 2.2 * seed) for seed in range(20)]
    return [
        Case("discs of 28 mm, 172 × 243, no gap", designs_of([shapes.disc(28)]), box(0, 0, 172, 243), 0.0, 0.0),
        Case("triangles of 36 mm", designs_of([shapes.triangle(36)])),
        Case("discs of 30 mm", designs_of([shapes.disc(30)]), aim=0.0),
        Case("stars of 44 mm", designs_of([shapes.star(21)])),
        Case("L shapes of 52 mm", designs_of([shapes.ell(50, 13)])),
        Case("long thin bent bars, 120 × 8", designs_of([shapes.bent_bar(120, 8)])),
        Case("8 block letters in turn", designs_of([shapes.letter(name) for name in shapes.LETTERS])),
        Case("6 designs of the club in turn", demo_designs(), aim=0.25),
        Case("20 irregular designs in turn", designs_of(blobs), aim=0.25),
    ]


def most(fits: Callable[[int], bool], start: int) -> int:
    """The largest number from `start` on that fits, each one more tried until one does not."""
    count = max(0, start)
    while count and not fits(count):
        count -= 1
    while fits(count + 1):
        count += 1
    return count


def in_rows(case: Case, count: int) -> bool:
    rows = rows_of_boxes(case.first(count), case.live, case.gap, Turn.ANY, None)
    return len(rows) <= 1


def in_boxes(case: Case, count: int) -> bool:
    """Whether any method of `rectpack` packs the boxes, quarter turns allowed, the gap added to each."""
    return boxes_needed(case, count, 1) == 1


def boxes_needed(case: Case, count: int, at_most: int) -> int:
    """The fewest sheets over all methods, `at_most` + 1 where none does with that many."""
    left, top, right, bottom = case.live.bounds
    best = at_most + 1
    for algorithm, order in itertools.product(_METHODS, _ORDERS):
        packer = rectpack.newPacker(
            mode=rectpack.PackingMode.Offline, pack_algo=algorithm, sort_algo=order, rotation=True
        )
        for _ in range(best - 1):
            packer.add_bin(round((right - left + case.gap) * 100), round((bottom - top + case.gap) * 100))
        for piece in case.first(count):
            x0, y0, x1, y1 = piece.edge.bounds
            for _ in range(piece.quantity):
                packer.add_rect(round((x1 - x0 + case.gap) * 100), round((y1 - y0 + case.gap) * 100))
        packer.pack()
        if sum(len(sheet) for sheet in packer) == count:
            best = min(best, len(packer))
        if best == 1:
            break
    return best


def in_engine(case: Case, count: int, nester: ProcessNester, seconds: float) -> bool:
    """Whether the engine alone lays all of them in the sheet's rectangle."""
    left, top, right, bottom = case.live.bounds
    points = {piece.item: nest_points(piece.edge) for piece in case.designs}
    requested = tuple(NestShape(p.item, points[p.item], p.quantity, Turn.ANY) for p in case.first(count))
    request = NestRequest(requested, left, top, right - left, bottom - top, case.gap, 1)
    found = [False]

    def look(solution: NestSolution) -> bool:
        found[0] = solution.complete
        return found[0]

    nester.race([iter([Attempt(request, seconds, look)])], lambda: False)
    return found[0]


def in_vamper(case: Case, count: int, nester: ProcessNester, seconds: float) -> bool:
    problem = PackProblem(case.first(count), case.live, PackingSpec(gap_mm=case.gap, max_sheets=1))
    stopping = TimedWatch(seconds)

    def stop(layout: Layout) -> None:
        if layout.pieces == count:
            stopping.stopped.set()

    stopping.on_better = stop
    return pack(problem, nester, stopping).pieces == count


def side_by_side(nester: ProcessNester) -> list[Row]:
    """Pieces on one sheet by each method."""
    found = []
    for case in cases():
        rows = most(lambda n, case=case: in_rows(case, n), 1)
        boxes = most(lambda n, case=case: in_boxes(case, n), rows)
        engine = most(lambda n, case=case: in_engine(case, n, nester, SECONDS), boxes)
        ours = most(lambda n, case=case: in_vamper(case, n, nester, SECONDS), max(boxes, engine))
        area = sum(p.area_mm2 * p.quantity for p in case.first(ours))
        gain = ours / boxes - 1
        found.append(
            Row(
                f"{case.name}: rows, boxes, engine, Vamper; on boxes",
                f"{rows}, {boxes}, {engine}, {ours}; {gain * 100:+.0f} %, {area / case.live.area * 100:.0f} % used",
                f"≥ {engine}" + (f" and +{case.aim * 100:.0f} %" if case.aim else ""),
            )
        )
    return found


def over_time(nester: ProcessNester) -> list[Row]:
    """Time to a first layout, and what one, five and twenty seconds make of a mix."""
    case = next(case for case in cases() if case.name.startswith("6 designs"))
    watch = TimedWatch(5)
    timed = Timed(watch)
    watch.on_better = timed.better
    problem = PackProblem(case.first(24), case.live, PackingSpec(gap_mm=case.gap))
    layout = pack(problem, nester, watch)
    found = [
        Row("24 mixed pieces: first layout", f"{timed.first:.2f} s", "1 s"),
        Row("24 mixed pieces after 5 s", f"{layout.pieces} on {len(layout.sheets)} sheet(s)"),
    ]
    best = 0
    for seconds in (1.0, 5.0, 20.0):
        best = most(lambda n, seconds=seconds: in_vamper(case, n, nester, seconds), max(20, best))
        found.append(Row(f"{case.name}: on one sheet in {seconds:g} s", str(best)))
    return found


def growth(nester: ProcessNester) -> list[Row]:
    """From 10 to 1,000 pieces of 20 designs; sheets counted with the part of the last one used."""
    case = next(case for case in cases() if case.name.startswith("20 irregular"))
    found = []
    for count, seconds in ((10, 10.0), (30, 10.0), (100, 20.0), (300, 40.0), (1000, 80.0)):
        watch = TimedWatch(seconds)
        timed = Timed(watch)
        watch.on_better = timed.better
        started = time.perf_counter()
        problem = PackProblem(case.first(count), case.live, PackingSpec(gap_mm=case.gap))
        layout = pack(problem, nester, watch)
        took = time.perf_counter() - started
        rows = rows_of_boxes(problem.pieces, case.live, case.gap, Turn.ANY, None)
        boxes = boxes_needed(case, count, len(rows))
        found.append(
            Row(
                f"{count} pieces of 20 designs, {seconds:g} s: first layout, end, sheets",
                f"{timed.first:.2f} s, {took:.1f} s, {_parts_of_sheets(problem, layout):.2f}",
                f"rows {len(rows)}, boxes {boxes}",
            )
        )
    return found


def _parts_of_sheets(problem: PackProblem, layout: Layout) -> float:
    last = strip_left(layout.sheets[-1], problem.by_item, problem.live) / problem.live.area
    return float(np.round(len(layout.sheets) - last, 2))
