"""The rail: each station's one figure that matters, in the order of the work, and how it stands.

A station's state is that of its most serious finding.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum

from vamper.core.edge.kind import kind_of
from vamper.core.marks.mark import FAMILIES
from vamper.core.plan import Plan
from vamper.core.values.chances import in_100_short
from vamper.core.values.cut import Cut
from vamper.core.values.findings import Finding, Severity, Station
from vamper.core.values.lengths import bare_mm, mm
from vamper.core.values.marks import NO_MARKS
from vamper.core.values.printer import TRUE_SCALE
from vamper.core.values.tried import Pressure
from vamper.services.brief.words import plural, span
from vamper.services.finish.finishing import Finishing
from vamper.services.twin.dry_run_service import DryRunStatus


class StationState(StrEnum):
    """How a station stands; drawn as a filled bead, a half one, a notched one and a ring."""

    SETTLED = "settled"
    LOOK = "look"
    STOP = "stop"
    NOT_YET = "not-yet"


# How a dry run stands by the share of its sheets that came out good.
_GOOD_FROM = ((0.8, StationState.SETTLED), (0.4, StationState.LOOK), (0.0, StationState.STOP))
_STATE_OF = {Severity.STOP: StationState.STOP, Severity.LOOK: StationState.LOOK, Severity.NOTE: StationState.SETTLED}


@dataclass(frozen=True, slots=True)
class StationFigure:
    station: Station
    figure: str
    detail: str
    state: StationState


def stations(plan: Plan, findings: Sequence[Finding]) -> list[StationFigure]:
    """Each station's figure and state."""
    worst: dict[Station, Severity] = {}
    for finding in findings:
        if finding.meant:
            continue
        known = worst.get(finding.station)
        if known is None or finding.severity.rank < known.rank:
            worst[finding.station] = finding.severity
    figures = {
        Station.ART: _art(plan),
        Station.EDGE: _edge(plan),
        Station.SHEET: _sheet(plan),
        Station.MARKS: _marks(plan),
        Station.PRINT: _print(plan),
        Station.CUT: _cut(plan),
    }
    empty = not plan.items
    return [
        StationFigure(
            station,
            figure,
            detail,
            StationState.NOT_YET
            if empty and station is not Station.MARKS
            else _STATE_OF[worst.get(station, Severity.NOTE)],
        )
        for station, (figure, detail) in figures.items()
    ]


def dry_run_figure(told: DryRunStatus | None, plan: Plan) -> StationFigure:
    """How the last dry run of a job came out; told apart where the job has changed since."""
    if told is not None and told.running:
        return StationFigure(Station.DRY_RUN, f"{told.share * 100:.0f} %", "running", StationState.NOT_YET)
    if told is None or told.found is None:
        return StationFigure(Station.DRY_RUN, "not yet", "uses nothing up", StationState.NOT_YET)
    figure = f"{in_100_short(told.found.outcome.sheet_good)} in 100"
    if not told.is_of(plan):
        return StationFigure(Station.DRY_RUN, figure, "changed since", StationState.NOT_YET)
    good = told.found.outcome.sheet_good
    state = next(state for least, state in _GOOD_FROM if good >= least)
    return StationFigure(Station.DRY_RUN, figure, "of these sheets good", state)


def finish_figure(finishing: Finishing | None, now: datetime, findings: Sequence[Finding] = ()) -> StationFigure:
    """How long a job takes after it is printed, and when it would be done if it began now."""
    if finishing is None:
        return StationFigure(Station.FINISH, "–", "empty", StationState.NOT_YET)
    done = now + timedelta(minutes=finishing.minutes)
    later = "" if done.date() == now.date() else f" {done:%a}"
    worst = min(
        (one.severity for one in findings if one.station is Station.FINISH and not one.meant),
        key=lambda one: one.rank,
        default=Severity.NOTE,
    )
    state = _STATE_OF[worst]
    if state is StationState.SETTLED and finishing.missing:
        state = StationState.LOOK
    return StationFigure(Station.FINISH, span(finishing.minutes), f"done{later} {done:%H:%M}", state)


def empty_stations() -> list[StationFigure]:
    """The rail of a job that cannot be planned as it stands."""
    return [StationFigure(station, "–", "waiting", StationState.NOT_YET) for station in Station]


