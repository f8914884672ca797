"""What runs say of the reading of marks, against sums over a grid of its own."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.scenes import item, scene
from tests.tried import tried
from vamper.core.effective_job import effective_job
from vamper.core.marks.reading import reading_of
from vamper.core.marks.reading_offsets import NOTHING_TOLD, moved, offsets_of
from vamper.core.values.cutter import Cutter, Route
from vamper.core.values.reading import Remedy
from vamper.core.values.run_seen import MarksSeen, RunSeen
from vamper.core.values.stock import STOCK_BY_KEY

READ, LATER, NOT = MarksSeen(True), MarksSeen(True, 2), MarksSeen(False)
_ONE = st.tuples(st.sampled_from(["mine", "another"]), st.floats(0.1, 0.95), st.sampled_from([READ, LATER, NOT]))
TOLD = st.lists(_ONE, max_size=8)


def _by_hand(told: list[tuple[str, float, MarksSeen]]) -> tuple[float, float]:
    """Means of the offsets over a grid of machine, this stock and the other one."""
    axis = np.linspace(-5, 5, 61)
    machine, mine, another = np.meshgrid(axis, axis, axis, indexing="ij")
    weight = np.exp(-(machine**2 + mine**2 + another**2) / 2)
    for key, chance, seen in told:
        logit = math.log(chance / (1 - chance)) + machine + (mine if key == "mine" else another)
        each = 1 / (1 + np.exp(-logit))
        weight *= each**seen.read * (1 - each) ** seen.failed
    return float((weight * machine).sum() / weight.sum()), float((weight * mine).sum() / weight.sum())


@tried(15)
@given(TOLD)
def test_offsets_against_a_grid_by_hand(told: list[tuple[str, float, MarksSeen]]) -> None:
    found = offsets_of(told, "mine")
    assert (found.machine, found.stock) == pytest.approx(_by_hand(told), abs=0.02)
    assert found.runs == sum(key == "mine" for key, _, _ in told)
    for chance in (0.3, 0.85):
        by_hand = 1 / (1 + math.exp(-(math.log(chance / (1 - chance)) + sum(_by_hand(told)))))
        assert moved(chance, found) == pytest.approx(by_hand, abs=0.02)


def test_five_failures_outweigh_any_starter() -> None:
    for chance in (0.85, 0.98, 0.9999):
        assert moved(chance, offsets_of([("mine", chance, NOT)] * 5, "mine")) < 0.5


def test_a_success_never_lowers_and_a_failure_never_raises() -> None:
    for chance in (0.2, 0.85, 0.995, 1.0):
        assert moved(chance, offsets_of([("mine", chance, READ)], "mine")) >= chance
        assert moved(chance, offsets_of([("mine", chance, NOT)], "mine")) <= chance
    assert moved(0.7, NOTHING_TOLD) == 0.7


@pytest.mark.parametrize("route", [Route.PROGRAM, Route.FILES])
def test_a_job_is_moved_by_its_machines_runs(route: Route) -> None:
    gloss = STOCK_BY_KEY["gloss-label"]

    def chance(*runs: RunSeen, **fields: object) -> float:
        made = scene(item(), stock="gloss-label", cutter=Cutter(route=route), runs=runs, **fields).job
        reading = reading_of(effective_job(made))
        assert reading is not None
        return reading.chance

    plain = chance()
    assert chance(RunSeen(marks=NOT)) < plain < chance(RunSeen(marks=READ))
    # Another stock says something of the machine, and less than this one.
    other = RunSeen(marks=NOT, stock=STOCK_BY_KEY["gloss-vinyl"])
    assert chance(RunSeen(marks=NOT)) < chance(other) < plain
    # What failed without its remedy says less of the sheet that has it.
    taped = RunSeen(marks=NOT, stock=gloss, remedies=(Remedy.MATTE_TAPE,))
    bare = RunSeen(marks=NOT, stock=gloss, remedies=())
    assert chance(taped) < chance(bare)
