"""The choices behind a phrase of the brief, each with what it would mean for this job, in figures."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from vamper.core.art.resolution import VIEWING_DISTANCE_MM, needed_ppi
from vamper.core.cutting.setting import effective_cut
from vamper.core.devices import Feed
from vamper.core.findings import BadInput
from vamper.core.job import Cut, Job, Paper, Purpose, Turn
from vamper.core.plan import pack_problem, set_up_sheet, settings_for, tightest_mm
from vamper.core.sheet.bound import area_bound
from vamper.core.sheet.papers import NAMED_PAPERS, words_of
from vamper.core.sheet.rows import rows_of_boxes
from vamper.formats.jobfile import CutterModel
from vamper.services.jobs import JobState
from vamper.services.overview import PURPOSE_PHRASES, TURN_PHRASES, plural, viewing
from vamper.services.planning import Design
from vamper.services.workshop import Workshop
from vamper.store.rows import stock_of


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to say a phrase: `changes` are the job's fields to set, `consequence` what follows."""

    label: str
    consequence: str
    changes: Mapping[str, Any]
    chosen: bool
    proposed: bool = False


def choices(workshop: Workshop, state: JobState, phrase: str) -> list[Choice]:
    """What a phrase can be changed to; empty for phrases that are not a choice from a list."""
    makers = {
        "stock": _stocks,
        "paper": _papers,
        "packing": _turns,
        "printer": _printers,
        "cutter": _cutters,
        "purpose": _purposes,
    }
    return makers[phrase](workshop, state) if phrase in makers else []


def _design(workshop: Workshop, state: JobState) -> Design | None:
    try:
        return workshop.design(state)
    except BadInput:
        return None


def _room(job: Job) -> str:
    """The live area of a job's sheet in words."""
    try:
        width, height = set_up_sheet(job).live.size_mm
    except BadInput:
        return "too small for its marks"
    return f"live area {width:.0f} × {height:.0f} mm"


def _stocks(workshop: Workshop, state: JobState) -> list[Choice]:
    job = workshop.jobs.core_job(state)
    design = _design(workshop, state)
    radius = tightest_mm(design.items if design else ())
    wanted = {item.cut for item in state.document.items} or {Cut.KISS}
    found = []
    for row in workshop.stocks():
        stock = stock_of(row)
        cut = effective_cut(stock, Cut.KISS if Cut.KISS in wanted else Cut.THROUGH)
        setting = settings_for(replace(job, stock=stock), radius)[cut]
        extra = "" if stock.printable else ", not printed"
        extra += ", mirrored" if stock.mirrored else ""
        found.append(
            Choice(
                stock.name,
                f"{setting.force_gf:g} gf × {setting.passes}, {cut}{extra}",
                {"stock": stock.key},
                stock.key == state.document.stock,
            )
        )
    return found


def _papers(workshop: Workshop, state: JobState) -> list[Choice]:
    job = workshop.jobs.core_job(state)
    design = _design(workshop, state)
    found = []
    for name, paper in NAMED_PAPERS.items():
        trial = replace(job, paper=paper)
        consequence = _room(trial)
        if design is not None and design.items:
            consequence = _at_most(trial, design) or consequence
        found.append(
            Choice(
                words_of(name),
                consequence,
                {"paper": {"width_mm": paper.width_mm, "height_mm": paper.height_mm}},
                Paper(job.paper.width_mm, job.paper.height_mm) == paper,
            )
        )
    return found


def _at_most(job: Job, design: Design) -> str | None:
    try:
        setup = set_up_sheet(job)
    except BadInput:
        return None
    problem = pack_problem(job, setup, design.items)
    bound = area_bound(setup.live.shape, problem.pieces, job.packing.gap_mm)
    return f"{_room(job)}, at most {bound.pieces_at_most} a sheet"


_TURN_REASONS = {
    Turn.ANY: "fits the most",
    Turn.QUARTER: "for stock that is trimmed square",
    Turn.UPRIGHT: "for stock with a grain or a pattern",
}


def _turns(workshop: Workshop, state: JobState) -> list[Choice]:
    design = _design(workshop, state)
    found = []
    for turn in (Turn.ANY, Turn.QUARTER, Turn.UPRIGHT):
        consequence = _TURN_REASONS[turn]
        if design is not None and design.items:
            problem = pack_problem(design.job, design.setup, design.items)
            rows = rows_of_boxes(problem.pieces, problem.live, problem.spec.gap_mm, turn, None)
            if turn is not Turn.ANY:
                consequence += f"; plain rows take {plural(len(rows), 'sheet')}"
        found.append(
            Choice(
                TURN_PHRASES[turn],
                consequence,
                {"packing.turn": turn.value},
                turn is state.document.packing.turn,
                turn is Turn.ANY,
            )
        )
    return found


def _printers(workshop: Workshop, state: JobState) -> list[Choice]:
    job = workshop.jobs.core_job(state)
    return [
        Choice(
            profile.name,
            f"{profile.printer.kind}, {_room(replace(job, printer=profile.printer.to_core()))}",
            {"printer_id": number},
            number == state.document.printer_id,
        )
        for number, profile in workshop.machines.printers().items()
    ]


def _cutters(workshop: Workshop, state: JobState) -> list[Choice]:
    job = workshop.jobs.core_job(state)
    return [
        Choice(
            profile.name,
            f"{_reach(profile.cutter)}, {_room(replace(job, cutter=profile.cutter.to_core()))}",
            {"cutter_id": number},
            number == state.document.cutter_id,
        )
        for number, profile in workshop.machines.cutters().items()
    ]


def _reach(cutter: CutterModel) -> str:
    if cutter.feed is Feed.HAND:
        return "no machine: guide lines and straight rows"
    return f"{cutter.force_gf.min:g} to {cutter.force_gf.max:g} gf"


def _purposes(_workshop: Workshop, state: JobState) -> list[Choice]:
    return [
        Choice(
            PURPOSE_PHRASES[purpose],
            f"seen from {viewing(purpose)}, needs {needed_ppi(VIEWING_DISTANCE_MM[purpose]):.0f} ppi",
            {"purpose": purpose.value},
            purpose is state.document.purpose,
        )
        for purpose in Purpose
    ]
