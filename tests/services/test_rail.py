"""What each station of the rail says of a plan, in every way that a plan can be."""

from dataclasses import replace
from datetime import datetime
from types import SimpleNamespace

import pytest

from tests.conftest import disc_png
from vamper.core.cutting.machine_settings import NamedProposal
from vamper.core.plan import Plan
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Route
from vamper.core.values.findings import Finding, Severity, Station
from vamper.core.values.lengths import in_unit
from vamper.core.values.named_settings import SettingChoice
from vamper.core.values.printer import PrintScale
from vamper.core.values.tried import Pressure
from vamper.services.brief.rail import StationFigure, StationState, dry_run_figure, finish_figure, stations
from vamper.services.finish.finishing import Finishing
from vamper.services.twin.dry_run_service import DryRunRequest, DryRunStatus
from vamper.services.workshop import Workshop


@pytest.fixture
def plan(workshop: Workshop) -> Plan:
    """Three discs of 40 mm with a border of 3 mm, and two of 30 mm."""
    job = workshop.jobs.create("Discs")
    art = workshop.arts.take_in("disc.png", disc_png())
    for name, longest, count in (("one", 40, 3), ("other", 30, 2)):
        workshop.jobs.add_item(job, art.digest, name, longest, {"kind": "follow", "distance_mm": 3.0, "smooth_mm": 0.5})
        workshop.jobs.change_items(job, "number", (len(workshop.jobs.get(job).document.items),), {"quantity": count})
    return workshop.plans.of(workshop.jobs.get(job)).plan


def figure(plan: Plan, station: Station) -> tuple[str, str]:
    one: StationFigure = next(one for one in stations(plan, ()) if one.station is station)
    return in_unit(one.figure), in_unit(one.detail)


def with_job(plan: Plan, **fields: object) -> Plan:
    return replace(plan, job=replace(plan.job, **fields), asked=replace(plan.asked, **fields))  # type: ignore[arg-type]


def with_edges(plan: Plan, *changes: dict[str, object]) -> Plan:
    """The plan with other fields in what was asked of its designs' edges, one after the other."""
    items = []
    for item, change in zip(plan.items, changes, strict=True):
        asked = replace(item.as_asked, edge=replace(item.as_asked.edge, **change))
        items.append(replace(item, asked=asked))
    return replace(plan, items=tuple(items))


@pytest.mark.parametrize(("copies", "says"), [(1, "on 1 sheet, "), (3, ", 3 times")])
def test_a_sheet_says_how_much_of_it_is_taken_and_how_often(plan: Plan, copies: int, says: str) -> None:
    counted, where = figure(with_job(plan, copies=copies), Station.SHEET)
    assert counted == "5 of 5"
    assert says in where
    assert ("times" in where) is (copies > 1)
    twice = replace(plan, sheets=plan.sheets * 2)
    assert figure(twice, Station.SHEET) == ("5 of 5", "on 2 sheets")


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        (({}, {}), "plain, smoothed 0.5"),
        (({"colour": "#ff0000"}, {"colour": "#ff0000"}), "coloured, smoothed 0.5"),
        (({}, {"distance_mm": 4.0}), "2 kinds"),
        (({"kind": "circle"}, {"kind": "circle"}), "plain"),
    ],
)
def test_an_edge_says_what_it_is(plan: Plan, changes: tuple[dict[str, object], ...], says: str) -> None:
    border, detail = figure(with_edges(plan, *changes), Station.EDGE)
    assert (border, detail) == ("3.0 mm", says)


@pytest.mark.parametrize(
    ("inside", "says"),
    [((0.0, 0.0), "cut on its outline"), ((-0.3, -0.3), "cut 0.3 mm inside"), ((0.0, -0.3), "cut 2 kinds")],
)
def test_what_has_no_border_says_where_it_is_cut(plan: Plan, inside: tuple[float, float], says: str) -> None:
    bare = with_edges(plan, *({"kind": "bare", "distance_mm": distance} for distance in inside))
    assert figure(bare, Station.EDGE) == ("no border", says)


@pytest.mark.parametrize(
    ("scale", "copies", "says"),
    [
        (PrintScale(), 1, "1 page, 100 %"),
        (PrintScale(), 2, "1 page, 2 times, 100 %"),
        (PrintScale(0.98, 0.98), 1, "1 page, drawn at 102.0 %"),
        (PrintScale(0.98, 1.01), 1, "1 page, drawn at 102.0 × 99.0 %"),
    ],
)
def test_print_says_its_pages_and_how_it_is_drawn(plan: Plan, scale: PrintScale, copies: int, says: str) -> None:
    printed = with_job(plan, printer=replace(plan.job.printer, scale=scale), copies=copies)
    assert figure(printed, Station.PRINT) == ("not mirrored", says)
    mirrored = with_job(printed, stock=replace(plan.job.stock, mirrored=True))
    assert figure(mirrored, Station.PRINT) == ("mirrored", says)
    plain = with_job(printed, stock=replace(plan.job.stock, printable=False))
    assert figure(plain, Station.PRINT) == ("not printed", "cut only")


