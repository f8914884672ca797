"""A border that is already drawn is told from a contour, a badge and a pale drawing; see `tests.based`."""

import pytest
from shapely.geometry import Point

from tests.based import WHITE, Drawn, canvas, every
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.own_border import WhiteBase, base_finding
from vamper.core.art.surface import survey
from vamper.core.values.art import SizeSpec
from vamper.core.values.edge import EdgeSpec
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import STOCK_BY_KEY

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


def test_only_a_sure_border_is_called_one_because_it_is_cut_bare() -> None:
    outline = outline_at(trace(canvas([(Point(50, 50).buffer(30), WHITE)])), SizeSpec(longest_mm=60.0))
    bare = ItemSpec(number=1, art="a.png", width_mm=60.0, edge=EdgeSpec("bare", 0.0))
    printed, plain = STOCK_BY_KEY["satin-vinyl"], STOCK_BY_KEY["plain-vinyl"]
    sure, perhaps = (WhiteBase(2.0, WHITE, told) for told in (True, False))
    assert base_finding(outline, bare, 1, sure, printed) is not None
    assert base_finding(outline, bare, 1, perhaps, printed) is None
    assert base_finding(outline, bare, 1, sure, plain) is None
