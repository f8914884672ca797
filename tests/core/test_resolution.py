"""The need for pixels against the formula, and what is said about too few."""

import math

import numpy as np
import pytest

from tests.conftest import picture_of
from vamper.core.art.inspect import art_findings, look_over
from vamper.core.art.outline import outline_at, trace
from vamper.core.art.resolution import largest_sharp_mm, needed_ppi
from vamper.core.values.art import Purpose
from vamper.core.values.findings import Finding
from vamper.core.values.item import ItemSpec
from vamper.core.values.stock import STOCK_BY_KEY


@pytest.mark.parametrize(("distance", "ppi"), [(300, 291), (500, 175), (1000, 100), (2000, 100)])
def test_need_by_distance(distance: float, ppi: float) -> None:
    assert needed_ppi(distance) == pytest.approx(ppi, abs=0.7)


def test_one_arc_minute() -> None:
    assert 25.4 / needed_ppi(400) == pytest.approx(400 * math.tan(math.radians(1 / 60)))
    assert largest_sharp_mm(291, needed_ppi(300)) == pytest.approx(25.4, rel=0.001)


def found(pixels: int, purpose: Purpose) -> list[Finding]:
    alpha = np.ones((pixels + 2, pixels + 2))
    alpha[0], alpha[-1], alpha[:, 0], alpha[:, -1] = 0, 0, 0, 0
    picture, item = picture_of(alpha), ItemSpec(number=1, art="a", width_mm=25.4)
    outline = outline_at(trace(picture), item.size)
    stock = STOCK_BY_KEY["satin-vinyl"]
    return art_findings(outline, item, 0, purpose, look_over(picture, outline, 0.5), stock)


@pytest.mark.parametrize(("pixels", "title"), [(300, None), (200, "Soft at this size"), (100, "Blurred at this size")])
def test_planner_page_at_one_inch(pixels: int, title: str | None) -> None:
    titles = [finding.title for finding in found(pixels, Purpose.PLANNER) if finding.code == "art.resolution"]
    assert titles == ([title] if title else [])


def test_the_fix_is_a_size_that_is_sharp() -> None:
    (finding,) = (f for f in found(200, Purpose.PLANNER) if f.code == "art.resolution")
    width = finding.fixes[0].changes["width_mm"]
    assert isinstance(width, float)
    assert 200 / width * 25.4 >= finding.figures["needed"]
