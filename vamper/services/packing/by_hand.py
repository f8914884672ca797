"""What a maker does with pieces on the drawing, one action a step of the job's history.

Whatever is done, the result keeps every rule: a piece that is dropped where it collides slides to the nearest free
place, and where there is none within reach it goes back, with a sentence that says so. From the first action on, the
whole layout lies where it lies: pieces that were touched count as placed by hand, the others are kept until everything
is packed again.
"""

import math
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from vamper.core.sheet.lay.arranging import AlignedBy, SpacedAlong, aligned, exchanged, moved, spaced, turn_step, turned
from vamper.core.sheet.lay.clearance import SLIDE_MM, Clearance, Distance, Moved, as_moved
from vamper.core.sheet.lay.free_space import FreeSpace
from vamper.core.sheet.lay.growing import growth_of
from vamper.core.sheet.pack.sheet_region import SheetRegion, space_on
from vamper.core.values.art import SIDES, SizeSpec
from vamper.core.values.findings import BadInput
from vamper.core.values.item import sized
from vamper.core.values.layers import by_itself
from vamper.core.values.lengths import mm
from vamper.core.values.placement import Pin, Placement, without_gaps
from vamper.services.jobs.document import JobDocument
from vamper.services.jobs.job_state import JobState
from vamper.services.jobs.jobs import Jobs
from vamper.services.packing.named import kept_as_they_lie
from vamper.services.packing.tables import Hand, Table

_TOLD_DISTANCES = 4
_NEAR_ENOUGH_MM = 0.01
# A size is told in hundredths of a millimetre; what grows by less than this share does not grow.
_HUNDREDTHS, _LEAST_GROWTH = 100, 1.005


@dataclass(frozen=True, slots=True)
class HandVerdict:
    """The rules that pieces in hand keep or break where they are; `slide` is the way to the nearest free place, if
    asked for.
    """

    is_free: bool
    distances: tuple[Distance, ...]
    slide: tuple[float, float] | None


@dataclass(frozen=True, slots=True)
class HandResult:
    """The result of an action: the job, where the pieces in hand are now, and a sentence where it is not as asked."""

    state: JobState
    sheet: int
    indexes: tuple[int, ...]
    note: str = ""


def check(table: Table, sheet: int, hands: Sequence[Hand], with_slide: bool) -> HandVerdict:
    """The rules that pieces keep or break where they are held over their sheet."""
    clearance = table.others(sheet, [hand.index for hand in hands])
    held = [_moved(table, _held(table, sheet, hand)) for hand in hands]
    distances = sorted(
        (distance for one in held for distance in clearance.distances(one.piece, one.shape)),
        key=lambda distance: distance.mm - distance.needed_mm,
    )
    is_free = not any(distance.is_broken for distance in distances)
    slide = None
    if with_slide and not is_free:
        slide = clearance.slide(held)
    return HandVerdict(is_free, tuple(distances[:_TOLD_DISTANCES]), slide)


def _held(table: Table, sheet: int, hand: Hand) -> Placement:
    was = table.placement(sheet, hand.index)
    return replace(was, x_mm=hand.x_mm, y_mm=hand.y_mm, turn_deg=hand.turn_deg % 360.0)


def _moved(table: Table, placement: Placement) -> Moved:
    return as_moved(table.by_item[placement.item], placement)


