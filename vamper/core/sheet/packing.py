"""Packing a job's pieces onto sheets, in the mode that the maker wants.

`mixed` is one search over all pieces (see `search`). `one-per-sheet` searches design by design, each on sheets of its
own; pieces that belong on sheets of different colours are kept apart in the same way, whatever the mode. `kits` finds
the fewest sheets that the pieces can be shared out over evenly, and packs one set: round what is held, on each sheet
that holds something, and once for all bare ones. `tidy` lays straight rows for a guillotine. In every mode pieces that
are held stay where they are, and with `fill` what space is left takes extra copies of what was marked for it, most
wanted first.
"""

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import chain

from vamper.core.geometry import grow
from vamper.core.job import MOST_PIECES, PackingMode
from vamper.core.sheet.bound import AreaBound, area_bound
from vamper.core.sheet.ground import ground_of, space_on
from vamper.core.sheet.layout import Layout, Piece, Placement, Unplaced, WhyNot
from vamper.core.sheet.nesting import Nester
from vamper.core.sheet.problem import PackProblem, Sheet, Watch, fits_alone
from vamper.core.sheet.rows import rows_of_boxes
from vamper.core.sheet.search import HOPELESS_FILL, Search

__all__ = [
    "FILLING_SECONDS",
    "PackProblem",
    "Watch",
    "bound_of",
    "fits_alone",
    "in_rows",
    "kits_of",
    "pack",
    "plain_rows",
]

# What is kept of the time for extra copies.
FILLING_SECONDS = 2.0


