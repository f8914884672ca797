"""Everything that was found on a plan: each station's own findings, listed."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import replace

from vamper.core.art.inspect import art_findings, size_fix
from vamper.core.art.unprinted import colour_findings
from vamper.core.cutting.inspect import (
    blade_findings,
    cut_findings,
    detail_findings,
    kiss_without_backing,
    mat_findings,
    other_finding,
    tab_findings,
    unfound_holes_finding,
    unsure_finding,
)
from vamper.core.design import DesignedItem
from vamper.core.edge.inspect import counter_findings, edge_findings, hand_findings
from vamper.core.edge.medium import as_medium
from vamper.core.finishing.dangers import Circumstances
from vamper.core.finishing.inspect import cup_findings, finish_findings
from vamper.core.marks.inspect import (
    covered_findings,
    drift_findings,
    marks_findings,
    old_marks_findings,
    reading_findings,
    unreached_findings,
)
from vamper.core.marks.program_marks import marks_or_usual
from vamper.core.marks.sheet_marks import marks_made
from vamper.core.offered import as_offered
from vamper.core.plan import Plan, set_up_sheet
from vamper.core.printing.inspect import bleed_findings, print_findings, program_bleed_findings
from vamper.core.program.choices import ProgramChoices, Switch, program_choices
from vamper.core.sheet.inspect import (
    accepted_finding,
    breach_findings,
    pair_findings,
    sparse_finding,
    too_big,
    unplaced_finding,
)
from vamper.core.sheet.lay.turns import best_turn
from vamper.core.sheet.layout import WhyNot
from vamper.core.sheet.live_area import printer_bound
from vamper.core.values.art import SIDES, Purpose
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Feed
from vamper.core.values.findings import BadInput, Finding, Fix, Severity, most_serious_first, with_answers
from vamper.core.values.finish import Target
from vamper.core.values.job import Job
from vamper.core.values.marks import MarksSpec
from vamper.core.values.paper import Paper
from vamper.core.values.reading import Remedy
from vamper.core.values.stock import Stock


def findings_of(plan: Plan) -> tuple[Finding, ...]:
    """All findings of a plan, the most serious first."""
    offered = (as_offered(plan, finding) for finding in _all(plan))
    return tuple(most_serious_first(answered(offered, plan.asked)))


def answered(findings: Iterable[Finding], job: Job) -> Iterator[Finding]:
    """Findings with those marked that the maker of a job has answered."""
    return with_answers(findings, {item.number: item.meant for item in job.items if item.meant}, job.meant)


def _all(plan: Plan) -> Iterator[Finding]:
    job = plan.job
    for finding in marks_findings(job.paper, job.marks, printer_bound(job.paper, job.printer)):
        yield _with_room_left(plan, finding)
    if plan.setup.marks:
        yield from unreached_findings(job.paper, job.marks, plan.setup.marks, job.cutter, _holding(plan))
    for finding in reading_findings(plan.reading, job.marks):
        yield _with_room_left(plan, finding)
    # A laminate is part of the stock by now: what lies over the marks is what was asked for.
    covered = plan.asked.finish.coated or plan.asked.finish.laminate_um > 0
    yield from covered_findings(job.stock, covered, marks_or_usual(job))
    yield from old_marks_findings(job.paper, job.marks, plan.setup.marks)
    yield from drift_findings(job.misses)
    by_program = program_choices(plan) if job.cutter.has_own_program else None
    for item in plan.items:
        yield from item_findings(item, job.purpose, job.stock, job.target, by_program)
    yield from _sheet(plan)
    yield from _cut(plan)
    yield from print_findings(job)
    yield from finish_findings(plan.asked, plan.items)


def _with_room_left(plan: Plan, finding: Finding) -> Finding:
    """A finding on the marks without what moves them so far inside that a design would no longer go on its sheet."""
    holds, paper, marks = _holding(plan), plan.job.paper, plan.job.marks
    kept = tuple(
        fix
        for fix in finding.fixes
        if (inset_mm := _inset_with(marks, fix)) <= marks.inset_mm or holds(paper, replace(marks, inset_mm=inset_mm))
    )
    if kept == finding.fixes:
        return finding
    return replace(
        finding, fixes=kept, text=f"{finding.text} Farther inside, not all of the designs would fit any more."
    )


def _inset_with(marks: MarksSpec, fix: Fix) -> float:
    """How far inside the marks are after a fix, mm: it names an inset, or a remedy that is drawn."""
    inset_mm = float(str(fix.changes.get("marks.inset_mm", marks.inset_mm)))
    remedies = fix.changes.get("marks.remedies")
    taken = tuple(Remedy(one) for one in remedies) if isinstance(remedies, list) else ()
    return marks_made(replace(marks, inset_mm=inset_mm, remedies=taken)).inset_mm


def _holding(plan: Plan) -> Callable[[Paper, MarksSpec], bool]:
    """Whether a paper with such marks would hold every design of a plan that this one holds."""
    job = plan.job
    too_big = {one.item for one in plan.layout.unplaced if one.reason is WhyNot.TOO_BIG}
    pieces = [
        (item.edge.shape, item.spec.turn or job.packing.turn) for item in plan.items if item.number not in too_big
    ]

    def holds(paper: Paper, marks: MarksSpec) -> bool:
        try:
            room = set_up_sheet(replace(job, paper=paper, marks=marks)).live.size_mm
        except BadInput:
            return False
        return all(best_turn(shape, room, turn)[1] <= 0 for shape, turn in pieces)

    return holds


def item_findings(
    item: DesignedItem,
    purpose: Purpose,
    stock: Stock,
    target: Target | None = None,
    by_program: ProgramChoices | None = None,
) -> list[Finding]:
    """The findings of the stations on one design before it lies on a sheet; `by_program` is what its machine's own
    program does, where that leads.
    """
    art = _for_the_maker(item, art_findings(item.outline, item.spec, item.number, purpose, item.facts, stock))
    edge = edge_findings(item.outline, item.edge, item.spec, item.number, item.edge_facts, item.miss_mm)
    edge = [as_medium(one, item.spec.edge, item.edge_facts, stock) for one in edge]
    edge += cup_findings(item, Circumstances(stock.stock_class, purpose, target))
    if not stock.printable:
        counters = counter_findings(item.outline, item.edge, item.number)
        drawn = [_as_drawn(one) for one in edge]
        return art + drawn + counters + colour_findings(item.facts, stock, item.number)
    if by_program is not None:
        on, why = by_program.bleed is Switch.ON, by_program.why[0]
        return art + edge + program_bleed_findings(item.bleed, item.number, on, why)
    return art + edge + bleed_findings(item.bleed, item.number, stock, item.miss_mm)


def _as_drawn(finding: Finding) -> Finding:
    """On stock of which the drawing itself is cut out, its holes are part of it and nothing to be filled."""
    if finding.code != "art.holes" or finding.severity is not Severity.LOOK:
        return finding
    return replace(finding, severity=Severity.NOTE, fixes=())


def _for_the_maker(item: DesignedItem, findings: list[Finding]) -> list[Finding]:
    """Findings of a design whose size differs from what was asked (bent for a cup, enlarged before it shrinks): the
    sizes that they offer are given as asked.
    """
    asked, made = item.as_asked.size, item.spec.size
    if asked == made:
        return findings
    ratio = asked.wanted_mm / made.wanted_mm

    def in_asked(fix: Fix) -> Fix:
        side = next((side for side in SIDES if side in fix.changes), None)
        if side is None:
            return fix
        return size_fix(item.as_asked, int(float(str(fix.changes[side])) * ratio * 10) / 10, fix.effect)

    return [replace(one, fixes=tuple(in_asked(fix) for fix in one.fixes)) for one in findings]


def _sheet(plan: Plan) -> Iterator[Finding]:
    job = plan.job
    pieces = {item.number: item.piece(job.stock.printable) for item in plan.items}
    for unplaced in plan.layout.unplaced:
        item = plan.item(unplaced.item)
        if unplaced.reason is WhyNot.TOO_BIG:
            turn, neck = item.spec.turn or job.packing.turn, job.stock.least_neck_mm
            yield from _for_the_maker(item, [too_big(item.spec, item.outline, item.edge, plan.setup.live, turn, neck)])
        else:
            yield unplaced_finding(unplaced, item.spec, job.packing, len(plan.sheets))
    if job.for_own_program:
        unknown = accepted_finding(job.paper, job.cutter, plan.setup.live)
        if unknown is not None:
            yield unknown
    yield from breach_findings(plan.sheets, pieces, job.packing.gap_mm)
    sparse = sparse_finding(plan.sheets, pieces, job.packing.gap_mm, job.items)
    if sparse is not None:
        yield sparse
    for item in plan.items:
        if item.spec.back_of is not None:
            yield from pair_findings(item.spec, item.edge, plan.item(item.spec.back_of).spec, plan.sheets)


def _cut(plan: Plan) -> Iterator[Finding]:
    job = plan.job
    if not job.cutter.is_machine:
        for item in plan.items:
            yield from hand_findings(item.edge.smallest_radius_mm, item.number)
        return
    used = [plan.settings[cut] for cut in sorted({item.spec.cut for item in plan.items})]
    for setting in used:
        yield from other_finding(setting, job.stock)
        failing = cut_findings(setting, job.stock, job.cutter)
        yield from failing or unsure_finding(setting, job.stock)
    yield from blade_findings(job.blade, job.stock, used)
    if job.cutter.feed is Feed.MAT:
        yield from mat_findings(job.mat)
    for item in plan.items:
        yield from tab_findings(item.edge, item.spec)
        if job.cutter.has_own_program and job.cutter.program_facts.finds_holes is False:
            holes = sum(len(part.interiors) for part in item.edge.shape.geoms)
            yield from unfound_holes_finding(holes, item.number)
        yield from detail_findings(item.edge, item.spec, plan.settings[item.spec.cut], job.stock, item.number)
    yield from kiss_without_backing(job.stock, [item.number for item in plan.asked.items if item.cut is Cut.KISS])
