"""Documents and their history: undo steps hold what differs, and nothing more."""

import json
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from vamper.services.workshop import Workshop
from vamper.store.differences import applied, difference
from vamper.store.tables import JobRow, StepRow


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
