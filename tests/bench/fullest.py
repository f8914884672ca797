"""The fullest sheet: more wanted than one holds, by rows, by boxes, by the raw engine and by Vamper, in one run.

The raw engine is asked for whole sets, one more each time as long as they go in, and then for one piece more; each
time it may use all cores for as long as Vamper has for all it does. Vamper is asked for one set more than the engine
laid, or for as many sets as are 5 % more. `python -m tests.bench.fullest --seconds 12 --seeds 1 2 3 --mixes 0 3`.
"""

import argparse
import math
from collections import Counter
from dataclasses import dataclass

from tests.bench import shapes
from tests.bench.packing import Case, demo_designs, designs_of, in_boxes, in_rows, most
from tests.bench.table import Row, show
from vamper.core.sheet.layout import Layout
from vamper.core.sheet.pack.nesting import Attempt, NestRequest, NestShape, NestSolution, nest_points
from vamper.core.sheet.pack.pack import pack
from vamper.core.sheet.pack.problem import PackProblem
from vamper.core.values.item import Turn
from vamper.core.values.packing import PackingSpec
from vamper.core.values.placement import Sheet
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.packing.planning import TimedWatch

SECONDS = 12.0
# An engine begins with as many sets as lie on such a share of the sheet in a moment.
_EASY_SHARE = 0.6
# So many times what the engine laid is asked of Vamper at least, or being ahead could not be seen.
_MORE = 1.05


def mixes() -> list[Case]:
    """Small and large, alike and unlike; slender, hollow, spiky and very unequal ones."""
    blobs = [shapes.blob(seed, 22 + 5.0 * (seed % 7)) for seed in range(30, 42)]
    letters = [shapes.letter(name) for name in shapes.LETTERS]
    sizes = [shapes.blob(60 + n, size) for n, size in enumerate((12, 16, 22, 34, 60, 90))]
    return [
        Case("6 designs of the club", demo_designs()),
        Case("12 irregular designs, 22 to 52 mm", designs_of(blobs)),
        Case("8 block letters", designs_of(letters)),
        Case("discs of 20 and 45 mm, stars", designs_of([shapes.disc(20), shapes.disc(45), shapes.star(21)])),
        Case("bars, L shapes and discs", designs_of([shapes.bent_bar(100, 8), shapes.ell(50, 13), shapes.disc(24)])),
        Case("4 large with 2 small", designs_of([*(shapes.blob(n, 70) for n in range(50, 54)), *blobs[:2]])),
        Case("triangles and stars", designs_of([shapes.triangle(36), shapes.star(14)])),
        Case(
            "12 names on bars with 6 letters",
            designs_of([*[shapes.bent_bar(60 + 4 * n, 9) for n in range(12)], *letters[:6]]),
        ),
        Case("slender: bars of 40 to 140 mm", designs_of([shapes.bent_bar(40 + 20 * n, 5) for n in range(6)])),
        Case(
            "hollow: rings and what goes inside", designs_of([shapes.ring(60, 8), shapes.ring(44, 6), shapes.disc(22)])
        ),
        Case("spiky: stars of 24 to 64 mm", designs_of([shapes.star(radius) for radius in (12, 18, 24, 32)])),
        Case("very unequal: 12 to 90 mm", designs_of(sizes)),
    ]


@dataclass(frozen=True)
class Full:
    """How many pieces one method laid, and their area, mm²."""

    pieces: int
    area_mm2: float


def by_engine(case: Case, nester: ProcessNester, seconds: float, seed: int) -> Full:
    """The most of the order, in whole sets or one piece more, that the engine lays with all cores."""
    many = len(case.designs)
    sets = max(1, int(_EASY_SHARE * case.live.area / sum(piece.area_mm2 for piece in case.designs)))
    while sets and not engine_lays(case, many * sets, nester, seconds, seed):
        sets -= 1
    while engine_lays(case, many * (sets + 1), nester, seconds, seed):
        sets += 1
    count = many * sets
    count += engine_lays(case, count + 1, nester, seconds, seed)
    return Full(count, sum(piece.area_mm2 * piece.quantity for piece in case.first(count)))


