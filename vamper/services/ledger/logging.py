"""Logging a run: what is known of it is there already, only how it came out is asked."""

from collections import Counter
from collections.abc import Iterable

from vamper.core.finishing.process import process_of_job
from vamper.core.ledger.run import CameOut, LaterCheck, LaterKind, Run, Spoilt, SpoiltPiece, UsedSetting, outcome_of
from vamper.core.plan import Plan
from vamper.core.printing.advice import advice_for
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.tried import Outcome
from vamper.services.jobs.document import JobDocument
from vamper.services.shop.shop import Shop
from vamper.services.shop.tried import check_outcome

_WASHED = {"light-transfer", "dark-transfer", "print-flex", "colour-flex", "layered-flex"}
_OUTDOORS = {"vehicle", "window"}


def run_of(
    plan: Plan,
    document: JobDocument,
    shop: Shop,
    sheet: int,
    sheets: int,
    came_out: CameOut,
    spoilt: Iterable[SpoiltPiece] = (),
    note: str = "",
    minutes: float | None = None,
    lot: str = "",
) -> Run:
    """A run of one sheet (from 1) of a plan.

    Raises
    ------
    BadInput
        If the plan has no such sheet, a spoilt piece does not lie on it, or what is said does not go together.
    """
    if not 1 <= sheet <= len(plan.sheets):
        raise BadInput(f"this plan has {len(plan.sheets)} sheets, and no sheet {sheet}", "sheet")
    placements = plan.sheets[sheet - 1].placements
    pieces = tuple(dict.fromkeys(spoilt))
    if any(one.placement >= len(placements) for one in pieces):
        raise BadInput("a spoilt piece is named that does not lie on this sheet; look at it again", "spoilt")
    if (came_out is CameOut.SPOILED) != bool(pieces):
        raise BadInput("tap the pieces that are spoilt, or say that all are good", "spoilt")
    job = plan.asked
    stock = shop.stocks.get(document.stock)
    blade = shop.care.blades.in_machine(document.cutter_id)
    mat = shop.care.mats.in_machine(document.cutter_id)
    used = {plan.item(one.item).spec.cut for one in placements}
    process = process_of_job(job)
    advice = advice_for(job.stock, job.printer) if job.stock.printable else None
    return Run(
        title=document.title,
        sheet=sheet,
        sheets=sheets,
        pieces=len(placements),
        came_out=came_out,
        spoilt=pieces,
        stock=document.stock,
        stock_name=stock.name,
        lot=lot,
        printer=shop.printers.get(document.printer_id).name,
        cutter=shop.cutters.get(document.cutter_id).name,
        blade="" if blade is None else blade.name,
        blade_metres=0.0 if blade is None else blade.value.metres,
        mat="" if mat is None else mat.name,
        settings=tuple(
            UsedSetting(cut, setting.force_gf, setting.passes, setting.speed_mm_s, str(setting.blade.value))
            for cut, setting in plan.settings.items()
            if cut in used and job.cutter.is_machine
        ),
        light=str(job.room_light),
        remedies=tuple(str(one) for one in job.marks.remedies),
        media="" if advice is None else advice.media,
        quality="" if advice is None else advice.quality,
        process=process.key,
        coats=job.finish.coats if job.finish.coats is not None else (process.coats or None),
        minutes=minutes,
        simulated=job.cutter.practice is not None or job.printer.practice is not None,
        later=() if came_out is CameOut.NOT_RUN else _later(process.key, str(job.purpose)),
        note=note,
    )


def _later(process: str, purpose: str) -> tuple[LaterCheck, ...]:
    """When to look again at what is washed or hangs outdoors."""
    kinds = []
    if process in _WASHED:
        kinds.append(LaterKind.WASH)
    if purpose in _OUTDOORS:
        kinds += [LaterKind.MONTH, LaterKind.YEAR]
    return tuple(LaterCheck(kind) for kind in kinds)


def cut_outcomes(plan: Plan, run: Run) -> dict[Cut, Outcome]:
    """What the cuts of a run look like, for the belief in the stock's hardness; nothing where nothing was run.

    Raises
    ------
    BadInput
        If a cut cannot look like that: there is no backing to go through.
    """
    if run.came_out is CameOut.NOT_RUN or not plan.job.cutter.is_machine:
        return {}
    placements = plan.sheets[run.sheet - 1].placements
    cuts = [plan.item(one.item).spec.cut for one in placements]
    counts = Counter(cuts)
    found = {
        cut: outcome_of((one for one in run.spoilt if cuts[one.placement] is cut), many) for cut, many in counts.items()
    }
    for cut, outcome in found.items():
        check_outcome(plan.job.stock, cut, outcome)
    return found


def misses_of(run: Run) -> list[LoggedMiss]:
    """What its pieces were off by, where that was said."""
    return [one.off for one in run.spoilt if one.what is Spoilt.OFF and one.off is not None]
