"""Blades and mats as they are now, what they want next, and what a worn blade does to the force."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vamper.core.cutting.care import Urgency, blade_advice, held_of, loads_left, mat_advice, metres_left
from vamper.core.cutting.cut_history import CutHistory
from vamper.core.cutting.setting import propose
from vamper.core.values.blade import Blade, BladeIn, sharpness_of
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter
from vamper.core.values.mat import MatIn
from vamper.core.values.stock import STOCK_BY_KEY, Tack

VINYL, LABEL, CARD, FILM = (STOCK_BY_KEY[key] for key in ("satin-vinyl", "matte-label", "card", "shrink-film"))


def said(advice, urgency: Urgency | None = None) -> str:  # type: ignore[no-untyped-def]
    return "; ".join(one.do for one in advice if urgency in (None, one.urgency))


def test_a_blade_is_down_to_a_third_after_six_hundred_metres() -> None:
    assert sharpness_of(0) == 1
    assert sharpness_of(600) == pytest.approx(1 / math.e)
    assert metres_left(BladeIn()) == pytest.approx(600 * math.log(2))
    assert metres_left(BladeIn(metres=500)) == 0


def test_a_worn_blade_takes_more_force_by_itself_and_another_one_does_not() -> None:
    new = propose(VINYL, Cut.KISS, Cutter())
    worn = propose(VINYL, Cut.KISS, Cutter(), known=CutHistory(blade=BladeIn(metres=300)))
    assert worn.force_gf / new.force_gf == pytest.approx(math.exp(0.5), rel=0.03)
    assert worn.reached_um == pytest.approx(new.reached_um, rel=0.03)
    # The steep blade that is in now comes out of a soft backing: its wear says nothing of the other one.
    soft = STOCK_BY_KEY["dark-transfer"]
    other = propose(soft, Cut.KISS, Cutter(), known=CutHistory(blade=BladeIn(Blade.STEEP, 300)))
    assert other.force_gf == propose(soft, Cut.KISS, Cutter()).force_gf


def test_a_blade_says_what_it_wants() -> None:
    assert said(blade_advice(BladeIn(), VINYL, 1)) == "nothing to do"
    assert said(blade_advice(BladeIn(metres=450), VINYL, 1), Urgency.NOW) == "change the blade"
    assert "new blade ready" in said(blade_advice(BladeIn(metres=300), VINYL, 1), Urgency.SOON)
    assert "new blade ready" in said(blade_advice(BladeIn(metres=100), VINYL, 400), Urgency.SOON)
    first, *_ = blade_advice(BladeIn(metres=450, tuft=True), VINYL, 1)
    assert "tuft" in first.do
    assert "look at the tip" in said(blade_advice(BladeIn(), CARD, 1), Urgency.FINE)


@given(st.integers(0, 200), st.integers(0, 12))
def test_a_mat_loses_tack_and_washing_brings_most_of_it_back(loads: int, washings: int) -> None:
    mat = MatIn(loads=loads, washings=washings)
    assert held_of(MatIn(loads=loads + 1, washings=washings)) < held_of(mat) <= 1
    assert held_of(MatIn(loads=0, washings=washings + 1)) >= held_of(mat) or loads < 2
    later = MatIn(loads=loads + loads_left(mat), washings=washings)
    assert loads_left(mat) == 0 or held_of(later) >= 0.6 > held_of(MatIn(loads=later.loads + 1, washings=washings))


def test_a_mat_says_what_it_wants() -> None:
    assert "cloth" in said(mat_advice(MatIn(Tack.LOW), LABEL), Urgency.NOW)
    assert "cloth" in said(mat_advice(MatIn(Tack.MEDIUM, loads=4), LABEL), Urgency.NOW)
    # Once it is worn, a stronger mat does for paper.
    assert "cloth" not in said(mat_advice(MatIn(Tack.MEDIUM, loads=21), LABEL))
    assert "high tack" in said(mat_advice(MatIn(Tack.MEDIUM), FILM), Urgency.NOW)
    tired = mat_advice(MatIn(loads=40), VINYL)
    assert "wash" in said(tired, Urgency.NOW)
    assert "tape the rim" in said(tired, Urgency.NOW)
    assert "tape the rim" not in said(mat_advice(MatIn(loads=40, taped=True), VINYL))
    assert "lint" in said(mat_advice(MatIn(lint=True), VINYL), Urgency.NOW)
    assert "another mat" in said(mat_advice(MatIn(washings=15), VINYL), Urgency.SOON)
    assert said(mat_advice(MatIn(loads=1), VINYL)) == "nothing to do"
    assert "roll" in said(mat_advice(MatIn(loads=2), VINYL))


@pytest.mark.parametrize("washings", [0, 3])
def test_a_mat_goes_so_many_loads_until_it_holds_six_tenths(washings: int) -> None:
    left = loads_left(MatIn(loads=0, washings=washings))
    assert left == math.floor(38 * math.log(0.95**washings / 0.6))
    assert held_of(MatIn(loads=left, washings=washings)) >= 0.6 > held_of(MatIn(loads=left + 1, washings=washings))
