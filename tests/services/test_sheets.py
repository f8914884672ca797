"""Named layouts, machines, scale to fill, fillers, backs, one sheet a colour, counting."""

import time

import pytest

from tests.services.test_by_hand import table
from tests.services.test_jobs import job_with_disc
from vamper.core.findings import BadInput
from vamper.core.job import PackingMode
from vamper.core.plan import Plan
from vamper.formats.jobfile import CutterModel, PrinterModel
from vamper.services.counting import PlainShape, how_many, how_many_plain
from vamper.services.hand_off import plan_files
from vamper.services.jobs import NotFound
from vamper.services.layouts import Origin
from vamper.services.machines import CutterProfile, PrinterProfile
from vamper.services.packing_desk import PackingState
from vamper.services.scaling import ScaleState
from vamper.services.workshop import Workshop

THREE_COLOURS = b"""<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40">
<rect x="2" y="2" width="26" height="22" fill="#B03030"/><rect x="12" y="8" width="36" height="20" fill="#2050A0"/>
<circle cx="40" cy="18" r="6" fill="#E0B040"/></svg>"""


@pytest.fixture
def job(workshop: Workshop) -> int:
    number = job_with_disc(workshop)
    workshop.jobs.change_items(number, "number", (1,), {"quantity": 6})
    return number


def planned(workshop: Workshop, job: int) -> Plan:
    table(workshop, job)
    return workshop.plan(workshop.jobs.get(job))[0]


def test_a_named_layout_comes_back_after_everything_changed(workshop: Workshop, job: int) -> None:
    workshop.by_hand.nudge(job, table(workshop, job), 0, [5], 0.0, 30.0)
    before = table(workshop, job).layout.sheets
    workshop.layouts.save(job, "by hand", planned(workshop, job), workshop.jobs.get(job).document)
    workshop.pack_again(workshop.jobs.get(job), everything=True)
    assert table(workshop, job).layout.sheets != before
    state = workshop.jobs.get(job)
    found = workshop.layouts.all(job, workshop.design(state), planned(workshop, job), state.document)
    assert [(one.name, one.origin) for one in found] == [
        ("on the table", Origin.TABLE),
        ("by hand", Origin.NAMED),
        ("straight rows", Origin.ROWS),
    ]
    assert all(one.pieces == 6 and one.broken == 0 and one.cut_length_mm > 0 for one in found)
    workshop.layouts.keep(job, "by hand")
    assert table(workshop, job).layout.sheets == before
    # A size later its pieces are too near each other, and the comparison says so.
    workshop.jobs.change_items(job, "size", (1,), {"longest_mm": 50})
    state = workshop.jobs.get(job)
    found = workshop.layouts.all(job, workshop.design(state), workshop.plan(state)[0], state.document)
    assert next(one for one in found if one.name == "by hand").broken > 0
    workshop.layouts.remove(job, "by hand")
    with pytest.raises(NotFound):
        workshop.layouts.keep(job, "by hand")


def test_straight_rows_can_be_kept(workshop: Workshop, job: int) -> None:
    assert workshop.layouts.keep_rows(job).document.packing.mode is PackingMode.TIDY


def test_machines_are_changed_added_and_removed(workshop: Workshop, job: int) -> None:
    machines = workshop.machines
    before = planned(workshop, job).setup.live.area_mm2
    cutter = workshop.jobs.get(job).document.cutter_id
    profile = machines.cutters()[cutter]
    short = profile.cutter.model_copy(update={"reach_mm": profile.cutter.reach_mm.model_copy(update={"width": 120.0})})
    machines.keep_cutter(CutterProfile(name=profile.name, cutter=short), cutter)
    assert planned(workshop, job).setup.live.area_mm2 < before
    added = machines.keep_printer(PrinterProfile(name="a new one", printer=PrinterModel()))
    assert added in machines.printers()
    with pytest.raises(BadInput, match="of that name already"):
        machines.keep_printer(PrinterProfile(name="a new one", printer=PrinterModel()))
    machines.remove_printer(added)
    with pytest.raises(BadInput, match="is planned on this cutter"):
        machines.remove_cutter(cutter)
    with pytest.raises(NotFound):
        machines.keep_cutter(CutterProfile(name="x", cutter=CutterModel()), 999)


def test_every_limit_of_a_cutter_is_a_bound_with_its_reason(workshop: Workshop, job: int) -> None:
    numbers = {profile.name: number for number, profile in workshop.machines.cutters().items()}
    workshop.jobs.change(job, "cutter", {"cutter_id": numbers["the small roller cutter"]})
    bounds = {bound.name: bound for bound in planned(workshop, job).setup.live.bounds}
    assert {"printer", "cutter", "rollers", "marks"} == set(bounds)
    assert "10 mm at the head and 25 mm at the tail" in bounds["rollers"].reason
    workshop.jobs.change(job, "by hand", {"cutter_id": numbers["scissors and a guillotine"]})
    plan = planned(workshop, job)
    assert {bound.name for bound in plan.setup.live.bounds} == {"printer"}
    assert not plan.setup.marks


