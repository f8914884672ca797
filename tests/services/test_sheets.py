"""Named layouts, machines, scale to fill, fillers, backs, one sheet a colour, counting."""

import time
from dataclasses import replace

import pytest

from tests.services.test_by_hand import table
from tests.services.test_jobs import job_with_disc
from vamper.core.inspect import findings_of
from vamper.core.plan import Plan
from vamper.core.values.cutter import Cutter
from vamper.core.values.findings import BadInput
from vamper.core.values.printer import Printer
from vamper.services.handoff.files import plan_files
from vamper.services.jobs.variants import PriorityMove
from vamper.services.packing.counting import PlainShape, how_many, how_many_plain
from vamper.services.packing.named import MOST_NAMED, Origin
from vamper.services.packing.packing_service import PackingState
from vamper.services.packing.scaling import ScaleState
from vamper.services.work.not_found import NotFound
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
    return workshop.plans.of(workshop.jobs.get(job)).plan


def test_a_named_layout_comes_back_after_everything_changed(workshop: Workshop, job: int) -> None:
    workshop.by_hand.nudge(job, table(workshop, job), 0, [5], 0.0, 30.0)
    before = table(workshop, job).layout.sheets
    workshop.layouts.save(job, "by hand", planned(workshop, job))
    workshop.repacking.again(workshop.jobs.get(job), everything=True)
    assert table(workshop, job).layout.sheets != before
    state = workshop.jobs.get(job)
    found = workshop.layouts.all(job, workshop.plans.design(state), planned(workshop, job))
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
    found = workshop.layouts.all(job, workshop.plans.design(state), workshop.plans.of(state).plan)
    assert next(one for one in found if one.name == "by hand").broken > 0
    workshop.layouts.remove(job, "by hand")
    with pytest.raises(NotFound):
        workshop.layouts.keep(job, "by hand")


def test_straight_rows_can_be_kept(workshop: Workshop, job: int) -> None:
    assert workshop.layouts.keep_rows(job).document.packing.mode == "tidy"


def test_machines_are_changed_added_and_removed(workshop: Workshop, job: int) -> None:
    printers, cutters = workshop.shop.printers, workshop.shop.cutters
    before = planned(workshop, job).setup.live.area_mm2
    cutter = workshop.jobs.get(job).document.cutter_id
    kept = cutters.get(cutter)
    cutters.keep(kept.name, replace(kept.value, reach_mm=replace(kept.value.reach_mm, width=120.0)), cutter)
    assert cutters.get(cutter).revision == kept.revision + 1
    assert planned(workshop, job).setup.live.area_mm2 < before
    added = printers.keep("a new one", Printer())
    assert added in printers.all()
    with pytest.raises(BadInput, match="of that name already"):
        printers.keep("a new one", Printer())
    printers.remove(added)
    with pytest.raises(BadInput, match="is planned on this cutter"):
        cutters.remove(cutter)
    with pytest.raises(NotFound):
        cutters.keep("x", Cutter(), 999)


def test_every_limit_of_a_cutter_is_a_bound_with_its_reason(workshop: Workshop, job: int) -> None:
    numbers = {kept.name: key for key, kept in workshop.shop.cutters.all().items()}
    workshop.jobs.change(job, "cutter", {"cutter_id": numbers["the small roller cutter"]})
    bounds = {bound.name: bound for bound in planned(workshop, job).setup.live.bounds}
    assert {"printer", "cutter", "rollers", "marks"} == set(bounds)
    assert "⟨10 mm=10⟩ at the head and ⟨25 mm=25⟩ at the tail" in bounds["rollers"].reason
    workshop.jobs.change(job, "by hand", {"cutter_id": numbers["scissors and a guillotine"]})
    plan = planned(workshop, job)
    assert {bound.name for bound in plan.setup.live.bounds} == {"printer"}
    assert not plan.setup.marks


def test_scale_to_fill_finds_a_size_at_which_all_fit(workshop: Workshop, job: int) -> None:
    told = workshop.repacking.scale_to_fill(workshop.jobs.get(job), 1)
    ends = time.monotonic() + 120
    while told.state is ScaleState.WORKING and time.monotonic() < ends:
        time.sleep(0.1)
    assert told.state is ScaleState.DONE
    assert told.fits is not None
    assert told.fits > 1.3
    plan = workshop.plans.of(workshop.jobs.get(job)).plan
    assert (plan.layout.pieces, len(plan.layout.sheets), plan.layout.unplaced) == (6, 1, ())
    assert workshop.jobs.get(job).document.items[0].longest_mm == pytest.approx(40 * told.fits, abs=0.1)
    assert workshop.jobs.undo(job).document.items[0].longest_mm == 40


def test_fillers_go_into_what_is_left(workshop: Workshop, job: int) -> None:
    other = job_with_disc(workshop)
    assert {source.is_own for source in workshop.variants.sources(workshop.jobs.get(job))} == {True, False}
    state = workshop.variants.fill_with(workshop.jobs.get(job), other, 1, 12, 24)
    assert [item.longest_mm for item in state.document.items] == [40, 24, 20, 16, 12]
    assert [item.quantity for item in state.document.items[1:]] == [0, 0, 0, 0]
    workshop.repacking.begin(workshop.jobs.get(job))
    planned = workshop.plans.of(workshop.jobs.get(job))
    plan, packing = planned.plan, planned.packing
    while packing.state is PackingState.SEARCHING:
        time.sleep(0.05)
        planned = workshop.plans.of(workshop.jobs.get(job))
        plan, packing = planned.plan, planned.packing
    assert plan.layout.pieces > 6
    workshop.jobs.change(other, "stock", {"stock": "gloss-vinyl"})
    with pytest.raises(BadInput, match="another stock"):
        workshop.variants.fill_with(workshop.jobs.get(job), other, 1, 12, 24)