def spoken(plan: Plan, **fields: object) -> Plan:
    """A plan of a machine with settings of its own, and what is proposed of them."""
    told = NamedProposal(speaks=True, usable=0.83, **fields)  # type: ignore[arg-type]
    settings = {cut: replace(setting, spoken=told) for cut, setting in plan.settings.items()}
    return replace(with_job(plan, cutter=replace(plan.job.cutter, route=Route.PROGRAM)), settings=settings)


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({}, ("–", "no setting typed yet")),
        ({"placed": (None,)}, ("–", "no setting left")),
        ({"choice": SettingChoice("vinyl", Pressure.USUAL, 1)}, ("“vinyl”", "83 % good")),
        ({"choice": SettingChoice("vinyl", None, 2)}, ("“vinyl”", "× 2, 83 % good")),
        ({"choice": SettingChoice("vinyl", Pressure.MORE, 2)}, ("“vinyl”", "more, × 2, 83 % good")),
    ],
)
def test_cut_says_the_setting_in_the_machines_own_words(
    plan: Plan, fields: dict[str, object], says: tuple[str, str]
) -> None:
    assert figure(spoken(plan, **fields), Station.CUT) == says


def test_cut_says_force_and_passes_or_that_hands_do_it(plan: Plan) -> None:
    force, detail = figure(plan, Station.CUT)
    setting = plan.settings[Cut.KISS]
    assert force == f"{setting.force_gf:g} gf × {setting.passes}"
    assert detail.startswith(f"{setting.blade}° blade, kiss, ")
    by_hand = with_job(plan, cutter=replace(plan.job.cutter, feed=None, route=Route.HAND))
    assert figure(by_hand, Station.CUT) == ("by hand", "along the guide lines")


def test_an_empty_job_waits_everywhere_but_at_its_marks(plan: Plan) -> None:
    empty = replace(plan, items=(), sheets=())
    states = {one.station: one.state for one in stations(empty, ())}
    assert {station for station, state in states.items() if state is not StationState.NOT_YET} == {Station.MARKS}
    assert figure(empty, Station.ART) == ("no art", "add some")
    assert figure(empty, Station.EDGE) == ("–", "none yet")
    assert figure(empty, Station.SHEET) == ("–", "empty")


@pytest.mark.parametrize(
    ("good", "state"),
    [(1.0, StationState.SETTLED), (0.8, StationState.SETTLED), (0.79, StationState.LOOK), (0.4, StationState.LOOK),
     (0.39, StationState.STOP), (0.0, StationState.STOP)],
)  # fmt: skip
def test_a_dry_run_stands_by_its_good_sheets(plan: Plan, good: float, state: StationState) -> None:
    files = SimpleNamespace(outcome=SimpleNamespace(sheet_good=good), plan=plan)
    told = DryRunStatus(DryRunRequest(1), plan, running=False, found=files)  # type: ignore[arg-type]
    found = dry_run_figure(told, plan)
    assert found.state is state
    assert found.detail == "of these sheets good"
    assert dry_run_figure(told, replace(plan)).state is state
    other = with_job(plan, copies=7)
    assert (dry_run_figure(told, other).state, dry_run_figure(told, other).detail) == (
        StationState.NOT_YET,
        "changed since",
    )
    elsewhere = replace(plan, layout=replace(plan.layout, sheets=()))
    assert dry_run_figure(told, elsewhere).detail == "changed since"


def test_a_dry_run_that_is_under_way_says_how_far_it_is(plan: Plan) -> None:
    told = DryRunStatus(DryRunRequest(100), plan, done=3, of=12)
    assert dry_run_figure(told, plan) == StationFigure(Station.DRY_RUN, "25 %", "running", StationState.NOT_YET)
    assert dry_run_figure(None, plan).figure == "not yet"
    assert DryRunStatus(DryRunRequest(1), plan, done=30, of=12).share == 1.0


@pytest.mark.parametrize(
    ("severity", "meant", "missing", "state"),
    [
        (None, False, (), StationState.SETTLED),
        (None, False, ("dwell",), StationState.LOOK),
        (Severity.NOTE, False, ("dwell",), StationState.LOOK),
        (Severity.LOOK, False, (), StationState.LOOK),
        (Severity.STOP, False, ("dwell",), StationState.STOP),
        (Severity.STOP, True, (), StationState.SETTLED),
    ],
)
def test_finish_says_when_it_would_be_done_and_stands_by_its_findings(
    severity: Severity | None, meant: bool, missing: tuple[str, ...], state: StationState
) -> None:
    finishing: Finishing = SimpleNamespace(minutes=95, missing=missing)  # type: ignore[assignment]
    findings = [Finding("art.x", Severity.STOP, Station.ART, "elsewhere")]
    if severity is not None:
        findings.append(Finding("finish.x", severity, Station.FINISH, "here", meant=meant))
    now = datetime(2026, 11, 30, 20, 0)
    assert finish_figure(finishing, now, findings) == StationFigure(Station.FINISH, "1 h 35", "done 21:35", state)
    late = finish_figure(finishing, datetime(2026, 11, 30, 23, 0), findings)
    assert late.detail == "done Tue 00:35"
    assert finish_figure(None, now).state is StationState.NOT_YET
