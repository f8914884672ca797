"""A border that is already drawn is told from a contour, a badge and a pale drawing; see `tests.based`."""

import pytest

from tests.based import Drawn, every
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.surface import survey
from vamper.core.values.art import SizeSpec

CASES = every()


def is_based(drawn: Drawn, longest_mm: float) -> bool:
    outline = outline_at(trace(drawn.picture), SizeSpec(longest_mm=longest_mm))
    base = survey(drawn.picture, outline, 0.5).base
    return base is not None and base.sure


@pytest.mark.parametrize("longest_mm", [45.0, 60.0, 90.0])
def test_nineteen_of_twenty_are_told_right_and_no_contour_is_taken_for_a_border(longest_mm: float) -> None:
    assert len(CASES) >= 60
    wrong = [one.name for one in CASES if is_based(one, longest_mm) is not one.based]
    assert len(wrong) <= 0.05 * len(CASES), wrong
    assert not [name for name in wrong if "contour" in name or "hair" in name]