def test_more_of_several_designs_is_shared_evenly_until_one_is_put_before(workshop: Workshop, job: int) -> None:
    art = workshop.jobs.get(job).document.items[0].art
    workshop.jobs.add_item(job, art, "another", 20, {})
    for number in (1, 2):
        done = workshop.variants.prioritise(workshop.jobs.get(job), number, PriorityMove.ON)
    assert [one.fill_priority for one in done.document.items] == [1, 1]
    assert done.document.packing.fill
    moved = [
        workshop.variants.prioritise(workshop.jobs.get(job), 2, move) for move in (PriorityMove.LATER, PriorityMove.OFF)
    ]
    assert [[one.fill_priority for one in state.document.items] for state in moved] == [[1, 2], [1, None]]


def test_a_back_is_as_many_as_its_front_and_a_mismatch_is_found(workshop: Workshop, job: int) -> None:
    state = workshop.variants.make_back(workshop.jobs.get(job), 1)
    back = state.document.items[1]
    assert (back.back_of, back.quantity) == (1, 6)
    assert not [f for f in findings_of(planned(workshop, job)) if f.code == "sheet.front-back"]
    workshop.jobs.change_items(job, "fewer", (back.number,), {"quantity": 4})
    (finding,) = [f for f in findings_of(planned(workshop, job)) if f.code == "sheet.front-back"]
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
    (finding,) = [f for f in findings_of(plan) if f.code == "art.colours"]
    assert finding.figures["colours"] == 3
    state = workshop.variants.by_colour(workshop.jobs.get(number), 1)
    assert [item.sheet_colour for item in state.document.items] == ["#2050A0", "#B03030", "#E0B040"]
    plan = planned(workshop, number)
    assert len(plan.layout.sheets) == 3
    assert not [f for f in findings_of(plan) if f.code == "art.colours"]
    files = plan_files(plan, findings_of(plan), workshop.pictures.whole)
    assert not [name for name in files if name.endswith("print.pdf")]
    assert {"sheet-01-cut.svg", "sheet-03-cut.dxf"} <= set(files)
    # The two keys are as far apart on every layer that bears them; the last bears none.
    assert [item.spec.keyed for item in plan.items] == [True, True, False]
    keyed = [item for item in plan.items if item.spec.keyed]
    apart = []
    for item in keyed:
        stars = [part for part in item.edge.shape.geoms if 10 < part.area < 16]
        assert len(stars) == 2
        apart.append(stars[0].centroid.distance(stars[1].centroid))
    assert max(apart) - min(apart) < 0.1
    # A set is changed as a whole: the hooks of all layers stay as far apart.
    workshop.jobs.change_items(number, "size", (2,), {"width_mm": 90.0, "quantity": 3})
    plan = planned(workshop, number)
    assert plan.items[0].spec.width_mm == 90.0
    spread = [
        max(one.centroid.distance(other.centroid) for one in hooks for other in hooks)
        for hooks in (
            [part for part in item.edge.shape.geoms if 25 < part.area < 60] for item in plan.items if item.spec.keyed
        )
    ]
    assert min(spread) > max(apart)
    assert max(spread) - min(spread) < 0.15
    assert {item.spec.quantity for item in plan.items} == {3}
    with pytest.raises(BadInput, match="of no use"):
        workshop.variants.prioritise(workshop.jobs.get(number), 2, PriorityMove.ON)
    again = workshop.jobs.copy(number)
    assert [item.layer_of for item in workshop.jobs.get(again).document.items] == [2, 2, 2]


def test_layers_without_keys_are_offered_beside_those_with(workshop: Workshop) -> None:
    for fix_at, keyed in ((0, [True, True, False]), (1, [False, False, False])):
        number = workshop.jobs.create("Layers")
        art = workshop.arts.take_in("boat.svg", THREE_COLOURS)
        workshop.jobs.add_item(number, art.digest, "boat", 60, {})
        workshop.jobs.change(number, "stock", {"stock": "plain-vinyl"})
        (finding,) = [f for f in findings_of(planned(workshop, number)) if f.code == "art.colours"]
        fix = finding.fixes[fix_at]
        state = workshop.fixes.take(number, fix.target, finding.item, fix.label, fix.changes)
        assert [item.keyed for item in state.document.items] == keyed


def test_how_many_fit_is_asked_of_a_design_or_a_shape(workshop: Workshop, job: int) -> None:
    state = workshop.jobs.get(job)
    counted = how_many(workshop.plans.design(state), 1)
    assert counted.size_mm == pytest.approx(40, abs=0.1)
    assert counted.pieces in range(20, 36)
    sizes = [row.size_mm for row in counted.rows]
    assert sizes == sorted(sizes, reverse=True)
    assert all(0.69 * counted.size_mm <= size <= 1.36 * counted.size_mm for size in sizes)
    plain = how_many_plain(workshop.plans.sheet_design(state), PlainShape.CIRCLE, 40, 3)
    assert abs(plain.pieces - counted.pieces) <= 2


def test_a_job_keeps_so_many_layouts_and_no_more(workshop: Workshop, job: int) -> None:
    plan = planned(workshop, job)
    for number in range(MOST_NAMED):
        workshop.layouts.save(job, f"layout {number}", plan)
    assert MOST_NAMED == 20
    with pytest.raises(BadInput, match="remove one first"):
        workshop.layouts.save(job, "one more", plan)
    # A name that is there is kept anew, and another job has room of its own.
    workshop.layouts.save(job, "layout 3", plan)
    other = job_with_disc(workshop)
    workshop.layouts.save(other, "one more", planned(workshop, other))
    workshop.layouts.remove(job, "layout 3")
    workshop.layouts.save(job, "one more", plan)
