"""Extra copies of what more is fine of, in the space that a layout leaves."""

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from vamper.core.sheet.lay.free_space import FreeSpace
from vamper.core.sheet.layout import Layout, Piece
from vamper.core.sheet.pack.mode import MODES
from vamper.core.sheet.pack.problem import PackProblem, Watch
from vamper.core.sheet.pack.sheet_region import region_of, space_on
from vamper.core.values.item import MOST_PIECES
from vamper.core.values.placement import Placement, Sheet

# What is kept of the time for extra copies.
FILLING_SECONDS = 2.0


@dataclass(frozen=True, slots=True)
class ToBeFilled:
    """Passes layouts on that are still to be filled: the search may not take the last of the time for itself."""

    watch: Watch
    reserved: float

    def seconds_left(self) -> float:
        return max(0.0, self.watch.seconds_left() - self.reserved)

    def more(self, seconds: float) -> bool:
        return self.watch.more(seconds)

    def lost(self, seconds: float) -> float:
        return self.watch.lost(seconds)

    def better(self, layout: Layout) -> None:
        self.watch.better(layout)


@dataclass
class _Ground:
    """Equal sheets, filled once for all of them: how many they are, what lies there, and what goes in besides."""

    sheet: Sheet
    times: int
    space: FreeSpace | None = None
    added: list[Placement] = field(default_factory=list)


def filled(problem: PackProblem, layout: Layout, given_up: Callable[[], bool]) -> Layout:
    """The layout with extra copies of what more is fine of, most wanted first, in the space that is left.

    Equal wishes share evenly: the design that has got the fewest extra copies is next, of several the largest, as long
    as any sheet takes it; so each gets as many as the others, give or take one, and then whatever still goes in. Where
    designs are kept apart a sheet takes more of its own design only, and colours stay apart; where nothing is wanted at
    all, the first sheet is filled.
    """
    sheets = list(layout.sheets) or [()]
    by_item = problem.by_item
    special = max(problem.held_sheets, problem.first_live is not None)
    grounds: dict[tuple[int, Sheet], _Ground] = {}
    for number, sheet in enumerate(sheets):
        # Kits, and rows of equal sheets, are filled once; a sheet that was used before is like no other.
        key = number if number < special else -1, sheet
        if key in grounds:
            grounds[key].times += 1
        else:
            grounds[key] = _Ground(sheet, 1)
    numbers = {key: sheets.index(key[1]) if key[0] < 0 else key[0] for key in grounds}
    room = MOST_PIECES - layout.pieces

    def open_to(piece: Piece) -> list[tuple[int, Sheet]]:
        return [
            key
            for key, ground in grounds.items()
            if not ground.sheet or _may_join(problem, piece, [by_item[one.item] for one in ground.sheet])
        ]

    for priority in sorted({piece.fill_priority for piece in problem.pieces if piece.fill_priority is not None}):
        equal = [piece for piece in problem.pieces if piece.fill_priority == priority]
        ways = {piece.item: open_to(piece) for piece in equal}
        extra = Counter({piece.item: 0 for piece in equal})
        while room and (waiting := [piece for piece in equal if ways[piece.item]]) and not given_up():
            piece = min(waiting, key=lambda one: (extra[one.item], -one.area_mm2, one.item))
            ground = grounds[ways[piece.item][0]]
            if ground.space is None:
                bare = replace(region_of(problem, numbers[ways[piece.item][0]]), held=())
                ground.space = space_on(problem, bare, ground.sheet)
            placement = ground.space.put(piece) if ground.times <= room else None
            if placement is None:
                # The space only shrinks: it is not asked again.
                ways[piece.item].pop(0)
                continue
            ground.added.append(placement)
            extra[piece.item] += ground.times
            room -= ground.times
    done = []
    for number, sheet in enumerate(sheets):
        done.append((*sheet, *grounds[number if number < special else -1, sheet].added))
    return replace(
        layout,
        sheets=tuple(sheet for sheet in done if sheet),
        time_limited=layout.time_limited or given_up(),
    )


def _may_join(problem: PackProblem, piece: Piece, there: Sequence[Piece]) -> bool:
    if MODES[problem.spec.mode].apart:
        return any(other.item == piece.item for other in there)
    return all(other.sheet_colour == piece.sheet_colour for other in there)