def _art(plan: Plan) -> tuple[str, str]:
    if not plan.items:
        return "no art", "add some"
    rasters = [ppi for item in plan.items if (ppi := item.facts.ppi(item.outline)) is not None]
    detail = f"{min(rasters):.0f} ppi at least" if rasters else "sharp at any size"
    return plural(len(plan.items), "design"), detail


def _edge(plan: Plan) -> tuple[str, str]:
    if not plan.items:
        return "–", "none yet"
    # As the finished piece has it.
    shrinks = 1.0 if plan.job.stock.shrink is None else plan.job.stock.shrink.mean
    least = min(item.edge.least_border_mm for item in plan.items) * shrinks
    specs = {replace(item.as_asked.edge, keep_holes=()) for item in plan.items}
    detail = f"{len(specs)} kinds"
    if len(specs) == 1:
        (spec,) = specs
        detail = "plain" if spec.colour is None else "coloured"
        kind = kind_of(spec)
        if kind.follows and kind.has_border:
            detail += f", smoothed {bare_mm(spec.smooth_mm)}"
    if not any(spec.has_border for spec in specs):
        inside = {-spec.distance_mm for spec in specs}
        words = "on its outline" if inside == {0.0} else f"{mm(max(inside))} inside" if len(inside) == 1 else detail
        return "no border", f"cut {words}"
    return mm(least, 1), detail


def _sheet(plan: Plan) -> tuple[str, str]:
    wanted = sum(item.spec.quantity for item in plan.items)
    if not wanted:
        return "–", "empty"
    used = max((sheet.used_share for sheet in plan.sheets), default=0.0)
    count = len(plan.sheets)
    where = f"on 1 sheet, {used * 100:.0f} %" if count == 1 else f"on {count} sheets"
    if plan.job.copies > 1:
        where += f", {plan.job.copies} times"
    return f"{plan.layout.pieces} of {wanted}", where


def _marks(plan: Plan) -> tuple[str, str]:
    spec = plan.job.marks
    if plan.reading is not None and plan.job.cutter.has_own_program:
        known = plan.job.cutter.program_facts.marks
        measured = known is not None and known.rim_mm is not None
        return f"read {in_100_short(plan.reading.chance)} %", "its own" if measured else "its own, not measured"
    if spec.family == NO_MARKS:
        why = "cutter adds its own" if plan.asked.marks.family == NO_MARKS else "nothing looks for them"
        return "none", why
    detail = f"{FAMILIES[spec.family].counted.format(count=spec.count)}, {mm(spec.inset_mm)} inside"
    return (f"read {in_100_short(plan.reading.chance)} %" if plan.reading is not None else "–"), detail


def _print(plan: Plan) -> tuple[str, str]:
    if not plan.job.stock.printable:
        return "not printed", "cut only"
    times = f", {plan.job.copies} times" if plan.job.copies > 1 else ""
    scale = plan.job.printer.scale
    percents = dict.fromkeys(f"{100 / side:.1f}" for side in (scale.x, scale.y))
    drawn = "100 %" if scale == TRUE_SCALE else f"drawn at {' × '.join(percents)} %"
    return ("mirrored" if plan.mirror else "not mirrored"), f"{plural(len(plan.sheets), 'page')}{times}, {drawn}"


def _cut(plan: Plan) -> tuple[str, str]:
    if not plan.job.cutter.is_machine:
        return "by hand", "along the guide lines"
    used = {item.spec.cut for item in plan.items} or set(plan.settings)
    cut = min(used, key=list(Cut).index)
    setting = plan.settings[cut]
    good, choice = in_100_short(setting.usable), setting.spoken.choice
    if not setting.spoken.speaks:
        return f"{setting.force_gf:g} gf × {setting.passes}", f"{setting.blade}° blade, {cut}, {good} % good"
    if choice is None:
        return "–", "no setting typed yet" if not setting.spoken.placed else "no setting left"
    pressed = "" if choice.pressure in (None, Pressure.USUAL) else f"{choice.pressure}, "
    times = f"× {choice.passes}, " if choice.passes > 1 else ""
    return f"“{choice.name}”", f"{pressed}{times}{good} % good"
