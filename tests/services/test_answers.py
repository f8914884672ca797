"""“I mean it”: what a maker answers stays answered until what it was about changes, and stops nothing."""

from dataclasses import fields

import pytest
from fastapi.testclient import TestClient
from shapely.geometry import Point

from tests.based import WHITE, canvas, every
from tests.services.test_jobs import job_with_disc
from vamper.api.app import create_app
from vamper.core.values.answers import OF_DESIGN, OF_JOB
from vamper.core.values.findings import BadInput, Severity, Station
from vamper.core.values.item import ItemSpec
from vamper.core.values.job import Job
from vamper.formats.job_file import read_item
from vamper.formats.out.picture_files import write_png
from vamper.services.brief.rail import StationState, stations
from vamper.services.jobs.answers import still_answered
from vamper.services.jobs.document import JobDocument
from vamper.services.workshop import Workshop

BORDERED = {"kind": "follow", "distance_mm": 3.0}


def found(workshop: Workshop, job: int, code: str) -> list[tuple[int | None, Severity, bool]]:
    findings = workshop.plans.latest(job).findings
    return [(one.item, one.severity, one.meant) for one in findings if one.code == code]


@pytest.fixture
def job(workshop: Workshop) -> int:
    """A design whose border is thinner than the blade is off by."""
    number = job_with_disc(workshop)
    workshop.jobs.change_items(number, "thin", (1,), {"edge.distance_mm": 0.5})
    return number


def test_what_is_answered_is_quiet_until_what_it_is_about_changes(workshop: Workshop, job: int) -> None:
    assert found(workshop, job, "edge.border-thin") == [(1, Severity.LOOK, False)]
    before = workshop.jobs.get(job)
    after = workshop.fixes.answer(job, "edge.border-thin", [1], True, False)
    # No layout is looked for again, and undo takes it back.
    assert after.revision == before.revision
    assert found(workshop, job, "edge.border-thin") == [(1, Severity.LOOK, True)]
    workshop.jobs.change_items(job, "count", (1,), {"quantity": 3})
    workshop.jobs.change(job, "title", {"title": "Buoys"})
    assert found(workshop, job, "edge.border-thin") == [(1, Severity.LOOK, True)]
    workshop.jobs.change_items(job, "thinner", (1,), {"edge.distance_mm": 0.4})
    assert found(workshop, job, "edge.border-thin") == [(1, Severity.LOOK, False)]
    workshop.jobs.undo(job)
    assert found(workshop, job, "edge.border-thin") == [(1, Severity.LOOK, True)]
    workshop.fixes.answer(job, "edge.border-thin", [1], False, False)
    assert found(workshop, job, "edge.border-thin") == [(1, Severity.LOOK, False)]


def test_a_stop_that_is_meant_stops_no_more(workshop: Workshop) -> None:
    number = workshop.jobs.create("White on clear")
    white = canvas([(Point(50, 50).buffer(30), WHITE)])
    taken = workshop.arts.take_in("white.png", write_png(white.rgba, 300))
    workshop.jobs.add_item(number, taken.digest, "white", 40, {})
    workshop.jobs.change(number, "stock", {"stock": "water-slide-clear"})
    (finding,) = [one for one in workshop.plans.latest(number).findings if one.code == "art.white-on-clear"]
    assert finding.stops()
    workshop.fixes.answer(number, "art.white-on-clear", [1], True, False)
    assert not any(one.stops() for one in workshop.plans.latest(number).findings)
    planned = workshop.plans.latest(number)
    rail = {one.station: one.state for one in stations(planned.plan, planned.findings)}
    assert rail[Station.ART] is not StationState.STOP
    workshop.jobs.change(number, "stock", {"stock": "shimmer-vinyl"})
    assert found(workshop, number, "art.white-on-clear") == [(1, Severity.LOOK, False)]


def test_what_cannot_be_made_cannot_be_meant(workshop: Workshop, job: int) -> None:
    for code in ("art.too-big", "sheet.unplaced", "finish.label", "art.nothing"):
        with pytest.raises(BadInput, match="cannot be answered"):
            workshop.fixes.answer(job, code, [1], True, False)
        with pytest.raises(BadInput, match="cannot be answered"):
            read_item({"number": 1, "art": "a.png", "width_mm": 20, "meant": [code]})
    with pytest.raises(BadInput, match="no longer in the job"):
        workshop.fixes.answer(job, "art.opaque", [9], True, False)
    # A candle burns whatever a maker means.
    assert not OF_JOB["finish.target"].stops


