"""Equal pieces lie on lattices."""

from collections import Counter
from collections.abc import Sequence

from shapely.geometry import Polygon

from vamper.core.sheet.pack.lattice import Lattice, best_lattice
from vamper.core.sheet.pack.search.run import SearchRun
from vamper.core.values.placement import Sheet

# A lattice may take this much of what time there is.
_LATTICE_SHARE = 0.4


def lattice_of(run: SearchRun, item: int, room: Polygon) -> Lattice | None:
    if (item, room.bounds) not in run.lattices:
        left, top, right, bottom = room.bounds
        spec = run.problem.spec
        stop_at = run.watch.seconds_left() * (1 - _LATTICE_SHARE)

        def given_up() -> bool:
            return run.watch.seconds_left() <= stop_at

        run.lattices[item, room.bounds] = best_lattice(
            run.by_item[item], (right - left, bottom - top), spec.gap_mm, spec.turn, given_up
        )
        run.clocked |= given_up()
    return run.lattices[item, room.bounds]


def lattice_sheet(run: SearchRun, order: Sequence[int], room: Polygon) -> Sheet:
    """A rectangle full of a lattice, where all that is wanted is one item."""
    if len(set(order)) != 1:
        return ()
    lattice = lattice_of(run, order[0], room)
    if lattice is None:
        return ()
    left, top, _, _ = room.bounds
    return run.kept(lattice.placements(order[0], left, top, len(order)))


def latticed(run: SearchRun) -> tuple[Sheet, ...]:
    """All of one item on lattices, the rest of each sheet filled; nothing where there are several items."""
    remaining, sheets = run.free.copy(), list[Sheet]()
    limit = run.problem.spec.max_sheets
    if len(+remaining) != 1:
        return ()
    while remaining.total() and (limit is None or len(sheets) < limit):
        order = list(remaining.elements())
        sheet = lattice_sheet(run, order, run.plain.room)
        if not sheet:
            return ()
        sheet = run.topped_up(run.plain, sheet, remaining - Counter(one.item for one in sheet))
        full = remaining.total() // len(sheet)
        for _ in range(max(1, full if limit is None else min(full, limit - len(sheets)))):
            sheets.append(sheet)
            remaining = remaining - Counter(one.item for one in sheet)
    return tuple(sheets)
