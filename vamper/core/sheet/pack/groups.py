"""Groups of pieces that never share a sheet: designs that are kept apart, or colours of stock.

Each group is packed on sheets of its own, in its share of the time; they are shown together, with plain rows for those
still to come.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import chain

from vamper.core.sheet.layout import Layout, Piece, Unplaced, WhyNot
from vamper.core.sheet.pack.area_bound import AreaBound, area_bound, grown_areas
from vamper.core.sheet.pack.in_rows import in_rows
from vamper.core.sheet.pack.mode import MODES
from vamper.core.sheet.pack.nesting import Nester
from vamper.core.sheet.pack.problem import PackProblem, Watch
from vamper.core.sheet.pack.rows import rows_of_boxes
from vamper.core.sheet.pack.sheet_region import region_of
from vamper.core.values.placement import Sheet


def groups_of(problem: PackProblem) -> list[tuple[Piece, ...]]:
    """Pieces that may share sheets, in the order of their first one."""
    apart = MODES[problem.spec.mode].apart
    groups: dict[object, list[Piece]] = {}
    for piece in problem.pieces:
        if piece.quantity or (problem.spec.fill and piece.fill_priority is not None):
            groups.setdefault(piece.item if apart else piece.sheet_colour, []).append(piece)
    return [tuple(group) for group in groups.values()]


def packed_apart(problem: PackProblem, groups: Sequence[tuple[Piece, ...]], nester: Nester, watch: Watch) -> Layout:
    """Group after group, each on sheets of its own; shown together, with plain rows for those still to come."""
    owner = _owners(problem, groups)
    done: list[Layout] = []
    waiting = [_sub_problem(problem, group, number, owner) for number, group in enumerate(groups)]
    for number, sub in enumerate(waiting):
        limit = problem.spec.max_sheets
        used = sum(len(layout.sheets) for layout in done)
        if limit is not None and used >= limit and not sub.held:
            done.append(_nothing(sub))
            continue
        if limit is not None:
            sub = replace(sub, spec=replace(sub.spec, max_sheets=max(limit - used, sub.held_sheets)))
        share = _Share(
            watch, watch.seconds_left() * (1 - 1 / (len(groups) - number)), done, waiting[number + 1 :], owner
        )
        done.append(MODES[sub.spec.mode].pack(sub, nester, share))
    merged = _merged(done, owner)
    watch.better(merged)
    return merged


def _owners(problem: PackProblem, groups: Sequence[tuple[Piece, ...]]) -> list[int]:
    """The group that each sheet with held pieces belongs to: the group of most of them; the first sheet has a group in
    any case.
    """
    of_item = {piece.item: number for number, group in enumerate(groups) for piece in group}
    owners = []
    for sheet in range(max(problem.held_sheets, problem.first_live is not None)):
        counts = Counter(of_item[one.item] for one in problem.held_on(sheet) if one.item in of_item)
        owners.append(counts.most_common(1)[0][0] if counts else 0)
    return owners


def _sub_problem(problem: PackProblem, group: tuple[Piece, ...], number: int, owner: Sequence[int]) -> PackProblem:
    """One group's own problem: its pieces, and whatever is held on the sheets that are its own."""
    own = [sheet for sheet, who in enumerate(owner) if who == number]
    held = tuple(problem.held_on(sheet) for sheet in own)
    mine = {piece.item for piece in group}
    here = Counter(one.item for sheet in held for one in sheet)
    elsewhere = Counter({item: n - here[item] for item, n in problem.held_counts.items() if item in mine})
    guests = {item: count for item, count in here.items() if item not in mine}
    pieces = [replace(piece, quantity=max(0, piece.quantity - elsewhere[piece.item])) for piece in group]
    pieces += [replace(problem.by_item[item], quantity=count, fill_priority=None) for item, count in guests.items()]
    return replace(
        problem,
        pieces=tuple(pieces),
        held=held if any(held) else (),
        first_live=problem.first_live if own and own[0] == 0 else None,
    )


def _nothing(problem: PackProblem) -> Layout:
    return Layout(
        (),
        tuple(Unplaced(piece.item, piece.quantity, WhyNot.NO_ROOM) for piece in problem.pieces if piece.quantity),
        time_limited=False,
    )


def _merged(layouts: Sequence[Layout], owner: Sequence[int]) -> Layout:
    """All groups' sheets: sheets with held pieces at their own numbers, the others after them in the groups' order."""
    queues = [list(layout.sheets) for layout in layouts]
    sheets = [queues[who].pop(0) if who < len(queues) and queues[who] else () for who in owner]
    sheets += chain.from_iterable(queues)
    unplaced: Counter[tuple[int, WhyNot]] = Counter()
    for layout in layouts:
        unplaced.update({(one.item, one.reason): one.quantity for one in layout.unplaced})
    return Layout(
        tuple(sheet for sheet in sheets if sheet),
        tuple(Unplaced(item, count, reason) for (item, reason), count in sorted(unplaced.items())),
        any(layout.time_limited for layout in layouts),
    )


@dataclass(frozen=True, slots=True)
class _Share:
    """The part of the time that a group has; shows its layouts among the layouts of the other groups."""

    watch: Watch
    stop_at: float
    done: list[Layout]
    waiting: list[PackProblem]
    owner: list[int]

    def seconds_left(self) -> float:
        return self.watch.seconds_left() - self.stop_at

    def more(self, seconds: float) -> bool:
        return self.watch.more(seconds)

    def lost(self, seconds: float) -> float:
        return self.watch.lost(seconds)

    def better(self, layout: Layout) -> None:
        rest = [in_rows(sub) for sub in self.waiting]
        self.watch.better(_merged([*self.done, layout, *rest], self.owner))


def bound_of(problem: PackProblem) -> AreaBound:
    """The bound that areas set; groups that never share a sheet each need sheets of their own."""
    gap = problem.spec.gap_mm
    grown = grown_areas(problem.pieces, gap)
    whole = area_bound(problem.live, problem.pieces, gap, grown)
    groups = groups_of(problem)
    return replace(
        whole, sheets_at_least=sum(area_bound(problem.live, group, gap, grown).sheets_at_least for group in groups)
    )


def plain_rows(problem: PackProblem) -> tuple[Sheet, ...]:
    """The layout that a maker would make with a ruler: rows of boxes on bare sheets, as many as it takes. For
    comparing.
    """
    empty = region_of(replace(problem, held=(), first_live=None), 0)
    if empty.room.is_empty:
        return ()
    spec = problem.spec
    return tuple(
        sheet
        for group in groups_of(problem)
        for sheet in rows_of_boxes(group, empty.room, spec.gap_mm, spec.turn, None)
    )
