"""Kits: the fewest sheets that the pieces can be shared out over evenly, the same set on each.

One set is packed: round what is held, on each sheet that holds something, and once for all bare ones.
"""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from vamper.core.sheet.layout import Layout, Piece, Unplaced, WhyNot
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.mode import PackingMode
from vamper.core.sheet.pack.modes.mixed import mixed
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.problem import PackProblem, Watch
from vamper.core.sheet.pack.search.run import HOPELESS_FILL
from vamper.core.sheet.pack.search.search import search
from vamper.core.values.geometry import grow
from vamper.core.values.packing import MIXED
from vamper.core.values.placement import Sheet


def kits_of(quantities: Sequence[int]) -> Iterator[int]:
    """Numbers of sheets that the quantities can be shared out over, each with the same set: numbers that leave the
    least over first, and of these the few before the many.
    """
    most = min((quantity for quantity in quantities if quantity), default=0)
    yield from sorted(range(1, most + 1), key=lambda count: (sum(quantity % count for quantity in quantities), count))


def kits(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
    """The same set on each of the fewest sheets; mixed, where what is held makes sheets that no kit can be like."""
    watch.better(in_rows(problem))
    wanted = [piece for piece in problem.pieces if piece.quantity]
    room = HOPELESS_FILL * grow(problem.live, problem.spec.gap_mm / 2).area
    areas = {piece.item: grow(piece.edge, problem.spec.gap_mm / 2).area for piece in wanted}
    limit = problem.spec.max_sheets
    known = max(problem.held_sheets, problem.first_live is not None)
    clocked, possible = False, not known
    for count in kits_of([piece.quantity for piece in wanted]):
        kit = tuple(replace(piece, quantity=piece.quantity // count) for piece in wanted)
        load = sum(areas[piece.item] * piece.quantity for piece in kit)
        if load > room or (limit is not None and count > limit) or not _may_be_kits(problem, kit, count):
            continue
        possible = True
        sheets: list[Sheet] = []
        # One more than there are known ones stands for all the bare ones.
        different = min(known + 1, count)
        for number in range(different):
            shown = count if number == different - 1 else None
            share = _Kit(watch, watch.seconds_left() * 0.4, shown, tuple(sheets), problem)
            one = search(_one_kit(problem, kit, number), nester, share)
            clocked |= one.time_limited
            if one.unplaced or not one.sheets:
                break
            sheets.append(one.sheets[0])
        else:
            if sheets:
                return _repeated(problem, sheets, count, clocked)
        if watch.seconds_left() <= 0:
            break
    if not possible:
        return mixed(problem, nester, watch)
    layout = replace(in_rows(problem), time_limited=clocked)
    watch.better(layout)
    return layout


def _may_be_kits(problem: PackProblem, kit: Sequence[Piece], count: int) -> bool:
    """Whether every sheet with something on it can still become such a kit."""
    of_kit = Counter({piece.item: piece.quantity for piece in kit})
    return problem.held_sheets <= count and all(
        Counter(one.item for one in problem.held_on(sheet)) <= of_kit for sheet in range(problem.held_sheets)
    )


def _one_kit(problem: PackProblem, kit: tuple[Piece, ...], number: int) -> PackProblem:
    """A kit on one sheet, round what is held there."""
    return replace(
        problem,
        pieces=kit,
        spec=replace(problem.spec, max_sheets=1, mode=MIXED),
        first_live=problem.first_live if number == 0 else None,
        held=(problem.held_on(number),) if problem.held_on(number) else (),
    )


def _repeated(problem: PackProblem, kits: Sequence[Sheet], count: int, time_limited: bool) -> Layout:
    """Kits on `count` sheets, the last one of `kits` as often as it takes."""
    placed = Counter(one.item for one in kits[-1])
    unplaced = [
        Unplaced(piece.item, left, WhyNot.NOT_IN_KIT)
        for piece in problem.pieces
        if (left := piece.quantity - count * placed[piece.item]) > 0
    ]
    return Layout((*kits, *(kits[-1],) * (count - len(kits))), tuple(unplaced), time_limited)


@dataclass(frozen=True, slots=True)
class _Kit:
    """Shows the last kit as all sheets that are left, behind sheets that were packed before it."""

    watch: Watch
    stop_at: float
    count: int | None
    before: tuple[Sheet, ...]
    problem: PackProblem

    def seconds_left(self) -> float:
        return self.watch.seconds_left() - self.stop_at

    def more(self, seconds: float) -> bool:
        return self.watch.more(seconds)

    def lost(self, seconds: float) -> float:
        return self.watch.lost(seconds)

    def better(self, layout: Layout) -> None:
        if self.count is not None and not layout.unplaced and layout.sheets:
            self.watch.better(_repeated(self.problem, (*self.before, layout.sheets[0]), self.count, True))


KIND = PackingMode("kits", 3, "kits", "every sheet holds the same set", "in equal sets", kits, even=True)