class ByHand:
    """The actions, for one workshop's jobs."""

    def __init__(self, jobs: Jobs) -> None:
        self._jobs = jobs

    def drop(self, job_id: int, table: Table, sheet: int, hands: Sequence[Hand]) -> HandResult:
        """Lay pieces down where they are held, or at the nearest free place."""
        indexes = [hand.index for hand in hands]
        _unlocked(table, sheet, indexes)
        wanted = [_held(table, sheet, hand) for hand in hands]
        return self._settle(job_id, table, sheet, indexes, wanted, _label("move", len(hands)))

    def nudge(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], dx: float, dy: float) -> HandResult:
        """Push pieces a little; as far as the rules allow."""
        _unlocked(table, sheet, indexes)
        clearance = table.others(sheet, indexes)
        start = [table.placement(sheet, index) for index in indexes]
        share = _farthest(table, clearance, start, dx, dy)
        if share * float(np.hypot(dx, dy)) < _NEAR_ENOUGH_MM:
            raise BadInput("it cannot come any nearer that way", "")
        pushed = [moved(one, dx * share, dy * share) for one in start]
        note = "" if share == 1.0 else "Moved as far as it can go."
        subject = f"nudge {sheet} {sorted(indexes)}"
        return self._arrange(job_id, table, sheet, indexes, pushed, _label("nudge", len(indexes)), note, subject)

    def turn(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], steps: int) -> HandResult:
        """Turn pieces by one step of their rule, each about its middle."""
        _unlocked(table, sheet, indexes)
        start = [table.placement(sheet, index) for index in indexes]
        by = [turn_step(table.by_item[one.item], table.problem.spec.turn) for one in start]
        if not any(by):
            raise BadInput("this job's pieces stay upright; the turn rule is part of “packed”", "turn")
        wanted = [turned(one, step * steps, table.by_item) for one, step in zip(start, by, strict=True)]
        return self._settle(job_id, table, sheet, indexes, wanted, _label("turn", len(indexes)))

    def align(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], side: AlignedBy) -> HandResult:
        start = _several(table, sheet, indexes, 2)
        wanted = aligned(start, side, table.by_item)
        return self._exactly(job_id, table, sheet, indexes, wanted, "align pieces")

    def space(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], way: SpacedAlong) -> HandResult:
        start = _several(table, sheet, indexes, 3)
        wanted = spaced(start, way, table.by_item)
        return self._exactly(job_id, table, sheet, indexes, wanted, "space pieces evenly")

    def swap(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int]) -> HandResult:
        """Exchange two pieces; each slides to a free place near the other's."""
        if len(indexes) != 2:
            raise BadInput("pick two pieces to swap", "")
        first, second = _several(table, sheet, indexes, 2)
        one, other = exchanged(first, second, table.by_item)
        clearance = table.others(sheet, indexes)
        placed: list[Placement] = []
        others = [p for n, p in enumerate(table.sheet(sheet)) if n not in indexes]
        for wanted in (one, other):
            by = clearance.slide([_moved(table, wanted)])
            if by is None:
                raise BadInput(
                    f"they do not fit in each other's places, even moved by up to {mm(SLIDE_MM)} of them", ""
                )
            placed.append(moved(wanted, *by))
            clearance = Clearance(
                table.problem.live_of(sheet), table.problem.spec.gap_mm, [*others, *placed], table.by_item
            )
        return self._arrange(job_id, table, sheet, indexes, placed, "swap two pieces")

    def lock(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], locked: bool) -> HandResult:
        """Fix pieces where they are, or let them be moved again."""
        pin = Pin.LOCKED if locked else Pin.HAND
        start = [table.placement(sheet, index) for index in indexes]
        label = _label("lock" if locked else "unlock", len(indexes))
        return self._arrange(job_id, table, sheet, indexes, start, label, pin=pin)

    def send(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], to_sheet: int) -> HandResult:
        """Move pieces to free places of another sheet; a number past the last sheet is a new sheet."""
        _unlocked(table, sheet, indexes)
        start = [table.placement(sheet, index) for index in indexes]
        if to_sheet > len(table.layout.sheets):
            raise BadInput("there is no such sheet; the next one is the first new one", "to_sheet")
        space = _space(table, to_sheet)
        placed = []
        for one in start:
            found = space.put(table.by_item[one.item])
            if found is None:
                raise BadInput(f"sheet {to_sheet + 1} has no room left for it; nothing was moved", "")
            placed.append(replace(found, pin=Pin.HAND))
        rest = {
            number: [one for n, one in enumerate(pieces) if number != sheet or n not in indexes]
            for number, pieces in enumerate(table.layout.sheets)
        }
        rest.setdefault(to_sheet, []).extend(placed)
        label = f"{_label('move', len(indexes))} to sheet {to_sheet + 1}"
        state = self._keep(job_id, table, label, [rest[number] for number in sorted(rest)])
        emptied = not rest[sheet]
        number = to_sheet - 1 if emptied and to_sheet > sheet else to_sheet
        last = len(rest[to_sheet])
        return HandResult(state, number, tuple(range(last - len(placed), last)))

    def duplicate(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int]) -> HandResult:
        """Lay one more of each piece, as near as there is room: on its sheet, on another, or on a new sheet."""
        sheets = [list(pieces) for pieces in table.layout.sheets]
        spaces: dict[int, FreeSpace] = {}
        where: list[tuple[int, int]] = []
        for index in indexes:
            one = table.placement(sheet, index)
            for number in (sheet, *(n for n in range(len(sheets) + 1) if n != sheet)):
                if number == len(sheets):
                    sheets.append([])
                space = spaces.setdefault(number, _space(table, number))
                found = space.put(table.by_item[one.item])
                if found is not None:
                    sheets[number].append(replace(found, pin=Pin.HAND))
                    where.append((number, len(sheets[number]) - 1))
                    break
        more = Counter(table.placement(sheet, index).item for index in indexes)
        state = self._keep(job_id, table, _label("one more", len(indexes), of="of"), sheets, more)
        on = where[0][0]
        note = "" if on == sheet else f"There was no room on sheet {sheet + 1}; it lies on sheet {on + 1}."
        return HandResult(state, on, tuple(n for number, n in where if number == on), note)

    def take_off(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int]) -> HandResult:
        """Take pieces off; there are fewer of their designs then, and a design without any is gone."""
        _unlocked(table, sheet, indexes)
        fewer = Counter({item: -n for item, n in Counter(table.placement(sheet, i).item for i in indexes).items()})
        sheets = [
            [one for n, one in enumerate(pieces) if number != sheet or n not in indexes]
            for number, pieces in enumerate(table.layout.sheets)
        ]
        state = self._keep(job_id, table, _label("take off", len(indexes)), sheets, fewer)
        return HandResult(state, min(sheet, max(0, sum(1 for one in sheets if one) - 1)), ())

    def grow(self, job_id: int, table: Table, sheet: int, indexes: Sequence[int]) -> HandResult:
        """One piece as large as the room round it allows, moving aside for it. Of several alike, it becomes a design of
        its own, so that the others keep their size.
        """
        if len(indexes) != 1:
            raise BadInput("pick one piece to grow into its gap", "")
        _unlocked(table, sheet, indexes)
        one = table.placement(sheet, indexes[0])
        document = self._jobs.get(job_id).document
        item = document.item(one.item)
        if not by_itself(item, document.items) or any(one.item in product.items for product in document.products):
            raise BadInput("this is one of a set, whose sizes hang together; scale the set instead", "")
        growth = growth_of(table.others(sheet, indexes), _moved(table, one), item.edge.reach_mm)
        wanted = math.floor(item.size.wanted_mm * growth.by * _HUNDREDTHS) / _HUNDREDTHS
        by = wanted / item.size.wanted_mm
        if by < _LEAST_GROWTH:
            raise BadInput("it fills its gap already", "")
        shape = _moved(table, one).shape
        middle = shape.centroid
        x, y = (
            at + by * (was - at) + shift
            for at, was, shift in zip((middle.x, middle.y), (one.x_mm, one.y_mm), growth.shift_mm, strict=True)
        )
        sheets = [list(pieces) for pieces in table.layout.sheets]
        alike = sum(other.item == one.item for pieces in sheets for other in pieces)
        number = one.item if alike == 1 and item.quantity <= 1 else document.next_number()
        sheets[sheet][indexes[0]] = replace(one, item=number, x_mm=x, y_mm=y, pin=Pin.HAND)
        side = next(side for side in SIDES if getattr(item.size, side) is not None)
        size = SizeSpec(**{side: wanted}, size_over=item.size.size_over)

        def with_it(now: JobDocument) -> JobDocument:
            grown = sized(replace(now.item(one.item), number=number, quantity=1, fill_priority=None), size)
            if number == one.item:
                return now.in_place_of(number, (grown,))
            return now.with_items((*now.items, replace(grown, name=f"{grown.name}, grown"[:200])))

        fewer = Counter() if number == one.item else Counter({one.item: -1})
        state = self._keep(job_id, table, "grow a piece into its gap", sheets, fewer, begun=with_it)
        return HandResult(state, sheet, tuple(indexes), f"It is {by:.2f} times as large now.")

    def release(self, job_id: int, hands_too: bool) -> JobState:
        """Let go what is only kept, and, with `hands_too`, what was placed by hand; locked pieces stay."""
        stay = (Pin.LOCKED,) if hands_too else (Pin.LOCKED, Pin.HAND)

        def edit(document: JobDocument) -> JobDocument:
            held = tuple(tuple(one for one in sheet if one.pin in stay) for sheet in document.held)
            return replace(document, held=held if any(held) else ())

        return self._jobs.edit(job_id, "pack everything again" if hands_too else "pack again", edit)

    # How an action ends

    def _settle(
        self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], wanted: Sequence[Placement], label: str
    ) -> HandResult:
        """At the wanted places, or together at the nearest free places."""
        by = table.others(sheet, indexes).slide([_moved(table, one) for one in wanted])
        if by is None:
            raise BadInput(f"there is no free place within {mm(SLIDE_MM)}; nothing was moved", "")
        far = float(np.hypot(*by))
        note = "" if far < _NEAR_ENOUGH_MM else f"Slid {mm(far, 1)} to the nearest free place."
        return self._arrange(job_id, table, sheet, indexes, [moved(one, *by) for one in wanted], label, note)

    def _exactly(
        self, job_id: int, table: Table, sheet: int, indexes: Sequence[int], wanted: Sequence[Placement], label: str
    ) -> HandResult:
        """At the wanted places or not at all."""
        _unlocked(table, sheet, indexes)
        clearance = table.others(sheet, indexes)
        held = [_moved(table, one) for one in wanted]
        for number, one in enumerate(held):
            if not clearance.allows(one.piece, one.shape):
                raise BadInput("one of them would come too near another piece or the rim; nothing was moved", "")
            if any(not _apart(table, one, other) for other in held[:number]):
                raise BadInput("they would come too near each other; nothing was moved", "")
        return self._arrange(job_id, table, sheet, indexes, wanted, label)

    def _arrange(
        self,
        job_id: int,
        table: Table,
        sheet: int,
        indexes: Sequence[int],
        placed: Sequence[Placement],
        label: str,
        note: str = "",
        subject: str = "",
        pin: Pin = Pin.HAND,
    ) -> HandResult:
        """Pieces of one sheet at new places."""
        sheets = [list(pieces) for pieces in table.layout.sheets]
        for index, one in zip(indexes, placed, strict=True):
            sheets[sheet][index] = replace(one, pin=pin)
        return HandResult(self._keep(job_id, table, label, sheets, subject=subject), sheet, tuple(indexes), note)

    def _keep(
        self,
        job_id: int,
        table: Table,
        label: str,
        sheets: Sequence[Sequence[Placement]],
        more: Counter[int] | None = None,
        subject: str = "",
        begun: Callable[[JobDocument], JobDocument] = lambda document: document,
    ) -> JobState:
        """Hold the whole layout as it is now, `begun` on a job whose designs were changed for it; extra copies that
        filled a sheet become wanted ones.
        """

        def edit(document: JobDocument) -> JobDocument:
            document = begun(document)
            lying = Counter(one.item for pieces in sheets for one in pieces)
            counts = {
                item.number: max(item.quantity + (more or Counter())[item.number], lying[item.number])
                for item in document.items
            }
            items = tuple(
                item if counts[item.number] == item.quantity else replace(item, quantity=counts[item.number])
                for item in document.items
                if counts[item.number] or item.fill_priority is not None
            )
            held = without_gaps(kept_as_they_lie(sheets))
            return replace(document, items=items, held=held, packing=replace(document.packing, fill=False))

        return self._jobs.edit(job_id, label, edit, subject, on=table.revision)