def engine_lays(case: Case, count: int, nester: ProcessNester, seconds: float, seed: int) -> bool:
    """Whether the engine alone lays so many in the sheet's rectangle."""
    left, top, right, bottom = case.live.bounds
    requested = tuple(NestShape(p.item, nest_points(p.edge), p.quantity, Turn.ANY) for p in case.first(count))
    request = NestRequest(requested, left, top, right - left, bottom - top, case.gap, seed)
    found = [False]

    def look(solution: NestSolution) -> bool:
        found[0] |= solution.complete
        return found[0]

    nester.race([iter([Attempt(request, seconds, look, nester.cores)])], lambda: False)
    return found[0]


def by_vamper(case: Case, wanted: int, nester: ProcessNester, seconds: float, seed: int) -> tuple[Full, float]:
    """What Vamper lays of so many, and when its last better sheet came, s."""
    watch = TimedWatch(seconds)
    better = list[tuple[tuple[Sheet, ...], float]]()

    def note(layout: Layout) -> None:
        if not better or better[-1][0] != layout.sheets:
            better.append((layout.sheets, seconds - watch.seconds_left()))

    watch.on_better = note
    problem = PackProblem(case.first(wanted), case.live, PackingSpec(gap_mm=case.gap, max_sheets=1), seed=seed)
    layout = pack(problem, nester, watch)
    laid = Counter(one.item for sheet in layout.sheets for one in sheet)
    areas = {piece.item: piece.area_mm2 for piece in case.designs}
    return Full(laid.total(), sum(areas[item] * count for item, count in laid.items())), better[-1][1]


def fullest(nester: ProcessNester, seconds: float, seeds: list[int], chosen: list[int]) -> list[Row]:
    """A row a mix and seed, and how often Vamper is never below, and 3 % ahead."""
    found, ahead, below = [], 0, 0
    for number, case in enumerate(mixes()):
        if number not in chosen:
            continue
        rows = most(lambda n, case=case: in_rows(case, n), 1)
        boxes = most(lambda n, case=case: in_boxes(case, n), rows)
        for seed in seeds:
            engine = by_engine(case, nester, seconds, seed)
            sets = max(engine.pieces // len(case.designs) + 1, math.ceil(_MORE * engine.pieces / len(case.designs)))
            wanted = sets * len(case.designs)
            ours, last = by_vamper(case, wanted, nester, seconds, seed)
            more, area = ours.pieces / engine.pieces - 1, ours.area_mm2 / engine.area_mm2 - 1
            below += ours.pieces < engine.pieces
            ahead += more >= 0.03 or (more >= 0 and area >= 0.03)
            found.append(
                Row(
                    f"{number} {case.name}, {wanted} wanted, seed {seed}: rows, boxes, engine, Vamper",
                    f"{rows}, {boxes}, {engine.pieces}, {ours.pieces}; area {area * 100:+.1f} %; last {last:.1f} s",
                    f"≥ {engine.pieces}, 3 % more, boxes + 20 %: {(ours.pieces / boxes - 1) * 100:+.0f} %",
                )
            )
            print(found[-1].what, found[-1].figure, found[-1].wanted, flush=True)
    found.append(Row("3 % ahead, below the engine", f"{ahead}, {below} of {len(found)}", "three quarters, 0"))
    return found


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--seconds", type=float, default=SECONDS)
    asked.add_argument("--seeds", type=int, nargs="+", default=[1, 2, 3])
    asked.add_argument("--mixes", type=int, nargs="+", default=list(range(len(mixes()))))
    given = asked.parse_args()
    nester = ProcessNester()
    nester.warm_up()
    show(f"The fullest sheet, {given.seconds:g} s each", fullest(nester, given.seconds, given.seeds, given.mixes))


if __name__ == "__main__":
    main()