def test_every_answer_is_about_fields_that_there_are() -> None:
    """A name that is misspelt would never be asked again."""
    design = {one.name for one in fields(ItemSpec)} | {"size"}
    of_job = {one.name for one in fields(JobDocument)} & (
        {one.name for one in fields(Job)} | {"printer_id", "cutter_id"}
    )
    for table in (OF_DESIGN, OF_JOB):
        for code, one in table.items():
            assert {name.split(".")[0] for name in one.about} <= design, code
            assert {name.split(".")[0] for name in one.job} <= of_job, code
            assert one.about or one.job, code
    assert not any(one.about for one in OF_JOB.values())


def test_an_answer_for_all_is_kept_for_what_comes_in_later(workshop: Workshop, job: int) -> None:
    art = workshop.jobs.get(job).document.items[0].art
    workshop.fixes.answer(job, "edge.border-thin", [1], True, True)
    state = workshop.jobs.add_item(job, art, "one more", 30, {"distance_mm": 0.5})
    assert state.document.item(2).meant == ("edge.border-thin",)
    assert [one[2] for one in found(workshop, job, "edge.border-thin")] == [True, True]
    workshop.fixes.answer(job, "edge.border-thin", [2], False, False)
    state = workshop.jobs.add_item(job, art, "and another", 30, {"distance_mm": 0.5})
    assert state.document.item(3).meant == ()


def test_art_with_a_border_of_its_own_gets_no_second_one_unasked(workshop: Workshop) -> None:
    number = workshop.jobs.create("Bundle")
    based = [one for one in every() if one.based and "white" in one.name][:3]

    def add(place: int) -> ItemSpec:
        taken = workshop.arts.take_in(f"{place}.png", write_png(based[place].picture.rgba, 300))
        edge = taken.start_edge
        state = workshop.jobs.add_item(number, taken.digest, taken.name, None, edge, taken.based)
        return state.document.items[-1]

    first, second = add(0), add(1)
    assert (first.edge.kind, first.edge.distance_mm) == ("bare", -0.3)
    assert [one[1] for one in found(workshop, number, "art.base")] == [Severity.NOTE] * 2
    # A border that is wanted all the same is wanted of those that come in later, too.
    each = [(one.number, {"edge.kind": "follow", "edge.distance_mm": 3.0}) for one in (first, second)]
    (note,) = [one for one in workshop.plans.latest(number).findings if one.code == "art.base" and one.item == 1]
    assert note.fixes[0].meant
    state = workshop.fixes.take_each(number, "art.base", "Add a border", each, True, note.fixes[0].meant)
    assert {one.edge.kind for one in state.document.items} == {"follow"}
    # Whoever asked for it is not told that there is one already.
    assert all(one[2] for one in found(workshop, number, "art.base"))
    assert add(2).edge.kind == "follow"
    assert workshop.jobs.undo(number).document.items[0].edge.kind == "follow"


def test_answers_go_over_http_as_one_step(workshop: Workshop, job: int) -> None:
    with TestClient(create_app(workshop), base_url="http://127.0.0.1:8484") as client:
        told = client.get(f"/api/jobs/{job}").json()
        (thin,) = [one for one in told["findings"] if one["code"] == "edge.border-thin"]
        assert (thin["answer"], thin["meant"]) == ("I mean it", False)
        body = {"code": "edge.border-thin", "item_numbers": [1]}
        after = client.post(f"/api/jobs/{job}/answers", json=body).json()
        assert [one["meant"] for one in after["findings"] if one["code"] == "edge.border-thin"] == [True]
        each = [{"item_number": 1, "changes": {"edge.distance_mm": 3.0}}]
        body = {"code": "edge.border-thin", "label": "3 mm", "each": each}
        after = client.post(f"/api/jobs/{job}/fixes/each", json=body).json()
        assert not [one for one in after["findings"] if one["code"] == "edge.border-thin"]
        refused = client.post(f"/api/jobs/{job}/answers", json={"code": "art.too-big", "item_numbers": [1]})
        assert refused.status_code == 422


def test_what_is_answered_in_one_step_with_what_it_is_about_stays() -> None:
    before = JobDocument(printer_id=1, cutter_id=1, items=(read_item({"number": 1, "art": "a", "width_mm": 20}),))
    after = before.items_changed((1,), {"width_mm": 10.0, "meant": ["art.resolution"]})
    assert still_answered(before, after).items[0].meant == ("art.resolution",)
    again = after.items_changed((1,), {"width_mm": 12.0})
    assert still_answered(after, again).items[0].meant == ()


@pytest.mark.parametrize("meant", [False, True])
def test_a_fix_that_is_taken_for_each_answers_only_where_it_is_meant(workshop: Workshop, job: int, meant: bool) -> None:
    each = [(1, {"edge.distance_mm": 0.6})]
    workshop.fixes.take_each(job, "edge.border-thin", "Wider", each, False, **({"meant": True} if meant else {}))
    assert workshop.jobs.get(job).document.item(1).meant == (("edge.border-thin",) if meant else ())