def test_scale_to_fill_finds_a_size_at_which_all_fit(workshop: Workshop, job: int) -> None:
    told = workshop.scale_to_fill(workshop.jobs.get(job), 1)
    ends = time.monotonic() + 120
    while told.state is ScaleState.WORKING and time.monotonic() < ends:
        time.sleep(0.1)
    assert told.state is ScaleState.DONE
    assert told.fits is not None
    assert told.fits > 1.3
    plan, _ = workshop.plan(workshop.jobs.get(job))
    assert (plan.layout.pieces, len(plan.layout.sheets), plan.layout.unplaced) == (6, 1, ())
    assert workshop.jobs.get(job).document.items[0].longest_mm == pytest.approx(40 * told.fits, abs=0.1)
    assert workshop.jobs.undo(job).document.items[0].longest_mm == 40


def test_fillers_go_into_what_is_left(workshop: Workshop, job: int) -> None:
    other = job_with_disc(workshop)
    assert {source.is_own for source in workshop.variants.sources(workshop.jobs.get(job))} == {True, False}
    state = workshop.variants.fill_with(workshop.jobs.get(job), other, 1, 12, 24)
    assert [item.longest_mm for item in state.document.items] == [40, 24, 20, 16, 12]
    assert [item.quantity for item in state.document.items[1:]] == [0, 0, 0, 0]
    workshop.begin_packing(workshop.jobs.get(job))
    plan, packing = workshop.plan(workshop.jobs.get(job))
    while packing.state is PackingState.SEARCHING:
        time.sleep(0.05)
        plan, packing = workshop.plan(workshop.jobs.get(job))
    assert plan.layout.pieces > 6
    workshop.jobs.change(other, "stock", {"stock": "gloss-vinyl"})
    with pytest.raises(BadInput, match="another stock"):
        workshop.variants.fill_with(workshop.jobs.get(job), other, 1, 12, 24)


def test_a_back_is_as_many_as_its_front_and_a_mismatch_is_found(workshop: Workshop, job: int) -> None:
    state = workshop.variants.make_back(workshop.jobs.get(job), 1)
    back = state.document.items[1]
    assert (back.back_of, back.quantity) == (1, 6)
    assert not [f for f in planned(workshop, job).findings if f.code == "sheet.front-back"]
    workshop.jobs.change_items(job, "fewer", (back.number,), {"quantity": 4})
    (finding,) = [f for f in planned(workshop, job).findings if f.code == "sheet.front-back"]
    assert finding.fixes[0].changes == {"quantity": 6}
    with pytest.raises(BadInput, match="has a back already"):
        workshop.variants.make_back(workshop.jobs.get(job), 1)
    # A back whose front is gone is a design of its own.
    assert workshop.jobs.remove_items(job, (1,)).document.items[0].back_of is None


def test_one_sheet_a_colour_with_keys_in_register(workshop: Workshop) -> None:
    number = workshop.jobs.create("Layers")
    art = workshop.arts.take_in("boat.svg", THREE_COLOURS)
    workshop.jobs.add_item(number, art.digest, "boat", 60, {})
    workshop.jobs.change(number, "stock", {"stock": "plain-vinyl"})
    plan = planned(workshop, number)
    (finding,) = [f for f in plan.findings if f.code == "art.colours"]
    assert finding.figures["colours"] == 3
    state = workshop.variants.by_colour(workshop.jobs.get(number), 1)
    assert [item.sheet_colour for item in state.document.items] == ["#2050A0", "#B03030", "#E0B040"]
    plan = planned(workshop, number)
    assert len(plan.layout.sheets) == 3
    assert not [f for f in plan.findings if f.code == "art.colours"]
    files = plan_files(plan, workshop.picture_of)
    assert not [name for name in files if name.endswith(".pdf")]
    assert {"sheet-01-cut.svg", "sheet-03-cut.dxf"} <= set(files)
    # The two stars are as far apart on every layer.
    apart = []
    for item in plan.items:
        stars = [part for part in item.edge.shape.geoms if 10 < part.area < 16]
        assert len(stars) == 2
        apart.append(stars[0].centroid.distance(stars[1].centroid))
    assert max(apart) - min(apart) < 0.1


def test_how_many_fit_is_asked_of_a_design_or_a_shape(workshop: Workshop, job: int) -> None:
    state = workshop.jobs.get(job)
    counted = how_many(workshop.design(state), 0)
    assert counted.size_mm == pytest.approx(40, abs=0.1)
    assert counted.pieces in range(20, 36)
    sizes = [row.size_mm for row in counted.rows]
    assert sizes == sorted(sizes, reverse=True)
    plain = how_many_plain(workshop.sheet_design(state), PlainShape.CIRCLE, 40, 3)
    assert abs(plain.pieces - counted.pieces) <= 2
