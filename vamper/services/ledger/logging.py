"""Logging a run: what is known of it is there already, only how it came out is asked."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from vamper.core.cutting.setting import CutSetting
from vamper.core.finishing.chain import Chain, chain_of_job
from vamper.core.finishing.chain_facts import cover_of
from vamper.core.finishing.work import work_of
from vamper.core.ledger.run import CameOut, LaterCheck, LaterKind, Run, Spoilt, SpoiltPiece, UsedSetting, outcome_of
from vamper.core.marks.program_marks import looked_for_spec
from vamper.core.plan import Plan
from vamper.core.printing.advice import PrintAdvice
from vamper.core.values.cut import Cut
from vamper.core.values.findings import BadInput
from vamper.core.values.finish import LabelFigure
from vamper.core.values.job import Job
from vamper.core.values.miss import LoggedMiss
from vamper.core.values.run_seen import MarksSeen
from vamper.core.values.tried import Outcome, WasSet
from vamper.services.ledger.costing import took_of
from vamper.services.ledger.handed import HandedOff
from vamper.services.shop.shop import Shop
from vamper.services.shop.tried import check_outcome

# When the ledger asks again, by what is to be looked at later.
_LATER = {
    "wash": (LaterKind.WASH,),
    "hand-wash": (LaterKind.WASH,),
    "week": (LaterKind.WEEK,),
    "month": (LaterKind.MONTH, LaterKind.YEAR),
}
# A cut that lies off by less nobody sees, whatever it is beside.
_SEEN_MM = 0.5


# What was set on the machine, where it was said: what was proposed, or something else; None where nobody remembers.
AS_PROPOSED: Literal["as proposed"] = "as proposed"
WasSetAs = tuple[WasSet, ...] | Literal["as proposed"] | None


def really_set(plan: Plan, was_set: WasSetAs) -> dict[Cut, WasSet]:
    """The setting that each cut of a plan was really made with, as far as that was said.

    Raises
    ------
    BadInput
        If a cut is set that the job does not have, or a setting that the machine has not.
    """
    if was_set is None or not plan.job.cutter.is_machine:
        return {}
    every = {cut: _proposed(setting) for cut, setting in plan.settings.items()}
    proposed = {cut: one for cut, one in every.items() if one is not None}
    if was_set == AS_PROPOSED:
        return proposed
    by_name = {setting.name: setting for setting in plan.job.cutter.settings}
    for one in was_set:
        if one.cut not in plan.settings:
            raise BadInput(f"this job has no cut “{one.cut.value}”; say what its own cuts were set to", "was_set")
        if plan.job.cutter.has_own_program and not one.setting:
            raise BadInput("this machine is set by settings of its own; say which of them was set", "was_set")
        if one.setting and one.setting not in by_name:
            raise BadInput(
                f"this machine has no setting “{one.setting}”; add it under Cut, or choose another", "was_set"
            )
        if one.setting and not by_name[one.setting].takes(one.pressure):
            raise BadInput(f"“{one.setting}” has no “{one.pressure}” pressure; add that to it under Cut", "was_set")
    return {one.cut: one for one in was_set}


def _proposed(setting: CutSetting) -> WasSet | None:
    """The setting that was proposed; None where a machine is set by names and no setting is proposed yet."""
    if not setting.spoken.speaks:
        return WasSet(setting.cut, setting.passes, setting.force_gf)
    choice = setting.spoken.choice
    if choice is None:
        return None
    return WasSet(setting.cut, choice.passes, setting=choice.name, pressure=choice.pressure)


@dataclass(frozen=True, slots=True)
class Said:
    """The maker's account of a sheet after it was made; all else is known.

    Parameters
    ----------
    sheet, sheets : int
        Which sheet, from 1, and how many were made of it.
    came_out : CameOut
        How it came out.
    spoilt : tuple of SpoiltPiece
        Which pieces were spoilt, and by what.
    note, lot : str
        What else is to be remembered, and the lot of the stock.
    minutes : float or None
        Time of hands.
    was_set : WasSetAs
        What the cutter was set to.
    read : MarksSeen or None
        Whether the marks were read.
    """

    sheet: int
    sheets: int
    came_out: CameOut
    spoilt: tuple[SpoiltPiece, ...] = ()
    note: str = ""
    minutes: float | None = None
    lot: str = ""
    was_set: WasSetAs = AS_PROPOSED
    read: MarksSeen | None = None


def run_of(
    handed: HandedOff,
    shop: Shop,
    said: Said,
    printed: PrintAdvice | None = None,
    ink_ml: float = 0.0,
    from_offcut: bool = False,
) -> Run:
    """The run of a sheet that was handed over; `printed` is what was chosen for its print, `ink_ml` what one of it
    takes.

    Raises
    ------
    BadInput
        If the plan has no such sheet, a spoilt piece does not lie on it, or what is said does not go together.
    """
    plan, document = handed.plan, handed.document
    if not 1 <= said.sheet <= len(plan.sheets):
        raise BadInput(f"this plan has {len(plan.sheets)} sheets, and no sheet {said.sheet}", "sheet")
    placements = plan.sheets[said.sheet - 1].placements
    pieces = tuple(dict.fromkeys(said.spoilt))
    if any(one.placement >= len(placements) for one in pieces):
        raise BadInput("a spoilt piece is named that does not lie on this sheet; look at it again", "spoilt")
    if (said.came_out is CameOut.SPOILED) != bool(pieces):
        raise BadInput("tap the pieces that are spoilt, or say that all are good", "spoilt")
    job = plan.asked
    stocks, printers, cutters = shop.stocks.all(), shop.printers.all(), shop.cutters.all()
    blade = shop.care.blades.in_machine(document.cutter_id)
    mat = shop.care.mats.in_machine(document.cutter_id)
    used = {plan.item(one.item).spec.cut for one in placements}
    chain = chain_of_job(job)
    work = work_of(job)
    return Run(
        title=document.title,
        customer=document.customer,
        sheet=said.sheet,
        sheets=said.sheets,
        pieces=len(placements),
        came_out=said.came_out,
        spoilt=pieces,
        stock=document.stock,
        stock_name=stocks[document.stock].name if document.stock in stocks else job.stock.name,
        lot=said.lot,
        printer=printers[document.printer_id].name if document.printer_id in printers else "",
        cutter=cutters[document.cutter_id].name if document.cutter_id in cutters else "",
        blade="" if blade is None else blade.name,
        blade_metres=0.0 if blade is None else blade.value.metres,
        mat="" if mat is None else mat.name,
        settings=tuple(
            UsedSetting(
                cut,
                one.force_gf,
                one.passes,
                plan.settings[cut].speed_mm_s,
                str(plan.settings[cut].blade.value),
                one.setting,
                one.pressure,
            )
            for cut, one in really_set(plan, said.was_set).items()
            if cut in used
        ),
        light=str(job.room_light),
        marks=looked_for_spec(plan.job).family if plan.reading is not None else "",
        read=said.read if plan.reading is not None else None,
        remedies=tuple(str(one) for one in job.marks.remedies),
        media="" if printed is None else printed.media,
        quality="" if printed is None else printed.quality,
        process=chain.key,
        coats=work.coats_of(chain) if chain.facts.coated else None,
        cover=cover_of(job).product,
        look=cover_of(job).look,
        # What was really waited for, where the maker's own waits are longer than the label's.
        figures=tuple(
            LabelFigure(key, value) for key, value in sorted(work.figures(chain).items()) if key in chain.label_keys()
        ),
        took=took_of(plan, (said.sheet - 1,), said.sheets, ink_ml),
        from_offcut=from_offcut,
        minutes=said.minutes,
        simulated=is_simulated(job),
        later=() if said.came_out is CameOut.NOT_RUN else _later(chain),
        note=said.note,
    )


def good_of_designs(plan: Plan, runs: Iterable[Run]) -> Counter[int]:
    """How many pieces of each design came out well in some runs of a plan."""
    good = Counter[int]()
    for run in runs:
        if run.came_out is CameOut.NOT_RUN:
            continue
        placements = plan.sheets[run.sheet - 1].placements
        for one in placements:
            good[one.item] += run.sheets
        for place in {one.placement for one in run.spoilt}:
            good[placements[place].item] -= 1
    return good


def is_simulated(job: Job) -> bool:
    """Whether a job is made on the practice bench."""
    return job.cutter.practice is not None or job.printer.practice is not None


def _later(chain: Chain) -> tuple[LaterCheck, ...]:
    """When to look again at what is washed, used, or hangs outdoors."""
    return tuple(LaterCheck(kind) for step in chain.later for kind in _LATER[step.key])


def cut_outcomes(plan: Plan, run: Run) -> dict[Cut, Outcome]:
    """The outcomes of the cuts of a run, for the belief in the stock's hardness; none where nothing was run.

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
        cut: outcome_of((one for one in run.spoilt if cuts[one.placement] is cut), many * run.sheets)
        for cut, many in counts.items()
    }
    for cut, outcome in found.items():
        check_outcome(plan.job.stock, cut, outcome)
    return found


