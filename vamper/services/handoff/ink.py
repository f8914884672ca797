"""How much ink a sheet takes: what its pieces take, each design measured once, and what else is on its page.

A piece takes as much wherever it lies, so that no other layout has anything measured again. A little is left out:
bleed is as wide as a design's own, also where a neighbour leaves it less room, and the job line counts for nothing.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace

from vamper.core.plan import Plan, page_of, printed_picture
from vamper.core.printing.ink import NO_INK, InkUse
from vamper.core.sheet.laid import LaidSheet, PlacedPieces
from vamper.formats.out.page_png import INK_PPI, page_ink
from vamper.formats.out.print_pdf import write_pdf
from vamper.services.handoff.drafts import Pictures, drafted
from vamper.services.work.cache import Cache

_KEPT = 2000


class Inks:
    """The ink of sheets; `pictures` gives a design's pixels, and need not give more than `INK_PPI`."""

    def __init__(self, pictures: Pictures) -> None:
        self._pictures = pictures
        self._kept: Cache[InkUse] = Cache(_KEPT)

    def of(self, plan: Plan, sheet: int) -> InkUse:
        """The ink of one sheet (from 0); stock that is not printed takes none."""
        if not plan.job.stock.printable:
            return NO_INK
        # What a piece takes hangs neither on the others nor on where they lie; a back's edge is its front's.
        job = replace(plan.asked, items=(), held=())
        laid = plan.sheets[sheet]
        used = self._kept.get((job, sheet), lambda: _used(_only(plan, sheet, ()), self._pictures))
        for number, count in laid.counts.items():
            item = plan.item(number)
            front = None if item.spec.back_of is None else plan.item(item.spec.back_of).spec
            key = (job, item.spec, item.bleed, front)
            used += self._kept.get(key, self._measuring(plan, sheet, number)) * count
        return used

    def ml(self, plan: Plan, sheets: Iterable[int]) -> float:
        """The ink of some sheets (from 0) of a plan in all."""
        return sum(self.of(plan, sheet).ml for sheet in sheets if 0 <= sheet < len(plan.sheets))

    def _measuring(self, plan: Plan, sheet: int, number: int) -> Callable[[], InkUse]:
        """Measures a piece of a design, the first of the sheet, as if it lay alone on a page without marks."""
        first = next(place for place, one in enumerate(plan.sheets[sheet].placements) if one.item == number)
        return lambda: _used(replace(_only(plan, sheet, (first,)), setup=replace(plan.setup, marks=())), self._pictures)


def _only(plan: Plan, sheet: int, places: Sequence[int]) -> Plan:
    """The plan with one sheet, on which only the pieces at some places lie."""
    lying = plan.sheets[sheet].lying
    few = PlacedPieces(
        tuple(lying.placements[place] for place in places),
        tuple(lying.edges[place] for place in places),
        lying.designs,
        lying.thin,
    )
    return replace(plan, sheets=(LaidSheet(0, few, plan.sheets[sheet].live),))


def _used(plan: Plan, pictures: Pictures) -> InkUse:
    draft, small = drafted(plan, pictures, INK_PPI)
    pdf = write_pdf(
        page_of(draft, 0), lambda number: printed_picture(draft.item(number), small(draft.item(number))), "ink"
    )
    return page_ink(pdf, plan.job.printer.ml_per_cm2)
