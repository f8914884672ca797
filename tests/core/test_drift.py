"""The alarm that a way has become worse: how often it is false, and how soon it is true."""

import numpy as np
import pytest

from vamper.core.ledger.drift import ALARM, evidence_of_drift, has_drifted

ROWS, RUNS = 400, 100


def ever_alarmed(row: list[bool]) -> bool:
    """Whether somebody who looks after every run is ever told so."""
    return any(has_drifted(row[: n + 1]) for n in range(len(row)) if not row[n])


@pytest.mark.parametrize("share", [0.5, 0.7, 0.9, 0.97])
def test_a_steady_way_is_seldom_said_to_have_become_worse(share: float) -> None:
    rng = np.random.default_rng(7)
    alarms = sum(ever_alarmed((rng.random(RUNS) < share).tolist()) for _ in range(ROWS))
    # 5 of 100 are stated; 400 rows tell them to 1.1 %, and the seed is fixed.
    assert alarms / ROWS <= 0.05


def test_one_that_has_become_worse_is_told_soon() -> None:
    rng, waits = np.random.default_rng(3), []
    for _ in range(200):
        row = (rng.random(20) < 0.9).tolist()
        while not has_drifted(row) and len(row) < 60:
            row.append(bool(rng.random() < 0.3))
        waits.append(len(row) - 20)
    assert np.median(waits) <= 10
    assert np.mean(np.array(waits) < 40) > 0.95


def test_the_evidence_is_none_while_all_goes_well_and_grows_with_each_failure() -> None:
    assert evidence_of_drift([True] * 30) == 0
    found = [evidence_of_drift([True] * 10 + [False] * n) for n in range(6)]
    assert found == sorted(found)
    assert found[-1] > ALARM
    # Before anything is known of how it usually goes, nothing is said.
    assert evidence_of_drift([False] * 8) == 0