def misses_of(run: Run, plan: Plan) -> list[LoggedMiss]:
    """The misses of its pieces, on the sheet as it is loaded: misses that were measured, and of pieces that came out
    well that nobody saw a miss. A piece that was cut off its place without saying how far gives none, and nor does a
    sheet of which some of that is not known.
    """
    if run.came_out is CameOut.NOT_RUN or plan.reading is None:
        return []
    off = [one for one in run.spoilt if one.what is Spoilt.OFF]
    # Pieces were told as they read.
    turn = -1 if plan.mirror else 1
    found = [LoggedMiss(turn * one.off.dx_mm, one.off.dy_mm) for one in off if one.off is not None]
    good = run.good_pieces
    if good and len(found) == len(off):
        found.append(LoggedMiss(0.0, 0.0, within_mm=_seen_as_good_mm(plan, run.sheet - 1), pieces=good))
    return found


def _seen_as_good_mm(plan: Plan, sheet: int) -> float:
    """The miss that no piece that looks good exceeds: its border shows whether the cut lies in its middle, to half its
    width, and where there is none the bleed is used up.
    """
    items = [plan.item(number) for number in plan.sheets[sheet].counts]
    widths = [max(one.edge.least_border_mm / 2, one.bleed.width_mm, _SEEN_MM) for one in items]
    return round(max(widths), 3)