def _label(verb: str, count: int, of: str = "") -> str:
    what = "a piece" if count == 1 else f"{count} pieces"
    return f"{verb} {of} {what}" if of else f"{verb} {what}"


def _unlocked(table: Table, sheet: int, indexes: Sequence[int]) -> None:
    if any(table.placement(sheet, index).pin is Pin.LOCKED for index in indexes):
        raise BadInput("it is locked where it is; unlock it first (L)", "")


def _several(table: Table, sheet: int, indexes: Sequence[int], least: int) -> list[Placement]:
    if len(indexes) < least:
        raise BadInput(f"pick at least {least} pieces for that (Shift with a click picks more)", "")
    _unlocked(table, sheet, indexes)
    return [table.placement(sheet, index) for index in indexes]


def _apart(table: Table, first: Moved, second: Moved) -> bool:
    alone = Clearance(table.problem.live, table.problem.spec.gap_mm)
    alone.add(second.piece, second.shape)
    return not any(distance.is_broken for distance in alone.distances(first.piece, first.shape) if distance.other == 0)


def _space(table: Table, sheet: int) -> FreeSpace:
    live = table.problem.live_of(sheet)
    lying = table.layout.sheets[sheet] if sheet < len(table.layout.sheets) else ()
    return space_on(table.problem, SheetRegion(live, (), live, True), lying)


def _farthest(table: Table, clearance: Clearance, start: Sequence[Placement], dx: float, dy: float) -> float:
    """The greatest share of a push that breaks no rule, to a hundredth of a millimetre."""

    def allowed(share: float) -> bool:
        held = [_moved(table, moved(one, dx * share, dy * share)) for one in start]
        return all(clearance.allows(one.piece, one.shape) for one in held)

    if allowed(1.0):
        return 1.0
    low, high, length = 0.0, 1.0, float(np.hypot(dx, dy))
    while (high - low) * length > _NEAR_ENOUGH_MM / 4:
        middle = (low + high) / 2
        low, high = (middle, high) if allowed(middle) else (low, middle)
    return low
