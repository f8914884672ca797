"""Whether a way of doing something has become worse: a sequential test that seldom cries wolf.

One run after the other adds to a sum of evidence (a CUSUM): the log of how much better "it goes well only half as often
as it used to" explains the run than "as often as it used to". The sum never falls below 0, where it begins anew; how
often it used to go well is known from the runs before that, taken low where there were few of them (the mean of a beta
distribution less one and a half of its deviations). Above `ALARM` it has become worse. By simulation
(tests/core/test_drift.py) a way that stays as it is, whether it goes well in half of its runs or in nearly all, is told
so in at most 5 of 100 rows of 100 runs, whenever one looks.
"""

import math
from collections.abc import Iterable

ALARM = 5.3
# What it is held against: well half as often.
_WORSE = 0.5
_DEVIATIONS = 1.5
# Runs before the row that is looked at.
_LEAST_BEFORE = 8


def evidence_of_drift(good: Iterable[bool]) -> float:
    """The sum after all runs, the oldest first."""
    total, well, many = 0.0, 0, 0
    in_row_well, in_row = 0, 0
    for one in good:
        in_row_well, in_row = in_row_well + one, in_row + 1
        if many >= _LEAST_BEFORE:
            usual = _usual(well, many)
            worse = usual * _WORSE
            total += math.log(worse / usual) if one else math.log((1 - worse) / (1 - usual))
        if total <= 0:
            # As it used to be: these runs say how often it goes well from now on.
            total, well, many = 0.0, well + in_row_well, many + in_row
            in_row_well = in_row = 0
    return total


def has_drifted(good: Iterable[bool]) -> bool:
    """Whether it has become worse lately."""
    return evidence_of_drift(good) > ALARM


def _usual(well: int, many: int) -> float:
    """How often it goes well, taken low: the mean less a deviation of Beta(well + 1, failed + 1)."""
    a, b = well + 1, many - well + 1
    mean = a / (a + b)
    return mean - _DEVIATIONS * math.sqrt(mean * (1 - mean) / (a + b + 1))
