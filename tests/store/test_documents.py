"""A workshop's file from before jobs were documents: everything in it is there, plans the same, and can be undone."""

import gzip
import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.values.lengths import written
from vamper.formats.plan_file import plan_document
from vamper.services.design.designer import Designer
from vamper.services.jobs.upgrades import VERSION, upgraded
from vamper.services.packing.nesting_process import ProcessNester
from vamper.services.workshop import Workshop
from vamper.store.differences import applied, difference
from vamper.store.tables import JobRow, StepRow

FILES = Path(__file__).parent / "files"
TOLD = json.loads((FILES / "workshop-0004.json").read_text())
# Said only where it matters by now.
SAID_LESS = {"art.margin", "print.mirror"}
# Said since.
SAID_MORE = {"finish.label", "finish.shrink", "cut.unsure", "cut.small-detail"}


@pytest.fixture
def older(tmp_path: Path, nester: ProcessNester, designer: Designer) -> Any:
    """A workshop whose file was written in the shape of revision 0004."""
    path = tmp_path / "older.db"
    path.write_bytes(gzip.decompress((FILES / "workshop-0004.db.gz").read_bytes()))
    opened = Workshop(path, nester, 3, designer)
    yield opened
    opened.close()


@pytest.mark.parametrize("told", TOLD, ids=[told["title"] for told in TOLD])
def test_a_job_from_before_opens_plans_the_same_and_undoes(older: Workshop, told: dict[str, Any]) -> None:
    state = older.jobs.get(told["id"])
    planned = older.plan(state)
    document = json.loads(written(json.dumps(plan_document(planned.plan, planned.findings), ensure_ascii=False)))
    for sheet in document["sheets"]:
        for one in sheet["placements"]:
            assert one.pop("miss_mm") > 0
    assert [sheet["placements"] for sheet in document["sheets"]] == told["sheets"]
    for cut, setting in told["settings"].items():
        # Since then each loop has a speed of its own, reasons are said in other words, and card wants less tack.
        later = {name: value for name, value in setting.items() if name not in ("speed_mm_s", "why", "mat")}
        assert {name: document["settings"][cut][name] for name in later} == later
    codes = sorted(finding["code"] for finding in document["findings"])
    assert [code for code in codes if code not in SAID_LESS | SAID_MORE] == [
        code for code in told["codes"] if code not in SAID_LESS
    ]
    assert planned.packing.state == told["state"]
    before = []
    while (undone := older.jobs.undo(state.id)).document != (before[-1] if before else state.document):
        before.append(undone.document)
    assert [
        {
            "title": one.title,
            "gap_mm": one.packing.gap_mm,
            "items": [[item.number, item.quantity, item.edge.distance_mm] for item in one.items],
            "held": sum(len(sheet) for sheet in one.held),
        }
        for one in before
    ] == told["before"]
    for one in [*reversed(before[:-1]), state.document] if before else []:
        assert older.jobs.redo(state.id).document == one


def test_named_layouts_from_before_come_back(older: Workshop) -> None:
    job = next(told["id"] for told in TOLD if told["title"] == "All by hand")
    state = older.jobs.get(job)
    names = [one.name for one in older.layouts.all(job, older.design(state), older.plan(state).plan)]
    assert "first try" in names
    assert sum(len(sheet) for sheet in older.layouts.keep(job, "first try").document.held) == 5


def test_a_job_is_brought_up_whole_when_it_is_first_changed(older: Workshop) -> None:
    job = next(told["id"] for told in TOLD if told["title"] == "Part by hand")
    with older.sessions() as session:
        assert session.get_one(JobRow, job).version < VERSION
    older.jobs.change(job, "title", {"title": "Part by hand, again"})
    with older.sessions() as session:
        assert session.get_one(JobRow, job).version == VERSION
    assert older.jobs.undo(job).document.title == "Part by hand"


def test_undo_steps_hold_differences(workshop: Workshop) -> None:
    """A piece moved among 300 takes a few hundred bytes, not the whole document."""
    from tests.conftest import disc_png
    from vamper.core.values.placement import Pin, Placement

    art = workshop.arts.take_in("disc.png", disc_png()).digest
    job = workshop.jobs.create("Many")
    workshop.jobs.add_items(job, "add", [{"name": "disc", "art": art, "longest_mm": 10, "quantity": 300}])
    held = tuple(Placement(1, 15.0 + n % 20, 15.0 + n // 20, 0.0, Pin.HAND) for n in range(300))
    workshop.jobs.edit(job, "hold", lambda one: _holding(one, held))
    moved = (*held[:-1], Placement(1, 99.0, 99.0, 0.0, Pin.HAND))
    workshop.jobs.edit(job, "move", lambda one: _holding(one, moved))
    with workshop.sessions() as session:
        row = session.get_one(JobRow, job)
        last = session.get_one(StepRow, (job, row.step))
        assert len(json.dumps(last.back)) + len(json.dumps(last.forth)) < 400
    assert workshop.jobs.undo(job).document.held == (held,)
    assert workshop.jobs.redo(job).document.held == (moved,)


def _holding(document: Any, pieces: Any) -> Any:
    from dataclasses import replace

    return replace(document, held=(pieces,))


values = st.recursive(
    st.none() | st.booleans() | st.integers(-5, 5) | st.floats(-2, 2) | st.text(max_size=3),
    lambda inner: st.lists(inner, max_size=5) | st.dictionaries(st.text(max_size=2), inner, max_size=4),
    max_leaves=20,
)


@given(values, values)
def test_a_difference_makes_the_one_of_the_other(before: Any, after: Any) -> None:
    change = json.loads(json.dumps(difference(before, after)))
    made = applied(before, change)
    assert made == after
    assert json.dumps(made, sort_keys=True) == json.dumps(after, sort_keys=True)


def test_upgrading_the_newest_changes_nothing() -> None:
    assert upgraded({"held": []}, VERSION) == {"held": []}
