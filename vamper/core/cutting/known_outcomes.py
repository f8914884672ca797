"""What was told outright, and the rules that hold of it whatever the figures say.

Of one stock, one cut and one blade, on the scale of force. A machine's named settings have no scale and keep them, and
one more, in `machine_settings`.

- Nothing at least as hard as what went through the backing, or tore.
- Nothing at most as gentle as what did not get through, in as many passes or fewer.
- What came out clean is taken again, until something speaks against it.

Source: craft/program.md, "These hold whatever the figures say".
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from vamper.core.values.blade import sharpness_of
from vamper.core.values.tried import Outcome

# A blade that is by so much sharper or duller cuts as another would: what was clean with it need not be now.
_LIKE_NOW = 0.1
TOO_MUCH = frozenset({Outcome.BACKING_THROUGH, Outcome.TORN})


@dataclass(frozen=True, slots=True)
class KnownOutcome:
    """The outcome of one setting, `level` on a scale that rises with hardness."""

    level: float
    passes: int
    outcome: Outcome


def holds_now(outcome: Outcome, metres_then: float, sharpness: float) -> bool:
    """Whether an outcome still binds with a blade as sharp as the blade that is in now: a sharper blade goes through
    all the more, a duller blade gets through all the less, and clean is clean with a blade as sharp.
    """
    change = math.log(sharpness / sharpness_of(metres_then))
    if outcome in TOO_MUCH:
        return change > -_LIKE_NOW
    return change < _LIKE_NOW if outcome is Outcome.NOT_THROUGH else abs(change) < _LIKE_NOW


def newest_of_each(told: Iterable[KnownOutcome]) -> tuple[KnownOutcome, ...]:
    """The last outcome of every setting, for outcomes in the order in which they were seen."""
    return tuple({(one.level, one.passes): one for one in told}.values())


def is_allowed(level: float, passes: int, told: Sequence[KnownOutcome]) -> bool:
    """Whether neither of the first two rules speaks against a setting."""
    return not any(
        (one.outcome in TOO_MUCH and level >= one.level and passes >= one.passes)
        or (one.outcome is Outcome.NOT_THROUGH and level <= one.level and passes <= one.passes)
        for one in told
    )


def that_worked(told: Sequence[KnownOutcome]) -> tuple[KnownOutcome, ...]:
    """The settings that came out clean and have no outcome against them."""
    return tuple(one for one in told if one.outcome is Outcome.CLEAN and is_allowed(one.level, one.passes, told))