def pack(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
    """The best layout found; `watch` has seen it and every lesser one before it.

    See Also
    --------
    vamper.core.sheet.search : the search for the fewest sheets.
    vamper.core.sheet.nesting : what the engine is asked.
    """
    filling = problem.filling
    seen = _Filling(watch, min(FILLING_SECONDS, 0.4 * watch.seconds_left())) if filling else watch
    groups = _groups(problem)
    grouped = len(groups) > 1
    layout = _grouped(problem, groups, nester, seen) if grouped else _MODES[problem.spec.mode](problem, nester, seen)
    if not filling:
        return layout
    full = filled(problem, layout, lambda: watch.seconds_left() <= 0)
    watch.better(full)
    return full


@dataclass(frozen=True, slots=True)
class _Filling:
    """Passes layouts on that are still to be filled: the search may not take the last of the time for itself."""

    watch: Watch
    reserved: float

    def seconds_left(self) -> float:
        return max(0.0, self.watch.seconds_left() - self.reserved)

    def better(self, layout: Layout) -> None:
        self.watch.better(layout)


def _mixed(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
    return Search(problem, nester, watch).run()


# Groups that never share a sheet


def _groups(problem: PackProblem) -> list[tuple[Piece, ...]]:
    """Pieces that may share sheets, in the order of their first one."""
    apart = problem.spec.mode is PackingMode.ONE_PER_SHEET
    groups: dict[object, list[Piece]] = {}
    for piece in problem.pieces:
        if piece.quantity or (problem.spec.fill and piece.wish is not None):
            groups.setdefault(piece.item if apart else piece.sheet_colour, []).append(piece)
    return [tuple(group) for group in groups.values()]


def _grouped(problem: PackProblem, groups: Sequence[tuple[Piece, ...]], nester: Nester, watch: Watch) -> Layout:
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
        done.append(_MODES[sub.spec.mode](sub, nester, share))
    merged = _merged(done, owner)
    watch.better(merged)
    return merged


def _owners(problem: PackProblem, groups: Sequence[tuple[Piece, ...]]) -> list[int]:
    """Which group each sheet with held pieces belongs to: that of most of them; the first sheet has one in any case."""
    of_item = {piece.item: number for number, group in enumerate(groups) for piece in group}
    owners = []
    for sheet in range(max(problem.held_sheets, problem.first_live is not None)):
        counts = Counter(of_item[one.item] for one in problem.held_on(sheet) if one.item in of_item)
        owners.append(counts.most_common(1)[0][0] if counts else 0)
    return owners


def _sub_problem(problem: PackProblem, group: tuple[Piece, ...], number: int, owner: Sequence[int]) -> PackProblem:
    """One group's own problem: its pieces, and whatever is held on the sheets that are its own."""
    own = [sheet for sheet, who in enumerate(owner) if who == number]
    held = tuple(replace(one, sheet=own.index(one.sheet)) for one in problem.held if one.sheet in own)
    mine = {piece.item for piece in group}
    elsewhere = Counter(one.item for one in problem.held if one.item in mine and one.sheet not in own)
    guests = Counter(one.item for one in held if one.item not in mine)
    pieces = [replace(piece, quantity=max(0, piece.quantity - elsewhere[piece.item])) for piece in group]
    pieces += [replace(problem.by_item[item], quantity=count, wish=None) for item, count in guests.items()]
    return replace(
        problem,
        pieces=tuple(pieces),
        held=held,
        first_live=problem.first_live if own and own[0] == 0 else None,
    )


def _nothing(problem: PackProblem) -> Layout:
    return Layout(
        (),
        tuple(Unplaced(piece.item, piece.quantity, WhyNot.NO_ROOM) for piece in problem.pieces if piece.quantity),
        time_limited=False,
    )


def _merged(layouts: Sequence[Layout], owner: Sequence[int]) -> Layout:
    """All groups' sheets: those with held pieces at their own numbers, the others after them in the groups' order."""
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
    """One group's part of the time; shows its layouts among those of the other groups."""

    watch: Watch
    stop_at: float
    done: list[Layout]
    waiting: list[PackProblem]
    owner: list[int]

    def seconds_left(self) -> float:
        return self.watch.seconds_left() - self.stop_at

    def better(self, layout: Layout) -> None:
        rest = [in_rows(sub) for sub in self.waiting]
        self.watch.better(_merged([*self.done, layout, *rest], self.owner))


# Rows


def _tidy(problem: PackProblem, _nester: Nester, watch: Watch) -> Layout:
    """Straight rows; whether lower or narrower rows hold more is tried out."""
    layout = max((in_rows(problem, upright) for upright in (False, True)), key=problem.rank)
    watch.better(layout)
    return layout


def in_rows(problem: PackProblem, as_they_are: bool = False) -> Layout:
    """Held pieces, and everything else in rows: in the largest free rectangle of sheets that are not empty."""
    spec, limit = problem.spec, problem.spec.max_sheets
    held = Counter(one.item for one in problem.held)
    fitting = {p.item for p in problem.pieces if fits_alone(p, problem.live, spec.turn) or held[p.item]}
    remaining = Counter({p.item: max(0, p.quantity - held[p.item]) for p in problem.pieces if p.item in fitting})
    sheets: list[Sheet] = []
    empty = ground_of(replace(problem, held=(), first_live=None), 0)
    known = max(problem.held_sheets, problem.first_live is not None)
    while len(sheets) < known or (remaining.total() and (limit is None or len(sheets) < limit)):
        is_known = len(sheets) < known
        ground = ground_of(problem, len(sheets)) if is_known else empty
        pieces = [replace(problem.by_item[item], quantity=count) for item, count in (+remaining).items()]
        room_for = 1 if is_known else None if limit is None else limit - len(sheets)
        rows: tuple[Sheet, ...] = ()
        if pieces and not ground.room.is_empty:
            rows = rows_of_boxes(pieces, ground.room, spec.gap_mm, spec.turn, room_for, as_they_are)
        sheets += [(*ground.held, *sheet) for sheet in rows] or ([ground.held] if is_known else [])
        remaining = remaining - Counter(one.item for sheet in rows for one in sheet)
        if not rows and not is_known:
            break
    placed = Counter(one.item for sheet in sheets for one in sheet)
    unplaced = [
        Unplaced(p.item, p.quantity - placed[p.item], WhyNot.NO_ROOM if p.item in fitting else WhyNot.TOO_BIG)
        for p in problem.pieces
        if placed[p.item] < p.quantity
    ]
    return Layout(tuple(sheet for sheet in sheets if sheet), tuple(unplaced), time_limited=False)


def plain_rows(problem: PackProblem) -> tuple[Sheet, ...]:
    """What a maker would lay with a ruler: rows of boxes on bare sheets, as many as it takes. For comparing."""
    empty = ground_of(replace(problem, held=(), first_live=None), 0)
    if empty.room.is_empty:
        return ()
    spec = problem.spec
    return tuple(
        sheet for group in _groups(problem) for sheet in rows_of_boxes(group, empty.room, spec.gap_mm, spec.turn, None)
    )


def bound_of(problem: PackProblem) -> AreaBound:
    """What areas allow at best; groups that never share a sheet each need sheets of their own."""
    gap = problem.spec.gap_mm
    whole = area_bound(problem.live, problem.pieces, gap)
    return replace(
        whole,
        sheets_at_least=sum(area_bound(problem.live, group, gap).sheets_at_least for group in _groups(problem)),
    )


# Kits


def kits_of(quantities: Sequence[int]) -> Iterator[int]:
    """Numbers of sheets that the quantities can be shared out over, each with the same set: those that leave the
    least over first, and of these the few before the many.
    """
    most = min((quantity for quantity in quantities if quantity), default=0)
    yield from sorted(range(1, most + 1), key=lambda count: (sum(quantity % count for quantity in quantities), count))


def _kits(problem: PackProblem, nester: Nester, watch: Watch) -> Layout:
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
            one = Search(_one_kit(problem, kit, number), nester, share).run()
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
        return _mixed(problem, nester, watch)
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
        spec=replace(problem.spec, max_sheets=1, mode=PackingMode.MIXED),
        first_live=problem.first_live if number == 0 else None,
        held=tuple(replace(one, sheet=0) for one in problem.held if one.sheet == number),
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
    """Shows the last kit as all of those that are left, behind those that were packed before it."""

    watch: Watch
    stop_at: float
    count: int | None
    before: tuple[Sheet, ...]
    problem: PackProblem

    def seconds_left(self) -> float:
        return self.watch.seconds_left() - self.stop_at

    def better(self, layout: Layout) -> None:
        if self.count is not None and not layout.unplaced and layout.sheets:
            self.watch.better(_repeated(self.problem, (*self.before, layout.sheets[0]), self.count, True))


_MODES: dict[PackingMode, Callable[[PackProblem, Nester, Watch], Layout]] = {
    PackingMode.MIXED: _mixed,
    PackingMode.ONE_PER_SHEET: _mixed,
    PackingMode.KITS: _kits,
    PackingMode.TIDY: _tidy,
}


# Extra copies


def filled(problem: PackProblem, layout: Layout, given_up: Callable[[], bool]) -> Layout:
    """The layout with extra copies of what more is fine of, most wanted first, in the space that is left.

    In `one-per-sheet` a sheet takes more of its own design only, and colours stay apart; where nothing is wanted at
    all, the first sheet is filled.
    """
    wishes = sorted((p for p in problem.pieces if p.wish is not None), key=lambda p: (p.wish, p.item))
    sheets = list(layout.sheets) or [()]
    room = MOST_PIECES - layout.pieces
    by_item = problem.by_item
    filled_sheets: dict[Sheet, Sheet] = {}
    for number, sheet in enumerate(sheets):
        # Kits, and rows of equal sheets, are filled once.
        if sheet in filled_sheets and number:
            sheets[number] = filled_sheets[sheet]
            continue
        ground = replace(ground_of(problem, number), held=())
        space = space_on(problem, ground, sheet)
        added: list[Placement] = []
        for piece in wishes:
            if sheet and not _may_join(problem, piece, [by_item[one.item] for one in sheet]):
                continue
            while len(added) < room and not given_up() and (placement := space.put(piece)):
                added.append(placement)
        filled_sheets[sheet] = sheets[number] = (*sheet, *added)
        room -= len(added)
    return replace(
        layout,
        sheets=tuple(sheet for sheet in sheets if sheet),
        time_limited=layout.time_limited or given_up(),
    )


def _may_join(problem: PackProblem, piece: Piece, there: Sequence[Piece]) -> bool:
    if problem.spec.mode is PackingMode.ONE_PER_SHEET:
        return any(other.item == piece.item for other in there)
    return all(other.sheet_colour == piece.sheet_colour for other in there)
